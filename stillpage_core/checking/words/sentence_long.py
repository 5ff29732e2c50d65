"""A long sentence. Common practice; WCAG 2.2, 3.1.5 Reading Level (AAA), technique G153."""

from __future__ import annotations

from collections.abc import Iterator

from ...measuring import count_words
from ...splitting import sentences, split, words_of
from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

LONGEST = 35
"""The most words that a sentence should have."""

RULE = CheckRule(
    id="sentence-long",
    title="A long sentence",
    whom="Readers who read slowly, who read in a language they have learned, or who listen: at its end its beginning "
    "is forgotten.",
    source="Common practice; WCAG 2.2, 3.1.5, technique G153",
    severity="look",
    means=f"A sentence of more than {LONGEST} words has to be held in mind all at once.",
    right="Make it two. Say first what matters, then its conditions; several of those are a list.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.running:
        if len(words_of(words.flat)) <= LONGEST:
            continue
        for start, end in sentences(words.flat):
            text = words.flat[start:end]
            # Never fewer words than are counted, where a hyphen joins two to one, and found more quickly.
            most = len(split(text)) if len(text) > LONGEST * 3 else 0
            if most > LONGEST and (number := count_words(text)) > LONGEST:
                span = words.span(start, end)
                yield RULE.finding(f"The sentence {said(text, 30)} has {number} words.", words.path, span)
