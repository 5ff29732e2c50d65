"""How animations go out and come in."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape
from typing import TYPE_CHECKING

from ...document.node import Mark, Node, make
from ...media.animations import cut_for
from ...media.shown import shown_size
from ...reading.html.held import said_in, setting_of
from ...reading.text import clean
from ...references import parse_reference
from ...resolving import AnimationTarget, ImageFile, Resolver
from ...writing.html import attribute, image
from ..film import STANDING
from ..ways import Ways
from . import SETTING

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ...document.naming import Names
    from ...reading.html.blocks import Blocks
    from ...writing.docx import Writer as Docx
    from ...writing.html import File, Published, Storable
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text

SCRIPT = "animation.js"
"""The module of the theme that plays them; without it, and for readers who want things to stand still, a still frame
is there."""
PLAYER = "player/lottie_light.min.js"
"""The player that the module loads when one comes into view."""


def _attributes(attributes: dict[str, object]) -> str:
    return "".join(attribute(name, value) for name, value in attributes.items() if value not in (None, False, ""))


def _caption(words: str | None) -> str:
    return f"<figcaption>{escape(words, quote=False)}</figcaption>" if words else ""


def _storable(_: Storable, node: Node) -> str:
    said = _attributes({f"data-{name}": node.attrs[name] for name in SETTING})
    alt: dict[str, object] = {"alt": node.attrs["alt"], "data-decorative": node.attrs["decorative"]}
    shown = f"<img{attribute('src', 'item:' + str(node.attrs['item']))}{_attributes(alt)}>"
    return f'<figure class="animation"{said}>{shown}{_caption(node.attrs["caption"])}</figure>'


def alt_shown(node: Node, target: AnimationTarget) -> str:
    """What is read out in its place; "" where nothing is."""
    return "" if node.attrs["decorative"] else (node.attrs["alt"] or target.alt)


def files_for(node: Node, target: AnimationTarget) -> tuple[ImageFile | None, ImageFile | None]:
    """The file that moves in the colours of a use, and the still frame of it; where these are still to be made, those
    in its own colours."""
    cut = cut_for(node.attrs["colours"])

    def found(sort: str) -> ImageFile | None:
        files = [file for file in target.files if file.cut == f"{sort}-{cut}"]
        files = files or [file for file in target.files if file.cut == f"{sort}-{cut_for(None)}"]
        return files[-1] if files else None

    return found("moving"), found("still")


def _published(writer: Published, node: Node) -> str:
    """A still frame, with what a module of the theme needs to have it move."""
    target = writer.resolver.animation(node.attrs["item"])
    if target is None:
        return ""
    moving, still = files_for(node, target)
    cut = cut_for(node.attrs["colours"])
    writer.waits |= moving is None or moving.cut != f"moving-{cut}"
    if moving is None:
        return ""
    writer.scripts.add(SCRIPT)
    writer.pictures += 1
    width, height = shown_size(node.attrs, (target.width, target.height), writer.room, drawn=True)
    alt = alt_shown(node, target)
    sizes: dict[str, object] = {"width": width, "height": height}
    if still is not None:
        shown = image({"src": still.address, **sizes, "alt": alt, "loading": "lazy"})
    else:
        name = f' role="img"{attribute("aria-label", alt)}' if alt else ' aria-hidden="true"'
        shown = f'<svg viewBox="0 0 {width} {height}" width="{width}" height="{height}"{name}></svg>'
    plays = {
        "src": moving.address,
        "player": writer.module(PLAYER),
        "speed": node.attrs["speed"],
        "times": node.attrs["times"],
        "start": node.attrs["start"],
        "delay": node.attrs["delay"] or None,
        "name": target.title,
    }
    said = _attributes({f"data-{name}": node.attrs[name] for name in STANDING[1:]})
    box = (
        f'<div class="animation-box"{_attributes({f"data-{name}": each for name, each in plays.items()})}>{shown}</div>'
    )
    return f'<div class="film animation"{said}><figure>{box}{_caption(node.attrs["caption"])}</figure></div>'


def _file(writer: File, node: Node) -> str:
    """In a file that stands alone, the words that stand for it."""
    target = writer.resolver.animation(node.attrs["item"])
    still = files_for(node, target)[1] if target else None
    if target is not None and still is not None:
        alt = alt_shown(node, target)
        shown = image({"src": still.address, "alt": alt, "width": still.width, "height": still.height})
        return f"<figure>{shown}{_caption(node.attrs['caption'])}</figure>"
    words = (f"[{alt_shown(node, target) or target.title}]" if target else "", node.attrs["caption"])
    return "".join(f"<p>{escape(each, quote=False)}</p>" for each in words if each)


def _words_for(node: Node, target: AnimationTarget | None) -> str:
    """What stands for it where nothing moves."""
    said = node.attrs["alt"] or ((target.alt or target.title) if target else "")
    return "" if node.attrs["decorative"] or not said else f"[{said}]"


def _text(writer: Text, node: Node) -> str:
    return "\n".join(filter(None, (_words_for(node, writer.animations.get(node.attrs["item"])), node.attrs["caption"])))


def _docx(writer: Docx, node: Node, style: str) -> str:
    if shown := writer.carried.still_of(node):
        return writer.picture(shown, style)
    words = (_words_for(node, None), node.attrs["caption"])
    return "".join(writer.paragraph(style, writer.run(each)) for each in words if each)


def _odt(writer: Odt, node: Node, style: str) -> str:
    if shown := writer.carried.still_of(node):
        return writer.picture(shown, style)
    words = (_words_for(node, None), node.attrs["caption"])
    return "".join(writer.paragraph(style, writer.plain(each)) for each in words if each)


def _read(into: Blocks, node: LexborNode, _: tuple[Mark, ...], __: int) -> bool:
    """An animation of ours, as it is kept or as readers have it; what shows no item of the library is read as what it
    is."""
    reader = into.reader
    shown, box = node.css_first("img"), node.css_first(".animation-box")
    named = box.attributes.get("data-src") if box else shown.attributes.get("src") if shown else ""
    address = (named or "").strip()
    reference = parse_reference(address)
    words = shown.attributes.get("alt") if shown else None
    number = reference.number if reference and reference.kind == "item" and not reference.fragment else None
    if number is None and box is not None and not reader.exact:
        number = reader.arriving.picture(address, alt=clean(words or "")[:200], kind="animation")
    if number is None:
        return False
    alt = reader.told.within(words or "", 1000, "alt text") or None
    caption = reader.told.within(said_in(node, "figcaption", exact=reader.exact), 1000, "caption") or None
    decorative = shown is not None and "data-decorative" in shown.attributes
    setting = setting_of("animation", SETTING, node)
    if box is not None:
        setting |= setting_of("animation", ("speed", "times", "start", "delay"), box)
    into.end_words()
    made = make("animation", item=number, decorative=decorative, alt=alt, caption=caption, **setting)
    into.pieces.append(made)
    return True


def _names(names: Names, node: Node) -> None:
    names.animation(node.attrs["item"], node.attrs["colours"])


def _loads(node: Node, resolver: Resolver) -> Iterable[tuple[str, str]]:
    if resolver.animation(node.attrs["item"]):
        yield "script-src", "'self'"
        yield "connect-src", "'self'"


WAYS = {
    "animation": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        read={"figure.animation": _read, "div.animation": _read},
        markdown=lambda writer, node: writer.led_out(node),
        text=_text,
        docx=_docx,
        odt=_odt,
        names=_names,
        loads=_loads,
        words=lambda node: node.attrs["caption"] or "",
    )
}
