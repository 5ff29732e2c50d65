"""Films and sounds: those of the library, and those that other pages play."""

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

PLAYERS = {"video": "film", "audio": "sound"}
_NAMED = re.compile(r"[?#]")


def film(into: Blocks, node: LexborNode, _: Marks, __: int) -> bool:
    """A player, or the figure or division that our own pages have round one; of those what is not the player's or the
    caption's is made anew from the item. Of other people's figures only the player is meant here."""
    player = node if node.tag in PLAYERS else node.css_first("video, audio")
    if player is None or player.tag is None:
        return False
    kind = PLAYERS[player.tag]
    held = _figure(player)
    reader = into.reader
    number = _item(into, player, kind)
    if number is None:
        what = ("A video", "{} videos") if kind == "film" else ("A sound", "{} sounds")
        reader.told.dropped(f"{what[0]} was left out: no file is named", f"{what[1]} were left out: no file is named")
        return True
    if not reader.exact:
        into.end_words()
    caption = None
    if node is not player and (below := node.css_first("figcaption")):
        caption = reader.told.within(clean(spaced(below.text(), exact=reader.exact)).strip(), 1000, "caption") or None
    into.pieces.append(make(kind, item=number, caption=caption, **_setting(kind, player, held)))
    return True


def _figure(player: LexborNode) -> list[LexborNode]:
    """The elements of ours around a player, which say how it stands."""
    found: list[LexborNode] = []
    above = player.parent
    while above is not None and above.tag in ("figure", "div") and len(found) < 2:
        found.append(above)
        above = above.parent
    return [each for each in found if {"film", "sound"} & set((each.attributes.get("class") or "").split())]


def _item(into: Blocks, player: LexborNode, kind: str) -> int | None:
    """The number of the item that is played; a provisional one, where other pages play a file of theirs."""
    addresses = [player.attributes.get("src"), *(each.attributes.get("src") for each in player.css("source"))]
    found = [address.strip() for address in addresses if address and address.strip()]
    for address in found:
        reference = parse_reference(address)
        if reference and reference.kind == "item" and not reference.fragment:
            return reference.number
    if not found or into.reader.exact:
        return None
    address = found[-1]
    name = _NAMED.split(address)[0].replace("\\", "/").rsplit("/", 1)[-1]
    alt = clean(player.attributes.get("aria-label") or player.attributes.get("title") or "").strip()[:200]
    return into.reader.arriving.picture(address, name=name, alt=alt, kind="film" if kind == "film" else "sound")


def _setting(kind: str, player: LexborNode, held: list[LexborNode]) -> dict[str, Any]:
    """How a film stands and plays; what is not well said is left out."""
    setting: dict[str, Any] = {}
    for name, attribute in SCHEMA.nodes[kind].attributes.items():
        if name in ("item", "caption"):
            continue
        if attribute.type == "boolean":
            setting[name] = name in player.attributes or (name == "autoplay" and "data-starts" in player.attributes)
            continue
        given = next((value for each in held if (value := each.attributes.get(f"data-{name}"))), None)
        if name == "width" and given is None:
            given = player.attributes.get("width")
        wanted: object = given
        if attribute.type == "integer":
            wanted = int(given) if given and re.fullmatch(r"\d{1,5}", given) else None
        if wanted is not None and attribute.problem(wanted) is None:
            setting[name] = wanted
    if "transcript" not in setting and held:
        below = held[-1].css_first(".transcript")
        if below is not None:
            setting["transcript"] = "folded" if below.tag == "details" else "below"
    return setting
