"""Anchors: the ids that headings and notes get, so that a link can lead to them."""

from __future__ import annotations

import re
import unicodedata

from ..document.node import Node
from ..document.walking import text_of, walk
from ..errors import Path

LONGEST = 80
"""The most characters of an anchor that is made of words."""
OTHERWISE = "section"
RESERVED = frozenset({"main", "top"})
"""Ids that the page itself has."""
_ACCENT = re.compile("[\u0300-\u036f]")


def slug(text: str, otherwise: str = OTHERWISE) -> str:
    """Words as they may stand in an address: in small letters, hyphens for all but letters and figures, accents gone.

    Letters of other scripts stay with the marks that belong to them (RFC 3987 allows both); ``otherwise`` serves where
    nothing is left. `web/src/editor/anchors.ts` does the same, and cases hold the two together.
    """
    plain = _ACCENT.sub("", unicodedata.normalize("NFKD", text.casefold()))
    kept = "".join(
        each if unicodedata.category(each)[0] in "LNM" else "-" for each in unicodedata.normalize("NFC", plain)
    )
    return re.sub("-+", "-", kept).strip("-")[:LONGEST].strip("-") or otherwise


def linked_places(document: Node) -> set[str]:
    """What the links within a document lead to, by their fragments."""
    hrefs = (str(mark.attrs["href"]) for _, node in walk(document) for mark in node.marks if mark.kind == "link")
    return {href[1:] for href in hrefs if href.startswith("#")}


def places_of(document: Node) -> dict[Path, str]:
    """The id of every heading that a link within the document leads to, by its path."""
    linked = linked_places(document)
    return {path: name for path, name in anchors_of(document).items() if len(path) == 2 and name in linked}


def anchors_of(document: Node) -> dict[Path, str]:
    """The id of every heading, and of every list item that has one, by its path.

    What something links to keeps the one it was given; any other heading gets one from its words. Where two would have
    the same, the later one is numbered.
    """
    headings = [(path, node) for path, node in walk(document) if node.kind == "heading" or node.attrs.get("anchor")]
    taken = set(RESERVED)
    last: dict[str, int] = {}
    ids: dict[Path, str] = {}
    for path, node in headings:
        kept = node.attrs["anchor"]
        if kept and kept not in taken:
            ids[path] = kept
            taken.add(kept)
    for path, node in headings:
        if path in ids:
            continue
        ids[path] = numbered(node.attrs["anchor"] or slug(text_of(node)), taken, last)
    return dict(sorted(ids.items()))


def numbered(base: str, taken: set[str], last: dict[str, int]) -> str:
    """A name that is not taken, and is from now on: ``base``, or that with the next number behind it. ``last`` keeps
    the numbers given, so that a thousand of one name are not counted through a thousand times."""
    name, number = base, last.get(base, 1)
    while name in taken:
        number += 1
        name = f"{base}-{number}"
    last[base] = number
    taken.add(name)
    return name
