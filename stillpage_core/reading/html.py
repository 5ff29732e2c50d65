"""HTML → document.

HTML in the storable form (`writing.html`) gives exactly the document it was written from. Any other HTML, from a word
processor's clipboard to a page of div and span, is read for its structure: what the schema has no kind for is looked
through, and its words stay. What was only painted to look like structure is mended afterwards (`mending`).
"""

from __future__ import annotations

import re
from base64 import b64decode
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

from selectolax.lexbor import LexborHTMLParser, LexborNode

from ..budget import spend
from ..document.fitting import fitted, words_of
from ..document.kinds import MarkKind
from ..document.node import Mark, Node, in_order, make
from ..document.references import parse_reference
from ..document.schema import SCHEMA
from ..document.tables import squared
from ..document.walking import text_of
from ..equations import EquationError, check_equation
from ..writing.html import ASIDE_LABELS, FORM, NEW_WINDOW, PICTURE_SETTING
from .html_links import PERMALINKS, Fragments
from .listed import Caption, Listed, Piece, Styled, assembled, is_empty, quotation
from .mathml import latex_of
from .mending import mended
from .nesting import check_nesting
from .reading import Arriving, Reading, Told, has_words
from .styles import NOTHING, Meaning, class_styles, meaning_of, restyled
from .text import as_typed, clean

_LEFT_OUT = {
    "script": ("A script was left out", "{} scripts were left out"),
    "iframe": ("A framed page was left out", "{} framed pages were left out"),
    "frame": ("A framed page was left out", "{} framed pages were left out"),
    "video": ("A video was left out", "{} videos were left out"),
    "audio": ("A sound was left out", "{} sounds were left out"),
    "svg": ("A drawing (SVG) was left out", "{} drawings (SVG) were left out"),
    "canvas": ("A drawing was left out", "{} drawings were left out"),
    "object": ("An embedded object was left out", "{} embedded objects were left out"),
    "embed": ("An embedded object was left out", "{} embedded objects were left out"),
    "select": ("A field to fill in was left out", "{} fields to fill in were left out"),
    "input": ("A field to fill in was left out", "{} fields to fill in were left out"),
}
_UNSEEN = frozenset(
    "head title style template noscript meta link base map datalist param source track rp area col colgroup".split()
) | set(_LEFT_OUT)
_BLOCKS = frozenset(
    """address article aside blockquote body caption center dd details dialog dir div dl dt fieldset figcaption figure
    footer form frameset h1 h2 h3 h4 h5 h6 header hgroup hr html legend li listing main menu nav ol optgroup option p
    plaintext pre search section summary table tbody td tfoot th thead tr ul xmp""".split()
)
_MARKS: dict[str, list[MarkKind]] = {}
for _kind in SCHEMA.marks.values():
    for _tag in (_kind.element.tag, *_kind.element.also):
        _MARKS.setdefault(_tag, []).append(_kind)
_PLAIN = {tag: Mark(kinds[0].name) for tag, kinds in _MARKS.items() if not kinds[0].attributes and len(kinds) == 1}
_PLAIN |= {"dfn": Mark("emphasis"), "cite": Mark("emphasis"), "var": Mark("emphasis"), "ins": Mark("underline")}
_LISTS = {"ul": "bulleted_list", "ol": "numbered_list", "menu": "bulleted_list", "dir": "bulleted_list"}
_TEXTBLOCKS = frozenset("p h1 h2 h3 h4 h5 h6 caption figcaption dt summary legend address".split())
_LOOKS = frozenset(("class", "style"))
_TELLING = frozenset(("call", "MsoTitle", "Title"))
"""Classes of paragraphs that are more than paragraphs."""
_DEEPEST = 15
"""Lists nested deeper than this are read as their words."""
_RECURSION = 120
"""Elements nested deeper than this are read as their words."""
_WHITE = " \t\n\r\f"
_SPACE = re.compile(r"[ \t\n\r\f]+")
_LINE_END = re.compile(r"[\t\n\r\f]")
_TINY = 2
"""A picture at most this wide or high, in pixels, only counts who looks."""

Marks = tuple[Mark, ...]
Attributes = Mapping[str, str | None]


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
    tree.strip_tags(sorted(_UNSEEN - {"rt"}))
    return tree.body is not None and has_words(tree.body.text())


def _is_white_alone(node: LexborNode) -> bool:
    """Whether this is white space, and the last that stands there."""
    return node.next is None and node.tag == "-text" and not (node.text_content or "").strip(_WHITE)


def _is_permalink(link: LexborNode) -> bool:
    """Whether a link is a sign that programs put behind a heading, and that leads to it."""
    return (link.attributes.get("href") or "").startswith("#") and link.text().strip() in PERMALINKS


def _without_rule(blocks: list[Node]) -> list[Node]:
    """The blocks without the line that programs draw above the notes at a text's end."""
    *before, rule, last = blocks if len(blocks) > 1 else (make("doc"), make("doc"))
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
    reader = _Reader(arriving, stored or root, exact=stored is not None)
    if arriving.whole and (named := tree.css_first("title")):
        arriving.title = " ".join(clean(named.text()).split())[:200] or None
    if arriving.whole and (about := tree.css_first('meta[name="description"]')):
        arriving.description = " ".join(clean(about.attributes.get("content") or "").split()) or None
    if stored is None and "<style" in html:
        reader.classes = class_styles("\n".join(sheet.text() for sheet in tree.css("style")))
    blocks = _Blocks(reader)
    blocks.children(stored or root, (), 0)
    if reader.paint:
        arriving.told.dropped("Its look was left out: colours, fonts, sizes")
    return blocks.done(), stored is not None


def marks_of(tag: str, arriving: Arriving) -> tuple[str, Marks]:
    """The name of an opening tag as HTML writes it, and the marks that its element means."""
    root = LexborHTMLParser(tag).body
    node = root.child if root is not None else None
    if root is None or node is None or not node.tag or node.tag[0] == "-":
        return "", ()
    return node.tag, _Blocks(_Reader(arriving, root, exact=True)).marked(node, node.tag, ())


def titled(blocks: list[Node], arriving: Arriving) -> list[Node]:
    """The blocks of a whole page without its title, where they begin with one: the only heading of level 1.

    A title that is marked as such comes as a heading of level 0; it takes level 1, and all headings one lower. Those
    of level 1 stay so until `lowered` is asked.
    """
    if any(block.kind == "heading" and block.attrs["level"] == 0 for block in blocks):
        blocks = [
            block.with_attrs(level=min(6, block.attrs["level"] + 1)) if block.kind == "heading" else block
            for block in blocks
        ]
    if not arriving.whole:
        return blocks
    ones = [index for index, block in enumerate(blocks) if block.kind == "heading" and block.attrs["level"] == 1]
    if len(ones) != 1 or not is_empty(blocks[: ones[0]]):
        return blocks
    arriving.title = " ".join(text_of(blocks[ones[0]]).split()) or arriving.title
    return blocks[ones[0] + 1 :]


def lowered(blocks: list[Node], arriving: Arriving) -> list[Node]:
    """The blocks with all headings one level lower where one of them is of level 1, which is the page's title."""
    if not any(block.kind == "heading" and block.attrs["level"] == 1 for block in blocks):
        return blocks
    arriving.told.mended("Headings were lowered by one level: level 1 is the page's title")
    return [
        block.with_attrs(level=min(6, block.attrs["level"] + 1)) if block.kind == "heading" else block
        for block in blocks
    ]


def children_of(node: LexborNode) -> Iterator[LexborNode]:
    """The children of a node, text and comments too."""
    child = node.child
    while child is not None:
        yield child
        child = child.next


class _Reader:
    """What holds for the whole reading: how white space is treated, what links within the text lead to."""

    def __init__(self, arriving: Arriving, root: LexborNode, *, exact: bool) -> None:
        self.arriving = arriving
        self.told = arriving.told
        self.exact = exact
        self.in_table = False
        self.paint = False
        self.classes: dict[str, str] = {}
        self._plain: dict[tuple[tuple[str, str | None], ...], bool] = {}
        self.language = "" if exact else _language_of(root)
        self.fragments = Fragments(None if exact else root)

    def is_plain(self, attributes: Attributes) -> bool:
        """Whether a paragraph with these attributes is nothing but a paragraph. Texts hold the same few again and
        again, so each is judged once."""
        if not attributes:
            return True
        if len(attributes) > 2 or not attributes.keys() <= _LOOKS:
            return False
        key = tuple(attributes.items())
        plain = self._plain.get(key)
        if plain is None:
            meaning = meaning_of(self.style_of(attributes))
            self.paint = self.paint or meaning.paint
            says_nothing = replace(meaning, paint=False) == NOTHING
            classes = (attributes.get("class") or "").split()
            plain = self._plain[key] = says_nothing and not any(
                name.lower() in _FLAT or name in _TELLING for name in classes
            )
        return plain

    def style_of(self, attributes: Attributes) -> str:
        """What the classes of an element and its own style declare."""
        style = attributes.get("style") or ""
        named = attributes.get("class") if self.classes else None
        return ";".join([*(self.classes.get(name, "") for name in named.split()), style]) if named else style


def _language_of(root: LexborNode) -> str:
    """The language of a text as its elements tell it: that of the whole, or the one that most letters are said to be
    in, where more are than are not. Without its region; "" where none is told."""
    around = root.parent
    whole = around.attributes.get("lang") if around is not None and around.tag == "html" else None
    whole = root.attributes.get("lang") or whole
    if whole:
        return whole.split("-")[0].lower()
    letters: Counter[str] = Counter()
    for element in root.css("[lang]"):
        said = (element.attributes.get("lang") or "").split("-")[0].lower()
        letters[said] += sum(len(each.text_content or "") for each in children_of(element) if each.tag == "-text")
    if not letters:
        return ""
    most = max(letters, key=lambda each: letters[each])
    return most if 2 * letters[most] > len(root.text()) else ""


def _spaced(text: str, *, exact: bool) -> str:
    """The text with white space as HTML counts it: one space. In the storable form only a line end makes it so."""
    if text.isprintable() and "  " not in text:
        return text
    if not exact:
        return _SPACE.sub(" ", text)
    if not _LINE_END.search(text):
        return text
    return _SPACE.sub(lambda match: " " if _LINE_END.search(match[0]) else match[0], text)


class _Words:
    """The inline content of a block as it is read. White space is that of HTML: one space, none at the ends nor beside
    a line break; in the storable form it stands as it is."""

    __slots__ = ("at_start", "exact", "nodes")

    def __init__(self, *, exact: bool) -> None:
        self.exact = exact
        self.nodes: list[Node] = []
        self.at_start = True

    def text(self, text: str, marks: Marks) -> None:
        spend()
        if not text.isprintable() or "  " in text:
            text = clean(_spaced(text, exact=self.exact))
        if self.at_start and not self.exact and text[:1] == " ":
            text = text[1:]
        if not text:
            return
        if len(marks) > 1 and not self.exact and any(mark.kind == "link" for mark in marks):
            # That a link is underlined goes without saying.
            marks = tuple(mark for mark in marks if mark.kind != "underline")
        self.at_start = text[-1] == " "
        last = self.nodes[-1] if self.nodes else None
        if last is not None and last.kind == "text" and last.marks == marks:
            self.nodes[-1] = Node("text", {}, (), marks, last.text + text)
        else:
            self.nodes.append(Node("text", {}, (), marks, text))

    def line_break(self, marks: Marks) -> None:
        self.trim()
        self.nodes.append(Node("line_break", {}, (), marks))
        self.at_start = True

    def node(self, node: Node) -> None:
        self.nodes.append(node)
        self.at_start = False

    def trim(self) -> None:
        """Take the space off that stands at the end."""
        while not self.exact and self.nodes and self.nodes[-1].kind == "text":
            last = self.nodes[-1]
            rest = last.text.rstrip(" ")
            if rest == last.text:
                return
            self.nodes.pop()
            if rest:
                self.nodes.append(Node("text", {}, (), last.marks, rest))

    def taken(self) -> list[Node]:
        """The content, which begins anew. A line end at either end of a block is not seen."""
        self.trim()
        nodes = self.nodes
        if not self.exact:
            while nodes and nodes[-1].kind == "line_break":
                nodes.pop()
                self.trim()
            while nodes and nodes[0].kind == "line_break":
                nodes.pop(0)
        self.nodes = []
        self.at_start = True
        return nodes


class _Blocks:
    """Gathers what stands in one container. Words outside any block wait until a block ends them."""

    __slots__ = ("in_line", "keeps_lines", "lists", "pieces", "reader", "words")

    def __init__(self, reader: _Reader, lists: int = 0, *, in_line: bool = False) -> None:
        self.reader = reader
        self.lists = lists
        self.in_line = in_line
        self.keeps_lines = False
        self.pieces: list[Piece] = []
        self.words = _Words(exact=reader.exact)

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
        skips = not self.reader.exact
        while child is not None:
            tag = child.tag
            if tag == "-text":
                text = child.text_content or ""
                # Between blocks, and at a block's beginning, white space is nothing.
                if not (skips and self.words.at_start and text[:1] in _WHITE and not text.strip(_WHITE)):
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
        elif self.in_line or not self.reader.exact or text.strip(_WHITE):
            self.words.text(text, marks)

    def element(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        reader = self.reader
        if tag[0] in "-!" or depth > _RECURSION:
            if depth > _RECURSION and tag[0] not in "-!" and tag not in _UNSEEN:
                self.words.text(f" {node.text(separator=' ')} ", marks)
            return
        if tag in _UNSEEN:
            if tag in _LEFT_OUT:
                reader.told.dropped(*_LEFT_OUT[tag])
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
            self.words.text(f"({_SPACE.sub(' ', node.text()).strip()})", marks)
        elif tag == "br":
            self.words.line_break(marks)
        elif tag == "img":
            self.picture(node, marks)
        elif tag == "math" or "data-latex" in attributes:
            self.equation(node, tag, marks)
        elif not reader.exact and (typed := _typed_equation(node, tag, attributes)):
            self.set_equation(typed[0], marks, alone=tag == "div" or typed[1])
        elif tag in _BLOCKS if meaning.block is None else meaning.block:
            self.block(node, tag, marks, depth, meaning)
        elif tag in _PLAIN and len(attributes) == 0 and not any(mark.kind == _PLAIN[tag].kind for mark in marks):
            self.children(node, in_order((*marks, _PLAIN[tag])) if marks else (_PLAIN[tag],), depth + 1)
        else:
            marks = self.marked(node, tag, marks)
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
            self.preformatted(node)
        elif tag == "p" and "call" in classes and (link := node.css_first("a")) and link.text() == node.text():
            self.call_to_action(node, link)
        elif meaning.item:
            self.listed(node, tag, marks, depth, meaning)
        elif tag in _TEXTBLOCKS or attributes.get("role") == "heading":
            marks = in_order(restyled(marks, meaning.marks)) if meaning.marks else marks
            self.textblock(node, tag, marks, depth, attributes)
        elif tag in _LISTS and self.lists < _DEEPEST:
            self.list(node, tag, marks, depth)
        elif tag == "li" and not self.lists:
            self.pieces.append(Listed(self.inside(node, marks, depth), of="li"))
        elif tag == "blockquote" or (tag == "figure" and "quotation" in classes):
            self.quotation(node, tag, marks, depth)
        elif tag == "div" and "aside" in classes:
            self.aside(node, marks, depth)
        elif tag == "figure":
            self.figure(node, marks, depth)
        elif tag == "table" and not reader.in_table and attributes.get("role") not in ("presentation", "none"):
            self.table(node, marks, depth)
        else:
            marks = in_order(restyled(marks, meaning.marks)) if meaning.marks else marks
            kept, self.keeps_lines = self.keeps_lines, self.keeps_lines or meaning.lines
            (self.parts if meaning.side_by_side else self.children)(node, marks, depth + 1)
            self.keeps_lines = kept
            self.end_words()

    def alone(self, node: LexborNode, marks: Marks) -> list[Node] | None:
        """The blocks within an element that holds one run of words and nothing else, or one plain paragraph of one, as
        most paragraphs, items and cells do; None for any other, and in the storable form."""
        reader = self.reader
        only = node.child
        if only is None or len(marks) > 1 or reader.exact or self.keeps_lines:
            return None
        after = only.next
        if after is not None and only.tag == "-text" and not (only.text_content or "").strip(_WHITE):
            only, after = after, after.next
        if only.tag == "p" and not reader.fragments.notes and (after is None or _is_white_alone(after)):
            if not reader.is_plain(only.attributes):
                return None
            only = only.child
            after = only.next if only is not None else None
        if only is None or after is not None or only.tag != "-text":
            return None
        spend()
        text = clean(_spaced(only.text_content or "", exact=False)).strip(" ")
        return [make("paragraph", (Node("text", {}, (), marks, text),))] if text else None

    def inside(self, node: LexborNode, marks: Marks, depth: int, *, in_line: bool = False) -> list[Node]:
        """The blocks within an element."""
        exact = self.reader.exact
        style = "" if exact else node.attributes.get("style")
        keeps_lines = self.keeps_lines or bool(style and "white-space" in style and meaning_of(style).lines)
        if not keeps_lines and (alone := self.alone(node, marks)):
            return alone
        inner = _Blocks(self.reader, self.lists, in_line=in_line)
        inner.keeps_lines = keeps_lines
        inner.children(node, marks, depth + 1)
        return inner.done()

    def marked(self, node: LexborNode, tag: str, marks: Marks) -> Marks:
        """The marks with those that an element means."""
        added: list[Mark] = []
        for kind in _MARKS.get(tag, ()):
            if any(mark.kind == kind.name for mark in marks):
                continue
            attrs = self.attributes(node, kind)
            if attrs is not None:
                added.append(Mark(kind.name, attrs))
                if kind.name == "link" and node.mem_id in self.reader.fragments.references:
                    note = self.reader.fragments.references[node.mem_id].startswith("note-")
                    added += [Mark("superscript")] if note and "superscript" not in {m.kind for m in marks} else []
        if not added and tag in _PLAIN and tag not in _MARKS:
            added = [_PLAIN[tag]]
        if not added:
            return marks
        return in_order({mark.kind: mark for mark in (*marks, *added)}.values())

    def attributes(self, node: LexborNode, kind: MarkKind) -> dict[str, object] | None:
        """The attributes of a mark as the element has them; None when one that must be there is missing or wrong."""
        attrs: dict[str, object] = {}
        written = {name: html_name for html_name, name in kind.element.attributes.items()}
        for name, attribute in kind.attributes.items():
            given = written[name] in node.attributes
            words = clean(node.attributes.get(written[name]) or "").strip()
            value: object = given if attribute.type == "boolean" else words or None
            if name == "title" and value:
                value = self.reader.told.within(str(value), attribute.maximum or 200, "title of a link")
            if name == "href" and value and not self.reader.exact:
                value = self.href(node, str(value))
            if kind.name == "language" and str(value).split("-")[0].lower() == self.reader.language:
                return None
            if value is None or attribute.problem(value):
                if attribute.required:
                    if kind.name == "link" and words:
                        sentence = f"A link to “{words[:60]}” was left out, its words stay"
                        self.reader.told.dropped(sentence, f"{sentence} ({{}} times)")
                    return None
                value = attribute.default
            attrs[name] = value
        if kind.name == "link" and not self.reader.exact and node.attributes.get("target") == "_blank":
            attrs["new_window"] = parse_reference(str(attrs["href"])) is not None and str(attrs["href"])[0] == "h"
        return attrs

    def href(self, node: LexborNode, written: str) -> str | None:
        """Where a link leads, as it may stand in a document."""
        if written.startswith("#"):
            anchor = self.reader.fragments.references.get(node.mem_id)
            return None if anchor is None else f"#{anchor}"
        address = re.sub(r"^[A-Za-z]+:", lambda scheme: scheme[0].lower(), re.sub(r"\s", "%20", written))
        return self.reader.arriving.link(address) or (address if parse_reference(address) else None)

    def equation(self, node: LexborNode, tag: str, marks: Marks) -> None:
        """An equation by its LaTeX: written in an attribute, going along as an annotation (MathML 4, 6.8), or worked
        out from its MathML."""
        note = node.css_first('annotation[encoding="application/x-tex"]') if tag == "math" else None
        latex = clean((note.text() if note else node.attributes.get("data-latex")) or "")
        if tag == "math" and not note:
            latex = latex_of(node.html or "")
        if not self.reader.exact:
            latex = re.sub(r"  +", " ", latex.strip())
        if not latex or SCHEMA.nodes["formula"].attributes["latex"].problem(latex):
            self.words.text(node.text(), marks)
        else:
            self.set_equation(latex, marks, alone=tag == "div" or node.attributes.get("display") == "block")

    def set_equation(self, latex: str, marks: Marks, *, alone: bool) -> None:
        """An equation in its line, or on one of its own."""
        if alone:
            self.end_words()
            self.pieces.append(make("equation", latex=latex))
        else:
            self.words.node(Node("formula", {"latex": latex}, (), marks))

    def textblock(self, node: LexborNode, tag: str, marks: Marks, depth: int, attributes: Attributes) -> None:
        classes = (attributes.get("class") or "").split()
        level = self.level(attributes, tag, classes)
        if level is not None and not self.reader.exact:
            marks = tuple(mark for mark in marks if mark.kind != "strong")
        blocks = self.inside(node, marks, depth, in_line=True)
        if not blocks and (self.reader.exact or tag in ("p", "address")):
            blocks = [make("paragraph")]
        align = _value(attributes, "paragraph", "align")
        if level is not None:
            anchor = _value(attributes, "heading", "anchor") or self.reader.fragments.anchors.get(node.mem_id)
            if len(blocks) > 1 and all(block.kind == "paragraph" for block in blocks):
                blocks = [make("paragraph", words_of(blocks))]
            self.pieces += [
                make("heading", block.content, align=align, anchor=anchor, level=level)
                if block.kind == "paragraph"
                else block
                for block in blocks
            ]
            return
        style = _value(attributes, "paragraph", "style")
        made = [
            block.with_attrs(align=align, style=style) if block.kind == "paragraph" and (align or style) else block
            for block in blocks
        ]
        flat = _FLAT.get(classes[0].lower(), "") if classes and not self.reader.exact else ""
        for block in made:
            if flat == "caption" and block.kind == "paragraph":
                self.pieces.append(Caption(block))
            elif flat and block.kind == "paragraph":
                self.pieces.append(Styled(flat, block))
            else:
                self.pieces.append(block)

    def level(self, attributes: Attributes, tag: str, classes: Sequence[str]) -> int | None:
        """The level of a heading; None for anything else."""
        if tag[0] == "h" and tag[1:].isdigit():
            level = int(tag[1])
        elif attributes.get("role") == "heading":
            written = attributes.get("aria-level") or "2"
            level = min(6, max(1, int(written))) if written.isdigit() and len(written) < 3 else 2
        elif "MsoTitle" in classes or "Title" in classes:
            level = 0
        else:
            return None
        return max(2, level) if self.reader.exact else level

    def listed(self, node: LexborNode, tag: str, marks: Marks, depth: int, meaning: Meaning) -> None:
        """A paragraph that a word processor marks as the item of a list."""
        assert meaning.item is not None
        of, level = meaning.item
        signs = [span for span in node.css("span[style]") if meaning_of(span.attributes["style"] or "").ignored]
        sign = clean(signs[0].text() if signs else "").strip(" \u00a0")
        number = re.fullmatch(r"\(?(?:(?:\d+\.)*(\d{1,6})[.)]?|([a-z]|[ivxlc]+)[.)])", sign, re.IGNORECASE)
        counted = int(number[1]) if number and number[1] else None
        if number and number[2]:
            self.reader.told.mended("Letters before the items of a list became numbers", count=counted is None)
        blocks = self.inside(node, marks, depth, in_line=True)
        if tag[0] == "h" and tag != "hr":
            # A numbered heading is a heading; its number comes from the place it has.
            self.textblock(node, tag, marks, depth, {})
            return
        self.pieces.append(Listed(blocks, level, number is not None, counted, of))

    def call_to_action(self, node: LexborNode, link: LexborNode) -> None:
        words = _SPACE.sub(" ", link.text()) if not self.reader.exact else link.text()
        words = clean(words if self.reader.exact else words.strip(" "))
        href = link.attributes.get("href") or ""
        emphasis = _value(node.attributes, "call_to_action", "emphasis") or "main"
        content = [Node("text", text=words)] if words else []
        leads = href if self.reader.exact else self.href(link, href)
        known = leads if leads and parse_reference(leads) else None
        self.pieces.append(make("call_to_action", content, href=known, emphasis=emphasis))

    def quotation(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        """A quotation; its source stands in a figcaption beside it, or in a footer within."""
        source: list[Node] | None = None
        inner = _Blocks(self.reader, self.lists)
        for child in children_of(node):
            if child.tag in ("figcaption", "footer"):
                source = words_of(self.inside(child, marks, depth, in_line=True))
            elif child.tag == "blockquote" and tag == "figure":
                inner.children(child, marks, depth + 1)
                inner.end_words()
            else:
                inner.one(child, marks, depth + 1)
        blocks = inner.done()
        if blocks or source or self.reader.exact:
            self.pieces.append(quotation(blocks, source, self.reader.told))

    def aside(self, node: LexborNode, marks: Marks, depth: int) -> None:
        inner = _Blocks(self.reader, self.lists)
        for child in children_of(node):
            label = child.tag == "p" and child.attributes.get("class") == "aside-label"
            if not (label and child.text() in ASIDE_LABELS.values()):
                inner.one(child, marks, depth + 1)
        blocks = fitted("aside", inner.done(), self.reader.told.flattened)
        self.pieces.append(make("aside", blocks, sort=_value(node.attributes, "aside", "sort") or "note"))

    def figure(self, node: LexborNode, marks: Marks, depth: int) -> None:
        """A figure: a picture with its caption, a table with one; of anything else the parts one after another."""
        inner = _Blocks(self.reader, self.lists)
        captions: list[list[Node]] = []
        for child in children_of(node):
            if child.tag == "figcaption" and self.reader.exact:
                continue
            if child.tag == "figcaption":
                captions.append(inner.inside(child, marks, depth, in_line=True))
                continue
            inner.one(child, marks, depth + 1)
        blocks = inner.done()
        for words in captions:
            alone = len(words) == 1 and words[0].kind == "paragraph" and len(blocks) == 1
            self.pieces += blocks
            blocks = []
            self.pieces += [Caption(words[0])] if alone else words
        self.pieces += blocks

    def table(self, node: LexborNode, marks: Marks, depth: int) -> None:
        reader = self.reader
        if not reader.exact and (code := _numbered_code(node)) is not None:
            reader.told.dropped("The numbers before lines of code were left out")
            self.preformatted(code)
            return
        reader.in_table = True
        caption: list[Node] | None = None
        rows: list[Node] = []
        waiting = list(children_of(node))[::-1]
        while waiting:
            child = waiting.pop()
            if child.tag in ("thead", "tbody", "tfoot"):
                waiting += list(children_of(child))[::-1]
            elif child.tag == "caption":
                caption = words_of(self.inside(child, marks, depth, in_line=True))
            elif child.tag == "tr" and not _is_hidden(child, reader):
                row = [self.cell(each, marks, depth) for each in children_of(child) if each.tag in ("td", "th")]
                rows.append(make("table_row", row))
        reader.in_table = False
        cells = [cell for row in rows for cell in row.content]
        named = caption or any(cell.kind == "table_header" for cell in cells)
        fits = SCHEMA.contents["table_cell"].names
        if not reader.exact and not named and any(part.kind not in fits for cell in cells for part in cell.content):
            reader.told.mended(
                "A table used for layout became plain paragraphs", "{} tables used for layout became plain paragraphs"
            )
            self.pieces += [part for cell in cells for part in cell.content]
            return
        if any(part.kind not in fits for cell in cells for part in cell.content) or not all(
            cell.content for cell in cells
        ):
            rows = [row.with_content(_fit(cell, reader.told) for cell in row.content) for row in rows]
        rows = squared(rows)
        if not any(row.content for row in rows):
            self.pieces += [make("paragraph", caption)] if caption else []
            return
        parts = [make("table_caption", caption)] if caption is not None else []
        self.pieces.append(make("table", [*parts, make("table_grid", rows)]))

    def cell(self, node: LexborNode, marks: Marks, depth: int) -> Node:
        """A cell with whatever stands in it, fitted only later: a cell that holds headings or tables is layout."""
        spans = {}
        attributes = node.attributes
        for name in ("colspan", "rowspan"):
            if (written := attributes.get(name)) and re.fullmatch(r"\d{1,4}", written):
                spans[name] = min(200, max(1, int(written)))
        if not self.reader.exact and (style := self.reader.style_of(attributes)):
            meaning = meaning_of(style)
            if meaning.hidden:
                self.reader.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
                return make("table_cell", [], **spans)
            self.reader.paint = self.reader.paint or meaning.paint
            marks = in_order(restyled(marks, {} if node.tag == "th" else meaning.marks))
        kind = "table_header" if node.tag == "th" else "table_cell"
        if alone := self.alone(node, marks):
            return make(kind, alone, **spans)
        inner = _Blocks(self.reader, self.lists)
        # Tables within a cell are read as tables where the outer one turns out to be layout.
        self.reader.in_table = self.reader.exact
        inner.children(node, marks, depth + 1)
        self.reader.in_table = True
        return make(kind, inner.done(), **spans)

    def preformatted(self, node: LexborNode) -> None:
        lines = _lines(node, self.reader).replace("\r\n", "\n").replace("\r", "\n")
        code = node.css_first("code")
        named = re.search(r"(?:^|\s)language-(\S+)", (code.attributes.get("class") or "") if code else "")
        language = node.attributes.get("data-language") or (named[1] if named else None)
        if not language or SCHEMA.nodes["preformatted"].attributes["language"].problem(language):
            language = None
        content: list[Node] = []
        for index, line in enumerate((lines if self.reader.exact else lines.strip("\n")).split("\n")):
            content += [make("line_break")] if index else []
            content += [Node("text", text=words)] if (words := as_typed(line)) else []
        if content or self.reader.exact:
            self.pieces.append(make("preformatted", content, language=language))

    def list(self, node: LexborNode, tag: str, marks: Marks, depth: int) -> None:
        items: list[Node] = []
        first: int | None = None
        start = node.attributes.get("start") or ""
        begins = int(start) if re.fullmatch(r"\d{1,6}", start) else None
        notes = self.reader.fragments
        for child in children_of(node):
            if child.tag == "-text" and not (child.text_content or "").strip(_WHITE):
                continue
            inner = _Blocks(self.reader, self.lists + 1)
            if child.tag == "li":
                if _is_hidden(child, self.reader):
                    continue
                value = child.attributes.get("value") or ""
                if tag == "ol" and re.fullmatch(r"\d{1,6}", value) and not self.reader.exact:
                    expected = (begins or first or 1) + len(items)
                    if items and int(value) != expected:
                        self.numbered(items, begins if begins is not None else first)
                        items = []
                    begins = begins if items else int(value)
                blocks = inner.alone(child, marks)
                if blocks is None:
                    inner.children(child, marks, depth + 1)
                    blocks = inner.done()
                anchor = _value(child.attributes, "list_item", "anchor") or notes.anchors.get(child.mem_id)
                if notes.notes and child.mem_id in notes.notes:
                    anchor = notes.notes[child.mem_id][1]
                if len(blocks) > 1 and not self.reader.exact and _SIGN.fullmatch(text_of(blocks[0])):
                    # Programs that draw lists themselves write the sign as a paragraph of its own.
                    sign = blocks.pop(0)
                    written = re.match(r"\d{1,6}", text_of(sign))
                    first = int(written[0]) if written and not items else first
                if blocks or self.reader.exact:
                    items.append(
                        make("list_item", fitted("list_item", blocks, self.reader.told.flattened), anchor=anchor)
                    )
                continue
            inner.one(child, marks, depth + 1)
            if blocks := inner.done():
                nested = items and blocks[0].kind.endswith("_list")
                before = items.pop() if nested else make("list_item")
                content = fitted("list_item", (*before.content, *blocks), self.reader.told.flattened)
                items.append(before.with_content(content))
        if not items:
            return
        if tag == "ol":
            self.numbered(items, begins if begins is not None else first)
        else:
            self.pieces.append(make(_LISTS[tag], items))

    def numbered(self, items: Sequence[Node], start: int | None) -> None:
        self.pieces.append(make("numbered_list", items, **({} if start is None else {"start": start})))

    def picture(self, node: LexborNode, marks: Marks) -> None:
        attributes = node.attributes
        source = (attributes.get("src") or "").strip()
        words = clean(_spaced(attributes.get("alt") or "", exact=self.reader.exact)).strip(" ")
        alt = self.reader.told.within(words, 1000, "alt text") or None
        reference = parse_reference(source)
        if not self.reader.exact:
            if _is_tracker(node):
                self.reader.told.dropped("A tracking picture was left out", "{} tracking pictures were left out")
                return
            if alt and _is_sign(node, alt):
                self.words.text(alt, marks)
                return
            if (not source or source.startswith("data:image/gif")) and attributes.get("data-src"):
                source = (attributes.get("data-src") or "").strip()
        decorative = "data-decorative" in attributes or (attributes.get("alt") == "" and not self.reader.exact)
        number = reference.number if reference and reference.kind == "item" and not reference.fragment else None
        if number is None and not self.reader.exact:
            number = self.arrived(source, alt or "")
        if number is None:
            self.reader.told.dropped(
                "A picture that came without its file was left out",
                "{} pictures that came without their files were left out",
            )
            return
        caption = None
        if self.reader.exact and node.parent is not None and (words := node.parent.css_first("figcaption")):
            caption = clean(_spaced(words.text(), exact=True)) or None
        self.end_words()
        setting = _picture_setting(node.parent)
        self.pieces.append(make("picture", item=number, alt=alt, decorative=decorative, caption=caption, **setting))

    def arrived(self, source: str, alt: str) -> int | None:
        """The provisional number of a picture that came along or is said to be somewhere."""
        if not source:
            return None
        if not source.lower().startswith("data:"):
            name = re.split(r"[?#]", source)[0].replace("\\", "/").rsplit("/", 1)[-1]
            return self.reader.arriving.picture(source, name=name, alt=alt)
        match = re.match(r"data:image/[\w.+-]+(?:;[\w=-]+)*;base64,", source, re.IGNORECASE)
        if not match:
            return None
        try:
            data = b64decode(re.sub(r"\s|%0[aAdD]", "", source[match.end() :]).replace("%2B", "+").replace("%3D", "="))
        except ValueError:
            return None
        return self.reader.arriving.picture(data=data, alt=alt) if data else None


_SIGN = re.compile(r"[-–•·▪◦‣●○■□➢✓✔o§]|(?:\d{1,6}|[A-Za-z]{1,4})[.)]")
"""What stands before the item of a list that a program draws itself."""
_FLAT = {
    "msocaption": "caption",
    "caption": "caption",
    "msoquote": "quotation",
    "msointensequote": "quotation",
    "quotations": "quotation",
    "western-quotations": "quotation",
    "preformatted-text": "preformatted",
}
"""Classes that word processors write for paragraphs of a style, and what such a style means."""


def _picture_setting(figure: LexborNode | None) -> dict[str, Any]:
    """How a picture of our own stands, and what is made of it; what is not well said is left out."""
    if figure is None or figure.tag != "figure" or "picture" not in (figure.attributes.get("class") or "").split():
        return {}
    kinds = SCHEMA.nodes["picture"].attributes
    setting: dict[str, Any] = {}
    for name in PICTURE_SETTING:
        value: object = figure.attributes.get(f"data-{name}")
        if kinds[name].type == "integer" and isinstance(value, str) and re.fullmatch(r"-?\d{1,5}", value):
            value = int(value)
        if value is not None and kinds[name].problem(value) is None:
            setting[name] = value
    return setting


_TYPED_EQUATION = re.compile(
    r"\s*(?:\\\((?P<line>.+?)\\\)|\\\[(?P<block>.+?)\\\]|\$\$(?P<dollars>.+?)\$\$"
    r"|\\begin\{(?:equation|displaymath)\*?\}(?P<named>.+?)\\end\{(?:equation|displaymath)\*?\})\s*",
    re.DOTALL,
)
_OF_EQUATIONS = frozenset("math mathjax arithmatex katex tex".split())


def _typed_equation(node: LexborNode, tag: str, attributes: Attributes) -> tuple[str, bool] | None:
    """The LaTeX of an equation that stands in the page for a script to set, if we can read it; and whether it stands
    on a line of its own."""
    named = (attributes.get("class") or "").lower().split() if attributes else []
    if tag not in ("span", "div") or not _OF_EQUATIONS.intersection(named):
        return None
    match = _TYPED_EQUATION.fullmatch((node.text() or "")[:4000])
    if match is None:
        return None
    latex = clean(_SPACE.sub(" ", str(match[match.lastgroup or 0]))).strip()
    if SCHEMA.nodes["formula"].attributes["latex"].problem(latex):
        return None
    try:
        check_equation(latex)
    except EquationError:
        return None
    return latex, match.lastgroup != "line"


def _numbered_code(table: LexborNode) -> LexborNode | None:
    """The code of a table that only sets the numbers of its lines beside it, as programs that colour code write it."""
    listings = table.css("pre")
    if len(listings) != 2 or len(table.css("tr")) != 1 or len(table.css("td")) != 2:
        return None
    numbers, code = ((each.text() or "").strip("\n").split("\n") for each in listings)
    counted = [line.strip() for line in numbers]
    if len(counted) < len(code) or not all(line.isdigit() for line in counted) or len(counted[0]) > 6:
        return None
    first = int(counted[0])
    return listings[1] if counted == [str(first + index) for index in range(len(counted))] else None


def _fit(cell: Node, told: Told) -> Node:
    return cell.with_content(fitted(cell.kind, cell.content, told.flattened))


def _is_hidden(node: LexborNode, reader: _Reader) -> bool:
    """Whether a row or an item is not shown."""
    attributes = node.attributes
    if reader.exact or not attributes:
        return False
    hidden = "hidden" in attributes or meaning_of(attributes.get("style") or "").hidden
    if hidden:
        reader.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
    return hidden


def _pixels(node: LexborNode, name: str) -> float | None:
    style = re.search(rf"(?:^|;)\s*{name}\s*:\s*([\d.]+)px", node.attributes.get("style") or "")
    written = style[1] if style else (node.attributes.get(name) or "")
    return float(written) if re.fullmatch(r"\d+(?:\.\d+)?", written) else None


def _is_tracker(node: LexborNode) -> bool:
    sizes = [size for name in ("width", "height") if (size := _pixels(node, name)) is not None]
    return bool(sizes) and min(sizes) <= _TINY


def _is_sign(node: LexborNode, alt: str) -> bool:
    """Whether a picture only draws a sign that is a character, as an emoji."""
    width = _pixels(node, "width")
    small = (width is not None and width <= 32) or "emoji" in (node.attributes.get("class") or "").lower()
    return small and len(alt) <= 8 and not any(each.isascii() for each in alt)


def _value(attributes: Attributes, kind: str, name: str) -> object:
    """An attribute as the storable form writes it (``data-`` and the name), or its default where there is none that
    may stand."""
    attribute = SCHEMA.nodes[kind].attributes[name]
    given = attributes.get(f"data-{name}")
    return attribute.default if given is None or attribute.problem(given) else given


def _lines(node: LexborNode, reader: _Reader) -> str:
    """The words of preformatted text with its line ends; a br is one too, and so is the end of a block within. Not
    recursive: input may be nested deep."""
    found: list[str] = []
    waiting: list[LexborNode | str] = [node]
    while waiting:
        child = waiting.pop()
        if isinstance(child, str):
            if found and not found[-1].endswith("\n"):
                found.append(child)
        elif child.tag == "-text":
            found.append(child.text_content or "")
        elif child.tag == "br":
            found.append("\n")
        elif child.tag not in _UNSEEN and (child is node or reader.exact or not _is_hidden(child, reader)):
            parts: list[LexborNode | str] = list(children_of(child))
            if child is not node and child.tag in _BLOCKS:
                parts = ["\n", *parts, "\n"]
            waiting += reversed(parts)
    return "".join(found)
