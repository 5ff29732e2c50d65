"""A table without a caption on a page that has several.

WCAG 2.2, 1.3.1 Info and Relationships (A); technique H39, Using caption elements.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .grids import for_layout, grids

RULE = CheckRule(
    id="table-without-caption",
    title="A table without a caption among several",
    whom="Readers with a screen reader, which lists the tables of a page by their captions.",
    source="WCAG 2.2, 1.3.1; technique H39",
    severity="look",
    means="Where a page has several tables, readers look for one of them. In a list of tables, those without a caption "
    "have no name.",
    right="Give each a caption that says what it shows.",
)


def check(subject: Subject) -> Iterator[Finding]:
    tables = [table for table in grids(subject) if not for_layout(table)]
    if len(tables) < 2:
        return
    for table in tables:
        if not table.caption:
            yield RULE.finding(f"This table, one of {len(tables)} here, has no caption.", table.path[:-1])
