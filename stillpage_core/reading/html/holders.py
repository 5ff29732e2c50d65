"""Figures, and preformatted text."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING

from selectolax.lexbor import LexborNode

from ...document.node import Node, make
from ...document.schema import SCHEMA
from ..listed import Caption
from ..text import as_typed
from .reader import Reader, is_hidden
from .tree import BLOCKS, UNSEEN, children_of
from .words import Marks

if TYPE_CHECKING:
    from .blocks import Blocks


def figure(into: Blocks, node: LexborNode, marks: Marks, depth: int) -> None:
    """A figure: a picture with its caption, a table with one; of anything else the parts one after another."""
    inner = into.fresh()
    captions: list[list[Node]] = []
    for child in children_of(node):
        if child.tag == "figcaption" and into.reader.exact:
            continue
        if child.tag == "figcaption":
            captions.append(inner.inside(child, marks, depth, in_line=True))
            continue
        inner.one(child, marks, depth + 1)
    blocks = inner.done()
    for words in captions:
        alone = len(words) == 1 and words[0].kind == "paragraph" and len(blocks) == 1
        into.pieces += blocks
        blocks = []
        into.pieces += [Caption(words[0])] if alone else words
    into.pieces += blocks


def preformatted(into: Blocks, node: LexborNode) -> None:
    lines = _lines(node, into.reader).replace("\r\n", "\n").replace("\r", "\n")
    code = node.css_first("code")
    named = re.search(r"(?:^|\s)language-(\S+)", (code.attributes.get("class") or "") if code else "")
    language = node.attributes.get("data-language") or (named[1] if named else None)
    if not language or SCHEMA.nodes["preformatted"].attributes["language"].problem(language):
        language = None
    content: list[Node] = []
    for index, line in enumerate((lines if into.reader.exact else lines.strip("\n")).split("\n")):
        content += [make("line_break")] if index else []
        content += [Node("text", text=words)] if (words := as_typed(line)) else []
    if content or into.reader.exact:
        into.pieces.append(make("preformatted", content, language=language))


def _lines(node: LexborNode, reader: Reader) -> str:
    """The words of preformatted text with its line ends; a br is one too, and so is the end of a block within. Not
    recursive: input may be nested deep."""
    found: list[str] = []
    waiting: list[LexborNode | str] = [node]
    while waiting:
        child = waiting.pop()
        if isinstance(child, str):
            if found and not found[-1].endswith("\n"):
                found.append(child)
        elif child.tag == "-text":
            found.append(child.text_content or "")
        elif child.tag == "br":
            found.append("\n")
        elif child.tag not in UNSEEN and (child is node or reader.exact or not is_hidden(child, reader)):
            parts: list[LexborNode | str] = list(children_of(child))
            if child is not node and child.tag in BLOCKS:
                parts = ["\n", *parts, "\n"]
            waiting += reversed(parts)
    return "".join(found)
