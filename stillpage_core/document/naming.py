"""Whom a document names: the pages and items that must be known before it can be shown or checked."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..kinds.ways import ways_of
from ..references import parse_reference
from .node import Node
from .walking import walk


@dataclass(frozen=True)
class Named:
    """Numbers of the pages linked to, of those of them whose headings are linked to, of the items linked to or played,
    and of the pictures shown; and the addresses elsewhere that are linked to."""

    pages: frozenset[int] = frozenset()
    items: frozenset[int] = frozenset()
    pictures: frozenset[int] = frozenset()
    by_heading: frozenset[int] = frozenset()
    outside: frozenset[str] = frozenset()


class Names:
    """Gathers whom nodes name; each kind tells of its own (`kinds.ways.Ways.names`)."""

    def __init__(self) -> None:
        self.pages: set[int] = set()
        self.items: set[int] = set()
        self.by_heading: set[int] = set()
        self.outside: set[str] = set()
        self.framings: dict[int, list[dict[str, Any]]] = {}

    def link(self, href: str) -> None:
        """A link to an address of any sort."""
        reference = parse_reference(href)
        if reference and reference.kind == "outside":
            self.outside.add(href)
        elif reference and reference.number:
            (self.pages if reference.kind == "page" else self.items).add(reference.number)
            if reference.kind == "page" and reference.fragment:
                self.by_heading.add(reference.number)

    def item(self, number: int) -> None:
        """An item that is neither linked to nor a picture: a film that is played here, say."""
        self.items.add(number)

    def picture(self, item: int, framing: dict[str, Any]) -> None:
        """An item that is shown, and what is made of it here: a value for each of `media.editing.EDITS`."""
        known = self.framings.setdefault(item, [])
        if framing not in known:
            known.append(framing)

    def of(self, document: Node) -> Names:
        """Go through a document."""
        for _, node in walk(document):
            for mark in node.marks:
                if mark.kind == "link":
                    self.link(mark.attrs["href"])
            if names := ways_of(node.kind).names:
                names(self, node)
        return self


def named_in(document: Node) -> Named:
    """Everything ``document`` names by number."""
    found = Names().of(document)
    pictures = frozenset(found.framings)
    pages, items, by_heading = frozenset(found.pages), frozenset(found.items), frozenset(found.by_heading)
    return Named(pages, items, pictures, by_heading, frozenset(found.outside))


def framings_in(document: Node) -> dict[int, list[dict[str, Any]]]:
    """For each picture shown, what its uses say is to be made of the original: every distinct set of `EDITS`, those
    that leave everything to the item included."""
    return Names().of(document).framings
