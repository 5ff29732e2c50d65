"""Marks: what an element says of the words within it."""

from __future__ import annotations

import re

from selectolax.lexbor import LexborNode

from ...document.node import Mark, in_order
from ...document.schema import SCHEMA
from ...kinds.kind import MarkKind
from ...references import parse_reference
from ..text import clean
from .reader import Reader
from .words import Marks

MARKS: dict[str, list[MarkKind]] = {}
for _kind in SCHEMA.marks.values():
    for _tag in (_kind.element.tag, *_kind.element.also):
        MARKS.setdefault(_tag, []).append(_kind)
PLAIN = {tag: Mark(kinds[0].name) for tag, kinds in MARKS.items() if not kinds[0].attributes and len(kinds) == 1}
PLAIN |= {"dfn": Mark("emphasis"), "cite": Mark("emphasis"), "var": Mark("emphasis"), "ins": Mark("underline")}


def marked(reader: Reader, node: LexborNode, tag: str, marks: Marks) -> Marks:
    """The marks with those that an element means."""
    added: list[Mark] = []
    for kind in MARKS.get(tag, ()):
        if any(mark.kind == kind.name for mark in marks):
            continue
        attrs = _attributes(reader, node, kind)
        if attrs is not None:
            added.append(Mark(kind.name, attrs))
            if kind.name == "link" and node.mem_id in reader.fragments.references:
                note = reader.fragments.references[node.mem_id].startswith("note-")
                added += [Mark("superscript")] if note and "superscript" not in {m.kind for m in marks} else []
    if not added and tag in PLAIN and tag not in MARKS:
        added = [PLAIN[tag]]
    if not added:
        return marks
    return in_order({mark.kind: mark for mark in (*marks, *added)}.values())


def _attributes(reader: Reader, node: LexborNode, kind: MarkKind) -> dict[str, object] | None:
    """The attributes of a mark as the element has them; None when one that must be there is missing or wrong."""
    attrs: dict[str, object] = {}
    written = {name: html_name for html_name, name in kind.element.attributes.items()}
    for name, attribute in kind.attributes.items():
        given = written[name] in node.attributes
        words = clean(node.attributes.get(written[name]) or "").strip()
        value: object = given if attribute.type == "boolean" else words or None
        if name == "title" and value:
            value = reader.told.within(str(value), attribute.maximum or 200, "title of a link")
        if name == "href" and value and not reader.exact:
            value = leading(reader, node, str(value))
        if kind.name == "language" and str(value).split("-")[0].lower() == reader.language:
            return None
        if value is None or attribute.problem(value):
            if attribute.required:
                if kind.name == "link" and words:
                    reader.told.link(words)
                return None
            value = attribute.default
        attrs[name] = value
    if kind.name == "link" and not reader.exact and node.attributes.get("target") == "_blank":
        attrs["new_window"] = parse_reference(str(attrs["href"])) is not None and str(attrs["href"])[0] == "h"
    return attrs


def leading(reader: Reader, node: LexborNode, written: str) -> str | None:
    """Where a link leads, as it may stand in a document."""
    if written.startswith("#"):
        anchor = reader.fragments.references.get(node.mem_id)
        return None if anchor is None else f"#{anchor}"
    address = re.sub(r"^[A-Za-z]+:", lambda scheme: scheme[0].lower(), re.sub(r"\s", "%20", written))
    return reader.arriving.link(address) or (address if parse_reference(address) else None)
