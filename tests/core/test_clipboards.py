"""What programs put on the clipboard as HTML, each in a small form set down by hand after what they write, judged once
and then held. How each program writes is common practice, from memory, where no source is named."""

from __future__ import annotations

from unittest import TestCase

from stillpage_core.document import Node
from stillpage_core.document.walking import text_of, walk
from stillpage_core.reading import Reading, read_html

from .documents import body


def shape(node: Node) -> object:
    """A document as nested names, with its words at the leaves."""
    if node.content and node.content[0].kind in ("text", "line_break", "formula"):
        words = "".join("\n" if each.kind == "line_break" else each.text for each in node.content)
        return (node.kind, words)
    return (node.kind, *(shape(child) for child in node.content))


def blocks(reading: Reading) -> list[object]:
    return [shape(block) for block in body(reading.document)]


def marks(reading: Reading) -> list[tuple[str, list[str]]]:
    return [(node.text, [mark.kind for mark in node.marks]) for _, node in walk(reading.document) if node.marks]


def item(words: str) -> object:
    return ("list_item", ("paragraph", words))


class WordProcessors(TestCase):
    def test_items_with_letters_in_brackets_are_numbered(self):
        # [MS-OI29500], mso-list: the sign stands in a span that is to be ignored.
        def listed(sign: str, words: str) -> str:
            ignored = f'<span style="mso-list:Ignore">{sign}<span>&nbsp;&nbsp; </span></span>'
            return f'<p class=MsoListParagraph style="mso-list:l0 level1 lfo1">{ignored}{words}</p>'

        reading = read_html(listed("(a)", "Gloves") + listed("(b)", "Boots"))
        self.assertEqual(blocks(reading), [("numbered_list", item("Gloves"), item("Boots"))])
        self.assertIn("Letters before the items", " ".join(each.sentence for each in reading.messages))

    def test_words_in_the_language_of_the_text_are_not_marked(self):
        html = (
            "<p class=MsoNormal><span lang=EN-GB>The towpath is level, </span><span lang=EN-US>nearly everywhere "
            "wide enough for two, and you can turn back.</span> <span lang=FR>Bonne promenade</span></p>"
        )
        self.assertEqual(marks(read_html(html)), [("Bonne promenade", ["language"])])

    def test_numbers_of_items_are_kept(self):
        html = "<ol><li value=4>four<li>five<li value=9>nine</ol>"
        found = body(read_html(html).document)
        self.assertEqual([(each.attrs["start"], text_of(each)) for each in found], [(4, "four\nfive"), (9, "nine")])

    def test_links_of_web_word_processors_are_not_underlined_once_more(self):
        html = (
            '<b style="font-weight:normal"><p dir="ltr"><span style="white-space:pre-wrap">See </span>'
            '<a href="https://a.example/" style="text-decoration:none"><span style="text-decoration:underline;'
            'white-space:pre-wrap">the walks</span></a><span style="text-decoration:underline"> now</span></p></b>'
        )
        self.assertEqual(marks(read_html(html)), [("the walks", ["link"]), (" now", ["underline"])])


class Spreadsheets(TestCase):
    def test_a_first_row_that_is_bold_by_class_is_the_header(self):
        html = (
            "<style><!-- .xl65 {font-weight:700; text-align:center} td {color:black} --></style><table>"
            "<tr><td class=xl65>Lock</td><td class=xl65>Rise</td></tr><tr><td>4</td><td>2.1</td></tr></table>"
        )
        document = read_html(html).document
        self.assertEqual([node.kind for _, node in walk(document)].count("table_header"), 2)
        self.assertEqual(marks(read_html(html)), [])

    def test_cells_that_are_hidden_are_told(self):
        html = "<table><tr><td>a</td><td style='display:none'>secret</td></tr><tr><td>b</td><td>c</td></tr></table>"
        reading = read_html(html)
        self.assertNotIn("secret", text_of(reading.document))
        self.assertIn("Hidden text", " ".join(each.sentence for each in reading.messages))


class Browsers(TestCase):
    def test_what_is_set_side_by_side_is_not_joined(self):
        # CSS Flexible Box Layout, 4: each child of a flex container is a box of its own.
        html = '<div style="display: flex"><span>Lock 4</span><span>2.1 m</span><b>open</b></div><p>After</p>'
        self.assertEqual(blocks(read_html(html)), [("paragraph", "Lock 4 2.1 m open"), ("paragraph", "After")])

    def test_line_ends_that_are_shown_are_kept(self):
        # CSS Text 3, 3: pre-wrap and pre-line keep line ends.
        for value in ("pre-wrap", "pre-line", "break-spaces"):
            html = f'<div style="white-space: {value}">The Old Toll House\nLockside\nVarrow</div>'
            self.assertEqual(blocks(read_html(html)), [("paragraph", "The Old Toll House\nLockside\nVarrow")])
            html = f'<p style="white-space:{value}">One <b>line\nand</b> another</p><p>a\nb</p>'
            self.assertEqual(blocks(read_html(html))[0], ("paragraph", "One line\nand another"))
            self.assertEqual(blocks(read_html(html))[1], ("paragraph", "a b"))

    def test_ruby_keeps_its_brackets(self):
        html = "<p><ruby>漢<rp>(</rp><rt>kan</rt><rp>)</rp></ruby></p>"
        self.assertEqual(blocks(read_html(html)), [("paragraph", "漢(kan)")])

    def test_what_hides_by_importance_and_by_class_is_left_out(self):
        html = "<style>.sr {display: none !important}</style><p>Seen<span class=sr> unseen</span></p>"
        self.assertEqual(blocks(read_html(html)), [("paragraph", "Seen")])
