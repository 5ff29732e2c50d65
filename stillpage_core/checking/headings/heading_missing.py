"""A long text without any heading.

WCAG 2.2, 2.4.10 Section Headings (AAA); techniques G141 and H69. How long a text may be is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...measuring import count_words
from ..finding import CheckRule, Finding
from ..subject import Subject

LONGEST = 300
"""The most words that a text without a heading should have."""

RULE = CheckRule(
    id="heading-missing",
    title="A long text without a heading",
    whom="Readers who look a page over for their own question, by eye or by jumping from heading to heading.",
    source="WCAG 2.2, 2.4.10; techniques G141 and H69",
    severity="look",
    means="Most readers do not begin at the top; they look for the part that answers their question. Headings are "
    "what they look at, and a screen reader lists them. In a text without any, there is nothing to find.",
    right="Put a heading above each part, which says what the part is about. Main parts are of level 2.",
)


def check(subject: Subject) -> Iterator[Finding]:
    if subject.headings:
        return
    number = sum(count_words(words.flat) for words in subject.words if words.kind != "preformatted")
    if number > LONGEST:
        sentence = f"These {number} words have no heading among them."
        yield RULE.finding(sentence, (), about="no heading")
