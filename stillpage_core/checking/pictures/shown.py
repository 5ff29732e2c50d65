"""The pictures of a page with what readers are told of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...document.node import Node
from ...errors import Path
from ...resolving import PictureTarget
from ..subject import Subject


@dataclass(frozen=True)
class Use:
    """A picture at its place. ``alt`` is what is read out: worded for this page, or the item's own; ``own`` tells
    that it was worded here. ``decorative`` pictures are passed over, whoever says so."""

    path: Path
    node: Node
    target: PictureTarget
    alt: str
    own: bool
    decorative: bool

    @property
    def caption(self) -> str:
        return (self.node.attrs["caption"] or "").strip()


def pictures(subject: Subject) -> Iterator[Use]:
    """Every picture that the library still has."""
    for placed in subject.nodes("picture"):
        attrs = placed.node.attrs
        target = subject.resolver.picture(attrs["item"])
        if target is None:
            continue
        own = bool((attrs["alt"] or "").strip())
        decorative = attrs["decorative"] or (target.decorative and not own)
        yield Use(placed.path, placed.node, target, subject.alt_of(placed.node), own, decorative)
