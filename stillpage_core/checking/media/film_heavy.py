"""A film that begins by itself, and so is loaded by every reader, is heavy. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetAttributes
from ...media.labels import in_words
from ...media.playing import sources
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .films import played

HEAVY = 4_000_000
"""Bytes that no reader should load without asking: about ten seconds on a slow mobile network (common practice)."""

RULE = CheckRule(
    id="film-heavy",
    title="A heavy film that begins by itself",
    whom="Readers on slow or costly connections.",
    source="Common practice",
    severity="look",
    means="A film that begins by itself is loaded by everybody who opens the page. "
    f"More than {in_words(HEAVY)} is much.",
    right="Let readers press play, or take a shorter or smaller film.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in played(subject):
        if not use.node.attrs.get("autoplay"):
            continue
        first = next((each.address for each in sources(use.target) if not each.media), None)
        size = next((file.size for file in use.target.files if file.address == first), 0)
        if size > HEAVY:
            repair = Repair("Let readers press play", (SetAttributes(use.path, {"autoplay": False}),))
            sentence = f"{use.named} begins by itself and loads {in_words(size)}."
            yield RULE.finding(sentence, use.path, None, repair)
