"""A picture that weighs more than one picture should. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...media.labels import in_words
from ...media.shown import taken_by_most
from ..finding import CheckRule, Finding
from ..subject import Subject
from .shown import pictures

HEAVIEST = 500_000
"""What most readers should load for one picture, in bytes."""

RULE = CheckRule(
    id="picture-heavy",
    title="A heavy picture",
    whom="Readers on a phone or a slow line, who wait for it, and pay for it.",
    source="Common practice",
    severity="look",
    means=f"Most readers load more than {in_words(HEAVIEST)} for this picture alone. Moving pictures and drawings "
    "with a great many lines are the usual reason; of photographs, lighter files are made by themselves.",
    right="Show it smaller, crop it, or take a film in place of a moving picture.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        if not use.target.files:
            continue
        size = taken_by_most(use.target, use.node.attrs, subject.room_of(use.path)).size
        if size > HEAVIEST:
            yield RULE.finding(f"Most readers load {in_words(size)} for the picture “{use.target.title}”.", use.path)
