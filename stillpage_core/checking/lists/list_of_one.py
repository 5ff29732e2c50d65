"""A list of one item. Common practice; technique H48 speaks of lists as of several items."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ..finding import CheckRule, Finding, Repair
from ..space import is_empty
from ..subject import Placed, Subject
from .joining import after_empty, goes_on, joined, reach

RULE = CheckRule(
    id="list-of-one",
    title="A list of one item",
    whom="Readers with a screen reader, who hear “list, 1 item” and ask themselves what is missing.",
    source="Common practice; technique H48",
    severity="look",
    means="A list says that things stand side by side. One thing does not.",
    right="Make it a paragraph, or add what belongs beside it. A list with one note, to which a sign in the text "
    "leads, is right.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("bulleted_list", "numbered_list"):
        items = placed.node.content
        continued = placed.node.kind == "numbered_list" and placed.node.attrs["start"] > 1
        if len(items) > 1 or items[0].attrs["anchor"] or continued or _is_part(placed, subject):
            continue
        yield RULE.finding(
            "This list has one item only.",
            placed.path,
            None,
            *([] if is_empty(items[0].content[0]) else [_as_paragraph(placed, subject)]),
        )


def _is_part(placed: Placed, subject: Subject) -> bool:
    """Whether the list is only a part of one that is broken, which is told by itself."""
    blocks, index = subject.at(placed.path[:-1]).content, placed.path[-1]
    before, behind = after_empty(blocks, index - 1, -1), after_empty(blocks, index + 1)
    goes_before = before >= 0 and goes_on(blocks[before], placed.node)
    return goes_before or (behind < len(blocks) and goes_on(placed.node, blocks[behind]))


def _as_paragraph(placed: Placed, subject: Subject) -> Repair:
    """The item's blocks in the list's place; a list at their edge becomes one with what it goes on with there."""
    new = [block for block in placed.node.content[0].content if not is_empty(block)]
    above, index = placed.path[:-1], placed.path[-1]
    blocks = subject.at(above).content
    first, end = reach(blocks, index, index + 1, new)
    whole = joined([*blocks[first:index], *new, *blocks[index + 1 : end]])
    return Repair("Make it a paragraph", (ReplaceNodes((*above, first), end - first, tuple(whole)),))
