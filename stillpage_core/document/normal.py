"""The normal form: what two documents that say the same have in common."""

from __future__ import annotations

from collections.abc import Sequence

from .node import Node, in_order


def normal_form(document: Node) -> Node:
    """The same document with neighbouring runs of equal marks joined, empty runs gone and marks in order.

    The editor keeps every document in this form; readers end with it. What is in it already is not built anew.
    """
    children = [normal_form(child) if child.content else child for child in document.content]
    joined = _joined(children)
    same = len(joined) == len(document.content) and all(
        one is other for one, other in zip(joined, document.content, strict=True)
    )
    return document if same else document.with_content(joined)


def _joined(nodes: Sequence[Node]) -> list[Node]:
    joined: list[Node] = []
    for node in nodes:
        if node.kind != "text":
            joined.append(node)
            continue
        if not node.text:
            continue
        marks = in_order(node.marks)
        before = joined[-1] if joined else None
        if before is not None and before.kind == "text" and before.marks == marks:
            joined[-1] = Node("text", {}, (), marks, before.text + node.text)
        else:
            joined.append(node if marks == node.marks else Node("text", {}, (), marks, node.text))
    return joined
