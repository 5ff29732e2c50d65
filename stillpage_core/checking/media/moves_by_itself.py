"""A moving picture that goes on for longer than five seconds, or for ever, and cannot be stopped.

WCAG 2.2, 2.2.2 Pause, Stop, Hide (A); techniques G152 and SCR22; failure F7 is of the same sort.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..pictures.shown import pictures
from ..subject import Subject

LONGEST = 5.0
"""Seconds: WCAG 2.2, 2.2.2."""

RULE = CheckRule(
    id="moves-by-itself",
    title="Something that moves and cannot be stopped",
    whom="Readers who are easily drawn away, or made ill by movement: they cannot read beside it.",
    source="WCAG 2.2, 2.2.2; technique G152",
    severity="mend",
    means=f"What begins to move by itself and goes on for more than {LONGEST:.0f} seconds needs a way to be stopped. A "
    "moving picture has none.",
    right="Take a film, which readers start and stop themselves, or a picture that stands still.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        if use.target.moves > LONGEST:
            how = "for ever" if use.target.moves == float("inf") else f"for {use.target.moves:.0f} seconds"
            yield RULE.finding(f"The picture “{use.target.title}” moves {how}, and cannot be stopped.", use.path)
