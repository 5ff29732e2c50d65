"""Cells of a larger table that no header cell names, although others are named.

WCAG 2.2, 1.3.1 Info and Relationships (A); techniques H51 and H63; failure F91. From which size on is as axe-core has
it: three rows and three columns.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.tables import grid_of
from ...document.walking import text_of
from ...writing.html import header_scopes
from ..finding import Finding, Rule
from ..subject import Subject
from .grids import Table, grids

SMALLEST = 3

RULE = Rule(
    id="table-cell-unnamed",
    title="Cells that no header names",
    whom="Readers with a screen reader, who hear a figure and not what it is the figure of.",
    source="WCAG 2.2, 1.3.1; techniques H51 and H63, failure F91",
    severity="mend",
    means="Some header cells are there, but other cells have none above them in their column, nor before them in their "
    "row.",
    right="Let the whole first row, the whole first column, or both, be header cells.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for table in grids(subject):
        if table.headed and table.width >= SMALLEST and len(table.grid.content) >= SMALLEST:
            number = _unnamed(table)
            if number:
                what = "A cell of this table stands" if number == 1 else f"{number} cells of this table stand"
                yield RULE.finding(f"{what} under no header.", table.path[:-1])


def _unnamed(table: Table) -> int:
    places = grid_of(table.grid.content).places
    scopes = header_scopes(table.grid)
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
