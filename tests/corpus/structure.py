"""The structure of documents as other libraries find it (lxml, markdown-it-py), and what explains a difference.

Whatever is counted otherwise here than there has a reason: that something was told (a message of the reading), or that
it is nothing to a reader (a heading without words, a link without any). `between` says how many of a thing there may be
at least and at most; outside of that a difference is a fault.
"""

from __future__ import annotations

import re
import zipfile
from collections import Counter
from dataclasses import dataclass, field
from io import BytesIO

from lxml import etree, html
from markdown_it import MarkdownIt
from mdit_py_plugins.footnote import footnote_plugin

from stillpage_core.document.walking import walk
from stillpage_core.reading import Reading
from stillpage_core.reading.front_matter import split_front_matter

from .independent import NOTE, TASK, UNSEEN, WORD

KINDS = ("heading", "item", "cell", "link", "picture", "note")
ANY = 100_000


@dataclass
class Independent:
    """What another library finds: how many of each kind, and how many of them say nothing to a reader."""

    found: Counter[str] = field(default_factory=Counter)
    silent: Counter[str] = field(default_factory=Counter)


def of_html(text: str) -> Independent:
    """The structure of HTML by lxml."""
    whole = text if "<html" in text.lower() else f"<div>{text}</div>"
    root = html.fromstring(whole.encode(), parser=html.HTMLParser(encoding="utf-8"))
    for element in list(root.iter(*UNSEEN)):
        if element.getparent() is not None:
            element.drop_tree()
    made = Independent()
    for element in root.iter(etree.Element):
        tag = element.tag
        words = "".join(element.itertext()).strip()
        pictures = element.find(".//img") is not None
        if re.fullmatch("h[1-6]", tag):
            made.found["heading"] += 1
            made.silent["heading"] += not words
        elif tag == "li":
            made.found["item"] += 1
            made.silent["item"] += not words and not pictures
        elif tag in ("td", "th"):
            made.found["cell"] += 1
        elif tag == "a" and element.get("href"):
            made.found["link"] += 1
            sign = (element.get("href") or "").startswith("#") and not WORD.search(words)
            made.silent["link"] += (not words and not pictures) or sign
        elif tag == "img":
            made.found["picture"] += 1
            made.silent["picture"] += not element.get("src")
    return made


def of_markdown(text: str) -> Independent:
    """The structure of Markdown, by way of the HTML that markdown-it-py makes of it."""
    _, body = split_front_matter(text)
    parser = MarkdownIt("commonmark").enable(["table", "strikethrough"])
    made = of_html(parser.render(NOTE.sub("", TASK.sub(r"\1", body))))
    with_notes = MarkdownIt("commonmark").use(footnote_plugin, inline=False).render(body)
    made.found["note"] = with_notes.count('class="footnote-item"')
    return made


def of_docx(data: bytes) -> Independent:
    """The structure of a DOCX by its elements and the names of its styles (ECMA-376, part 1): paragraphs of a heading's
    style, of a list, cells, hyperlinks and pictures."""
    with zipfile.ZipFile(BytesIO(data)) as package:
        root = etree.fromstring(package.read("word/document.xml"))
        styles = etree.fromstring(package.read("word/styles.xml")) if "word/styles.xml" in package.namelist() else None
    names: dict[str, str] = {}
    for style in styles.iter("{*}style") if styles is not None else ():
        name = style.find("{*}name")
        names[_value(style, "styleId")] = _value(name, "val").lower() if name is not None else ""
    made = Independent()
    for paragraph in root.iter("{*}p"):
        style = paragraph.find("{*}pPr/{*}pStyle")
        name = names.get(_value(style, "val"), "") if style is not None else ""
        words = "".join(each.text or "" for each in paragraph.iter("{*}t")).strip()
        if re.fullmatch(r"heading \d", name) or name == "title":
            made.found["heading"] += 1
            made.silent["heading"] += not words
        elif paragraph.find("{*}pPr/{*}numPr") is not None or name.startswith("list"):
            made.found["item"] += 1
            made.silent["item"] += 1  # Whether its style or its number makes it an item is for the reader to say.
    made.found["cell"] = sum(1 for cell in root.iter("{*}tc") if cell.find("{*}tcPr/{*}vMerge") is None)
    made.silent["cell"] = made.found["cell"]
    made.found["link"] = made.silent["link"] = sum(1 for _ in root.iter("{*}hyperlink", "{*}instrText", "{*}fldSimple"))
    made.found["picture"] = sum(1 for _ in root.iter("{*}blip", "{*}imagedata"))
    signs = (each for each in root.iter("{*}footnoteReference", "{*}endnoteReference"))
    made.found["note"] = len({(each.tag, _value(each, "id")) for each in signs})
    made.silent["picture"] = sum(1 for fallback in root.iter("{*}Fallback") for _ in fallback.iter("{*}imagedata"))
    return made


def of_odt(data: bytes) -> Independent:
    """The structure of an ODT by its elements (OpenDocument 1.3, part 3)."""
    with zipfile.ZipFile(BytesIO(data)) as package:
        root = etree.fromstring(package.read("content.xml"))
        styles = etree.fromstring(package.read("styles.xml")) if "styles.xml" in package.namelist() else None
    body = next(each for each in root.iter("{*}body"))
    made = Independent()
    for heading in body.iter("{*}h"):
        made.found["heading"] += 1
        made.silent["heading"] += not "".join(map(str, heading.itertext())).strip()
    parents = {
        _value(style, "name"): _value(style, "parent-style-name")
        for part in (styles, root)
        for style in (part.iter("{*}style") if part is not None else ())
    }
    for paragraph in body.iter("{*}p"):
        name: str | None = _value(paragraph, "style-name")
        while name and not re.search("heading|title", name, re.IGNORECASE):
            name = parents.get(name)
        # A paragraph may be a heading by its style; whether it is one, is for the reader to say.
        made.found["heading"] += bool(name)
        made.silent["heading"] += bool(name)
    made.found["item"] = made.silent["item"] = sum(1 for _ in body.iter("{*}list-item", "{*}list-header"))
    made.found["cell"] = made.silent["cell"] = sum(1 for _ in body.iter("{*}table-cell"))
    made.found["link"] = made.silent["link"] = sum(1 for _ in body.iter("{*}a"))
    made.found["note"] = sum(1 for _ in body.iter("{*}note-body"))
    made.found["picture"] = sum(1 for _ in body.iter("{*}image"))
    made.silent["picture"] = sum(1 for frame in body.iter("{*}frame") if frame.find("{*}object") is not None)
    return made


def _value(element: etree._Element, name: str) -> str:
    return next((str(value) for key, value in element.attrib.items() if str(key).endswith(f"}}{name}")), "")


def of_reading(reading: Reading) -> Counter[str]:
    """The structure of a document of ours. A link that goes on over a line end or another mark is one; so are two side
    by side to one place, as HTML's are to a reader."""
    counted: Counter[str] = Counter()
    names = {"list_item": "item", "table_cell": "cell", "table_header": "cell"}
    for _, node in walk(reading.document):
        kind = names.get(node.kind, node.kind)
        counted["note"] += str(node.attrs.get("anchor") or "").startswith("note-")
        counted[kind] += kind in KINDS
        before = None
        for child in node.content:
            mark = next((mark for mark in child.marks if mark.kind == "link"), None)
            counted["link"] += mark is not None and mark != before
            before = mark
    return counted


_MORE: dict[str, dict[str, int]] = {
    r"(.+) bold lines? became": {"heading": 1},
    r"(.+) typed lists? became": {"item": ANY},
    r"What was said|Letters before": {},
}
_LESS: dict[str, dict[str, int]] = {
    r"(.+) headings? within": {"heading": 1},
    r"(.+) lists? within": {"item": ANY},
    r"(.+) tables? within": {"cell": ANY},
    r"(.+) tables? used for layout": {"cell": ANY},
    r"The numbers before lines": {"cell": 2},
    r"A link to “.*?(?:\((\d+) times\))?$": {"link": 1},
    r"Another link was left out": {"link": 1},
    r"(.+) more links were left out": {"link": 1},
    r"(.+) links? in the title": {"link": 1},
    r"(.+) links? that only repeats?": {"link": 1},
    r"(.+) links? around (?:a )?pictures?": {"link": 1},
    r"(.+) pictures? that came": {"picture": 1},
    r"(.+) tracking pictures?": {"picture": 1},
    r"(.+) (?:pieces? of )?hidden text": dict.fromkeys(KINDS, ANY),
    r"(.+) empty paragraphs?": {"item": ANY},
    r"A table of contents": dict.fromkeys(("item", "link", "heading"), ANY),
}


def _told(reading: Reading, rules: dict[str, dict[str, int]]) -> Counter[str]:
    """What the messages of a reading say of each kind."""
    counted: Counter[str] = Counter()
    for message in reading.messages:
        for pattern, kinds in rules.items():
            if match := re.match(pattern, message.sentence):
                written = next((group for group in match.groups() if group), "1").replace(",", "")
                times = int(written) if written.isdigit() else 1
                for kind, each in kinds.items():
                    counted[kind] += times * each
    return counted


def between(kind: str, other: Independent, reading: Reading) -> tuple[int, int]:
    """How many of a kind a reading has at least and at most, where another library finds so many."""
    found, silent = other.found[kind], other.silent[kind]
    less, more = _told(reading, _LESS)[kind], _told(reading, _MORE)[kind]
    notes = sum(str(node.attrs.get("anchor", "")).startswith("note-") for _, node in walk(reading.document))
    if kind == "note" and not found:
        more += ANY  # HTML has no element for notes.
    if kind == "heading":
        less += 1 if reading.title else 0
    if kind == "item":
        less, more = less + notes, more + notes
    if kind == "link":
        # The sign of a note is a link where others have none, and the way back from it is none here.
        less, more = less + 3 * notes, more + 3 * notes
    if kind == "cell" and found:
        more += ANY if any(node.kind == "table" for _, node in walk(reading.document)) else 0
    return found - silent - less, found + more
