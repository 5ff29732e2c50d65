"""Regions: several in one document, in each format, in merging, comparing, checking and listening, and what a theme
says of them."""

from unittest import TestCase

from stillpage_core.checking import Around, Subject, check_page
from stillpage_core.comparing import changes_between, merge, places_that_differ
from stillpage_core.document.changes import apply
from stillpage_core.document.walking import blocks_of, text_of
from stillpage_core.formats import FORMATS
from stillpage_core.media.shown import Room
from stillpage_core.reading import Arriving, read_html, read_markdown
from stillpage_core.reading.source import read_source
from stillpage_core.writing import plain_text, published_html
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.source import source_html

from .checks.base import KNOWN
from .documents import (
    PLAIN_MARKS,
    STRONG,
    bulleted,
    document,
    heading,
    item,
    link,
    numbered,
    paragraph,
    picture,
    region,
    words,
)

WALKS = document(
    heading(2, "Walks"),
    paragraph("Level all the way."),
    region("side", heading(2, "Dogs"), paragraph("On a lead.")),
    region("foot", paragraph("Ask a warden.")),
)


def texts(page):
    return {each.attrs["name"]: [text_of(block) for block in each.content] for each in page.content}


class Read(TestCase):
    def test_each_format_that_has_a_name_for_them_brings_them_back(self):
        for ending in ("html", "md", "docx", "odt"):
            with self.subTest(ending):
                data = FORMATS[ending].write(WALKS, Carried(title="Guide"))
                self.assertEqual(FORMATS[ending].read(data, Arriving(whole=True), 1).document, WALKS)

    def test_in_plain_text_they_follow_one_another(self):
        self.assertEqual(plain_text(WALKS), "Walks\n\nLevel all the way.\n\nDogs\n\nOn a lead.\n\nAsk a warden.\n")

    def test_the_source_shows_them_and_the_caret_keeps_its_place(self):
        html, place = source_html(WALKS, ((1, 1), 3))
        self.assertIn('<div data-stillpage-region="side">\n  <h2>Dogs</h2>\n  <p>On a lead.</p>\n</div>\n', html)
        self.assertEqual(html[place:].split("<")[0], "a lead.")
        found = read_source(html, place)
        self.assertEqual((found.reading.document, found.notes, found.caret), (WALKS, (), ((1, 1), 3)))

    def test_a_name_that_is_none_loses_no_word(self):
        for name in ("main", "Not a name", "x" * 41, ""):
            html = f'<p>a</p><div data-stillpage-region="{name}"><p>b</p></div><p>c</p>'
            self.assertEqual(read_html(html).document, document(paragraph("a"), paragraph("b"), paragraph("c")))

    def test_two_of_one_name_are_one_and_one_within_another_is_none(self):
        div = '<div data-stillpage-region="side"><p>{}</p></div>'
        both = read_html(f"<p>a</p>{div.format('b')}<p>c</p>{div.format('d')}").document
        self.assertEqual(texts(both), {"main": ["a", "c"], "side": ["b", "d"]})
        within = read_html(f"<p>a</p><blockquote>{div.format('b')}</blockquote>").document
        self.assertEqual([each.attrs["name"] for each in within.content], ["main"])
        self.assertIn("b", text_of(within))

    def test_markdown_that_opens_one_and_never_ends_it_loses_no_word(self):
        for source in (
            'a\n\n<div data-stillpage-region="side">\n\nb\n\n- c\n',
            '- a\n\n  <div data-stillpage-region="side">\n\n  b\n\n  </div>\n\n- c\n',
            '> a\n>\n> <div data-stillpage-region="side"><p>b</p></div>\n\nc\n',
            'a\n\n<div data-stillpage-region="side">\n\n<div>\n\nb\n\n</div>\n\nc\n\n</div>\n',
        ):
            found = text_of(read_markdown(source).document).split()
            self.assertEqual(sorted(found), ["a", "b", "c"], source)

    def test_false_structure_is_mended_in_each_and_levels_are_lowered_together(self):
        html = (
            "<h1>One</h1><p>a</p><h1>Two</h1><p>x</p>"
            '<div data-stillpage-region="side"><p>- b</p><p>- c</p><h1>Three</h1><p>&nbsp;</p><p>d</p></div>'
        )
        main, side = read_html(html, Arriving()).document.content
        self.assertEqual([block.attrs["level"] for block in main.content if block.kind == "heading"], [2, 2])
        self.assertEqual([block.kind for block in side.content], ["bulleted_list", "heading", "paragraph"])
        self.assertEqual(side.content[1].attrs["level"], 2)

    def test_notes_count_on_through_them(self):
        raised = PLAIN_MARKS[2]
        page = document(
            paragraph("a", words("1", link("#note-a"), raised)),
            numbered(item(paragraph("First."), anchor="note-a")),
            region(
                "side",
                paragraph("b", words("2", link("#note-b"), raised)),
                numbered(item(paragraph("Second."), anchor="note-b"), start=2),
            ),
        )
        self.assertIn("b[2]", plain_text(page))
        self.assertEqual(FORMATS["md"].read(FORMATS["md"].write(page, Carried()), Arriving(), 1).document, page)
        for ending in ("docx", "odt"):
            # A word processor keeps them all at the end.
            back = FORMATS[ending].read(FORMATS[ending].write(page, Carried()), Arriving(), 1).document
            self.assertEqual(texts(back), {"main": ["a1", "First.\nSecond."], "side": ["b2"]}, ending)


class Together(TestCase):
    def changed(self, **regions):
        main = regions.pop("main", ["one", "two"])
        return document(*map(paragraph, main), *(region(name, *map(paragraph, held)) for name, held in regions.items()))

    def test_each_is_merged_with_its_like_whatever_stands_between(self):
        base = self.changed(side=["a", "b"])
        mine = self.changed(main=["one", "two mine"], side=["a", "b"])
        theirs = self.changed(side=["a theirs", "b"])
        found = merge(base, mine, theirs)
        self.assertEqual(texts(found.document), {"main": ["one", "two mine"], "side": ["a theirs", "b"]})
        self.assertEqual(found.clashes, ())

    def test_one_that_both_put_in_is_one(self):
        base = self.changed()
        found = merge(base, self.changed(side=["mine"]), self.changed(side=["theirs"], foot=["f"]))
        self.assertEqual(texts(found.document), {"main": ["one", "two"], "side": ["theirs", "mine"], "foot": ["f"]})
        self.assertEqual(found.clashes, ())

    def test_one_that_one_takes_away_goes_unless_the_other_wrote_in_it(self):
        base, without = self.changed(side=["a"]), self.changed()
        self.assertEqual(merge(base, without, base).document, without)
        for mine, theirs in ((without, self.changed(side=["a b"])), (self.changed(side=["a b"]), without)):
            found = merge(base, mine, theirs)
            self.assertEqual(texts(found.document), {"main": ["one", "two"], "side": ["a b"]})
            self.assertEqual(found.clashes, ())

    def test_both_empty_one_and_a_paragraph_is_left(self):
        base = self.changed(side=["a", "b"])
        found = merge(base, self.changed(side=["b"]), self.changed(side=["a"]))
        self.assertEqual(texts(found.document)["side"], [""])

    def test_changes_lead_from_one_to_the_other_and_are_counted(self):
        one, other = self.changed(side=["a", "b"]), self.changed(main=["one", "two", "three"], foot=["f"], side=["b"])
        self.assertEqual(apply(one, changes_between(one, other)), other)
        self.assertEqual(places_that_differ(one, self.changed(main=["one"], side=["a", "c"])), 2)


class Shown(TestCase):
    def test_a_picture_is_as_wide_as_its_region_allows(self):
        rooms = {"main": Room(720, 720), "side": Room(340, 340)}
        page = document(picture(1), region("side", picture(1, place="wide"), picture(1, place="start")))
        widths = [part.split('"')[0] for part in published_html(page, KNOWN, rooms).split(' width="')[1:]]
        self.assertEqual(widths, ["720", "340", "170"])

    def test_findings_are_told_of_each_at_their_place_and_repairs_stay_within(self):
        page = document(
            heading(2, ""),
            region("side", heading(2, ""), heading(3, "")),
            region("foot", paragraph(words("What to bring", STRONG)), paragraph("- a"), paragraph("- b"), picture(9)),
        )
        found = check_page(Subject(page, KNOWN, Around()))
        of = {(each.rule.id, each.path) for each in found}
        for wanted in (
            ("heading-empty", (0, 0)),
            ("heading-empty", (1, 1)),
            ("heading-painted", (2, 0)),
            ("list-typed", (2, 1)),
            ("picture-gone", (2, 3)),
        ):
            self.assertIn(wanted, of)
        for rule in {each.rule.id for each in found}:
            repairs = [each.repairs[0] for each in found if each.rule.id == rule and each.repairs]
            mended = apply(page, [change for repair in repairs for change in repair.changes])
            self.assertEqual([each.attrs["name"] for each in mended.content], ["main", "side", "foot"])
            self.assertTrue(all(each.content for each in mended.content), rule)

    def test_blocks_are_gone_through_in_reading_order(self):
        self.assertEqual([path for path, _ in blocks_of(WALKS)], [(0, 0), (0, 1), (1, 0), (1, 1), (2, 0)])
        self.assertEqual([text_of(block) for _, block in blocks_of(WALKS)][-1], "Ask a warden.")
        self.assertEqual(len(list(blocks_of(document(bulleted(item(paragraph("a"))))))), 1)
