"""The headings of a document, in order and as sections."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import Path
from .node import Node
from .walking import text_of, walk


@dataclass(frozen=True)
class Entry:
    """A heading: its level (2 to 6), its words with line breaks as spaces, and where it stands."""

    level: int
    text: str
    path: Path


def outline(document: Node) -> list[Entry]:
    """The headings of ``document`` in reading order."""
    return [
        Entry(node.attrs["level"], " ".join(text_of(node).split()), path)
        for path, node in walk(document)
        if node.kind == "heading"
    ]
