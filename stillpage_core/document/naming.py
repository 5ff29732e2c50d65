"""Whom a document names: the pages and items that must be known before it can be shown or checked."""

from __future__ import annotations

from dataclasses import dataclass

from .node import Node
from .references import parse_reference
from .walking import walk


@dataclass(frozen=True)
class Named:
    """Numbers of the pages linked to, of the items linked to, and of the items shown."""

    pages: frozenset[int]
    items: frozenset[int]
    pictures: frozenset[int]


def named_in(document: Node) -> Named:
    """Everything ``document`` names by number."""
    pages: set[int] = set()
    items: set[int] = set()
    pictures: set[int] = set()
    for _, node in walk(document):
        if node.kind == "picture":
            pictures.add(node.attrs["item"])
        for mark in node.marks:
            reference = parse_reference(mark.attrs["href"]) if mark.kind == "link" else None
            if reference and reference.number:
                (pages if reference.kind == "page" else items).add(reference.number)
    return Named(frozenset(pages), frozenset(items), frozenset(pictures))
