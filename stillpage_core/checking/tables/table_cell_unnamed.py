"""Cells of a larger table that no header cell names, although others are named.

WCAG 2.2, 1.3.1 Info and Relationships (A); techniques H51 and H63; failure F91.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .grids import grids, unnamed

RULE = CheckRule(
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
        if number := unnamed(table.grid):
            what = "A cell of this table stands" if number == 1 else f"{number} cells of this table stand"
            yield RULE.finding(f"{what} under no header.", table.path[:-1])
