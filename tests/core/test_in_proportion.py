"""Every reader and check does work in proportion to its input: twice the input, about twice the calls.

Calls of functions are counted, not seconds, so that a busy machine changes nothing. What a single call does within
itself, as a regular expression does, is timed beside other work by `bench.reading`.
"""

from __future__ import annotations

import random
import sys
from collections.abc import Callable
from functools import partial
from typing import Any
from unittest import TestCase

from stillpage_core.checking import check_page
from stillpage_core.checking.subject import Subject
from stillpage_core.comparing.changing import changes_between
from stillpage_core.comparing.merging import merge
from stillpage_core.comparing.places import places_that_differ
from stillpage_core.document.node import Node
from stillpage_core.document.normal import normal_form
from stillpage_core.document.schema import SCHEMA
from stillpage_core.formats import FORMATS
from stillpage_core.reading import read_html, read_markdown, read_text
from stillpage_core.reading.docx import read_docx
from stillpage_core.reading.odt import read_odt
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.html import published_html
from stillpage_core.writing.listening import heard, marked_html, spoken

from . import nasty
from .checks.base import FULL, KNOWN
from .documents import document
from .packages import docx_with, odt_with

FEW = 150
FEWER = 60
MOST = 2.35
"""How many times the calls twice the input may take; what is done once whatever the size makes it less than 2."""


def calls(work: Callable[[], object]) -> int:
    """How many functions are called, those written in C among them."""
    count = 0

    def profile(frame: object, event: str, argument: object) -> None:
        nonlocal count
        count += event in ("call", "c_call")

    sys.setprofile(profile)
    try:
        work()
    finally:
        sys.setprofile(None)
    return count


Shape = Callable[[int], list[Node]]


def laid_out(shape: Shape) -> Callable[[int], Node]:
    """Documents of a shape, in normal form."""
    return lambda size: normal_form(document(*shape(size)))


def stirred(node: Node) -> Node:
    """A document whose blocks, and what stands in them, are in an order of their own."""
    content = [stirred(child) if child.content else child for child in node.content]
    if not SCHEMA.nodes[node.kind].is_textblock and node.kind != "table_row":
        random.Random(len(content)).shuffle(content)
    return node.with_content(content)


class InProportion(TestCase):
    def hold(self, read: Callable[[Any], object], shape: Callable[[int], Any], count: int = FEW) -> None:
        read(shape(count + 1))  # What is compiled at the first call is not counted.
        few, twice, more = (calls(partial(read, shape(count * times))) for times in (1, 2, 4))
        self.assertLessEqual(twice, MOST * few + 200)
        self.assertLessEqual(more, MOST * twice + 200)

    def test_plain_text(self):
        for name, shape in nasty.TEXT.items():
            with self.subTest(name):
                self.hold(read_text, shape)

    def test_html(self):
        for name, shape in nasty.HTML.items():
            with self.subTest(name):
                self.hold(read_html, shape)

    def test_markdown(self):
        for name, shape in nasty.MARKDOWN.items():
            with self.subTest(name):
                self.hold(read_markdown, shape)

    def test_checks(self):
        for name, shape in nasty.DOCUMENTS.items():
            with self.subTest(name):
                self.hold(lambda blocks: check_page(Subject(normal_form(document(*blocks)), KNOWN, FULL)), shape)

    def test_writers(self):
        for ending, each in FORMATS.items():
            for name, shape in nasty.DOCUMENTS.items():
                with self.subTest(name, ending=ending):
                    self.hold(lambda page, each=each: each.write(page, Carried("Lock")), laid_out(shape), FEWER)

    def test_what_readers_get_and_hear(self):
        for name, shape in nasty.DOCUMENTS.items():
            with self.subTest(name):
                self.hold(lambda page: published_html(page, KNOWN), laid_out(shape), FEWER)
                self.hold(lambda page: list(spoken(heard(marked_html(page, KNOWN)))), laid_out(shape), FEWER)

    def test_what_differs(self):
        """Between a text and the same one with its blocks in another order."""
        for name, shape in nasty.DOCUMENTS.items():
            with self.subTest(name):

                def two(size: int, shape: Shape = shape) -> tuple[Node, Node]:
                    page = laid_out(shape)(size)
                    return page, stirred(page)

                self.hold(lambda pages: places_that_differ(*pages), two, FEWER)
                self.hold(lambda pages: changes_between(*pages), two, FEWER)
                self.hold(lambda pages: merge(pages[0], pages[1], pages[0]), two, FEWER)

    def test_word_documents(self):
        run = "<w:r><w:t>a</w:t></w:r>"
        begin = '<w:r><w:fldChar w:fldCharType="begin"/></w:r>'
        goes_on = "<w:tr><w:tc><w:tcPr><w:vMerge{}/></w:tcPr><w:p/></w:tc></w:tr>"
        begins = goes_on.format(' w:val="restart"')
        shapes: dict[str, Callable[[int], str]] = {
            "runs": lambda n: f"<w:p>{run * n}</w:p>",
            "paragraphs": lambda n: f"<w:p>{run}</w:p>" * n,
            "fields without an end": lambda n: f"<w:p>{(begin + run) * n}</w:p>",
            "rows that go on": lambda n: f"<w:tbl>{(begins + 2 * goes_on.format('')) * n}</w:tbl>",
            "bookmarks": lambda n: "".join(f'<w:p><w:bookmarkStart w:name="b{at}"/>{run}</w:p>' for at in range(n)),
            "tables": lambda n: f"<w:tbl><w:tr><w:tc><w:p>{run}</w:p></w:tc></w:tr></w:tbl>" * n,
        }
        for name, shape in shapes.items():
            with self.subTest(name):
                self.hold(lambda body: read_docx(docx_with(body)), shape)

    def test_opendocument(self):
        cells = "<table:table-cell><text:p>a</text:p></table:table-cell>"
        shapes: dict[str, Callable[[int], str]] = {
            "spans": lambda n: f"<text:p>{'<text:span>a</text:span>' * n}</text:p>",
            "paragraphs": lambda n: "<text:p>a</text:p>" * n,
            "lists": lambda n: "<text:list><text:list-item><text:p>a</text:p></text:list-item></text:list>" * n,
            "rows": lambda n: f"<table:table>{f'<table:table-row>{cells}</table:table-row>' * n}</table:table>",
            "bookmarks": lambda n: "".join(f'<text:h><text:bookmark text:name="b{at}"/>a</text:h>' for at in range(n)),
            "notes": lambda n: (
                "<text:p>a<text:note><text:note-body><text:p>b</text:p></text:note-body></text:note></text:p>" * n
            ),
        }
        for name, shape in shapes.items():
            with self.subTest(name):
                self.hold(lambda body: read_odt(odt_with(body)), shape)
