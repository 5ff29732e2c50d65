"""A film or sound that no browser can play yet, since its files are still being made. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import played

RULE = CheckRule(
    id="film-not-ready",
    title="A film or sound that nobody can play yet",
    whom="Readers would find nothing here.",
    source="Common practice",
    severity="blocks",
    means="The files that browsers play are still being made from what was added, or could not be made.",
    right="Wait until they are; the film’s place on the sheet shows how far it is. If they could not be made, replace "
    "the file in the media library.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in played(subject):
        if use.target.playable:
            continue
        if use.target.problem:
            yield RULE.finding(f"{use.named} cannot be played: {use.target.problem}", use.path)
        else:
            done = f" ({use.target.progress} % so far)" if use.target.progress else ""
            sentence = f"{use.named} is still being made ready{done}. The page can be published when it is."
            yield RULE.finding(sentence, use.path)
