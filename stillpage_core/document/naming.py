"""Whom a document names: the pages and items that must be known before it can be shown or checked."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..media.editing import EDITS
from .node import Node
from .references import parse_reference
from .walking import walk


@dataclass(frozen=True)
class Named:
    """Numbers of the pages linked to, of those of them whose headings are linked to, of the items linked to, and of
    the items shown; and the addresses elsewhere that are linked to."""

    pages: frozenset[int] = frozenset()
    items: frozenset[int] = frozenset()
    pictures: frozenset[int] = frozenset()
    by_heading: frozenset[int] = frozenset()
    outside: frozenset[str] = frozenset()


def named_in(document: Node) -> Named:
    """Everything ``document`` names by number."""
    pages: set[int] = set()
    items: set[int] = set()
    pictures: set[int] = set()
    by_heading: set[int] = set()
    outside: set[str] = set()
    for _, node in walk(document):
        if node.kind == "picture":
            pictures.add(node.attrs["item"])
        addresses = [mark.attrs["href"] for mark in node.marks if mark.kind == "link"]
        if node.kind == "call_to_action" and node.attrs["href"]:
            addresses.append(node.attrs["href"])
        for address in addresses:
            reference = parse_reference(address)
            if reference and reference.kind == "outside":
                outside.add(address)
            elif reference and reference.number:
                (pages if reference.kind == "page" else items).add(reference.number)
                if reference.kind == "page" and reference.fragment:
                    by_heading.add(reference.number)
    return Named(frozenset(pages), frozenset(items), frozenset(pictures), frozenset(by_heading), frozenset(outside))


def framings_in(document: Node) -> dict[int, list[dict[str, Any]]]:
    """For each picture shown, what its uses say is to be made of the original: every distinct set of `EDITS`, those
    that leave everything to the item included."""
    found: dict[int, list[dict[str, Any]]] = {}
    for _, node in walk(document):
        if node.kind == "picture":
            framing = {name: node.attrs[name] for name in EDITS}
            of_item = found.setdefault(node.attrs["item"], [])
            if framing not in of_item:
                of_item.append(framing)
    return found
