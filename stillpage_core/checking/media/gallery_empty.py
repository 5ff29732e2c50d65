"""A gallery or a slideshow without a picture. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.fitting import said_of
from ...document.node import make
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
    id="gallery-empty",
    title="A gallery or slideshow without a picture",
    whom="Readers, who see nothing where something was meant to be.",
    source="Common practice",
    severity="mend",
    means="It has no picture yet, or none any more.",
    right="Put pictures into it, or take it away.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("gallery", "slideshow"):
        if not placed.node.content:
            named = placed.node.kind
            left = tuple(said_of(placed.node)) or (make("paragraph"),)
            repair = Repair(f"Take the {named} away", (ReplaceNodes(placed.path, 1, left),))
            yield RULE.finding(f"This {named} holds no picture; readers see none of it.", placed.path, None, repair)
