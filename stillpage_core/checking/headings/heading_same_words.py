"""The same heading twice under one heading.

WCAG 2.2, 2.4.6 Headings and Labels (AA); technique G130, Providing descriptive headings.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import plain_words, said
from .siblings import siblings

RULE = CheckRule(
    id="heading-same-words",
    title="The same heading twice in one part",
    whom="Readers who go by the list of headings cannot tell the two apart.",
    source="WCAG 2.2, 2.4.6; technique G130",
    severity="look",
    means="Two headings of the same words under the same heading name two parts by one name. In a list of headings, "
    "nobody knows which is which.",
    right="Say in each what the other is not: “Parking at the north end”, “Parking at the south end”. Or make them one "
    "part.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for group in siblings(subject.headings):
        seen: set[str] = set()
        for heading in group:
            words = plain_words(heading.text)
            if words and words in seen:
                yield RULE.finding(f"{said(heading.text)} is the second heading here of these words.", heading.path)
            seen.add(words)
