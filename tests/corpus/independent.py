"""The words of documents as other libraries find them: markdown-it-py and lxml."""

from __future__ import annotations

import re
import zipfile
from collections import Counter
from io import BytesIO

from lxml import etree, html
from markdown_it import MarkdownIt

WORD = re.compile(r"[^\W\d_]+|\d+")
"""Letters or figures; the sign of a note stands right behind a word."""
NOTE = re.compile(r"^ {0,3}\[\^[^\]\s]+\]:", re.MULTILINE)
"""Notes are numbered by their order."""
_ENVIRONMENT = re.compile(r"\\(?:begin|end)\{(?:equation|displaymath)\*?\}")
"""What says of LaTeX that it is an equation is none of its words."""
_SIGN = re.compile(r"[\s\[\](){}]*\d{0,3}[\s\[\](){}]*")
TASK = re.compile(r"^(\s*(?:[-*+]|\d+[.)]) )\[[xX ]\] ", re.MULTILINE)
UNSEEN = (
    "math",
    "script",
    "style",
    "template",
    "noscript",
    "head",
    "svg",
    "select",
    "iframe",
    "object",
    "video",
    "audio",
)
_INLINE = frozenset(
    """a abbr b bdi bdo cite code data del dfn em font i ins kbd label mark q s samp small span strong sub sup time tt u
    var wbr""".split()
)


def words_of_html(text: str) -> Counter[str]:
    """The words that a page shows: elements within a line part none, all others do."""
    parser = html.HTMLParser(encoding="utf-8")
    text = _ENVIRONMENT.sub(" ", text)
    whole = text if "<html" in text.lower() else f"<div>{text}</div>"
    root = html.fromstring(whole.encode(), parser=parser)
    for element in list(root.iter(*UNSEEN)):
        if element.getparent() is not None:
            element.drop_tree()
    for link in list(root.iter("a")):
        if (link.get("href") or "").startswith("#") and _SIGN.fullmatch("".join(link.itertext())):
            link.drop_tree()
    found: list[str] = []
    _gather(root, found)
    return Counter(WORD.findall("".join(found)))


def _gather(element: etree._Element, found: list[str]) -> None:
    waiting: list[etree._Element | str] = [element]
    while waiting:
        each = waiting.pop()
        if isinstance(each, str):
            found.append(each)
            continue
        between = "" if each.tag in _INLINE else "\n"
        found.append(between + (each.text or "" if isinstance(each.tag, str) else ""))
        waiting.append(between)
        for child in reversed(each):
            waiting += [child.tail or "", child]


def words_of_markdown(text: str) -> Counter[str]:
    """The words of a Markdown text, by way of the HTML that markdown-it-py makes of it."""
    without_signs = NOTE.sub("", TASK.sub(r"\1", text))
    rendered = MarkdownIt("commonmark").enable(["table", "strikethrough"]).render(without_signs)
    return words_of_html(rendered)


def words_of_docx(data: bytes) -> Counter[str]:
    """Every word of the body of a DOCX, whatever it stands in (ECMA-376, part 1, 17.3.3.31); deleted ones have an
    element of their own."""
    with zipfile.ZipFile(BytesIO(data)) as package:
        root = etree.fromstring(package.read("word/document.xml"))
    found: list[str] = []
    for element in root.iter():
        name = etree.QName(element).localname if isinstance(element.tag, str) else ""
        if name == "t":
            found.append(element.text or "")
        elif name in ("p", "tab", "br", "cr"):
            found.append("\n")
    return Counter(WORD.findall("".join(found)))


def words_of_odt(data: bytes) -> Counter[str]:
    """Every word of the paragraphs of an ODT, whatever they stand in."""
    with zipfile.ZipFile(BytesIO(data)) as package:
        root = etree.fromstring(package.read("content.xml"))
    body = next(each for each in root.iter("{*}body"))
    found: list[str] = []
    depth = 0
    for event, element in etree.iterwalk(body, events=("start", "end")):
        name = etree.QName(element).localname
        found.append("\n" if name in ("p", "h", "tab", "s", "line-break", "note", "frame") else "")
        depth += (1 if event == "start" else -1) if name in ("p", "h") else 0
        found.append(((element.text if event == "start" else element.tail) or "") if depth else "")
    return Counter(WORD.findall("".join(found)))
