"""What blocks of our own say of themselves and of the pictures that they hold."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING, Any

from selectolax.lexbor import LexborNode

from ...document.node import Node
from ...document.schema import SCHEMA
from ..text import clean
from .pictures import picture
from .tree import spaced

if TYPE_CHECKING:
    from .blocks import Blocks


def said_in(node: LexborNode, selector: str, *, exact: bool) -> str:
    """The words of the first element within that a selector finds; "" where there is none."""
    found = node.css_first(selector)
    return clean(spaced(found.text(), exact=exact)).strip() if found else ""


def pictures_in(into: Blocks, node: LexborNode, *besides: str) -> list[Node] | None:
    """The pictures within an element, with their captions; None where anything else is to be seen there. ``besides``
    are the classes of elements whose words are known to who asks."""
    if not into.reader.exact and not _only_pictures(node, besides):
        return None
    found: list[Node] = []
    for image in node.css("img"):
        inner = into.fresh()
        picture(inner, image, ())
        for each in inner.done():
            below = "" if into.reader.exact else _caption_of(image, node)
            caption = into.reader.told.within(below, 1000, "caption")
            found.append(each.with_attrs(caption=caption) if caption and each.kind == "picture" else each)
    return [each for each in found if each.kind == "picture"]


def _only_pictures(node: LexborNode, besides: tuple[str, ...]) -> bool:
    """Whether all words within are captions of pictures, or stand in elements of these classes."""
    captions = node.css("figcaption")
    known = [each for name in besides for each in node.css(f".{name}")]
    words = "".join(node.text().split())
    told = "".join("".join(each.text().split()) for each in (*known, *captions))
    return len(words) == len(told) and node.css_first("table, iframe, video, audio, object, embed, hr") is None


def _caption_of(image: LexborNode, within: LexborNode) -> str:
    """The caption of the figure that a picture stands in."""
    around = image.parent
    while around is not None and around.mem_id != within.mem_id:
        if around.tag == "figure":
            return said_in(around, "figcaption", exact=False) if len(around.css("img")) == 1 else ""
        around = around.parent
    return ""


def setting_of(kind: str, names: tuple[str, ...], node: LexborNode) -> dict[str, Any]:
    """The attributes of a kind that an element has as ``data-NAME``; what is not well said is left out."""
    setting: dict[str, Any] = {}
    for name in names:
        attribute, given = SCHEMA.nodes[kind].attributes[name], node.attributes.get(f"data-{name.replace('_', '-')}")
        if f"data-{name.replace('_', '-')}" not in node.attributes:
            continue
        value: object = given
        if attribute.type == "boolean":
            value = given != "no"
        elif attribute.type == "integer":
            value = int(given) if given and re.fullmatch(r"-?\d{1,6}", given) else None
        if value is not None and attribute.problem(value) is None:
            setting[name] = value
    return setting
