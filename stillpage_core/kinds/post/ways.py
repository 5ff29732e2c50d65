"""How posts of networks go out and come in."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape
from typing import TYPE_CHECKING

from ...document.node import Mark, Node, make
from ...media.hosting import frame_address, origin_of
from ...media.shown import Room
from ...reading.html.held import said_in
from ...references import parse_reference
from ...resolving import PostTarget, Resolver
from ...writing.html import attribute
from ..film.ways import ALL_EDITS
from ..hosted.ways import SCRIPT
from ..picture.ways import element
from ..quotation.ways import read_quotation
from ..ways import Ways

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ...document.naming import Names
    from ...reading.html.blocks import Blocks
    from ...writing.carrying import Carried
    from ...writing.docx import Writer as Docx
    from ...writing.html import File, Published, Storable
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text

ACROSS = 440
"""How wide the pictures of a post are at most, in CSS pixels."""


def pictures_of(node: Node) -> list[int]:
    """The numbers of the pictures that a node shows."""
    return [int(number) for number in (node.attrs["pictures"] or "").split()]


def _words(text: str) -> str:
    return escape(text, quote=False)


def _caption(node: Node) -> str:
    words = node.attrs["caption"]
    return f'<p class="post-caption">{_words(words)}</p>' if words else ""


def _storable(_: Storable, node: Node) -> str:
    shown = attribute("data-pictures", node.attrs["pictures"]) if node.attrs["pictures"] else ""
    link = f"<p><a{attribute('href', 'item:' + str(node.attrs['item']))}></a></p>"
    return f'<div class="post"{shown}>{link}{_caption(node)}</div>'


def frame_of(target: PostTarget) -> str:
    """The address of the network's own view; "" where there is none, or none may be shown (any more)."""
    if target.host is None or not target.frame or target.gone or origin_of(target.frame) != target.host.frames:
        return ""
    return frame_address(target.frame, target.host, {})


def _published(writer: Published, node: Node) -> str:
    """A quotation with its source, and a press that brings the network's own view."""
    target = writer.resolver.post(node.attrs["item"])
    if target is None:
        return ""
    return f'<div class="post">{_quoted(writer, node, target)}{_press(writer, target)}{_caption(node)}</div>'


def _quoted(writer: Published, node: Node, target: PostTarget) -> str:
    words = "".join(f"<p>{_words(line)}</p>" for line in target.words)
    shown = ""
    for number in pictures_of(node):
        picture = writer.resolver.picture(number)
        if picture and picture.files:
            plain = make("picture", item=number)
            shown += element(writer, plain, picture, Room(ACROSS, ACROSS))
    pictures = f'<div class="post-pictures">{shown}</div>' if shown else ""
    cite = attribute("cite", target.address)
    return f"<figure><blockquote{cite}>{words}{pictures}</blockquote>{_source(target)}</figure>"


def _source(target: PostTarget) -> str:
    """Who wrote it, when, and where it is; that it is gone there."""
    author = _words(target.author)
    if target.author and target.author_address:
        author = f"<a{attribute('href', target.author_address)}>{author}</a>"
    when = target.moment
    time = f"<time{attribute('datetime', target.at)}>{_words(when)}</time>" if when else ""
    name = _words(target.provider)
    where = f"{name}, where it is gone" if target.gone else f"<a{attribute('href', target.address)}>{name}</a>"
    return f"<figcaption>{', '.join(filter(None, (author, time, where)))}</figcaption>"


def _press(writer: Published, target: PostTarget) -> str:
    frame = frame_of(target)
    if not frame:
        return ""
    writer.scripts.add(SCRIPT)
    width, height = target.width or 480, target.height or 360
    sizes = f'viewBox="0 0 {width} {height}" width="{width}" height="{height}"'
    words = (
        '<span class="press-words"><span class="press-title">Show it as it stands there</span> '
        f'<span class="press-host">{_words(target.provider)}</span></span>'
    )
    link = "".join(
        attribute(name, value)
        for name, value in (("href", target.address), ("data-frame", frame), ("data-name", target.title))
    )
    return f'<a class="press is-bare"{link}><svg {sizes} aria-hidden="true"></svg>{words}</a>'


def _lines(node: Node, target: PostTarget | None) -> list[str]:
    """What is said of a post where there is nothing but text."""
    if target is None:
        return [node.attrs["caption"]] if node.attrs["caption"] else []
    source = ", ".join(filter(None, (target.author, target.moment, target.provider)))
    return [*target.words, f"— {source}", target.address, *([node.attrs["caption"]] if node.attrs["caption"] else [])]


def _file(writer: File, node: Node) -> str:
    """In a file that stands alone, a quotation with its source; our reader takes it for one."""
    target = writer.resolver.post(node.attrs["item"])
    if target is None:
        return _caption(node)
    words = "".join(f"<p>{_words(line)}</p>" for line in target.words)
    cite = attribute("cite", target.address)
    return f'<figure class="quotation"><blockquote{cite}>{words}</blockquote>{_source(target)}</figure>{_caption(node)}'


def _text(writer: Text, node: Node) -> str:
    return "\n".join(_lines(node, writer.posts.get(node.attrs["item"])))


def _in_paragraphs(node: Node, carried: Carried) -> list[str]:
    return _lines(node, carried.posts.get(node.attrs["item"]))


def _docx(writer: Docx, node: Node, _: str) -> str:
    return "".join(writer.paragraph("Quote", writer.run(line)) for line in _in_paragraphs(node, writer.carried))


def _odt(writer: Odt, node: Node, _: str) -> str:
    return "".join(writer.paragraph("Quotations", writer.plain(line)) for line in _in_paragraphs(node, writer.carried))


def _read(into: Blocks, node: LexborNode, _: tuple[Mark, ...], __: int) -> bool:
    """A post of ours, as it is kept or as readers have it; what leads to none of the library is read as what it is."""
    reader = into.reader
    link = node.css_first('p > a[href^="item:"]')
    reference = parse_reference((link.attributes.get("href") or "").strip()) if link else None
    number = reference.number if reference and reference.kind == "item" and not reference.fragment else None
    quote = node.css_first("blockquote[cite]")
    if number is None and quote is not None and not reader.exact:
        address = (quote.attributes.get("cite") or "").strip()
        inner = into.fresh()
        read_quotation(inner, node.css_first("figure") or quote, (), 0)
        number = reader.arriving.quoted(address, inner.done()) if address else None
    if number is None:
        return False
    shown = node.attributes.get("data-pictures") or None
    caption = reader.told.within(said_in(node, ".post-caption", exact=reader.exact), 1000, "caption") or None
    made = make("post", item=number, caption=caption, pictures=shown)
    into.end_words()
    into.pieces.append(made)
    return True


def _names(names: Names, node: Node) -> None:
    names.item(node.attrs["item"])
    for number in pictures_of(node):
        names.picture(number, dict(ALL_EDITS))


def _loads(node: Node, resolver: Resolver) -> Iterable[tuple[str, str]]:
    target = resolver.post(node.attrs["item"])
    if target is not None and target.host is not None and frame_of(target):
        yield "frame-src", target.host.frames
        yield "script-src", "'self'"


WAYS = {
    "post": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        read={"div.post": _read},
        markdown=lambda writer, node: writer.led_out(node),
        text=_text,
        docx=_docx,
        odt=_odt,
        names=_names,
        loads=_loads,
        words=lambda node: node.attrs["caption"] or "",
    )
}
