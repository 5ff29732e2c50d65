"""Plain text → document: an empty line parts paragraphs, a single line end is a line break."""

from __future__ import annotations

import re

from ..document.node import Node, make, text_node
from .reading import Reading, finished


def clean(text: str) -> str:
    """Text without what no document may hold: tabs become spaces, other control characters and lone surrogates go."""
    return re.sub("[\x00-\x1f\x7f-\x9f\ud800-\udfff]", "", text.replace("\t", " "))


def read_text(text: str) -> Reading:
    """Read plain text with line ends of any kind."""
    lines = text.removeprefix("\ufeff").replace("\r\n", "\n").replace("\r", "\n").replace("\u2028", "\n")
    return finished([_paragraph(block) for block in re.split(r"\n[ \t]*\n\s*", lines) if block.strip()], [])


def _paragraph(block: str) -> Node:
    content: list[Node] = []
    for line in block.strip().split("\n"):
        if content:
            content.append(make("line_break"))
        if words := clean(line).strip(" "):
            content.append(text_node(words))
    return make("paragraph", content)
