"""A film or sound that the library no longer has. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import taken_away

RULE = CheckRule(
    id="film-gone",
    title="A film or sound that is gone",
    whom="Readers would find nothing here.",
    source="Common practice",
    severity="blocks",
    means="The item was removed from the media library for good, or is no film or sound.",
    right="Choose another one, or take this one away. Its caption stays as text.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("film", "sound"):
        target = subject.resolver.film(placed.node.attrs["item"])
        if target is None or target.kind != placed.node.kind:
            sentence = f"This {placed.node.kind} is no longer in the media library."
            yield RULE.finding(sentence, placed.path, None, taken_away(subject, placed))
    for placed in subject.nodes("hosted"):
        if subject.resolver.hosted(placed.node.attrs["item"]) is None:
            sentence = "This film, which stands at another host, is no longer in the media library."
            yield RULE.finding(sentence, placed.path, None, taken_away(subject, placed))
