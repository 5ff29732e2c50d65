"""ODT (OpenDocument 1.3, part 3) → document."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field

from lxml import etree

from ..document.node import Mark, Node, in_order, make
from ..document.schema import SCHEMA
from ..document.tables import squared
from ..errors import ReadingError
from ..languages import is_tag
from ..references import parse_reference
from ..writing.style_names import (
    PARAGRAPHS,
    read_call,
    read_mark,
    read_picture,
    read_preformatted,
    read_region,
    read_variant,
)
from .html.fragments import note_anchor
from .listed import Caption, Listed, Piece, Styled, assembled, called, whole_preformatted
from .mathml import latex_of_mathml
from .mending import mended
from .package import Package, joined_path, local
from .reading import Arriving, Reading, has_words
from .regions import region
from .text import clean
from .titles import lowered, titled
from .word_processors import CAPTIONS, flat_words

_WHAT = "OpenDocument text (ODT)"
_NS = "urn:oasis:names:tc:opendocument:xmlns"
_TEXT, _STYLE, _TABLE = f"{{{_NS}:text:1.0}}", f"{{{_NS}:style:1.0}}", f"{{{_NS}:table:1.0}}"
_OFFICE = f"{{{_NS}:office:1.0}}"
_FO = f"{{{_NS}:xsl-fo-compatible:1.0}}"
_LINK = "{http://www.w3.org/1999/xlink}"
_STYLES = {
    "quotations": "quotation",
    "quotation": "quotation",
    "quote": "quotation",
    "intense quote": "quotation",
    "preformatted text": "preformatted",
    "source code": "preformatted",
    "aside": "aside",
}
_SKIPPED = frozenset(
    """tracked-changes sequence-decls forms variable-decls user-field-decls dde-connection-decls
    alphabetical-index-auto-mark-file change change-start change-end soft-page-break bookmark bookmark-start
    bookmark-end annotation-end note-citation index-title-template toc-mark toc-mark-start toc-mark-end
    alphabetical-index-mark alphabetical-index-mark-start alphabetical-index-mark-end user-index-mark
    user-index-mark-start user-index-mark-end event-listeners script covered-table-cell""".split()
)
_SHAPES = frozenset(
    "frame custom-shape rect circle ellipse line polyline polygon regular-polygon path connector caption measure g a "
    "page-thumbnail control".split()
)
_CONTENTS = frozenset("table-of-content alphabetical-index illustration-index table-index".split())
_MOST_REPEATED = 1000
_DEEPEST = 60


def read_odt(data: bytes, arriving: Arriving | None = None, *, under: int = 1) -> Reading:
    """Read an ODT file. ``under`` as in `mending.mended`.

    Raises:
        ReadingError: when it is none, is damaged, locked, or made to do harm.
    """
    arriving = arriving or Arriving()
    package = Package(data, _WHAT)
    if any(
        name.startswith(("Basic/", "Scripts/")) and name.endswith((".xml", ".py", ".bsh")) for name in package.names
    ):
        raise ReadingError("This OpenDocument text holds macros, which are programs. Save it without them.")
    manifest = package.xml("META-INF/manifest.xml")
    if manifest is not None and any(local(each) == "encryption-data" for each in manifest.iter()):
        raise ReadingError(f"This {_WHAT} is locked with a password. Take it off and save the file anew.")
    content = package.xml("content.xml")
    body = content.find(f"{_OFFICE}body/{_OFFICE}text") if content is not None else None
    if content is None or body is None:
        raise ReadingError(f"This is no {_WHAT}: it has no text. Choose another file, or save it anew.")
    reader = _Reader(package, arriving, content, body)
    blocks = titled(reader.blocks(), arriving)
    came = mended(lowered(blocks, arriving), arriving.told, under)
    return arriving.finished(came, lambda: any(map(has_words, body.itertext())))


@dataclass
class _Style:
    """A style with what it and its parents say. ``names`` are its own name and theirs, in small letters; ``written``
    are the same as they are written."""

    names: tuple[str, ...] = ()
    marks: dict[str, bool] = field(default_factory=dict)
    hidden: bool = False
    level: int | None = None
    list_style: str = ""
    written: tuple[str, ...] = ()
    language: str = ""
    within: str = ""
    align: str | None = None


@dataclass
class _Held:
    """What gathers while a paragraph is read: its inline content, and the blocks that stand behind it."""

    nodes: list[Node] = field(default_factory=list)
    behind: list[Piece] = field(default_factory=list)


class _Reader:
    def __init__(self, package: Package, arriving: Arriving, content: etree._Element, body: etree._Element) -> None:
        self.package = package
        self.arriving = arriving
        self.told = arriving.told
        self.body = body
        sources = [content, package.xml("styles.xml")]
        self.raw: dict[tuple[str, str], etree._Element] = {}
        self.list_styles: dict[str, dict[int, tuple[bool, int]]] = {}
        for source in sources[::-1]:
            for each in source.iter() if source is not None else ():
                if local(each) == "style":
                    self.raw[each.get(f"{_STYLE}family") or "", each.get(f"{_STYLE}name") or ""] = each
                elif local(each) == "list-style":
                    self.list_styles[each.get(f"{_STYLE}name") or ""] = _levels(each)
        self.styles: dict[tuple[str, str], _Style] = {}
        self.language = self._language(sources[1])
        self.wanted = {
            (each.get(f"{_LINK}href") or "")[1:]
            for each in body.iter(f"{_TEXT}a")
            if (each.get(f"{_LINK}href") or "").startswith("#")
        }
        self.places, self.headings, self.moved = self._places()
        self.notes: list[tuple[etree._Element, str]] = []
        self.numbers: dict[str, int] = {}
        self.depth = 0

    def style(self, family: str, name: str, depth: int = 0) -> _Style:
        key = (family, name)
        if key in self.styles or key not in self.raw or depth > 30:
            return self.styles.get(key, _Style((_shown(name),)))
        element = self.raw[key]
        parent = element.get(f"{_STYLE}parent-style-name")
        base = self.style(family, parent, depth + 1) if parent else _Style()
        written, within, align = read_variant(element.get(f"{_STYLE}display-name") or name)
        style = _Style((_shown(written), *base.names), dict(base.marks), base.hidden, base.level, base.list_style)
        style.written = (written, *base.written)
        style.within, style.align = within or base.within, align or base.align
        for each in element:
            if local(each) == "text-properties":
                style.marks |= _said(each)
                style.language = _language_of(each)
                style.hidden = style.hidden or each.get(f"{_TEXT}display") == "none"
        outline = element.get(f"{_STYLE}default-outline-level") or ""
        style.level = int(outline) if outline.isdigit() and outline != "0" else style.level
        style.list_style = element.get(f"{_STYLE}list-style-name") or style.list_style
        self.styles[key] = style
        return style

    @staticmethod
    def _language(styles: etree._Element | None) -> str:
        """The language of the text where it says nothing else, without its region; "" where none is said."""
        for default in styles.iter(f"{_STYLE}default-style") if styles is not None else ():
            if default.get(f"{_STYLE}family") == "paragraph":
                for each in default.iterchildren(f"{_STYLE}text-properties"):
                    return _language_of(each).split("-")[0]
        return ""

    def _own_marks(self, style: _Style) -> tuple[Mark, ...]:
        """What a style of words says besides: a mark of ours, another language."""
        code = style.language
        other = self.language and code.split("-")[0] not in ("", self.language) and is_tag(code)
        own = (*map(read_mark, style.written), Mark("language", {"code": code}) if other else None)
        return tuple(mark for mark in own if mark is not None)

    def _places(self) -> tuple[dict[str, str], dict[etree._Element, str], frozenset[str]]:
        """What links within the text lead to: by name the anchor of a heading, which has that bookmark or those words,
        or in whose section the bookmark stands; of each such heading its anchor; the names of those in a section."""
        places: dict[str, str] = {}
        anchors: dict[etree._Element, str] = {}
        moved: set[str] = set()
        heading: etree._Element | None = None
        for element in self.body.iter(f"{_TEXT}h", f"{_TEXT}bookmark", f"{_TEXT}bookmark-start"):
            if local(element) == "h":
                heading = element
                name = "".join(map(str, element.itertext())) + "|outline"
            else:
                name = element.get(f"{_TEXT}name") or ""
            if heading is None or name not in self.wanted or name in places:
                continue
            anchor = re.sub(r"[^\w.-]+", "-", name.removesuffix("|outline"))[:100].strip("-") or "section"
            places[name] = anchors.setdefault(heading, anchor)
            if element is not heading and all(each is not heading for each in element.iterancestors()):
                moved.add(name)
        return places, anchors, frozenset(moved)

    # Blocks

    def blocks(self) -> list[Node]:
        """The blocks of the body, the notes at the end."""
        deleted = self.body.iter(f"{_TEXT}deletion")
        if any(has_words(words) for each in deleted for words in each.itertext()):
            self.told.dropped("Words marked as deleted were left out")
        self.told.dropped("What stands at the top and foot of its pages was left out", count=self._margins())
        pieces = list(self.pieces(self.body))
        for number, (note, anchor) in enumerate(self.notes, start=1):
            pieces.append(Listed(assembled(self.pieces(note), self.told), 0, True, number, "notes", anchor))
        return assembled(pieces, self.told)

    def _margins(self) -> int:
        """Whether pages have a header or footer with words in it."""
        styles = self.package.xml("styles.xml")
        names = ("header", "footer", "header-left", "footer-left", "header-first", "footer-first")
        margins = (each for each in (styles.iter() if styles is not None else ()) if local(each) in names)
        return int(any(each.tag.startswith(_STYLE) and any(map(has_words, each.itertext())) for each in margins))

    def pieces(self, parent: etree._Element) -> Iterator[Piece]:
        if self.depth >= _DEEPEST:
            yield from flat_words(parent, self.told)
            return
        self.depth += 1
        for child in parent:
            yield from self.block(child)
        self.depth -= 1

    def block(self, element: etree._Element) -> Iterator[Piece]:
        name = local(element)
        if name in ("p", "h"):
            yield from self.paragraph(element, name)
        elif name == "list":
            yield from self.list(element, element.get(f"{_TEXT}style-name") or "", 0)
        elif name == "table":
            yield from self.table(element)
        elif name in _CONTENTS:
            self.told.dropped("A table of contents was left out: the Outline makes it")
        elif name in ("section", "index-body", "numbered-paragraph", "bibliography"):
            if element.get(f"{_TEXT}display") == "none":
                self.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
            else:
                inside = self.pieces(element)
                named = read_region(element.get(f"{_TEXT}name")) if element.getparent() is self.body else None
                yield from region(named, assembled(inside, self.told)) if named else inside
        elif name in _SHAPES:
            held = _Held()
            self.frame(element, held)
            for part in _parted(held.nodes):
                yield part if isinstance(part, Node) else make("paragraph", part)
            yield from held.behind
        elif name not in _SKIPPED:
            yield from self.pieces(element)

    def paragraph(self, element: etree._Element, tag: str) -> Iterator[Piece]:
        style = self.style("paragraph", element.get(f"{_TEXT}style-name") or "")
        if style.hidden:
            self.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
            return
        level = style.level if tag == "p" else None
        if tag == "h":
            written = element.get(f"{_TEXT}outline-level") or "1"
            level = min(6, max(1, int(written))) if written.isdigit() else 1
        is_title = "title" in style.names
        caption_of = next((CAPTIONS[name] for name in style.names if name in CAPTIONS), None)
        flat = next((_STYLES[name] for name in style.names if name in _STYLES), None)
        painted = level or is_title or flat not in (None, "aside") or caption_of is not None
        held = _Held()
        self.inline(element, (), {} if painted else style.marks, held)
        for part in _parted(held.nodes):
            if isinstance(part, Node):
                said = (read_picture(name) for name in style.written) if part.kind == "picture" else ()
                standing = next(filter(None, said), {})
                yield part.with_attrs(**standing) if standing else part
                continue
            words = make("paragraph", part, align=style.align)
            if whole := next(filter(None, map(read_preformatted, style.written)), None):
                yield whole_preformatted(words, *whole)
            elif is_title:
                yield make("heading", part, level=0)
            elif level:
                anchor = self.headings.get(element)
                yield make("heading", part, level=min(6, level), anchor=anchor, align=style.align)
            elif caption_of is not None:
                yield Caption(words, caption_of)
            elif (emphasis := next(filter(None, map(read_call, style.written)), None)) is not None:
                yield called(words, emphasis)
            elif "horizontal line" in style.names and not part:
                yield make("divider")
            elif flat:
                yield Styled(flat, words)
            else:
                text_style = next((PARAGRAPHS[name] for name in style.written if name in PARAGRAPHS), None)
                yield words.with_attrs(style=text_style) if text_style else words
        yield from held.behind

    def list(self, element: etree._Element, style: str, level: int) -> Iterator[Piece]:
        """The items of a list, one after another, each with its level."""
        numbered, start = self._level(style, level)
        goes_on = element.get(f"{_TEXT}continue-numbering") == "true" or element.get(f"{_TEXT}continue-list")
        key = f"{style} {level}"
        number = self.numbers.get(key, start - 1) if goes_on else start - 1
        for item in element:
            if local(item) not in ("list-item", "list-header"):
                continue
            written = item.get(f"{_TEXT}start-value") or ""
            number = int(written) if written.isdigit() else number + 1
            inside: list[Node] = []
            pending: Listed | None = None
            heading = False
            within = self._within(item)
            for child in item:
                if local(child) == "list":
                    if pending:
                        yield Styled(within, pending) if within else pending
                    pending = None
                    yield from self.list(child, child.get(f"{_TEXT}style-name") or style, level + 1)
                    continue
                inside = assembled(self.block(child), self.told)
                if level == 0 and len(item) == 1 and inside and inside[0].kind == "heading":
                    heading = True
                    yield from inside
                elif pending:
                    pending.blocks += inside
                else:
                    pending = Listed(inside, level, numbered, number if numbered else None, style or "list")
            if pending and not heading:
                yield Styled(within, pending) if within else pending
        self.numbers[key] = number

    def _within(self, item: etree._Element) -> str:
        """What a list is a part of, as the style of its items' words tells; "" for nothing."""
        first = next((child for child in item if local(child) == "p"), None)
        return "" if first is None else self.style("paragraph", first.get(f"{_TEXT}style-name") or "").within

    def _level(self, style: str, level: int) -> tuple[bool, int]:
        return self.list_styles.get(style, {}).get(level, (False, 1))

    def table(self, element: etree._Element) -> Iterator[Piece]:
        rows: list[Node] = []
        layout = False
        for row, header in self._rows(element, header=False):
            cells: list[Node] = []
            for cell in row:
                if local(cell) == "covered-table-cell" and any(map(has_words, cell.itertext())):
                    self.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
                if local(cell) != "table-cell":
                    continue
                blocks = assembled(self.pieces(cell), self.told)
                layout = layout or any(part.kind not in SCHEMA.contents["table_cell"].names for part in blocks)
                heading = header or self._is_heading_cell(cell)
                spans = {
                    "colspan": _count(cell.get(f"{_TABLE}number-columns-spanned")),
                    "rowspan": _count(cell.get(f"{_TABLE}number-rows-spanned")),
                }
                made = make("table_header" if heading else "table_cell", blocks, **spans)
                cells += [made] * _count(cell.get(f"{_TABLE}number-columns-repeated"))
            rows.append(make("table_row", cells))
        if layout:
            self.told.mended(
                "A table used for layout became plain paragraphs", "{} tables used for layout became plain paragraphs"
            )
            yield from (part for row in rows for cell in row.content for part in cell.content)
            return
        rows = squared(
            [
                row.with_content(cell.with_content(cell.content or [make("paragraph")]) for cell in row.content)
                for row in rows
            ]
        )
        if any(row.content for row in rows):
            yield make("table", [make("table_grid", rows)])

    def _rows(self, element: etree._Element, *, header: bool) -> Iterator[tuple[etree._Element, bool]]:
        for child in element:
            name = local(child)
            if name == "table-row":
                for _ in range(min(_MOST_REPEATED, _count(child.get(f"{_TABLE}number-rows-repeated")))):
                    yield child, header
            elif name in ("table-header-rows", "table-rows", "table-row-group"):
                yield from self._rows(child, header=header or name == "table-header-rows")

    def _is_heading_cell(self, cell: etree._Element) -> bool:
        names = [
            self.style("paragraph", each.get(f"{_TEXT}style-name") or "").names for each in cell if local(each) == "p"
        ]
        return bool(names) and all("table heading" in each for each in names)

    # Words

    def inline(
        self,
        element: etree._Element,
        marks: tuple[Mark, ...],
        said: dict[str, bool],
        held: _Held,
    ) -> None:
        if self.depth >= _DEEPEST:
            self.words("".join(map(str, element.itertext())), marks, said, held)
            return
        self.words(element.text, marks, said, held)
        self.depth += 1
        for child in element:
            self.piece(child, local(child), marks, said, held)
            self.words(child.tail, marks, said, held)
        self.depth -= 1

    def piece(
        self,
        child: etree._Element,
        name: str,
        marks: tuple[Mark, ...],
        said: dict[str, bool],
        held: _Held,
    ) -> None:
        if name == "span":
            style = self.style("text", child.get(f"{_TEXT}style-name") or "")
            if style.hidden:
                self.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
                return
            more = dict(style.marks)
            if "source text" in style.names or "teletype" in style.names:
                more["code"] = True
            if "footnote characters" in style.names or "footnote anchor" in style.names:
                more = {}
            self.inline(child, (*marks, *self._own_marks(style)), {**said, **more}, held)
        elif name == "a":
            self.inline(child, (*marks, *self.link(child)), said, held)
        elif name == "s":
            count = child.get(f"{_TEXT}c") or "1"
            self.words(" " * min(200, int(count) if count.isdigit() else 1), marks, said, held, collapse=False)
        elif name == "tab":
            self.words(" ", marks, said, held)
        elif name == "line-break":
            held.nodes.append(make("line_break"))
        elif name == "note":
            self.note(child, marks, held)
        elif name in _SHAPES:
            self.frame(child, held, marks)
        elif name == "annotation":
            self.told.dropped("A remark in the margin was left out", "{} remarks in the margin were left out")
        elif name == "hidden-text" or (name == "hidden-paragraph" and child.get(f"{_TEXT}is-hidden") == "true"):
            self.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
        elif name == "ruby-text":
            # The reading stands behind its words, as HTML's `rp` would have it.
            self.words(f"({''.join(map(str, child.itertext())).strip()})", marks, said, held)
        elif name in _SKIPPED:
            return
        else:
            self.inline(child, marks, said, held)

    def words(
        self,
        text: str | None,
        marks: tuple[Mark, ...],
        said: dict[str, bool],
        held: _Held,
        *,
        collapse: bool = True,
    ) -> None:
        """White space as in OpenDocument 1.3, part 3, 6.1.2: a run of it is one space."""
        if not text:
            return
        words = clean(re.sub(r"[ \t\r\n]+", " ", text) if collapse else text)
        last = held.nodes[-1] if held.nodes else None
        at_start = last is None or last.kind not in ("text", "formula")
        if collapse and words.startswith(" ") and (at_start or (last is not None and last.text.endswith(" "))):
            words = words[1:]
        if words:
            linked = any(mark.kind == "link" for mark in marks)
            kinds = [kind for kind, wanted in said.items() if wanted and not (linked and kind == "underline")]
            all_marks = {mark.kind: mark for mark in (*marks, *(Mark(kind) for kind in kinds))}
            held.nodes.append(Node("text", {}, (), in_order(all_marks.values()), words))

    def link(self, element: etree._Element) -> tuple[Mark, ...]:
        href = element.get(f"{_LINK}href") or ""
        address = re.sub(r"\s", "%20", re.sub("^[A-Za-z]+:", lambda scheme: scheme[0].lower(), href.strip()))
        if href.startswith("#"):
            anchor = self.places.get(href[1:])
            self.told.place(moved=href[1:] in self.moved)
            leads = f"#{anchor}" if anchor else None
        else:
            leads = self.arriving.link(address) or (address if parse_reference(address) else None)
        if leads:
            title = clean(" ".join((element.get(f"{_OFFICE}title") or "").split()))
            title = self.told.within(title, 200, "title of a link")
            opens = element.get(f"{_OFFICE}target-frame-name") == "_blank" and leads.startswith("http")
            return (Mark("link", {"href": leads, "title": title or None, "new_window": opens}),)
        if href:
            self.told.link(href)
        return ()

    def note(self, element: etree._Element, marks: tuple[Mark, ...], held: _Held) -> None:
        body = next((each for each in element if local(each) == "note-body"), None)
        if body is None:
            return
        anchor = note_anchor(f"{len(self.notes)} {''.join(map(str, body.itertext()))}")
        self.notes.append((body, anchor))
        link = Mark("link", {"href": f"#{anchor}", "title": None, "new_window": False})
        kept = {mark.kind: mark for mark in (*marks, link, Mark("superscript"))}
        held.nodes.append(Node("text", {}, (), in_order(kept.values()), str(len(self.notes))))

    def frame(self, element: etree._Element, held: _Held, marks: tuple[Mark, ...] = ()) -> None:
        """A frame: a picture, an equation, or a box with text, which is the picture's caption where it holds one."""
        described = {
            local(each): "".join(map(str, each.itertext())) for each in element if local(each) in ("title", "desc")
        }
        alt = clean(" ".join((described.get("desc") or described.get("title") or "").split()))
        alt = self.told.within(alt, 1000, "alt text")
        if local(element) == "a":
            marks = (*marks, Mark("link"))
        decorative = any(str(key).endswith("}decorative") and value == "true" for key, value in element.attrib.items())
        for child in element:
            name = local(child)
            if name == "image":
                if any(local(each) == "object" for each in element):
                    continue
                self.told.picture(marks)
                self.picture(child.get(f"{_LINK}href") or "", alt, held, decorative=decorative)
                return
            if name == "object":
                self.equation(child, element, held)
                return
            if name == "text-box":
                inside = assembled(self.pieces(child), self.told)
                if len(inside) == 1 and inside[0].kind == "picture":
                    held.nodes += inside
                else:
                    held.behind += inside
                return
            if name in ("p", "h", "list"):
                held.behind += list(self.block(child))
            elif name in _SHAPES:
                self.frame(child, held, marks)

    def equation(self, child: etree._Element, frame: etree._Element, held: _Held) -> None:
        href = (child.get(f"{_LINK}href") or "").removeprefix("./")
        root = child[0] if len(child) else self.package.xml(joined_path("", f"{href}/content.xml")) if href else None
        latex = latex_of_mathml(root) if root is not None and local(root) == "math" else ""
        if not latex or SCHEMA.nodes["formula"].attributes["latex"].problem(latex):
            self.told.dropped("An embedded object was left out", "{} embedded objects were left out")
            return
        held.nodes.append(Node("formula", {"latex": latex}))

    def picture(self, href: str, alt: str, held: _Held, *, decorative: bool) -> None:
        name = href.rsplit("/", 1)[-1]
        if re.match(r"[a-z]+://", href):
            number = self.arriving.picture(href, name=name, alt=alt)
        else:
            data = self.package.part(joined_path("", href.removeprefix("./"))) if href else None
            if data is None:
                self.told.without_file(alt)
                return
            number = self.arriving.picture(data=data, name=name, alt=alt)
        held.nodes.append(make("picture", item=number, alt=alt or None, decorative=decorative))


def _shown(name: str) -> str:
    """The name of a style as it is shown, in lower case: ``Text_20_body`` is “text body”."""
    return re.sub("_([0-9a-f]{2})_", lambda match: chr(int(match[1], 16)), name).lower()


def _said(properties: etree._Element) -> dict[str, bool]:
    """Which marks the properties of a text set or take off."""
    marks: dict[str, bool] = {}
    if weight := properties.get(f"{_FO}font-weight"):
        marks["strong"] = weight == "bold" or (weight.isdigit() and int(weight) >= 600)
    if slant := properties.get(f"{_FO}font-style"):
        marks["emphasis"] = slant in ("italic", "oblique")
    if line := properties.get(f"{_STYLE}text-underline-style"):
        marks["underline"] = line != "none"
    if struck := properties.get(f"{_STYLE}text-line-through-style"):
        marks["strike"] = struck != "none"
    if position := properties.get(f"{_STYLE}text-position"):
        place = position.split()[0]
        marks["superscript"] = place == "super" or (place[:1].isdigit() and not place.startswith("0"))
        marks["subscript"] = place == "sub" or place.startswith("-")
    return marks


def _language_of(properties: etree._Element) -> str:
    """The language that a style says words are in, as a tag (BCP 47); "" for none."""
    language = (properties.get(f"{_FO}language") or "").lower()
    country = (properties.get(f"{_FO}country") or "").upper()
    if language in ("", "none", "zxx"):
        return ""
    return f"{language}-{country}" if re.fullmatch("[A-Z]{2}", country) else language


def _levels(style: etree._Element) -> dict[int, tuple[bool, int]]:
    """Of a list style, each level: whether it is numbered, and from where."""
    levels: dict[int, tuple[bool, int]] = {}
    for each in style:
        written = each.get(f"{_TEXT}level") or ""
        if written.isdigit():
            numbered = local(each) == "list-level-style-number" and bool(each.get(f"{_STYLE}num-format"))
            start = each.get(f"{_TEXT}start-value") or "1"
            levels[int(written) - 1] = (numbered, int(start) if start.isdigit() else 1)
    return levels


def _count(written: str | None) -> int:
    return min(200, max(1, int(written))) if written and re.fullmatch(r"\d{1,6}", written) else 1


def _parted(nodes: list[Node]) -> Iterator[Node | list[Node]]:
    """The inline content of a paragraph, parted by the pictures in it. A formula alone is an equation."""
    if len(nodes) == 1 and nodes[0].kind == "formula":
        yield make("equation", latex=nodes[0].attrs["latex"])
        return
    run: list[Node] = []
    pictures = [node for node in nodes if node.kind == "picture"]
    for node in nodes:
        if node.kind == "picture":
            if any(each.text.strip() or each.kind == "formula" for each in run):
                yield run
            run = []
            yield node
        else:
            run.append(node)
    if not pictures or any(each.text.strip() or each.kind == "formula" for each in run):
        yield run
