"""A list typed by hand: paragraphs or lines that begin with a sign or count up.

WCAG 2.2, 1.3.1 Info and Relationships (A); failure F2; technique H48, Using ol, ul and dl for lists.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import Node, document_of
from ...reading.mending import typed_lists
from ...writing.text import plain_text
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said
from .containers import containers
from .joining import joined, reach

RULE = CheckRule(
    id="list-typed",
    title="A list typed by hand",
    whom="Readers with a screen reader, who are not told that a list begins, nor how many items it has.",
    source="WCAG 2.2, 1.3.1; failure F2, technique H48",
    severity="mend",
    means="Lines that begin with a dash or a number look like a list. To a screen reader they are so many paragraphs; "
    "on a narrow screen their second lines begin below the sign instead of beside it.",
    right="Make it a list. Typing a sign and a space at the beginning of a paragraph does so at once.",
    wrong_example="- gloves\n- boots",
    right_example="• gloves\n• boots",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    for path, blocks in containers(subject):
        for typed, (first, end, made) in _regions(blocks):
            begin = plain_text(document_of(blocks[typed : typed + 1])).split("\n")[0]
            change = ReplaceNodes((*path, first), end - first, tuple(made))
            yield RULE.finding(
                f"The lines from {said(begin, 40)} on are a list that was typed by hand.",
                (*path, typed),
                None,
                Repair("Make it a list", (change,)),
            )


def _regions(blocks: tuple[Node, ...]) -> Iterator[tuple[int, tuple[int, int, list[Node]]]]:
    """Where typed lists begin, and what is to be changed for each: first, end, and what comes there. Those that become
    one list with the same list beside them are one."""
    open_region: tuple[int, int, int, list[Node]] | None = None
    for typed, count, made in typed_lists(blocks):
        first, end = reach(blocks, typed, typed + count, made)
        new = [*blocks[first:typed], *made, *blocks[typed + count : end]]
        if open_region and first < open_region[2]:
            begun, start, until, before = open_region
            rest = [*made, *blocks[typed + count : end]]
            open_region = (begun, start, end, [*before, *blocks[until:typed], *rest])
            continue
        if open_region:
            yield open_region[0], (*open_region[1:3], joined(open_region[3]))
        open_region = (typed, first, end, new)
    if open_region:
        yield open_region[0], (*open_region[1:3], joined(open_region[3]))
