"""What stands in one container, gathered element by element. What an element is for stands in the files beside."""

from __future__ import annotations

from collections.abc import Sequence

from selectolax.lexbor import LexborNode

from ...document.node import Node, in_order, make
from ...writing.html import NEW_WINDOW
from ..listed import Listed, Piece, assembled
from ..text import clean
from .equations import equation, set_equation, typed_equation
from .fragments import PERMALINKS
from .holders import figure, preformatted
from .lists import LISTS, list_of
from .marks import PLAIN, marked
from .pictures import picture
from .reader import Reader
from .styles import NOTHING, Meaning, meaning_of, restyled
from .tables import table
from .textblocks import listed, textblock
from .tree import BLOCKS, LEFT_OUT, SPACE, UNSEEN, WHITE, children_of, is_white_alone, spaced
from .words import Marks, Words

_DEEPEST = 15
"""Lists nested deeper than this are read as their words."""

_RECURSION = 120
"""Elements nested deeper than this are read as their words."""

TEXTBLOCKS = frozenset("p h1 h2 h3 h4 h5 h6 caption figcaption dt summary legend address".split())


def _is_permalink(link: LexborNode) -> bool:
    """Whether a link is a sign that programs put behind a heading, and that leads to it."""
    return (link.attributes.get("href") or "").startswith("#") and link.text().strip() in PERMALINKS


class Blocks:
    """Gathers what stands in one container. Words outside any block wait until a block ends them."""

    __slots__ = ("in_line", "keeps_lines", "lists", "pieces", "reader", "words")

    def __init__(self, reader: Reader, lists: int = 0, *, in_line: bool = False) -> None:
        self.reader = reader
        self.lists = lists
        self.in_line = in_line
        self.keeps_lines = False
        self.pieces: list[Piece] = []
        self.words = Words(exact=reader.exact)

    def fresh(self, deeper: int = 0) -> Blocks:
        """For what stands within one of the elements here, so many lists deeper."""
        return Blocks(self.reader, self.lists + deeper)

    def done(self) -> list[Node]:
        if not self.pieces:
            return [make("paragraph", words)] if self.words.nodes and (words := self.words.taken()) else []
        self.end_words()
        return assembled(self.pieces, self.reader.told)

    def end_words(self) -> None:
        if self.words.nodes and (words := self.words.taken()):
            self.pieces.append(make("paragraph", words))

    def lines(self, text: str, marks: Marks) -> None:
        """Words whose line ends are line ends."""
        for place, line in enumerate(text.split("\n")):
            if place:
                self.words.line_break(marks)
            self.words.text(line, marks)

    def parts(self, parent: LexborNode, marks: Marks, depth: int) -> None:
        """What stands side by side: each a box of its own, so that its words are not joined to the next."""
        for child in children_of(parent):
            self.one(child, marks, depth)
            self.words.text(" ", marks)

    def children(self, parent: LexborNode, marks: Marks, depth: int) -> None:
        child = parent.child
        skips = not self.reader.exact and not self.keeps_lines
        while child is not None:
            tag = child.tag
            if tag == "-text":
                text = child.text_content or ""
                # Between blocks, and at a block's beginning, white space is nothing.
                if not (skips and self.words.at_start and text[:1] in WHITE and not text.strip(WHITE)):
                    self.text(text, marks)
            else:
                self.element(child, tag or "-instruction", marks, depth)
            child = child.next

    def one(self, node: LexborNode, marks: Marks, depth: int) -> None:
        tag = node.tag or "-instruction"
        if tag == "-text":
            self.text(node.text_content or "", marks)
        else:
            self.element(node, tag, marks, depth)

    def text(self, text: str, marks: Marks) -> None:
        if self.keeps_lines and "\n" in text:
            self.lines(text, marks)
        # Between the blocks of the storable form white space means nothing.
        elif self.in_line or not self.reader.exact or text.strip(WHITE):
            self.words.text(text, marks)

    def element(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        reader = self.reader
        if tag[0] in "-!" or depth > _RECURSION:
            if depth > _RECURSION and tag[0] not in "-!" and tag not in UNSEEN:
                self.words.text(f" {node.text(separator=' ')} ", marks)
            return
        if reader.regions and node.mem_id in reader.regions:
            return  # It has been read already (`page`).
        if tag in UNSEEN:
            if tag in reader.own and self.in_own_way(node, tag, (), marks, depth):
                return
            if tag in LEFT_OUT:
                reader.told.dropped(*LEFT_OUT[tag])
            return
        attributes = node.attributes
        if tag == "p" and not reader.exact and not reader.fragments.notes and reader.is_plain(attributes):
            self.end_words()
            self.pieces += self.inside(node, marks, depth, in_line=True) or [make("paragraph")]
            return
        meaning = NOTHING
        if not reader.exact and attributes:
            if style := reader.style_of(attributes):
                meaning = meaning_of(style)
                reader.paint = reader.paint or meaning.paint
            if meaning.hidden or attributes.get("hidden", "until-found") != "until-found":
                reader.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
                return
            if meaning.ignored or (tag == "a" and node.mem_id in reader.fragments.returns):
                return
        if tag == "span" and attributes.get("class") == "unseen" and node.text() == NEW_WINDOW:
            return  # Our own pages say so behind a link; the link knows it.
        if tag == "a" and not reader.exact and _is_permalink(node):
            return
        if tag == "rt":
            # The reading stands behind its words, in the brackets that `rp` holds for who shows no ruby.
            self.words.text(f"({SPACE.sub(' ', node.text()).strip()})", marks)
        elif tag == "br":
            self.words.line_break(marks)
        elif tag == "img":
            picture(self, node, marks)
        elif tag == "math" or "data-latex" in attributes:
            equation(self, node, tag, marks)
        elif not reader.exact and (typed := typed_equation(node, tag, attributes)):
            set_equation(self, typed[0], marks, alone=tag == "div" or typed[1])
        elif tag in BLOCKS if meaning.block is None else meaning.block:
            self.block(node, tag, marks, depth, meaning)
        elif tag in PLAIN and len(attributes) == 0 and not any(mark.kind == PLAIN[tag].kind for mark in marks):
            self.children(node, in_order((*marks, PLAIN[tag])) if marks else (PLAIN[tag],), depth + 1)
        else:
            marks = marked(reader, node, tag, marks)
            if meaning.marks:
                marks = in_order(restyled(marks, meaning.marks))
            self.children(node, marks, depth + 1)

    def block(self, node: LexborNode, tag: str, marks: Marks, depth: int, meaning: Meaning) -> None:
        self.end_words()
        reader = self.reader
        attributes = node.attributes
        classes = (attributes.get("class") or "").split() if attributes else ()
        if reader.fragments.notes and node.mem_id in reader.fragments.notes:
            number, anchor = reader.fragments.notes[node.mem_id]
            self.pieces.append(Listed(self.inside(node, marks, depth), 0, True, number, "notes", anchor))
        elif tag == "hr":
            self.pieces.append(make("divider"))
        elif tag in ("pre", "listing", "xmp", "plaintext") or meaning.preformatted:
            preformatted(self, node)
        elif tag in reader.own and self.in_own_way(node, tag, classes, marks, depth):
            return
        elif meaning.item:
            listed(self, node, marks, depth, meaning)
        elif tag in TEXTBLOCKS or attributes.get("role") == "heading":
            marks = in_order(restyled(marks, meaning.marks)) if meaning.marks else marks
            textblock(self, node, tag, marks, depth)
        elif tag in LISTS and self.lists < _DEEPEST:
            list_of(self, node, tag, marks, depth)
        elif tag == "li" and not self.lists:
            self.pieces.append(Listed(self.inside(node, marks, depth), of="li"))
        elif tag == "figure":
            figure(self, node, marks, depth)
        elif tag == "table" and not reader.in_table and attributes.get("role") not in ("presentation", "none"):
            table(self, node, marks, depth)
        else:
            marks = in_order(restyled(marks, meaning.marks)) if meaning.marks else marks
            kept, self.keeps_lines = self.keeps_lines, self.keeps_lines or meaning.lines
            (self.parts if meaning.side_by_side else self.children)(node, marks, depth + 1)
            self.keeps_lines = kept
            self.end_words()

    def in_own_way(self, node: LexborNode, tag: str, classes: Sequence[str], marks: Marks, depth: int) -> bool:
        """Read an element in the way of a kind that has one of its own (`kinds.ways`); says whether one knew it."""
        for css_class, way in self.reader.own[tag]:
            if (not css_class or css_class in classes) and way(self, node, marks, depth):
                return True
        return False

    def alone(self, node: LexborNode, marks: Marks) -> list[Node] | None:
        """The blocks within an element that holds one run of words and nothing else, or one plain paragraph of one, as
        most paragraphs, items and cells do; None for any other, and in the storable form."""
        reader = self.reader
        only = node.child
        if only is None or len(marks) > 1 or reader.exact or self.keeps_lines:
            return None
        after = only.next
        if after is not None and only.tag == "-text" and not (only.text_content or "").strip(WHITE):
            only, after = after, after.next
        if only.tag == "p" and not reader.fragments.notes and (after is None or is_white_alone(after)):
            if not reader.is_plain(only.attributes):
                return None
            only = only.child
            after = only.next if only is not None else None
        if only is None or after is not None or only.tag != "-text":
            return None
        text = only.text_content or ""
        if not text.isprintable() or "  " in text:
            text = clean(spaced(text, exact=False))
        text = text.strip(" ")
        return [make("paragraph", (Node("text", {}, (), marks, text),))] if text else None

    def inside(self, node: LexborNode, marks: Marks, depth: int, *, in_line: bool = False) -> list[Node]:
        """The blocks within an element."""
        exact = self.reader.exact
        style = "" if exact else node.attributes.get("style")
        keeps_lines = self.keeps_lines or bool(style and "white-space" in style and meaning_of(style).lines)
        if not keeps_lines and (alone := self.alone(node, marks)):
            return alone
        inner = Blocks(self.reader, self.lists, in_line=in_line)
        inner.keeps_lines = keeps_lines
        inner.children(node, marks, depth + 1)
        return inner.done()
