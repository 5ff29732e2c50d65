"""A sound without its words on the page, and a film whose captions could stand there and do not.

WCAG 2.2, 1.2.1 Audio-only and Video-only (Prerecorded) (A), technique G158; 1.2.8 Media Alternative (AAA), G69.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .films import played

RULE = CheckRule(
    id="sound-without-transcript",
    title="A film or sound without a transcript",
    whom="Readers who do not hear, who cannot play it where they are, or who look for something in it.",
    source="WCAG 2.2, 1.2.1; technique G158",
    severity="mend",
    means="What is said in a sound stands on the page in words, or behind a press. A film’s captions can stand there "
    "too.",
    right="Write captions for it; its transcript is made of them. Then have the transcript shown here.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in played(subject):
        if not use.target.playable or not use.target.heard or (use.node.attrs["transcript"] and use.captions):
            continue
        if use.captions:
            show = Repair("Show the transcript, folded", (SetAttributes(use.path, {"transcript": "folded"}),))
            yield RULE.finding(f"The transcript of “{use.target.title}” is not shown.", use.path, None, show)
        elif use.target.kind == "sound":
            sentence = f"{use.named} has no transcript: there are no captions that one could be made of."
            yield RULE.finding(sentence, use.path)
