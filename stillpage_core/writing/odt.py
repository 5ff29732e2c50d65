"""Document → ODT (OpenDocument 1.3, part 3).

What a word processor has no way to say (tones, text styles, asides) stands as words and paragraphs of a style of that
name.
"""

from __future__ import annotations

import re
import zipfile
from collections.abc import Iterable, Mapping, Sequence
from functools import partial
from html import escape
from io import BytesIO

from ..document.node import Node
from ..document.schema import MAIN
from ..document.tables import grid_of
from ..equations import EquationError, mathml
from ..kinds.ways import ways_of
from .anchors import places_of
from .carrying import Carried, PictureFile, alt_of, cover_node, film_words, lines_of, marks_by_kind, notes_of
from .style_names import of_marks, of_picture, of_preformatted, of_region, of_variant
from .text import Writer as Text

_XML = '<?xml version="1.0" encoding="UTF-8"?>\n'
_NS = "urn:oasis:names:tc:opendocument:xmlns"
_NAMESPACES = " ".join(
    [
        *(f'xmlns:{name}="{_NS}:{name}:1.0"' for name in ("office", "text", "style", "table", "meta")),
        f'xmlns:draw="{_NS}:drawing:1.0" xmlns:fo="{_NS}:xsl-fo-compatible:1.0" xmlns:svg="{_NS}:svg-compatible:1.0"',
        'xmlns:loext="urn:org:documentfoundation:names:experimental:office:xmlns:loext:1.0"',
        'xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:dc="http://purl.org/dc/elements/1.1/" office:version="1.3"',
    ]
)
_MIME = "application/vnd.oasis.opendocument.text"
_PIXEL = 2.54 / 96
"""Centimetres in a pixel of 1/96 inch."""
_WIDEST = 604
_SAID = {
    "strong": 'fo:font-weight="bold"',
    "emphasis": 'fo:font-style="italic"',
    "strike": 'style:text-line-through-style="solid"',
    "underline": 'style:text-underline-style="solid"',
    "superscript": 'style:text-position="super 58%"',
    "subscript": 'style:text-position="sub 58%"',
}
_ALIGN = {"centre": "center", "end": "end"}
_EMBEDDED = 'xlink:type="simple" xlink:show="embed" xlink:actuate="onLoad"'
_CODE = "Source_20_Text"


def odt(document: Node, carried: Carried) -> bytes:
    """The page as an ODT file, its title first. Pictures that ``carried`` has no bytes of are left out, their alt
    texts and captions stay."""
    return Writer(document, carried).package()


class Writer:
    """Writes what is within for whatever has a way of its own (`kinds.ways`)."""

    def __init__(self, document: Node, carried: Carried) -> None:
        self.document = document
        self.carried = carried
        self.notes = notes_of(document)
        self.text_styles: dict[str, str] = {}
        self.list_styles: dict[tuple[tuple[bool, int], ...], str] = {}
        self.pictures: dict[str, PictureFile] = {}
        self.objects: list[str] = []
        self.tables = 0
        self.own_styles: dict[tuple[str, str], tuple[str, str, str]] = {}
        """By family and name: the identity of a style, the one that it is based on, and what it says besides."""
        self.anchor: str | None = None
        self.anchors = places_of(document)

    def region(self, index: int, region: Node) -> str:
        """The blocks of a region; another than main is a section with its name."""
        inside = before = ""
        for place, block in enumerate(region.content):
            if (index, place) in self.notes.lists:
                continue
            self.anchor = block.attrs.get("anchor") or self.anchors.get((index, place))
            # Lists of one style that follow one another would be one.
            inside += self.block(block, anew=before == block.kind)
            before = block.kind
        name = region.attrs["name"]
        if name == MAIN or not inside:
            return inside
        return f'<text:section text:name="{of_region(name)}">{inside}</text:section>'

    def package(self) -> bytes:
        body = f'<text:p text:style-name="Title">{_escape(self.carried.title)}</text:p>' if self.carried.title else ""
        body += "".join(self.region(index, region) for index, region in enumerate(self.document.content))
        content = (
            f"{_XML}<office:document-content {_NAMESPACES}><office:automatic-styles>{self.automatic()}"
            f"</office:automatic-styles><office:body><office:text>{body}</office:text></office:body>"
            "</office:document-content>"
        )
        files: dict[str, str | bytes] = {
            "mimetype": _MIME,
            "content.xml": content,
            "styles.xml": _styles(self.carried.language, self.own_styles),
            "meta.xml": f"{_XML}<office:document-meta {_NAMESPACES}><office:meta>"
            f"<dc:title>{_escape(self.carried.title)}</dc:title></office:meta></office:document-meta>",
        }
        kinds = {name: "text/xml" for name in files if name.endswith(".xml")}
        for name, file in self.pictures.items():
            files[f"Pictures/{name}"] = file.data
            kinds[f"Pictures/{name}"] = file.mime
        for number, formula in enumerate(self.objects, start=1):
            # A word processor takes no element for MathML that is of no namespace.
            named = formula.replace("<math", '<math xmlns="http://www.w3.org/1998/Math/MathML"', 1)
            files[f"Object {number}/content.xml"] = _XML + named
            kinds[f"Object {number}/content.xml"] = "text/xml"
            kinds[f"Object {number}/"] = "application/vnd.oasis.opendocument.formula"
        entries = "".join(
            f'<manifest:file-entry manifest:full-path="{escape(name)}" manifest:media-type="{kind}"/>'
            for name, kind in {"/": _MIME, **kinds}.items()
        )
        files["META-INF/manifest.xml"] = (
            f'{_XML}<manifest:manifest xmlns:manifest="{_NS}:manifest:1.0" manifest:version="1.3">{entries}'
            "</manifest:manifest>"
        )
        out = BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
            for name, written in files.items():
                # The first part tells what the file is, and is not compressed (OpenDocument 1.3, part 2, 3.3).
                packed = zipfile.ZIP_STORED if name == "mimetype" else zipfile.ZIP_DEFLATED
                archive.writestr(zipfile.ZipInfo(name), written, packed)
        return out.getvalue()

    def automatic(self) -> str:
        """The styles that only this text uses."""
        texts = "".join(
            f'<style:style style:name="{name}" style:family="text"><style:text-properties {said}/></style:style>'
            for said, name in self.text_styles.items()
        )
        lists = "".join(_list_style(name, levels) for levels, name in self.list_styles.items())
        return texts + lists

    # Blocks

    def blocks(self, blocks: Iterable[Node], style: str = "Text_20_body") -> str:
        return "".join(self.block(block, style) for block in blocks)

    def paragraph(self, style: str, inside: str) -> str:
        return f'<text:p text:style-name="{style}">{inside}</text:p>'

    def styled(self, node: Node, style: str) -> str:
        """The style of a paragraph, with the setting it has of its own."""
        return self.variant(style, align=node.attrs.get("align"))

    def variant(self, style: str, within: str = "", align: str | None = None) -> str:
        """A style like another for paragraphs that stand elsewhere in their line, or in a list within a quotation."""
        if not within and align is None:
            return style
        own = {identity: name for (_, name), (identity, *_) in self.own_styles.items()}
        name = own.get(style) or style.replace("_20_", " ")
        inside = f'<style:paragraph-properties fo:text-align="{_ALIGN[align]}"/>' if align else ""
        return self.own_style("paragraph", of_variant(name, within, align), style, inside)

    def block(self, node: Node, style: str = "Text_20_body", *, anew: bool = False) -> str:
        if way := ways_of(node.kind).odt:
            return way(self, node, style)
        match node.kind:
            case "heading":
                level = node.attrs["level"] - 1
                named = self.styled(node, f"Heading_20_{level}")
                words = _bookmark(self.anchor) + self.words(node.content)
                return f'<text:h text:style-name="{named}" text:outline-level="{level}">{words}</text:h>'
            case "bulleted_list" | "numbered_list":
                within = {"Quotations": "quotation", "Aside": "aside"}.get(style, "")
                return self.list(node, self.list_style(node, anew=anew), within)
            case "table":
                return self.table(node)
            case "preformatted":
                within = {"Quotations": "quotation", "Aside": "aside"}.get(style, "")
                named = self.own_style("paragraph", of_preformatted(node.attrs["language"], within))
                return self.paragraph(named, "<text:line-break/>".join(map(_spaced, lines_of(node))))
            case "paragraph":
                named = {"lead": "Lead", "small-print": "Small_20_print"}.get(node.attrs["style"] or "", style)
                return self.paragraph(self.styled(node, named), self.words(node.content))
        lines = Text(self.notes, partial(alt_of, carried=self.carried), self.carried.films).block(node).split("\n")
        return "".join(self.paragraph(style, _spaced(line)) for line in lines if line)

    def own_style(self, family: str, name: str, base: str = "Preformatted_20_Text", inside: str = "") -> str:
        """The identity of a style that this text alone has."""
        made = (f"Own{len(self.own_styles) + 1}", base, inside)
        return self.own_styles.setdefault((family, name), made)[0]

    def list_style(self, node: Node, *, anew: bool = False) -> str:
        """A list style whose levels are those of this list and of the first lists within it; ``anew``, one that no
        list has had."""
        levels: list[tuple[bool, int]] = []
        inner: Node | None = node
        while inner is not None and len(levels) < 10:
            levels.append((inner.kind == "numbered_list", inner.attrs.get("start", 1)))
            inside = (child for item in inner.content for child in item.content if child.kind.endswith("_list"))
            inner = next(inside, None)
        key = tuple(levels)
        if anew:
            # The deepest levels show nowhere; so another form of theirs makes another style.
            key = (*key, *[(False, 1)] * (10 - len(key)), (False, len(self.list_styles)))
        return self.list_styles.setdefault(key, f"L{len(self.list_styles) + 1}")

    def list(self, node: Node, named: str, within: str, depth: int = 0) -> str:
        levels = next(levels for levels, name in self.list_styles.items() if name == named)
        own = (node.kind == "numbered_list", node.attrs.get("start", 1))
        if depth >= len(levels) or levels[depth] != own:
            named = self.list_styles.setdefault((*levels[:depth], own), f"L{len(self.list_styles) + 1}")
        items = []
        for item in node.content:
            inside: list[str] = []
            for child in item.content:
                if child.kind.endswith("_list"):
                    inside.append(self.list(child, named, within, depth + 1))
                else:
                    inside.append(self.block(child, self.variant("List_20_Contents", within)))
            items.append(f"<text:list-item>{''.join(inside)}</text:list-item>")
        return f'<text:list text:style-name="{named}">{"".join(items)}</text:list>'

    def table(self, node: Node) -> str:
        caption = "".join(self.paragraph("Table", self.words(each.content)) for each in node.content[:-1])
        grid = grid_of(node.content[-1].content)
        begins = {(place.row, place.column): place.cell for place in grid.places}
        self.tables += 1
        rows = []
        for row, line in enumerate(node.content[-1].content):
            cells = []
            for column in range(grid.width):
                cell = begins.get((row, column))
                cells.append("<table:covered-table-cell/>" if cell is None else self.cell(cell))
            written = f"<table:table-row>{''.join(cells)}</table:table-row>"
            heads = row == 0 and bool(line.content) and all(cell.kind == "table_header" for cell in line.content)
            rows.append(f"<table:table-header-rows>{written}</table:table-header-rows>" if heads else written)
        columns = f'<table:table-column table:number-columns-repeated="{grid.width}"/>'
        return f'{caption}<table:table table:name="Table{self.tables}">{columns}{"".join(rows)}</table:table>'

    def cell(self, cell: Node) -> str:
        across, down = cell.attrs["colspan"], cell.attrs["rowspan"]
        spans = ""
        if across * down > 1:
            spans = f' table:number-columns-spanned="{across}" table:number-rows-spanned="{down}"'
        style = "Table_20_Heading" if cell.kind == "table_header" else "Table_20_Contents"
        inside = self.blocks(cell.content, style)
        return f'<table:table-cell office:value-type="string"{spans}>{inside}</table:table-cell>'

    def picture(self, node: Node, style: str = "Text_20_body") -> str:
        file = self.carried.pictures.get(node.attrs["item"])
        caption = self.paragraph("Caption", _escape(node.attrs["caption"])) if node.attrs["caption"] else ""
        alt = alt_of(node, self.carried)
        if file is None:
            return (self.paragraph("Text_20_body", _escape(f"[{alt}]")) if alt else "") + caption
        name = f"picture-{node.attrs['item']}.{file.name.rsplit('.', 1)[-1].lower()}"
        self.pictures[name] = file
        wide = min(_WIDEST, node.attrs["width"] or file.width or _WIDEST)
        high = wide * (file.height or 1) / (file.width or 1)
        size = f'svg:width="{wide * _PIXEL:.3f}cm" svg:height="{high * _PIXEL:.3f}cm"'
        image = f'<draw:image xlink:href="Pictures/{name}" {_EMBEDDED}/>'
        said = f"<svg:desc>{_escape(alt)}</svg:desc>" if alt else ""
        frame = (
            f'<draw:frame draw:style-name="Picture" draw:name="{escape(name)}" text:anchor-type="as-char" {size}'
            + (' loext:decorative="true">' if node.attrs["decorative"] else ">")
            + f"{image}{said}</draw:frame>"
        )
        standing = of_picture(node.attrs)
        if standing and style == "Text_20_body":
            align = _ALIGN.get(node.attrs["place"] or "")
            inside = f'<style:paragraph-properties fo:text-align="{align}"/>' if align else ""
            return self.paragraph(self.own_style("paragraph", standing, "Text_20_body", inside), frame) + caption
        return self.paragraph("Text_20_body", frame) + caption

    def film(self, node: Node, style: str = "Text_20_body") -> str:
        """A film or sound: its cover, a link to its file, its caption and transcript."""
        words = film_words(node, self.carried.films)
        cover = cover_node(node, self.carried)
        link = self.linked(f"item:{node.attrs['item']}", _spaced(words.link)) if words.link else ""
        return (
            (self.picture(cover, style) if cover else "")
            + (self.paragraph(style, link) if link else "")
            + (self.paragraph("Caption", _escape(words.caption)) if words.caption else "")
            + "".join(self.paragraph(style, _spaced(each)) for each in words.transcript)
        )

    def plain(self, words: str) -> str:
        """Words as they are."""
        return _spaced(words)

    def strong(self, words: str) -> str:
        """Words that stand out."""
        return self.span(words, [_SAID["strong"]])

    def formula(self, latex: str) -> str:
        """An equation as an object of its own, in MathML; words in place of one that cannot be read."""
        try:
            written = mathml(latex, display=True)
        except EquationError:
            return self.span(latex, [], code=True)
        self.objects.append(written)
        href = f'xlink:href="./Object {len(self.objects)}" {_EMBEDDED}'
        return (
            f'<draw:frame draw:style-name="Formula" draw:name="Formula {len(self.objects)}" '
            f'text:anchor-type="as-char"><draw:object {href}/><svg:desc>{_escape(latex)}</svg:desc></draw:frame>'
        )

    # Words

    def words(self, nodes: Iterable[Node]) -> str:
        return "".join(self.inline(node) for node in nodes)

    def inline(self, node: Node) -> str:
        if node.kind == "line_break":
            return "<text:line-break/>"
        if way := ways_of(node.kind).odt:
            return way(self, node, "")
        if anchor := self.notes.of(node):
            number, item = self.notes.items[anchor]
            return (
                f'<text:note text:id="ftn{number}" text:note-class="footnote"><text:note-citation>{number}'
                f"</text:note-citation><text:note-body>{self.blocks(item.content, 'Footnote')}</text:note-body>"
                "</text:note>"
            )
        marks = marks_by_kind(node)
        said = [written for kind, written in _SAID.items() if kind in marks]
        if "language" in marks:
            language, _, country = str(marks["language"]["code"]).partition("-")
            said.append(f'fo:language="{language}" fo:country="{country if len(country) == 2 else "none"}"')
        written = self.span(node.text, said, code="code" in marks)
        if named := of_marks(marks):
            written = f'<text:span text:style-name="{self.own_style("text", named)}">{written}</text:span>'
        return self.linked(str(marks["link"]["href"]), written, marks["link"]) if "link" in marks else written

    def span(self, text: str, said: Sequence[str], *, code: bool = False) -> str:
        words = _spaced(text)
        if code:
            words = f'<text:span text:style-name="{_CODE}">{words}</text:span>'
        if not said:
            return words
        name = self.text_styles.setdefault(" ".join(said), f"T{len(self.text_styles) + 1}")
        return f'<text:span text:style-name="{name}">{words}</text:span>'

    def linked(self, href: str, inside: str, said: Mapping[str, object] | None = None) -> str:
        address = href if href.startswith("#") else self.carried.leads(href)
        if address is None:
            return inside
        said = said or {}
        more = f' office:title="{_escape_attribute(str(said["title"]))}"' if said.get("title") else ""
        more += ' office:target-frame-name="_blank" xlink:show="new"' if said.get("new_window") else ""
        return f'<text:a xlink:type="simple" xlink:href="{_escape_attribute(address)}"{more}>{inside}</text:a>'


def _escape(text: str) -> str:
    """Text as XML 1.0 may hold it."""
    return escape(text.translate({0xFFFE: None, 0xFFFF: None}), quote=False)


def _escape_attribute(text: str) -> str:
    return escape(text.translate({0xFFFE: None, 0xFFFF: None}))


def _spaced(text: str) -> str:
    """Words whose rows of spaces are kept (OpenDocument 1.3, part 3, 6.1.3)."""
    return re.sub(" {2,}|^ | $", lambda match: f'<text:s text:c="{len(match[0])}"/>', _escape(text))


def _bookmark(anchor: str | None) -> str:
    return f'<text:bookmark text:name="{_escape_attribute(anchor)}"/>' if anchor else ""


def _list_style(name: str, levels: tuple[tuple[bool, int], ...]) -> str:
    written = []
    for level, (numbered, start) in enumerate((*levels, *[levels[-1]] * (10 - len(levels)))[:10], start=1):
        place = (
            '<style:list-level-properties text:list-level-position-and-space-mode="label-alignment">'
            f'<style:list-level-label-alignment text:label-followed-by="listtab" fo:margin-left="{0.64 * level:.2f}cm" '
            'fo:text-indent="-0.64cm"/></style:list-level-properties>'
        )
        if numbered:
            form = f'style:num-format="1" style:num-suffix="." text:start-value="{max(1, start)}"'
            written.append(
                f'<text:list-level-style-number text:level="{level}" {form}>{place}</text:list-level-style-number>'
            )
        else:
            sign = "•◦▪"[(level - 1) % 3]
            written.append(
                f'<text:list-level-style-bullet text:level="{level}" text:bullet-char="{sign}">{place}'
                "</text:list-level-style-bullet>"
            )
    return f'<text:list-style style:name="{name}">{"".join(written)}</text:list-style>'


def _style(
    name: str,
    parent: str = "Standard",
    inside: str = "",
    *,
    family: str = "paragraph",
    level: int = 0,
    shown: str = "",
) -> str:
    shown = shown or re.sub("_20_", " ", name)
    outline = f' style:default-outline-level="{level}"' if level else ""
    based = f' style:parent-style-name="{parent}"' if parent and family == "paragraph" else ""
    return (
        f'<style:style style:name="{name}" style:display-name="{shown}" style:family="{family}"{based}{outline}>'
        f"{inside}</style:style>"
    )


def _styles(language: str, own: Mapping[tuple[str, str], tuple[str, str, str]]) -> str:
    code, _, country = language.partition("-")
    mono = '<style:text-properties fo:font-family="monospace" fo:font-size="10pt"/>'
    space = '<style:paragraph-properties fo:margin-bottom="0.25cm" fo:line-height="115%"/>'
    indent = '<style:paragraph-properties fo:margin-left="1cm" fo:margin-right="1cm"/>'
    line = '<style:paragraph-properties fo:border-left="2pt solid #888888" fo:padding-left="0.3cm"/>'
    below = '<style:paragraph-properties fo:border-bottom="1pt solid #888888"/>'
    headings = "".join(
        _style(
            f"Heading_20_{level}",
            "Heading",
            f'<style:text-properties fo:font-weight="bold" fo:font-size="{20 - 2 * level}pt"/>',
            level=level,
        )
        for level in range(1, 6)
    )
    small = '<style:text-properties fo:font-size="9pt"/>'
    styles = [
        '<style:default-style style:family="paragraph"><style:text-properties fo:font-size="11pt" '
        f'fo:language="{code}" fo:country="{country or "none"}"/></style:default-style>',
        _style("Standard", ""),
        _style("Text_20_body", "Standard", space),
        _style("Heading", "Standard", '<style:paragraph-properties fo:keep-with-next="always" fo:margin-top="0.4cm"/>'),
        headings,
        _style("Title", "Heading", '<style:text-properties fo:font-size="24pt"/>'),
        _style("Quotations", "Standard", indent),
        _style("Aside", "Text_20_body", line),
        _style("Lead", "Text_20_body", '<style:text-properties fo:font-size="14pt"/>'),
        _style("Small_20_print", "Text_20_body", small),
        _style("List_20_Contents"),
        _style("Caption", "Standard", '<style:text-properties fo:font-style="italic" fo:font-size="10pt"/>'),
        _style("Table", "Caption"),
        _style("Table_20_Contents"),
        _style("Table_20_Heading", "Table_20_Contents", '<style:text-properties fo:font-weight="bold"/>'),
        _style("Preformatted_20_Text", "Standard", mono),
        _style("Horizontal_20_Line", "Standard", below),
        _style("Footnote", "Standard", small),
        _style(_CODE, "", mono, family="text"),
        *(
            _style(identity, base, inside, family=family, shown=_escape_attribute(name))
            for (family, name), (identity, base, inside) in own.items()
        ),
        _style("Picture", "", '<style:graphic-properties style:vertical-pos="top"/>', family="graphic"),
        _style("Formula", "", '<style:graphic-properties style:vertical-pos="middle"/>', family="graphic"),
    ]
    inside = f"<office:styles>{''.join(styles)}</office:styles>"
    return f"{_XML}<office:document-styles {_NAMESPACES}>{inside}</office:document-styles>"
