"""Anchors: the ids that headings and notes get, so that a link can lead to them."""

from __future__ import annotations

import re
import unicodedata

from ..document.node import Node
from ..document.walking import text_of, walk
from ..errors import Path


def slug(text: str, otherwise: str = "section") -> str:
    """Words as they may stand in an address: lower case, hyphens for everything else, accents folded.

    Letters of other scripts stay (RFC 3987 allows them); ``otherwise`` serves where nothing is left.
    """
    folded = unicodedata.normalize("NFKD", text.casefold())
    plain = "".join(character for character in folded if not unicodedata.combining(character))
    return re.sub(r"[\W_]+", "-", unicodedata.normalize("NFC", plain)).strip("-")[:80].strip("-") or otherwise


_RESERVED = frozenset({"main", "top"})


def linked_places(document: Node) -> set[str]:
    """What the links within a document lead to, by their fragments."""
    hrefs = (str(mark.attrs["href"]) for _, node in walk(document) for mark in node.marks if mark.kind == "link")
    return {href[1:] for href in hrefs if href.startswith("#")}


def places_of(document: Node) -> dict[int, str]:
    """The id of every heading that a link within the document leads to, by its place."""
    linked = linked_places(document)
    return {path[0]: name for path, name in anchors_of(document).items() if len(path) == 1 and name in linked}


def anchors_of(document: Node) -> dict[Path, str]:
    """The id of every heading, and of every list item that has one, by its path.

    What something links to keeps the one it was given; any other heading gets one from its words. Where two would have
    the same, the later one is numbered.
    """
    headings = [(path, node) for path, node in walk(document) if node.kind == "heading" or node.attrs.get("anchor")]
    taken = set(_RESERVED)
    ids: dict[Path, str] = {}
    for path, node in headings:
        kept = node.attrs["anchor"]
        if kept and kept not in taken:
            ids[path] = kept
            taken.add(kept)
    for path, node in headings:
        if path in ids:
            continue
        base = node.attrs["anchor"] or slug(text_of(node))
        name, number = base, 1
        while name in taken:
            number += 1
            name = f"{base}-{number}"
        taken.add(name)
        ids[path] = name
    return dict(sorted(ids.items()))
