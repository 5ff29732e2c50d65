"""The blocks that stand one below the other somewhere in a document."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.node import Node
from ...errors import Path
from ..subject import Subject


def containers(subject: Subject) -> Iterator[tuple[Path, tuple[Node, ...]]]:
    """Everything in the document that may hold paragraphs and lists side by side, with its blocks."""
    for placed in subject.nodes("region", "quotation_words", "aside", "table_cell", "table_header"):
        yield placed.path, placed.node.content
