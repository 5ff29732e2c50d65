"""Tables, and what only looks like one."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING

from selectolax.lexbor import LexborNode

from ...document.fitting import fitted, words_of
from ...document.node import Node, in_order, make
from ...document.schema import SCHEMA
from ...document.tables import squared
from ..reading import Told
from .holders import preformatted
from .reader import is_hidden
from .styles import meaning_of, restyled
from .tree import children_of
from .words import Marks

if TYPE_CHECKING:
    from .blocks import Blocks


def table(into: Blocks, node: LexborNode, marks: Marks, depth: int) -> None:
    reader = into.reader
    if reader.has_listings and (code := _numbered_code(node)) is not None:
        reader.told.dropped("The numbers before lines of code were left out")
        preformatted(into, code)
        return
    reader.in_table = True
    caption: list[Node] | None = None
    rows: list[Node] = []
    waiting = list(children_of(node))[::-1]
    while waiting:
        child = waiting.pop()
        if child.tag in ("thead", "tbody", "tfoot"):
            waiting += list(children_of(child))[::-1]
        elif child.tag == "caption":
            caption = words_of(into.inside(child, marks, depth, in_line=True))
        elif child.tag == "tr" and not is_hidden(child, reader):
            row = [_cell(into, each, marks, depth) for each in children_of(child) if each.tag in ("td", "th")]
            rows.append(make("table_row", row))
    reader.in_table = False
    cells = [cell for row in rows for cell in row.content]
    named = caption or any(cell.kind == "table_header" for cell in cells)
    fits = SCHEMA.contents["table_cell"].names
    if not reader.exact and not named and any(part.kind not in fits for cell in cells for part in cell.content):
        reader.told.mended(
            "A table used for layout became plain paragraphs", "{} tables used for layout became plain paragraphs"
        )
        into.pieces += [part for cell in cells for part in cell.content]
        return
    if any(part.kind not in fits for cell in cells for part in cell.content) or not all(cell.content for cell in cells):
        rows = [row.with_content(_fit(cell, reader.told) for cell in row.content) for row in rows]
    rows = squared(rows)
    if not any(row.content for row in rows):
        into.pieces += [make("paragraph", caption)] if caption else []
        return
    parts = [make("table_caption", caption)] if caption is not None else []
    into.pieces.append(make("table", [*parts, make("table_grid", rows)]))


def _cell(into: Blocks, node: LexborNode, marks: Marks, depth: int) -> Node:
    """A cell with whatever stands in it, fitted only later: a cell that holds headings or tables is layout."""
    spans = {}
    attributes = node.attributes
    for name in ("colspan", "rowspan"):
        if (written := attributes.get(name)) and re.fullmatch(r"\d{1,4}", written):
            spans[name] = min(200, max(1, int(written)))
    if attributes and not into.reader.exact and (style := into.reader.style_of(attributes)):
        meaning = meaning_of(style)
        if meaning.hidden:
            into.reader.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
            return make("table_cell", [], **spans)
        into.reader.paint = into.reader.paint or meaning.paint
        marks = in_order(restyled(marks, {} if node.tag == "th" else meaning.marks))
    kind = "table_header" if node.tag == "th" else "table_cell"
    if alone := into.alone(node, marks):
        return make(kind, alone, **spans)
    inner = into.fresh()
    # Tables within a cell are read as tables where the outer one turns out to be layout.
    into.reader.in_table = into.reader.exact
    inner.children(node, marks, depth + 1)
    into.reader.in_table = True
    return make(kind, inner.done(), **spans)


def _numbered_code(table: LexborNode) -> LexborNode | None:
    """The code of a table that only sets the numbers of its lines beside it, as programs that colour code write it."""
    listings = table.css("pre")
    if len(listings) != 2 or len(table.css("tr")) != 1 or len(table.css("td")) != 2:
        return None
    numbers, code = ((each.text() or "").strip("\n").split("\n") for each in listings)
    counted = [line.strip() for line in numbers]
    if len(counted) < len(code) or not all(line.isdigit() for line in counted) or len(counted[0]) > 6:
        return None
    first = int(counted[0])
    return listings[1] if counted == [str(first + index) for index in range(len(counted))] else None


def _fit(cell: Node, told: Told) -> Node:
    return cell.with_content(fitted(cell.kind, cell.content, told.flattened))
