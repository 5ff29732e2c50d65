"""An animation that the library no longer has. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import taken_away

RULE = CheckRule(
    id="animation-gone",
    title="An animation that is gone",
    whom="Readers would see nothing here.",
    source="Common practice",
    severity="blocks",
    means="The item was removed from the media library for good, or is no animation.",
    right="Choose another one, or take this one away. Its caption stays as text.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("animation"):
        if subject.resolver.animation(placed.node.attrs["item"]) is None:
            sentence = "This animation is no longer in the media library."
            yield RULE.finding(sentence, placed.path, None, taken_away(subject, placed))
