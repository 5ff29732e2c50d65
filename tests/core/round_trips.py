"""What comes back of each kind of thing after it went out as a file of each format: prints docs/round-trips.md."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import replace

from stillpage_core.document import Node, normal_form
from stillpage_core.document.node import make
from stillpage_core.document.walking import text_of, walk
from stillpage_core.formats import FORMATS
from stillpage_core.reading import Arriving
from stillpage_core.writing.carrying import Carried, PictureFile

from .documents import (
    ABBREVIATION,
    EMPHASIS,
    FRENCH,
    PLAIN_MARKS,
    STRONG,
    TONE,
    aside,
    bulleted,
    call_to_action,
    cell,
    divider,
    document,
    equation,
    formula,
    heading,
    item,
    link,
    numbered,
    paragraph,
    picture,
    preformatted,
    quotation,
    region,
    table,
    words,
)

_BREAK = make("line_break")
_NOTE = words("1", link("#note-a"), PLAIN_MARKS[2])
SAMPLES: dict[str, tuple[Node, ...]] = {
    "paragraphs, line breaks": (paragraph("one", _BREAK, "two"), paragraph("three")),
    "headings": (heading(2, "A"), paragraph("a"), heading(3, "B"), paragraph("b")),
    "strong, emphasis, struck, code": (
        paragraph(words("a", STRONG), " ", words("b", EMPHASIS), " ", words("c", PLAIN_MARKS[1])),
    ),
    "underlined, raised, lowered": (paragraph(*(words(f"{mark.kind} ", mark) for mark in PLAIN_MARKS[:4]), "end"),),
    "links": (paragraph(words("away", link("https://a.example/")), " and on"),),
    "links with a title, in a new window": (
        paragraph(words("away", link("https://a.example/", title="Away", new_window=True)), " and on"),
    ),
    "links to a heading": (paragraph(words("down", link("#gates"))), heading(2, "Gates", anchor="gates")),
    "lists": (bulleted(item(paragraph("a"), numbered(item(paragraph("b")), start=3))),),
    "lists side by side": (bulleted(item(paragraph("a"))), bulleted(item(paragraph("b")))),
    "preformatted text": (preformatted("a  b", "", "c", language="python"), preformatted("d")),
    "preformatted text in a list": (bulleted(item(paragraph("a"), preformatted("b  c"))),),
    "quotations with a source": (quotation(paragraph("a"), source="Somebody"),),
    "lists in a quotation": (quotation(paragraph("a"), bulleted(item(paragraph("b")))),),
    "asides": (aside("tip", paragraph("a"), paragraph("b")),),
    "tables": (table([cell("a", header=True), cell("b", header=True)], [cell("c"), cell("d")]), paragraph("end")),
    "tables with a caption": (table([cell("a", header=True)], [cell("b")], caption="What it shows"), paragraph("end")),
    "merged cells": (table([cell("a", across=2)], [cell("b"), cell("c")]), paragraph("end")),
    "lists in a cell": (table([cell(bulleted(item(paragraph("a"))), paragraph("b")), cell("c")]), paragraph("end")),
    "pictures with an alt text": (picture(1, "Closed gates"),),
    "pictures with a caption": (picture(1, "Closed gates", caption="The gates of Lock 4"),),
    "pictures without an alt text": (picture(1),),
    "decorative pictures": (picture(1, decorative=True),),
    "how a picture stands": (picture(1, "Gates", place="end", width=200),),
    "notes": (paragraph("a", _NOTE, "."), numbered(item(paragraph("b"), anchor="note-a"))),
    "equations": (paragraph("Of ", formula("x^{2}"), " comes"), equation(r"\frac{a}{b}")),
    "words in another language": (paragraph("a ", words("écluse", FRENCH), " b"),),
    "abbreviations": (paragraph("the ", words("VCT", ABBREVIATION), " b"),),
    "tones": (paragraph("a ", words("rust", TONE), " b"),),
    "text styles": (paragraph("a", style="lead"),),
    "paragraphs in the middle": (paragraph("a", align="centre"),),
    "calls to action": (call_to_action("Get a licence", "https://a.example/"),),
    "dividers": (paragraph("a"), divider(), paragraph("b")),
    "regions": (paragraph("a"), region("side", heading(2, "B"), paragraph("b")), region("foot", paragraph("c"))),
}
_GATES = PictureFile("gates.png", "image/png", b"bytes", 24, 16)
ORDER = ("html", "md", "docx", "odt", "txt")
_ANCHOR = re.compile(r"note-\w+")


def settled(page: Node) -> Node:
    """A document in which pictures have one number, and notes the anchors of their order."""

    def settled(node: Node) -> Node:
        attrs = {**node.attrs, "item": 1} if "item" in node.attrs else node.attrs
        if attrs.get("anchor"):
            attrs = {**attrs, "anchor": _ANCHOR.sub("note-a", str(attrs["anchor"]))}
        marks = tuple(
            replace(mark, attrs={**mark.attrs, "href": _ANCHOR.sub("note-a", str(mark.attrs["href"]))})
            if mark.kind == "link"
            else mark
            for mark in node.marks
        )
        return Node(node.kind, attrs, tuple(map(settled, node.content)), marks, node.text)

    return settled(normal_form(page))


def _words(page: Node) -> Counter[str]:
    found = Counter(re.findall(r"\w+", text_of(page)))
    for _, node in walk(page):
        found.update(re.findall(r"\w+", str(node.attrs.get("alt") or "")))
    return found


def came_back(ending: str, blocks: tuple[Node, ...]) -> str:
    """“same”, “words” where the words came back as something else, or “less” where not even they did."""
    last = () if blocks[-1].kind == "numbered_list" else (paragraph("After."),)  # Notes stand at the end.
    page = document(paragraph("Before."), *blocks, *last)
    data = FORMATS[ending].write(page, Carried(pictures={1: _GATES}))
    back = FORMATS[ending].read(data, Arriving(), 1).document
    if settled(back) == settled(page):
        return "same"
    return "less" if _words(page) - _words(back) else "words"


def main() -> None:
    """Print the table."""
    signs = {"same": "●", "words": "○", "less": "–"}
    print("# What comes back\n")
    print("Generated by `python -m ops.generate`; a test holds it. Each thing goes out as a file and is read again.\n")
    print("● the same · ○ its words, as something plainer · – not even all its words\n")
    print(f"| | {' | '.join(FORMATS[ending].name for ending in ORDER)} |")
    print(f"|---|{'---|' * len(ORDER)}")
    for name, blocks in SAMPLES.items():
        print(f"| {name} | {' | '.join(signs[came_back(ending, blocks)] for ending in ORDER)} |")


if __name__ == "__main__":
    main()
