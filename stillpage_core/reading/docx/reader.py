"""The text of a DOCX file, element by element."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field

from lxml import etree

from ...document.node import Mark, Node, in_order, make
from ...document.schema import SCHEMA
from ...languages import is_tag
from ...references import parse_reference
from ...writing.style_names import PARAGRAPHS, read_call, read_mark, read_picture, read_preformatted, read_region
from ..encoding import text_from
from ..html import html_blocks
from ..html.fragments import note_anchor
from ..listed import Caption, Listed, Piece, Styled, assembled, called, whole_preformatted
from ..mathml import latex_of_omml
from ..package import Package, joined_path, local
from ..reading import Arriving
from ..regions import region, without_regions
from ..text import clean, plain_blocks
from ..word_processors import CAPTIONS, flat_words
from .drawings import drawing
from .fields import Fields, leads_to
from .numbering import Numbering
from .parts import OFF, R_STRICT, SETTINGS, WHAT, Parts, R, number_of
from .styles import Style, language_of, styles_of
from .styles import said as said_by
from .tables import table

STYLES = {
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
_CODE = frozenset({"html code", "source text", "html typewriter", "html keyboard", "html sample", "verbatim char"})
_DEEPEST = 30
_DEEPEST_CHUNK = 20


PLAIN = {kind: Mark(kind) for kind in ("strong", "emphasis", "underline", "strike", "superscript", "subscript", "code")}
_SIGNS = {0xB7: "•", 0xA7: "▪", 0xFC: "✓", 0xFE: "☑", 0xA8: "☐", 0x6F: "☐", 0xE0: "→", 0xD8: "➢"}
"""Signs of the fonts Symbol and Wingdings that have a character of their own (from memory)."""


@dataclass
class Held:
    """What gathers while a paragraph is read: its inline content and the blocks that break it up."""

    nodes: list[Node] = field(default_factory=list)
    behind: list[Piece] = field(default_factory=list)


class Reader:
    """Reads the text of a package, element by element."""

    def __init__(self, package: Package, arriving: Arriving) -> None:
        self.package = package
        self.arriving = arriving
        self.told = arriving.told
        self.parts = parts = Parts(package)
        self.main, self.body, self.w, self.relations = parts.main, parts.body, parts.w, parts.relations
        self.get, self.child, self.on = parts.get, parts.child, parts.on
        self.styles = styles_of(parts)
        self.numbering = Numbering(parts)
        self.note_parts = {
            sort: {self.get(note, "id"): note for note in parts.part(f"{sort}s")} for sort in ("footnote", "endnote")
        }
        self.notes: list[tuple[etree._Element, str, str]] = []
        self.anchors: dict[tuple[str, str], str] = {}
        self.wanted = {self.get(link, "anchor") for link in self.body.iter(f"{self.w}hyperlink")} | set(
            re.findall(r'\\l\s+"([^"]+)"', " ".join(each.text or "" for each in self.body.iter(f"{self.w}instrText")))
        )
        self.places, self.headings, self.moved = self._places()
        self.fields = Fields(
            parts, [self.body, *(note for all_of in self.note_parts.values() for note in all_of.values())], self.told
        )
        self.language = language_of(parts)
        self.source = self.main
        self.depth = 0

    def _places(self) -> tuple[dict[str, str], dict[etree._Element, str], frozenset[str]]:
        """What the bookmarks that something leads to are: by name the anchor of the heading they stand in, or that of
        the section; of each such heading its anchor; and the names of those that stand within a section."""
        places: dict[str, str] = {}
        anchors: dict[etree._Element, str] = {}
        moved: set[str] = set()
        heading: etree._Element | None = None
        for element in self.body.iter(f"{self.w}p", f"{self.w}bookmarkStart"):
            if local(element) == "p":
                heading = element if self._is_heading(element) else heading
                continue
            name = self.get(element, "name")
            if heading is None or name not in self.wanted or name in places:
                continue
            places[name] = anchors.setdefault(heading, name)
            if element.getparent() is not heading:
                moved.add(name)
        return places, anchors, frozenset(moved)

    def _is_heading(self, paragraph: etree._Element) -> bool:
        properties = self.child(paragraph, "pPr")
        style = self.styles.get(self.get(self.child(properties, "pStyle")), Style())
        return style.level is not None or self.child(properties, "outlineLvl") is not None

    def blocks(self) -> list[Node]:
        """The blocks of the body, the notes at the end."""
        self.told.dropped("What stands at the top and foot of its pages was left out", count=self.parts.margins())
        pieces = list(self.pieces(self.body))
        for number, (note, anchor, source) in enumerate(self.notes, start=1):
            self.source = source
            inside = assembled(self.pieces(note), self.told)
            pieces.append(Listed(inside, 0, True, number, "notes", anchor))
        remarks = sum(1 for each in self.parts.part("comments") if local(each) == "comment")
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
                yield from table(self, child)
            elif name == "sdt":
                gallery = self.child(child, "sdtPr", "docPartObj", "docPartGallery")
                if self.get(gallery) == "Table of Contents":
                    self.told.dropped("A table of contents was left out: the Outline makes it")
                    continue
                named = read_region(self.get(self.child(child, "sdtPr", "tag"))) if parent is self.body else None
                for content in child.findall(f"{self.w}sdtContent"):
                    inside = self.pieces(content)
                    yield from region(named, assembled(inside, self.told)) if named else inside
            elif name == "altChunk":
                yield from self.chunk(child)
            elif name == "AlternateContent":
                chosen = next(iter(child), None)
                if chosen is not None:
                    yield from self.pieces(chosen)
            elif name in ("del", "moveFrom"):
                self.told.dropped("Words marked as deleted were left out")
            elif name in ("oMath", "oMathPara", "r", "hyperlink"):
                held = Held()
                self.among_words(child, name, (), {}, held)
                for part in parted(held.nodes):
                    yield part if isinstance(part, Node) else make("paragraph", part)
                yield from held.behind
            elif name not in SETTINGS:
                yield from self.pieces(child)
        self.depth -= 1

    def chunk(self, element: etree._Element) -> Iterator[Piece]:
        """A part of another format that stands in the text (ECMA-376, part 1, 17.17.2.1)."""
        identity = element.get(f"{R}id") or element.get(f"{R_STRICT}id") or ""
        _, target, _ = self._relations_here().get(identity, ("", "", True))
        data = self.package.part(joined_path(self.source, target)) if target else None
        ending = target.rpartition(".")[2].lower()
        if data is not None and ending in ("htm", "html", "xhtml"):
            yield from without_regions(html_blocks(text_from(data), self.arriving)[0])
        elif data is not None and ending == "txt":
            yield from plain_blocks(text_from(data))
        elif data is not None and ending in ("docx", "dotx") and self.depth < _DEEPEST_CHUNK:
            inner = Reader(Package(data, WHAT), self.arriving)
            inner.depth = self.depth + _DEEPEST_CHUNK // 2
            yield from without_regions(inner.blocks())
        else:
            self.told.dropped(
                "A part that is kept in another format was left out",
                "{} parts that are kept in other formats were left out",
            )

    def paragraph(self, element: etree._Element) -> Iterator[Piece]:
        properties = self.child(element, "pPr")
        style = self.styles.get(self.get(self.child(properties, "pStyle")), Style())
        level = style.level
        outline = self.get(self.child(properties, "outlineLvl"))
        if outline.isdigit():
            level = int(outline) + 1 if int(outline) < 9 else None
        held = Held()
        painted = level or style.name == "title" or style.name in CAPTIONS or style.name in STYLES
        plain = {} if painted else style.marks
        in_contents = self.fields.is_contents
        self.inline(element, (), plain, held)
        if (in_contents or self.fields.is_contents) and not held.nodes:
            yield from held.behind
            return
        yield from self._made(element, properties, style, level, held)
        yield from held.behind

    def _made(
        self, element: etree._Element, properties: etree._Element | None, style: Style, level: int | None, held: Held
    ) -> Iterator[Piece]:
        for part in parted(held.nodes):
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
                anchor = self.headings.get(element)
                yield make("heading", part, level=min(6, level), anchor=anchor, align=style.align)
            elif (numbering := self.numbering.item(properties, style)) is not None:
                of, depth, numbered, number = numbering
                item = Listed([words], depth, numbered, number, of)
                yield Styled(style.within, item) if style.within else item
            elif style.name in CAPTIONS:
                yield Caption(words, CAPTIONS[style.name])
            elif style.name.startswith("list continue"):
                depth = number_of(style.name.removeprefix("list continue").strip(), 1) - 1
                item = Listed([words], depth, more=True)
                yield Styled(style.within, item) if style.within else item
            elif (emphasis := read_call(style.written)) is not None:
                yield called(words, emphasis)
            elif style.name == "horizontal line" and not part:
                yield make("divider")
            elif kind := STYLES.get(style.name):
                yield Styled(kind, words)
            else:
                text_style = PARAGRAPHS.get(style.written)
                yield words.with_attrs(style=text_style) if text_style else words

    def inline(self, parent: etree._Element, marks: tuple[Mark, ...], base: dict[str, bool], held: Held) -> None:
        if self.depth >= _DEEPEST * 2:
            words = clean("".join(each.text or "" for each in parent.iter(f"{self.w}t")))
            held.nodes += [Node("text", {}, (), in_order(marks), words)] if words else []
            return
        self.depth += 1
        for child in parent:
            self.among_words(child, local(child), marks, base, held)
        self.depth -= 1

    def among_words(
        self, child: etree._Element, name: str, marks: tuple[Mark, ...], base: dict[str, bool], held: Held
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
        elif name not in SETTINGS:
            self.inline(child, marks, base, held)

    def run(self, element: etree._Element, marks: tuple[Mark, ...], base: dict[str, bool], held: Held) -> None:
        properties = self.child(element, "rPr")
        said = base
        if properties is not None:
            style = self.styles.get(self.get(self.child(properties, "rStyle")), Style())
            vanish = self.child(properties, "vanish")
            if self.on(vanish) or (vanish is None and style.hidden):
                if any(local(each) == "t" for each in element):
                    self.told.dropped("Hidden text was left out", "{} pieces of hidden text were left out")
                return
            said = {**base, **style.marks, **said_by(self.parts, properties)}
            if style.name in _CODE:
                said["code"] = True
            own = (read_mark(style.written), self._in_another_language(properties))
            marks = (*marks, *(mark for mark in own if mark is not None))
            if style.name in ("hyperlink", "internet link"):
                said.pop("underline", None)
            if style.name in ("footnote reference", "endnote reference"):
                said.pop("superscript", None)
        marks = (*marks, *(link for each in self.fields.shown for link in self._field_link(each)))
        linked = any(mark.kind == "link" for mark in marks)
        kinds = [kind for kind, wanted in said.items() if wanted and not (linked and kind == "underline")]
        if kinds or marks:
            marks = in_order({mark.kind: mark for mark in (*marks, *(PLAIN[kind] for kind in kinds))}.values())
        for child in element:
            self.piece(child, local(child), marks, held)
            if local(child).endswith("noteReference") and self.get(child, "customMarkFollows") not in ("", *OFF):
                break  # What follows is the sign that somebody typed for the note; here notes are numbered.

    def _in_another_language(self, properties: etree._Element) -> Mark | None:
        """The mark of words that are said to be in another language than most. Word processors tell of each word what
        they take it for, so another region of the same language says nothing."""
        code = self.get(self.child(properties, "lang"))
        other = code.split("-")[0].lower() not in ("", "x", "zxx", self.language)
        return Mark("language", {"code": code}) if other and self.language and is_tag(code) else None

    def piece(self, child: etree._Element, name: str, marks: tuple[Mark, ...], held: Held) -> None:
        if name == "t":
            if self.fields.is_contents or self.fields.is_instruction:
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
            if child in self.fields.whole:
                self.fields.mark(self.get(child, "fldCharType"))
        elif name == "ruby":
            # The reading stands behind its words, as HTML's `rp` would have it.
            for base in child.iterchildren(f"{self.w}rubyBase"):
                self.inline(base, marks, {}, held)
            for above in child.iterchildren(f"{self.w}rt"):
                reading = clean("".join(each.text or "" for each in above.iter(f"{self.w}t"))).strip()
                held.nodes += [Node("text", {}, (), marks, f"({reading})")] if reading else []
        elif name == "instrText":
            if self.fields.is_instruction:
                self.fields.open[-1][0] += child.text or ""
        elif name in ("drawing", "pict", "object"):
            drawing(self, child, marks, held)
        elif name == "AlternateContent":
            chosen = next(iter(child), None)
            for each in chosen if chosen is not None else ():
                self.piece(each, local(each), marks, held)
        elif name == "delText":
            self.told.dropped("Words marked as deleted were left out")

    def _field_link(self, instruction: str) -> tuple[Mark, ...]:
        leads = leads_to(instruction)
        return self._led(*leads) if leads else ()

    def link(self, element: etree._Element) -> tuple[Mark, ...]:
        identity = element.get(f"{R}id") or element.get(f"{R_STRICT}id") or ""
        _, target, _ = self._relations_here().get(identity, ("", "", True))
        led = self._led(target, self.get(element, "anchor"))
        return tuple(self._with_words(mark, element) for mark in led)

    def _with_words(self, link: Mark, element: etree._Element) -> Mark:
        """A link with its title, and with whether it opens a new window."""
        title = self.told.within(clean(" ".join(self.get(element, "tooltip").split())), 200, "title of a link")
        opens = self.get(element, "tgtFrame") == "_blank" and str(link.attrs["href"]).startswith("http")
        return Mark("link", {**link.attrs, "title": title or None, "new_window": opens}) if title or opens else link

    def _relations_here(self) -> dict[str, tuple[str, str, bool]]:
        return self.relations if self.source == self.main else self.parts.relations_of(self.source)

    def _led(self, target: str, anchor: str) -> tuple[Mark, ...]:
        if not target and anchor in self.places:
            self.told.place(moved=anchor in self.moved)
            return (link_to(f"#{self.places[anchor]}"),)
        address = target + (f"#{anchor}" if anchor and target else "")
        address = re.sub(r"\s", "%20", re.sub("^[A-Za-z]+:", lambda scheme: scheme[0].lower(), address.strip()))
        leads = self.arriving.link(address) or (address if parse_reference(address) else None) if address else None
        if leads:
            return (link_to(leads),)
        if target or (anchor and not anchor.startswith("_Toc")):
            self.told.link(target or anchor)
        return ()

    def note(self, sort: str, identity: str, marks: tuple[Mark, ...], held: Held) -> None:
        body = self.note_parts[sort].get(identity)
        if body is None:
            return
        if (sort, identity) not in self.anchors:
            self.anchors[sort, identity] = note_anchor(f"{len(self.notes)} {''.join(map(str, body.itertext()))}")
            target = next((each[1] for each in self.relations.values() if each[0] == f"{sort}s"), "")
            self.notes.append((body, self.anchors[sort, identity], joined_path(self.main, target)))
        anchor = self.anchors[sort, identity]
        number = next(at for at, (_, known, _) in enumerate(self.notes, start=1) if known == anchor)
        kept = {mark.kind: mark for mark in marks} | {
            "link": link_to(f"#{anchor}"),
            "superscript": PLAIN["superscript"],
        }
        held.nodes.append(Node("text", {}, (), in_order(kept.values()), str(number)))

    def equation(self, element: etree._Element, marks: tuple[Mark, ...], held: Held) -> None:
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


def link_to(href: str) -> Mark:
    return Mark("link", {"href": href, "title": None, "new_window": False})


def parted(nodes: list[Node]) -> Iterator[Node | list[Node]]:
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
