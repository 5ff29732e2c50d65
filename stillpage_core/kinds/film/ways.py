"""How films and sounds go out and come in."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from html import escape
from typing import TYPE_CHECKING, Any

from ...document.node import Node
from ...media.playing import (
    cover_file,
    cover_item,
    film_size,
    sources,
    told,
    transcribed,
    transcript_name,
    whole_file,
)
from ...reading.html.films import film
from ...resolving import FilmTarget, Resolver
from ...writing.carrying import film_words
from ...writing.html import attribute
from ..ways import Ways
from . import PLAYED, SETTING, STANDING

if TYPE_CHECKING:
    from ...document.naming import Names
    from ...writing.docx import Writer as Docx
    from ...writing.html import File, Published, Storable
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text

_TAG = {"film": "video", "sound": "audio"}
SCRIPT = "film.js"
"""The module of the theme that starts films which start by themselves."""
ALL_EDITS = dict.fromkeys(("turn", "straighten", "crop", "ratio", "focus"))


def _attributes(attributes: dict[str, object]) -> str:
    return "".join(attribute(name, value) for name, value in attributes.items() if value not in (None, False))


def _caption(words: str | None) -> str:
    return f"<figcaption>{escape(words, quote=False)}</figcaption>" if words else ""


def _storable(_: Storable, node: Node) -> str:
    tag = _TAG[node.kind]
    said = _attributes({f"data-{name}": node.attrs[name] for name in SETTING[node.kind]})
    played = _attributes({name: node.attrs[name] for name in PLAYED[node.kind]})
    player = f"<{tag}{attribute('src', 'item:' + str(node.attrs['item']))}{played}></{tag}>"
    return f'<figure class="{node.kind}"{said}>{player}{_caption(node.attrs["caption"])}</figure>'


def _published(writer: Published, node: Node) -> str:
    """A player in the browser's own form, its words below it; nothing while there is no file that plays."""
    target = writer.resolver.film(node.attrs["item"])
    if target is None or not target.playable:
        return ""
    said: dict[str, object] = {f"data-{name}": node.attrs.get(name) for name in STANDING[1:]}
    player = _player(writer, node, target)
    caption = node.attrs["caption"] or (target.title if node.kind == "sound" else None)
    inside = f"<figure>{player}{_caption(caption)}</figure>{_transcript(node, target)}"
    return f'<div class="{node.kind}"{_attributes(said)}>{inside}</div>'


def _player(writer: Published, node: Node, target: FilmTarget) -> str:
    tag = _TAG[node.kind]
    attributes: dict[str, object] = {"controls": True, "preload": "none", "aria-label": target.title}
    attributes["loop"] = node.attrs["loop"]
    if node.kind == "film":
        width, height = film_size(target, node.attrs, writer.room)
        cover, _ = cover_file(target, node.attrs, writer.room, writer.resolver)
        attributes |= {"width": width, "height": height, "poster": cover or None, "playsinline": True}
        if node.attrs["autoplay"]:
            attributes |= {"muted": True, "data-starts": ""}
            writer.scripts.add(SCRIPT)
    files = "".join(
        f"<source{_attributes({'src': file.address, 'type': file.mime, 'media': file.media or None})}>"
        for file in sources(target)
    )
    tracks = "".join(
        f"<track{_attributes({'kind': each.sort, 'srclang': each.language, 'label': each.name, 'src': each.address})}>"
        for each in target.tracks
    )
    file = whole_file(target)
    link = f"<a{attribute('href', file.address)}>{escape(told(target), quote=False)}</a>" if file else ""
    return f"<{tag}{_attributes(attributes)}>{files}{tracks}{link}</{tag}>"


def _transcript(node: Node, target: FilmTarget) -> str:
    track = transcribed(target) if node.attrs["transcript"] else None
    if track is None:
        return ""
    name = escape(transcript_name(track), quote=False)
    words = "".join(f"<p>{escape(each, quote=False)}</p>" for each in track.paragraphs)
    language = attribute("lang", track.language)
    if node.attrs["transcript"] == "folded":
        return f'<details class="transcript"{language}><summary>{name}</summary>{words}</details>'
    return f'<div class="transcript"{language}><p class="transcript-name">{name}</p>{words}</div>'


def _file(writer: File, node: Node) -> str:
    """In a file that stands alone, a player that takes the film from where readers get it, and the words below."""
    target = writer.resolver.film(node.attrs["item"])
    if target is not None and target.playable:
        return _published(writer, node)
    words = (f"[{target.title}]" if target else "", node.attrs["caption"])
    return "".join(f"<p>{escape(each, quote=False)}</p>" for each in words if each)


def _text(writer: Text, node: Node) -> str:
    words = film_words(node, writer.films)
    target = writer.films.get(node.attrs["item"])
    file = whole_file(target) if isinstance(target, FilmTarget) else None
    lines = (f"[{words.link}]" if words.link else "", file.address if file else "", words.caption, *words.transcript)
    return "\n".join(filter(None, lines))


def _docx(writer: Docx, node: Node, style: str) -> str:
    return writer.film(node, style)


def _odt(writer: Odt, node: Node, style: str) -> str:
    return writer.film(node, style)


def _names(names: Names, node: Node) -> None:
    names.item(node.attrs["item"])
    if number := cover_item(node.attrs):
        names.picture(number, dict(ALL_EDITS))


def _loads(node: Node, _: Resolver) -> Iterable[tuple[str, str]]:
    yield "media-src", "'self'"
    if node.attrs.get("autoplay"):
        yield "script-src", "'self'"


def _ways(read: Mapping[str, Any]) -> Ways:
    return Ways(
        storable=_storable,
        published=_published,
        file=_file,
        markdown=lambda writer, node: writer.led_out(node),
        text=_text,
        docx=_docx,
        odt=_odt,
        names=_names,
        loads=_loads,
        words=lambda node: node.attrs["caption"] or "",
        read=read,
    )


WAYS = {
    "film": _ways(dict.fromkeys(("figure.film", "div.film", "video"), film)),
    "sound": _ways(dict.fromkeys(("figure.sound", "div.sound", "audio"), film)),
}
