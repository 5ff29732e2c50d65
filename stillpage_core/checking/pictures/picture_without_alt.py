"""A picture without alt text that is not marked as decorative.

WCAG 2.2, 1.1.1 Non-text Content (A); techniques H37 and H67; failure F65.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .shown import pictures

RULE = CheckRule(
    id="picture-without-alt",
    title="A picture without alt text",
    whom="Readers who cannot see the picture are told nothing about it.",
    source="WCAG 2.2, 1.1.1; technique H37, failure F65",
    severity="blocks",
    means="The alt text is heard, or shown, in the picture's place. Without it, a screen reader says “graphic”, or "
    "spells the name of the file.",
    right="Say in a sentence what the picture is there to tell. If it tells nothing, say that it is decoration; that "
    "is a choice, not an oversight.",
    right_example="Two volunteers lift a balance beam into place",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        if not use.decorative and not use.alt:
            yield RULE.finding(
                f"The picture “{use.target.title}” has no alt text.",
                use.path,
                None,
                Repair(
                    "It is decoration only: let screen readers pass over it",
                    (SetAttributes(use.path, {"decorative": True}),),
                ),
            )
