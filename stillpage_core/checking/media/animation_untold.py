"""An animation without words for who does not see it.

WCAG 2.2, 1.1.1 Non-text Content (A).
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
    id="animation-untold",
    title="An animation without words",
    whom="Readers who cannot see it are told nothing about it.",
    source="WCAG 2.2, 1.1.1",
    severity="blocks",
    means="Its words are heard in its place. Without them a screen reader finds a picture of which nothing is known.",
    right="Say in a sentence what is seen to happen. If it tells nothing, say that it is decoration.",
    right_example="A lock fills: the boat rises as water comes in",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("animation"):
        target, attrs = subject.resolver.animation(placed.node.attrs["item"]), placed.node.attrs
        if target is not None and not attrs["decorative"] and not (attrs["alt"] or target.alt).strip():
            label = "It is decoration only: let screen readers pass over it"
            repair = Repair(label, (SetAttributes(placed.path, {"decorative": True}),))
            yield RULE.finding(f"The animation “{target.title}” has no words.", placed.path, None, repair)
