"""HTML, Markdown and text, in and out."""

import re
from collections import Counter
from dataclasses import replace
from html.parser import HTMLParser
from unittest import TestCase

from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from stillpage_core.document import document_from_json
from stillpage_core.document.node import make
from stillpage_core.document.schema import SCHEMA
from stillpage_core.document.walking import text_of, units, walk
from stillpage_core.formats import FORMATS
from stillpage_core.reading import Arriving, read_html, read_markdown, read_text, with_pictures
from stillpage_core.reading.docx import read_docx
from stillpage_core.reading.odt import read_odt
from stillpage_core.reading.source import read_source
from stillpage_core.resolving import (
    AnimationTarget,
    FilmTarget,
    FixedResolver,
    HostedTarget,
    ImageFile,
    ItemTarget,
    PageTarget,
    PictureTarget,
    PostTarget,
)
from stillpage_core.writing import markdown, plain_text, published_html, storable_html
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.source import source_html

from . import many
from .documents import (
    DOCUMENTS,
    EMPHASIS,
    PLAIN_MARKS,
    STRONG,
    body,
    bulleted,
    divider,
    document,
    every_kind,
    further,
    heading,
    item,
    link,
    numbered,
    paragraph,
    picture,
    preformatted,
    read_next,
    words,
)

SUPERSCRIPT, SUBSCRIPT, CODE = PLAIN_MARKS[2:]

FILES = (ImageFile("/media/a/480.jpg", 480, 320), ImageFile("/media/a/960.jpg", 960, 640))
KNOWN = FixedResolver(
    pages={1: PageTarget(1, "Walks", "/walks"), 2: PageTarget(2, "Hidden", None)},
    pictures={1: PictureTarget(1, "gates", "Closed lock gates", FILES, width=1500, height=1000)},
)


class StorableHtml(TestCase):
    @given(DOCUMENTS)
    @example(every_kind())
    def test_any_valid_document_survives_html_unchanged(self, node):
        reading = read_html(storable_html(node))
        self.assertEqual(reading.document, node)
        self.assertEqual(reading.messages, ())


class OtherHtml(TestCase):
    def read(self, html):
        return read_html(html).document

    def test_structure_is_kept_and_paint_is_dropped(self):
        html = '<div style="color:red"><h2 class=x>A</h2><span><b>bold</b> and <i>lean</i></span><p>next</div>'
        self.assertEqual(
            self.read(html),
            document(
                heading(2, "A"), paragraph(words("bold", STRONG), " and ", words("lean", EMPHASIS)), paragraph("next")
            ),
        )

    def test_white_space_is_that_of_html(self):
        self.assertEqual(
            self.read("<p>\n a  b<br>\n c </p>\n \n<p> </p>"), document(paragraph("a b", make("line_break"), "c"))
        )

    def test_a_level_1_heading_lowers_all(self):
        reading = read_html("<h1>A</h1><h2>B</h2><h6>C</h6>")
        self.assertEqual([block.attrs["level"] for block in body(reading.document)], [2, 3, 6])
        self.assertIn("lowered", reading.messages[0].sentence)

    def test_preformatted_text_keeps_its_lines_and_names_its_language(self):
        html = '<pre><code class="hl language-c++">\n int a;\n<b>\n</b>  b&lt;c&gt;;</code></pre><hr>'
        self.assertEqual(self.read(html), document(preformatted(" int a;", "", "  b<c>;", language="c++"), divider()))

    def test_other_marks_are_read_by_what_they_mean(self):
        html = "<p><u>a</u><strike>b</strike><sup>c</sup><sub>d</sub><kbd>e</kbd></p>"
        expected = [words(letter, mark) for letter, mark in zip("abcde", PLAIN_MARKS, strict=True)]
        self.assertEqual(self.read(html), document(paragraph(*expected)))

    def test_lists_nest_also_where_html_has_them_misplaced(self):
        html = "<ol start=3><li>a<ul><li>b</ul><ul><li>c</ul>stray</ol>"
        inner = [bulleted(item(paragraph("b"))), bulleted(item(paragraph("c")))]
        self.assertEqual(self.read(html), document(numbered(item(paragraph("a"), *inner, paragraph("stray")), start=3)))

    def test_nothing_executable_comes_in(self):
        html = (
            "<p onclick=x()>a<script>alert(1)</script><a href='javascript:x'>b</a><svg onload=x><style>p{}</style></p>"
        )
        reading = read_html(html)
        self.assertEqual(reading.document, document(paragraph("ab")))
        self.assertEqual(len(reading.messages), 3)

    def test_links_to_addresses_that_may_stand_are_kept(self):
        html = '<a href="https://a.example/">a</a><a href="mailto:b@c.example">b</a><a href="../x">c</a>'
        expected = paragraph(words("a", link("https://a.example/")), words("b", link("mailto:b@c.example")), "c")
        self.assertEqual(self.read(html), document(expected))

    def test_a_picture_that_is_not_in_the_library_is_named_to_be_fetched_or_left_out(self):
        reading = read_html("<img src=https://a.example/x.png alt=Gates>")
        (met,) = reading.pictures
        self.assertEqual((met.address, met.alt, met.data), ("https://a.example/x.png", "Gates", None))
        self.assertEqual(reading.document, document(picture(met.number, "Gates")))
        self.assertEqual(with_pictures(reading.document, {met.number: None}), document())
        self.assertEqual(with_pictures(reading.document, {met.number: 7}), document(picture(7, "Gates")))

    @given(st.text(st.sampled_from(list("<>/abhlipou123 =\"'&;\n")), max_size=120))
    def test_no_input_raises_and_every_result_is_valid(self, html):
        node = read_html(html).document
        self.assertEqual(document_from_json(node.to_json()), node)

    def test_two_thousand_nested_elements_are_read(self):
        for tag in ("div", "b", "ul><li", "ol><li><h2"):
            node = read_html(f"<{tag}>" * 2_000 + "deep").document
            self.assertIn("deep", text_of(node))
            document_from_json(node.to_json())


class PublishedHtml(TestCase):
    def html(self, *blocks):
        html = published_html(document(*blocks), KNOWN)
        self.assertRegex(html, '(?s)^<div class="text" data-region="main">.*</div>$')
        return html.removeprefix('<div class="text" data-region="main">').removesuffix("</div>")

    def test_headings_get_anchors_of_their_own(self):
        html = self.html(heading(2, "Före & after"), heading(2, "Före, after"), heading(3, "Main"))
        self.assertEqual(
            html,
            '<h2 id="fore-after">Före &amp; after</h2><h2 id="fore-after-2">Före, after</h2><h3 id="main-2">Main</h3>',
        )

    def test_links_are_resolved_and_one_to_a_hidden_page_leaves_its_words(self):
        html = self.html(
            paragraph(
                words("a", link("page:1#x")),
                words("b", link("page:2")),
                words("c", link("page:9")),
                words("d", link("tel:123")),
            )
        )
        self.assertEqual(html, '<p><a href="/walks#x">a</a>bc<a href="tel:123">d</a></p>')

    def test_marks_nest_and_a_shared_one_is_opened_once(self):
        html = self.html(paragraph(words("a", STRONG), words("b", STRONG, EMPHASIS), words("c", EMPHASIS)))
        self.assertEqual(html, "<p><strong>a<em>b</em></strong><em>c</em></p>")

    def test_a_picture_has_size_and_srcset_and_its_alt_text_in_order_of_precedence(self):
        for node, alt in (
            (picture(1), "Closed lock gates"),
            (picture(1, "Own words"), "Own words"),
            (picture(1, "Own words", decorative=True), ""),
        ):
            html = self.html(node)
            self.assertIn(f'alt="{alt}"', html)
            self.assertIn('srcset="/media/a/480.jpg 480w, /media/a/960.jpg 960w"', html)
            self.assertIn('width="720" height="480"', html)
            self.assertNotIn("lazy", html)

    def test_only_the_first_picture_is_loaded_at_once(self):
        self.assertEqual(self.html(picture(1), picture(1), picture(1)).count('loading="lazy"'), 2)

    def test_a_picture_that_is_gone_leaves_no_hole(self):
        self.assertEqual(self.html(picture(9), paragraph("x")), "<p>x</p>")

    def test_what_takes_a_line_on_the_sheet_takes_one_here(self):
        self.assertEqual(self.html(paragraph(), paragraph("a", make("line_break"))), "<p><br></p><p>a<br><br></p>")

    def test_of_pages_to_read_next_readers_get_those_that_they_can_reach_under_the_titles_that_these_have(self):
        entries = [
            further("page:1", why="For <those> who come by train."),
            further("page:2", words="Hidden from readers"),
            further("page:9"),
            further(None, words="Nowhere yet"),
            further("https://a.example/", words="Their page"),
        ]
        self.assertEqual(
            self.html(read_next(*entries)),
            '<nav class="read-next" aria-label="Read next"><p class="read-next-title">Read next</p><ul>'
            '<li><a href="/walks">Walks</a><p class="read-next-why">For &lt;those&gt; who come by train.</p></li>'
            '<li><a href="https://a.example/">Their page</a></li></ul></nav>',
        )
        self.assertEqual(self.html(read_next(*entries[1:4]), paragraph("x")), "<p>x</p>")

    @given(DOCUMENTS)
    def test_words_are_escaped_and_none_is_lost(self, node):
        # Of pages to read next, readers get those alone that they can reach, under their titles.
        assume(all(each.kind != "read_next" for _, each in walk(node)))
        gates = KNOWN.pictures[1]
        film = FilmTarget(1, "", files=(ImageFile("/media/film.mp4", 640, 360, 1, "video/mp4", "film"),))
        films = dict.fromkeys(range(1, 100), film)
        known = FixedResolver(KNOWN.pages, dict.fromkeys(range(1, 100), gates), films=films)
        known = replace(known, items=dict.fromkeys(range(1, 100), ItemTarget(1, "", "/a.pdf", "", 0)))
        known = replace(known, elsewhere=dict.fromkeys(range(1, 100), HostedTarget(1, "", "https://a.example/")))
        lines = ImageFile("/media/lines.json", 400, 300, 1, "video/lottie+json", "moving-base")
        known = replace(known, posts=dict.fromkeys(range(1, 100), PostTarget(1, "", "https://a.example/")))
        known = replace(known, animations=dict.fromkeys(range(1, 100), AnimationTarget(1, "", files=(lines,))))
        found = []
        parser = HTMLParser(convert_charrefs=True)
        parser.handle_data = found.append
        # An equation is said twice, as signs and as LaTeX; here the LaTeX counts. What only the page adds is taken off.
        html = re.sub(r"<semantics>.*?(<annotation)", r"\1", published_html(node, known))
        html = re.sub(r"<a [^>]*>[^<]*</a>(?=</(?:video|audio)>)", "", html)
        html = re.sub(r'<p class="aside-label">\w+</p>|<span class="unseen">.*?</span>', "", html)
        html = re.sub(r'<span class="press-words">.*?</span></span>', "", html)
        parser.feed(html)
        parser.close()
        self.assertEqual("".join(found), text_of(node).replace("\n", ""))


class Markdown(TestCase):
    def test_what_it_can_say_comes_back(self):
        node = document(
            heading(2, "Lock * and _key_"),
            paragraph(
                "a ",
                words("b", STRONG),
                " ",
                words("c", EMPHASIS),
                words("d", EMPHASIS, STRONG),
                make("line_break"),
                "e",
            ),
            bulleted(item(paragraph("one"), numbered(item(paragraph("deep")), start=4)), item(paragraph("two"))),
            numbered(item(paragraph("a"), paragraph("b")), item(paragraph("c"))),
            paragraph(words("to a page", link("page:3#x")), " and ", words("out", link("https://a.example/(x)"))),
            picture(3, "Alt [text]"),
            divider(),
            preformatted("def f():", "    return '```'", "", language="python"),
            paragraph("press ", words("Ctrl+`", CODE), " or ", words("` x", CODE, STRONG), words(" y ", CODE)),
            paragraph("1. no list"),
            paragraph("# no heading"),
            paragraph("- no list either"),
        )
        self.assertEqual(read_markdown(markdown(node)).document, node)

    def test_what_has_no_sign_is_written_as_html(self):
        node = document(paragraph("H", words("2", SUBSCRIPT), "O"))
        self.assertEqual(markdown(node), "H<sub>2</sub>O\n")
        self.assertEqual(read_markdown(markdown(node)).document, node)

    @settings(max_examples=many(300))
    @given(DOCUMENTS)
    @example(every_kind())
    @example(document(picture(1, "two  spaces", caption="in  both")))
    def test_any_valid_document_survives_markdown_unchanged(self, node):
        self.assertEqual(read_markdown(markdown(node)).document, node)

    @settings(max_examples=many(300))
    @given(DOCUMENTS)
    @example(every_kind())
    def test_any_valid_document_survives_its_source_unchanged(self, node):
        found = read_source(source_html(node)[0])
        self.assertEqual((found.reading.document, found.notes), (node, ()))

    @given(st.text(max_size=80))
    def test_no_input_raises_and_every_result_is_valid(self, text):
        node = read_markdown(text).document
        self.assertEqual(document_from_json(node.to_json()), node)


class Source(TestCase):
    @settings(max_examples=many(300))
    @given(DOCUMENTS, st.data())
    def test_the_caret_goes_to_the_source_and_back(self, node, data):
        blocks = [(path, each) for path, each in walk(node) if SCHEMA.nodes[each.kind].is_textblock and each.content]
        if not blocks:
            return
        path, block = data.draw(st.sampled_from(blocks))
        size = sum(units(each.text) if each.kind == "text" else 1 for each in block.content)
        text = "".join(each.text for each in block.content)
        position = data.draw(st.integers(0, size)) if text.isascii() else 0
        html, place = source_html(node, (path, position))
        found = read_source(html, units(html[:place]))
        self.assertEqual((found.reading.document, found.caret), (node, (path, position)), html)

    def test_long_rows_of_spaces_are_kept_and_read_in_one_go(self):
        node = document(paragraph("a" + " " * 300_000 + "b"))
        self.assertEqual(read_source(source_html(node)[0]).reading.document, node)


class Packages(TestCase):
    """DOCX and ODT say most of a document; what they are read as says all its words, in order."""

    @settings(max_examples=many(180))
    @given(DOCUMENTS)
    def test_no_word_is_lost_in_any_document(self, node):
        said = "".join("".join(each.text.split()) for _, each in walk(node) if each.kind == "text")
        for ending, read in (("docx", read_docx), ("odt", read_odt)):
            found = read(FORMATS[ending].write(node, Carried("T"))).document
            back = "".join("".join(each.text.split()) for _, each in walk(found) if each.kind == "text")
            missing = Counter(said) - Counter(back)
            self.assertEqual(missing, Counter(), ending)

    def test_structure_comes_back(self):
        node = document(
            heading(2, "A"),
            bulleted(item(paragraph("a"), numbered(item(paragraph("b")), start=4)), item(paragraph("c"))),
            heading(3, "B"),
            paragraph(words("strong", STRONG), " ", words("out", link("https://a.example/"))),
            preformatted("x  y", "  z"),
        )
        for ending, read in (("docx", read_docx), ("odt", read_odt)):
            found = read(FORMATS[ending].write(node, Carried("T")), Arriving(whole=True))
            self.assertEqual((found.title, found.document), ("T", node), ending)


class PlainText(TestCase):
    def test_paragraphs_and_lines(self):
        node = read_text("\ufeffa\r\nb\r\n\r\n\r\nc\x07\td").document
        self.assertEqual(node, document(paragraph("a", make("line_break"), "b"), paragraph("c d")))

    def test_lists_are_written_as_one_types_them(self):
        node = document(numbered(item(paragraph("a"), bulleted(item(paragraph("b")))), item(paragraph("c")), start=9))
        self.assertEqual(plain_text(node), "9. a\n   - b\n10. c\n")

    def test_captions_and_the_signs_of_notes_are_written(self):
        note = words("1", link("#dry"), SUPERSCRIPT)
        node = document(
            paragraph("31 km", note, "."),
            bulleted(item(paragraph("gates"), picture(1, "Shut", caption="Lock 4"))),
            numbered(item(paragraph("In summer."), anchor="dry")),
        )
        self.assertEqual(plain_text(node), "31 km[1].\n\n- gates\n  [Shut]\n  Lock 4\n\n1. In summer.\n")

    @given(st.text(max_size=80))
    def test_any_text_gives_a_valid_document(self, text):
        node = read_text(text).document
        self.assertEqual(document_from_json(node.to_json()), node)
