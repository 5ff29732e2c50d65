"""Document → DOCX (ECMA-376, WordprocessingML).

Headings, lists, tables, links, alt texts, captions, footnotes and equations are real ones; what a word processor has
no way to say (tones, text styles, asides) stands as words and paragraphs of a style of that name.
"""

from __future__ import annotations

import zipfile
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import partial
from html import escape
from io import BytesIO

from ..document.node import Node
from ..document.schema import MAIN
from ..document.tables import grid_of
from ..kinds.ways import ways_of
from .anchors import places_of
from .carrying import Carried, PictureFile, alt_of, cover_node, film_words, marks_by_kind, notes_of
from .style_names import of_marks, of_picture, of_preformatted, of_region, of_variant
from .text import Writer as Text

_EMU = 9525
"""English Metric Units in a pixel of 1/96 inch."""
_WIDEST = 604
"""The widest a picture stands, in pixels: the text of an A4 page."""
_XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'
_OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006"
_PACKAGE = "http://schemas.openxmlformats.org/package/2006"
_NAMESPACES = (
    'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" '
    f'xmlns:r="{_OFFICE}/relationships" xmlns:m="{_OFFICE}/math" '
    'xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" '
    'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" '
    'xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture"'
)
_TYPES = "application/vnd.openxmlformats-officedocument.wordprocessingml"
_RUN = {
    "strong": "<w:b/>",
    "emphasis": "<w:i/>",
    "strike": "<w:strike/>",
    "underline": '<w:u w:val="single"/>',
    "superscript": '<w:vertAlign w:val="superscript"/>',
    "subscript": '<w:vertAlign w:val="subscript"/>',
}
_ALIGN = {"centre": "center", "end": "end"}


def docx(document: Node, carried: Carried) -> bytes:
    """The page as a DOCX file, its title first. Pictures that ``carried`` has no bytes of are left out, their alt
    texts and captions stay."""
    return Writer(document, carried).package()


_NAMES = {"": "Text", "ListParagraph": "List Paragraph", "TableHeading": "Table Heading", "SmallPrint": "Small print"}
_NAMES |= {f"Heading{level}": f"heading {level}" for level in range(1, 6)}
_NAMES |= {f"ListContinue{level or ''}": f"List Continue {level}".rstrip(" 0") for level in (0, 2, 3, 4, 5)}
_NAMES |= {"FootnoteText": "footnote text"}
"""The names of styles that are not their identities."""


@dataclass(frozen=True)
class _OwnStyle:
    """A style that one text alone has: its identity, the style that it is based on, and what it says besides."""

    identity: str
    base: str
    inside: str


class _Part:
    """A part with relations of its own: the text, or the notes."""

    def __init__(self) -> None:
        self.relations: list[tuple[str, str, bool]] = []

    def relate(self, kind: str, target: str, *, outside: bool = False) -> str:
        entry = (f"{_OFFICE}/relationships/{kind}", target, outside)
        if entry not in self.relations:
            self.relations.append(entry)
        return f"rId{self.relations.index(entry) + 1}"

    def xml(self) -> str:
        relations = "".join(
            f'<Relationship Id="rId{number}" Type="{kind}" Target="{escape(target)}"'
            + (' TargetMode="External"/>' if outside else "/>")
            for number, (kind, target, outside) in enumerate(self.relations, start=1)
        )
        return f'{_XML}<Relationships xmlns="{_PACKAGE}/relationships">{relations}</Relationships>'


class Writer:
    """Writes what is within for whatever has a way of its own (`kinds.ways`)."""

    def __init__(self, document: Node, carried: Carried) -> None:
        self.document = document
        self.carried = carried
        self.notes = notes_of(document)
        self.part = self.text = _Part()
        self.note_part = _Part()
        self.lists: list[tuple[bool, int, int]] = []
        self.pictures: dict[int, PictureFile] = {}
        self.drawn = 0
        self.bookmarks = 0
        self.own_styles: dict[tuple[str, str], _OwnStyle] = {}
        self.anchor: str | None = None
        self.anchors = places_of(document)

    def region(self, index: int, region: Node) -> str:
        """The blocks of a region; around those of another than main stands a content control with its name."""
        inside = ""
        for place, block in enumerate(region.content):
            if (index, place) in self.notes.lists:
                continue
            self.anchor = block.attrs.get("anchor") or self.anchors.get((index, place))
            inside += self.block(block)
        name = region.attrs["name"]
        if name == MAIN or not inside:
            return inside
        tag = f'<w:sdtPr><w:alias w:val="{name}"/><w:tag w:val="{of_region(name)}"/></w:sdtPr>'
        return f"<w:sdt>{tag}<w:sdtContent>{inside}</w:sdtContent></w:sdt>"

    def package(self) -> bytes:
        body = self.paragraph("Title", self.run(self.carried.title)) if self.carried.title else ""
        body += "".join(self.region(index, region) for index, region in enumerate(self.document.content))
        footnotes = self.footnotes()
        files: dict[str, str | bytes] = {
            "[Content_Types].xml": self.content_types(),
            "_rels/.rels": f'{_XML}<Relationships xmlns="{_PACKAGE}/relationships">'
            f'<Relationship Id="rId1" Type="{_OFFICE}/relationships/officeDocument" Target="word/document.xml"/>'
            f'<Relationship Id="rId2" Type="{_PACKAGE}/relationships/metadata/core-properties" '
            'Target="docProps/core.xml"/></Relationships>',
            "docProps/core.xml": f'{_XML}<cp:coreProperties xmlns:cp="{_PACKAGE}/metadata/core-properties" '
            'xmlns:dc="http://purl.org/dc/elements/1.1/">'
            f"<dc:title>{_escape(self.carried.title)}</dc:title><dc:language>{self.carried.language}</dc:language>"
            "</cp:coreProperties>",
            "word/document.xml": f"{_XML}<w:document {_NAMESPACES}><w:body>{body}<w:sectPr>"
            '<w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:top="1418" w:right="1418" w:bottom="1418" w:left="1418" '
            'w:header="709" w:footer="709" w:gutter="0"/></w:sectPr></w:body></w:document>',
            "word/styles.xml": _styles(self.carried.language, self.own_styles),
            "word/numbering.xml": self.numbering(),
            "word/footnotes.xml": footnotes,
        }
        self.text.relate("styles", "styles.xml")
        self.text.relate("numbering", "numbering.xml")
        self.text.relate("footnotes", "footnotes.xml")
        files["word/_rels/document.xml.rels"] = self.text.xml()
        files["word/_rels/footnotes.xml.rels"] = self.note_part.xml()
        for number, file in self.pictures.items():
            files[f"word/media/{_file_name(number, file)}"] = file.data
        out = BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
            for name, content in files.items():
                # The same page gives the same bytes: no time of writing is kept.
                archive.writestr(zipfile.ZipInfo(name), content, zipfile.ZIP_DEFLATED)
        return out.getvalue()

    def content_types(self) -> str:
        kinds = {"rels": "application/vnd.openxmlformats-package.relationships+xml", "xml": "application/xml"}
        kinds |= {file.name.rsplit(".", 1)[-1].lower(): file.mime for file in self.pictures.values()}
        defaults = "".join(f'<Default Extension="{end}" ContentType="{kind}"/>' for end, kind in kinds.items())
        parts = {
            "/word/document.xml": f"{_TYPES}.document.main+xml",
            "/word/styles.xml": f"{_TYPES}.styles+xml",
            "/word/numbering.xml": f"{_TYPES}.numbering+xml",
            "/word/footnotes.xml": f"{_TYPES}.footnotes+xml",
            "/docProps/core.xml": "application/vnd.openxmlformats-package.core-properties+xml",
        }
        overrides = "".join(f'<Override PartName="{name}" ContentType="{kind}"/>' for name, kind in parts.items())
        return f'{_XML}<Types xmlns="{_PACKAGE}/content-types">{defaults}{overrides}</Types>'

    # Blocks

    def blocks(self, blocks: Iterable[Node], style: str = "", depth: int = 0) -> str:
        return "".join(self.block(block, style, depth) for block in blocks)

    def paragraph(self, style: str, inside: str, properties: str = "") -> str:
        named = f'<w:pStyle w:val="{style}"/>' if style else ""
        set_so = f"<w:pPr>{named}{properties}</w:pPr>" if named or properties else ""
        return f"<w:p>{set_so}{inside}</w:p>"

    def block(self, node: Node, style: str = "", depth: int = 0) -> str:
        if way := ways_of(node.kind).docx:
            return way(self, node, style)
        match node.kind:
            case "heading":
                words = self.words(node.content)
                if self.anchor:
                    words = self.bookmarked(self.anchor, words)
                return self.paragraph(self.variant(f"Heading{node.attrs['level'] - 1}", align=_align(node)), words)
            case "bulleted_list" | "numbered_list":
                return self.list(node, depth, {"Quote": "quotation", "Aside": "aside"}.get(style, ""))
            case "table":
                return self.table(node)
            case "preformatted":
                within = {"Quote": "quotation", "Aside": "aside"}.get(style, "")
                if style.startswith("ListContinue"):
                    within = f"list {style.removeprefix('ListContinue') or 1}"
                named = of_preformatted(node.attrs["language"], within)
                return self.paragraph(self.own_style("paragraph", named), self.words(node.content))
            case "paragraph":
                named = style or {"lead": "Lead", "small-print": "SmallPrint"}.get(node.attrs["style"] or "", "")
                return self.paragraph(self.variant(named, align=_align(node)), self.words(node.content))
        lines = Text(self.notes, partial(alt_of, carried=self.carried), self.carried.films).block(node).split("\n")
        return "".join(self.paragraph(style, self.run(line)) for line in lines if line)

    def own_style(self, kind: str, name: str, base: str = "HTMLPreformatted", inside: str = "") -> str:
        """The identity of a style that this text alone has."""
        identity = f"Own{len(self.own_styles) + 1}"
        return self.own_styles.setdefault((kind, name), _OwnStyle(identity, base, inside)).identity

    def variant(self, style: str, within: str = "", align: str | None = None) -> str:
        """A style like another for paragraphs that stand elsewhere in their line, or in a list within a quotation."""
        if not within and align is None:
            return style
        own = {each.identity: name for (_, name), each in self.own_styles.items()}
        name = own.get(style) or _NAMES.get(style) or style
        inside = f'<w:pPr><w:jc w:val="{_ALIGN[align]}"/></w:pPr>' if align else ""
        return self.own_style("paragraph", of_variant(name, within, align), style or "Normal", inside)

    def bookmarked(self, anchor: str, inside: str) -> str:
        self.bookmarks += 1
        number = self.bookmarks
        return f'<w:bookmarkStart w:id="{number}" w:name="{escape(anchor)}"/>{inside}<w:bookmarkEnd w:id="{number}"/>'

    def list(self, node: Node, depth: int, within: str = "") -> str:
        level = min(depth, 8)
        self.lists.append((node.kind == "numbered_list", node.attrs.get("start", 1), level))
        number = len(self.lists)
        written = []
        for item in node.content:
            for place, child in enumerate(item.content):
                if child.kind.endswith("_list"):
                    written.append(self.list(child, depth + 1, within))
                elif child.kind == "paragraph" and place == 0:
                    marked = f'<w:numPr><w:ilvl w:val="{level}"/><w:numId w:val="{number}"/></w:numPr>'
                    words = self.words(child.content)
                    if item.attrs["anchor"]:
                        words = self.bookmarked(item.attrs["anchor"], words)
                    named = self.variant("ListParagraph", within, _align(child))
                    written.append(self.paragraph(named, words, marked))
                else:
                    written.append(self.block(child, self.variant(_continue(level), within), depth))
        return "".join(written)

    def table(self, node: Node) -> str:
        caption = "".join(self.paragraph("Table", self.words(each.content)) for each in node.content[:-1])
        grid = grid_of(node.content[-1].content)
        places = {(place.row, place.column): place.cell for place in grid.places}
        rows = []
        for row, line in enumerate(node.content[-1].content):
            cells = []
            column = 0
            while column < grid.width:
                cell, down = places.get((row, column)), 0
                while cell is None and down < row:
                    down += 1
                    above = places.get((row - down, column))
                    cell = above if above is not None and above.attrs["rowspan"] > down else None
                if cell is None:
                    break
                cells.append(self.cell(cell, goes_on=down > 0))
                column += cell.attrs["colspan"]
            heads = bool(line.content) and all(cell.kind == "table_header" for cell in line.content)
            rows.append(
                f"<w:tr>{'<w:trPr><w:tblHeader/></w:trPr>' if heads and row == 0 else ''}{''.join(cells)}</w:tr>"
            )
        columns = "".join(f'<w:gridCol w:w="{9070 // grid.width}"/>' for _ in range(grid.width))
        look = '<w:tblPr><w:tblStyle w:val="TableGrid"/><w:tblW w:w="5000" w:type="pct"/></w:tblPr>'
        # Word joins tables that stand side by side; an empty paragraph keeps them apart.
        return f"{caption}<w:tbl>{look}<w:tblGrid>{columns}</w:tblGrid>{''.join(rows)}</w:tbl><w:p/>"

    def cell(self, cell: Node, *, goes_on: bool) -> str:
        span = f'<w:gridSpan w:val="{cell.attrs["colspan"]}"/>' if cell.attrs["colspan"] > 1 else ""
        merge = "<w:vMerge/>" if goes_on else '<w:vMerge w:val="restart"/>' if cell.attrs["rowspan"] > 1 else ""
        style = "TableHeading" if cell.kind == "table_header" else ""
        inside = "<w:p/>" if goes_on else self.blocks(cell.content, style)
        ends_in_table = inside.endswith("</w:tbl>")
        return f"<w:tc><w:tcPr>{span}{merge}</w:tcPr>{inside}{'<w:p/>' if ends_in_table else ''}</w:tc>"

    def picture(self, node: Node, style: str = "") -> str:
        file = self.carried.pictures.get(node.attrs["item"])
        caption = self.paragraph("Caption", self.run(node.attrs["caption"])) if node.attrs["caption"] else ""
        alt = alt_of(node, self.carried)
        if file is None:
            return (self.paragraph("", self.run(f"[{alt}]")) if alt else "") + caption
        self.pictures[node.attrs["item"]] = file
        identity = self.part.relate("image", f"media/{_file_name(node.attrs['item'], file)}")
        self.drawn += 1
        wide = min(_WIDEST, node.attrs["width"] or file.width or _WIDEST)
        width, height = wide * _EMU, round(wide * (file.height or 1) / (file.width or 1)) * _EMU
        decorative = (
            '<a:extLst><a:ext uri="{C183D7F6-B498-43B3-948B-1728B52AA6E4}"><adec:decorative '
            'xmlns:adec="http://schemas.microsoft.com/office/drawing/2017/decorative" val="1"/></a:ext></a:extLst>'
            if node.attrs["decorative"]
            else ""
        )
        name = f'id="{self.drawn}" name="{escape(file.name)}" descr="{_escape_attribute(alt)}"'
        drawing = (
            f'<w:drawing><wp:inline distT="0" distB="0" distL="0" distR="0"><wp:extent cx="{width}" cy="{height}"/>'
            f"<wp:docPr {name}>{decorative}</wp:docPr><a:graphic>"
            '<a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/picture"><pic:pic>'
            f"<pic:nvPicPr><pic:cNvPr {name}/><pic:cNvPicPr/></pic:nvPicPr>"
            f'<pic:blipFill><a:blip r:embed="{identity}"/><a:stretch><a:fillRect/></a:stretch></pic:blipFill>'
            f'<pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="{width}" cy="{height}"/></a:xfrm>'
            '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData></a:graphic>'
            "</wp:inline></w:drawing>"
        )
        standing = of_picture(node.attrs)
        if standing and not style:
            align = _ALIGN.get(node.attrs["place"] or "")
            style = self.own_style(
                "paragraph", standing, "Normal", f'<w:pPr><w:jc w:val="{align}"/></w:pPr>' if align else ""
            )
        return self.paragraph(style if standing else "", f"<w:r>{drawing}</w:r>") + caption

    def film(self, node: Node, style: str = "") -> str:
        """A film or sound: its cover, a link to its file, its caption and transcript."""
        words = film_words(node, self.carried.films)
        cover = cover_node(node, self.carried)
        link = self.linked(f"item:{node.attrs['item']}", self.run(words.link)) if words.link else ""
        return (
            (self.picture(cover, style) if cover else "")
            + (self.paragraph(style, link) if link else "")
            + (self.paragraph("Caption", self.run(words.caption)) if words.caption else "")
            + "".join(self.paragraph(style, self.run(each)) for each in words.transcript)
        )

    # Words

    def words(self, nodes: Iterable[Node]) -> str:
        return "".join(self.inline(node) for node in nodes)

    def inline(self, node: Node) -> str:
        if node.kind == "line_break":
            return "<w:r><w:br/></w:r>"
        if way := ways_of(node.kind).docx:
            return way(self, node, "")
        if anchor := self.notes.of(node):
            number = self.notes.items[anchor][0]
            return (
                f'<w:r><w:rPr><w:rStyle w:val="FootnoteReference"/></w:rPr><w:footnoteReference w:id="{number}"/></w:r>'
            )
        marks = marks_by_kind(node)
        href = str(marks["link"]["href"]) if "link" in marks else ""
        leads = href.startswith("#") or (href and self.carried.leads(href))
        properties = '<w:rStyle w:val="Hyperlink"/>' if leads else ""
        if named := of_marks(marks):
            properties = f'<w:rStyle w:val="{self.own_style("character", named)}"/>'
        if "code" in marks:
            properties = '<w:rStyle w:val="HTMLCode"/>'
        properties += "".join(written for kind, written in _RUN.items() if kind in marks)
        if "language" in marks:
            properties += f'<w:lang w:val="{escape(str(marks["language"]["code"]))}"/>'
        run = self.run(node.text, properties)
        return self.linked(href, run, marks["link"]) if leads else run

    def run(self, text: str, properties: str = "") -> str:
        said = f"<w:rPr>{properties}</w:rPr>" if properties else ""
        return f'<w:r>{said}<w:t xml:space="preserve">{_escape(text)}</w:t></w:r>' if text else ""

    def linked(self, href: str, inside: str, said: Mapping[str, object] | None = None) -> str:
        said = said or {}
        more = f' w:tooltip="{_escape_attribute(str(said["title"]))}"' if said.get("title") else ""
        more += ' w:tgtFrame="_blank"' if said.get("new_window") else ""
        if href.startswith("#"):
            return f'<w:hyperlink w:anchor="{escape(href[1:])}"{more}>{inside}</w:hyperlink>'
        address = self.carried.leads(href)
        if address is None:
            return inside
        identity = self.part.relate("hyperlink", address, outside=True)
        return f'<w:hyperlink r:id="{identity}"{more}>{inside}</w:hyperlink>'

    def footnotes(self) -> str:
        self.part = self.note_part
        mark = '<w:r><w:rPr><w:rStyle w:val="FootnoteReference"/></w:rPr><w:footnoteRef/></w:r>'
        notes = [
            '<w:footnote w:type="separator" w:id="-1"><w:p><w:r><w:separator/></w:r></w:p></w:footnote>'
            '<w:footnote w:type="continuationSeparator" w:id="0"><w:p><w:r><w:continuationSeparator/></w:r></w:p>'
            "</w:footnote>"
        ]
        for number, item in self.notes.items.values():
            first, *others = item.content
            opening = self.paragraph("FootnoteText", f"{mark}{self.run(' ')}{self.words(first.content)}")
            rest = self.blocks(others, "FootnoteText")
            notes.append(f'<w:footnote w:id="{number}">{opening}{rest}</w:footnote>')
        self.part = self.text
        return f"{_XML}<w:footnotes {_NAMESPACES}>{''.join(notes)}</w:footnotes>"

    def numbering(self) -> str:
        abstract, numbers = [], []
        for number, (numbered, start, level) in enumerate(self.lists, start=1):
            levels = "".join(_level(each, numbered, start if each == level else 1) for each in range(9))
            kind = '<w:multiLevelType w:val="hybridMultilevel"/>'
            abstract.append(f'<w:abstractNum w:abstractNumId="{number}">{kind}{levels}</w:abstractNum>')
            numbers.append(f'<w:num w:numId="{number}"><w:abstractNumId w:val="{number}"/></w:num>')
        return f"{_XML}<w:numbering {_NAMESPACES}>{''.join(abstract)}{''.join(numbers)}</w:numbering>"


def _level(level: int, numbered: bool, start: int) -> str:
    form = f"%{level + 1}." if numbered else "•◦▪"[level % 3]
    indent = f'<w:ind w:left="{720 * (level + 1)}" w:hanging="360"/>'
    return (
        f'<w:lvl w:ilvl="{level}"><w:start w:val="{start}"/><w:numFmt w:val="{"decimal" if numbered else "bullet"}"/>'
        f'<w:lvlText w:val="{form}"/><w:lvlJc w:val="left"/><w:pPr>{indent}</w:pPr></w:lvl>'
    )


def _continue(level: int) -> str:
    return "ListContinue" if level == 0 else f"ListContinue{min(level, 4) + 1}"


def _align(node: Node) -> str | None:
    align = node.attrs.get("align")
    return str(align) if align else None


def _escape(text: str) -> str:
    """Text as XML 1.0 may hold it."""
    return escape(text.translate({0xFFFE: None, 0xFFFF: None}), quote=False)


def _escape_attribute(text: str) -> str:
    return escape(text.translate({0xFFFE: None, 0xFFFF: None}))


def _file_name(number: int, file: PictureFile) -> str:
    return f"picture-{number}.{file.name.rsplit('.', 1)[-1].lower()}"


def _style(identity: str, name: str, inside: str = "", *, kind: str = "paragraph", base: str = "Normal") -> str:
    based = f'<w:basedOn w:val="{base}"/>' if base and kind == "paragraph" else ""
    return (
        f'<w:style w:type="{kind}" w:styleId="{identity}"><w:name w:val="{name}"/>{based}<w:qFormat/>{inside}</w:style>'
    )


def _styles(language: str, own: Mapping[tuple[str, str], _OwnStyle]) -> str:
    mono = '<w:rPr><w:rFonts w:ascii="Courier New" w:hAnsi="Courier New" w:cs="Courier New"/><w:sz w:val="20"/></w:rPr>'
    line = '<w:pBdr><w:left w:val="single" w:sz="18" w:space="10" w:color="888888"/></w:pBdr><w:ind w:left="284"/>'
    below = '<w:pBdr><w:bottom w:val="single" w:sz="8" w:space="1" w:color="888888"/></w:pBdr>'
    headings = "".join(
        _style(
            f"Heading{level}",
            f"heading {level}",
            f'<w:next w:val="Normal"/><w:pPr><w:keepNext/><w:spacing w:before="{400 - 50 * level}" w:after="100"/>'
            f'<w:outlineLvl w:val="{level - 1}"/></w:pPr><w:rPr><w:b/><w:sz w:val="{38 - 4 * level}"/></w:rPr>',
        )
        for level in range(1, 6)
    )
    continued = "".join(
        _style(
            _continue(level),
            "List Continue" if level == 0 else f"List Continue {level + 1}",
            f'<w:pPr><w:ind w:left="{720 * (level + 1)}"/></w:pPr>',
        )
        for level in range(5)
    )
    styles = [
        '<w:style w:type="paragraph" w:default="1" w:styleId="Normal"><w:name w:val="Normal"/><w:qFormat/>'
        '<w:pPr><w:spacing w:after="140" w:line="276" w:lineRule="auto"/></w:pPr></w:style>',
        _style("Title", "Title", '<w:pPr><w:spacing w:after="240"/></w:pPr><w:rPr><w:sz w:val="48"/></w:rPr>'),
        headings,
        continued,
        _style("ListParagraph", "List Paragraph"),
        _style("Quote", "Quote", '<w:pPr><w:ind w:left="567"/></w:pPr><w:rPr><w:i/></w:rPr>'),
        _style("Aside", "Aside", f"<w:pPr>{line}</w:pPr>"),
        _style("Lead", "Lead", '<w:rPr><w:sz w:val="28"/></w:rPr>'),
        _style("SmallPrint", "Small print", '<w:rPr><w:sz w:val="18"/></w:rPr>'),
        _style("Caption", "caption", '<w:rPr><w:i/><w:sz w:val="20"/></w:rPr>'),
        _style("Table", "Table", base="Caption"),
        _style("TableHeading", "Table Heading", "<w:rPr><w:b/></w:rPr>"),
        _style("HTMLPreformatted", "HTML Preformatted", mono),
        _style("HorizontalLine", "Horizontal Line", f"<w:pPr>{below}</w:pPr>"),
        _style("FootnoteText", "footnote text", '<w:rPr><w:sz w:val="20"/></w:rPr>'),
        _style(
            "FootnoteReference",
            "footnote reference",
            '<w:rPr><w:vertAlign w:val="superscript"/></w:rPr>',
            kind="character",
        ),
        _style(
            "Hyperlink", "Hyperlink", '<w:rPr><w:color w:val="0B5394"/><w:u w:val="single"/></w:rPr>', kind="character"
        ),
        _style("HTMLCode", "HTML Code", mono, kind="character"),
        *(
            _style(each.identity, _escape_attribute(name), each.inside, kind=kind, base=each.base)
            for (kind, name), each in own.items()
        ),
        '<w:style w:type="table" w:styleId="TableGrid"><w:name w:val="Table Grid"/><w:tblPr><w:tblBorders>'
        + "".join(
            f'<w:{side} w:val="single" w:sz="4" w:space="0" w:color="888888"/>'
            for side in ("top", "left", "bottom", "right", "insideH", "insideV")
        )
        + "</w:tblBorders></w:tblPr></w:style>",
    ]
    letters = f'<w:rPr><w:sz w:val="22"/><w:lang w:val="{language}"/></w:rPr>'
    defaults = f"<w:docDefaults><w:rPrDefault>{letters}</w:rPrDefault></w:docDefaults>"
    return f"{_XML}<w:styles {_NAMESPACES}>{defaults}{''.join(styles)}</w:styles>"
