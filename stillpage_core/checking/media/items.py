"""The items of the library that a page names, with whom they reach."""

from __future__ import annotations

from collections.abc import Iterator

from ...errors import Path
from ...resolving import AnimationTarget, FilmTarget, HostedTarget, ItemTarget, PictureTarget, PostTarget, Reach
from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import hosted

AnyTarget = ItemTarget | PictureTarget | FilmTarget | HostedTarget | AnimationTarget | PostTarget
Place = tuple[Path, tuple[int, int] | None]


def named_items(subject: Subject) -> Iterator[tuple[AnyTarget, Place]]:
    """Every item that is shown or linked to, at its place."""
    for placed in subject.nodes("picture"):
        if picture := subject.resolver.picture(placed.node.attrs["item"]):
            yield picture, (placed.path, None)
    for placed in subject.nodes("film", "sound"):
        if film := subject.resolver.film(placed.node.attrs["item"]):
            yield film, (placed.path, None)
    for placed, target in hosted(subject):
        yield target, (placed.path, None)
    for placed in subject.nodes("post"):
        if post := subject.resolver.post(placed.node.attrs["item"]):
            yield post, (placed.path, None)
    for placed in subject.nodes("animation"):
        if drawn := subject.resolver.animation(placed.node.attrs["item"]):
            yield drawn, (placed.path, None)
    for placed in subject.nodes("paper"):
        if document := subject.resolver.item(placed.node.attrs["item"]):
            yield document, (placed.path, None)
    for placed in subject.nodes("downloads"):
        for each in placed.node.content:
            if document := subject.resolver.item(each.attrs["item"]):
                yield document, (placed.path, None)
    for link in subject.leads:
        number = link.reference.number if link.reference and link.reference.kind == "item" else None
        if number and (item := subject.resolver.item(number)):
            yield item, (link.path, link.span)


def documents_wanting(subject: Subject, *wants: str) -> Iterator[tuple[ItemTarget, Place]]:
    """The documents that lack one of these before all else, each at every place that leads to it."""
    for item, place in named_items(subject):
        if isinstance(item, ItemTarget) and item.wanting and item.wanting[0] in wants:
            yield item, place


def out_of_reach(subject: Subject, rule: CheckRule, reach: Reach, sentence: str) -> Iterator[Finding]:
    """A finding for every item that reaches just these readers; ``sentence`` has a place for its title."""
    for item, (path, span) in named_items(subject):
        if item.reach == reach:
            yield rule.finding(sentence.format(f"“{item.title}”"), path, span, about=f"{item.number}")
