"""A document shown in the page that the library no longer has. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import taken_away

RULE = CheckRule(
    id="paper-gone",
    title="A document in the page that is gone",
    whom="Readers would see nothing here.",
    source="Common practice",
    severity="blocks",
    means="The document was removed from the media library for good.",
    right="Show another document, or take this one away. Its caption stays as text.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("paper"):
        if subject.resolver.item(placed.node.attrs["item"]) is None:
            sentence = "This document is no longer in the media library."
            yield RULE.finding(sentence, placed.path, None, taken_away(subject, placed))
