"""A list of pages to read next without a page. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import make, text_node
from ...document.walking import text_of
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
    id="read-next-empty",
    title="A list of pages to read next without a page",
    whom="Readers, who see nothing where something was meant to be.",
    source="Common practice",
    severity="mend",
    means="The list has no page yet, or none any more.",
    right="Put pages into the list, or take it away.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("read_next"):
        if not any(each.attrs["href"] for each in placed.node.content):
            words = text_of(placed.node).split("\n") if text_of(placed.node) else []
            left = tuple(make("paragraph", [text_node(each)]) for each in words if each) or (make("paragraph"),)
            repair = Repair("Take the list away", (ReplaceNodes(placed.path, 1, left),))
            sentence = "This list holds no page to read next; readers see none of it."
            yield RULE.finding(sentence, placed.path, None, repair)
