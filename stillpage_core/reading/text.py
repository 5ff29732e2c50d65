"""Plain text → document: an empty line parts paragraphs; what was typed as a list, a table or a link becomes one."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from itertools import pairwise

from ..document.fitting import fitted
from ..document.node import Mark, Node, in_order, make
from ..references import parse_reference
from .listed import is_empty
from .mending import mended
from .reading import Arriving, Reading, has_words

_CONTROL = dict.fromkeys((*range(32), *range(127, 160), *range(55296, 57344))) | dict.fromkeys((9, 10, 11, 12), " ")
_HAS_CONTROL = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff]")
_ADDRESS = re.compile(
    r"(?<![\w@/])(?:https?://[^\s<>\"“”]+|www\.[\w-]+\.[^\s<>\"“”]+"
    r"|(?<![.+-])[\w.+-]{1,64}+@[\w-]{1,63}(?:\.[\w-]{1,63})+)",
    re.IGNORECASE,
)

WRAPPED = 50
"""Lines at least this long, in characters, that go on in lower case were broken by a program and not by an author."""


def clean(text: str) -> str:
    """Text without what no document may hold: tabs and line ends become spaces, other control characters and lone
    surrogates go."""
    return text.translate(_CONTROL) if _HAS_CONTROL.search(text) else text


def as_typed(line: str) -> str:
    """A line of preformatted text: a tab, which no document holds, is four spaces."""
    return clean(line.replace("\t", "    "))


def read_text(text: str, arriving: Arriving | None = None, *, under: int = 1) -> Reading:
    """Read plain text with line ends of any kind. ``under`` as in `mending.mended`."""
    arriving = arriving or Arriving()
    blocks = [_linked(block) for part in _parts(text) for block in _blocks(part, arriving)]
    return arriving.finished(mended(blocks, arriving.told, under), lambda: has_words(text))


def read_plain(text: str) -> Reading:
    """Read plain text and mend nothing: paragraphs and line ends as they stand."""
    return Arriving().finished(plain_blocks(text))


def plain_blocks(text: str) -> list[Node]:
    """The paragraphs of plain text, nothing mended."""
    return [_paragraph(part) for part in _parts(text)]


def _parts(text: str) -> list[list[str]]:
    """The lines of each paragraph."""
    plain = text.removeprefix("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
    plain = plain.replace("\u2028", "\n").replace("\u2029", "\n\n").replace("\x0b", "\n").replace("\x0c", "\n\n")
    parts: list[list[str]] = [[]]
    for line in plain.split("\n"):
        if line.strip():
            parts[-1].append(line)
        elif parts[-1]:
            parts.append([])
    return [part for part in parts if part]


def _paragraph(lines: Sequence[str]) -> Node:
    content: list[Node] = []
    for line in lines:
        content += [make("line_break")] if content else []
        # Spaces before a typed sign say how deep it is nested.
        content += [Node("text", text=words)] if (words := clean(line.expandtabs(4)).rstrip(" ")) else []
    return make("paragraph", content)


def _blocks(lines: list[str], arriving: Arriving) -> Iterator[Node]:
    cells = [line.strip("\r").split("\t") for line in lines]
    even = 1 < len(cells[0]) < 200 and all(len(row) == len(cells[0]) for row in cells)
    if even and len(lines) > 1 and any(row[0].strip() for row in cells):
        arriving.told.mended("Lines parted by tabs became a table", "{} runs of lines parted by tabs became tables")
        yield _table(cells)
        return
    yield _paragraph(_unwrapped(lines, arriving))


def _table(cells: Sequence[Sequence[str]]) -> Node:
    def cell(words: str) -> Node:
        shown = clean(words).strip(" ")
        return make(
            "table_cell", fitted("table_cell", [make("paragraph", [Node("text", text=shown)] if shown else [])])
        )

    rows = [make("table_row", [cell(words) for words in row]) for row in cells]
    return make("table", [make("table_grid", rows)])


_MARKED = re.compile(r"\s*(?:[-–*•·▪◦‣●○■□➢✓✔]|\d{1,3}[.)])\s+\S")


def _unwrapped(lines: list[str], arriving: Arriving) -> list[str]:
    """Lines joined where a program broke them: the one before is long, and the next one begins no item of a list."""
    whole = [lines[0]]
    broken = 0
    for before, line in pairwise(lines):
        goes_on = len(before.rstrip()) >= WRAPPED and not before.endswith("  ") and not _MARKED.match(line)
        if goes_on and ("\t" not in before + line):
            whole[-1] = f"{whole[-1].rstrip()} {line.strip()}"
            broken += 1
        else:
            whole.append(line)
    arriving.told.mended("A hard line end was made a space", "{} hard line ends were made spaces", broken)
    return whole


def _linked(block: Node) -> Node:
    """A paragraph in which every address that was typed leads there."""
    if block.kind != "paragraph" or is_empty([block]):
        return block
    made: list[Node] = []
    for node in block.content:
        at = 0
        for match in _ADDRESS.finditer(node.text):
            words = re.sub(r"[.,;:!?'’)\]]+$", "", match[0])
            href = words if re.match("https?://", words, re.IGNORECASE) else f"https://{words}"
            href = f"mailto:{words}" if "@" in words and "/" not in words else href
            href = re.sub("^[A-Za-z]+:", lambda scheme: scheme[0].lower(), href)
            if not parse_reference(href):
                continue
            made += [Node("text", {}, (), node.marks, node.text[at : match.start()])] if match.start() > at else []
            link = Mark("link", {"href": href, "title": None, "new_window": False})
            made.append(Node("text", {}, (), in_order((*node.marks, link)), words))
            at = match.start() + len(words)
        if at == 0:
            made.append(node)
        elif at < len(node.text):
            made.append(Node("text", {}, (), node.marks, node.text[at:]))
    return block.with_content(made)
