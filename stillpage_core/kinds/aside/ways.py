"""How an aside goes out and comes in."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ...document.fitting import fitted
from ...document.node import Mark, Node, make
from ...reading.html.tree import children_of, value_of
from ...writing.html import attribute
from ..ways import Ways
from . import LABELS

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ...reading.html.blocks import Blocks
    from ...writing.docx import Writer as Docx
    from ...writing.html import Storable
    from ...writing.markdown import Writer as Markdown
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text


def _label(node: Node) -> str:
    return LABELS[node.attrs["sort"]]


def _html(writer: Storable, node: Node) -> str:
    return (
        f'<div class="aside"{attribute("data-sort", node.attrs["sort"])} role="note">'
        f'<p class="aside-label">{_label(node)}</p>'
        f'<div class="aside-text">{writer.blocks(node)}</div></div>'
    )


def _markdown(writer: Markdown, node: Node) -> str:
    return writer.quoted([f"**{_label(node)}**", writer.blocks(node.content, loose=True)])


def _text(writer: Text, node: Node) -> str:
    return f"{_label(node)}\n{writer.all_of(node.content)}"


def _docx(writer: Docx, node: Node, _: str) -> str:
    return writer.paragraph("Aside", writer.run(_label(node), "<w:b/>")) + writer.blocks(node.content, "Aside")


def _odt(writer: Odt, node: Node, _: str) -> str:
    return writer.paragraph("Aside", writer.strong(_label(node))) + writer.blocks(node.content, "Aside")


def _read(into: Blocks, node: LexborNode, marks: tuple[Mark, ...], depth: int) -> bool:
    inner = into.fresh()
    for child in children_of(node):
        label = child.tag == "p" and child.attributes.get("class") == "aside-label"
        if not (label and child.text() in LABELS.values()):
            inner.one(child, marks, depth + 1)
    blocks = fitted("aside", inner.done(), into.reader.told.flattened)
    into.pieces.append(make("aside", blocks, sort=value_of(node.attributes, "aside", "sort") or "note"))
    return True


WAYS = {"aside": Ways(storable=_html, read={"div.aside": _read}, markdown=_markdown, text=_text, docx=_docx, odt=_odt)}
