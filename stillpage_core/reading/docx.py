"""DOCX (ECMA-376, WordprocessingML) → document."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field

from lxml import etree

from ..document.fitting import fitted
from ..document.node import Mark, Node, in_order, make
from ..document.references import parse_reference
from ..document.schema import SCHEMA
from ..document.tables import squared
from ..document.walking import text_of
from ..errors import ReadingError
from ..languages import is_tag
from ..writing.style_names import PARAGRAPHS, read_call, read_mark, read_picture, read_preformatted, read_variant
from .encoding import text_from
from .html import html_blocks
from .html.fragments import note_anchor
from .listed import Caption, Listed, Piece, Styled, assembled, called, whole_preformatted
from .mathml import latex_of_omml
from .mending import mended
from .package import Package, flat_words, joined_path, local
from .reading import Arriving, Reading, has_words
from .text import clean, read_plain
from .titles import lowered, titled

_R = "{http://schemas.openxmlformats.org/officeDocument/2006/relationships}"
_R_STRICT = "{http://purl.oclc.org/ooxml/officeDocument/relationships}"
_WHAT = "Word document (DOCX)"
_OFF = frozenset({"0", "false", "off", "none"})
_NUMBERED = frozenset("decimal decimalZero lowerLetter upperLetter lowerRoman upperRoman ordinal cardinalText".split())
_STYLES = {
    "quote": "quotation",
    "intense quote": "quotation",
    "quotations": "quotation",
    "html preformatted": "preformatted",
    "preformatted text": "preformatted",
    "source code": "preformatted",
    "plain text": "preformatted",
    "code": "preformatted",
    "aside": "aside",
}
"""Paragraph styles by their names, and the block that paragraphs of the style make up together."""
CAPTIONS = {"caption": "", "table": "table"} | dict.fromkeys(("illustration", "figure", "drawing"), "picture")
"""The styles of captions and what they are for; some word processors have one for each sort of thing."""
_CODE = frozenset({"html code", "source text", "html typewriter", "html keyboard", "html sample", "verbatim char"})
_DEEPEST = 30
_DEEPEST_CHUNK = 20


def read_docx(data: bytes, arriving: Arriving | None = None, *, under: int = 1) -> Reading:
    """Read a DOCX file. ``under`` as in `mending.mended`.

    Raises:
        ReadingError: when it is none, is damaged, locked, or made to do harm.
    """
    arriving = arriving or Arriving()
    package = Package(data, _WHAT)
    if any(name.lower().endswith("vbaproject.bin") for name in package.names):
        raise ReadingError("This Word document holds macros, which are programs. Save it without them, as DOCX.")
    reader = _Reader(package, arriving)
    blocks = titled(reader.blocks(), arriving)
    came = mended(lowered(blocks, arriving), arriving.told, under)
    return arriving.finished(came, reader.has_words)


@dataclass
class _Style:
    """A style with what it and those it is based on say. ``written`` is its name as it is written, ``name`` in small
    letters."""

    name: str = ""
    written: str = ""
    level: int | None = None
    list_id: str | None = None
    list_level: int = 0
    marks: dict[str, bool] = field(default_factory=dict)
    hidden: bool = False
    within: str = ""
    align: str | None = None


@dataclass
class _Level:
    """A level of a list: how it is numbered, and from where."""

    form: str
    start: int


_Cell = tuple[int, Node, str]
"""A cell: its column, what stands in it, and whether it begins or goes on with a merging of cells downwards."""


@dataclass
class _Words:
    """What gathers while a paragraph is read: its inline content and the blocks that break it up."""

    nodes: list[Node] = field(default_factory=list)
    behind: list[Piece] = field(default_factory=list)


class _Reader:
    def __init__(self, package: Package, arriving: Arriving) -> None:
        self.package = package
        self.arriving = arriving
        self.told = arriving.told
        self.main = self._main_part()
        root = package.xml(self.main)
        body = next((child for child in root if local(child) == "body"), None) if root is not None else None
        if root is None or body is None:
            raise ReadingError(f"This is no {_WHAT}: it has no text. Choose another file, or save it anew.")
        self.body = body
        self.w = root.tag[: root.tag.index("}") + 1]
        self.relations = self._relations(self.main)
        self.styles = self._styles()
        self.lists, self.abstract, self.restarts = self._numbering()
        self.counters: dict[str, list[int | None]] = {}
        self.begun: set[str] = set()
        self.note_parts = {
            sort: {self.get(note, "id"): note for note in self._part(f"{sort}s")} for sort in ("footnote", "endnote")
        }
        self.notes: list[tuple[etree._Element, str, str]] = []
        self.anchors: dict[tuple[str, str], str] = {}
        self.wanted = {self.get(link, "anchor") for link in self.body.iter(f"{self.w}hyperlink")} | set(
            re.findall(r'\\l\s+"([^"]+)"', " ".join(each.text or "" for each in self.body.iter(f"{self.w}instrText")))
        )
        self.known_anchors = self._heading_anchors()
        self.whole_fields = self._whole_fields()
        self.language = self._language()
        self.fields: list[list[str]] = []
        self.source = self.main
        self.depth = 0

    # Parts of the package

    def _main_part(self) -> str:
        rels = self.package.xml("_rels/.rels")
        for relation in rels if rels is not None else ():
            if (relation.get("Type") or "").endswith("/officeDocument"):
                return (relation.get("Target") or "").lstrip("/")
        return "word/document.xml"

    def _relations(self, part: str) -> dict[str, tuple[str, str, bool]]:
        """Of a part: id → (type, target, outside)."""
        folder, _, name = part.rpartition("/")
        root = self.package.xml(f"{folder}/_rels/{name}.rels" if folder else f"_rels/{name}.rels")
        return {
            relation.get("Id") or "": (
                (relation.get("Type") or "").rsplit("/", 1)[-1],
                relation.get("Target") or "",
                relation.get("TargetMode") == "External",
            )
            for relation in (root if root is not None else ())
        }

    def _part(self, kind: str) -> etree._Element | tuple[()]:
        """The root of the part that the main one names for this."""
        for sort, target, outside in self.relations.values():
            if sort == kind and not outside:
                root = self.package.xml(joined_path(self.main, target))
                if root is not None:
                    return root
        return ()

    def get(self, element: etree._Element | None, name: str = "val") -> str:
        return "" if element is None else element.get(self.w + name) or ""

    def child(self, element: etree._Element | None, *names: str) -> etree._Element | None:
        for name in names:
            element = None if element is None else element.find(self.w + name)
        return element

    def on(self, element: etree._Element | None) -> bool:
        return element is not None and self.get(element) not in _OFF

    def _styles(self) -> dict[str, _Style]:
        raw = {self.get(each, "styleId"): each for each in self._part("styles") if local(each) == "style"}
        known: dict[str, _Style] = {}

        def resolved(name: str, depth: int = 0) -> _Style:
            if name in known or name not in raw or depth > 30:
                return known.get(name, _Style())
            element = raw[name]
            base = resolved(self.get(self.child(element, "basedOn")), depth + 1)
            written, within, align = read_variant(self.get(self.child(element, "name")))
            style = _Style(written.lower(), written, base.level, base.list_id, base.list_level)
            style.marks, style.hidden = dict(base.marks), base.hidden
            style.within, style.align = within, align
            if match := re.fullmatch(r"heading (\d)", style.name):
                style.level = int(match[1])
            outline = self.get(self.child(element, "pPr", "outlineLvl"))
            if outline.isdigit():
                style.level = int(outline) + 1 if int(outline) < 9 else None
            numbering = self.child(element, "pPr", "numPr")
            if numbering is not None:
                style.list_id = self.get(self.child(numbering, "numId")) or style.list_id
                level = self.get(self.child(numbering, "ilvl"))
                style.list_level = int(level) if level.isdigit() else style.list_level
            style.marks |= self.said(self.child(element, "rPr"))
            style.hidden = style.hidden or self.on(self.child(element, "rPr", "vanish"))
            known[name] = style
            return style

        for name in raw:
            resolved(name)
        return known

    def said(self, properties: etree._Element | None) -> dict[str, bool]:
        """Which marks the properties of a run set or take off."""
        marks: dict[str, bool] = {}
        for each in properties if properties is not None else ():
            name = local(each)
            if name in _TOGGLES:
                marks[_TOGGLES[name]] = self.on(each)
            elif name == "vertAlign":
                marks["superscript"] = self.get(each) == "superscript"
                marks["subscript"] = self.get(each) == "subscript"
        return marks

    def _numbering(self) -> tuple[dict[str, dict[int, _Level]], dict[str, str], dict[tuple[str, int], int]]:
        """Of each list its levels, and which numbering it shares with others; where lists begin anew."""
        abstract: dict[str, dict[int, _Level]] = {}
        lists: dict[str, dict[int, _Level]] = {}
        shared: dict[str, str] = {}
        restarts: dict[tuple[str, int], int] = {}
        root = self._part("numbering")
        for each in root:
            if local(each) == "abstractNum":
                abstract[self.get(each, "abstractNumId")] = {
                    _number(self.get(level, "ilvl")): self._level(level) for level in each.findall(f"{self.w}lvl")
                }
        for each in root:
            if local(each) != "num":
                continue
            number = self.get(each, "numId")
            shared[number] = self.get(self.child(each, "abstractNumId"))
            lists[number] = dict(abstract.get(shared[number], {}))
            for override in each.findall(f"{self.w}lvlOverride"):
                level = _number(self.get(override, "ilvl"))
                if (own := self.child(override, "lvl")) is not None:
                    lists[number][level] = self._level(own)
                if (start := self.child(override, "startOverride")) is not None:
                    restarts[number, level] = _number(self.get(start), 1)
        return lists, shared, restarts

    def _level(self, element: etree._Element) -> _Level:
        form = self.get(self.child(element, "numFmt")) or "decimal"
        return _Level(form, _number(self.get(self.child(element, "start")), 1))

    def _heading_anchors(self) -> frozenset[str]:
        """The bookmarks that stand in a heading and that something leads to."""
        found = set()
        for mark in self.body.iter(f"{self.w}bookmarkStart"):
            name = self.get(mark, "name")
            paragraph = mark.getparent()
            if name in self.wanted and paragraph is not None and local(paragraph) == "p":
                properties = self.child(paragraph, "pPr")
                style = self.styles.get(self.get(self.child(properties, "pStyle")), _Style())
                if style.level is not None or self.child(properties, "outlineLvl") is not None:
                    found.add(name)
        return frozenset(found)

    def _whole_fields(self) -> set[etree._Element]:
        """The marks of the fields that have an end. One without would swallow all that follows; so would one that has
        words where its instruction is, and no result: the end is that of a field around it."""
        whole: set[etree._Element] = set()
        parts = [self.body, *(note for notes in self.note_parts.values() for note in notes.values())]
        for part in parts:
            open_fields: list[tuple[list[etree._Element], set[str]]] = []
            for mark in part.iter(f"{self.w}fldChar", f"{self.w}t"):
                kind = self.get(mark, "fldCharType") or "t"
                if kind == "begin":
                    open_fields.append(([mark], set()))
                    continue
                while open_fields and kind == "end" and open_fields[-1][1] == {"t"}:
                    open_fields.pop()
                if not open_fields:
                    continue
                marks, seen = open_fields[-1]
                if kind != "t":
                    marks.append(mark)
                if kind != "t" or "separate" not in seen:
                    seen.add(kind)
                if kind == "end":
                    whole.update(marks)
                    open_fields.pop()
        return whole

    def _language(self) -> str:
        """The language that most words are said to be in, without its region; "" where none is said."""
        letters: Counter[str] = Counter()
        for run in self.body.iter(f"{self.w}r"):
            said = self.get(self.child(run, "rPr", "lang")).split("-")[0].lower()
            letters[said] += sum(len(each.text or "") for each in run.iterchildren(f"{self.w}t"))
        styles = self._part("styles")
        defaults = next((each for each in styles if local(each) == "docDefaults"), None)
        default = self.get(self.child(defaults, "rPrDefault", "rPr", "lang")).split("-")[0].lower()
        letters[default] += letters.pop("", 0)
        return max(letters, key=lambda each: letters[each])

    def has_words(self) -> bool:
        """Whether any words stand in the body that are shown."""
        return any(has_words(each.text) for each in self.body.iter(f"{self.w}t"))

    def _margins(self) -> int:
        """Whether pages have a header or footer with words in it."""
        for sort, target, outside in self.relations.values():
            if sort in ("header", "footer") and not outside:
                root = self.package.xml(joined_path(self.main, target))
                if root is not None and any(has_words(each.text) for each in root.iter(f"{self.w}t")):
                    return 1
        return 0

    # Blocks

    def blocks(self) -> list[Node]:
        """The blocks of the body, the notes at the end."""
        self.told.dropped("What stands at the top and foot of its pages was left out", count=self._margins())
        pieces = list(self.pieces(self.body))
        for number, (note, anchor, source) in enumerate(self.notes, start=1):
            self.source = source
            inside = assembled(self.pieces(note), self.told)
            pieces.append(Listed(inside, 0, True, number, "notes", anchor))
        remarks = sum(1 for each in self._part("comments") if local(each) == "comment")
        self.told.dropped("A remark in the margin was left out", "{} remarks in the margin were left out", remarks)
        return assembled(pieces, self.told)

    def pieces(self, parent: etree._Element) -> Iterator[Piece]:
        if self.depth >= _DEEPEST:
            yield from flat_words(parent, self.told)
            return
        self.depth += 1
        for child in parent:
            name = local(child)
            if name == "p":
                yield from self.paragraph(child)
            elif name == "tbl":
                yield from self.table(child)
            elif name == "sdt":
                gallery = self.child(child, "sdtPr", "docPartObj", "docPartGallery")
                if self.get(gallery) == "Table of Contents":
                    self.told.dropped("A table of contents was left out: the Outline makes it")
                    continue
                for content in child.findall(f"{self.w}sdtContent"):
                    yield from self.pieces(content)
            elif name == "altChunk":
                yield from self.chunk(child)
            elif name == "AlternateContent":
                chosen = next(iter(child), None)
                if chosen is not None:
                    yield from self.pieces(chosen)
            elif name in ("del", "moveFrom"):
                self.told.dropped("Words marked as deleted were left out")
            elif name in ("oMath", "oMathPara", "r", "hyperlink"):
                held = _Words()
                self.among_words(child, name, (), {}, held)
                for part in _parted(held.nodes):
                    yield part if isinstance(part, Node) else make("paragraph", part)
                yield from held.behind
            elif name not in _SETTINGS:
                yield from self.pieces(child)
        self.depth -= 1

    def chunk(self, element: etree._Element) -> Iterator[Piece]:
        """A part of another format that stands in the text (ECMA-376, part 1, 17.17.2.1)."""
        identity = element.get(f"{_R}id") or element.get(f"{_R_STRICT}id") or ""
        _, target, _ = self._relations_here().get(identity, ("", "", True))
        data = self.package.part(joined_path(self.source, target)) if target else None
        ending = target.rpartition(".")[2].lower()
        if data is not None and ending in ("htm", "html", "xhtml"):
            yield from html_blocks(text_from(data), self.arriving)[0]
        elif data is not None and ending == "txt":
            yield from read_plain(text_from(data)).document.content
        elif data is not None and ending in ("docx", "dotx") and self.depth < _DEEPEST_CHUNK:
            inner = _Reader(Package(data, _WHAT), self.arriving)
            inner.depth = self.depth + _DEEPEST_CHUNK // 2
            yield from inner.blocks()
        else:
            self.told.dropped(
                "A part that is kept in another format was left out",
                "{} parts that are kept in other formats were left out",
            )

    def paragraph(self, element: etree._Element) -> Iterator[Piece]:
        properties = self.child(element, "pPr")
        style = self.styles.get(self.get(self.child(properties, "pStyle")), _Style())
        level = style.level
        outline = self.get(self.child(properties, "outlineLvl"))
        if outline.isdigit():
            level = int(outline) + 1 if int(outline) < 9 else None
        held = _Words()
        painted = level or style.name == "title" or style.name in CAPTIONS or style.name in _STYLES
        plain = {} if painted else style.marks
        in_contents = self._in_contents()
        self.inline(element, (), plain, held)
        if (in_contents or self._in_contents()) and not held.nodes:
            yield from held.behind
            return
        yield from self._made(element, properties, style, level, held)
        yield from held.behind

    def _in_contents(self) -> bool:
        return any(instruction and instruction[0].strip().upper().startswith("TOC") for instruction in self.fields)

    def _made(
        self, element: etree._Element, properties: etree._Element | None, style: _Style, level: int | None, held: _Words
    ) -> Iterator[Piece]:
        for part in _parted(held.nodes):
            if isinstance(part, Node):
                standing = read_picture(style.written) if part.kind == "picture" else {}
                yield part.with_attrs(**standing) if standing else part
                continue
            words = make("paragraph", part, align=style.align)
            if whole := read_preformatted(style.written):
                yield whole_preformatted(words, *whole)
            elif style.name == "title":
                yield make("heading", part, level=0)
            elif level:
                names = {self.get(mark, "name") for mark in element.findall(f"{self.w}bookmarkStart")}
                anchor = next(iter(sorted(names & self.known_anchors)), None)
                yield make("heading", part, level=min(6, level), anchor=anchor, align=style.align)
            elif (numbering := self._item(properties, style)) is not None:
                of, depth, numbered, number = numbering
                item = Listed([words], depth, numbered, number, of)
                yield Styled(style.within, item) if style.within else item
            elif style.name in CAPTIONS:
                yield Caption(words, CAPTIONS[style.name])
            elif style.name.startswith("list continue"):
                depth = _number(style.name.removeprefix("list continue").strip(), 1) - 1
                item = Listed([words], depth, more=True)
                yield Styled(style.within, item) if style.within else item
            elif (emphasis := read_call(style.written)) is not None:
                yield called(words, emphasis)
            elif style.name == "horizontal line" and not part:
                yield make("divider")
            elif kind := _STYLES.get(style.name):
                yield Styled(kind, words)
            else:
                text_style = PARAGRAPHS.get(style.written)
                yield words.with_attrs(style=text_style) if text_style else words

    def _item(self, properties: etree._Element | None, style: _Style) -> tuple[str, int, bool, int | None] | None:
        """Of the item of a list: its list, level, whether it is numbered, and its number."""
        numbering = self.child(properties, "numPr")
        list_id, depth = style.list_id, style.list_level
        if numbering is not None:
            list_id = self.get(self.child(numbering, "numId")) or list_id
            depth = _number(self.get(self.child(numbering, "ilvl")), depth)
        if not list_id or list_id == "0" or list_id not in self.lists:
            return None
        depth = min(depth, 8)
        level = self.lists[list_id].get(depth, _Level("bullet", 1))
        if level.form == "none":
            return None
        shared = self.abstract[list_id]
        counters = self.counters.setdefault(shared, [None] * 9)
        if list_id not in self.begun:
            self.begun.add(list_id)
            for at in range(9):
                if (list_id, at) in self.restarts:
                    counters[at] = self.restarts[list_id, at] - 1
        before = counters[depth]
        counters[depth] = level.start if before is None else before + 1
        counters[depth + 1 :] = [None] * (8 - depth)
        numbered = level.form in _NUMBERED
        return shared, depth, numbered, counters[depth] if numbered else None

    def table(self, element: etree._Element) -> Iterator[Piece]:
        rows: list[list[_Cell]] = []
        layout = False
        for row in self._rows(element):
            header = self.on(self.child(row, "trPr", "tblHeader"))
            column = _number(self.get(self.child(row, "trPr", "gridBefore")))
            cells: list[_Cell] = []
            for cell in self._cells(row):
                properties = self.child(cell, "tcPr")
                across = max(1, min(200, _number(self.get(self.child(properties, "gridSpan")), 1)))
                merged = self.child(properties, "vMerge")
                merge = "" if merged is None else self.get(merged) or "continue"
                blocks = assembled(self.pieces(cell), self.told)
                layout = layout or any(part.kind not in SCHEMA.contents["table_cell"].names for part in blocks)
                head = header or self._is_heading_cell(cell)
                node = make("table_header" if head else "table_cell", blocks, colspan=across)
                begun = rows and any(each[0] == column and each[2] for each in rows[-1])
                # A cell that goes on with one that is not there is a cell of its own.
                cells.append((column, node, merge if begun or merge != "continue" else "restart"))
                column += across
            rows.append(cells)
        if layout:
            self.told.mended(
                "A table used for layout became plain paragraphs", "{} tables used for layout became plain paragraphs"
            )
            yield from (part for cells in rows for _, node, _ in cells for part in node.content)
            return
        grid = squared(
            [
                make("table_row", [self._spanned(rows, at, place) for place in cells if place[2] != "continue"])
                for at, cells in enumerate(rows)
            ]
        )
        if any(row.content for row in grid):
            yield make("table", [make("table_grid", grid)])

    def _rows(self, element: etree._Element) -> Iterator[etree._Element]:
        for child in element:
            if local(child) == "tr":
                if self.child(child, "trPr", "del") is None:
                    yield child
                else:
                    self.told.dropped("Words marked as deleted were left out")
            elif local(child) not in _SETTINGS:
                yield from self._rows(child)

    def _cells(self, row: etree._Element) -> Iterator[etree._Element]:
        for child in row:
            if local(child) == "tc":
                yield child
            elif local(child) not in _SETTINGS:
                yield from self._cells(child)

    def _is_heading_cell(self, cell: etree._Element) -> bool:
        names = [
            self.styles.get(self.get(self.child(each, "pPr", "pStyle")), _Style()).name
            for each in cell.findall(f"{self.w}p")
        ]
        return bool(names) and all(name == "table heading" for name in names)

    def _spanned(self, rows: list[list[_Cell]], at: int, place: _Cell) -> Node:
        """A cell that reaches over those below that go on with it; it takes their words along."""
        column, node, merge = place
        down, words = 1, list(node.content)
        while merge and at + down < len(rows):
            below = next((each for each in rows[at + down] if each[0] == column and each[2] == "continue"), None)
            if below is None:
                break
            words += [part for part in below[1].content if text_of(part)]
            down += 1
        return node.with_content(fitted(node.kind, words, self.told.flattened)).with_attrs(rowspan=min(down, 200))

    # Words

    def inline(self, parent: etree._Element, marks: tuple[Mark, ...], base: dict[str, bool], held: _Words) -> None:
        if self.depth >= _DEEPEST * 2:
            words = clean("".join(each.text or "" for each in parent.iter(f"{self.w}t")))
            held.nodes += [Node("text", {}, (), in_order(marks), words)] if words else []
            return
        self.depth += 1
        for child in parent:
            self.among_words(child, local(child), marks, base, held)
        self.depth -= 1

    def among_words(
        self, child: etree._Element, name: str, marks: tuple[Mark, ...], base: dict[str, bool], held: _Words
    ) -> None:
        """What stands among the words of a paragraph."""
        if name == "r":
            self.run(child, marks, base, held)
        elif name == "hyperlink":
            self.inline(child, (*marks, *self.link(child)), base, held)
        elif name in ("del", "moveFrom"):
            self.told.dropped("Words marked as deleted were left out")
        elif name == "fldSimple":
            instruction = self.get(child, "instr")
            self.inline(child, (*marks, *self._field_link(instruction)), base, held)
        elif name in ("oMath", "oMathPara"):
            self.equation(child, marks, held)
        elif name == "AlternateContent":
            chosen = next(iter(child), None)
            if chosen is not None:
                self.inline(chosen, marks, base, held)
        elif name not in _SETTINGS:
            self.inline(child, marks, base, held)

    def run(self, element: etree._Element, marks: tuple[Mark, ...], base: dict[str, bool], held: _Words) -> None:
        properties = self.child(element, "rPr")
        said = base
        if properties is not None:
            style = self.styles.get(self.get(self.child(properties, "rStyle")), _Style())
            vanish = self.child(properties, "vanish")
            if self.on(vanish) or (vanish is None and style.hidden):
                if any(local(each) == "t" for each in element):
                    self.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
                return
            said = {**base, **style.marks, **self.said(properties)}
            if style.name in _CODE:
                said["code"] = True
            own = (read_mark(style.written), self._in_another_language(properties))
            marks = (*marks, *(mark for mark in own if mark is not None))
            if style.name in ("hyperlink", "internet link"):
                said.pop("underline", None)
            if style.name in ("footnote reference", "endnote reference"):
                said.pop("superscript", None)
        if self.fields and self.fields[-1] and len(self.fields[-1]) > 1:
            marks = (*marks, *(link for each in self.fields if len(each) > 1 for link in self._field_link(each[0])))
        linked = any(mark.kind == "link" for mark in marks)
        kinds = [kind for kind, wanted in said.items() if wanted and not (linked and kind == "underline")]
        if kinds or marks:
            marks = in_order({mark.kind: mark for mark in (*marks, *(_PLAIN[kind] for kind in kinds))}.values())
        for child in element:
            self.piece(child, local(child), marks, held)

    def _in_another_language(self, properties: etree._Element) -> Mark | None:
        """The mark of words that are said to be in another language than most. Word processors tell of each word what
        they take it for, so another region of the same language says nothing."""
        code = self.get(self.child(properties, "lang"))
        other = code.split("-")[0].lower() not in ("", "x", "zxx", self.language)
        return Mark("language", {"code": code}) if other and self.language and is_tag(code) else None

    def piece(self, child: etree._Element, name: str, marks: tuple[Mark, ...], held: _Words) -> None:
        if name == "t":
            if self._in_contents() or (self.fields and len(self.fields[-1]) == 1):
                return
            if words := clean((child.text or "").replace("\n", " ")):
                held.nodes.append(Node("text", {}, (), marks, words))
        elif name in ("tab", "ptab"):
            held.nodes.append(Node("text", {}, (), marks, " "))
        elif name == "noBreakHyphen":
            held.nodes.append(Node("text", {}, (), marks, "\u2011"))
        elif name in ("br", "cr"):
            if self.get(child, "type") not in ("page", "column"):
                held.nodes.append(Node("line_break", {}, (), marks))
        elif name == "sym":
            code = self.get(child, "char")
            if re.fullmatch(r"[0-9A-Fa-f]{2,5}", code):
                sign = _SIGNS.get(int(code, 16) & 0xFF, "•") if int(code, 16) >= 0xF000 else chr(int(code, 16))
                held.nodes.append(Node("text", {}, (), marks, clean(sign) or "•"))
        elif name in ("footnoteReference", "endnoteReference"):
            self.note(name.removesuffix("Reference"), self.get(child, "id"), marks, held)
        elif name == "fldChar":
            if child in self.whole_fields:
                self.field(self.get(child, "fldCharType"))
        elif name == "ruby":
            # The reading stands behind its words, as HTML's `rp` would have it.
            for base in child.iterchildren(f"{self.w}rubyBase"):
                self.inline(base, marks, {}, held)
            for above in child.iterchildren(f"{self.w}rt"):
                reading = clean("".join(each.text or "" for each in above.iter(f"{self.w}t"))).strip()
                held.nodes += [Node("text", {}, (), marks, f"({reading})")] if reading else []
        elif name == "instrText":
            if self.fields and len(self.fields[-1]) == 1:
                self.fields[-1][0] += child.text or ""
        elif name in ("drawing", "pict", "object"):
            self.drawing(child, held)
        elif name == "AlternateContent":
            chosen = next(iter(child), None)
            for each in chosen if chosen is not None else ():
                self.piece(each, local(each), marks, held)
        elif name == "delText":
            self.told.dropped("Words marked as deleted were left out")

    def field(self, kind: str) -> None:
        """The begin, middle or end of a field (ECMA-376, part 1, 17.16.18): first its instruction, then its result."""
        if kind == "begin":
            self.fields.append([""])
        elif kind == "separate" and self.fields:
            self.fields[-1].append("shown")
        elif kind == "end" and self.fields:
            ended = self.fields.pop()
            if ended[0].strip().upper().startswith("TOC"):
                self.told.dropped("A table of contents was left out: the Outline makes it")

    def _field_link(self, instruction: str) -> tuple[Mark, ...]:
        match = re.match(r'\s*HYPERLINK\s+(?:"([^"]*)")?(?:.*?\\l\s+"([^"]+)")?', instruction, re.IGNORECASE)
        if not match:
            return ()
        return self._led(match[1] or "", match[2] or "")

    def link(self, element: etree._Element) -> tuple[Mark, ...]:
        identity = element.get(f"{_R}id") or element.get(f"{_R_STRICT}id") or ""
        _, target, _ = self._relations_here().get(identity, ("", "", True))
        led = self._led(target, self.get(element, "anchor"))
        return tuple(self._with_words(mark, element) for mark in led)

    def _with_words(self, link: Mark, element: etree._Element) -> Mark:
        """A link with its title, and with whether it opens a new window."""
        title = self.told.within(clean(" ".join(self.get(element, "tooltip").split())), 200, "title of a link")
        opens = self.get(element, "tgtFrame") == "_blank" and str(link.attrs["href"]).startswith("http")
        return Mark("link", {**link.attrs, "title": title or None, "new_window": opens}) if title or opens else link

    def _relations_here(self) -> dict[str, tuple[str, str, bool]]:
        return self.relations if self.source == self.main else self._relations(self.source)

    def _led(self, target: str, anchor: str) -> tuple[Mark, ...]:
        if not target and anchor in self.known_anchors:
            return (_link(f"#{anchor}"),)
        address = target + (f"#{anchor}" if anchor and target else "")
        address = re.sub(r"\s", "%20", re.sub("^[A-Za-z]+:", lambda scheme: scheme[0].lower(), address.strip()))
        leads = self.arriving.link(address) or (address if parse_reference(address) else None) if address else None
        if leads:
            return (_link(leads),)
        if target or (anchor and not anchor.startswith("_Toc")):
            sentence = f"A link to “{(target or anchor)[:60]}” was left out, its words stay"
            self.told.dropped(sentence, f"{sentence} ({{}} times)")
        return ()

    def note(self, sort: str, identity: str, marks: tuple[Mark, ...], held: _Words) -> None:
        body = self.note_parts[sort].get(identity)
        if body is None:
            return
        if (sort, identity) not in self.anchors:
            self.anchors[sort, identity] = note_anchor(f"{len(self.notes)} {''.join(map(str, body.itertext()))}")
            target = next((each[1] for each in self.relations.values() if each[0] == f"{sort}s"), "")
            self.notes.append((body, self.anchors[sort, identity], joined_path(self.main, target)))
        anchor = self.anchors[sort, identity]
        number = next(at for at, (_, known, _) in enumerate(self.notes, start=1) if known == anchor)
        kept = {mark.kind: mark for mark in marks} | {"link": _link(f"#{anchor}"), "superscript": _PLAIN["superscript"]}
        held.nodes.append(Node("text", {}, (), in_order(kept.values()), str(number)))

    def equation(self, element: etree._Element, marks: tuple[Mark, ...], held: _Words) -> None:
        block = local(element) == "oMathPara"
        for each in element if block else (element,):
            if local(each) != "oMath":
                continue
            latex = latex_of_omml(each)
            if not latex or SCHEMA.nodes["formula"].attributes["latex"].problem(latex):
                words = clean("".join(map(str, each.itertext())))
                held.nodes += [Node("text", {}, (), marks, words)] if words else []
            elif block:
                held.nodes.append(make("equation", latex=latex))
            else:
                held.nodes.append(Node("formula", {"latex": latex}, (), in_order(marks)))

    def drawing(self, element: etree._Element, held: _Words) -> None:
        """A picture, a drawn rule, or a frame with text in it, which then stands behind the paragraph."""
        for box in _outermost(element, "txbxContent"):
            held.behind += list(self.pieces(box))
        for data in _outermost(element, "graphicData"):
            if (data.get("uri") or "").endswith(("/chart", "/diagram", "/chartex")):
                self.told.dropped("A chart or diagram was left out", "{} charts or diagrams were left out")
        if any(each.get("{urn:schemas-microsoft-com:office:office}hr") for each in element.iter()):
            held.nodes.append(make("divider"))
        described = next((each for each in element.iter() if local(each) in ("docPr", "shape")), None)
        alt, decorative = "", False
        if described is not None:
            alt = described.get("descr") or described.get("alt") or ""
            decorative = any(local(each) == "decorative" and each.get("val") == "1" for each in described.iter())
        relations = self._relations_here()
        for each in element.iter():
            if local(each) not in ("blip", "imagedata"):
                continue
            names = [each.get(f"{space}{name}") for space in (_R, _R_STRICT) for name in ("embed", "id", "link")]
            identity = next((name for name in names if name), "")
            _, target, outside = relations.get(identity, ("", "", False))
            if not target:
                continue
            said = self.told.within(clean(" ".join(alt.split())), 1000, "alt text")
            self.picture(target, said, held, outside=outside, decorative=decorative)

    def picture(self, target: str, alt: str, held: _Words, *, outside: bool, decorative: bool) -> None:
        name = target.rsplit("/", 1)[-1]
        if outside:
            number = self.arriving.picture(target, name=name, alt=alt)
        else:
            data = self.package.part(joined_path(self.source, target))
            if data is None:
                self.told.dropped(
                    "A picture that came without its file was left out",
                    "{} pictures that came without their files were left out",
                )
                return
            number = self.arriving.picture(data=data, name=name, alt=alt)
        held.nodes.append(make("picture", item=number, alt=alt or None, decorative=decorative))


_SETTINGS = frozenset(
    """pPr rPr sdtPr sdtEndPr tblPr tblPrEx tblGrid trPr tcPr sectPr customXmlPr smartTagPr dirPr bookmarkStart
    bookmarkEnd commentRangeStart commentRangeEnd proofErr permStart permEnd moveFromRangeStart moveFromRangeEnd
    moveToRangeStart moveToRangeEnd customXmlInsRangeStart customXmlInsRangeEnd customXmlDelRangeStart
    customXmlDelRangeEnd subDoc""".split()
)
"""Elements that hold no words; any other is looked into."""
_TOGGLES = {
    "b": "strong",
    "i": "emphasis",
    "u": "underline",
    "strike": "strike",
    "dstrike": "strike",
}
_PLAIN = {
    kind: Mark(kind) for kind in ("strong", "emphasis", "underline", "strike", "superscript", "subscript", "code")
}
_SIGNS = {0xB7: "•", 0xA7: "▪", 0xFC: "✓", 0xFE: "☑", 0xA8: "☐", 0x6F: "☐", 0xE0: "→", 0xD8: "➢"}
"""Signs of the fonts Symbol and Wingdings that have a character of their own (from memory)."""


def _outermost(element: etree._Element, name: str) -> Iterator[etree._Element]:
    """The elements of a name that stand in no other of it; of alternatives (`mc:AlternateContent`) the first alone."""
    waiting = [element]
    while waiting:
        each = waiting.pop()
        if local(each) == name:
            yield each
        else:
            waiting += [child for child in each if local(child) != "Fallback"][::-1]


def _link(href: str) -> Mark:
    return Mark("link", {"href": href, "title": None, "new_window": False})


def _number(written: str, otherwise: int = 0) -> int:
    return int(written) if re.fullmatch(r"\d{1,6}", written) else otherwise


def _parted(nodes: list[Node]) -> Iterator[Node | list[Node]]:
    """The inline content of a paragraph, parted by the blocks among it: pictures, equations, rules."""
    run: list[Node] = []
    found = False
    for node in nodes:
        if node.kind in ("picture", "equation", "divider"):
            found = True
            if any(each.text.strip() or each.kind == "formula" for each in run):
                yield run
            run = []
            yield node
        else:
            run.append(node)
    if not found or any(each.text.strip() or each.kind == "formula" for each in run):
        yield run
