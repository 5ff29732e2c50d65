"""How galleries go out and come in. What is within are pictures as any others."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape
from typing import TYPE_CHECKING

from ...document.node import Mark, Node, make
from ...document.walking import text_of
from ...media.shown import Room, large_file, picture_cut
from ...reading.html.held import pictures_in, said_in, setting_of
from ...resolving import PictureTarget, Resolver
from ...writing.html import attribute
from ..picture.ways import alt_shown, element
from ..ways import Ways
from . import SETTING

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ...document.naming import Names
    from ...reading.html.blocks import Blocks
    from ...writing.docx import Writer as Docx
    from ...writing.html import File, Published, Storable
    from ...writing.markdown import Writer as Markdown
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text

SCRIPT = "gallery.js"
"""The module of the theme that shows pictures large where they stand."""
TILE = {"small": 170, "medium": 232, "large": 352}
"""How wide a tile is, in CSS pixels: four, three or two in a column of text."""
ROW = {"small": 120, "medium": 180, "large": 270}
"""How high a row of a wall is, in CSS pixels."""


def _said(node: Node) -> str:
    return "".join(attribute(f"data-{name}", node.attrs[name]) for name in SETTING)


def _storable(writer: Storable, node: Node) -> str:
    title = attribute("data-title", node.attrs["title"]) if node.attrs["title"] else ""
    return f'<div class="gallery"{_said(node)}{title}>{writer.blocks(node)}</div>'


def _published(writer: Published, node: Node) -> str:
    """A list of tiles, each a link to the picture as large as it is given out; without those that are gone."""
    tiles = [
        _tile(writer, node, each, target)
        for each in node.content
        if (target := writer.resolver.picture(each.attrs["item"])) and target.files
    ]
    if not tiles:
        return ""
    writer.scripts.add(SCRIPT)
    title = node.attrs["title"]
    above = f'<p class="gallery-title">{escape(title, quote=False)}</p>' if title else ""
    name = attribute("aria-label", title or "Pictures")
    said = "".join(attribute(f"data-{name}", node.attrs[name]) for name in SETTING[:2])
    return f'<div class="gallery"{said}>{above}<ul{name}>{"".join(tiles)}</ul></div>'


def tile(node: Node, picture: Node, target: PictureTarget) -> tuple[dict[str, object], Room]:
    """How a picture stands in a gallery: attributes in place of its own, and the room of its tile."""
    standing: dict[str, object] = {"place": None, "width": None}
    if node.attrs["form"] == "tiles":
        across = TILE[node.attrs["size"]]
        return {**standing, **_framed(node, picture)}, Room(across, across)
    width, height = picture_cut(target, picture.attrs).size(target.width, target.height)
    across = max(1, round(width * ROW[node.attrs["size"]] / height))
    return standing, Room(across, across)


def _tile(writer: Published, node: Node, picture: Node, target: PictureTarget) -> str:
    framed, room = tile(node, picture, target)
    shown = element(writer, picture, target, room, **framed)
    large = large_file(target, picture.attrs)
    # A picture without words is no name for a link: what it is called in the library is better than nothing.
    name = "" if alt_shown(picture, target) else attribute("aria-label", target.title)
    caption = picture.attrs["caption"]
    below = f"<figcaption>{escape(caption, quote=False)}</figcaption>" if caption else ""
    sizes = attribute("data-width", large.width) + attribute("data-height", large.height)
    return f"<li><figure><a{attribute('href', large.address)}{sizes}{name}>{shown}</a>{below}</figure></li>"


def _framed(node: Node, picture: Node) -> dict[str, object]:
    """What is cut from a picture for its tile: its own proportions give way, its focal point stays."""
    return {"ratio": node.attrs["ratio"], "crop": None, "focus": picture.attrs["focus"]}


def _file(writer: File, node: Node) -> str:
    title = node.attrs["title"]
    above = f'<p class="gallery-title"><strong>{escape(title, quote=False)}</strong></p>' if title else ""
    inside = "".join(writer.block(each) for each in node.content)
    return f'<div class="gallery"{_said(node)}>{above}{inside}</div>' if node.content else above


def _read(into: Blocks, node: LexborNode, _: tuple[Mark, ...], __: int) -> bool:
    """A gallery of ours, or what other pages call so. With anything else in it but pictures it is read as it is."""
    pictures = pictures_in(into, node, "gallery-title")
    if pictures is None or (not pictures and not into.reader.exact):
        return False
    title = node.attributes.get("data-title") or said_in(node, ".gallery-title", exact=into.reader.exact)
    title = into.reader.told.within(title or "", 200, "title")
    into.pieces.append(make("gallery", pictures, title=title or None, **setting_of("gallery", SETTING, node)))
    return True


def _names(names: Names, node: Node) -> None:
    if node.attrs["form"] == "tiles":
        for each in node.content:
            kept = {name: each.attrs[name] for name in ("turn", "straighten")}
            names.picture(each.attrs["item"], {**kept, **_framed(node, each)})


def _markdown(writer: Markdown, node: Node) -> str:
    return writer.led_out(node)


def _text(writer: Text, node: Node) -> str:
    return "\n".join(filter(None, (node.attrs["title"], writer.all_of(node.content))))


def _docx(writer: Docx, node: Node, style: str) -> str:
    title = writer.paragraph(style, writer.run(node.attrs["title"], "<w:b/>")) if node.attrs["title"] else ""
    return title + writer.blocks(node.content, style)


def _odt(writer: Odt, node: Node, style: str) -> str:
    title = writer.paragraph(style, writer.strong(node.attrs["title"])) if node.attrs["title"] else ""
    return title + writer.blocks(node.content, style)


def _words(node: Node) -> str:
    return "\n".join(filter(None, (node.attrs["title"], *map(text_of, node.content))))


def _loads(node: Node, _: Resolver) -> Iterable[tuple[str, str]]:
    if node.content:
        yield "script-src", "'self'"


WAYS = {
    "gallery": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        read={"div.gallery": _read},
        markdown=_markdown,
        text=_text,
        docx=_docx,
        odt=_odt,
        names=_names,
        loads=_loads,
        words=_words,
    )
}
