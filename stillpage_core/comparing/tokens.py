"""A block's words, one by one, each with its marks; and back."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

from ..document.node import Mark, Node
from ..document.walking import text_of

_TOKEN = re.compile(
    r"[\u3040-\u30ff\u3400-\u9fff\uac00-\ud7af]|[^\W\u3040-\u30ff\u3400-\u9fff\uac00-\ud7af]+"
    r"(?:[’'\-][^\W\u3040-\u30ff\u3400-\u9fff\uac00-\ud7af]+)*|\s+|[^\w\s]"
)
"""A word, white space or a sign. Scripts that part no words count sign by sign."""
_WORD = re.compile(r"\w+")

Token = tuple[str, tuple[Mark, ...]] | Node
"""Words with their marks, or a node within the line."""


def tokens_of(block: Node) -> list[Token]:
    """What stands in a textblock, in order."""
    found: list[Token] = []
    for child in block.content:
        if child.kind == "text":
            found += [(word, child.marks) for word in _TOKEN.findall(child.text)]
        else:
            found.append(child)
    return found


def nodes_of(tokens: Iterable[Token]) -> list[Node]:
    """The content of a textblock that these make; neighbours with equal marks are one."""
    nodes: list[Node] = []
    words: list[str] = []
    bearing: tuple[Mark, ...] = ()

    def end() -> None:
        if words:
            nodes.append(Node("text", {}, (), bearing, "".join(words)))
            words.clear()

    for token in tokens:
        if isinstance(token, Node):
            end()
            nodes.append(token)
            continue
        text, marks = token
        if marks != bearing:
            end()
            bearing = marks
        words.append(text)
    end()
    return nodes


def apart(before: Sequence[Token], after: Sequence[Token]) -> list[Token]:
    """What has to stand between two runs so that their words are not read as one: a space or nothing."""
    if not before or not after:
        return []
    last, first = before[-1], after[0]
    if isinstance(last, Node) or isinstance(first, Node):
        return []
    return [(" ", ())] if last[0][-1:].isalnum() and first[0][:1].isalnum() else []


def words_in(node: Node) -> list[str]:
    """The words of a block, without marks and signs."""
    return _WORD.findall(text_of(node))
