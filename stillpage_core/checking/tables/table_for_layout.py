"""A table that is there only to set things side by side.

WCAG 2.2, 1.3.1 and 1.3.2 Meaningful Sequence (A); failures F46 and F49.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import Node
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .grids import Table, for_layout, grids

RULE = CheckRule(
    id="table-for-layout",
    title="A table used to set things side by side",
    whom="Readers with a screen reader, who are told of rows and columns that mean nothing; readers on a phone, who "
    "have to scroll sideways.",
    source="WCAG 2.2, 1.3.1 and 1.3.2; failures F46 and F49",
    severity="mend",
    means="A table says that its cells belong together by rows and by columns. Where they only stand side by side, the "
    "table is paint.",
    right="Let the parts stand one below the other, or place the picture so that the text flows round it.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for table in grids(subject):
        if for_layout(table):
            parts = _parts(table)
            yield RULE.finding(
                "This table seems to be there only to set things side by side.",
                table.path[:-1],
                None,
                *(
                    [Repair("Let the parts stand one below the other", (ReplaceNodes(table.path[:-1], 1, parts),))]
                    if parts
                    else []
                ),
            )


def _parts(table: Table) -> tuple[Node, ...]:
    """What the cells hold, row by row, without paragraphs that are empty."""
    blocks = [block for cell in table.cells for block in cell.content]
    return tuple(block for block in blocks if block.kind != "paragraph" or block.content)
