"""Pictures of another shape than the slides that show them. Common practice: slides have one proportion, often 3:2."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from math import gcd

from ...document.changes import SetAttributes
from ...document.node import Node
from ...kinds.slideshow.ways import framed
from ...media.shown import picture_cut
from ...resolving import PictureTarget
from ..finding import CheckRule, Finding, Repair
from ..subject import Placed, Subject

MUCH = 0.15
"""The share of a picture that may be lost without a word (common practice)."""

RULE = CheckRule(
    id="slide-cut",
    title="A slide of another shape",
    whom="Everybody: what matters may stand where the picture is cut.",
    source="Common practice",
    severity="look",
    means="All slides of a slideshow have one proportion. A picture of another shape is cut; what is left lies round "
    "its focal point.",
    right="Look at the slide on the sheet. Move the picture’s focal point in the media library, take another picture, "
    "or give the slideshow another proportion.",
)


def _lost(node: Node, picture: Node, target: PictureTarget) -> float:
    """The share of a picture that its slide does not show."""
    whole = picture_cut(target, picture.attrs).size(target.width, target.height)
    shown = picture_cut(target, {**picture.attrs, **framed(node, picture)}).size(target.width, target.height)
    return max(0.0, 1 - shown[0] * shown[1] / (whole[0] * whole[1]))


def _proportion(target: PictureTarget) -> str | None:
    """A picture's own proportion in small numbers; None where there are none near it."""
    for high in range(1, 17):
        wide = round(high * target.width / target.height)
        if 1 <= wide <= 99 and abs(wide / high / (target.width / target.height) - 1) < 0.01 and gcd(wide, high) == 1:
            return f"{wide}:{high}"
    return None


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("slideshow"):
        known = [
            (index, target, _lost(placed.node, slide.content[0], target))
            for index, slide in enumerate(placed.node.content)
            if slide.content
            if (target := subject.resolver.picture(slide.content[0].attrs["item"])) and target.files
        ]
        if cut := [each for each in known if each[2] > MUCH]:
            yield _finding(placed, known, cut)


def _finding(
    placed: Placed, known: list[tuple[int, PictureTarget, float]], cut: list[tuple[int, PictureTarget, float]]
) -> Finding:
    """One for a slideshow: which slides lose how much, and the proportion that most of its pictures have."""
    ratio = placed.node.attrs["ratio"]
    said = ", ".join(f"“{target.title}” by {lost:.0%}" for _, target, lost in cut[:4])
    more = f" and {len(cut) - 4} more" if len(cut) > 4 else ""
    proportions = Counter(filter(None, (_proportion(target) for _, target, _ in known)))
    common = proportions.most_common(1)[0] if proportions else None
    repairs = []
    if common and common[0] != ratio and common[1] * 2 > len(known):
        change = SetAttributes(placed.path, {"ratio": common[0]})
        repairs.append(Repair(f"Let the slides be {common[0]}, as most of the pictures are", (change,)))
    sentence = f"The slides are {ratio}; pictures of another shape are cut: {said}{more}."
    return RULE.finding(sentence, placed.path, None, *repairs, about=f"{ratio} {said}")
