"""Document → HTML to be looked at and changed by hand: the storable form, a block a line, with the caret's place."""

from __future__ import annotations

import re

from ..document.node import Node, text_node
from ..document.schema import MAIN
from ..errors import Path
from .html import REGION, attribute, storable_block

CARET = "\ufdd0"
"""Stands for the caret while a text goes from one form to the other: a noncharacter, which no text holds (Unicode 16,
23.7)."""

_TOKEN = re.compile(r"<[^>]*>|[^<]+")
_LINES = frozenset("p h2 h3 h4 h5 h6 pre caption figcaption video audio".split())
"""Elements that stand on one line with all that is in them."""
_VOID = frozenset({"hr", "img", "br"})


def source_html(document: Node, caret: tuple[Path, int] | None = None) -> tuple[str, int | None]:
    """The document's HTML, and where the caret stands in it, in characters from the start.

    ``caret`` is a textblock's path and a position in it, in the units of `document.walking`. White space between
    blocks is for the eye; within them it counts.
    """
    marked = _with_caret(document, *caret) if caret else document
    html = "".join(map(_region, marked.content))
    place = html.find(CARET)
    return html.replace(CARET, ""), place if place >= 0 else None


def _region(region: Node) -> str:
    name = region.attrs["name"]
    inside = "".join(_pretty(storable_block(block), 0 if name == MAIN else 1) for block in region.content)
    return inside if name == MAIN else f"<div{attribute(REGION, name)}>\n{inside}</div>\n"


def _with_caret(document: Node, path: Path, position: int) -> Node:
    """The document with `CARET` among the words at a place; unchanged where there is no such place."""
    if not path:
        return document.with_content(_inserted(document, position))
    index, *rest = path
    if not 0 <= index < len(document.content):
        return document
    child = _with_caret(document.content[index], tuple(rest), position)
    return document.with_content([*document.content[:index], child, *document.content[index + 1 :]])


def _inserted(block: Node, position: int) -> list[Node]:
    made: list[Node] = []
    left = position
    placed = False
    for node in block.content:
        size = len(node.text.encode("utf-16-le")) // 2 if node.kind == "text" else 1
        if placed or left > size or (left == size and node is not block.content[-1] and node.kind != "text"):
            left -= size
            made.append(node)
        elif node.kind == "text":
            before = node.text.encode("utf-16-le")[: left * 2].decode("utf-16-le", "ignore")
            made.append(text_node(before + CARET + node.text[len(before) :], node.marks))
            placed = True
        else:
            marker = text_node(CARET, node.marks)
            made += [marker, node] if left == 0 else [node, marker]
            placed = True
    if not placed and block.kind not in ("picture", "divider", "equation"):
        made.append(text_node(CARET))
    return made


def _pretty(html: str, depth: int) -> str:
    """Lines, set in by two spaces for each element that they stand in; ``depth`` of these are around them all."""
    lines: list[str] = []
    held: list[str] = []
    within = ""
    for token in _TOKEN.findall(html):
        tag = re.match(r"</?([a-z][a-z0-9]*)", token)
        name = tag[1] if tag else ""
        if within:
            held.append(token)
            if token == f"</{within}>":
                lines.append("  " * depth + "".join(held))
                held, within = [], ""
        elif name in _LINES and not token.startswith("</"):
            held, within = [token], name
        elif token.startswith("</"):
            depth -= 1
            lines.append("  " * depth + token)
        else:
            lines.append("  " * depth + token)
            depth += name not in _VOID and bool(name)
    alone = r"(?m)^( *)<(li|td|th)\b([^>]*)>\n *(<p\b.*</p>)\n *</\2>$"
    return re.sub(alone, r"\1<\2\3>\4</\2>", "\n".join(lines)) + "\n"
