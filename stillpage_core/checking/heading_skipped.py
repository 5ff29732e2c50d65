"""A heading that skips a level.

WCAG 2.2, 1.3.1 Info and Relationships (A) and 2.4.6; technique G141, Organizing a page using headings; H42.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..document.changes import SetAttributes
from ..document.node import Node
from ..document.outline import outline
from ..resolving import Resolver
from .finding import Finding, Repair

_WHOM = "Readers who jump from heading to heading with a screen reader look for the level in between."
_SOURCE = "WCAG 2.2, 1.3.1; technique G141"


def check(document: Node, resolver: Resolver) -> Iterator[Finding]:
    above = 1
    for heading in outline(document):
        if heading.level > above + 1:
            fitting = above + 1
            before = "the page's title" if above == 1 else f"a heading of level {above}"
            yield Finding(
                "heading-skipped",
                f"“{heading.text or 'An empty heading'}” is of level {heading.level}, but stands below {before}.",
                _WHOM,
                _SOURCE,
                "mend",
                heading.path,
                repairs=(
                    Repair(f"Make it a heading of level {fitting}", (SetAttributes(heading.path, {"level": fitting}),)),
                ),
            )
        above = heading.level
