"""How films at other hosts go out and come in."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape
from typing import TYPE_CHECKING

from ...document.node import Node
from ...media.hosting import frame_address, origin_of
from ...media.playing import HOSTED_NARROW, cover_item, hosted_cover, hosted_size, told, told_of_host
from ...reading.html.hosted import hosted
from ...resolving import HostedTarget, Resolver
from ...writing.carrying import film_words
from ...writing.html import attribute, image
from ..film import STANDING
from ..film.ways import ALL_EDITS
from ..ways import Ways
from . import OPTIONS, SETTING

if TYPE_CHECKING:
    from ...document.naming import Names
    from ...writing.html import File, Published, Storable
    from ...writing.text import Writer as Text

SCRIPT = "hosted.js"
"""The module of the theme that puts the host's player in the place of the cover once a reader presses it."""


def _attributes(attributes: dict[str, object]) -> str:
    return "".join(attribute(name, value) for name, value in attributes.items() if value not in (None, False, ""))


def _caption(words: str | None) -> str:
    return f"<figcaption>{escape(words, quote=False)}</figcaption>" if words else ""


def _storable(_: Storable, node: Node) -> str:
    said = {f"data-{name}": "" if node.attrs[name] is True else node.attrs[name] for name in SETTING}
    written = "".join(attribute(name, value) for name, value in said.items() if value not in (None, False))
    frame = f"<iframe{attribute('src', 'item:' + str(node.attrs['item']))}></iframe>"
    return f'<figure class="hosted"{written}>{frame}{_caption(node.attrs["caption"])}</figure>'


def frame_of(node: Node, target: HostedTarget) -> str:
    """The address of the player that a press brings; "" where none may be shown (any more).

    Whoever has pressed wants to see it: it begins by itself where the host can do that.
    """
    if target.host is None or origin_of(target.frame) != target.host.frames:
        return ""
    chosen = {name: node.attrs[name] for name in OPTIONS if node.attrs[name] is not None}
    return frame_address(target.frame, target.host, {**chosen, "autoplay": True})


def _published(writer: Published, node: Node) -> str:
    """A link to the film at its host, which a module of the theme makes a press that plays it here."""
    target = writer.resolver.hosted(node.attrs["item"])
    if target is None:
        return ""
    width, height = hosted_size(target, node.attrs, writer.room)
    frame = frame_of(node, target)
    if frame:
        writer.scripts.add(SCRIPT)
    cover, _ = hosted_cover(target, node.attrs, writer.room, writer.resolver)
    # The proportions of the film, whatever those of its cover are: nothing moves when that comes, or a player.
    shown = f'<svg viewBox="0 0 {width} {height}" width="{width}" height="{height}" aria-hidden="true"></svg>'
    if cover:
        shown += image({"src": cover, "alt": "", "width": width, "height": height, "loading": "lazy"})
    shown = f'<span class="press-cover">{shown}</span>'
    words = (
        f'<span class="press-words"><span class="press-title">{escape(target.title, quote=False)}</span> '
        f'<span class="press-host">{escape(told_of_host(target), quote=False)}</span></span>'
    )
    small = " is-small" if width < HOSTED_NARROW else ""
    link = f'<a class="press{small}"{_attributes({"href": target.address, "data-frame": frame})}>{shown}{words}</a>'
    said = _attributes({f"data-{name}": node.attrs[name] for name in STANDING[1:]})
    return f'<div class="film hosted"{said}><figure>{link}{_caption(node.attrs["caption"])}</figure></div>'


def _file(writer: File, node: Node) -> str:
    """In a file that stands alone, its cover and a link to it."""
    target = writer.resolver.hosted(node.attrs["item"])
    words = escape(told(target), quote=False) if target else ""
    link = f"<p><a{attribute('href', target.address)}>{words}</a></p>" if target else ""
    cover, _ = hosted_cover(target, node.attrs, writer.room, writer.resolver) if target else ("", 0)
    picture = f"<figure>{image({'src': cover, 'alt': target.title})}</figure>" if target and cover else ""
    caption = node.attrs["caption"]
    return picture + link + (f"<p>{escape(caption, quote=False)}</p>" if caption else "")


def _text(writer: Text, node: Node) -> str:
    target = writer.films.get(node.attrs["item"])
    address = target.address if isinstance(target, HostedTarget) else ""
    words = film_words(node, writer.films)
    return "\n".join(filter(None, (f"[{words.link}]" if words.link else "", address, words.caption)))


def _names(names: Names, node: Node) -> None:
    names.item(node.attrs["item"])
    if number := cover_item(node.attrs):
        names.picture(number, dict(ALL_EDITS))


def _loads(node: Node, resolver: Resolver) -> Iterable[tuple[str, str]]:
    target = resolver.hosted(node.attrs["item"])
    if target is not None and target.host is not None and frame_of(node, target):
        yield "frame-src", target.host.frames
        yield "script-src", "'self'"


WAYS = {
    "hosted": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        markdown=lambda writer, node: writer.led_out(node),
        text=_text,
        docx=lambda writer, node, style: writer.film(node, style),
        odt=lambda writer, node, style: writer.film(node, style),
        names=_names,
        loads=_loads,
        words=lambda node: node.attrs["caption"] or "",
        read=dict.fromkeys(("figure.hosted", "div.hosted", "iframe"), hosted),
    )
}
