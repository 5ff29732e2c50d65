"""A heading all in capitals. Common practice: word shapes are lost, and some screen readers spell capitals out."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import in_capitals, recased, said

FEWEST = 6
"""From how many letters on; fewer may be a short form."""

RULE = CheckRule(
    id="heading-capitals",
    title="A heading all in capitals",
    whom="Readers who read slowly or see little: words in capitals all have the same shape. Some screen readers spell "
    "them out.",
    source="Common practice",
    severity="mend",
    means="Capitals are meant to be loud, but they are slower to read, and it can no longer be seen which words are "
    "names or short forms.",
    right="Write the heading as a sentence is written. Should a site's headings be in capitals, its theme can show "
    "them so, and the words stay as they are.",
    wrong_example="HOW TO APPLY",
    right_example="How to apply",
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        if words.kind != "heading" or not in_capitals(words.flat, FEWEST):
            continue
        changes = recased(words, 0, len(words.flat), begins=True)
        yield RULE.finding(
            f"The heading {said(words.flat)} is all in capitals.",
            words.path,
            None,
            *([Repair("Write it as a sentence; then give names their capitals back", changes)] if changes else []),
        )
