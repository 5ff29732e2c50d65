"""The tables of a page with what the checks ask of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...document.node import Node
from ...document.tables import grid_of
from ...document.walking import text_of
from ...errors import Path
from ...writing.html import header_scopes
from ..subject import Subject

SMALLEST = 3
"""From how many rows and columns on each cell needs a header, as axe-core has it (its rule td-has-header)."""


@dataclass(frozen=True)
class Table:
    """A table: the path of its grid, the grid, its width in columns, the words of its caption, and whether any of its
    cells is a header."""

    path: Path
    grid: Node
    width: int
    caption: str
    headed: bool

    @property
    def cells(self) -> list[Node]:
        return [cell for row in self.grid.content for cell in row.content]


def grids(subject: Subject) -> Iterator[Table]:
    """Every table in reading order."""
    for placed in subject.nodes("table"):
        *captions, grid = placed.node.content
        headed = any(cell.kind == "table_header" for row in grid.content for cell in row.content)
        caption = text_of(captions[0]).strip() if captions else ""
        width = grid_of(grid.content).width
        yield Table((*placed.path, len(captions)), grid, width, caption, headed)


def for_layout(table: Table) -> bool:
    """Whether a table seems to be there only to set things side by side: it has no header and no caption, and has one
    column, or one row, or cells that hold whole pieces of a page."""
    if table.headed or table.caption:
        return False
    if table.width == 1 or len(table.grid.content) == 1:
        return True
    return sum(_is_piece(cell) for cell in table.cells) * 2 > len(table.cells)


def _is_piece(cell: Node) -> bool:
    """Whether a cell holds a piece of a page rather than a fact: a picture, or several blocks, or many words."""
    return len(cell.content) > 1 or any(block.kind == "picture" for block in cell.content) or len(text_of(cell)) > 300


def unnamed(grid: Node) -> int:
    """How many cells with something in them no header names, although the table has headers and is large enough."""
    known = grid_of(grid.content)
    places = known.places
    headed = any(place.cell.kind == "table_header" for place in places)
    if not headed or known.width < SMALLEST or len(grid.content) < SMALLEST:
        return 0
    scopes = header_scopes(grid)
    columns: set[int] = set()
    rows: set[int] = set()
    number = 0
    for place in places:
        cell = place.cell
        across = range(place.column, place.column + cell.attrs["colspan"])
        down = range(place.row, place.row + cell.attrs["rowspan"])
        if cell.kind == "table_header":
            if next(scopes) == "row":
                rows.update(down)
            else:
                columns.update(across)
        elif not (columns.intersection(across) or rows.intersection(down)):
            number += bool(text_of(cell).strip()) or any(block.kind == "picture" for block in cell.content)
    return number
