"""Small changes to a document, as repairs make them.

A change is data: the editor applies it as one undoable step, `apply` does the same here. Every path and position is
one of the document as it was before any of the changes.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from ..errors import Path
from .node import Mark, Node, text_node
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
    """Put other words, or none, in place of those from ``start`` to ``end`` of the textblock at ``path``.

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


@dataclass(frozen=True)
class ReplaceInline:
    """Put other inline nodes, or none, in place of what stands from ``start`` to ``end`` of the textblock at ``path``.

    Positions count as in `walking`.
    """

    path: Path
    start: int
    end: int
    nodes: tuple[Node, ...]

    def to_json(self) -> dict[str, Any]:
        return {
            "change": "replace_inline",
            "path": list(self.path),
            "start": self.start,
            "end": self.end,
            "nodes": [node.to_json() for node in self.nodes],
        }


@dataclass(frozen=True)
class MarkWords:
    """Let the words from ``start`` to ``end`` of the textblock at ``path`` bear the mark ``kind`` with these
    attributes in place of any other of the kind; with None, let them bear none of it."""

    path: Path
    start: int
    end: int
    kind: str
    attrs: Mapping[str, Any] | None = None

    def to_json(self) -> dict[str, Any]:
        return {
            "change": "mark_words",
            "path": list(self.path),
            "start": self.start,
            "end": self.end,
            "kind": self.kind,
            "attrs": None if self.attrs is None else dict(self.attrs),
        }


@dataclass(frozen=True)
class ReplaceNodes:
    """Put other nodes, or none, in place of the ``count`` nodes from ``path`` on; of none, before what stands there."""

    path: Path
    count: int
    nodes: tuple[Node, ...]

    def to_json(self) -> dict[str, Any]:
        return {
            "change": "replace_nodes",
            "path": list(self.path),
            "count": self.count,
            "nodes": [node.to_json() for node in self.nodes],
        }


@dataclass(frozen=True)
class SetFact:
    """Give the page another title or description (``name``). No part of the document: `apply` leaves it aside."""

    name: str
    value: str
    path: Path = ()

    def to_json(self) -> dict[str, Any]:
        return {"change": "set_fact", "path": [], "name": self.name, "value": self.value}


Change = SetAttributes | ReplaceText | ReplaceInline | MarkWords | ReplaceNodes | SetFact


def apply(document: Node, changes: Iterable[Change]) -> Node:
    """The document after the changes, which must not overlap. Raises IndexError when a path leads nowhere."""
    for change in sorted(changes, key=_place, reverse=True):
        if isinstance(change, ReplaceNodes):
            document = _at(document, change.path[:-1], _replacing(change))
        elif not isinstance(change, SetFact):
            document = _at(document, change.path, _changing(change))
    return normal_form(document)


def _place(change: Change) -> tuple[Path, int]:
    """Where a change is made; what comes later in the document is changed first, so that no place moves before its
    turn."""
    if isinstance(change, ReplaceNodes):
        return change.path, -2
    return change.path, change.start if isinstance(change, ReplaceText | ReplaceInline | MarkWords) else -1


def _at(node: Node, path: Path, changed: Callable[[Node], Node]) -> Node:
    if not path:
        return changed(node)
    children = list(node.content)
    children[path[0]] = _at(children[path[0]], path[1:], changed)
    return node.with_content(children)


def _replacing(change: ReplaceNodes) -> Callable[[Node], Node]:
    first = change.path[-1]

    def changed(parent: Node) -> Node:
        if first + change.count > len(parent.content):
            raise IndexError(f"There are no {change.count} nodes at {change.path}.")
        return parent.with_content([*parent.content[:first], *change.nodes, *parent.content[first + change.count :]])

    return changed


def _changing(change: SetAttributes | ReplaceText | ReplaceInline | MarkWords) -> Callable[[Node], Node]:
    if isinstance(change, SetAttributes):
        return lambda node: node.with_attrs(**change.attrs)
    if isinstance(change, ReplaceText):
        return lambda block: block.with_content(_replaced(block, change))
    if isinstance(change, ReplaceInline):
        return lambda block: block.with_content(_with_inline(block, change))
    return lambda block: block.with_content(_marked(block, change))


def _parts(block: Node, start: int, end: int) -> tuple[list[Node], list[Node], list[Node]]:
    """The content of a textblock before, within and after two positions."""
    before: list[Node] = []
    within: list[Node] = []
    after: list[Node] = []
    position = 0
    for child in block.content:
        size = units(child.text) if child.kind == "text" else 1
        first, position = position, position + size
        if position <= start:
            before.append(child)
        elif first >= end:
            after.append(child)
        elif child.kind != "text":
            within.append(child)
        else:
            encoded = child.text.encode("utf-16-le")
            head, tail = max(0, start - first) * 2, min(size, end - first) * 2
            before.append(text_node(encoded[:head].decode("utf-16-le"), child.marks))
            within.append(text_node(encoded[head:tail].decode("utf-16-le"), child.marks))
            after.append(text_node(encoded[tail:].decode("utf-16-le"), child.marks))
    return before, within, after


def _replaced(block: Node, change: ReplaceText) -> list[Node]:
    before, within, after = _parts(block, change.start, change.end)
    return [*before, text_node(change.text, within[0].marks if within else ()), *after]


def _with_inline(block: Node, change: ReplaceInline) -> list[Node]:
    before, _, after = _parts(block, change.start, change.end)
    return [*before, *change.nodes, *after]


def _marked(block: Node, change: MarkWords) -> list[Node]:
    before, within, after = _parts(block, change.start, change.end)
    new = () if change.attrs is None else (Mark(change.kind, change.attrs),)
    marked = [
        Node(each.kind, each.attrs, (), text_node("-", (*_others(each, change.kind), *new)).marks, each.text)
        for each in within
    ]
    return [*before, *marked, *after]


def _others(node: Node, kind: str) -> list[Mark]:
    return [mark for mark in node.marks if mark.kind != kind]
