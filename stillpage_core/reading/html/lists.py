"""Lists as HTML has them."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import TYPE_CHECKING

from selectolax.lexbor import LexborNode

from ...document.fitting import fitted
from ...document.node import Node, make
from ...document.walking import text_of
from .reader import is_hidden
from .tree import WHITE, children_of, value_of
from .words import Marks

if TYPE_CHECKING:
    from .blocks import Blocks

LISTS = {"ul": "bulleted_list", "ol": "numbered_list", "menu": "bulleted_list", "dir": "bulleted_list"}

_SIGN = re.compile(r"[-–•·▪◦‣●○■□➢✓✔o§]|(?:\d{1,6}|[A-Za-z]{1,4})[.)]")
"""What stands before the item of a list that a program draws itself."""


def list_of(into: Blocks, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
    items: list[Node] = []
    first: int | None = None
    start = node.attributes.get("start") or ""
    begins = int(start) if re.fullmatch(r"\d{1,6}", start) else None
    notes = into.reader.fragments
    for child in children_of(node):
        if child.tag == "-text" and not (child.text_content or "").strip(WHITE):
            continue
        inner = into.fresh(deeper=1)
        if child.tag == "li":
            if is_hidden(child, into.reader):
                continue
            value = child.attributes.get("value") or ""
            if tag == "ol" and re.fullmatch(r"\d{1,6}", value) and not into.reader.exact:
                expected = (begins or first or 1) + len(items)
                if items and int(value) != expected:
                    _numbered(into, items, begins if begins is not None else first)
                    items = []
                begins = begins if items else int(value)
            blocks = inner.alone(child, marks)
            if blocks is None:
                inner.children(child, marks, depth + 1)
                blocks = inner.done()
            anchor = value_of(child.attributes, "list_item", "anchor") or notes.anchors.get(child.mem_id)
            if notes.notes and child.mem_id in notes.notes:
                anchor = notes.notes[child.mem_id][1]
            if len(blocks) > 1 and not into.reader.exact and _SIGN.fullmatch(text_of(blocks[0])):
                # Programs that draw lists themselves write the sign as a paragraph of its own.
                sign = blocks.pop(0)
                written = re.match(r"\d{1,6}", text_of(sign))
                first = int(written[0]) if written and not items else first
            if blocks or into.reader.exact:
                items.append(make("list_item", fitted("list_item", blocks, into.reader.told.flattened), anchor=anchor))
            continue
        inner.one(child, marks, depth + 1)
        if blocks := inner.done():
            nested = items and blocks[0].kind.endswith("_list")
            before = items.pop() if nested else make("list_item")
            content = fitted("list_item", (*before.content, *blocks), into.reader.told.flattened)
            items.append(before.with_content(content))
    if not items:
        return
    if tag == "ol":
        _numbered(into, items, begins if begins is not None else first)
    else:
        into.pieces.append(make(LISTS[tag], items))


def _numbered(into: Blocks, items: Sequence[Node], start: int | None) -> None:
    into.pieces.append(make("numbered_list", items, **({} if start is None else {"start": start})))
