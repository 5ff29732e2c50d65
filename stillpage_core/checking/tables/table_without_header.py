"""A table none of whose cells names a row or a column.

WCAG 2.2, 1.3.1 Info and Relationships (A); techniques H51 and H63; failure F91.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ...document.changes import ReplaceNodes
from ...document.node import Node
from ...document.walking import text_of
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .grids import for_layout, grids

LONGEST = 60
"""The most characters of a name; what is longer says something of what is named."""
_CODE = frozenset("\\{}<>=|")

RULE = CheckRule(
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
            own = {id(cell) for _, cell in named}
            others = [cell for cell in table.cells if id(cell) not in own]
            if several and _may_be_headers([cell for _, cell in named], others):
                changes = tuple(
                    ReplaceNodes(path, 1, (Node("table_header", cell.attrs, cell.content),)) for path, cell in named
                )
                repairs.append(Repair(f"Let the first {what} be the header", changes))
        yield RULE.finding("This table has no header cells.", table.path[:-1], None, *repairs)


def _may_be_headers(cells: Sequence[Node], others: Sequence[Node]) -> bool:
    """Whether cells may be the names of rows or columns: each a few words of its own and nothing else, and no figure
    where the others hold figures."""
    names = [text_of(cell).strip() for cell in cells]
    if len(set(map(str.casefold, names))) < len(names) or not all(map(_is_name, names)):
        return False
    plain = all(
        block.kind == "paragraph" and all(child.kind == "text" for child in block.content)
        for cell in cells
        for block in cell.content
    )
    figures = sum(_has_figure(text_of(cell)) for cell in others) * 2 > len(others)
    return plain and not (figures and any(map(_has_figure, names)))


def _has_figure(text: str) -> bool:
    return any(map(str.isdigit, text))


def _is_name(text: str) -> bool:
    letters = sum(map(str.isalpha, text))
    return letters > 1 and len(text) <= LONGEST and text[-1] not in ".;!" and not _CODE.intersection(text)
