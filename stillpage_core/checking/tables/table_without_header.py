"""A table none of whose cells names a row or a column.

WCAG 2.2, 1.3.1 Info and Relationships (A); techniques H51 and H63; failure F91.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import Node
from ..finding import Finding, Repair, Rule
from ..subject import Subject
from .grids import for_layout, grids

RULE = Rule(
    id="table-without-header",
    title="A table without header cells",
    whom="Readers with a screen reader, who hear a figure and not what it is the figure of.",
    source="WCAG 2.2, 1.3.1; techniques H51 and H63, failure F91",
    severity="mend",
    means="With header cells, a screen reader says “Rise: 2.1 metres”. Without, it says “2.1 metres”, and whoever "
    "hears it has to count columns.",
    right="Make the first row, the first column, or both, header cells.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for table in grids(subject):
        if table.headed or for_layout(table):
            continue
        rows = table.grid.content
        first_row = [(*table.path, 0, index) for index in range(len(rows[0].content))]
        first_column = [(*table.path, index, 0) for index, row in enumerate(rows) if row.content]
        repairs = []
        for what, cells, several in (
            ("row", first_row, len(rows) > 1),
            ("column", first_column, table.width > 1),
        ):
            named = [(path, subject.at(path)) for path in cells]
            if several and all(_is_filled(cell) for _, cell in named):
                changes = tuple(
                    ReplaceNodes(path, 1, (Node("table_header", cell.attrs, cell.content),)) for path, cell in named
                )
                repairs.append(Repair(f"Let the first {what} be the header", changes))
        yield RULE.finding("This table has no header cells.", table.path[:-1], None, *repairs)


def _is_filled(cell: Node) -> bool:
    return any(child.text.strip() for block in cell.content for child in block.content)
