"""The page check. Examples are taken from the published techniques and failures that each check names."""

from unittest import TestCase

from hypothesis import given

from stillpage_core.checking import CHECKS, check_document
from stillpage_core.document import document_from_json
from stillpage_core.document.changes import apply
from stillpage_core.document.walking import text_of
from stillpage_core.resolving import ItemTarget, Known, PageTarget, PictureTarget

from .documents import (
    DOCUMENTS,
    EMPHASIS,
    call_to_action,
    document,
    equation,
    formula,
    heading,
    item,
    link,
    numbered,
    paragraph,
    picture,
    words,
)

KNOWN = Known(
    pages={1: PageTarget(1, "Boat licence", "/boating/boat-licence"), 2: PageTarget(2, "Here", "/here")},
    pictures={1: PictureTarget(1, "lock-gates", ""), 2: PictureTarget(2, "aqueduct", "Four tall arches")},
)


def found(*blocks):
    return [finding.check for finding in check_document(document(*blocks), KNOWN)]


class HeadingSkipped(TestCase):
    def test_the_order_of_technique_g141_is_right(self):
        # G141 (WCAG 2.2 techniques): headings nested by level; going back up by more than one level is right too.
        self.assertEqual(found(heading(2, "a"), heading(3, "b"), heading(4, "c"), heading(2, "d")), [])

    def test_a_level_left_out_is_found_where_it_stands(self):
        (finding,) = check_document(document(heading(2, "a"), paragraph("x"), heading(4, "b")), KNOWN)
        self.assertEqual((finding.check, finding.path), ("heading-skipped", (2,)))
        self.assertIn("“b” is of level 4, but stands below a heading of level 2", finding.sentence)

    def test_the_title_is_level_1_so_a_text_may_not_begin_with_level_3(self):
        (finding,) = check_document(document(heading(3, "a")), KNOWN)
        self.assertIn("the page's title", finding.sentence)

    def test_each_skip_is_one_finding(self):
        self.assertEqual(found(heading(4, "a"), heading(6, "b")), ["heading-skipped"] * 2)


class PictureWithoutAlt(TestCase):
    def test_failure_f65_no_alt_text_at_all(self):
        (finding,) = check_document(document(picture(1)), KNOWN)
        self.assertEqual((finding.check, finding.severity), ("picture-without-alt", "blocks"))

    def test_technique_h37_alt_text_of_the_item_or_of_the_page(self):
        self.assertEqual(found(picture(2), picture(1, "Closed gates")), [])

    def test_technique_h67_decorative(self):
        self.assertEqual(found(picture(1, decorative=True)), [])

    def test_blank_words_are_no_alt_text(self):
        self.assertEqual(found(picture(1, "  ")), ["picture-without-alt"])

    def test_a_picture_that_is_gone_blocks(self):
        self.assertEqual(found(picture(9)), ["picture-gone"])

    def test_a_picture_in_a_list_is_found(self):
        (finding,) = check_document(document(numbered(item(paragraph("a"), picture(1)))), KNOWN)
        self.assertEqual(finding.path, (0, 0, 1))


class LinkVague(TestCase):
    def test_failures_f63_and_f84_words_that_say_nothing(self):
        # F84: "click here", "more"; common practice: the rest.
        for said in ("click here", "Click here.", "more", "More…", "HERE", "read  more", "link to", "→ here"):
            self.assertEqual(found(paragraph(words(said, link("https://a.example/")))), ["link-vague"], said)

    def test_technique_g91_words_that_name_the_destination(self):
        for said in ("Boat licence", "here is the boat licence", "More walks", "Locks 4 to 6"):
            self.assertEqual(found(paragraph(words(said, link("page:1")))), [], said)

    def test_the_place_is_the_words_of_the_link_also_across_other_marks(self):
        block = paragraph("To apply, ", words("click ", link("page:1")), words("here", link("page:1"), EMPHASIS), ".")
        (finding,) = check_document(document(block), KNOWN)
        self.assertEqual((finding.path, finding.span), ((0,), (10, 20)))

    def test_it_offers_the_title_of_the_destination_unless_that_is_vague_too(self):
        (finding,) = check_document(document(paragraph(words("here", link("page:1")))), KNOWN)
        self.assertEqual(finding.repairs[0].label, "Let it say “Boat licence”")
        (finding,) = check_document(document(paragraph(words("more", link("page:2")))), KNOWN)
        self.assertEqual(finding.repairs, ())

    def test_words_that_are_the_title_of_the_destination_name_it(self):
        self.assertEqual(found(paragraph(words("Here!", link("page:2")))), [])


class Destinations(TestCase):
    """Links that lead nowhere, say an address, or say the same of two places."""

    KNOWN = Known(
        pages={
            1: PageTarget(1, "Visit", "/visit", frozenset({"by-train"})),
            2: PageTarget(2, "Hidden", None),
        },
        items={7: ItemTarget(7, "Boat licence form", "/media/form.pdf", "PDF", 2048)},
    )

    def found(self, *blocks):
        return [(each.check, each.severity, each.sentence) for each in check_document(document(*blocks), self.KNOWN)]

    def test_a_destination_that_is_gone_hidden_or_lost_is_told(self):
        for href, severity, said in (
            ("page:9", "mend", "a page that is gone"),
            ("page:2", "look", "“Hidden”, which is not published"),
            ("page:1#by-bus", "mend", "a heading of “Visit” that is no longer there"),
            ("item:9", "mend", "an item that is gone"),
            ("#nowhere", "mend", "no heading of this page"),
        ):
            [(check, found, sentence)] = self.found(paragraph(words("the lock", link(href))))
            self.assertEqual((check, found), ("link-dead", severity))
            self.assertIn(said, sentence)
        good = ("page:1", "page:1#by-train", "item:7", "#kept", "https://a.example/", "mailto:a@b.example", "tel:100")
        for href in good:
            heading_here = heading(2, "Renamed", anchor="kept")
            self.assertEqual(self.found(heading_here, paragraph(words("the lock", link(href)))), [])

    def test_a_call_to_action_without_words_or_destination_blocks(self):
        self.assertEqual(self.found(call_to_action("Come"))[0][:2], ("link-dead", "blocks"))
        self.assertEqual(self.found(call_to_action("", "page:1"))[0][:2], ("link-dead", "blocks"))
        self.assertEqual(self.found(call_to_action("Come", "page:1")), [])
        self.assertIn("which is not published", self.found(call_to_action("Come", "page:2"))[0][2])

    def test_a_bare_address_is_told_and_the_title_is_offered(self):
        # Technique H30: the text of a link describes what it leads to.
        node = document(paragraph(words("https://a.example/walks", link("page:1"))))
        [finding] = check_document(node, self.KNOWN)
        self.assertEqual((finding.check, finding.repairs[0].label), ("link-bare-address", "Let it say “Visit”"))
        self.assertEqual(text_of(apply(node, finding.repairs[0].changes)), "Visit")
        for text, href in (("a@b.example", "mailto:a@b.example"), ("0100 555", "tel:0100-555"), ("a. b", "page:1")):
            self.assertEqual(self.found(paragraph(words(text, link(href)))), [])

    def test_the_same_words_to_two_places_are_told_at_the_second(self):
        same = [words("The lock", link("page:1")), " ", words("the lock!", link("item:7"))]
        [(check, _, sentence)] = self.found(paragraph(*same))
        self.assertEqual(check, "link-same-words")
        self.assertIn("“Boat licence form” here, and to “Visit” further up", sentence)
        self.assertEqual(self.found(paragraph(words("lock", link("page:1")), " ", words("lock", link("page:1")))), [])

    def test_an_equation_that_cannot_be_read_blocks(self):
        self.assertEqual(self.found(equation(r"\frac{a"))[0][:2], ("equation-unreadable", "blocks"))
        self.assertEqual(self.found(paragraph(formula("x^")))[0][:2], ("equation-unreadable", "blocks"))
        self.assertEqual(self.found(equation("x^2")), [])


class EveryCheck(TestCase):
    BAD = document(
        heading(4, "Deep"),
        picture(1),
        paragraph("x ", words("here", link("page:1")), " and ", words("more", link("page:1"))),
        heading(6, "Deeper"),
    )

    def test_findings_stand_in_reading_order_and_say_whom_they_hurt_and_where_the_rule_is_from(self):
        findings = check_document(self.BAD, KNOWN)
        self.assertEqual([finding.path for finding in findings], [(0,), (1,), (2,), (2,), (3,)])
        for finding in findings:
            self.assertTrue(finding.whom.endswith("."))
            self.assertRegex(finding.source, "WCAG 2.2|common practice")

    def test_each_repair_removes_its_finding_and_brings_no_other(self):
        for finding in check_document(self.BAD, KNOWN):
            for repair in finding.repairs:
                after = apply(self.BAD, repair.changes)
                document_from_json(after.to_json())
                left = check_document(after, KNOWN)
                self.assertLess(len(left), len(check_document(self.BAD, KNOWN)), repair.label)

    @given(DOCUMENTS)
    def test_any_document_can_be_checked_and_every_repair_applied(self, node):
        findings = check_document(node, KNOWN)
        for finding in findings:
            for repair in finding.repairs:
                document_from_json(apply(node, repair.changes).to_json())

    def test_there_are_as_many_checks_as_files_that_hold_one(self):
        from pathlib import Path

        import stillpage_core.checking as package

        files = {path.stem for path in Path(package.__file__).parent.glob("*.py")} - {"__init__", "finding"}
        self.assertEqual({check.__module__.rsplit(".", 1)[1] for check in CHECKS}, files)
