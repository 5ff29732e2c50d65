"""How lists of downloads go out and come in."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape
from typing import TYPE_CHECKING

from ...document.node import Mark, Node, make
from ...media.labels import label_of
from ...reading.html.tree import children_of, spaced
from ...reading.text import clean
from ...references import parse_reference
from ...resolving import ItemTarget
from ...writing.html import attribute
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


def _words(text: str) -> str:
    return escape(text, quote=False)


def _description(node: Node) -> str:
    words = node.attrs["description"]
    return f'<p class="download-description">{_words(words)}</p>' if words else ""


def _storable(_: Storable, node: Node) -> str:
    said = attribute("data-title", node.attrs["title"]) if node.attrs["title"] else ""
    said += ' data-new-window=""' if node.attrs["new_window"] else ""
    entries = "".join(
        f"<li><a{attribute('href', 'item:' + str(each.attrs['item']))}>{_words(each.attrs['words'] or '')}</a>"
        f"{_description(each)}</li>"
        for each in node.content
    )
    return f'<div class="downloads"{said}><ul>{entries}</ul></div>'


def _published(writer: Published, node: Node) -> str:
    """A list of links, each with the kind, size, pages and language of its file; without those that are gone."""
    entries = [(each, item) for each in node.content if (item := writer.resolver.item(each.attrs["item"]))]
    if not entries:
        return ""
    title = node.attrs["title"]
    above = f'<p class="downloads-title">{_words(title)}</p>' if title else ""
    name = attribute("aria-label", title) if title else ""
    return (
        f'<div class="downloads">{above}<ul{name}>{"".join(_entry(writer, node, *each) for each in entries)}</ul></div>'
    )


def _entry(writer: Published, node: Node, download: Node, item: ItemTarget) -> str:
    words = _words(download.attrs["words"] or item.title)
    facts = label_of(item, writer.language)
    inside = f'{words} <span class="download-facts">{_words(facts)}</span>' if facts else words
    window = ""
    if node.attrs["new_window"]:
        inside, window = writer.in_new_window(inside), ' target="_blank" rel="noopener"'
    return f"<li><a{attribute('href', item.address)}{window}>{inside}</a>{_description(download)}</li>"


def _file(writer: File, node: Node) -> str:
    """In a file that stands alone, the storable form with addresses: our reader knows it again."""
    title = node.attrs["title"]
    above = f'<p class="downloads-title"><strong>{_words(title)}</strong></p>' if title else ""
    return above + _published(writer, node.with_attrs(title=None, new_window=False))


def _lines(node: Node, carried: Carried) -> Iterator[tuple[Node, str]]:
    """Each document with the words of its link, told what it is where that is known."""
    for each in node.content:
        item = carried.items.get(each.attrs["item"])
        words = each.attrs["words"] or (item.title if item else "")
        facts = label_of(item, carried.language) if item else ""
        yield each, " ".join(filter(None, (words, facts))) or "?"


def _text(writer: Text, node: Node) -> str:
    lines = [node.attrs["title"] or ""]
    for each in node.content:
        item = writer.documents.get(each.attrs["item"])
        words = each.attrs["words"] or (item.title if item else "")
        said = " ".join(filter(None, (words, label_of(item, "") if item else "", item.address if item else "")))
        lines += [f"- {said}" if said else "", each.attrs["description"] and f"  {each.attrs['description']}"]
    return "\n".join(filter(None, lines))


def _docx(writer: Docx, node: Node, style: str) -> str:
    title = node.attrs["title"]
    made = writer.paragraph(style, writer.run(title, "<w:b/>")) if title else ""
    for each, words in _lines(node, writer.carried):
        made += writer.paragraph(style, writer.linked(f"item:{each.attrs['item']}", writer.run(words)))
        made += writer.paragraph(style, writer.run(each.attrs["description"])) if each.attrs["description"] else ""
    return made


def _odt(writer: Odt, node: Node, style: str) -> str:
    title = node.attrs["title"]
    made = writer.paragraph(style, writer.strong(title)) if title else ""
    for each, words in _lines(node, writer.carried):
        made += writer.paragraph(style, writer.linked(f"item:{each.attrs['item']}", writer.plain(words)))
        made += writer.paragraph(style, writer.plain(each.attrs["description"])) if each.attrs["description"] else ""
    return made


def _read(into: Blocks, node: LexborNode, _: tuple[Mark, ...], __: int) -> bool:
    """A list of ours: its entries are links to items. What is no such link is read as any other list."""
    reader = into.reader
    entries: list[Node] = []
    for entry in node.css("li"):
        link = entry.css_first("a")
        address = (link.attributes.get("href") or "").strip() if link else ""
        known = address if reader.exact or address.startswith("item:") else reader.arriving.link(address)
        reference = parse_reference(known or "")
        number = reference.number if reference and reference.kind == "item" and not reference.fragment else None
        if link is None or number is None:
            return False
        below = entry.css_first("p")
        words = _own_words(link, exact=reader.exact)
        entries.append(
            make(
                "download",
                item=number,
                words=reader.told.within(words, 300, "link") or None,
                description=reader.told.within(_said(below, exact=reader.exact), 1000, "description") or None,
            )
        )
    if not entries and not reader.exact:
        return False
    title = node.attributes.get("data-title") or _said(node.css_first(".downloads-title"), exact=reader.exact)
    window = "data-new-window" in node.attributes or node.css_first('a[target="_blank"]') is not None
    into.pieces.append(
        make("downloads", entries, title=reader.told.within(clean(title), 200, "title") or None, new_window=window)
    )
    return True


def _own_words(link: LexborNode, *, exact: bool) -> str:
    """The words of a link without what the page says of its file."""
    parts = (child for child in children_of(link) if "class" not in (child.attributes or {}))
    return clean(spaced("".join(part.text() or "" for part in parts), exact=exact)).strip()


def _said(node: LexborNode | None, *, exact: bool) -> str:
    return clean(spaced(node.text(), exact=exact)).strip() if node else ""


def _names(names: Names, node: Node) -> None:
    names.link(f"item:{node.attrs['item']}")


def _all_words(node: Node) -> str:
    return "\n".join(filter(None, (node.attrs["title"], *map(_words_of_one, node.content))))


def _words_of_one(node: Node) -> str:
    return "\n".join(filter(None, (node.attrs["words"], node.attrs["description"])))


WAYS = {
    "downloads": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        read={"div.downloads": _read},
        markdown=lambda writer, node: writer.led_out(node),
        text=_text,
        docx=_docx,
        odt=_odt,
        words=_all_words,
    ),
    "download": Ways(storable=lambda writer, node: "", names=_names, words=_words_of_one),
}
