"""The words of one block as they are read."""

from __future__ import annotations

from ...budget import spend
from ...document.node import Mark, Node
from ..text import clean
from .tree import spaced

Marks = tuple[Mark, ...]


class Words:
    """The inline content of a block as it is read. White space is that of HTML: one space, none at the ends nor beside
    a line break; in the storable form it stands as it is."""

    __slots__ = ("at_start", "exact", "nodes")

    def __init__(self, *, exact: bool) -> None:
        self.exact = exact
        self.nodes: list[Node] = []
        self.at_start = True

    def text(self, text: str, marks: Marks) -> None:
        spend()
        if not text.isprintable() or "  " in text:
            text = clean(spaced(text, exact=self.exact))
        if self.at_start and not self.exact and text[:1] == " ":
            text = text[1:]
        if not text:
            return
        if len(marks) > 1 and not self.exact and any(mark.kind == "link" for mark in marks):
            # That a link is underlined goes without saying.
            marks = tuple(mark for mark in marks if mark.kind != "underline")
        self.at_start = text[-1] == " "
        last = self.nodes[-1] if self.nodes else None
        if last is not None and last.kind == "text" and last.marks == marks:
            self.nodes[-1] = Node("text", {}, (), marks, last.text + text)
        else:
            self.nodes.append(Node("text", {}, (), marks, text))

    def line_break(self, marks: Marks) -> None:
        self.trim()
        self.nodes.append(Node("line_break", {}, (), marks))
        self.at_start = True

    def node(self, node: Node) -> None:
        self.nodes.append(node)
        self.at_start = False

    def trim(self) -> None:
        """Take the space off that stands at the end."""
        while not self.exact and self.nodes and self.nodes[-1].kind == "text":
            last = self.nodes[-1]
            rest = last.text.rstrip(" ")
            if rest == last.text:
                return
            self.nodes.pop()
            if rest:
                self.nodes.append(Node("text", {}, (), last.marks, rest))

    def taken(self) -> list[Node]:
        """The content, which begins anew. A line end at either end of a block is not seen."""
        self.trim()
        nodes = self.nodes
        if not self.exact:
            while nodes and nodes[-1].kind == "line_break":
                nodes.pop()
                self.trim()
            while nodes and nodes[0].kind == "line_break":
                nodes.pop(0)
        self.nodes = []
        self.at_start = True
        return nodes
