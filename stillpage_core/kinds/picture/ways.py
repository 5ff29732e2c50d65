"""How a picture goes out; it comes in by way of `reading.html.pictures`, since other people's pages have them in many
forms."""

from __future__ import annotations

from html import escape
from typing import TYPE_CHECKING, Any

from ...document.node import Node
from ...media.editing import EDITS
from ...media.shown import Room, shown
from ...resolving import PictureTarget
from ...writing.html import attribute, figure, image, image_attributes
from ..ways import Ways
from . import SETTING, STANDING

if TYPE_CHECKING:
    from ...document.naming import Names
    from ...writing.html import File, Published, Storable
    from ...writing.text import Writer as Text


def _storable(_: Storable, node: Node) -> str:
    attributes: dict[str, object] = {"src": f"item:{node.attrs['item']}"}
    if node.attrs["alt"] is not None:
        attributes["alt"] = node.attrs["alt"]
    elif node.attrs["decorative"]:
        attributes["alt"] = ""
    if node.attrs["decorative"]:
        attributes["data-decorative"] = ""
    return figure(image(attributes), node.attrs["caption"], _said(node, SETTING))


def _said(node: Node, names: tuple[str, ...]) -> dict[str, object]:
    return {f"data-{name}": node.attrs[name] for name in names if node.attrs[name] is not None}


def _published(writer: Published, node: Node) -> str:
    target = writer.resolver.picture(node.attrs["item"])
    if target is None or not target.files:
        return ""
    inside = element(writer, node, target, writer.room)
    return figure(inside, node.attrs["caption"], _said(node, STANDING[1:]))


def alt_shown(node: Node, target: PictureTarget) -> str:
    """What is read out in a picture's place; "" where nothing is."""
    return "" if node.attrs["decorative"] else (node.attrs["alt"] or ("" if target.decorative else target.alt))


def element(writer: Published, node: Node, target: PictureTarget, room: Room, **framed: Any) -> str:
    """The element of a picture that has files, with as many of them as browsers choose among; ``framed`` are
    attributes in place of its own."""
    writer.pictures += 1
    at = shown(target, {**node.attrs, **framed}, room)
    attributes = {**image_attributes(at), "alt": alt_shown(node, target)}
    if writer.pictures > 1:
        attributes["loading"] = "lazy"
    sources = "".join(
        f"<source{attribute('type', each.type)}{attribute('srcset', each.srcset)}{attribute('sizes', at.sizes)}>"
        for each in at.sources
    )
    return f"<picture>{sources}{image(attributes)}</picture>"


def _file(writer: File, node: Node) -> str:
    target = writer.resolver.picture(node.attrs["item"])
    decorative = node.attrs["decorative"] or bool(target and target.decorative and not node.attrs["alt"])
    alt = "" if decorative else (node.attrs["alt"] or (target.alt if target else ""))
    if target is None or not target.files:
        words = f"[{alt}]" if alt else ""
        return "".join(f"<p>{escape(each, quote=False)}</p>" for each in (words, node.attrs["caption"]) if each)
    file = target.files[-1]
    sizes: dict[str, object] = {"width": file.width, "height": file.height} if file.width else {}
    # An empty alt text says that a picture is decorative; one that is still to be written is left out.
    said: dict[str, object] = {"alt": alt} if alt or decorative else {}
    return figure(image({"src": file.address, **said, **sizes}), node.attrs["caption"], _said(node, STANDING))


def _text(writer: Text, node: Node) -> str:
    alt = writer.alt(node)
    return "\n".join(filter(None, (f"[{alt}]" if alt else "", node.attrs["caption"])))


def _names(names: Names, node: Node) -> None:
    names.picture(node.attrs["item"], {name: node.attrs[name] for name in EDITS})


WAYS = {
    "picture": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        markdown=lambda writer, node: writer.picture(node),
        text=_text,
        docx=lambda writer, node, style: writer.picture(node, style),
        odt=lambda writer, node, style: writer.picture(node, style),
        names=_names,
        words=lambda node: node.attrs["caption"] or "",
    )
}
