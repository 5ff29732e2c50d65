"""The normal form: what two documents that say the same have in common."""

from __future__ import annotations

from collections.abc import Sequence
from operator import is_

from .node import Node, in_order


def normal_form(document: Node) -> Node:
    """The same document with neighbouring runs of equal marks joined, empty runs gone and marks in order.

    The editor keeps every document in this form; readers end with it. What is in it already is not built anew.
    """
    content = document.content
    if len(content) == 1 and content[0].kind == "text" and content[0].text and len(content[0].marks) < 2:
        return document  # Most blocks hold one run of words.
    joined = _joined([normal_form(child) if child.content else child for child in content])
    same = len(joined) == len(content) and all(map(is_, joined, content))
    return document if same else document.with_content(joined)


def _joined(nodes: Sequence[Node]) -> list[Node]:
    joined: list[Node] = []
    for node in nodes:
        if node.kind != "text":
            joined.append(node)
            continue
        if not node.text:
            continue
        marks = in_order(node.marks) if len(node.marks) > 1 else node.marks
        before = joined[-1] if joined else None
        if before is not None and before.kind == "text" and before.marks == marks:
            joined[-1] = Node("text", {}, (), marks, before.text + node.text)
        else:
            joined.append(node if marks == node.marks else Node("text", {}, (), marks, node.text))
    return joined
