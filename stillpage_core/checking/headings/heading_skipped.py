"""A heading that skips a level.

WCAG 2.2, 1.3.1 Info and Relationships (A) and 2.4.6; technique G141, Organizing a page using headings; H42.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

from ...document.changes import SetAttributes
from ...document.outline import Entry
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="heading-skipped",
    title="A heading that skips a level",
    whom="Readers who jump from heading to heading with a screen reader look for the level in between.",
    source="WCAG 2.2, 1.3.1; technique G141",
    severity="mend",
    means="The levels of headings say what belongs to what, as numbers of chapters do. Below a heading of level 2 "
    "come those of level 3; where level 4 comes at once, something seems to be missing.",
    right="Take the level that says what the heading is part of. Should it look smaller: that is the theme's doing.",
    wrong_example="2 Walks, below it: 4 To Lock 4",
    right_example="2 Walks, below it: 3 To Lock 4",
)


def check(subject: Subject) -> Iterator[Finding]:
    above = 1
    for index, heading in enumerate(subject.headings):
        if heading.level > above + 1:
            fitting = above + 1
            before = "the page's title" if above == 1 else f"a heading of level {above}"
            name = said(heading.text) if heading.text else "“An empty heading”"
            changes = tuple(_moved_along(subject.headings[index:], fitting))
            label = f"Make it a heading of level {fitting}"
            if len(changes) > 1:
                label += ", and move those below it along"
            yield RULE.finding(
                f"{name} is of level {heading.level}, but stands below {before}.",
                heading.path,
                None,
                Repair(label, changes),
            )
        above = heading.level


def _moved_along(headings: Sequence[Entry], level: int) -> Iterator[SetAttributes]:
    """The first heading set to a level, with all that stand beside and below it; and those behind them that would skip
    one then, and did not before."""
    first = headings[0].level
    together = True
    yield SetAttributes(headings[0].path, {"level": level})
    by = first - level
    for before, heading in pairwise(headings):
        together = together and heading.level >= first
        if together:
            level = heading.level - by
        elif heading.level <= level + 1 or heading.level > before.level + 1:
            return
        else:
            level = min(level + 1, level + max(0, heading.level - before.level))
        yield SetAttributes(heading.path, {"level": level})
