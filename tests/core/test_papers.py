"""Documents shown in a page: which pages, their words, and what stands there in files."""

from dataclasses import replace
from unittest import TestCase

from selectolax.lexbor import LexborHTMLParser

from stillpage_core.document.naming import framings_in, named_in
from stillpage_core.kinds.paper import MOST
from stillpage_core.measuring import measure
from stillpage_core.media.papers import span, wanted
from stillpage_core.reading import read_html
from stillpage_core.reading.source import read_source
from stillpage_core.resolving import ImageFile, PageShown
from stillpage_core.writing import plain_text, published_html, storable_html
from stillpage_core.writing.policy import policy_of
from stillpage_core.writing.source import source_html

from .checks.base import KNOWN, CheckTest
from .documents import document, link, paper, paragraph, words


def a_page(number):
    files = [
        ImageFile(f"/media/{number}-{width}.webp", width, width * 7 // 5, width * 90, "image/webp")
        for width in (720, 1440)
    ]
    return PageShown(number, tuple(files), (f"Words of page {number}", "A <second> line"))


FORM = replace(KNOWN.items[7], pages=4, shown=tuple(map(a_page, (1, 2, 3, 4))))
RESOLVER = replace(KNOWN, items={**KNOWN.items, 7: FORM})


def tree(*blocks):
    return LexborHTMLParser(published_html(document(*blocks), RESOLVER))


class WhichPages(TestCase):
    def test_from_the_first_to_the_last_and_never_too_many(self):
        self.assertEqual(list(span(1, None, 3)), [1, 2, 3])
        self.assertEqual(list(span(2, 3, 9)), [2, 3])
        self.assertEqual(list(span(3, 2, 9)), [])
        self.assertEqual(len(span(1, None, 5000)), MOST)
        self.assertEqual(len(span(1, 9999, 0)), MOST)

    def test_uses_are_told_and_put_together(self):
        made = framings_in(document(paper(7, first=2, last=3), paper(7)))
        self.assertEqual(made, {7: [{"first": 2, "last": 3}, {"first": 1, "last": None}]})
        self.assertEqual(wanted(made[7], 4), [1, 2, 3, 4])
        self.assertEqual(wanted([{"turn": None}], 4), [])
        named = named_in(document(paper(7), paragraph(words("x", link("item:8")))))
        self.assertEqual((named.papers, named.items), ({7}, {7, 8}))


class AsReadersGetThem(TestCase):
    def test_pages_stand_in_order_with_their_words_and_the_file(self):
        made = tree(paper(7, first=2, last=3, caption="To be <signed>"))
        self.assertEqual(made.css_first(".paper-title a").attributes["href"], "/media/form.pdf")
        self.assertEqual([each.text() for each in made.css(".paper-number")], ["Page 2 of 4", "Page 3 of 4"])
        self.assertEqual(
            [each.text() for each in made.css(".paper-words summary")], ["Page 2 as text", "Page 3 as text"]
        )
        self.assertEqual(made.css("details p")[1].text(), "A <second> line")
        self.assertEqual(made.css_first(".paper-caption").text(), "To be <signed>")
        shown = made.css_first("img").attributes
        self.assertEqual((shown["width"], shown["loading"]), ("720", "lazy"))

    def test_only_what_is_turned_needs_a_script(self):
        self.assertIsNone(tree(paper(7)).css_first("script"))
        self.assertIsNotNone(tree(paper(7, turned=True)).css_first("script"))
        self.assertIsNone(tree(paper(7, turned=True, last=1)).css_first("script"))
        self.assertNotIn("script", policy_of(document(paper(7)), RESOLVER))
        self.assertIn("script-src", policy_of(document(paper(7, turned=True)), RESOLVER))

    def test_without_pictures_there_is_the_link(self):
        made = tree(paper(9))
        self.assertIsNone(made.css_first("ol"))
        self.assertIn("Plan", made.css_first(".paper-title").text())

    def test_its_pages_are_weighed(self):
        self.assertGreater(measure(document(paper(7)), RESOLVER).weight, 4 * 1440 * 90)

    def test_it_comes_back_from_every_form(self):
        whole = document(paper(7, first=2, last=3, turned=True, caption="x"), paragraph("y"))
        self.assertEqual(read_html(storable_html(whole)).document, whole)
        self.assertEqual(read_source(source_html(whole)[0]).reading.document, whole)

    def test_as_plain_text_it_is_its_words(self):
        said = plain_text(document(paper(7, last=1)), documents={7: FORM})
        self.assertIn("Words of page 1\nA <second> line", said)


class Gone(CheckTest):
    check = "paper-gone"

    def test_it_blocks(self):
        self.assertEqual(self.assertFound(paper(99, caption="x")).severity, "blocks")
        self.assertRight(paper(7))


class Undrawn(CheckTest):
    check = "paper-undrawn"
    resolver = RESOLVER

    def test_one_without_pictures_is_looked_at(self):
        self.assertFound(paper(9))
        self.assertFound(paper(7, first=5))
        self.assertRight(paper(7))


class Unread(CheckTest):
    check = "document-unread"

    def test_pdf7_a_scan_that_is_shown_is_told_too(self):
        self.assertFound(paper(10))
