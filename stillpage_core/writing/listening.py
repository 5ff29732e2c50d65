"""What a screen reader says of a page, in order.

The page is heard as it is published: from its HTML, with the roles and names that HTML-AAM 1.0 and the Accessible Name
and Description Computation 1.2 (W3C) give the elements that the renderer writes. The words in which roles are told
(“heading level 2”, “list, 4 items”) are common practice: screen readers differ in them.

1. `marked_html`: the text as published, each block bearing its path, so that what is heard can be found on the sheet
2. `heard`: HTML to a tree of roles and names
3. `spoken`: the tree to lines, as they are said one after another
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import asdict, dataclass, field, replace
from typing import Any

import lxml.html
from lxml.html import HtmlElement

from ..document.node import Node
from ..document.walking import walk
from ..errors import Path
from ..media.shown import Rooms
from ..resolving import Resolver
from .equation_words import equation_words
from .html import NEW_WINDOW, Published

PLACE = "data-at"
"""The attribute that holds a block's path."""


class _Marked(Published):
    def __init__(self, resolver: Resolver, document: Node, rooms: Rooms | None) -> None:
        super().__init__(resolver, rooms)
        self.paths = {id(node): path for path, node in walk(document)}

    def block(self, node: Node) -> str:
        return self._at(super().block(node), node)

    def heading(self, node: Node, anchor: str) -> str:
        return self._at(super().heading(node, anchor), node)

    def _at(self, html: str, node: Node) -> str:
        mark = f' {PLACE}="{".".join(map(str, self.paths.get(id(node), ())))}"'
        return re.sub(r"^<[a-z0-9]+", lambda tag: tag[0] + mark, html, count=1)


def marked_html(document: Node, resolver: Resolver, rooms: Rooms | None = None) -> str:
    """`published_html` with the path of every block in an attribute `PLACE`."""
    return _Marked(resolver, document, rooms).document(document)


@dataclass
class Heard:
    """A thing on the page with its role (ARIA's name for it), its accessible name, its level (of a heading, or how deep
    an item's list is nested), the language of its words and the path of the block it stands in. Words are of the role
    "text" and hold no others. ``marker`` is an item's number, or what a thing calls its role (“carousel”); ``across``
    and ``down`` are the places of a cell."""

    role: str
    name: str = ""
    level: int = 0
    language: str = ""
    path: Path | None = None
    children: list[Heard] = field(default_factory=list)
    marker: str = ""
    across: int = 1
    down: int = 1


_ROLES = {
    "nav": "navigation",
    "main": "main",
    "p": "paragraph",
    "ul": "list",
    "ol": "list",
    "li": "listitem",
    "figure": "figure",
    "figcaption": "figcaption",
    "blockquote": "blockquote",
    "hr": "separator",
    "table": "table",
    "caption": "caption",
    "tr": "row",
    "td": "cell",
    "math": "math",
    "header": "banner",
    "footer": "contentinfo",
    **{f"h{level}": "heading" for level in range(1, 7)},
}
"""HTML-AAM 1.0, 3.5. header and footer have these roles as parts of the page as a whole, which is where they stand."""

_NAMED_BY_CONTENT = frozenset({"heading", "link", "button", "cell", "columnheader", "rowheader"})
"""ARIA 1.2, 5.2.8.5, as far as the renderer has them."""

_BLOCKS = frozenset({"paragraph", "list", "listitem", "figure", "figcaption", "row", "table", "caption", "blockquote"})


def heard(html: str) -> list[Heard]:
    """What stands on a whole page, as a tree: the things directly within its body."""
    tree = lxml.html.document_fromstring(html)
    body = tree.find("body")
    language = tree.get("lang", "")
    return _children(body, None, language) if body is not None else []


def _children(element: HtmlElement, path: Path | None, language: str) -> list[Heard]:
    found: list[Heard] = []

    def words(text: str | None) -> None:
        if text and (line := " ".join(text.split())):
            joint = " " if text[0].isspace() else ""
            ending = " " if text[-1].isspace() else ""
            found.append(Heard("text", f"{joint}{line}{ending}", 0, language, path))
        elif text:
            found.append(Heard("text", " ", 0, language, path))

    words(element.text)
    for child in element:
        if isinstance(child.tag, str):
            found += _thing(child, path, language)
        words(child.tail)
    return _joined(found)


def _thing(element: HtmlElement, path: Path | None, language: str) -> list[Heard]:
    place = element.get(PLACE)
    path = tuple(int(step) for step in place.split(".")) if place else path
    language = element.get("lang", language)
    tag = str(element.tag)
    if tag == "br":
        return [Heard("text", "\n", 0, language, path)]
    if tag == "img":
        alt = " ".join((element.get("alt") or "").split())
        return [Heard("image", alt, 0, language, path)] if alt else []
    if tag == "svg":
        label = element.get("aria-label", "")
        return [Heard("image", label, 0, language, path)] if label else []
    if tag in ("script", "track", "source"):
        return []
    if tag in ("video", "audio"):
        return [Heard(tag, element.get("aria-label", ""), 0, language, path)]
    if tag == "details" and element.get("open") is None:
        # What is folded away is not read, but for the words that open it.
        summary = element.find("summary")
        words = " ".join(summary.text_content().split()) if summary is not None else ""
        return [Heard("group", "", 0, language, path, [Heard("folded", words, 0, language, path)])]
    if tag == "math":
        return [Heard("math", equation_words(element), 0, language, path)]
    role = element.get("role") or _role(element, tag)
    children = _children(element, path, language)
    if role is None:
        return children
    made = Heard(role, element.get("aria-label", ""), 0, language, path, children)
    made.marker = element.get("aria-roledescription", "")
    if role == "heading":
        made.level = int(tag[1])
    elif role == "listitem":
        made.level = sum(above.tag in ("ul", "ol") for above in element.iterancestors())
    elif tag == "ol":
        items = (child for child in children if child.role == "listitem")
        for number, item in enumerate(items, int(element.get("start", 1))):
            item.marker = f"{number}. "
    elif tag in ("td", "th"):
        made.across, made.down = int(element.get("colspan", 1)), int(element.get("rowspan", 1))
    elif role == "table":
        made.name = next((_text(child) for child in children if child.role == "caption"), "")
    if role in _NAMED_BY_CONTENT and not made.name:
        made.name = _text(made)
    if role == "link" and not _text(made, equations=True) and not any("\n" in child.name for child in children):
        made.name, made.children = " ".join(element.get("title", "").split()), []
    return [made]


def _role(element: HtmlElement, tag: str) -> str | None:
    if tag == "a" and element.get("data-frame"):
        return "button"  # The module of the theme makes a press of it, which plays what it leads to.
    if tag == "a":
        return "link" if element.get("href") is not None else None
    if tag == "section":
        return "region" if element.get("aria-label") else None
    if tag == "th":
        return "rowheader" if element.get("scope") == "row" else "columnheader"
    return _ROLES.get(tag)


def _joined(found: list[Heard]) -> list[Heard]:
    """Neighbouring words of one language as one."""
    made: list[Heard] = []
    for each in found:
        if made and each.role == made[-1].role == "text" and each.language == made[-1].language:
            made[-1].name += each.name
        else:
            made.append(each)
    return made


def _text(thing: Heard, *, equations: bool = False) -> str:
    """The name from content: words and the names of pictures, blocks parted by a space. Equations are no part of a
    name, but of what is said."""
    return " ".join(_spaced(thing, equations).split())


def _spaced(thing: Heard, equations: bool) -> str:
    if thing.role in ("text", "image"):
        return thing.name
    if thing.role == "math":
        return f" {thing.name} " if equations else ""
    inside = "".join(_spaced(child, equations) for child in thing.children)
    if thing.role == "link" and not thing.children:
        return thing.name
    return f" {inside} " if thing.role in _BLOCKS else inside


@dataclass(frozen=True)
class Line:
    """Something that is said in one go.

    ``says`` is what is heard. ``stop`` is what readers jump by that it is: "heading", "link", "landmark" or "".
    ``depth`` is how deep it stands within lists, tables and the like; ``language`` that of its words; ``path`` leads to
    the block on the sheet, and is None outside the text.
    """

    says: str
    role: str
    stop: str
    level: int
    depth: int
    language: str
    path: Path | None

    def to_json(self) -> dict[str, Any]:
        return {**asdict(self), "path": None if self.path is None else list(self.path)}


_LANDMARKS = {
    "banner": "banner",
    "navigation": "navigation",
    "main": "main",
    "contentinfo": "content information",
    "region": "region",
}


def spoken(things: list[Heard], depth: int = 0) -> Iterator[Line]:
    """The lines that are said, one after another."""
    for thing in things:
        yield from _said(thing, depth)


def _said(thing: Heard, depth: int) -> Iterator[Line]:
    def line(says: str, stop: str = "", level: int = 0, at: int = depth) -> Line:
        return Line(says, thing.role, stop, level, at, thing.language, thing.path)

    inside = thing.children
    match thing.role:
        case "text":
            words = thing.name.strip()
            if any(letter.isalnum() for letter in words) or len(words) > 2:
                yield line(" ".join(words.split()))
        case "heading":
            yield line(
                f"heading level {thing.level}, {_text(thing, equations=True) or 'empty'}", "heading", thing.level
            )
            yield from (each for each in spoken(inside, depth + 1) if each.stop)
        case "link":
            yield line(f"link, {_told(_text(thing, equations=True)) or 'empty'}", "link")
        case "button":
            yield line(f"button, {_told(_text(thing))}")
        case "image":
            yield line(f"graphic, {thing.name}")
        case "math" | "video" | "audio":
            what = {"math": "equation", "video": "film", "audio": "sound"}[thing.role]
            yield line(f"{what}, {thing.name or 'without a name'}")
        case "folded":
            yield line(f"{thing.name}, collapsed")
        case "separator":
            yield line("separator")
        case "list":
            items = [child for child in inside if child.role == "listitem"]
            yield line(f"list, {_counted(len(items), 'item')}")
            for item in items:
                yield from _item(item, depth + 1)
            yield line("end of list")
        case "table":
            yield from _table(thing, depth)
        case "figure":
            captions = [child for child in inside if child.role == "figcaption"]
            yield from spoken([child for child in inside if child.role != "figcaption"], depth)
            for caption in captions:
                yield from _led(caption, "caption", depth)
        case "blockquote":
            yield line("quotation")
            yield from spoken(inside, depth + 1)
            yield line("end of quotation")
        case "note":
            yield from _led(thing, "note", depth)
            yield line("end of note")
        case "group" if thing.marker:
            yield line(f"{thing.name}, {thing.marker}")
            yield from spoken(inside, depth + 1)
        case role if role in _LANDMARKS:
            name = f"{thing.name}, " if thing.name else ""
            yield line(f"{name}{thing.marker or _LANDMARKS[role]}", "landmark")
            yield from spoken(inside, depth + (role == "navigation"))
        case _:
            yield from spoken(inside, depth)


def _item(item: Heard, depth: int) -> Iterator[Line]:
    lines = list(spoken(item.children, depth))
    first = lines[0] if lines else Line("empty", "listitem", "", 0, depth, item.language, item.path)
    yield replace(first, says=item.marker + first.says)
    yield from lines[1:]


def _led(thing: Heard, word: str, depth: int) -> Iterator[Line]:
    """The lines within, with a word before the first that says what they are."""
    for index, each in enumerate(spoken(thing.children, depth)):
        yield each if index else replace(each, says=f"{word}, {each.says}")


def _table(table: Heard, depth: int) -> Iterator[Line]:
    rows = [[cell for cell in row.children if cell.role != "text"] for row in table.children if row.role == "row"]
    placed, across = _placed(rows)
    name = f"{table.name}, " if table.name else ""
    size = f"{_counted(len(rows), 'row')}, {_counted(across, 'column')}"
    yield Line(f"table, {name}{size}", "table", "", 0, depth, table.language, table.path)
    columns: dict[int, str] = {}
    sides: dict[int, str] = {}
    said = -1
    for row, column, cell in placed:
        lead = f"row {row + 1}, " if row != said else ""
        said = row
        if cell.role == "columnheader":
            columns |= dict.fromkeys(range(column, column + cell.across), cell.name)
            lead += "column header, "
        elif cell.role == "rowheader":
            sides |= dict.fromkeys(range(row, row + cell.down), cell.name)
            lead += "row header, "
        else:
            lead += "".join(f"{each}, " for each in (sides.get(row, ""), columns.get(column, "")) if each)
        lines = list(spoken(cell.children, depth + 1))
        first = lines[0] if lines else Line("empty", cell.role, "", 0, depth + 1, cell.language, cell.path)
        yield replace(first, says=lead + first.says)
        yield from lines[1:]
    yield Line("end of table", "table", "", 0, depth, table.language, table.path)


def _placed(rows: list[list[Heard]]) -> tuple[list[tuple[int, int, Heard]], int]:
    """Each cell with its row and column, and how many columns there are (HTML Living Standard, 4.9.12.1)."""
    taken: set[tuple[int, int]] = set()
    placed: list[tuple[int, int, Heard]] = []
    for row, cells in enumerate(rows):
        column = 0
        for cell in cells:
            while (row, column) in taken:
                column += 1
            placed.append((row, column, cell))
            taken.update((row + y, column + x) for y in range(cell.down) for x in range(cell.across))
    return placed, max((column + 1 for _, column in taken), default=0)


def _counted(number: int, what: str) -> str:
    return f"{number} {what}{'' if number == 1 else 's'}"


def _told(name: str) -> str:
    """The name of a link with what stands in brackets set off by commas, as a voice sets it off."""
    opens = NEW_WINDOW.strip()
    if name.endswith(opens):
        name = f"{name.removesuffix(opens).rstrip()}, {opens.strip('()')}"
    return re.sub(r"\s*\(([^()]*)\)", r", \1", name).strip(" ,")
