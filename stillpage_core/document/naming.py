"""Whom a document names: the pages and items that must be known before it can be shown or checked."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..kinds.ways import ways_of
from ..references import parse_reference
from .node import Node
from .sharing import share_framing
from .walking import walk


@dataclass(frozen=True)
class Named:
    """Numbers of the pages linked to, of those of them whose headings are linked to, of the items linked to or played,
    of the pictures shown, and of the documents of which pages are; and the addresses elsewhere that are linked to."""

    pages: frozenset[int] = frozenset()
    items: frozenset[int] = frozenset()
    pictures: frozenset[int] = frozenset()
    by_heading: frozenset[int] = frozenset()
    outside: frozenset[str] = frozenset()
    papers: frozenset[int] = frozenset()


class Names:
    """Gathers whom nodes name; each kind tells of its own (`kinds.ways.Ways.names`)."""

    def __init__(self) -> None:
        self.pages: set[int] = set()
        self.items: set[int] = set()
        self.by_heading: set[int] = set()
        self.outside: set[str] = set()
        self.framings: dict[int, list[dict[str, Any]]] = {}
        self.recoloured: dict[int, list[dict[str, Any]]] = {}
        self.spans: dict[int, list[dict[str, Any]]] = {}

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

    def paper(self, item: int, span: dict[str, Any]) -> None:
        """A document that is shown, and which of its pages: the ``first`` and the ``last`` (None: of all)."""
        self.items.add(item)
        known = self.spans.setdefault(item, [])
        if span not in known:
            known.append(span)

    def animation(self, item: int, colours: str | None) -> None:
        """An animation that is shown, and the colours in place of its own."""
        self.items.add(item)
        known = self.recoloured.setdefault(item, [])
        if {"colours": colours} not in known:
            known.append({"colours": colours})

    def of(self, document: Node) -> Names:
        """Go through a document."""
        if framing := share_framing(document):
            self.picture(document.attrs["share"], framing)
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
    return Named(pages, items, pictures, by_heading, frozenset(found.outside), frozenset(found.spans))


def framings_in(document: Node) -> dict[int, list[dict[str, Any]]]:
    """For each picture shown, what its uses say is to be made of the original: every distinct set of `EDITS`, those
    that leave everything to the item included. For each document of which pages are shown, which: “first” and “last”.
    For each animation, in which “colours”.
    """
    found = Names().of(document)
    every = (found.framings, found.spans, found.recoloured)
    return {number: [one for each in every for one in each.get(number, ())] for each in every for number in each}
