"""The films and sounds of a page with what readers are given of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...document.changes import ReplaceNodes
from ...document.node import Node, make, text_node
from ...errors import Path
from ...resolving import FilmTarget, HostedTarget, Track
from ..finding import Repair
from ..subject import Placed, Subject


@dataclass(frozen=True)
class Played:
    """A film or sound at its place."""

    path: Path
    node: Node
    target: FilmTarget

    @property
    def named(self) -> str:
        """What it is called in a sentence."""
        return f"The {self.target.kind} “{self.target.title}”"

    @property
    def captions(self) -> list[Track]:
        return [track for track in self.target.tracks if track.sort == "captions"]


def played(subject: Subject) -> Iterator[Played]:
    """Every film and sound that the library still has."""
    for placed in subject.nodes("film", "sound"):
        target = subject.resolver.film(placed.node.attrs["item"])
        if target is not None:
            yield Played(placed.path, placed.node, target)


def hosted(subject: Subject) -> Iterator[tuple[Placed, HostedTarget]]:
    """Every film elsewhere that the library still has."""
    for placed in subject.nodes("hosted"):
        target = subject.resolver.hosted(placed.node.attrs["item"])
        if target is not None:
            yield placed, target


_CALLED = {"sound": "sound", "paper": "document", "animation": "animation", "post": "post"}
"""What a kind of node is called that is no film."""


def taken_away(subject: Subject, placed: Placed) -> Repair:
    """The repair that takes a film away and leaves its caption as a paragraph."""
    caption = placed.node.attrs["caption"]
    alone = placed.within[-1] != "region" or len(subject.at(placed.path[:-1]).content) == 1
    rest = (make("paragraph", [text_node(caption)] if caption else []),) if caption or alone else ()
    return Repair(
        f"Take the {_CALLED.get(placed.node.kind, 'film')} away",
        (ReplaceNodes(placed.path, 1, rest),),
    )
