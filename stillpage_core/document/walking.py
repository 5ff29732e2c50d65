"""Visiting nodes, their text, and positions in it.

A position inside a block of text counts as the editor counts: a character of the text is as many units as UTF-16
needs for it (1, or 2 beyond U+FFFF), an inline node such as a line break is 1.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..errors import Path
from ..kinds.ways import ways_of
from .node import Mark, Node
from .schema import SCHEMA


def units(text: str) -> int:
    """The length of a text in UTF-16 code units."""
    return len(text.encode("utf-16-le", "surrogatepass")) // 2


def walk(node: Node, path: Path = ()) -> Iterator[tuple[Path, Node]]:
    """Every node with its path, in reading order, the given one first."""
    yield path, node
    for index, child in enumerate(node.content):
        yield from walk(child, (*path, index))


def blocks_of(document: Node) -> Iterator[tuple[Path, Node]]:
    """The blocks of every region with their paths, in reading order: what stands side by side on the page, nothing
    that stands within a block."""
    for index, region in enumerate(document.content):
        for place, block in enumerate(region.content):
            yield (index, place), block


def text_of(node: Node) -> str:
    """The words of a node without marks; a line break is a newline, neighbouring blocks are parted by one. Of a kind
    that says something by its attributes it is that: the caption of a picture, the LaTeX of an equation."""
    if node.kind == "text":
        return node.text
    if node.kind == "line_break":
        return "\n"
    if words := ways_of(node.kind).words:
        return words(node)
    if len(node.content) == 1:
        return text_of(node.content[0])
    joint = "" if SCHEMA.nodes[node.kind].is_textblock else "\n"
    return joint.join(text_of(child) for child in node.content)


def node_at(document: Node, path: Path) -> Node:
    """The node at ``path``; raises IndexError when there is none."""
    node = document
    for index in path:
        node = node.content[index]
    return node


@dataclass(frozen=True)
class Run:
    """Neighbouring words of one textblock that share a mark. ``start`` and ``end`` are positions in the block."""

    path: Path
    start: int
    end: int
    text: str
    mark: Mark


def runs_with(document: Node, mark: str) -> Iterator[Run]:
    """Every run of words that bears one and the same mark of the given kind, in reading order."""
    for path, block in walk(document):
        if not SCHEMA.nodes[block.kind].is_textblock:
            continue
        open_run: Run | None = None
        position = 0
        for child in block.content:
            size = units(child.text) if child.kind == "text" else 1
            found = next((each for each in child.marks if each.kind == mark), None)
            if open_run and open_run.mark != found:
                yield open_run
                open_run = None
            if found:
                words = text_of(child)
                start = open_run.start if open_run else position
                before = open_run.text if open_run else ""
                open_run = Run(path, start, position + size, before + words, found)
            position += size
        if open_run:
            yield open_run
