"""The blocks that stand one below the other somewhere in a document."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.node import Node
from ...errors import Path
from ..subject import Subject


def containers(subject: Subject) -> Iterator[tuple[Path, tuple[Node, ...]]]:
    """The document, and everything in it that may hold paragraphs and lists side by side, with its blocks."""
    yield (), subject.document.content
    for placed in subject.nodes("quotation_words", "aside", "table_cell", "table_header"):
        yield placed.path, placed.node.content
