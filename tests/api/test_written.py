"""One machinery for whatever is written: here for something that is no page, and has no address."""

from uuid import uuid4

from stillpage.pages.models import page_of
from stillpage.pages.seeing import ALL
from stillpage.people.models import Role
from stillpage.publishing import checking, freshness
from stillpage.publishing.models import LiveCopy, OutOfDate
from stillpage.publishing.publish import Clashing, NotReady, publish, withdraw
from stillpage.written import clashes, saving, together
from stillpage.written.models import Clash, Use, Version, Written
from stillpage_core.document.walking import text_of

from ..core.documents import document, heading, link, paragraph, picture, words
from .base import ApiTest, a_person, a_picture


def draft(*blocks, title="Opening hours"):
    return saving.Draft(title, "", document(*blocks))


class NoPage(ApiTest):
    def setUp(self):
        super().setUp()
        self.other = a_person("odile", Role.AUTHOR)
        self.gates = a_picture(self.author, alt="Closed gates")
        self.hours = Written.objects.create()
        saving.begin(self.hours, self.author, "Opening  hours ")

    def words(self):
        self.hours.working_copy.refresh_from_db()
        return text_of(self.hours.working_copy.tree)

    def put(self, person, *blocks, began=None):
        copy = self.hours.working_copy
        copy.refresh_from_db()
        base = copy.revision - (began is not None)
        saving.save(self.hours, person, draft(*blocks), base, mark=uuid4(), began=began)
        copy.refresh_from_db()

    def test_it_is_no_page_and_a_page_is_one_sort_of_it(self):
        self.assertIsNone(page_of(self.hours))
        self.assertEqual(self.hours.working_copy.title, "Opening hours")
        self.assertEqual(page_of(Written.objects.get(pk=self.walks.pk)), self.walks)
        with self.assertRaisesRegex(saving.TextError, "needs a title"):
            saving.begin(Written.objects.create(), self.author, " ")

    def test_what_several_people_write_is_merged_and_both_wordings_stand(self):
        self.put(self.author, paragraph("Open daily."), paragraph("Ring first."))
        began = draft(paragraph("Open daily."), paragraph("Ring first."))
        self.put(self.other, paragraph("Open daily, but Monday."), paragraph("Ring first."))
        self.put(self.author, paragraph("Open daily."), paragraph("Ring first, please."), began=began)
        self.assertEqual(self.words(), "Open daily, but Monday.\nRing first, please.")
        began = draft(*self.hours.working_copy.tree.content[0].content)
        self.put(self.other, paragraph("Shut."), paragraph("Ring first, please."))
        self.put(self.author, paragraph("Open all night."), paragraph("Ring first, please."), began=began)
        self.assertEqual(self.words(), "Shut.\nOpen all night.\nRing first, please.")
        ((clash, theirs, mine),) = clashes.standing(self.hours.working_copy)
        self.assertEqual((clash.written, theirs, mine), (self.hours, (0, 0), (0, 1)))
        self.assertEqual([each.reason for each in Version.objects.filter(written=self.hours)], ["set aside"])
        with self.assertRaises(Clashing):
            publish(self.hours, self.author, self.hours.working_copy.revision)

    def test_who_writes_on_it_is_known_to_others(self):
        window = uuid4()
        together.here(self.hours, self.author, window, 2)
        self.assertEqual([each.person for each in together.others(self.hours, uuid4())], [self.author])
        self.assertEqual(together.others(self.walks, uuid4()), [])
        together.gone(self.author, window)
        self.assertEqual(together.others(self.hours, uuid4()), [])

    def test_it_is_checked_and_somebody_holds_a_finding_to_be_right(self):
        text = draft(heading(2, "Hours"), heading(4, "Winter"), paragraph("Shut."))
        (finding,) = checking.check_draft(self.hours, text, sight=ALL).findings
        self.assertEqual(finding.check, "heading-skipped")
        allowed = checking.allow(self.hours, self.author, text, finding.key, "So it is printed on the gate.")
        self.assertEqual(checking.allowances_of(self.hours), {finding.key: allowed})
        self.assertEqual(checking.allowances_of(self.walks), {})

    def test_it_goes_live_is_kept_and_withdrawn_and_what_uses_it_hears_of_it(self):
        named = words("the hours", link(f"page:{self.hours.pk}"))
        self.save(self.walks, document(paragraph("See ", named)).to_json(), 1)
        self.publish(self.walks)
        self.assertEqual(set(self.hours.linked_from.values_list("written", flat=True)), {self.walks.pk})
        self.render_all()
        self.put(self.author, paragraph("Open daily."), picture(self.gates.pk))
        with self.committed():
            publish(self.hours, self.author, self.hours.working_copy.revision)
        live = LiveCopy.objects.get(written=self.hours)
        self.assertEqual((live.address, live.site, live.kept.reason), (None, None, "published"))
        self.assertEqual(text_of(live.tree), "Open daily.\n")
        self.gates.refresh_from_db()
        self.assertEqual(self.gates.used_on, 1)
        self.assertEqual(set(OutOfDate.objects.values_list("page", "text")), {(self.walks.pk, True)})
        self.render_all()
        self.assertFalse(OutOfDate.objects.exists())
        self.assertEqual(freshness.waiting(self.site), 0)
        # Nobody is shown it at an address, and a second one has none either.
        other = Written.objects.create()
        saving.begin(other, self.author, "Prices")
        with self.committed():
            publish(other, self.author, 1)
            withdraw(self.hours)
        self.assertEqual(Use.objects.filter(written=self.hours, live=True).count(), 0)
        self.assertTrue(OutOfDate.objects.filter(page=self.walks).exists())
        self.assertEqual(self.words(), "Open daily.\n")

    def test_what_blocks_keeps_it_from_readers_as_it_does_a_page(self):
        self.put(self.author, picture(987_654))
        with self.assertRaises(NotReady):
            publish(self.hours, self.author, self.hours.working_copy.revision)
        self.assertFalse(Clash.objects.filter(written=self.hours).exists())
