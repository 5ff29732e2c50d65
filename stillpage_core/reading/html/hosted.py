"""Films at other hosts: those of the library, and frames in which other pages show something."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING, Any

from selectolax.lexbor import LexborNode

from ...document.node import make
from ...document.schema import SCHEMA
from ...references import parse_reference
from ..text import clean
from .tree import spaced
from .words import Marks

if TYPE_CHECKING:
    from .blocks import Blocks

_NAMED = "title", "aria-label"
_ADDRESSES = "src", "data-src", "href", "data-address"
"""Of a frame, one that is loaded later, a link of ours, and the press that is made of that."""


def hosted(into: Blocks, node: LexborNode, _: Marks, __: int) -> bool:
    """A frame, or the figure or division that our own pages have round a film elsewhere. Whether a host is allowed
    whose frame other pages show is known outside (`reading.Picture`); what a frame holds is never read."""
    inner = node if node.tag == "iframe" else node.css_first("iframe, .press")
    if inner is None:
        return False
    reader = into.reader
    number = _item(into, inner)
    if number is None:
        reader.told.dropped("A framed page was left out", "{} framed pages were left out")
        return True
    if not reader.exact:
        into.end_words()
    above = inner.parent if node is inner else node
    ours = above is not None and "hosted" in (above.attributes.get("class") or "").split()
    caption = None
    if node is not inner and (below := node.css_first("figcaption")):
        caption = reader.told.within(clean(spaced(below.text(), exact=reader.exact)).strip(), 1000, "caption") or None
    into.pieces.append(make("hosted", item=number, caption=caption, **(_setting(above) if ours and above else {})))
    return True


def _item(into: Blocks, inner: LexborNode) -> int | None:
    """The number of the item that is shown; a provisional one, where other pages frame something of theirs."""
    said = (inner.attributes.get(name) for name in _ADDRESSES)
    address = next(filter(None, said), "").strip()
    reference = parse_reference(address)
    if reference and reference.kind == "item" and not reference.fragment:
        return reference.number
    address = f"https:{address}" if address.startswith("//") else address
    if into.reader.exact or not re.match(r"https?://", address, re.IGNORECASE):
        return None
    words = next((value for name in _NAMED if (value := inner.attributes.get(name))), "")
    if not words and (title := inner.css_first(".press-title")):
        words = title.text()
    return into.reader.arriving.picture(address, alt=clean(words).strip()[:200], kind="hosted")


def _setting(held: LexborNode) -> dict[str, Any]:
    """How a film stands and plays; what is not well said is left out."""
    setting: dict[str, Any] = {}
    for name, attribute in SCHEMA.nodes["hosted"].attributes.items():
        if name in ("item", "caption") or f"data-{name}" not in held.attributes:
            continue
        given = held.attributes.get(f"data-{name}") or ""
        value: object = given
        if attribute.type == "boolean":
            value = True
        elif attribute.type == "integer":
            value = int(given) if re.fullmatch(r"\d{1,5}", given) else None
        if value is not None and attribute.problem(value) is None:
            setting[name] = value
    return setting
