"""Pictures: those of the library, those that came along, and those that are none."""

from __future__ import annotations

import re
from base64 import b64decode
from typing import TYPE_CHECKING, Any

from selectolax.lexbor import LexborNode

from ...document.node import make
from ...document.schema import SCHEMA
from ...kinds.picture import SETTING as PICTURE_SETTING
from ...references import parse_reference
from ..text import clean
from .tree import spaced
from .words import Marks

if TYPE_CHECKING:
    from .blocks import Blocks

_TINY = 2
"""A picture at most this wide or high, in pixels, only counts who looks."""


def picture(into: Blocks, node: LexborNode, marks: Marks) -> None:
    attributes = node.attributes
    source = (attributes.get("src") or "").strip()
    words = clean(spaced(attributes.get("alt") or "", exact=into.reader.exact)).strip(" ")
    alt = into.reader.told.within(words, 1000, "alt text") or None
    reference = parse_reference(source)
    if not into.reader.exact:
        if _is_tracker(node):
            into.reader.told.dropped("A tracking picture was left out", "{} tracking pictures were left out")
            return
        if alt and _is_sign(node, alt):
            into.words.text(alt, marks)
            return
        if (not source or source.startswith("data:image/gif")) and attributes.get("data-src"):
            source = (attributes.get("data-src") or "").strip()
    decorative = "data-decorative" in attributes or (attributes.get("alt") == "" and not into.reader.exact)
    number = reference.number if reference and reference.kind == "item" and not reference.fragment else None
    if number is None and not into.reader.exact:
        number = _arrived(into, source, alt or "")
    if number is None:
        into.reader.told.without_file(alt or "")
        return
    if not into.reader.exact:
        into.reader.told.picture(marks)
    caption = None
    if into.reader.exact and node.parent is not None and (below := node.parent.css_first("figcaption")):
        caption = clean(spaced(below.text(), exact=True)) or None
    into.end_words()
    setting = _picture_setting(node.parent)
    into.pieces.append(make("picture", item=number, alt=alt, decorative=decorative, caption=caption, **setting))


def _arrived(into: Blocks, source: str, alt: str) -> int | None:
    """The provisional number of a picture that came along or is said to be somewhere."""
    if not source:
        return None
    if not source.lower().startswith("data:"):
        name = re.split(r"[?#]", source)[0].replace("\\", "/").rsplit("/", 1)[-1]
        return into.reader.arriving.picture(source, name=name, alt=alt)
    match = re.match(r"data:image/[\w.+-]+(?:;[\w=-]+)*;base64,", source, re.IGNORECASE)
    if not match:
        return None
    try:
        data = b64decode(re.sub(r"\s|%0[aAdD]", "", source[match.end() :]).replace("%2B", "+").replace("%3D", "="))
    except ValueError:
        return None
    return into.reader.arriving.picture(data=data, alt=alt) if data else None


def _picture_setting(figure: LexborNode | None) -> dict[str, Any]:
    """How a picture of our own stands, and what is made of it; what is not well said is left out."""
    if figure is None or figure.tag != "figure" or "picture" not in (figure.attributes.get("class") or "").split():
        return {}
    kinds = SCHEMA.nodes["picture"].attributes
    setting: dict[str, Any] = {}
    for name in PICTURE_SETTING:
        value: object = figure.attributes.get(f"data-{name}")
        if kinds[name].type == "integer" and isinstance(value, str) and re.fullmatch(r"-?\d{1,5}", value):
            value = int(value)
        if value is not None and kinds[name].problem(value) is None:
            setting[name] = value
    return setting


def _pixels(node: LexborNode, name: str) -> float | None:
    style = re.search(rf"(?:^|;)\s*{name}\s*:\s*([\d.]+)px", node.attributes.get("style") or "")
    written = style[1] if style else (node.attributes.get(name) or "")
    return float(written) if re.fullmatch(r"\d+(?:\.\d+)?", written) else None


def _is_tracker(node: LexborNode) -> bool:
    sizes = [size for name in ("width", "height") if (size := _pixels(node, name)) is not None]
    return bool(sizes) and min(sizes) <= _TINY


def _is_sign(node: LexborNode, alt: str) -> bool:
    """Whether a picture only draws a sign that is a character, as an emoji."""
    width = _pixels(node, "width")
    small = (width is not None and width <= 32) or "emoji" in (node.attributes.get("class") or "").lower()
    return small and len(alt) <= 8 and not any(each.isascii() for each in alt)
