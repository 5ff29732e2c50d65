"""Captions that readers have and that leave out what is heard, go too fast, or are hard to read.

WCAG 2.2, 1.2.2; the figures and their sources stand with the rules (`media.captions`).
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import played

RULE = CheckRule(
    id="captions-wanting",
    title="Captions with something to mend",
    whom="Readers who follow a film by its captions.",
    source="WCAG 2.2, 1.2.2; technique G87",
    severity="look",
    means="Something is heard that no caption tells, captions go faster than one reads, overlap, or are too long for "
    "their lines.",
    right="Open the captions: each thing is told at its place, most with a repair. Then give them to readers anew.",
)

_SAID = {
    "uncovered": ("place where something is heard and none stands", "places where something is heard and none stands"),
    "fast": ("that is too fast to read", "that are too fast to read"),
    "lines": ("that is too long for its lines", "that are too long for their lines"),
    "overlap": ("that overlaps the next", "that overlap the next"),
}


def check(subject: Subject) -> Iterator[Finding]:
    for use in played(subject):
        for track in use.captions:
            if not track.faults:
                continue
            told = [
                f"{count} {_SAID[rule][count != 1]}" for rule, count in sorted(track.faults.items()) if rule in _SAID
            ]
            others = sum(count for rule, count in track.faults.items() if rule not in _SAID)
            if others:
                told.append(f"{others} with something else to mend")
            sentence = f"Of the captions of “{use.target.title}” ({track.name}): {', '.join(told)}."
            yield RULE.finding(sentence, use.path, None, about=f"{use.target.number} {track.language}")
