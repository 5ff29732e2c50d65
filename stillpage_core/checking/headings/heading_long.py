"""A heading that is a whole sentence or more. Common practice; WCAG 2.2, 2.4.6, asks that headings describe."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

LONGEST = 80
"""The most characters that a heading should have."""

RULE = CheckRule(
    id="heading-long",
    title="A very long heading",
    whom="Readers who look the headings over, and those who hear them one after another.",
    source="Common practice; WCAG 2.2, 2.4.6",
    severity="look",
    means=f"A heading is read at a glance, in a list of headings, in the Outline. Beyond {LONGEST} characters it is a "
    "sentence of the text, set large.",
    right="Keep the words that name the part, and let the rest begin the text below.",
    wrong_example="What you should know about the state of the towpath before you set out for a walk in winter",
    right_example="The towpath in winter",
)


def check(subject: Subject) -> Iterator[Finding]:
    for heading in subject.headings:
        if len(heading.text) > LONGEST:
            yield RULE.finding(
                f"The heading {said(heading.text, 40)} is {len(heading.text)} characters long.", heading.path
            )
