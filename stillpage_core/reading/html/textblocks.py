"""Paragraphs, headings and what is written as a paragraph: items of word processors, calls to action."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import TYPE_CHECKING

from selectolax.lexbor import LexborNode

from ...document.fitting import words_of
from ...document.node import Node, make
from ...references import parse_reference
from ..listed import Caption, Listed, Styled
from ..text import clean
from .marks import leading
from .reader import FLAT
from .styles import Meaning, meaning_of
from .tree import SPACE, Attributes, value_of
from .words import Marks

if TYPE_CHECKING:
    from .blocks import Blocks


def textblock(into: Blocks, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
    attributes = node.attributes
    classes = (attributes.get("class") or "").split()
    level = _level(into, attributes, tag, classes)
    if level is not None and not into.reader.exact:
        marks = tuple(mark for mark in marks if mark.kind != "strong")
    blocks = into.inside(node, marks, depth, in_line=True)
    if not blocks and (into.reader.exact or tag in ("p", "address")):
        blocks = [make("paragraph")]
    align = value_of(attributes, "paragraph", "align")
    if level is not None:
        anchor = value_of(attributes, "heading", "anchor") or into.reader.fragments.anchors.get(node.mem_id)
        if len(blocks) > 1 and all(block.kind == "paragraph" for block in blocks):
            blocks = [make("paragraph", words_of(blocks))]
        into.pieces += [
            make("heading", block.content, align=align, anchor=anchor, level=level)
            if block.kind == "paragraph"
            else block
            for block in blocks
        ]
        return
    style = value_of(attributes, "paragraph", "style")
    made = [
        block.with_attrs(align=align, style=style) if block.kind == "paragraph" and (align or style) else block
        for block in blocks
    ]
    flat = FLAT.get(classes[0].lower(), "") if classes and not into.reader.exact else ""
    for block in made:
        if flat == "caption" and block.kind == "paragraph":
            into.pieces.append(Caption(block))
        elif flat and block.kind == "paragraph":
            into.pieces.append(Styled(flat, block))
        else:
            into.pieces.append(block)


def _level(into: Blocks, attributes: Attributes, tag: str, classes: Sequence[str]) -> int | None:
    """The level of a heading; None for anything else."""
    if tag[0] == "h" and tag[1:].isdigit():
        level = int(tag[1])
    elif attributes.get("role") == "heading":
        written = attributes.get("aria-level") or "2"
        level = min(6, max(1, int(written))) if written.isdigit() and len(written) < 3 else 2
    elif "MsoTitle" in classes or "Title" in classes:
        level = 0
    else:
        return None
    return max(2, level) if into.reader.exact else level


def listed(into: Blocks, node: LexborNode, marks: Marks, depth: int, meaning: Meaning) -> None:
    """A paragraph that a word processor marks as the item of a list."""
    assert meaning.item is not None
    tag = node.tag or ""
    of, level = meaning.item
    signs = [span for span in node.css("span[style]") if meaning_of(span.attributes["style"] or "").ignored]
    sign = clean(signs[0].text() if signs else "").strip(" \u00a0")
    number = re.fullmatch(r"\(?(?:(?:\d+\.)*(\d{1,6})[.)]?|([a-z]|[ivxlc]+)[.)])", sign, re.IGNORECASE)
    counted = int(number[1]) if number and number[1] else None
    if number and number[2]:
        into.reader.told.mended("Letters before the items of a list became numbers", count=counted is None)
    blocks = into.inside(node, marks, depth, in_line=True)
    if tag[0] == "h" and tag != "hr":
        # A numbered heading is a heading; its number comes from the place it has.
        textblock(into, node, tag, marks, depth)
        return
    into.pieces.append(Listed(blocks, level, number is not None, counted, of))


def call_to_action(into: Blocks, node: LexborNode, link: LexborNode) -> None:
    words = SPACE.sub(" ", link.text()) if not into.reader.exact else link.text()
    words = clean(words if into.reader.exact else words.strip(" "))
    href = link.attributes.get("href") or ""
    emphasis = value_of(node.attributes, "call_to_action", "emphasis") or "main"
    content = [Node("text", text=words)] if words else []
    leads = href if into.reader.exact else leading(into.reader, link, href)
    known = leads if leads and parse_reference(leads) else None
    into.pieces.append(make("call_to_action", content, href=known, emphasis=emphasis))
