"""Texts of other programs: what they are read as, what is mended, and that no word is lost on the way.

The guide and the stoppages were written by a word processor and a spreadsheet (see tests/fixtures/make.py); the
clipboard of the other word processor was set down by hand after its published form ([MS-OI29500], mso-list).
"""

from io import BytesIO
from pathlib import Path
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from stillpage_core.document import document_from_json
from stillpage_core.document.schema import SCHEMA
from stillpage_core.document.walking import runs_with, text_of, walk
from stillpage_core.formats import read_file
from stillpage_core.reading import Arriving, read_html, read_text
from stillpage_core.reading.mending import mended
from stillpage_core.reading.reading import Told
from stillpage_core.reading.rtf import rtf_pictures, with_rtf_pictures

from . import many
from .documents import DOCUMENTS, body

FIXTURES = Path(__file__).parents[1] / "fixtures"


def sketch(node, depth=0):
    """The structure of a document as lines: a textblock with its words, a picture with alt text and caption."""
    lines = []
    for block in body(node) if node.kind == "doc" else node.content:
        name = "  " * depth + block.kind + (f" {block.attrs['level']}" if block.kind == "heading" else "")
        if SCHEMA.nodes[block.kind].is_textblock:
            lines.append(f"{name}: {text_of(block)}")
        elif block.kind == "picture":
            lines.append(f"{name}: {block.attrs['alt']} / {block.attrs['caption']}")
        else:
            lines += [name, *sketch(block, depth + 1)]
    return lines


def read(name, *, whole=True):
    return read_file(name, (FIXTURES / name).read_bytes(), Arriving(whole=whole))


def pixels(data):
    with Image.open(BytesIO(data)) as image:
        return image.size, image.convert("RGB").tobytes()


def told(reading, sort):
    return [message.sentence for message in reading.messages if message.sort == sort]


class FromPrograms(TestCase):
    maxDiff = None
    GUIDE = """
        heading 2: Before you set out
        paragraph: The towpath is open to all, at any hour, for 31 km1. Water is H2O, and a lock is 40 m2.
        paragraph: Painted words keep their place|on two lines.
        heading 3: What to bring
        bulleted_list
          list_item
            paragraph: A coat
            numbered_list
              list_item
                paragraph: of wool
              list_item
                paragraph: or waxed
                bulleted_list
                  list_item
                    paragraph: with a hood
          list_item
            paragraph: A map
        paragraph: The steps go on from three:
        numbered_list
          list_item
            paragraph: Close the gate
          list_item
            paragraph: Open the paddle
        heading 3: How the locks rise
        table
          table_grid
            table_row
              table_header
                paragraph: Lock
              table_header
                paragraph: Rise
              table_header
                paragraph: Keeper
            table_row
              table_cell
                paragraph: Lock 4
              table_cell
                paragraph: 2.1 m
              table_cell
                paragraph: Imre
            table_row
              table_cell
                paragraph: Staircase of two
        paragraph: See the page of the locks, write to the office, or look at the rises.
        quotation
          quotation_words
            paragraph: They shut the gates and waited.
        picture: Closed lock gates, water on one side / The gates of Lock 4 in winter
        paragraph: The last words, with a second note2.
        preformatted: open  paddle|  wait
        numbered_list
          list_item
            paragraph: Measured in the dry summer.
          list_item
            paragraph: From the archive.
    """

    def lines(self, text):
        every = [line for line in text.splitlines() if line.strip()]
        indent = len(every[0]) - len(every[0].lstrip())
        return [line[indent:].replace("|", "\n") for line in every]

    def test_the_same_guide_is_read_from_docx_and_odt(self):
        for name in ("towpath-guide.docx", "towpath-guide.odt"):
            reading = read(name)
            self.assertEqual(reading.title, "The Varrow towpath guide", name)
            self.assertEqual(sketch(reading.document), self.lines(self.GUIDE), name)
            self.assertEqual(told(reading, "dropped"), ["Hidden text was left out"], name)
            (picture,) = reading.pictures
            self.assertTrue(picture.data.startswith(b"\x89PNG"), name)

    def test_details_of_the_guide_are_kept(self):
        for name in ("towpath-guide.docx", "towpath-guide.odt", "towpath-guide.html", "towpath-guide-xhtml.html"):
            document = read(name).document
            with self.subTest(name):
                marked = {mark: [run.text for run in runs_with(document, mark)] for mark in MARKS}
                self.assertIn("open to all", marked["strong"])
                self.assertIn("any hour", marked["emphasis"])
                self.assertIn("2", marked["subscript"])
                (start,) = {node.attrs["start"] for _, node in walk(document) if node.kind == "numbered_list"} - {1}
                self.assertEqual(start, 3)
                spans = [node.attrs["colspan"] for _, node in walk(document) if node.kind == "table_cell"]
                self.assertIn(2, spans)
                notes = [node.attrs["anchor"] for _, node in walk(document) if node.attrs.get("anchor")]
                links = [mark.attrs["href"] for _, node in walk(document) for mark in node.marks if mark.kind == "link"]
                self.assertTrue({f"#{note}" for note in notes} <= set(links))
                self.assertIn("https://varrow.example/locks?a=1&b=2", links)
                self.assertIn("mailto:office@varrow.example", links)

    def test_both_html_of_the_word_processor_keep_headings_lists_and_tables(self):
        kinds = ("heading", "bulleted_list", "numbered_list", "list_item", "table_header", "table_cell", "quotation")
        wanted = [line for line in self.lines(self.GUIDE) if line.split()[0].rstrip(":") in kinds]
        for name in ("towpath-guide.html", "towpath-guide-xhtml.html"):
            found = [line for line in sketch(read(name).document) if line.split()[0].rstrip(":") in kinds]
            self.assertEqual(found, wanted, name)

    def test_the_words_are_the_same_from_every_format(self):
        words = text_of(read("towpath-guide.docx").document).split()
        for name in ("towpath-guide.odt", "towpath-guide.html", "towpath-guide-xhtml.html"):
            found = text_of(read(name).document).split()
            self.assertEqual([word for word in words if "note" not in word and word not in found], [], name)

    def test_a_spreadsheet(self):
        found = sketch(read("stoppages.html").document)
        header = [line.strip() for line in found if "paragraph" in line][:3]
        self.assertEqual(header, ["paragraph: Lock", "paragraph: From", "paragraph: Weeks"])
        self.assertEqual(sum("table_header" in line for line in found), 3)

    def test_lists_that_are_paragraphs_with_declarations(self):
        reading = read("word-clipboard.html", whole=False)
        self.assertEqual(
            sketch(reading.document)[:20],
            self.lines(
                """
                heading 2: Winter work
                heading 3: What we mend
                bulleted_list
                  list_item
                    paragraph: The gates of Varrow Lock
                    bulleted_list
                      list_item
                        paragraph: upper pair
                  list_item
                    paragraph: The paddles
                paragraph: The steps go on:
                numbered_list
                  list_item
                    paragraph: Close the gate
                  list_item
                    paragraph: Drain the chamber
                paragraph: Measured twice[1], paid once.
                table
                  table_grid
                    table_row
                """
            ),
        )
        self.assertEqual(body(reading.document)[4].attrs["start"], 3)
        self.assertNotIn("divider", sketch(reading.document), "the line above the notes is none of the author's")
        (picture,) = reading.pictures
        self.assertEqual((picture.alt, picture.data), ("Closed lock gates", None))
        self.assertNotIn("secret", text_of(reading.document))

    def test_pictures_that_html_only_names_are_taken_from_the_rtf_beside_it(self):
        rtf = (FIXTURES / "towpath-guide.rtf").read_text()
        (found,) = rtf_pictures(rtf)
        (original,) = read("towpath-guide.odt").pictures
        self.assertEqual(pixels(found), pixels(original.data))
        (picture,) = with_rtf_pictures(read("word-clipboard.html"), rtf).pictures
        self.assertEqual((picture.data, picture.alt), (found, "Closed lock gates"))
        for broken in ("", rtf[:16000], "{\\pict\\pngblip zz}", "{\\pict\\wmetafile8 00}", rtf + rtf):
            (picture,) = with_rtf_pictures(read("word-clipboard.html"), broken).pictures
            self.assertNotEqual(picture.data, found)

    def test_a_web_page_of_boxes(self):
        reading = read("web-page.html", whole=False)
        self.assertEqual(
            sketch(reading.document),
            self.lines(
                """
                heading 2: Walks from the museum
                paragraph: Level, dry\u00a0and short.
                paragraph: Lock 4 and back
                paragraph: 2 km, dogs welcome
                paragraph: https://varrow.example/reeds
                paragraph: Share
                heading 3: Left column
                paragraph: In two columns once.
                paragraph: Right column.
                """
            ),
        )
        self.assertIn("A tracking picture was left out", told(reading, "dropped"))
        self.assertIn("A script was left out", told(reading, "dropped"))


MARKS = ("strong", "emphasis", "subscript")


class Mending(TestCase):
    def read(self, html, *, under=1):
        self.reading = read_html(html, under=under)
        return sketch(self.reading.document)

    def said(self, words):
        self.assertTrue(any(words in each for each in told(self.reading, "mended")), self.reading.messages)

    def test_short_bold_lines_are_headings_of_the_level_that_fits(self):
        lines = self.read("<h2>Walks</h2><p><b>Lock 4</b></p><p>Level.</p><p><b>Really not a heading.</b></p><p>x</p>")
        self.assertEqual(lines[:2], ["heading 2: Walks", "heading 3: Lock 4"])
        self.assertIn("paragraph: Really not a heading.", lines)
        self.said("bold line")
        self.assertEqual(self.read("<p><b>Lock 4</b></p><p>Level.</p>", under=3)[0], "heading 4: Lock 4")

    def test_a_bold_line_that_ends_as_a_sentence_or_is_long_stays_text(self):
        for words in ("Do not go in.", "Is it open?:" * 12, "word " * 15):
            self.assertEqual(self.read(f"<p><b>{words}</b></p><p>x</p>")[0].split(":")[0], "paragraph")

    def test_headings_of_level_1_are_lowered_with_the_rest(self):
        self.assertEqual(self.read("<h1>A</h1><h2>B</h2>"), ["heading 2: A", "heading 3: B"])
        self.said("lowered")

    def test_typed_lists_become_lists(self):
        self.assertEqual(
            self.read("<p>- a</p><p>- b</p><p>c</p>"),
            ["bulleted_list", "  list_item", "    paragraph: a", "  list_item", "    paragraph: b", "paragraph: c"],
        )
        self.assertEqual(self.read("<p>1. a<br>2. b</p>")[0], "numbered_list")
        self.said("typed")

    def test_years_and_dashes_within_text_make_no_list(self):
        for html in ("<p>1990. A dry year.</p>", "<p>4 – 6 weeks</p>", "<p>- 3 °C at night</p>"):
            self.assertTrue(self.read(html)[0].startswith("paragraph"), html)

    def test_rows_of_breaks_part_paragraphs_and_empty_ones_go(self):
        self.assertEqual(
            self.read("<p>a<br><br><br>b</p><p>&nbsp;</p><p></p><p>c</p>"), [f"paragraph: {x}" for x in "abc"]
        )
        self.said("empty paragraph")

    def test_hard_spaces_that_set_in_go_and_one_between_words_stays(self):
        self.assertEqual(self.read("<p>&nbsp;&nbsp;&nbsp;in 31&nbsp;km &nbsp; on</p>"), ["paragraph: in 31\u00a0km on"])

    def test_tables_that_only_set_things_side_by_side_go(self):
        self.assertEqual(self.read("<table><tr><td><h2>A</h2></td><td><p>b</p></td></tr></table>")[0], "heading 2: A")
        self.said("layout")

    def test_a_link_that_only_repeats_an_address_becomes_words(self):
        html = "<p>See <a href='https://a.example/b'>the walks</a> (<a href='https://a.example/b'>https://a.example/b</a>)</p>"
        self.assertEqual(self.read(html), ["paragraph: See the walks (https://a.example/b)"])
        self.assertEqual(len(list(runs_with(self.reading.document, "link"))), 1)
        self.said("only repeats an address")

    def test_doubled_stress_is_stressed_once(self):
        self.read("<h2><b>A</b></h2><p>b</p>")
        self.assertEqual(list(runs_with(self.reading.document, "strong")), [])

    @settings(max_examples=many(300))
    @given(DOCUMENTS)
    def test_mending_what_is_mended_changes_nothing_more(self, node):
        once = mended(node.content, Told())
        again = Told()
        self.assertEqual(mended(once, again), once)
        self.assertEqual(again.messages(), ())


_TAGS = """p div span b i font center blockquote h1 h3 ul ol li table tr td th a u sub o:p section article dl dt
    dd""".split()
_ATTRIBUTES = ["", "", ' style="margin:0;color:red"', " class=MsoNormal", ' align="center"', " onclick=x()"]
_AROUND = ["{} ", "{}&nbsp;", "\n{}\n", "{}<br>", " {} <br><br>"]
_UNSEEN = [
    "<script>hidden()</script>",
    "<style>.hidden{}</style>",
    "<!--[if mso]>hidden<![endif]-->",
    '<span style="display:none">hidden</span>',
    "<img src='cid:x' width=1 height=1>",
    "<iframe src=https://a.example>hidden</iframe>",
]
_TYPED = st.lists(st.from_regex(r"\A(?:[-*•] |\d{1,2}[.)] |  |\t)?[a-z]{1,12}(?: [a-z]{1,12}){0,12}\Z"), max_size=20)


@st.composite
def _ugly(draw):
    """Ugly HTML, and the words in it in the order in which one reads them."""
    words: list[str] = []
    parts: list[str] = []
    opened: list[str] = []
    for _ in range(draw(st.integers(1, 40))):
        choice = draw(st.integers(0, 9))
        in_table = next((tag for tag in reversed(opened) if tag in ("table", "tr", "td", "th")), "td")
        if choice < 4 and in_table in ("td", "th"):
            words.append(f"w{len(words)}x")
            parts.append(draw(st.sampled_from(_AROUND)).format(words[-1]))
        elif choice < 7:
            tag = draw(st.sampled_from(_TAGS))
            allowed = {"table": ("tr",), "tr": ("td", "th")}.get(in_table)
            if (allowed and tag not in allowed) or (not allowed and tag in ("tr", "td", "th")):
                continue
            opened.append(tag)
            href = " href=https://a.example/" if tag == "a" else ""
            parts.append(f"<{tag}{draw(st.sampled_from(_ATTRIBUTES))}{href}>")
        elif choice == 7 and opened:
            parts.append(f"</{opened.pop()}>")
        elif in_table in ("td", "th"):
            parts.append(draw(st.sampled_from(_UNSEEN)))
    parts += [f"</{tag}>" for tag in reversed(opened)] if draw(st.booleans()) else []
    return "".join(parts), words


class NoWordIsLost(TestCase):
    @settings(max_examples=many(400))
    @given(_ugly())
    def test_the_visible_words_come_out_in_their_order(self, given):
        html, words = given
        document = read_html(html).document
        self.assertEqual(text_of(document).split(), words)
        self.assertEqual(document_from_json(document.to_json()), document)

    @settings(max_examples=many(400))
    @given(_TYPED, st.sampled_from(["\n", "\r\n", "\n\n", "\r"]))
    def test_typed_text_keeps_its_words_and_never_joins_paragraphs(self, lines, end):
        document = read_text(end.join(lines)).document
        words = [word for line in lines for word in line.split() if word[-1].isalpha()]
        self.assertEqual([word for word in text_of(document).split() if word[-1].isalpha()], words)
        if end == "\n\n":
            blocks = sum(1 for _, node in walk(document) if SCHEMA.nodes[node.kind].is_textblock and node.content)
            self.assertEqual(blocks, len([line for line in lines if line.strip()]))
