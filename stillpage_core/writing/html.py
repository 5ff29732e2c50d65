"""Document → HTML.

There are two forms. The *published* form is what readers get: links and pictures are resolved, headings have anchors.
The *storable* form keeps the numbers, so that reading it gives the same document again.
No white space is written between blocks and none is lost within them: the theme shows it as it stands, on the page
and on the sheet alike.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from html import escape
from typing import Any, NamedTuple

from ..document.node import Mark, Node
from ..document.schema import MAIN, SCHEMA
from ..document.tables import grid_of
from ..document.walking import text_of
from ..kinds.kind import Element, NodeKind
from ..kinds.ways import Ways, ways_of
from ..media.labels import labelled
from ..media.shown import USUAL, Rooms, Shown, room_in
from ..references import parse_reference
from ..resolving import Resolver
from .anchors import anchors_of

FORM = "data-stillpage-document"
"""The attribute that tells the reader that HTML is in the storable form; its value is the format's version."""

REGION = "data-stillpage-region"
"""The attribute that holds the name of a region other than main, in the storable form and in files."""

NEW_WINDOW = " (opens in a new window)"
"""What a screen reader says at the end of a link that opens one; everybody else sees a sign."""


def published_html(
    document: Node,
    resolver: Resolver,
    rooms: Rooms | None = None,
    module: Callable[[str], str] = str,
    language: str = "",
) -> str:
    """The page's regions as readers get them; ``rooms`` are those of the site's theme, ``module`` gives the address of
    one of its scripts by its name, ``language`` (BCP 47) is that of the page.

    A link whose destination readers cannot see is left out and its words stay; so is a picture that is gone.
    """
    writer = Published(resolver, rooms, language, module)
    text = writer.document(document)
    scripts = (f'<script type="module"{attribute("src", module(name))}></script>' for name in sorted(writer.scripts))
    return text + "".join(scripts)


class Block(NamedTuple):
    """A block as readers get it: its HTML, the names of the theme's scripts that it needs, and whether it ``waits``:
    something it shows is still to be made, and stands here as well as it can without."""

    html: str
    scripts: tuple[str, ...]
    waits: bool


def published_blocks(
    document: Node,
    resolver: Resolver,
    rooms: Rooms | None = None,
    module: Callable[[str], str] = str,
    language: str = "",
) -> list[Block]:
    """The blocks of all regions, one after another, each as readers get it; as in `published_html`."""
    writer = Published(resolver, rooms, language, module)
    writer.begin(document)
    # A picture of a block that stands anywhere is loaded as one that is not the first.
    writer.pictures = 1
    made: list[Block] = []
    for region in document.content:
        writer.room = room_in(rooms, region.attrs["name"])
        for block in region.content:
            writer.scripts, writer.tables, writer.waits = set(), {}, False
            html = writer.block(block)
            made.append(Block(html, tuple(sorted(writer.scripts)), writer.waits))
    return made


def storable_html(document: Node) -> str:
    """The document as HTML that `reading.html` turns back into the same document."""
    return f'<article {FORM}="{document.attrs["version"]}">{Storable().document(document)}</article>\n'


def storable_block(node: Node) -> str:
    """One block as it stands in the storable form."""
    return Storable().block(node)


def mark_tags(mark: Mark) -> tuple[str, str]:
    """The opening and the closing tag of a mark as they stand in the storable form."""
    start, end = Storable().mark(mark, "\0").split("\0")
    return start, end


def attribute(name: str, value: object) -> str:
    """One HTML attribute with its leading space, escaped. True is an attribute without a value."""
    return f" {name}" if value is True else f' {name}="{escape(str(value))}"'


class Storable:
    """Writes the storable form. The published form overrides what differs."""

    def document(self, document: Node) -> str:
        return "".join(map(self.region, document.content))

    def region(self, region: Node) -> str:
        inside, name = self.blocks(region), region.attrs["name"]
        return inside if name == MAIN else f"<div{attribute(REGION, name)}>{inside}</div>"

    def blocks(self, parent: Node) -> str:
        return "".join(self.block(child) for child in parent.content)

    def block(self, node: Node) -> str:
        if way := self.way(ways_of(node.kind)):
            return str(way(self, node))
        if node.kind == "table":
            return self.table(node)
        kind = SCHEMA.nodes[node.kind]
        if kind.element is None:
            raise ValueError(f"There is no HTML for a node of the kind “{node.kind}”.")
        return self.element(kind.element, node, self.textblock(node) if kind.is_textblock else self.blocks(node))

    def way(self, ways: Ways) -> Any:
        """How nodes of a kind are written in this form; None where their element says it."""
        return ways.storable

    def textblock(self, node: Node) -> str:
        return self.words(node.content)

    def element(self, element: Element, node: Node | Mark, inside: str) -> str:
        tag = element.tag.format(**node.attrs)
        kind = SCHEMA.nodes[node.kind] if isinstance(node, Node) else SCHEMA.marks[node.kind]
        attributes = attribute("class", element.css_class) if element.css_class else ""
        attributes += "".join(
            attribute(html_name, node.attrs[name])
            for html_name, name in element.attributes.items()
            if kind.attributes[name].required or node.attrs[name] != kind.attributes[name].default
        )
        start = f"<{tag}{attributes}{self.added(node)}>"
        empty = isinstance(kind, NodeKind) and not kind.content
        return start if empty else f"{start}{inside}</{tag}>"

    def added(self, node: Node | Mark) -> str:
        return ""

    def table(self, node: Node) -> str:
        return f'<div class="table"><table>{self.blocks(node)}</table></div>'

    def words(self, nodes: Iterable[Node]) -> str:
        """Inline content, marks nested as the editor nests them: a mark shared by neighbours is opened once."""
        written: list[str] = []
        opened: list[tuple[Mark, int]] = []

        def close(keep: int) -> None:
            while len(opened) > keep:
                mark, start = opened.pop()
                inside = "".join(written[start:])
                del written[start:]
                written.append(self.mark(mark, inside))

        for node in nodes:
            keep = 0
            while keep < min(len(opened), len(node.marks)) and opened[keep][0] == node.marks[keep]:
                keep += 1
            close(keep)
            opened.extend((mark, len(written)) for mark in node.marks[keep:])
            written.append(self.inline(node))
        close(0)
        return "".join(written)

    def inline(self, node: Node) -> str:
        if node.kind == "line_break":
            return "<br>"
        return escape(node.text, quote=False) if node.kind == "text" else self.block(node)

    def mark(self, mark: Mark, inside: str) -> str:
        return self.element(SCHEMA.marks[mark.kind].element, mark, inside)


class Published(Storable):
    """Writes the published form; `listening` adds places to it."""

    def __init__(
        self,
        resolver: Resolver,
        rooms: Rooms | None = None,
        language: str = "",
        module: Callable[[str], str] = str,
    ) -> None:
        self.resolver = resolver
        self.module = module
        self.language = language
        self.rooms = rooms
        self.room = USUAL
        self.scopes: Iterator[str] = iter(())
        self.headings: Iterator[str] = iter(())
        self.items: Iterator[str] = iter(())
        self.pictures = 0
        self.scripts: set[str] = set()
        """The names of the theme's modules that this text needs."""
        self.tables: dict[str, int] = {}
        self.waits = False
        """Whether something that is shown here is still to be made."""

    def inline(self, node: Node) -> str:
        """Words that lead to a document tell its present kind and size, where they tell any: its file may have been
        replaced since they were written."""
        if node.kind != "text" or not node.text.endswith(")"):
            return super().inline(node)
        href = next((str(mark.attrs["href"]) for mark in node.marks if mark.kind == "link"), "")
        reference = parse_reference(href) if href.startswith("item:") else None
        item = self.resolver.item(reference.number or 0) if reference else None
        if item is None or not item.size:
            return super().inline(node)
        return escape(labelled(node.text, item.kind, item.size), quote=False)

    def textblock(self, node: Node) -> str:
        """An empty block, and a line break at the end of one, take up a line on the sheet; so they do here."""
        last = node.content[-1].kind if node.content else "line_break"
        return self.words(node.content) + ("<br>" if last == "line_break" else "")

    def document(self, document: Node) -> str:
        self.begin(document)
        return super().document(document)

    def begin(self, document: Node) -> None:
        """Find out what the headings and items of a document are called; before any of it is written."""
        ids = anchors_of(document)
        self.headings = iter([anchor for path, anchor in ids.items() if len(path) == 2])
        self.items = iter([anchor for path, anchor in ids.items() if len(path) > 2])

    def region(self, region: Node) -> str:
        name = region.attrs["name"]
        self.room = room_in(self.rooms, name)
        return f'<div class="text"{attribute("data-region", name)}>{self.blocks(region)}</div>'

    def block(self, node: Node) -> str:
        if node.kind == "heading":
            return self.heading(node, next(self.headings))
        if node.kind == "list_item" and node.attrs["anchor"]:
            return f"<li{attribute('id', next(self.items))}>{self.blocks(node)}</li>"
        return super().block(node)

    def heading(self, node: Node, anchor: str) -> str:
        tag = f"h{node.attrs['level']}"
        align = attribute("data-align", node.attrs["align"]) if node.attrs["align"] else ""
        return f"<{tag}{align}{attribute('id', anchor)}>{self.textblock(node)}</{tag}>"

    def added(self, node: Node | Mark) -> str:
        return attribute("scope", next(self.scopes)) if node.kind == "table_header" else ""

    def mark(self, mark: Mark, inside: str) -> str:
        if mark.kind != "link":
            return super().mark(mark, inside)
        address = self.address(mark.attrs["href"])
        if address is None:
            return inside
        attributes = attribute("href", address)
        if mark.attrs["title"]:
            attributes += attribute("title", mark.attrs["title"])
        if mark.attrs["new_window"]:
            attributes += ' target="_blank" rel="noopener"'
            inside = self.in_new_window(inside)
        return f"<a{attributes}>{inside}</a>"

    def in_new_window(self, inside: str) -> str:
        """The words of a link with what says that it opens a window of its own."""
        return f'{inside}<span class="unseen">{NEW_WINDOW}</span>'

    def address(self, href: str) -> str | None:
        """Where a link leads, or None where readers cannot go."""
        reference = parse_reference(href)
        if reference is None:
            return None
        if reference.kind == "item":
            item = self.resolver.item(reference.number or 0)
            return item.address if item else None
        if reference.kind != "page" or reference.number is None:
            return href
        page = self.resolver.page(reference.number)
        if page is None or page.address is None:
            return None
        return f"{page.address}#{reference.fragment}" if reference.fragment else page.address

    def table(self, node: Node) -> str:
        """A table in a region that can be scrolled, by keyboard too, where it is wider than the screen."""
        self.scopes = iter(header_scopes(node.content[-1]))
        caption = text_of(node.content[0]).replace("\n", " ").strip() if node.content[0].kind == "table_caption" else ""
        name = self.unique(f"Table: {caption}" if caption else "Table")
        region = f' role="region"{attribute("aria-label", name)} tabindex="0"'
        return f'<div class="table"{region}><table>{self.blocks(node)}</table></div>'

    def unique(self, name: str) -> str:
        """The name of a region; one that an earlier region has is numbered, since readers choose by names."""
        self.tables[name] = self.tables.get(name, 0) + 1
        return name if self.tables[name] == 1 else f"{name}, {self.tables[name]}"

    def way(self, ways: Ways) -> Any:
        return ways.published or ways.storable


class File(Published):
    """HTML for a file: no address of this installation is needed, and a picture has the one file that goes along."""

    def region(self, region: Node) -> str:
        return Storable.region(self, region)

    def in_new_window(self, inside: str) -> str:
        return inside  # Who reads the file again would take the words for the author's.

    def way(self, ways: Ways) -> Any:
        return ways.file or super().way(ways)

    def table(self, node: Node) -> str:
        self.scopes = iter(header_scopes(node.content[-1]))
        return f"<table>{self.blocks(node)}</table>"


_BETWEEN_BLOCKS = re.compile(
    r"(</(?:p|h[2-6]|li|ul|ol|table|tbody|tr|td|th|figure|figcaption|blockquote|div|pre|caption)>|<hr>"
    r"|<(?:ul|ol|table|tbody|tr|blockquote)\b[^>]*>)(?=<)"
)


def html_file(document: Node, resolver: Resolver, title: str, language: str, description: str = "") -> str:
    """The page as an HTML file that stands alone: its title as heading of level 1, then its text. A picture's address
    is that of its last file."""
    body = _BETWEEN_BLOCKS.sub(r"\1\n", File(resolver, language=language).document(document))
    return (
        f'<!DOCTYPE html>\n<html lang="{escape(language)}">\n<head>\n<meta charset="utf-8">\n'
        '<meta name="viewport" content="width=device-width, initial-scale=1">\n'
        + (f'<meta name="description" content="{escape(description)}">\n' if description else "")
        + f"<title>{escape(title, quote=False)}</title>\n</head>\n<body>\n<h1>{escape(title, quote=False)}</h1>\n"
        f"{body}\n</body>\n</html>\n"
    )


def header_scopes(grid: Node) -> Iterator[str]:
    """What each header cell of a table names, in order: its row where it begins one that goes on with other cells, its
    column otherwise (HTML Living Standard, 4.9.12)."""
    for place in grid_of(grid.content).places:
        if place.cell.kind == "table_header":
            first = place.row == 0 and all(cell.kind == "table_header" for cell in grid.content[0].content)
            yield "row" if place.column == 0 and not first else "col"


def image_attributes(at: Shown) -> dict[str, object]:
    """What the img element of a picture says of its files and its size."""
    files = {"srcset": at.srcset, "sizes": at.sizes} if at.srcset else {}
    return {"src": at.src, **files, "width": at.width, "height": at.height}


def image(attributes: Mapping[str, object]) -> str:
    """An img element."""
    return f"<img{''.join(attribute(name, value) for name, value in attributes.items())}>"


def figure(inside: str, caption: str | None = None, setting: Mapping[str, object] | None = None) -> str:
    """A picture in running text, with its caption; ``setting`` are the attributes that say how it stands."""
    below = f"<figcaption>{escape(caption, quote=False)}</figcaption>" if caption else ""
    said = "".join(attribute(name, value) for name, value in (setting or {}).items())
    return f'<figure class="picture"{said}>{inside}{below}</figure>'
