"""How documents that are shown in a page go out and come in."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape
from typing import TYPE_CHECKING

from ...document.node import Mark, Node, make
from ...media.labels import label_of
from ...media.papers import span
from ...reading.html.held import said_in, setting_of
from ...references import parse_reference
from ...resolving import ItemTarget, PageShown, Resolver
from ...writing.html import attribute, image
from ..ways import Ways
from . import SETTING

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ...document.naming import Names
    from ...reading.html.blocks import Blocks
    from ...writing.carrying import Carried
    from ...writing.docx import Writer as Docx
    from ...writing.html import File, Published, Storable
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text

SCRIPT = "paper.js"
"""The module of the theme that turns pages; without it they stand one below the other."""


def _caption(node: Node) -> str:
    words = node.attrs["caption"]
    return f'<p class="paper-caption">{escape(words, quote=False)}</p>' if words else ""


def _storable(_: Storable, node: Node) -> str:
    values = {name: "" if node.attrs[name] is True else node.attrs[name] for name in SETTING}
    said = "".join(attribute(f"data-{name}", each) for name, each in values.items() if each not in (None, False))
    link = f"<p><a{attribute('href', 'item:' + str(node.attrs['item']))}></a></p>"
    return f'<div class="paper"{said}>{link}{_caption(node)}</div>'


def pages_shown(node: Node, item: ItemTarget) -> list[PageShown]:
    """The pages that a node shows, as far as there are pictures of them."""
    numbers = span(node.attrs["first"], node.attrs["last"], item.pages)
    return [each for each in item.shown if each.number in numbers]


def _number_wanted(node: Node, item: ItemTarget) -> int:
    """How many pages are to be shown, as far as that is known; 0 where none can be."""
    if item.undrawn:
        return 0
    return len(span(node.attrs["first"], node.attrs["last"], item.pages)) if item.pages else 1


def _published(writer: Published, node: Node) -> str:
    """The link to the file, then its pages in their order, each with its words behind a press."""
    item = writer.resolver.item(node.attrs["item"])
    if item is None:
        return ""
    pages = pages_shown(node, item)
    writer.waits |= len(pages) < _number_wanted(node, item)
    turned = node.attrs["turned"] and len(pages) > 1
    if turned:
        writer.scripts.add(SCRIPT)
    writer.pictures += 1
    inside = "".join(_page(item, page) for page in pages)
    listed = f'<ol class="paper-pages"{attribute("aria-label", item.title)}>{inside}</ol>' if pages else ""
    said = ' data-turned=""' if turned else ""
    return f'<div class="paper"{said}>{_link(item, writer.language)}{listed}{_caption(node)}</div>'


def _link(item: ItemTarget, language: str) -> str:
    facts = label_of(item, language)
    told = f' <span class="download-facts">{escape(facts, quote=False)}</span>' if facts else ""
    return f'<p class="paper-title"><a{attribute("href", item.address)}>{escape(item.title, quote=False)}{told}</a></p>'


def _page(item: ItemTarget, page: PageShown) -> str:
    of = f" of {item.pages}" if item.pages else ""
    smallest, largest = page.files[0], page.files[-1]
    sizes = {"width": smallest.width, "height": smallest.height}
    srcset = ", ".join(f"{file.address} {file.width}w" for file in page.files)
    wide = f"(min-width: {smallest.width + 48}px) {smallest.width}px, calc(100vw - 48px)"
    files = {"srcset": srcset, "sizes": wide} if len(page.files) > 1 else {}
    alt = f"Page {page.number} as a picture" + ("; its words follow" if page.words else "")
    shown = image({"src": smallest.address, **files, **sizes, "alt": alt, "loading": "lazy"})
    large = f"<a{attribute('href', largest.address)}>{shown}</a>"
    lines = "".join(f"<p>{escape(line, quote=False)}</p>" for line in page.words)
    words = (
        f'<details class="paper-words"><summary>Page {page.number} as text</summary>{lines}</details>' if lines else ""
    )
    return f'<li><p class="paper-number">Page {page.number}{of}</p>{large}{words}</li>'


def _file(writer: File, node: Node) -> str:
    """In a file that stands alone, a link to it."""
    item = writer.resolver.item(node.attrs["item"])
    return (f'<div class="paper">{_link(item, writer.language)}{_caption(node)}</div>') if item else _caption(node)


def _words_of(node: Node, carried: Carried) -> str:
    item = carried.items.get(node.attrs["item"])
    return " ".join(filter(None, (item.title, label_of(item, carried.language)))) if item else "?"


def _text(writer: Text, node: Node) -> str:
    item = writer.documents.get(node.attrs["item"])
    said = " ".join(filter(None, (item.title, label_of(item), item.address))) if item else ""
    lines = [f"[{said}]" if said else ""]
    lines += [line for page in (pages_shown(node, item) if item else ()) for line in page.words]
    return "\n".join(filter(None, (*lines, node.attrs["caption"])))


def _docx(writer: Docx, node: Node, style: str) -> str:
    link = writer.linked(f"item:{node.attrs['item']}", writer.run(_words_of(node, writer.carried)))
    caption = node.attrs["caption"]
    return writer.paragraph(style, link) + (writer.paragraph(style, writer.run(caption)) if caption else "")


def _odt(writer: Odt, node: Node, style: str) -> str:
    link = writer.linked(f"item:{node.attrs['item']}", writer.plain(_words_of(node, writer.carried)))
    caption = node.attrs["caption"]
    return writer.paragraph(style, link) + (writer.paragraph(style, writer.plain(caption)) if caption else "")


def _read(into: Blocks, node: LexborNode, _: tuple[Mark, ...], __: int) -> bool:
    """A document shown in a page of ours; what leads to no item is read as what it is."""
    reader = into.reader
    link = node.css_first("a")
    address = (link.attributes.get("href") or "").strip() if link else ""
    known = address if reader.exact or address.startswith("item:") else reader.arriving.link(address)
    reference = parse_reference(known or "")
    if reference is None or reference.kind != "item" or reference.fragment or not reference.number:
        return False
    caption = reader.told.within(said_in(node, ".paper-caption", exact=reader.exact), 1000, "caption")
    setting = setting_of("paper", SETTING, node)
    into.pieces.append(make("paper", item=reference.number, caption=caption or None, **setting))
    return True


def _names(names: Names, node: Node) -> None:
    names.paper(node.attrs["item"], {"first": node.attrs["first"], "last": node.attrs["last"]})


def _loads(node: Node, resolver: Resolver) -> Iterable[tuple[str, str]]:
    item = resolver.item(node.attrs["item"]) if node.attrs["turned"] else None
    if item and len(pages_shown(node, item)) > 1:
        yield "script-src", "'self'"


WAYS = {
    "paper": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        read={"div.paper": _read},
        markdown=lambda writer, node: writer.led_out(node),
        text=_text,
        docx=_docx,
        odt=_odt,
        names=_names,
        loads=_loads,
        words=lambda node: node.attrs["caption"] or "",
    )
}
