"""The items of the library that a page names, with whom they reach."""

from __future__ import annotations

from collections.abc import Iterator

from ...errors import Path
from ...resolving import ItemTarget, PictureTarget, Reach
from ..finding import CheckRule, Finding
from ..subject import Subject

Place = tuple[Path, tuple[int, int] | None]


def named_items(subject: Subject) -> Iterator[tuple[ItemTarget | PictureTarget, Place]]:
    """Every item that is shown or linked to, at its place."""
    for placed in subject.nodes("picture"):
        if picture := subject.resolver.picture(placed.node.attrs["item"]):
            yield picture, (placed.path, None)
    for link in subject.links:
        number = link.reference.number if link.reference and link.reference.kind == "item" else None
        if number and (item := subject.resolver.item(number)):
            yield item, (link.path, link.span)


def out_of_reach(subject: Subject, rule: CheckRule, reach: Reach, sentence: str) -> Iterator[Finding]:
    """A finding for every item that reaches just these readers; ``sentence`` has a place for its title."""
    for item, (path, span) in named_items(subject):
        if item.reach == reach:
            yield rule.finding(sentence.format(f"“{item.title}”"), path, span, about=f"{item.number}")
