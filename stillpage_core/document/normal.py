"""The normal form: what two documents that say the same have in common."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from .node import Node, text_node


def normal_form(document: Node) -> Node:
    """The same document with neighbouring runs of equal marks joined, empty runs gone and marks in order.

    The editor keeps every document in this form; readers end with it.
    """
    return document.with_content(_children(document.content))


def _children(nodes: Iterable[Node]) -> Iterator[Node]:
    waiting: Node | None = None
    for node in nodes:
        if node.kind != "text":
            if waiting:
                yield waiting
            waiting = None
            yield node.with_content(_children(node.content))
            continue
        if not node.text:
            continue
        ordered = text_node(node.text, node.marks)
        if waiting and waiting.marks == ordered.marks:
            waiting = text_node(waiting.text + ordered.text, ordered.marks)
        else:
            if waiting:
                yield waiting
            waiting = ordered
    if waiting:
        yield waiting
