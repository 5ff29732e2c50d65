"""A list of downloads without a document. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import make
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .download_gone import titled

RULE = CheckRule(
    id="downloads-empty",
    title="A list of downloads without a document",
    whom="Readers, who see nothing where something was meant to be.",
    source="Common practice",
    severity="mend",
    means="The list has no document yet, or none any more.",
    right="Put documents into the list, or take it away.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("downloads"):
        if not placed.node.content:
            left = titled(placed.node) or (make("paragraph"),)
            repair = Repair("Take the list away", (ReplaceNodes(placed.path, 1, left),))
            sentence = "This list of downloads holds no document; readers see none of it."
            yield RULE.finding(sentence, placed.path, None, repair)
