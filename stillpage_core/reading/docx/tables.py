"""Tables of a DOCX file, and what only sets things side by side."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from lxml import etree

from ...document.fitting import fitted
from ...document.node import Node, make
from ...document.schema import SCHEMA
from ...document.tables import squared
from ...document.walking import text_of
from ..listed import Piece, assembled
from ..package import local
from .parts import SETTINGS, number_of
from .styles import Style

if TYPE_CHECKING:
    from .reader import Reader

_Cell = tuple[int, Node, str]
"""A cell: its column, what stands in it, and whether it begins or goes on with a merging of cells downwards."""


def table(reader: Reader, element: etree._Element) -> Iterator[Piece]:
    rows: list[list[_Cell]] = []
    layout = False
    for row in _rows(reader, element):
        header = reader.on(reader.child(row, "trPr", "tblHeader"))
        column = number_of(reader.get(reader.child(row, "trPr", "gridBefore")))
        cells: list[_Cell] = []
        for cell in _cells(reader, row):
            properties = reader.child(cell, "tcPr")
            across = max(1, min(200, number_of(reader.get(reader.child(properties, "gridSpan")), 1)))
            merged = reader.child(properties, "vMerge")
            merge = "" if merged is None else reader.get(merged) or "continue"
            blocks = assembled(reader.pieces(cell), reader.told)
            layout = layout or any(part.kind not in SCHEMA.contents["table_cell"].names for part in blocks)
            head = header or _is_heading_cell(reader, cell)
            node = make("table_header" if head else "table_cell", blocks, colspan=across)
            begun = rows and any(each[0] == column and each[2] for each in rows[-1])
            # A cell that goes on with one that is not there is a cell of its own.
            cells.append((column, node, merge if begun or merge != "continue" else "restart"))
            column += across
        rows.append(cells)
    if layout:
        reader.told.mended(
            "A table used for layout became plain paragraphs", "{} tables used for layout became plain paragraphs"
        )
        yield from (part for cells in rows for _, node, _ in cells for part in node.content)
        return
    grid = squared(
        [
            make("table_row", [_spanned(reader, rows, at, place) for place in cells if place[2] != "continue"])
            for at, cells in enumerate(rows)
        ]
    )
    if any(row.content for row in grid):
        yield make("table", [make("table_grid", grid)])


def _rows(reader: Reader, element: etree._Element) -> Iterator[etree._Element]:
    for child in element:
        if local(child) == "tr":
            if reader.child(child, "trPr", "del") is None:
                yield child
            else:
                reader.told.dropped("Words marked as deleted were left out")
        elif local(child) not in SETTINGS:
            yield from _rows(reader, child)


def _cells(reader: Reader, row: etree._Element) -> Iterator[etree._Element]:
    for child in row:
        if local(child) == "tc":
            yield child
        elif local(child) not in SETTINGS:
            yield from _cells(reader, child)


def _is_heading_cell(reader: Reader, cell: etree._Element) -> bool:
    names = [
        reader.styles.get(reader.get(reader.child(each, "pPr", "pStyle")), Style()).name
        for each in cell.findall(f"{reader.w}p")
    ]
    return bool(names) and all(name == "table heading" for name in names)


def _spanned(reader: Reader, rows: list[list[_Cell]], at: int, place: _Cell) -> Node:
    """A cell that reaches over those below that go on with it; it takes their words along."""
    column, node, merge = place
    down, words = 1, list(node.content)
    while merge and at + down < len(rows):
        below = next((each for each in rows[at + down] if each[0] == column and each[2] == "continue"), None)
        if below is None:
            break
        words += [part for part in below[1].content if text_of(part)]
        down += 1
    return node.with_content(fitted(node.kind, words, reader.told.flattened)).with_attrs(rowspan=min(down, 200))
