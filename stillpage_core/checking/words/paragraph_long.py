"""A long paragraph. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...measuring import count_words
from ...splitting import words_of
from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

LONGEST = 120
"""The most words that a paragraph should have."""

RULE = CheckRule(
    id="paragraph-long",
    title="A long paragraph",
    whom="Readers on a phone, where it fills the screen, and everybody who looks a page over.",
    source="Common practice",
    severity="look",
    means=f"A paragraph of more than {LONGEST} words is a grey field. Readers skip it, or lose the line.",
    right="Begin a new paragraph with each new thought.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.running:
        # Never fewer words than are counted, where a hyphen joins two to one, and known already.
        if len(words_of(words.flat)) > LONGEST and (number := count_words(words.flat)) > LONGEST:
            yield RULE.finding(f"The paragraph {said(words.flat, 30)} has {number} words.", words.path)
