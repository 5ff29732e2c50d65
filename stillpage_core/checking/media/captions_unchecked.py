"""Captions that nobody has held against the film since they were drafted, or since its file was replaced.

Common practice: captions made by a program need checking (punctuation, capitals, names).
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import played

RULE = CheckRule(
    id="captions-unchecked",
    title="Captions that nobody has checked",
    whom="Readers who have nothing but the captions, and would take what is wrong in them for what is said.",
    source="Common practice",
    severity="mend",
    means="The captions were spread over the film from a transcript, or made for an earlier file of it; nobody has "
    "said since that they are right.",
    right="Open the captions, play the film along with them, correct what is wrong, and say that they are checked.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in played(subject):
        for track in use.captions:
            if track.drafted or track.earlier:
                why = "were drafted" if track.drafted else "are of an earlier file"
                sentence = f"The captions of “{use.target.title}” ({track.name}) {why}, and nobody has checked them."
                yield RULE.finding(sentence, use.path, None, about=f"{use.target.number} {track.language}")
