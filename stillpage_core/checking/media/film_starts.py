"""A film that begins by itself and goes on for more than five seconds: told, since it draws the eye from the words.

WCAG 2.2, 2.2.2 Pause, Stop, Hide (A): it must have a way to be stopped, which a player here always has.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .films import played
from .moves_by_itself import LONGEST

RULE = CheckRule(
    id="film-starts",
    title="A film that begins by itself",
    whom="Readers who are easily drawn away, or made ill by movement.",
    source="WCAG 2.2, 2.2.2; technique G4",
    severity="look",
    means="The film plays without sound as soon as it is seen, unless the reader wants things to stand still. It can "
    "be stopped by its own button; that must be found first.",
    right="Let readers press play, unless the movement is what the page is about.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in played(subject):
        if use.node.attrs.get("autoplay") and (use.node.attrs["loop"] or use.target.lasts > LONGEST * 1000):
            how = "over and over" if use.node.attrs["loop"] else f"for {round(use.target.lasts / 1000)} seconds"
            repair = Repair("Let readers press play", (SetAttributes(use.path, {"autoplay": False}),))
            yield RULE.finding(f"{use.named} begins by itself and plays {how}.", use.path, None, repair)
