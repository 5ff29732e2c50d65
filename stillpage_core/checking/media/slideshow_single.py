"""A slideshow of one slide. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.fitting import said_of
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
    id="slideshow-single",
    title="A slideshow of one slide",
    whom="Nobody is hurt; a picture would do, and its words would be text.",
    source="Common practice",
    severity="look",
    means="There is nothing to change to: readers see one picture that stands still, without buttons.",
    right="Add a slide, or make a picture of it.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("slideshow"):
        if len(placed.node.content) == 1:
            (slide,) = placed.node.content
            # What leads somewhere would do so no more; then that is for a person to settle.
            left = (*slide.content, *said_of(slide))
            repairs = (
                [] if slide.attrs["href"] else [Repair("Make a picture of it", (ReplaceNodes(placed.path, 1, left),))]
            )
            yield RULE.finding("This slideshow has one slide alone.", placed.path, None, *repairs)
