"""Shapes of input that make careless readers and checks take time with the square of the size, each for any size."""

from __future__ import annotations

from collections.abc import Callable

from stillpage_core.document.node import Mark, Node, make, text_node

from .documents import (
    STRONG,
    animation,
    bulleted,
    cell,
    download,
    downloads,
    film,
    formula,
    further,
    gallery,
    heading,
    hosted,
    item,
    link,
    numbered,
    paragraph,
    picture,
    post,
    read_next,
    slide,
    slideshow,
    table,
    words,
)

Texts = dict[str, Callable[[int], str]]

TEXT: Texts = {
    "dashes": lambda n: "- \n" * n,
    "items": lambda n: "- word here\n" * n,
    "points": lambda n: "a." * n,
    "stops": lambda n: "." * n,
    "at signs": lambda n: "a@" * n,
    "hyphens": lambda n: "a-" * n,
    "www": lambda n: "www." * n,
    "schemes": lambda n: "http://" * n,
    "numbers": lambda n: "".join(f"{each}. x\n" for each in range(n)),
    "indents": lambda n: "".join(" " * (each % 20) + "- x\n" for each in range(n)),
    "spaces": lambda n: " " * n + "x",
    "rows of spaces": lambda n: "a  " * n,
    "tabs": lambda n: "a\tb\n" * n,
}
HTML: Texts = {
    "pictures": lambda n: "".join(f'<img src="https://a.example/{each}.jpg" alt="x">' for each in range(n)),
    "one picture": lambda n: '<img src="https://a.example/1.jpg" alt="x">' * n,
    "pictures with bytes": lambda n: '<p><img src="data:image/png;base64,AAAA">' * n,
    "open divs": lambda n: "<div>a" * n,
    "closed divs": lambda n: "<div>a</div>" * n,
    "open spans": lambda n: "<span>a" * n,
    "breaks": lambda n: "a<br>" * n,
    "empty lines": lambda n: "<p>" + "<br>" * n + "a",
    "marks": lambda n: "<b>a</b><i>b</i>" * n,
    "items": lambda n: "<ul>" + "<li>a" * n,
    "notes": lambda n: (
        "".join(f'<p>a<a id="r{each}" href="#n{each}">1</a>' for each in range(n))
        + "<ol>"
        + "".join(f'<li id="n{each}"><a href="#r{each}">1</a> b' for each in range(n))
    ),
    "places": lambda n: "".join(f'<h2 id="a{each}">x</h2><p><a href="#a{each}">y</a>' for each in range(n)),
    "one place": lambda n: '<h2 id="a">x</h2>' + '<p><a href="#a">y</a>' * n,
    "bad links": lambda n: "".join(f'<a href="bad:{each}">y</a> ' for each in range(n)),
    "rows": lambda n: "<table>" + "<tr><td>a<td>b" * n,
    "typed items": lambda n: "<p>- a" * n,
    "hard spaces": lambda n: "<p>" + "&nbsp;" * n,
    "lines of code": lambda n: "<pre>" + "a\n" * n,
    "listed paragraphs": lambda n: "<p style='mso-list:l0 level1 lfo1'>a</p>" * n,
    "bold lines": lambda n: "<p><b>Lock</b></p><p>x</p>" * n,
    "descriptions": lambda n: "<dl>" + "<dt>a<dd>b" * n,
    "ruby": lambda n: "<p>" + "<ruby>a<rt>b</ruby>" * n,
}
MARKDOWN: Texts = {
    "backticks": lambda n: "`a" * n,
    "stars": lambda n: "*a " * n,
    "half links": lambda n: "[a](" * n,
    "quotations": lambda n: ">" * n,
    "items": lambda n: "- a\n" * n,
    "rows": lambda n: "|a|b|\n|-|-|\n" + "|a|b|\n" * n,
    "elements": lambda n: "<div>\n\n" * n,
    "dollars": lambda n: "$a" * n,
    "notes": lambda n: (
        "".join(f"a[^{each}] " for each in range(n)) + "\n\n" + "".join(f"[^{each}]: b\n\n" for each in range(n))
    ),
    "references": lambda n: "".join(f"[a{each}]: /u\n" for each in range(n)),
    "angles": lambda n: "<" * n,
    "underscores": lambda n: "_a_b" * n,
}
"""Without rows of opening brackets, with which markdown-it-py's work does grow; the reader looks at so many only."""

_BREAK = make("line_break")
_CODE = Mark("code")


def _lines(line: str, count: int) -> Node:
    return paragraph(*(part for _ in range(count) for part in (text_node(line), _BREAK)))


DOCUMENTS: dict[str, Callable[[int], list[Node]]] = {
    "lines that begin as items": lambda n: [_lines("- a", n)],
    "paragraphs that begin as items": lambda n: [paragraph("- a")] * n,
    "points": lambda n: [paragraph("a." * n)],
    "rows of spaces": lambda n: [paragraph("a  \u00a0" * n)],
    "spread letters": lambda n: [paragraph("a b c d " * n)],
    "capitals": lambda n: [paragraph("AB CD " * n)],
    "hyphened capitals": lambda n: [paragraph("AB-" * n)],
    "doubled words": lambda n: [paragraph("the the " * n)],
    "marks by turns": lambda n: [paragraph(*(words("the the ", _CODE if at % 2 else STRONG) for at in range(n)))],
    "links": lambda n: [paragraph(*(part for at in range(n) for part in (words("here", link(f"page:{at}")), "x ")))],
    "links to one place": lambda n: [
        paragraph(*(part for _ in range(n) for part in (words("here", link("page:1")), "x ")))
    ],
    "counted headings": lambda n: [heading(2, f"Lock {at}") for at in range(n)],
    "headings alike": lambda n: [heading(2, "Lock")] * n,
    "deep headings": lambda n: [heading(2 + at % 5, "Lock") for at in range(n)],
    "pictures": lambda n: [picture(1, "Gates")] * n,
    "broken lists": lambda n: [bulleted(item(paragraph("a"))), paragraph()] * n,
    "empty paragraphs": lambda n: [paragraph()] * n,
    "bold lines": lambda n: [paragraph(words("Lock", STRONG))] * n,
    "empty lines": lambda n: [paragraph("a", *([_BREAK] * n), "b")],
    "rows": lambda n: [table(*[[cell("a"), cell("b")]] * n)],
    "sentences": lambda n: [paragraph("It is. " * n)],
    "initials": lambda n: [paragraph("A. " * n)],
    "another language": lambda n: [_lines("Le chat est sur la table et il dort", n)],
    "films": lambda n: [film(20, caption=f"Lock {at}") for at in range(n)],
    "films elsewhere": lambda n: [hosted(40)] * n,
    "downloads": lambda n: [downloads(*(download(7, words=f"Form {at}") for at in range(n)))],
    "a gallery": lambda n: [gallery(*(picture(1, f"Lock {at}") for at in range(n)))],
    "slides": lambda n: [slideshow(*(slide(picture(1), heading=f"Lock {at}") for at in range(n)))],
    "read next": lambda n: [read_next(*(further("page:1", words=f"Lock {at}") for at in range(n)))],
    "animations": lambda n: [animation(8, width=at + 100) for at in range(n)],
    "posts": lambda n: [post(9)] * n,
    "notes": lambda n: [
        *(paragraph("a", words("1", link(f"#n{at}"))) for at in range(n)),
        numbered(*(item(paragraph("b"), anchor=f"n{at}") for at in range(n))),
    ],
    "headings that are led to": lambda n: [
        *(heading(2, "Lock", anchor=f"a{at}") for at in range(n)),
        *(paragraph(words("a", link(f"#a{at}"))) for at in range(n)),
    ],
    "equations": lambda n: [paragraph(formula("x^2"), "a")] * n,
}
