"""How a quotation goes out and comes in."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ...document.fitting import words_of
from ...document.node import Mark, Node, make
from ...reading.html.tree import children_of
from ...reading.listed import quotation
from ..ways import Ways

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ...reading.html.blocks import Blocks
    from ...writing.docx import Writer as Docx
    from ...writing.markdown import Writer as Markdown
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text


def _markdown(writer: Markdown, node: Node) -> str:
    words, *source = node.content
    parts = [writer.blocks(words.content, loose=True)]
    return writer.quoted([*parts, *("— " + writer.words(each.content) for each in source)])


def _text(writer: Text, node: Node) -> str:
    words, *source = node.content
    lines = [writer.all_of(words.content), *(f"— {writer.words(each)}" for each in source)]
    return "\n".join(filter(None, lines))


def _docx(writer: Docx, node: Node, _: str) -> str:
    words = writer.blocks(node.content[0].content, "Quote")
    sources = (writer.run("— ") + writer.words(each.content) for each in node.content[1:])
    return words + "".join(writer.paragraph("Quote", inside) for inside in sources)


def _odt(writer: Odt, node: Node, _: str) -> str:
    words = writer.blocks(node.content[0].content, "Quotations")
    sources = ("— " + writer.words(each.content) for each in node.content[1:])
    return words + "".join(writer.paragraph("Quotations", inside) for inside in sources)


def _read(into: Blocks, node: LexborNode, marks: tuple[Mark, ...], depth: int) -> bool:
    """A quotation; its source stands in a figcaption beside it, or in a footer within. One of a post that a network
    shows is that post."""
    begun = len(into.pieces)
    read_quotation(into, node, marks, depth)
    quoted = [each for each in into.pieces[begun:] if isinstance(each, Node)]
    if quoted and (address := _post_of(into, node)):
        into.pieces[begun:] = [make("post", item=into.reader.arriving.quoted(address, quoted))]
    return True


def _post_of(into: Blocks, node: LexborNode) -> str:
    """The address of the post that is quoted; "" where it is none."""
    quote = node if node.tag == "blockquote" else node.css_first("blockquote")
    if into.reader.exact or quote is None:
        return ""
    code = _has_script(node)
    said = [quote.attributes.get(name) for name in ("cite", "data-href", "data-url")]
    links = quote.css("a[href]") if code else []
    if links:
        # The last one is the post's own; those before stand among its words.
        said.append(links[-1].attributes.get("href"))
    for address in filter(None, said):
        whole = f"https:{address}" if address.startswith("//") else address.strip()
        if into.reader.arriving.post(whole, code):
            return whole
    return ""


def _has_script(node: LexborNode) -> bool:
    """Whether a script stands right behind an element, as it does in the codes that networks give."""
    after = node.next
    while after is not None and after.tag == "-text" and not (after.text_content or "").strip():
        after = after.next
    return after is not None and after.tag == "script"


def read_quotation(into: Blocks, node: LexborNode, marks: tuple[Mark, ...], depth: int) -> None:
    """A quotation as such, wherever it leads."""
    source: list[Node] | None = None
    inner = into.fresh()
    for child in children_of(node):
        if child.tag in ("figcaption", "footer"):
            source = words_of(into.inside(child, marks, depth, in_line=True))
        elif child.tag == "blockquote" and node.tag == "figure":
            inner.children(child, marks, depth + 1)
            inner.end_words()
        else:
            inner.one(child, marks, depth + 1)
    blocks = inner.done()
    if blocks or source or into.reader.exact:
        into.pieces.append(quotation(blocks, source, into.reader.told))


WAYS = {
    "quotation": Ways(
        read={"blockquote": _read, "figure.quotation": _read}, markdown=_markdown, text=_text, docx=_docx, odt=_odt
    )
}
