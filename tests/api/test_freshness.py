"""That what readers get follows what it is made from, whatever comes in whatever order."""

from __future__ import annotations

import logging
import os
from unittest.mock import patch

from django.conf import settings
from django.db import transaction
from django.test import override_settings
from hypothesis import HealthCheck
from hypothesis import settings as how_to_try
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule, run_state_machine_as_test

from stillpage.library import acts
from stillpage.pages.models import Page
from stillpage.pages.tree import add_page
from stillpage.people.models import Role
from stillpage.publishing import freshness, page_memory
from stillpage.publishing import publish as publishing
from stillpage.publishing.models import Change, LiveCopy, NotFoundPage, OutOfDate
from stillpage.written import saving
from stillpage.written.models import Use
from stillpage_core.document import document_from_json

from .base import ApiTest, a_person, a_picture, a_site, blocks_in, of_blocks
from .whole import is_kept, should_be

LONG = bool(os.environ.get("STILLPAGE_LONG_TESTS"))


def naming(pages=(), pictures=(), words="Level all the way."):
    """A document that links to pages and shows pictures."""
    paragraph = {"type": "paragraph", "attrs": {"style": None, "align": None}}
    links = [
        {"type": "text", "text": f"see {number} ", "marks": [{"type": "link", "attrs": {"href": f"page:{number}"}}]}
        for number in pages
    ]
    shown = [{"type": "picture", "attrs": {"item": number}} for number in pictures]
    return of_blocks([{**paragraph, "content": [{"type": "text", "text": words}, *links]}, *shown])


class Marks(ApiTest):
    def live(self, *pages):
        for page in pages:
            self.publish(page)
        self.render_all()

    def test_what_has_changed_is_marked_and_only_that(self):
        far = add_page(self.site, self.author, "Contact", parent=self.home)
        self.live(self.home, self.visit, self.walks, far)
        self.save(self.walks, naming([far.pk]), None)
        self.publish(self.walks)
        self.assertEqual(freshness.waiting(self.site), 0, "no other page shows anything of its text")
        self.call("DELETE", f"/pages/{far.pk}/publish", status=204)
        marked = set(OutOfDate.objects.values_list("page", "text"))
        self.assertIn((self.walks.pk, True), marked)
        self.assertNotIn(self.visit.pk, {page for page, _ in marked})
        self.render_all()
        self.assertEqual(is_kept(), should_be())

    def test_what_stands_around_every_page_costs_a_number(self):
        self.live(self.home, self.visit, self.walks)
        rows = LiveCopy.objects.values_list("frame", "rendered_at")
        before = list(rows)
        self.save(self.visit, naming(), None, title="Come and see")
        with patch.object(freshness, "bring_up") as rendered:
            self.publish(self.visit)
        self.assertEqual(rendered.call_args.args[0], [self.visit.pk])
        self.assertEqual(list(rows), before)
        self.assertEqual(freshness.waiting(self.site), 3)
        self.assertEqual(OutOfDate.objects.count(), 1)

    def test_with_very_many_below_a_page_none_of_them_is_marked(self):
        self.site.pages.filter(pk=self.visit.pk).update(in_navigation=False)
        self.live(self.visit, self.walks)
        with patch.object(freshness, "MOST_BELOW", 0):
            self.save(self.visit, naming(), None, title="Come and see")
            self.publish(self.visit)
        self.assertEqual(OutOfDate.objects.count(), 0)
        self.assertEqual(freshness.waiting(self.site), 1)
        self.render_all()
        self.assertEqual(is_kept(), should_be())

    def test_words_of_the_library_reach_live_pages(self):
        item = a_picture(self.author, alt="Closed gates")
        self.save(self.walks, naming(pictures=[item.pk]), None)
        self.live(self.walks)
        self.assertIn('alt="Closed gates"', is_kept()["canal.localhost/visit/towpath-walks"])
        self.call("PATCH", f"/items/{item.pk}", {"alt": "Open gates"})
        self.assertContains(self.visit_page("/visit/towpath-walks"), 'alt="Open gates"')
        with self.committed():
            acts.undo(acts.Act.objects.latest("pk"), self.author)
        self.assertContains(self.visit_page("/visit/towpath-walks"), 'alt="Closed gates"')

    def test_very_many_changes_are_spread_and_very_many_pages_marked(self):
        items = [a_picture(self.author, alt="A gate", colour=f"#{n}{n}{n}") for n in range(5)]
        for page in (self.visit, self.walks):
            self.save(page, naming(pictures=[item.pk for item in items]), None, title=page.working_copy.title)
        self.live(self.visit, self.walks)
        before = self.visit_page("/visit/towpath-walks").content
        with patch.object(freshness, "AT_ONCE", 2), patch.object(freshness, "MOST_BELOW", 1), self.committed():
            acts.change(self.author, items, "described", lambda _: {"alt": "A gate, shut"})
        self.assertFalse(Change.objects.exists())
        self.assertEqual(freshness.waiting(self.site), 2)
        after = self.visit_page("/visit/towpath-walks").content
        self.assertEqual(after, before.replace(b'alt="A gate"', b'alt="A gate, shut"'))

    def test_only_what_stands_around_is_rendered_where_the_text_is_right(self):
        self.live(self.home, self.visit, self.walks)
        self.save(self.visit, naming(), None, title="Come and see")
        self.publish(self.visit)
        with patch.object(freshness, "published_html") as rendered:
            self.render_all()
        rendered.assert_not_called()
        self.assertEqual(is_kept(), should_be())

    def test_marks_of_pages_that_nobody_has_any_more_go(self):
        self.live(self.walks)
        OutOfDate.objects.create(page=self.walks, text=True)
        OutOfDate.objects.create(page=self.visit, text=True)
        self.render_all()
        self.assertFalse(OutOfDate.objects.exists())


class Reading(ApiTest):
    def setUp(self):
        super().setUp()
        for page in (self.home, self.visit, self.walks):
            self.publish(page)
        self.render_all()
        self.path = "/visit/towpath-walks"

    def make_old(self):
        self.save(self.visit, naming(), None, title="Come and see")
        self.publish(self.visit)

    def test_the_first_who_asks_has_it_rendered_and_the_next_ones_have_it(self):
        self.visit_page(self.path)
        self.make_old()
        self.assertContains(self.visit_page(self.path), "Come and see")
        with self.assertNumQueries(0):
            self.visit_page(self.path)
        self.assertEqual(freshness.waiting(self.site), 1)
        self.assertContains(self.visit_page("/none"), "Come and see", status_code=404)

    def test_other_pages_stay_in_memory(self):
        self.visit_page(self.path)
        self.save(self.home, naming(words="New."), None, title=self.home.working_copy.title)
        self.publish(self.home)
        with self.assertNumQueries(0):
            self.visit_page(self.path)

    def test_while_it_cannot_be_rendered_the_one_before_is_sent_and_nothing_is_kept_of_it(self):
        before = self.visit_page(self.path).content
        self.make_old()
        with (
            patch.object(freshness, "_render", side_effect=RuntimeError),
            self.assertLogs("stillpage.publishing.serving"),
        ):
            self.assertEqual(self.visit_page(self.path).content, before)
        with patch.object(freshness, "bring_up", return_value=set()):  # Somebody else is at it.
            self.assertEqual(self.visit_page(self.path).content, before)
        with patch("stillpage.publishing.serving.room.is_none", return_value=True):
            self.assertEqual(self.visit_page(self.path).content, before)
        self.assertContains(self.visit_page(self.path), "Come and see")

    def test_a_page_that_cannot_be_rendered_keeps_no_other_from_it(self):
        self.make_old()
        rendered = freshness.around

        def broken(frame, page, **said):
            if page == self.walks:
                raise RuntimeError
            return rendered(frame, page, **said)

        with patch.object(freshness, "around", broken), self.assertLogs("stillpage.publishing.freshness"):
            self.assertTrue(freshness.bring_all_up())
        self.assertEqual(freshness.waiting(self.site), 1)
        self.render_all()
        self.assertEqual(is_kept(), should_be())

    def test_where_no_numbers_can_be_shared_readers_get_their_pages_all_the_same(self):
        with override_settings(LIVE_STAMP=settings.ROOT), self.assertLogs("stillpage.publishing.page_memory"):
            self.assertEqual(self.visit_page(self.path).status_code, 200)
            self.assertEqual(self.visit_page(self.path).status_code, 200)

    def test_a_page_is_never_sent_empty(self):
        new = add_page(self.site, self.author, "Boats")
        publishing.publish(new, self.author, 1)
        self.assertEqual(LiveCopy.objects.get(written=new).frame, 0)
        self.assertContains(self.visit_page("/boats"), "<h1")

    def test_a_site_s_answer_where_there_is_nothing_is_there_from_the_first(self):
        NotFoundPage.objects.all().delete()
        page_memory._kept.clear()
        self.assertContains(self.visit_page("/none"), "There is no such page", status_code=404)


class Machine(RuleBasedStateMachine):
    """Two sites, seven pages, two pictures: everything that changes what readers get, in any order, and every point at
    which whoever changed it may have been killed before the rest of it was done."""

    case: ApiTest

    @initialize()
    def begin(self):
        self.transaction = transaction.atomic()
        self.transaction.__enter__()
        page_memory._kept.clear()
        self.pages, self.items = self.case.pages, self.case.items

    @classmethod
    def fill(cls, case):
        """What is there when it begins: everything is live, and every page links to two others."""
        self = cls.__new__(cls)
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        below = add_page(case.site, case.author, "Long walks", parent=case.walks)
        aside = add_page(case.site, case.author, "Contact", parent=case.home)
        there = [add_page(museum, case.author, title) for title in ("Way here", "Opening hours")]
        case.pages = self.pages = [case.home, case.visit, case.walks, below, aside, *there]
        case.items = self.items = [a_picture(case.author, colour=colour) for colour in ("#123", "#321")]
        for number in range(7):
            links = {(number + 2) % 7, (number + 5) % 7}
            self.write(page=number, title=None, links=links, pictures={number % 2}, live=True, killed=False)

    def teardown(self):
        if hasattr(self, "transaction"):
            try:
                self.work()
            finally:
                transaction.set_rollback(True)
                self.transaction.__exit__(None, None, None)

    @rule(
        page=st.integers(0, 6),
        title=st.sampled_from(["Walks", "Boats & locks", "Come and see", None]),
        links=st.sets(st.integers(0, 6), max_size=3),
        pictures=st.sets(st.integers(0, 1)),
        live=st.booleans(),
        killed=st.booleans(),
    )
    def write(self, *, page, title, links, pictures, live, killed):
        of = Page.objects.get(pk=self.pages[page].pk)
        document = naming([self.pages[each].pk for each in links], [self.items[each].pk for each in pictures])
        draft = saving.Draft(title or of.working_copy.title, "", document_from_json(document))
        saved = saving.save(of, self.case.author, draft, of.working_copy.revision).copy
        if live:
            with self.killed(killed):
                publishing.publish(of, self.case.author, saved.revision)

    @rule(page=st.integers(0, 6), killed=st.booleans())
    def withdraw(self, page, killed):
        with self.killed(killed):
            publishing.withdraw(self.pages[page])

    @rule(item=st.integers(0, 1), alt=st.sampled_from(["Closed gates", "Open gates", "A boat"]), killed=st.booleans())
    def describe(self, item, alt, killed):
        self.items[item].refresh_from_db()
        with self.killed(killed):
            acts.change(self.case.author, [self.items[item]], "described", lambda _: {"alt": alt})

    @rule(page=st.integers(0, 6))
    def leave_the_navigation_or_enter_it(self, page):
        of = self.pages[page]
        of.refresh_from_db()
        with self.killed(False):
            Page.objects.filter(pk=of.pk).update(in_navigation=not of.in_navigation)
            freshness.tell(Change.Sort.AROUND, [of.pk])
            freshness.tell(Change.Sort.SITE, [of.site_id])

    @rule(page=st.integers(0, 6))
    def read(self, page):
        of = self.pages[page]
        answer = self.case.visit_page(of.path, of.site.host)
        live = LiveCopy.objects.filter(written=of).exists()
        assert answer.status_code == (200 if live else 404)
        if not Change.objects.exists():
            key = of.site.host + (of.path if live else "")
            assert answer.content.decode() == should_be(key)[key]

    @rule()
    def work(self):
        freshness.bring_all_up()
        assert is_kept() == should_be()
        assert not OutOfDate.objects.exists() and not Change.objects.exists()
        assert all(freshness.waiting(site) == 0 for site in {page.site for page in self.pages})

    @invariant()
    def every_link_of_a_live_copy_is_noted(self):
        if hasattr(self, "pages"):
            for live in LiveCopy.objects.all():
                noted = set(
                    Use.objects.filter(written=live.written, live=True, target__isnull=False).values_list(
                        "target", flat=True
                    )
                )
                written = {int(each["href"][5:]) for each in _hrefs(live.document) if each["href"].startswith("page:")}
                assert noted == written

    def killed(self, killed):
        """Either all that follows a transaction is done, or none of it."""
        return self.case.captureOnCommitCallbacks(execute=not killed)


def _hrefs(document):
    for block in blocks_in(document):
        for node in block.get("content", ()):
            yield from (mark["attrs"] for mark in node.get("marks", ()) if mark["type"] == "link")


class Whatever(ApiTest):
    def test_what_readers_get_is_right_and_ends_as_a_full_rendering(self):
        self.author = a_person("ottilie", Role.AUTHOR, Role.KEEPER)
        machine = type("OfThisTest", (Machine,), {"case": self})
        how = how_to_try(
            max_examples=600 if LONG else 40,
            stateful_step_count=12,
            deadline=None,
            suppress_health_check=list(HealthCheck),
            derandomize=not LONG,
            database=None,
        )
        machine.fill(self)
        freshness.bring_all_up()
        logging.getLogger("django.request").setLevel(logging.ERROR)
        self.addCleanup(logging.getLogger("django.request").setLevel, logging.NOTSET)
        run_state_machine_as_test(machine, settings=how)
