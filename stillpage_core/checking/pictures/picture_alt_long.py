"""An alt text longer than a screen reader takes well. Common practice; WCAG 2.2, 1.1.1, technique G95 (short text)."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .shown import pictures

LONGEST = 200
"""In characters. Common practice: some screen readers part what is longer, and none can go back within it."""

RULE = CheckRule(
    id="picture-alt-long",
    title="A very long alt text",
    whom="Readers with a screen reader, who hear it in one breath and cannot go back within it.",
    source="Common practice; technique G95",
    severity="look",
    means=f"An alt text is read as one piece. Beyond {LONGEST} characters, whoever misses a word has to hear it all "
    "again.",
    right="Say in a sentence what matters, and tell the rest in the text or the caption, where everybody has it.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        if not use.decorative and len(use.alt) > LONGEST:
            yield RULE.finding(f"The alt text is {len(use.alt)} characters long.", use.path, about=use.alt)
