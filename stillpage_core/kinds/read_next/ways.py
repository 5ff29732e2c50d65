"""How lists of pages to read next go out and come in. Titles follow the pages."""

from __future__ import annotations

from html import escape
from typing import TYPE_CHECKING

from ...document.node import Mark, Node, make
from ...reading.html.held import said_in
from ...reading.html.marks import leading
from ...reading.text import clean
from ...references import parse_reference
from ...writing.html import attribute
from ..ways import Ways
from . import TITLE

if TYPE_CHECKING:
    from collections.abc import Callable

    from selectolax.lexbor import LexborNode

    from ...document.naming import Names
    from ...reading.html.blocks import Blocks
    from ...writing.docx import Writer as Docx
    from ...writing.html import File, Published, Storable
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text


def _entry(each: Node, href: str | None, words: str) -> str:
    link = attribute("href", href) if href else ""
    why = each.attrs["why"]
    below = f'<p class="read-next-why">{escape(why, quote=False)}</p>' if why else ""
    return f"<li><a{link}>{escape(words, quote=False)}</a>{below}</li>"


def _list(node: Node, entries: str) -> str:
    title = attribute("data-title", node.attrs["title"]) if node.attrs["title"] else ""
    return f'<div class="read-next"{title}><ul>{entries}</ul></div>'


def _storable(_: Storable, node: Node) -> str:
    return _list(node, "".join(_entry(each, each.attrs["href"], each.attrs["words"] or "") for each in node.content))


def _called(writer: Published, each: Node) -> str:
    """The words of a link: its own, or the title that the page has for readers."""
    reference = parse_reference(each.attrs["href"] or "")
    page = writer.resolver.page(reference.number or 0) if reference and reference.kind == "page" else None
    return each.attrs["words"] or (page.title if page else each.attrs["href"])


def _published(writer: Published, node: Node) -> str:
    """A list of links with a name; without those to pages that readers cannot see."""
    led = [(each, writer.address(each.attrs["href"])) for each in node.content if each.attrs["href"]]
    entries = "".join(_entry(each, href, _called(writer, each)) for each, href in led if href)
    if not entries:
        return ""
    title = node.attrs["title"] or TITLE
    name = attribute("aria-label", writer.unique(title))
    above = f'<p class="read-next-title">{escape(title, quote=False)}</p>'
    return f'<nav class="read-next"{name}>{above}<ul>{entries}</ul></nav>'


def _file(writer: File, node: Node) -> str:
    """In a file that stands alone, the storable form with addresses: our reader knows it again."""
    led = ((each, writer.address(each.attrs["href"]) if each.attrs["href"] else None) for each in node.content)
    return _list(node, "".join(_entry(each, href, each.attrs["words"] or href or "") for each, href in led))


def _text(writer: Text, node: Node) -> str:
    lines = [node.attrs["title"] or TITLE]
    for each in node.content:
        lines += [
            f"- {each.attrs['words'] or each.attrs['href'] or ''}",
            each.attrs["why"] and f"  {each.attrs['why']}",
        ]
    return "\n".join(filter(None, lines))


def _paragraphs(node: Node, style: str, write: Callable[[str, str | None, bool], str]) -> str:
    made = write(node.attrs["title"] or TITLE, None, True)
    for each in node.content:
        made += write(each.attrs["words"] or each.attrs["href"] or "?", each.attrs["href"], False)
        made += write(each.attrs["why"], None, False) if each.attrs["why"] else ""
    return made


def _docx(writer: Docx, node: Node, style: str) -> str:
    def write(words: str, href: str | None, strong: bool) -> str:
        run = writer.run(words, "<w:b/>" if strong else "")
        return writer.paragraph(style, writer.linked(href, run) if href else run)

    return _paragraphs(node, style, write)


def _odt(writer: Odt, node: Node, style: str) -> str:
    def write(words: str, href: str | None, strong: bool) -> str:
        run = writer.strong(words) if strong else writer.plain(words)
        return writer.paragraph(style, writer.linked(href, run) if href else run)

    return _paragraphs(node, style, write)


def _read(into: Blocks, node: LexborNode, _: tuple[Mark, ...], __: int) -> bool:
    """A list of ours: each entry is one link with a line below. Anything else is read as what it is."""
    reader, made = into.reader, []
    for entry in node.css("li"):
        link = entry.css_first("a")
        if link is None:
            return False
        href = (link.attributes.get("href") or "").strip()
        known = href if reader.exact else leading(reader, link, href)
        made.append(
            make(
                "further",
                href=known if known and parse_reference(known) else None,
                words=reader.told.within(said_in(entry, "a", exact=reader.exact), 300, "link") or None,
                why=reader.told.within(said_in(entry, ".read-next-why", exact=reader.exact), 300, "line") or None,
            )
        )
    if not made and not reader.exact:
        return False
    said = node.attributes.get("data-title") or said_in(node, ".read-next-title", exact=reader.exact)
    title = reader.told.within(clean("" if said == TITLE else said), 200, "title") or None
    into.pieces.append(make("read_next", made, title=title))
    return True


def _names(names: Names, node: Node) -> None:
    if node.attrs["href"]:
        names.link(node.attrs["href"])


def _words(node: Node) -> str:
    return "\n".join(filter(None, (node.attrs["words"], node.attrs["why"])))


WAYS = {
    "read_next": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        read={"div.read-next": _read, "nav.read-next": _read},
        markdown=lambda writer, node: writer.led_out(node),
        text=_text,
        docx=_docx,
        odt=_odt,
        words=lambda node: "\n".join(filter(None, (node.attrs["title"], *map(_words, node.content)))),
    ),
    "further": Ways(storable=lambda writer, node: "", names=_names, words=_words),
}
