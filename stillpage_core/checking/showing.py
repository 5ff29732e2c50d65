"""What a repair makes of the words, so that it can be seen before it is done."""

from __future__ import annotations

from ..document.changes import (
    Change,
    MarkWords,
    ReplaceInline,
    ReplaceNodes,
    ReplaceText,
    SetAttributes,
    SetFact,
)
from ..document.node import Node, document_of
from ..document.walking import node_at, units
from ..writing.text import plain_text
from .finding import Repair

AROUND = 24
"""How many characters are shown on either side of what is replaced."""
LONGEST = 240


def shown(document: Node, repair: Repair) -> list[str]:
    """The lines that a repair leaves in place of what is there; empty where no words change."""
    lines: list[str] = []
    texts = [change for change in repair.changes if isinstance(change, ReplaceText)]
    if texts and len({change.path for change in texts}) == 1:
        lines.append(_replaced(document, texts))
    for change in repair.changes:
        lines += _of(change)
    return [line if len(line) <= LONGEST else line[: LONGEST - 1] + "…" for line in lines[:8]]


def _of(change: Change) -> list[str]:
    match change:
        case ReplaceNodes(nodes=nodes) if nodes:
            if nodes[0].kind in ("table_cell", "table_header"):
                return []
            return [line for line in plain_text(document_of(nodes)).split("\n") if line.strip()]
        case SetFact(value=value):
            return [value]
        case SetAttributes(attrs=attrs) if attrs.get("alt"):
            return [str(attrs["alt"])]
        case MarkWords() | ReplaceText() | ReplaceInline() | SetAttributes() | ReplaceNodes():
            return []


def _replaced(document: Node, changes: list[ReplaceText]) -> str:
    """The words of the block around the changes, as they will be."""
    block = node_at(document, changes[0].path)
    flat = "".join(child.text if child.kind == "text" else " " for child in block.content)
    encoded = flat.encode("utf-16-le")
    first, last = min(change.start for change in changes), max(change.end for change in changes)
    made = encoded[: first * 2].decode("utf-16-le")[-AROUND:]
    begun = units(flat) > first > AROUND
    position = first
    for change in sorted(changes, key=lambda each: each.start):
        made += encoded[position * 2 : change.start * 2].decode("utf-16-le") + change.text
        position = change.end
    rest = encoded[last * 2 :].decode("utf-16-le")
    return ("…" if begun else "") + made + rest[:AROUND] + ("…" if len(rest) > AROUND else "")
