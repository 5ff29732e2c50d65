"""A call to action without a destination, or without words.

WCAG 2.2, 2.4.4 Link Purpose (A) and 4.1.2. That a call leads somewhere is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="call-without-destination",
    title="A call to action that leads nowhere",
    whom="Readers who press it, and nothing happens.",
    source="Common practice; WCAG 2.2, 2.4.4 and 4.1.2",
    severity="blocks",
    means="A call to action stands out so that it is pressed. Without a destination, or without words, it is only "
    "paint.",
    right="Choose where it leads, and say in it what the reader will do there.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        if words.kind != "call_to_action":
            continue
        if not words.flat.strip():
            yield RULE.finding("A call to action has no words.", words.path)
        elif words.node.attrs["href"] is None:
            yield RULE.finding(f"{said(words.flat)} leads nowhere yet. Choose a destination.", words.path)
