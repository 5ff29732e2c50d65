"""A description that is cut off in a search result. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...sites.search_result import DESCRIPTION_LENGTH
from ..finding import CheckRule, Finding
from ..subject import Subject

RULE = CheckRule(
    id="description-cut",
    title="A description too long for a search result",
    whom="Readers who search: its end is cut off.",
    source="Common practice",
    severity="look",
    means=f"About {DESCRIPTION_LENGTH} characters of a description are shown below the title.",
    right="Say the most important first, and end before that.",
)


def check(subject: Subject) -> Iterator[Finding]:
    length = len((subject.around.description or "").strip())
    if length > DESCRIPTION_LENGTH:
        sentence = f"The description is {length} characters long; about {DESCRIPTION_LENGTH} are shown."
        yield RULE.finding(sentence, (), about=subject.around.description)
