"""A header cell without words.

WCAG 2.2, 1.3.1 Info and Relationships (A); technique H51; HTML Living Standard, 4.9.10 (a th names cells).
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes, apply
from ...document.node import Node
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .grids import unnamed

RULE = CheckRule(
    id="table-header-empty",
    title="A header cell without words",
    whom="Readers with a screen reader, who are told of a heading for a row or a column, and hear nothing.",
    source="WCAG 2.2, 1.3.1; technique H51",
    severity="mend",
    means="A header cell names its row or its column. The cell in the corner, where both meet, names neither: it is an "
    "ordinary, empty cell.",
    right="Write what the row or the column is about, or make the cell an ordinary one.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("table_header"):
        if _says_something(placed.node, subject):
            continue
        ordinary = Node("table_cell", placed.node.attrs, placed.node.content)
        grid = subject.at(placed.path[:-2])
        without = apply(grid, (ReplaceNodes(placed.path[-2:], 1, (ordinary,)),))
        others = any(cell.kind == "table_header" for row in without.content for cell in row.content)
        # Another header has to be left, and no cell may lose the one that names it.
        repair = Repair("Make it an ordinary cell", (ReplaceNodes(placed.path, 1, (ordinary,)),))
        helps = others and unnamed(without) <= unnamed(grid)
        yield RULE.finding("A header cell of this table has no words.", placed.path, None, *([repair] if helps else []))


def _says_something(node: Node, subject: Subject) -> bool:
    """Whether a name can be made of what is in a node; an equation gives none."""
    if node.kind == "picture":
        there = subject.resolver.picture(node.attrs["item"]) is not None
        return there and bool(node.attrs["caption"] or subject.alt_of(node))
    return bool(node.text.strip()) or any(_says_something(child, subject) for child in node.content)
