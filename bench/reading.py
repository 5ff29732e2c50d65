"""Reading of HTML, DOCX and Markdown at three sizes: python -m bench.reading

Needs no server. Each is beside a reference of the same run, the two by turns, the best of several: HTML beside a bare
parse of the same bytes by lxml, DOCX beside mammoth's conversion to HTML, Markdown beside markdown-it-py's rendering
with the same extensions. “Growth” is the time for a text ten times as long, by ten; 1.0 is linear.
"""

from __future__ import annotations

import io
import time
from collections.abc import Callable
from contextlib import suppress
from functools import partial

import mammoth
from lxml import html as lxml_html
from markdown_it import MarkdownIt

from stillpage_core.document.node import Mark, Node, document_of, make, text_node
from stillpage_core.errors import ReadingError
from stillpage_core.formats import FORMATS
from stillpage_core.reading import read_html, read_markdown, read_text
from stillpage_core.reading.docx import read_docx
from stillpage_core.resolving import FixedResolver
from stillpage_core.writing import markdown
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.html import html_file
from tests.core import nasty

from .common import SMALL, aim

SIZES = (10_000,) if SMALL else (10_000, 100_000, 1_000_000)

PROSE = (
    "The canal winds on between its hedges, and nobody is in a hurry. Fourteen locks lift a boat by thirty metres, and "
    "every one of them is opened by hand. Whoever has worked a paddle in January knows how cold the iron is, and how "
    "quiet the water grows once the gates are shut. "
)


def part(number: int) -> list[Node]:
    """A section of a page as authors write them: a heading, paragraphs with some stress and a link, a list, a table."""
    strong = Mark("strong")
    link = Mark("link", {"href": "https://varrow.example/", "title": None, "new_window": False})
    words = [
        text_node(PROSE * 2),
        text_node("Lock ", [strong]),
        text_node(str(number), [link]),
        text_node(". " + PROSE),
    ]
    items = [make("list_item", [make("paragraph", [text_node(PROSE[:66])])]) for _ in range(4)]
    cells = [make("table_cell", [make("paragraph", [text_node("4 January")])]) for _ in range(3)]
    heads = [make("table_header", cell.content) for cell in cells]
    return [
        make("heading", [text_node(f"Section {number}")], level=2),
        make("paragraph", words),
        make("paragraph", [text_node(PROSE * 3)]),
        make("bulleted_list", items),
        make("table", [make("table_grid", [make("table_row", heads), *(make("table_row", cells) for _ in range(3))])]),
    ]


def page(size: int) -> Node:
    """A document whose HTML has about this many bytes."""
    one = len(painted(document_of(part(1))))
    return document_of(block for number in range(max(1, size // one)) for block in part(number))


def painted(document: Node) -> str:
    """A document's HTML as other programs write it: with a class and a style on every paragraph."""
    written = html_file(document, FixedResolver(), "Walks", "en-GB")
    return written.replace("<p>", '<p class="Body" style="margin: 0cm; line-height: 115%">')


def of_html(document: Node) -> tuple[int, Callable[[], object], Callable[[], object]]:
    text = painted(document)
    data = text.encode()
    return len(data), lambda: read_html(text), lambda: lxml_html.document_fromstring(data)


def of_docx(document: Node) -> tuple[int, Callable[[], object], Callable[[], object]]:
    data = FORMATS["docx"].write(document, Carried("Walks"))
    return len(data), lambda: read_docx(data), lambda: mammoth.convert_to_html(io.BytesIO(data))


def of_markdown(document: Node) -> tuple[int, Callable[[], object], Callable[[], object]]:
    text = markdown(document)
    rendering = MarkdownIt("commonmark").enable(["table", "strikethrough"])
    return len(text.encode()), lambda: read_markdown(text), lambda: rendering.render(text)


def best(ours: Callable[[], object], reference: Callable[[], object], rounds: int) -> tuple[float, float]:
    """The shortest times of both, taken by turns, in seconds."""
    times: tuple[list[float], list[float]] = ([], [])
    for _ in range(rounds):
        for call, found in zip((ours, reference), times, strict=True):
            begin = time.perf_counter()
            call()
            found.append(time.perf_counter() - begin)
    return min(times[0]), min(times[1])


def main() -> None:
    """Print a line for each format and size."""
    print(f"{'':10}{'bytes':>10}{'ours, ms':>12}{'reference':>12}{'ratio':>8}{'aim':>6}{'growth':>9}")
    for name, of, aim_of in (("HTML", of_html, 8.0), ("DOCX", of_docx, 1.3), ("Markdown", of_markdown, 3.0)):
        before = 0.0
        for size in SIZES:
            length, ours, reference = of(page(size))
            took, beside = best(ours, reference, 20 if size < 50_000 else 8 if size < 500_000 else 3)
            growth = f"{took / before / 10:.2f}" if before else ""
            ratio = took / beside
            line = (
                f"{name:10}{length:>10,}{took * 1000:>12.1f}{beside * 1000:>12.1f}{ratio:>8.2f}{aim_of:>6}{growth:>9}"
            )
            print(line, flush=True)
            before = took
        aim(f"{name} beside its reference, of the largest", ratio, most=aim_of)
    nasty_shapes()


def _read(read: Callable[[str], object], text: str) -> None:
    with suppress(ReadingError):  # To say at once that it is too much is in proportion, too.
        read(text)


def nasty_shapes() -> None:
    """Print how much longer shapes that are made to take long take when they are four times as large, by four."""
    few = 200 if SMALL else 2_500
    worst = 0.0
    for name, read, shapes in (
        ("Text", read_text, nasty.TEXT),
        ("HTML", read_html, nasty.HTML),
        ("Markdown", read_markdown, nasty.MARKDOWN),
    ):
        for what, shape in shapes.items():
            one, four = shape(few), shape(4 * few)
            took, took_four = best(partial(_read, read, one), partial(_read, read, four), 3)
            growth = took_four / took / 4
            if growth > 1.3:
                print(f"{name:10}{what:24}{took * 1000:>9.1f}{took_four * 1000:>12.1f} ms, growth {growth:.2f}")
            # How deep elements may stand in each other is bounded before a tree is built (`reading.html.nesting`).
            worst = max(worst, growth if took_four > 0.005 and what != "open divs" else 0)
    aim("the worst growth of nasty shapes that are four times as large", worst, most=1.8)


if __name__ == "__main__":
    main()
