"""Random DOCX and ODT files within the rules of their formats: no word is lost, doubled or out of order, and what is
left out is told.

Each shape is drawn first; when it is written, every word gets a number of its own, and is set down as one that is to
come through or one that is not: that is the extraction the reader is held to, independent of it.
"""

from __future__ import annotations

import os
import re
from collections.abc import Callable
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from stillpage_core.document import document_from_json
from stillpage_core.document.walking import text_of
from stillpage_core.reading import Reading
from stillpage_core.reading.docx import read_docx
from stillpage_core.reading.odt import read_odt

from .packages import docx_with, odt_with

EXAMPLES = 1500 if os.environ.get("STILLPAGE_LONG_TESTS") else 120
Shape = tuple[str, Any]


def shapes(inline_kinds: str, block_kinds: str, plain: str) -> st.SearchStrategy[list[Shape]]:
    """Bodies of a text: blocks that hold blocks and words that hold words, of these kinds."""
    leaf = st.sampled_from(plain.split()).map(lambda kind: (kind, None))
    inline = st.recursive(
        leaf,
        lambda inner: st.tuples(st.sampled_from(inline_kinds.split()), st.lists(inner, min_size=1, max_size=3)),
        max_leaves=6,
    )
    inlines = st.lists(inline, min_size=1, max_size=4)
    paragraph = st.tuples(st.sampled_from(["p", "heading"]), inlines)
    block = st.recursive(
        paragraph,
        lambda inner: st.tuples(st.sampled_from(block_kinds.split()), st.lists(inner, min_size=1, max_size=3)),
        max_leaves=6,
    )
    return st.lists(block, min_size=1, max_size=4)


class Writer:
    """Writes shapes as XML. ``shown`` are the words that are to come through, ``behind`` those of them that stand
    after the paragraph or the text that names them, ``gone`` those that are left out."""

    def __init__(self) -> None:
        self.count = 0
        self.shown: list[str] = []
        self.behind: list[str] = []
        self.gone: list[str] = []
        self.notes: list[str] = []
        self.target = self.shown

    def word(self) -> str:
        self.count += 1
        name = f"w{self.count}"
        self.target.append(name)
        return name

    def into(self, target: list[str], write: Callable[[], str]) -> str:
        """What is written, its words set down elsewhere; what is gone already stays so."""
        before = self.target
        self.target = before if before is self.gone else target
        written = write()
        self.target = before
        return written

    def all_of(self, inner: list[Shape]) -> str:
        return "".join(map(self.one, inner))

    def one(self, shape: Shape) -> str:
        kind, inner = shape
        return str(getattr(self, f"write_{kind}")(inner))


def run(inside: str, properties: str = "") -> str:
    return f"<w:r>{f'<w:rPr>{properties}</w:rPr>' if properties else ''}{inside}</w:r>"


def mark(kind: str) -> str:
    return run(f'<w:fldChar w:fldCharType="{kind}"/>')


class Docx(Writer):
    def text(self) -> str:
        return f'<w:t xml:space="preserve">{self.word()} </w:t>'

    def write_t(self, _: None) -> str:
        return run(self.text())

    def write_bold(self, _: None) -> str:
        return run(self.text(), "<w:b/>")

    def write_hidden(self, _: None) -> str:
        return self.into(self.gone, lambda: run(self.text(), "<w:vanish/>"))

    def write_ptab(self, _: None) -> str:
        return run(f"<w:ptab/>{self.text()}")

    def write_openfield(self, _: None) -> str:
        return f"{mark('begin')}{run('<w:instrText>PAGE</w:instrText>')}{run(self.text())}"

    def write_ruby(self, _: None) -> str:
        # The reading stands first in the file and second in the text.
        base = run(self.text())
        above = run(self.text())
        return run(f"<w:ruby><w:rt>{above}</w:rt><w:rubyBase>{base}</w:rubyBase></w:ruby>")

    def write_note(self, _: None) -> str:
        number = len(self.notes) + 1
        self.notes.append("")
        paragraph = self.into(self.behind, lambda: f"<w:p>{run(self.text())}</w:p>")
        self.notes[number - 1] = f'<w:footnote w:id="{number}">{paragraph}</w:footnote>'
        return run(f'<w:footnoteReference w:id="{number}"/>')

    def write_link(self, inner: list[Shape]) -> str:
        return f'<w:hyperlink w:anchor="nowhere">{self.all_of(inner)}</w:hyperlink>'

    def write_ins(self, inner: list[Shape]) -> str:
        return f"<w:ins>{self.all_of(inner)}</w:ins>"

    def write_del(self, inner: list[Shape]) -> str:
        return self.into(self.gone, lambda: f"<w:del>{self.all_of(inner)}</w:del>")

    def write_field(self, inner: list[Shape]) -> str:
        instruction = run("<w:instrText>REF somewhere</w:instrText>")
        return f"{mark('begin')}{instruction}{mark('separate')}{self.all_of(inner)}{mark('end')}"

    def write_sdt(self, inner: list[Shape]) -> str:
        return f"<w:sdt><w:sdtPr/><w:sdtContent>{self.all_of(inner)}</w:sdtContent></w:sdt>"

    def write_smartTag(self, inner: list[Shape]) -> str:
        return f"<w:smartTag>{self.all_of(inner)}</w:smartTag>"

    def write_box(self, inner: list[Shape]) -> str:
        content = self.into(self.behind, lambda: f"<w:txbxContent><w:p>{self.all_of(inner)}</w:p></w:txbxContent>")
        return run(f"<w:pict>{content}</w:pict>")

    def write_p(self, inner: list[Shape]) -> str:
        return f"<w:p>{self.all_of(inner)}</w:p>"

    def write_heading(self, inner: list[Shape]) -> str:
        return f'<w:p><w:pPr><w:outlineLvl w:val="1"/></w:pPr>{self.all_of(inner)}</w:p>'

    def write_table(self, inner: list[Shape]) -> str:
        rows = "".join(f"<w:tr><w:tc>{self.one(each)}<w:p/></w:tc></w:tr>" for each in inner)
        return f"<w:tbl>{rows}</w:tbl>"

    def write_merged(self, inner: list[Shape]) -> str:
        goes_on = "<w:tcPr><w:vMerge/></w:tcPr>"
        rows = "".join(f"<w:tr><w:tc>{goes_on}{self.one(each)}<w:p/></w:tc></w:tr>" for each in inner)
        return f"<w:tbl>{rows}</w:tbl>"

    def write_someday(self, inner: list[Shape]) -> str:
        return f"<w:someday>{self.all_of(inner)}</w:someday>"


class Odt(Writer):
    def write_t(self, _: None) -> str:
        return f"{self.word()} "

    def write_bookmark(self, _: None) -> str:
        return f'<text:bookmark-ref text:ref-name="a">{self.word()}</text:bookmark-ref> '

    def write_ruby(self, _: None) -> str:
        base, above = self.word(), self.word()
        return (
            f"<text:ruby><text:ruby-base>{base} </text:ruby-base><text:ruby-text>{above}</text:ruby-text></text:ruby> "
        )

    def write_note(self, _: None) -> str:
        body = self.into(self.behind, self.word)
        return f"<text:note><text:note-body><text:p>{body}</text:p></text:note-body></text:note> "

    def write_remark(self, _: None) -> str:
        return self.into(self.gone, lambda: f"<office:annotation><text:p>{self.word()}</text:p></office:annotation>")

    def write_span(self, inner: list[Shape]) -> str:
        return f"<text:span>{self.all_of(inner)}</text:span>"

    def write_link(self, inner: list[Shape]) -> str:
        return f"<text:a>{self.all_of(inner)}</text:a>"

    def write_someday(self, inner: list[Shape]) -> str:
        return f"<text:someday>{self.all_of(inner)}</text:someday>"

    def write_box(self, inner: list[Shape]) -> str:
        content = self.into(
            self.behind, lambda: f"<draw:text-box><text:p>{self.all_of(inner)}</text:p></draw:text-box>"
        )
        return f"<draw:frame>{content}</draw:frame>"

    def write_p(self, inner: list[Shape]) -> str:
        return f"<text:p>{self.all_of(inner)}</text:p>"

    def write_heading(self, inner: list[Shape]) -> str:
        return f'<text:h text:outline-level="2">{self.all_of(inner)}</text:h>'

    def write_list(self, inner: list[Shape]) -> str:
        items = "".join(f"<text:list-item>{self.one(each)}</text:list-item>" for each in inner)
        return f"<text:list>{items}</text:list>"

    def write_table(self, inner: list[Shape]) -> str:
        rows = (f"<table:table-cell>{self.one(each)}</table:table-cell>" for each in inner)
        return f"<table:table>{''.join(f'<table:table-row>{row}</table:table-row>' for row in rows)}</table:table>"

    def write_section(self, inner: list[Shape]) -> str:
        return f"<text:section>{self.all_of(inner)}</text:section>"

    def write_unseen(self, inner: list[Shape]) -> str:
        return self.into(self.gone, lambda: f'<text:section text:display="none">{self.all_of(inner)}</text:section>')


DOCX = shapes(
    "link ins del field sdt smartTag box someday",
    "table merged sdt ins someday",
    "t bold hidden ptab ruby note openfield",
)
ODT = shapes("span link someday box", "list table section unseen someday", "t bookmark ruby note remark")
_NUMBERS_OF_NOTES = re.compile(r"w\d+")


class RandomPackages(TestCase):
    def hold(self, writer: Writer, reading: Reading) -> None:
        document_from_json(reading.document.to_json())
        found = _NUMBERS_OF_NOTES.findall(text_of(reading.document))
        self.assertEqual(sorted(found), sorted([*writer.shown, *writer.behind]))
        shown = set(writer.shown)
        self.assertEqual([each for each in found if each in shown], writer.shown)
        if writer.gone:
            self.assertIn("dropped", [message.sort for message in reading.messages])

    @settings(max_examples=EXAMPLES, deadline=None)
    @given(DOCX)
    def test_word_documents(self, body: list[Shape]) -> None:
        writer = Docx()
        written = writer.all_of(body)
        notes = '<w:footnotes xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main">{}</w:footnotes>'
        parts = {"footnotes_xml": notes.format("".join(writer.notes))}
        self.hold(writer, read_docx(docx_with(written, {"n": ("footnotes", "footnotes.xml")}, **parts)))

    @settings(max_examples=EXAMPLES, deadline=None)
    @given(ODT)
    def test_opendocument(self, body: list[Shape]) -> None:
        writer = Odt()
        self.hold(writer, read_odt(odt_with(writer.all_of(body))))
