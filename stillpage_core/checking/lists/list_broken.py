"""A list that is broken in two, by empty paragraphs or by nothing at all.

WCAG 2.2, 1.3.1 Info and Relationships (A); technique H48; failure F43.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import Node
from ...document.walking import walk
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .containers import containers
from .joining import LISTS, after_empty, goes_on

RULE = CheckRule(
    id="list-broken",
    title="A list broken in two",
    whom="Readers with a screen reader, who hear of two lists where there is one; a numbered one may begin anew.",
    source="WCAG 2.2, 1.3.1; technique H48",
    severity="mend",
    means="Two lists of the same sort with nothing between them, or with empty paragraphs only, are one list to the "
    "eye. A screen reader ends the first, and counts the items of each by itself.",
    right="Join them. A longer break between items is the theme's doing.",
)


def _is_menu(block: Node) -> bool:
    """Whether a list holds links and nothing else, but for one that is the page itself. Two such lists side by side
    are two ways about, each whole."""
    found = [node for _, node in walk(block) if node.kind == "text" and node.text.strip()]
    plain = sum(not any(mark.kind == "link" for mark in node.marks) for node in found)
    return len(found) > 1 and plain < 2


def check(subject: Subject) -> Iterator[Finding]:
    for path, blocks in containers(subject):
        for index, block in enumerate(blocks):
            if block.kind not in LISTS:
                continue
            end = after_empty(blocks, index + 1)
            if end == len(blocks) or not goes_on(block, blocks[end]) or (_is_menu(block) and _is_menu(blocks[end])):
                continue
            one = block.with_content([*block.content, *blocks[end].content])
            yield RULE.finding(
                "This list ends, and goes on as another list below.",
                (*path, end),
                None,
                Repair("Join the two", (ReplaceNodes((*path, index), end - index + 1, (one,)),)),
            )
