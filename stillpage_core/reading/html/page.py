"""A page of HTML, or a part of one, as blocks."""

from __future__ import annotations

from selectolax.lexbor import LexborHTMLParser, LexborNode

from ...document.node import Node, make
from ...document.schema import is_region
from ...document.upgrades import check_version
from ...writing.html import FORM, REGION
from ..mending import mended
from ..reading import Arriving, Reading, has_words
from ..regions import region
from ..text import clean
from ..titles import lowered, titled
from .blocks import Blocks
from .marks import marked
from .nesting import check_nesting
from .reader import Reader
from .styles import class_styles
from .tree import UNSEEN, children_of
from .words import Marks


def read_html(html: str, arriving: Arriving | None = None, *, under: int = 1) -> Reading:
    """Read a page or a part of one: every input gives a valid document. ``under`` as in `mending.mended`.

    Raises:
        ReadingError: when it asks for far more work than its size does (`nesting.check_nesting`).
    """
    arriving = arriving or Arriving()
    blocks, exact = html_blocks(html, arriving)
    if exact:
        return arriving.finished(blocks)
    came = mended(lowered(titled(_without_rule(blocks), arriving), arriving), arriving.told, under)
    return arriving.finished(came, lambda: _holds_words(html))


def _holds_words(html: str) -> bool:
    """Whether a piece of HTML has words that are shown."""
    tree = LexborHTMLParser(html.replace("\x00", ""))
    tree.strip_tags(sorted(UNSEEN - {"rt"}))
    return tree.body is not None and has_words(tree.body.text())


def _without_rule(blocks: list[Node]) -> list[Node]:
    """The blocks without the line that programs draw above the notes at a text's end."""
    *before, rule, last = blocks if len(blocks) > 1 else (make("paragraph"), make("paragraph"))
    notes = last.kind == "numbered_list" and all(item.attrs["anchor"] for item in last.content)
    return [*before, last] if notes and rule.kind == "divider" else blocks


def html_blocks(html: str, arriving: Arriving, *, exact: bool = False) -> tuple[list[Node], bool]:
    """The blocks of a piece of HTML as they stand, nothing mended and headings not lowered; and whether it is in the
    storable form, which it says at its root, or which ``exact`` says of it."""
    check_nesting(html)
    tree = LexborHTMLParser(html.replace("\x00", "") if "\x00" in html else html)
    root = tree.body
    if root is None:
        return [], False
    stored = root if exact else root.css_first(f"[{FORM}]") if FORM in html else None
    if stored is not None and (said := stored.attributes.get(FORM) or "").isdecimal():
        check_version(int(said[:9]))
    reader = Reader(arriving, stored or root, exact=stored is not None)
    if arriving.whole and (named := tree.css_first("title")):
        arriving.title = " ".join(clean(named.text()).split())[:200] or None
    if arriving.whole and (about := tree.css_first('meta[name="description"]')):
        arriving.description = " ".join(clean(about.attributes.get("content") or "").split()) or None
    if stored is None and "<style" in html:
        reader.classes = class_styles("\n".join(sheet.text() for sheet in tree.css("style")))
    reader.has_listings = not reader.exact and ("<pre" in html or "<PRE" in html)
    blocks = Blocks(reader)
    regions = _regions(stored or root, reader)
    blocks.children(stored or root, (), 0)
    for _ in range(reader.fragments.moved):
        arriving.told.place(moved=True)
    if reader.paint:
        arriving.told.dropped("Its look was left out: colours, fonts, sizes")
    return [*blocks.done(), *regions], stored is not None


def _regions(root: LexborNode, reader: Reader) -> list[Node]:
    """What stands at the root in regions of their own; whoever reads what else there is leaves it aside."""
    found: list[Node] = []
    for child in children_of(root) if root.css_first(f"[{REGION}]") else ():
        name = child.attributes.get(REGION) if child.tag == "div" else None
        if name and is_region(name):
            inside = Blocks(reader)
            inside.children(child, (), 0)
            found += region(name, inside.done())
            reader.regions.add(child.mem_id)
    return found


def marks_of(tag: str, arriving: Arriving) -> tuple[str, Marks]:
    """The name of an opening tag as HTML writes it, and the marks that its element means."""
    root = LexborHTMLParser(tag).body
    node = root.child if root is not None else None
    if root is None or node is None or not node.tag or node.tag[0] == "-":
        return "", ()
    return node.tag, marked(Reader(arriving, root, exact=True), node, node.tag, ())
