"""How a call to action goes out and comes in."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ...document.node import Mark, Node
from ...reading.html.textblocks import call_to_action
from ...writing.html import attribute
from ...writing.style_names import of_call
from ..ways import Ways

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ...document.naming import Names
    from ...reading.html.blocks import Blocks
    from ...writing.docx import Writer as Docx
    from ...writing.html import Published, Storable
    from ...writing.odt import Writer as Odt


def _html(writer: Storable, node: Node, address: str | None) -> str:
    link = "" if address is None else attribute("href", address)
    emphasis = attribute("data-emphasis", node.attrs["emphasis"])
    return f'<p class="call"{emphasis}><a{link}>{writer.textblock(node)}</a></p>'


def _published(writer: Published, node: Node) -> str:
    return _html(writer, node, writer.address(node.attrs["href"]) if node.attrs["href"] else None)


def _docx(writer: Docx, node: Node, _: str) -> str:
    inside = writer.words(node.content)
    href = node.attrs["href"]
    named = writer.own_style("paragraph", of_call(node.attrs["emphasis"]), "Normal", "<w:rPr><w:b/></w:rPr>")
    return writer.paragraph(named, writer.linked(href, inside) if href else inside)


def _odt(writer: Odt, node: Node, _: str) -> str:
    inside = writer.words(node.content)
    href = node.attrs["href"]
    bold = '<style:text-properties fo:font-weight="bold"/>'
    named = writer.own_style("paragraph", of_call(node.attrs["emphasis"]), "Text_20_body", bold)
    return writer.paragraph(named, writer.linked(href, inside) if href else inside)


def _read(into: Blocks, node: LexborNode, _: tuple[Mark, ...], __: int) -> bool:
    """A paragraph that is one link and nothing else."""
    link = node.css_first("a")
    if link is None or link.text() != node.text():
        return False
    call_to_action(into, node, link)
    return True


def _names(names: Names, node: Node) -> None:
    if node.attrs["href"]:
        names.link(node.attrs["href"])


WAYS = {
    "call_to_action": Ways(
        storable=lambda writer, node: _html(writer, node, node.attrs["href"]),
        published=_published,
        read={"p.call": _read},
        docx=_docx,
        odt=_odt,
        names=_names,
    )
}
