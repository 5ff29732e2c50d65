"""Small changes to a document, as repairs make them.

A change is data: the editor applies it as one undoable step, `apply` does the same here.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from ..errors import Path
from .node import Node, text_node
from .normal import normal_form
from .walking import units


@dataclass(frozen=True)
class SetAttributes:
    """Give the node at ``path`` other values for some attributes."""

    path: Path
    attrs: Mapping[str, Any]

    def to_json(self) -> dict[str, Any]:
        return {"change": "set_attributes", "path": list(self.path), "attrs": dict(self.attrs)}


@dataclass(frozen=True)
class ReplaceText:
    """Put other words in place of those from ``start`` to ``end`` of the textblock at ``path``.

    The new words bear the marks of the first of the old. Positions count as in `walking`.
    """

    path: Path
    start: int
    end: int
    text: str

    def to_json(self) -> dict[str, Any]:
        return {
            "change": "replace_text",
            "path": list(self.path),
            "start": self.start,
            "end": self.end,
            "text": self.text,
        }


Change = SetAttributes | ReplaceText


def apply(document: Node, changes: Iterable[Change]) -> Node:
    """The document after the changes, made one after another. Raises IndexError when a path leads nowhere."""
    for change in changes:
        document = _at(document, change.path, change)
    return normal_form(document)


def _at(node: Node, path: Path, change: Change) -> Node:
    if path:
        children = list(node.content)
        children[path[0]] = _at(children[path[0]], path[1:], change)
        return node.with_content(children)
    if isinstance(change, SetAttributes):
        return node.with_attrs(**change.attrs)
    return node.with_content(_replaced(node, change))


def _replaced(block: Node, change: ReplaceText) -> list[Node]:
    before: list[Node] = []
    after: list[Node] = []
    marks = None
    position = 0
    for child in block.content:
        size = units(child.text) if child.kind == "text" else 1
        first, last = position, position + size
        position = last
        if last <= change.start:
            before.append(child)
        elif first >= change.end:
            after.append(child)
        else:
            marks = child.marks if marks is None else marks
            if child.kind == "text":
                encoded = child.text.encode("utf-16-le")
                head = encoded[: max(0, change.start - first) * 2].decode("utf-16-le")
                tail = encoded[min(size, change.end - first) * 2 :].decode("utf-16-le")
                before.append(text_node(head, child.marks))
                after.append(text_node(tail, child.marks))
    return [*before, text_node(change.text, marks or ()), *after]
