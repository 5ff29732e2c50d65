"""Lists of downloads: as readers get them, in files, and coming in. That a link says the kind and size of its file is
WCAG 2.2, 2.4.4, technique G91, and common practice; that a new window is told, technique G201."""

import zipfile
from dataclasses import replace
from io import BytesIO
from unittest import TestCase

from selectolax.lexbor import LexborHTMLParser

from stillpage_core.document.naming import named_in
from stillpage_core.document.node import make
from stillpage_core.formats import FORMATS
from stillpage_core.reading import Arriving, read_html
from stillpage_core.reading.source import read_source
from stillpage_core.writing import plain_text, published_html, storable_html
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.listening import heard, marked_html, spoken
from stillpage_core.writing.source import source_html

from .checks.base import KNOWN, CheckTest
from .documents import body, document, download, downloads, paragraph

FORM = replace(KNOWN.items[7], pages=3)
WELSH = replace(FORM, number=6, title="Ffurflen", address="/media/cy.pdf", pages=1, language="cy-GB")
RESOLVER = replace(KNOWN, items={**KNOWN.items, 7: FORM, 6: WELSH})
LIST = downloads(
    download(7, words="The <form>", description="To be filled in & sent."),
    download(6),
    title="To take away",
    new_window=True,
)


def tree(*blocks, language="en"):
    return LexborHTMLParser(published_html(document(*blocks), RESOLVER, None, str, language))


class AsReadersGetIt(TestCase):
    def test_each_says_what_it_is_and_the_list_what_it_holds(self):
        made = tree(LIST)
        links = made.css("li a")
        self.assertEqual([link.attributes["href"] for link in links], ["/media/form.pdf", "/media/cy.pdf"])
        said = [" ".join(link.text().split()) for link in links]
        self.assertEqual(said[0], "The <form> (PDF, 212 kB, 3 pages) (opens in a new window)")
        self.assertEqual(said[1], "Ffurflen (PDF, 212 kB, 1 page, Cymraeg) (opens in a new window)")
        self.assertEqual({link.attributes["target"] for link in links}, {"_blank"})
        self.assertEqual(made.css_first(".downloads-title").text(), "To take away")
        self.assertEqual(made.css_first("ul").attributes["aria-label"], "To take away")
        self.assertEqual(made.css_first(".download-description").text(), "To be filled in & sent.")

    def test_a_file_in_the_language_of_the_page_does_not_say_so(self):
        self.assertNotIn("Cymraeg", tree(LIST, language="cy").html)

    def test_what_is_gone_leaves_no_hole_and_a_list_of_nothing_is_none(self):
        self.assertEqual(len(tree(downloads(download(7), download(99))).css("li")), 1)
        self.assertIsNone(tree(downloads(download(99))).css_first(".downloads"))

    def test_it_is_heard_as_a_list_of_links(self):
        lines = [line.says for line in spoken(heard(f"<html><body>{marked_html(document(LIST), RESOLVER)}"))]
        self.assertEqual(lines[:2], ["To take away", "list, 2 items"])
        self.assertIn("link, The <form>, PDF, 212 kB, 3 pages, opens in a new window", lines[2])

    def test_its_documents_are_named(self):
        self.assertEqual(named_in(document(LIST)).items, {6, 7})


class OutAndIn(TestCase):
    def test_storable_form_and_source_give_the_same(self):
        self.assertEqual(body(read_html(storable_html(document(LIST))).document), (LIST,))
        written, _ = source_html(document(LIST))
        read = read_source(written)
        self.assertEqual((body(read.reading.document), read.notes), ((LIST,), ()))

    def test_what_is_copied_from_a_live_page_is_the_same_list(self):
        html = published_html(document(LIST), RESOLVER)
        items = {"/media/form.pdf": "item:7", "/media/cy.pdf": "item:6"}
        reading = read_html(html, Arriving(link=items.get))
        (found,) = body(reading.document)
        self.assertEqual(found.with_content(found.content[:1]), LIST.with_content(LIST.content[:1]))
        self.assertEqual(found.content[1].attrs["item"], 6)

    def test_links_of_others_in_such_a_list_stay_a_list(self):
        html = '<div class="downloads"><ul><li><a href="https://a.example/x.pdf">A</a></li></ul></div>'
        self.assertEqual([node.kind for node in body(read_html(html).document)], ["bulleted_list"])

    def test_formats_hold_title_links_facts_and_descriptions(self):
        leads = {"item:7": "https://a.example/form.pdf", "item:6": "https://a.example/cy.pdf"}.get
        carried = Carried("Forms", leads=leads, items={7: FORM, 6: WELSH}, language="en")
        wanted = ("To take away", "(PDF, 212 kB, 3 pages)", "Ffurflen", "To be filled in &amp; sent.")
        for ending, part in (("docx", "word/document.xml"), ("odt", "content.xml"), ("html", "")):
            written = FORMATS[ending].write(document(LIST), carried)
            whole = written.decode("utf-8", "replace")
            if part:
                with zipfile.ZipFile(BytesIO(written)) as archive:
                    written = archive.read(part)
                    names = [name for name in archive.namelist() if name.endswith((".xml", ".rels"))]
                    whole = "".join(archive.read(name).decode() for name in names)
            for words in wanted:
                self.assertIn(words, written.decode(), ending)
            self.assertIn("https://a.example/form.pdf", whole)
        self.assertIn("https://a.example/form.pdf", FORMATS["md"].write(document(LIST), carried).decode())
        text = plain_text(document(LIST), documents={7: FORM, 6: WELSH})
        self.assertEqual(
            text,
            "To take away\n- The <form> (PDF, 212 kB, 3 pages) /media/form.pdf\n  To be filled in & sent.\n"
            "- Ffurflen (PDF, 212 kB, 1 page, Cymraeg) /media/cy.pdf\n",
        )


class Checks(CheckTest):
    def test_a_document_that_is_gone_is_told_and_taken_from_the_list(self):
        self.check = "download-gone"
        self.assertIn("“The plan”", self.assertFound(downloads(download(99, words="The plan"))).sentence)
        self.assertMended(downloads(download(7), download(99)), into=(downloads(download(7)),))
        self.assertMended(downloads(download(99)), into=(paragraph(),))

    def test_a_list_of_nothing_is_told(self):
        self.check = "downloads-empty"
        self.assertMended(make("downloads"), into=(paragraph(),))
        self.assertRight(downloads(download(7)))

    def test_who_may_have_a_document_is_told_as_of_a_link(self):
        self.check = "item-signed-in"
        self.assertFound(downloads(download(8)))
        self.check = "item-elsewhere"
        self.assertFound(downloads(download(9)))
