"""A picture without alt text that is not marked as decorative.

WCAG 2.2, 1.1.1 Non-text Content (A); technique H37; failure F65.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..document.changes import SetAttributes
from ..document.node import Node
from ..document.walking import walk
from ..resolving import Resolver
from .finding import Finding, Repair

_WHOM = "Readers who cannot see the picture are told nothing about it."
_SOURCE = "WCAG 2.2, 1.1.1; technique H37, failure F65"


def check(document: Node, resolver: Resolver) -> Iterator[Finding]:
    for path, node in walk(document):
        if node.kind != "picture" or node.attrs["decorative"]:
            continue
        target = resolver.picture(node.attrs["item"])
        if target is None:
            yield Finding(
                "picture-gone",
                "This picture is no longer in the media library.",
                "Readers would see nothing here.",
                "common practice",
                "blocks",
                path,
            )
            continue
        if not (node.attrs["alt"] or target.alt).strip() and not target.decorative:
            yield Finding(
                "picture-without-alt",
                f"The picture “{target.title}” has no alt text.",
                _WHOM,
                _SOURCE,
                "blocks",
                path,
                repairs=(
                    Repair(
                        "It is decoration only: let screen readers pass over it",
                        (SetAttributes(path, {"decorative": True}),),
                    ),
                ),
            )
