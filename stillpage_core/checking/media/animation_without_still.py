"""An animation without a still frame.

WCAG 2.2, 2.3.3 Animation from Interactions (AAA), is for readers who want things to stand still; that something is to
be seen without script is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject

RULE = CheckRule(
    id="animation-without-still",
    title="An animation without a still frame",
    whom="Readers who want things to stand still, and those whose browser runs no script: they see an empty place.",
    source="Common practice; WCAG 2.2, 2.3.3",
    severity="look",
    means="A still frame is drawn in the background when an animation comes into the library. Of some it cannot be.",
    right="Wait a moment. If none comes, export the animation again with simpler means (shapes instead of effects).",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("animation"):
        target = subject.resolver.animation(placed.node.attrs["item"])
        if target is not None and not any(file.cut.startswith("still-") for file in target.files):
            why = f" {target.problem}" if target.problem else ""
            sentence = f"There is no still frame of “{target.title}” yet.{why}"
            yield RULE.finding(sentence, placed.path, None, about=f"{target.number}")
