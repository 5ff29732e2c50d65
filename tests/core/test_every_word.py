"""No reader loses a word in silence: what it cannot keep as it was stands there as plain words, or is told."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from stillpage_core.document import Node, normal_form
from stillpage_core.document.walking import text_of, walk
from stillpage_core.errors import ReadingError
from stillpage_core.formats import FORMATS
from stillpage_core.reading import Arriving, Reading, read_html, read_markdown, read_text
from stillpage_core.reading.docx import read_docx
from stillpage_core.reading.odt import read_odt
from stillpage_core.resolving import FixedResolver
from stillpage_core.writing import published_html
from stillpage_core.writing.carrying import Carried, PictureFile

from .documents import (
    ABBREVIATION,
    FRENCH,
    TONE,
    aside,
    body,
    bulleted,
    cell,
    document,
    heading,
    item,
    link,
    numbered,
    paragraph,
    picture,
    preformatted,
    quotation,
    table,
    words,
)
from .packages import W, docx_with, odt_with


def run(words: str) -> str:
    return f'<w:r><w:t xml:space="preserve">{words}</w:t></w:r>'


def p(*runs: str) -> str:
    return f"<w:p>{''.join(run(each) if each[:1] != '<' else each for each in runs)}</w:p>"


def text(reading: Reading) -> str:
    return text_of(reading.document)


def told(reading: Reading) -> str:
    return " ".join(message.sentence for message in reading.messages)


def kinds(node: Node) -> list[str]:
    return [each.kind for _, each in walk(node)]


class WordDocuments(TestCase):
    def test_ruby_keeps_its_base_and_its_reading(self):
        ruby = f"<w:r><w:ruby><w:rubyPr/><w:rt>{run('kan')}</w:rt><w:rubyBase>{run('漢')}</w:rubyBase></w:ruby></w:r>"
        self.assertEqual(text(read_docx(docx_with(p("The sign ", ruby)))), "The sign 漢(kan)")

    def test_a_cell_that_goes_on_with_one_that_is_not_there_is_a_cell(self):
        def cell(words: str, merge: str = "") -> str:
            return f"<w:tc><w:tcPr>{merge}</w:tcPr>{p(words)}</w:tc>"

        goes_on = "<w:vMerge/>"
        rows = f"<w:tr>{cell('a', goes_on)}{cell('b')}</w:tr><w:tr>{cell('c', goes_on)}{cell('d', goes_on)}</w:tr>"
        self.assertEqual(text(read_docx(docx_with(f"<w:tbl>{rows}</w:tbl>"))).split(), ["a", "c", "b", "d"])

    def test_parts_in_other_formats_are_read_or_told(self):
        relations = {"h": ("aFChunk", "one.html"), "t": ("aFChunk", "two.txt"), "d": ("aFChunk", "three.docx")}
        chunks = "".join(f'<w:altChunk r:id="{identity}"/>' for identity in relations)
        parts = {
            "one_html": "<h2>Gates</h2><p>Of oak</p>",
            "two_txt": "Plain words",
            "three_docx": docx_with(p("Inner words")),
        }
        reading = read_docx(docx_with(p("Outer") + chunks, relations, **parts))
        self.assertEqual(text(reading), "Outer\nGates\nOf oak\nPlain words\nInner words")
        reading = read_docx(docx_with(p("Outer") + chunks, {"h": ("aFChunk", "one.mht")}, one_mht="MIME"))
        self.assertIn("3 parts that are kept in other formats", told(reading))

    def test_a_docx_within_itself_again_and_again_comes_to_an_end(self):
        data = docx_with(p("Deepest"))
        for level in range(30):
            chunk = '<w:altChunk r:id="d"/>'
            data = docx_with(p(f"Level {level}") + chunk, {"d": ("aFChunk", "in.docx")}, in_docx=data)
        reading = read_docx(data)
        self.assertIn("Level 29", text(reading))
        self.assertIn("other format was left out", told(reading))

    def test_a_field_without_an_end_swallows_nothing(self):
        begin = '<w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText>PAGE</w:instrText></w:r>'
        reading = read_docx(docx_with(p("Before ", begin, "after") + p("And all that follows")))
        self.assertEqual(text(reading), "Before after\nAnd all that follows")

    def test_words_around_a_table_of_contents_stay(self):
        def mark(kind: str) -> str:
            return f'<w:r><w:fldChar w:fldCharType="{kind}"/></w:r>'

        instruction = r"<w:r><w:instrText>TOC \o</w:instrText></w:r>"
        body = p("Contents: ", mark("begin"), instruction, mark("separate"), "Gates 3")
        body += p("Locks 5") + p("Boats 7", mark("end"), " That was all.")
        reading = read_docx(docx_with(body))
        self.assertEqual(text(reading), "Contents:\nThat was all.")
        self.assertIn("A table of contents was left out", told(reading))
        part = "<w:sdtPr><w:docPartObj><w:docPartGallery w:val='{}'/></w:docPartObj></w:sdtPr>"
        inner = f"<w:sdt>{part.format('Table of Contents')}<w:sdtContent>{p('Gates 3')}</w:sdtContent></w:sdt>"
        outer = f"<w:sdt>{part.format('Cover Pages')}<w:sdtContent>{p('Cover')}{inner}</w:sdtContent></w:sdt>"
        self.assertEqual(text(read_docx(docx_with(outer))), "Cover")

    def test_tabs_and_unknown_wrappings_neither_join_nor_swallow(self):
        body = p(run("left"), '<w:r><w:ptab w:relativeTo="margin" w:alignment="right" w:leader="none"/></w:r>', "right")
        body += f"<w:p><w:someday>{run('wrapped')}</w:someday></w:p><w:other>{p('and more')}</w:other>"
        self.assertEqual(text(read_docx(docx_with(body))), "left right\nwrapped\nand more")

    def test_text_boxes_within_alternatives_and_each_other_are_read_once(self):
        inner = f"<w:pict><w:txbxContent>{p('inner')}</w:txbxContent></w:pict>"
        outer = f"<w:txbxContent>{p('outer', f'<w:r>{inner}</w:r>')}</w:txbxContent>"
        either = f"<mc:Choice>{outer}</mc:Choice><mc:Fallback>{outer}</mc:Fallback>"
        drawing = f"<w:r><w:drawing><mc:AlternateContent>{either}</mc:AlternateContent></w:drawing></w:r>"
        self.assertEqual(text(read_docx(docx_with(p("Here", drawing)))).split(), ["Here", "outer", "inner"])

    def test_what_is_left_out_is_told(self):
        def deleted(words: str) -> str:
            return f"<w:del><w:r><w:delText>{words}</w:delText></w:r></w:del>"

        self.assertIn("marked as deleted", told(read_docx(docx_with(p("a", deleted("b"))))))
        row = f"<w:tr><w:trPr><w:del/></w:trPr><w:tc>{p('gone')}</w:tc></w:tr><w:tr><w:tc>{p('a')}</w:tc></w:tr>"
        self.assertIn("marked as deleted", told(read_docx(docx_with(f"<w:tbl>{row}</w:tbl>"))))
        header = docx_with(p("a"), {"h": ("header", "header1.xml")}, header1_xml=docx_part(p("Draft of May")))
        self.assertIn("top and foot of its pages", told(read_docx(header)))
        chart = '<a:graphicData xmlns:a="a" uri="http://schemas.openxmlformats.org/drawingml/2006/chart"/>'
        reading = read_docx(docx_with(p("a", f"<w:r><w:drawing>{chart}</w:drawing></w:r>")))
        self.assertIn("A chart or diagram was left out", told(reading))

    def test_what_stands_too_deep_keeps_its_words(self):
        body = p("deepest")
        for _ in range(70):
            body = f"<w:tbl><w:tr><w:tc>{body}{p('by')}</w:tc></w:tr></w:tbl>"
        reading = read_docx(docx_with(body))
        self.assertEqual((text(reading).count("deepest"), text(reading).count("by")), (1, 70))


def docx_part(body: str) -> str:
    return f'<w:hdr xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main">{body}</w:hdr>'


class OpenDocument(TestCase):
    def test_the_body_is_the_body_whatever_is_called_text_before_it(self):
        date = '<number:date-style style:name="N1"><number:day/><number:text>.</number:text></number:date-style>'
        self.assertEqual(text(read_odt(odt_with("<text:p>Here</text:p>", automatic=date))), "Here")

    def test_references_to_bookmarks_keep_their_words(self):
        body = (
            '<text:p><text:bookmark-start text:name="a"/>Gates<text:bookmark-end text:name="a"/>: see '
            '<text:bookmark-ref text:ref-name="a">Gates of oak</text:bookmark-ref>, '
            '<text:reference-ref text:ref-name="b">page 4</text:reference-ref>'
            '<text:sequence-ref text:ref-name="c">, Table 2</text:sequence-ref>.</text:p>'
        )
        self.assertEqual(text(read_odt(odt_with(body))), "Gates: see Gates of oak, page 4, Table 2.")

    def test_ruby_keeps_its_base_and_its_reading(self):
        ruby = "<text:ruby><text:ruby-base>漢</text:ruby-base><text:ruby-text>kan</text:ruby-text></text:ruby>"
        self.assertEqual(text(read_odt(odt_with(f"<text:p>The {ruby} sign</text:p>"))), "The 漢(kan) sign")

    def test_shapes_and_unknown_wrappings_keep_their_words(self):
        body = (
            "<draw:custom-shape><text:p>shape</text:p></draw:custom-shape>"
            "<draw:g><draw:ellipse><text:p>ellipse</text:p></draw:ellipse></draw:g>"
            "<text:p>In <text:someday>a line</text:someday><draw:rect><text:p>box</text:p></draw:rect></text:p>"
            "<text:whatever><text:p>wrapped</text:p></text:whatever>"
        )
        self.assertEqual(text(read_odt(odt_with(body))).split(), "shape ellipse In a line box wrapped".split())

    def test_what_is_left_out_is_told(self):
        deleted = (
            "<text:tracked-changes><text:changed-region><text:deletion><text:p>old</text:p></text:deletion>"
            "</text:changed-region></text:tracked-changes>"
        )
        self.assertIn("marked as deleted", told(read_odt(odt_with(f"{deleted}<text:p>new</text:p>"))))
        master = "<style:master-page><style:header><text:p>Draft of May</text:p></style:header></style:master-page>"
        self.assertIn("top and foot", told(read_odt(odt_with("<text:p>a</text:p>", styles=master))))
        covered = (
            "<table:table><table:table-row><table:table-cell table:number-columns-spanned='2'><text:p>a</text:p>"
            "</table:table-cell><table:covered-table-cell><text:p>under</text:p></table:covered-table-cell>"
            "</table:table-row></table:table>"
        )
        self.assertIn("Hidden text", told(read_odt(odt_with(covered))))

    def test_what_stands_too_deep_keeps_its_words(self):
        body = "<text:p>deepest</text:p>"
        for _ in range(120):
            body = f"<text:section>{body}</text:section>"
        self.assertEqual(text(read_odt(odt_with(body))), "deepest")
        words = "deepest"
        for _ in range(120):
            words = f"<text:span>{words}</text:span>"
        self.assertEqual(text(read_odt(odt_with(f"<text:p>{words}</text:p>"))), "deepest")


class Pages(TestCase):
    def test_a_note_is_no_larger_than_its_description(self):
        html = (
            '<div><h2>A</h2><p>W<a href="#n" id="r">1</a></p><dl><dt id="n"><a href="#r">1</a></dt><dd>N</dd></dl>'
            "<p>After</p></div>"
        )
        document = read_html(html).document
        self.assertEqual(
            [block.kind for block in body(document)], ["heading", "paragraph", "numbered_list", "paragraph"]
        )
        self.assertEqual(text_of(document), "A\nW1\nN\nAfter")

    def test_nothing_that_holds_the_sign_of_a_note_is_its_body(self):
        html = '<div id="all"><p>Words<a href="#all" id="r">1</a> more</p><a href="#r">1</a> The end</div>'
        self.assertEqual(text_of(read_html(html).document).split(), ["Words1", "more", "1", "The", "end"])

    def test_ruby_keeps_its_brackets(self):
        html = "<p><ruby>漢<rp>(</rp><rt>kan</rt><rp>)</rp></ruby> and <ruby>字<rt>ji</rt></ruby></p>"
        self.assertEqual(text_of(read_html(html).document), "漢(kan) and 字(ji)")

    def test_code_stays_code_within_items_quotations_and_cells(self):
        html = (
            "<ul><li><p>Type</p><pre>open  gate</pre></li></ul><blockquote><p>He</p><pre>x  y</pre></blockquote>"
            "<table><tr><td><pre>a  b</pre></td><td>c</td></tr></table>"
        )
        document = read_html(html).document
        self.assertEqual(kinds(document).count("preformatted"), 3)
        self.assertEqual([block.kind for block in body(document)], ["bulleted_list", "quotation", "table"])
        self.assertIn("open  gate", text_of(document))


class Flattened(TestCase):
    """What may not stand where it stood becomes paragraphs, and that is told."""

    def test_in_html_markdown_and_word_processors(self):
        html = "<ul><li>A<h3>B</h3><table><tr><th>C</th></tr><tr><td>D</td></tr></table></li></ul>"
        for reading in (read_html(html), read_markdown("- A\n\n  ### B\n\n  | C |\n  |---|\n  | D |\n")):
            self.assertEqual(text(reading).split(), ["A", "B", "C", "D"])
            self.assertIn("A heading within a list, a quotation or a table became a paragraph", told(reading))
            self.assertIn("A table within", told(reading))
        cell = "<table:table-cell><text:p>C</text:p></table:table-cell>"
        inner = f"<table:table><table:table-row>{cell}</table:table-row></table:table>"
        item = f"<text:list><text:list-item><text:p>A</text:p>{inner}</text:list-item></text:list>"
        self.assertIn("A table within", told(read_odt(odt_with(item))))


class Guarded(TestCase):
    """Where nothing comes of a file with words in it, the file is refused, and nobody gets an empty page."""

    def test_a_docx_of_which_nothing_can_be_read(self):
        body = f"<w:pPr>{p('words')}</w:pPr>"
        with self.assertRaisesRegex(ReadingError, "none of them could be read"):
            read_docx(docx_with(body))

    def test_an_odt_of_which_nothing_can_be_read(self):
        with self.assertRaisesRegex(ReadingError, "none of them could be read"):
            read_odt(odt_with("<text:forms><text:p>words</text:p></text:forms>"))

    def test_braces_in_what_is_told_are_words(self):
        self.assertIn("“x:{0}” was left out", told(read_html('<a href="x:{0}">a</a> <a href="x:{0}">b</a>')))

    def test_the_alt_text_of_a_picture_that_stayed_behind_is_told(self):
        pictures = "".join(f'<p><img alt="Lock {at}">' for at in range(12))
        reading = read_html(f'{pictures}<p><img alt="Lock 0"><p>Words')
        self.assertIn("It showed: “Lock 0” (2 times)", told(reading))
        self.assertIn("4 pictures that came without their files were left out", told(reading))
        image = '<draw:image xlink:href="Pictures/gone.png"/><svg:title>Gates</svg:title>'
        reading = read_odt(odt_with(f"<text:p><draw:frame>{image}</draw:frame>w</text:p>"))
        self.assertIn("It showed: “Gates”", told(reading))

    def test_words_over_a_map_stay(self):
        self.assertEqual(text(read_html("<map name=m>Walks <area href=/a></map> here")), "Walks here")

    def test_html_and_text_of_which_nothing_can_be_read(self):
        self.assertEqual(text(read_html("<script>words</script><style>p{}</style>")), "")
        self.assertEqual(text(read_text(" \n ")), "")

    def test_an_empty_file_is_an_empty_page(self):
        self.assertEqual(text(read_docx(docx_with("<w:p/>"))), "")
        self.assertEqual(text(read_odt(odt_with("<text:p/>"))), "")


class OutAndBack(TestCase):
    """What the formats have no element for goes out in styles of its name, and comes back."""

    PAGE = document(
        paragraph("See ", words("the gates", link("#gates")), "."),
        bulleted(item(paragraph("Type")), item(paragraph("and wait"), preformatted("open  gate", "", language="C++"))),
        bulleted(item(paragraph("another list"))),
        numbered(item(paragraph("one"))),
        numbered(item(paragraph("one again"))),
        quotation(paragraph("They wrote"), preformatted("a line", "and another")),
        aside("tip", paragraph("Bring"), preformatted("a torch")),
        heading(2, "Gates", anchor="gates"),
        table([cell(preformatted("a", "  b")), cell("c")]),
        preformatted("one", "two", language="python"),
        preformatted("three"),
        paragraph(words("VCT", ABBREVIATION), ", ", words("écluse", FRENCH), ", ", words("rust", TONE)),
        paragraph("End."),
    )

    def test_through_docx_and_odt(self):
        for ending in ("docx", "odt"):
            with self.subTest(ending):
                data = FORMATS[ending].write(self.PAGE, Carried(language="en-GB"))
                back = FORMATS[ending].read(data, Arriving(), 1)
                self.assertEqual(back.document.to_json(), normal_form(self.PAGE).to_json())

    def test_a_link_to_a_heading_leads_there_in_the_file_too(self):
        page = document(paragraph(words("down", link("#the-gates"))), heading(2, "The gates"))
        for ending in ("docx", "odt"):
            back = FORMATS[ending].read(FORMATS[ending].write(page, Carried()), Arriving(), 1).document
            self.assertEqual(body(back)[1].attrs["anchor"], "the-gates")
            self.assertEqual(body(back)[0].content[0].marks[0].attrs["href"], "#the-gates")

    def test_words_in_the_language_of_the_page_are_not_marked(self):
        lang = '<w:r><w:rPr><w:lang w:val="{}"/></w:rPr><w:t xml:space="preserve">{}</w:t></w:r>'
        body = p(lang.format("en-GB", "All of this is English, "), lang.format("en-US", "and this too, "))
        body += p(lang.format("fr-FR", "mais pas ceci"), lang.format("x-none", "."))
        marked = [node for _, node in walk(read_docx(docx_with(body)).document) if node.marks]
        self.assertEqual([(node.text, node.marks[0].attrs["code"]) for node in marked], [("mais pas ceci", "fr-FR")])

    def test_a_picture_without_an_alt_text_is_not_made_decorative(self):
        gates = PictureFile("gates.png", "image/png", b"bytes", 24, 16)
        for own, file, expected in (
            (picture(1), gates, (None, False)),
            (picture(1, decorative=True), gates, (None, True)),
            (picture(1), replace(gates, decorative=True), (None, True)),
            (picture(1), replace(gates, alt="From the library"), ("From the library", False)),
        ):
            data = FORMATS["html"].write(document(own), Carried(pictures={1: file}))
            (came,) = body(FORMATS["html"].read(data, Arriving(), 1).document)
            self.assertEqual((came.attrs["alt"], came.attrs["decorative"]), expected)
        carried = Carried(pictures={1: replace(gates, alt="From the library")})
        for ending in ("md", "txt"):
            self.assertIn("From the library", FORMATS[ending].write(document(picture(1)), carried).decode())

    def test_what_a_new_window_is_told_by_is_not_taken_for_words(self):
        page = document(paragraph(words("away", link("https://a.example/", new_window=True))))
        data = FORMATS["html"].write(page, Carried())
        self.assertNotIn(b"opens in a new window", data)
        self.assertEqual(FORMATS["html"].read(data, Arriving(), 1).document, page)
        published = published_html(page, FixedResolver())
        self.assertIn("opens in a new window", published)
        self.assertEqual(text(read_html(published)), "away")


class MarkdownFiles(TestCase):
    def test_front_matter_gives_title_and_description_and_the_rest_is_told(self):
        front = '---\ntitle: "Walks: by water"\ndescription: Where to walk\ndate: 2031-05-01\ntags: [lock, boat]\n'
        reading = read_markdown(f"{front}keywords:\n  - ice\n---\n\nText.\n", Arriving(whole=True))
        self.assertEqual((reading.title, reading.description), ("Walks: by water", "Where to walk"))
        self.assertEqual(text(reading), "Text.")
        self.assertIn("date: 2031-05-01; tags: lock, boat; keywords: ice", told(reading))

    def test_what_only_looks_like_a_tag_is_words(self):
        reading = read_markdown(
            "Copy `a` to <your name>, <i>then</i> <config>that</config> <x-y>too</x-y>.\n\n<lock>\n"
        )
        self.assertEqual(text(reading), "Copy a to <your name>, then <config>that</config> too.\n<lock>")

    def test_what_stands_beside_the_language_of_code_is_told(self):
        reading = read_markdown('```py title="Sluice"\na\n```\n\n```\nb\n```\n\n~~~ {#a} b\nc\n~~~')
        self.assertEqual([node.attrs["language"] for node in body(reading.document)], ["py", None, None])
        left = "What stands beside the beginning of a block of code was left out: {}"
        self.assertEqual(told(reading), " ".join(left.format(each) for each in ('title="Sluice"', "{#a} b")))

    def test_what_stands_beyond_the_last_column_is_told(self):
        rows = ("|a|b|", "|-|-|", "|1|2|3|4 \\| 5|", "|1|2|", "1|2 | ")
        for before, goes_on in (("", ""), ("> ", "> "), ("- ", "  ")):
            with self.subTest(before):
                reading = read_markdown("\n".join([before + rows[0], *(goes_on + row for row in rows[1:])]))
                left = "What stands beyond the last column of a table was left out: "
                self.assertEqual([each.strip() for each in told(reading).split(left)[1:]], ["3", "4 | 5"])

    def test_what_is_no_front_matter_stays(self):
        for words_ in ("---\n\nText\n\n---\n", "---\nJust a sentence\n---\n", "Title\n---\na: b\n---\n", "---\na: b\n"):
            self.assertGreater(len(text(read_markdown(words_))), 2, words_)
        self.assertIn("Just a sentence", text(read_markdown("---\nJust a sentence\n---\n")))

    def test_contents_lead_to_headings_by_the_rule_of_others(self):
        source = "[search](#explorersearch) [again](#gates-1) [own](#the-end)\n\n## explorer.search()\n\n## Gates\n\n"
        page = read_markdown(source + "## Gates\n\n## The end\n").document
        self.assertEqual([each.attrs["anchor"] for each in body(page)[1:]], ["explorersearch", None, "gates-1", None])

    def test_a_description_goes_out_and_comes_back(self):
        carried = Carried("Walks", description='Where it\'s good to walk: "here"')
        for ending in ("md", "html"):
            data = FORMATS[ending].write(document(paragraph("Text.")), carried)
            reading = FORMATS[ending].read(data, Arriving(whole=True), 1)
            self.assertEqual((reading.title, reading.description), ("Walks", carried.description), ending)
            self.assertEqual(text(reading), "Text.")


class Painted(TestCase):
    def test_hidden_with_importance_is_hidden(self):
        self.assertEqual(text(read_html('<p>a<span style="display: none !important">b</span></p>')), "a")

    def test_permalinks_of_headings_are_left_out(self):
        html = '<h2 id="gates">Gates<a class="headerlink" href="#gates" title="Permalink">¶</a></h2><p>x</p>'
        self.assertEqual(text(read_html(html)), "Gates\nx")

    def test_a_link_to_a_section_leads_to_its_heading(self):
        html = '<p><a href="#s">a</a></p><section id="s"><div><h2>Gates</h2></div><p>x</p></section>'
        page = read_html(html).document
        self.assertEqual((body(page)[0].content[0].marks[0].attrs["href"], body(page)[1].attrs["anchor"]), ("#s", "s"))

    def test_lines_indented_by_tabs_are_no_table(self):
        reading = read_text("\tone line\n\tand another\n")
        self.assertNotIn("table", kinds(reading.document))
        self.assertIn("table", kinds(read_text("a\tb\n\tc\n").document))

    def test_a_wrapped_item_has_no_spaces_within(self):
        document_ = read_text("- item one is here\n  and goes on\n- two").document
        self.assertIn("item one is here\nand goes on", text_of(document_))

    def test_a_bold_line_that_names_a_table_is_its_caption(self):
        html = "<p><b>Table 10.1 Rise of the locks</b></p><table><tr><th>a</th></tr><tr><td>b</td></tr></table>"
        document_ = read_html(html).document
        self.assertEqual([block.kind for block in body(document_)], ["table"])
        self.assertEqual(text_of(body(document_)[0].content[0]), "Table 10.1 Rise of the locks")
        sentence = read_html(html.replace("<b>Table 10.1 Rise of the locks</b>", "Table 10.1 shows the rise.")).document
        self.assertEqual([block.kind for block in body(sentence)], ["paragraph", "table"])
        document_ = read_html("<p><b>Table 10.1 Rise of the locks</b></p><p>Stands elsewhere.</p>").document
        self.assertEqual(body(document_)[0].kind, "heading")

    def test_a_line_below_a_picture_that_names_it_is_its_caption(self):
        html = '<p><img src="a.png" alt="Gates"></p><p>Figure 3. The <b>gates</b> of Lock 4</p><p>End.</p>'
        reading = read_html(html)
        self.assertEqual([block.kind for block in body(reading.document)], ["picture", "paragraph"])
        self.assertEqual(body(reading.document)[0].attrs["caption"], "Figure 3. The gates of Lock 4")
        self.assertIn("became its caption", told(reading))
        sentence = read_html(html.replace("Figure 3. The", "Figure 3 shows the").replace("4</p>", "4.</p>")).document
        self.assertEqual([block.kind for block in body(sentence)], ["picture", "paragraph", "paragraph"])

    def test_a_listing_with_the_numbers_of_its_lines_is_code(self):
        html = "<table><tr><td><pre>9\n10</pre></td><td><pre>open()\nshut()</pre></td></tr></table>"
        reading = read_html(html)
        self.assertEqual([block.kind for block in body(reading.document)], ["preformatted"])
        self.assertEqual(text(reading), "open()\nshut()")
        self.assertIn("numbers before lines of code", told(reading))
        other = read_html(html.replace("9\n10", "9\n11"))
        self.assertIn("11", text(other))

    def test_equations_that_a_script_would_set_are_equations(self):
        reading = read_html(
            r'<p>Of <span class="math">\(h^2\)</span></p><div class="math">\[\frac{a}{b}\]</div>'
            r'<p><span class="math">\(\unknown{\)</span> <span class="math">plain</span></p>'
        )
        found = [node.attrs["latex"] for _, node in walk(reading.document) if node.kind in ("formula", "equation")]
        self.assertEqual(found, ["h^2", r"\frac{a}{b}"])
        self.assertIn(r"\(\unknown{\) plain", text(reading))


class LinksAndNames(TestCase):
    def test_a_link_around_a_picture_or_in_the_title_is_told(self):
        inside = '<a href="https://a.example/"><img src="a.png" alt="Gates"></a>'
        self.assertIn("A link around a picture was left out", told(read_html(f"<p>{inside}</p>")))
        markdown_ = read_markdown("# [Walks](https://a.example/)\n\n[![Gates](a.png)](https://a.example/)\n\n" + inside)
        whole = read_markdown("# [Walks](https://a.example/)\n\nText.\n", Arriving(whole=True))
        self.assertEqual((whole.title, told(whole)), ("Walks", "A link in the title was left out"))
        self.assertIn("2 links around pictures were left out", told(markdown_))
        frame = '<draw:a xlink:href="https://a.example/"><draw:frame><draw:image xlink:href="https://a.example/a.png"/>'
        odt_ = read_odt(odt_with(f"<text:p>a{frame}</draw:frame></draw:a></text:p>"))
        self.assertIn("A link around a picture was left out", told(odt_))

    def test_many_links_that_are_left_out_are_told_by_their_number(self):
        reading = read_html("".join(f'<p><a href="#n{number}">w</a></p>' for number in range(12)) * 2)
        self.assertEqual(len(reading.messages), 9)
        self.assertIn("8 more links were left out, their words stay", told(reading))

    def test_a_link_to_a_place_within_a_section_leads_to_its_heading(self):
        html = '<p><a href="#p">down</a> <a href="#q">again</a></p><h2>Gates</h2><p>a</p><p id="p">b <a id="q"></a></p>'
        reading = read_html(html)
        hrefs = {mark.attrs["href"] for _, node in walk(reading.document) for mark in node.marks}
        self.assertEqual((hrefs, body(reading.document)[1].attrs["anchor"]), ({"#p"}, "p"))
        self.assertIn("2 links to places within sections lead to their headings", told(reading))
        heading_ = '<w:p><w:pPr><w:outlineLvl w:val="0"/></w:pPr><w:r><w:t>Gates</w:t></w:r></w:p>'
        mark = '<w:bookmarkStart w:id="1" w:name="p"/><w:bookmarkEnd w:id="1"/>'
        link_ = p('<w:hyperlink w:anchor="p"><w:r><w:t>down</w:t></w:r></w:hyperlink>')
        page = read_docx(docx_with(link_ + heading_ + p(mark, "b")))
        self.assertIn("leads to its heading", told(page))
        self.assertEqual(body(page.document)[1].attrs["anchor"], "p")
        odt_ = read_odt(
            odt_with(
                '<text:p><text:a xlink:href="#p">down</text:a></text:p><text:h text:outline-level="1">Gates</text:h>'
                '<text:p><text:bookmark text:name="p"/>b</text:p>'
            )
        )
        self.assertEqual(body(odt_.document)[1].attrs["anchor"], "p")
        self.assertIn("leads to its heading", told(odt_))

    def test_names_behind_headings_are_their_anchors(self):
        source = "[a](#x) [b](#y) [c](#z) [d](#Top)\n\n## A {#x}\n\n## B {: #y }\n\n## <a name='z'></a> C\n\n"
        page = read_markdown(f"{source}<a id='Top'></a>\n\n## D {{not a name}}\n").document
        found = [(text_of(block), block.attrs["anchor"]) for block in body(page) if block.kind == "heading"]
        self.assertEqual(found, [("A", "x"), ("B", "y"), ("C", "z"), ("D {not a name}", "Top")])

    def test_a_picture_in_the_first_row_of_a_table_stays(self):
        page = read_markdown("| ![Gates](a.png) |\n|---|\n| b |\n").document
        self.assertIn("picture", kinds(page))

    def test_what_is_longer_than_may_be_is_told(self):
        long = "word " * 300
        for reading in (read_html(f'<p><img src="a.png" alt="{long}"></p>'), read_markdown(f"![{long}](a.png)")):
            kept = next(node.attrs["alt"] for _, node in walk(reading.document) if node.kind == "picture")
            self.assertEqual(kept.count("word") + told(reading).count("word"), 300)
        latex = "x + " * 600 + "x"
        self.assertEqual(text_of(read_markdown(f"$$\n{latex}\n$$").document).count("x"), 601)

    def test_the_sign_of_a_note_that_somebody_typed_is_no_word(self):
        mark = '<w:r><w:footnoteReference w:customMarkFollows="1" w:id="2"/><w:t>*</w:t></w:r>'
        notes = f'<w:footnotes {W}><w:footnote w:id="2">{p("Of oak.")}</w:footnote></w:footnotes>'
        relations = {"n": ("footnotes", "notes.xml")}
        page = read_docx(docx_with(p("gates", mark, " shut"), relations, notes_xml=notes))
        self.assertEqual(text(page).split("\n")[0], "gates1 shut")
