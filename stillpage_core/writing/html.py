"""Document → HTML.

There are two forms. The *published* form is what readers get: links and pictures are resolved, headings have anchors.
The *storable* form keeps the numbers, so that reading it gives the same document again.
No white space is written between blocks and none is lost within them: the theme shows it as it stands, on the page
and on the sheet alike.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from html import escape

from ..document.kinds import Element, NodeKind
from ..document.node import Mark, Node
from ..document.references import parse_reference
from ..document.schema import SCHEMA
from ..document.walking import text_of
from ..media.pictures import TEXT_SIZES
from ..resolving import PictureTarget, Resolver
from .anchors import Anchors

FORM = "data-stillpage-document"
"""The attribute that tells the reader that HTML is in the storable form; its value is the format's version."""


def published_html(document: Node, resolver: Resolver) -> str:
    """The inside of the page's text as readers get it.

    A link whose destination readers cannot see is left out and its words stay; so is a picture that is gone.
    """
    return _Published(resolver).blocks(document)


def storable_html(document: Node) -> str:
    """The document as HTML that `reading.html` turns back into the same document."""
    return f'<article {FORM}="{document.attrs["version"]}">{_Storable().blocks(document)}</article>\n'


def attribute(name: str, value: object) -> str:
    """One HTML attribute with its leading space, escaped."""
    return f' {name}="{escape(str(value))}"'


class _Storable:
    """Writes the storable form. The published form overrides what differs."""

    def blocks(self, parent: Node) -> str:
        return "".join(self.block(child) for child in parent.content)

    def block(self, node: Node) -> str:
        if node.kind == "picture":
            return self.picture(node)
        kind = SCHEMA.nodes[node.kind]
        if kind.element is None:
            raise ValueError(f"There is no HTML for a node of the kind “{node.kind}”.")
        inside = self.textblock(node) if kind.is_textblock else self.blocks(node)
        return self.element(kind.element, node, inside)

    def textblock(self, node: Node) -> str:
        return self.words(node.content)

    def element(self, element: Element, node: Node | Mark, inside: str) -> str:
        tag = element.tag.format(**node.attrs)
        kind = SCHEMA.nodes[node.kind] if isinstance(node, Node) else SCHEMA.marks[node.kind]
        attributes = "".join(
            attribute(html_name, node.attrs[name])
            for html_name, name in element.attributes.items()
            if kind.attributes[name].required or node.attrs[name] != kind.attributes[name].default
        )
        start = f"<{tag}{attributes}{self.added(node)}>"
        empty = isinstance(kind, NodeKind) and not kind.content
        return start if empty else f"{start}{inside}</{tag}>"

    def added(self, node: Node | Mark) -> str:
        return ""

    def picture(self, node: Node) -> str:
        attributes: dict[str, object] = {"src": f"item:{node.attrs['item']}"}
        if node.attrs["alt"] is not None:
            attributes["alt"] = node.attrs["alt"]
        elif node.attrs["decorative"]:
            attributes["alt"] = ""
        if node.attrs["decorative"]:
            attributes["data-decorative"] = ""
        return figure(attributes)

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
            written.append("<br>" if node.kind == "line_break" else escape(node.text, quote=False))
        close(0)
        return "".join(written)

    def mark(self, mark: Mark, inside: str) -> str:
        return self.element(SCHEMA.marks[mark.kind].element, mark, inside)


class _Published(_Storable):
    def __init__(self, resolver: Resolver) -> None:
        self.resolver = resolver
        self.anchors = Anchors()
        self.pictures = 0

    def textblock(self, node: Node) -> str:
        """An empty block, and a line break at the end of one, take up a line on the sheet; so they do here."""
        last = node.content[-1].kind if node.content else "line_break"
        return self.words(node.content) + ("<br>" if last == "line_break" else "")

    def added(self, node: Node | Mark) -> str:
        if isinstance(node, Node) and node.kind == "heading":
            return attribute("id", self.anchors.take(text_of(node)))
        return ""

    def mark(self, mark: Mark, inside: str) -> str:
        if mark.kind != "link":
            return super().mark(mark, inside)
        address = self.address(mark.attrs["href"])
        return inside if address is None else f"<a{attribute('href', address)}>{inside}</a>"

    def address(self, href: str) -> str | None:
        reference = parse_reference(href)
        if reference is None or reference.kind == "item":
            return None
        if reference.kind != "page" or reference.number is None:
            return href
        page = self.resolver.page(reference.number)
        if page is None or page.address is None:
            return None
        return f"{page.address}#{reference.fragment}" if reference.fragment else page.address

    def picture(self, node: Node) -> str:
        target = self.resolver.picture(node.attrs["item"])
        if target is None or not target.files:
            return ""
        self.pictures += 1
        alt = "" if node.attrs["decorative"] else (node.attrs["alt"] or target.alt)
        attributes = {**image_attributes(target), "alt": alt}
        if self.pictures > 1:
            attributes["loading"] = "lazy"
        return figure(attributes)


def image_attributes(target: PictureTarget) -> dict[str, object]:
    """What the img element of a picture says of its files: ``src``, ``srcset``, ``sizes``, ``width`` and ``height``.

    The sheet uses the same, so that it loads the same file at the same size. The picture must have files.
    """
    shown = target.files[-1]
    return {
        "src": shown.address,
        "srcset": ", ".join(f"{file.address} {file.width}w" for file in target.files),
        "sizes": TEXT_SIZES,
        "width": shown.width,
        "height": shown.height,
    }


def figure(attributes: Mapping[str, object]) -> str:
    """A picture in running text."""
    inside = "".join(attribute(name, value) for name, value in attributes.items())
    return f'<figure class="picture"><img{inside}></figure>'
