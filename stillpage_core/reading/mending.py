"""Mending: structure that was painted becomes structure.

A typed list becomes a list, a short bold line a heading, rows of breaks and empty paragraphs become the space between
paragraphs that the theme gives, and so on. No word is lost but the signs typed before the items of a list. What is
mended already is left as it is: mending twice changes nothing more.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from operator import is_

from ..document.node import Node, make
from ..document.schema import SCHEMA
from ..document.walking import text_of
from .listed import Listed, Piece, assembled, captioned
from .reading import Told
from .regions import by_region

SPACES = " \u00a0\u2007\u202f"
_SIGNS = "-–*•·▪◦‣●○■□➢✓✔"
_BULLET = re.compile(rf"([{_SIGNS}])[{SPACES}]+(?=[^{SPACES}])")
_CERTAIN = frozenset("•▪◦‣●■➢")
"""Signs that nobody types but as an item of a list; one such line is a list of one."""
_NUMBER = re.compile(rf"(\d{{1,3}})[.)][{SPACES}]+(?=[^{SPACES}])")
_ROW = re.compile(rf"[{SPACES}]*[\u00a0\u2007\u202f][{SPACES}]+|[{SPACES}]+[\u00a0\u2007\u202f][{SPACES}]*|  +")

LONGEST_CAPTION = 200
LONGEST_LINE = 80
MOST_WORDS = 12
"""A bold paragraph longer than this, in characters or in words, is not taken for a heading."""

_HOLDERS = frozenset(
    """quotation quotation_words aside table table_grid table_row table_cell table_header bulleted_list numbered_list
    list_item""".split()
)


def mended(blocks: Sequence[Node], told: Told, under: int = 1) -> list[Node]:
    """The same blocks with their false structure mended, each thing told. ``under`` is the level of the heading in
    whose section they will stand; 1 at the top of a page."""

    def of_one(held: Sequence[Node]) -> list[Node]:
        settled = _container("region", [part for block in held for part in _without_layout(block, told)], told)
        return _with_headings(settled, told, under)

    return by_region(blocks, of_one)


def _container(kind: str, blocks: Sequence[Node], told: Told) -> list[Node]:
    """The blocks of one container mended, and those within them."""
    parts: list[Node] = []
    empty = 0
    for block in blocks:
        if block.kind in _HOLDERS:
            parts.append(_held(block, told))
        elif block.kind in ("paragraph", "heading"):
            pieces = _split(block, told)
            kept = [piece for piece in pieces if _has_words(piece)]
            empty += not kept
            parts += kept
        else:
            parts.append(block)
    if kind != "region" and (not parts or (kind == "list_item" and parts[0].kind != "paragraph")):
        empty -= 1  # A cell or an item has to begin with one.
    told.mended(
        "An empty paragraph was left out: the theme makes the space",
        "{} empty paragraphs were left out: the theme makes the space",
        max(0, empty),
    )
    if kind != "list_item":
        parts = _with_lists(parts, told)
    return [_tidied(block, told) if block.kind in ("paragraph", "heading") else block for block in parts]


def _needs_nothing(block: Node) -> bool:
    """Whether a block is a paragraph of one run in which, where it stands alone, nothing can be false: seen at once,
    as most cells and items are so."""
    if block.kind != "paragraph" or len(block.content) != 1:
        return False
    text = block.content[0].text  # What is not printable: spaces but the plain one, and what is no character.
    return text.isprintable() and text.strip(" ") == text != "" and "  " not in text and text[0] not in _SIGNS


def _held(block: Node, told: Told) -> Node:
    if block.kind in ("quotation", "table", "table_grid", "table_row", "bulleted_list", "numbered_list"):
        content = [_held(child, told) if child.kind in _HOLDERS else child for child in block.content]
        held = block if all(map(is_, content, block.content)) else block.with_content(content)
        return _with_header(held, told) if block.kind == "table_grid" else held
    if len(block.content) == 1 and _needs_nothing(block.content[0]):
        return block
    inside = _container(block.kind, block.content, told) or [make("paragraph")]
    if block.kind == "list_item":
        if inside[0].kind != "paragraph":
            inside.insert(0, make("paragraph"))
        inside[0] = _without_sign(inside[0], told)
    return block.with_content(inside)


def _without_sign(first: Node, told: Told) -> Node:
    """The words of an item without the sign that somebody typed before them although the list has its own."""
    while first.content and _BULLET.match(first.content[0].text) and not text_of(first).startswith(("-", "–")):
        told.mended("A sign typed before an item was left out", "{} signs typed before items were left out")
        first = first.with_content(_cut(first.content, 2))
        first = _tidied(first, Told())
    return first


def _has_words(block: Node) -> bool:
    return any(node.kind == "formula" or node.text.strip(SPACES) for node in block.content)


def lines_of(block: Node) -> list[list[Node]]:
    """The inline content of a textblock, line by line."""
    lines: list[list[Node]] = [[]]
    for node in block.content:
        if node.kind == "line_break":
            lines.append([])
        else:
            lines[-1].append(node)
    return lines


def joined(lines: Sequence[Sequence[Node]]) -> list[Node]:
    """Lines as the content of one textblock."""
    content: list[Node] = []
    for index, line in enumerate(lines):
        content += [make("line_break"), *line] if index else line
    return content


def runs_of_lines(block: Node) -> list[list[list[Node]]]:
    """The lines of a textblock that hold words, parted where empty ones stand between; those are left out."""
    runs: list[list[list[Node]]] = [[]]
    for line in lines_of(block):
        if any(node.kind == "formula" or node.text.strip(SPACES) for node in line):
            runs[-1].append(line)
        elif runs[-1]:
            runs.append([])
    return [run for run in runs if run]


def _split(block: Node, told: Told) -> list[Node]:
    """A paragraph parted where two or more line ends follow one another; line ends at its own ends are left out."""
    if not any(node.kind == "line_break" for node in block.content):
        return [block]
    filled = runs_of_lines(block)
    told.mended(
        "A row of line breaks was made a new paragraph",
        "{} rows of line breaks were made new paragraphs",
        len(filled) - 1 if len(filled) > 1 else 0,
    )
    if len(filled) < 2 and joined(filled[0] if filled else []) == list(block.content):
        return [block]
    return [block.with_content(joined(group)) for group in filled] or [block.with_content([])]


def _tidied(block: Node, told: Told) -> Node:
    """Without spaces at its ends, and without rows of hard spaces used to push words about."""
    content = block.content
    text = "".join(node.text or "\n" for node in content)
    row = "  " in text or (not text.isascii() and _ROW.search(text))
    if not (row or text[:1] in SPACES or text[-1:] in SPACES):
        return block
    pushed = 0
    made: list[Node] = []
    fresh = True
    for index, node in enumerate(content):
        if node.kind != "text":
            made.append(node)
            fresh = node.kind == "line_break"
            continue
        words, rows = _ROW.subn(" ", node.text)
        last = index + 1 == len(content) or content[index + 1].kind == "line_break"
        stripped = words.lstrip(SPACES) if fresh else words
        stripped = stripped.rstrip(SPACES) if last else stripped
        pushed += rows + (fresh and node.text[:1] in SPACES[1:])
        if stripped:
            made.append(Node("text", {}, (), node.marks, stripped))
            fresh = stripped[-1] in SPACES
        elif made and made[-1].kind == "text" and not fresh:
            fresh = True
    while made and made[-1].kind == "text" and made[-1].text[-1] in SPACES:
        last_words = made.pop()
        if rest := last_words.text.rstrip(SPACES):
            made.append(Node("text", {}, (), last_words.marks, rest))
    told.mended("A row of spaces used as space was left out", "{} rows of spaces used as space were left out", pushed)
    return block.with_content(made)


class _Line:
    """A line that begins as the item of a typed list does."""

    def __init__(self, line: Sequence[Node]) -> None:
        text = "".join(node.text or "\ufffc" for node in line)
        bare = text.lstrip(SPACES)
        self.indent = len(text) - len(bare)
        bullet = _BULLET.match(bare)
        number = None if bullet else _NUMBER.match(bare)
        match = bullet or number
        self.marked = match is not None
        self.certain = bool(bullet) and bullet[1] in _CERTAIN if bullet else False
        self.number = int(number[1]) if number else None
        self.content = _cut(line, self.indent + match.end()) if match else list(line)

    def begins_with(self, other: _Line) -> bool:
        """Whether both are of one list, the other coming first."""
        if self.number is None or other.number is None:
            return self.number is other.number
        return self.number == other.number + 1


def _cut(line: Sequence[Node], count: int) -> list[Node]:
    """A line without its first characters."""
    rest: list[Node] = []
    for node in line:
        if count >= len(node.text) and node.kind == "text":
            count -= len(node.text)
        elif node.kind == "text" and count:
            rest.append(Node("text", {}, (), node.marks, node.text[count:]))
            count = 0
        else:
            rest.append(node)
    return rest


def typed_lists(blocks: Sequence[Node]) -> Iterator[tuple[int, int, list[Node]]]:
    """Where lists are typed among the blocks of one container: the first block, how many they are, and what they are
    once the lists are real."""
    index = 0
    while index < len(blocks):
        end = index
        while end < len(blocks) and _may_be_typed(blocks[end]):
            end += 1
        if end > index:
            pieces = list(_typed(blocks[index:end], Told()))
            if any(isinstance(piece, Listed) for piece in pieces):
                yield index, end - index, [_tidied(each, Told()) for each in assembled(pieces, Told())]
        index = max(end, index + 1)


def _with_lists(blocks: Sequence[Node], told: Told) -> list[Node]:
    """Typed lists made lists: neighbouring lines, in one paragraph or several, that begin with a sign or count up."""
    pieces: list[Piece] = []
    index = 0
    while index < len(blocks):
        end = index
        while end < len(blocks) and _may_be_typed(blocks[end]):
            end += 1
        if end == index:
            pieces.append(blocks[index])
            index += 1
            continue
        pieces += _typed(blocks[index:end], told)
        index = end
    return assembled(pieces, told)


def _may_be_typed(block: Node) -> bool:
    if block.kind != "paragraph":
        return False
    text = text_of(block).lstrip(SPACES)
    first = text[:1]
    return first.isdigit() or bool(_BULLET.match(text)) or ("\n" in text and any(map(_begins, text.split("\n"))))


def _begins(line: str) -> bool:
    bare = line.lstrip(SPACES)
    return bool(_BULLET.match(bare) or _NUMBER.match(bare))


def _is_one_line(block: Node) -> bool:
    return not any(node.kind == "line_break" for node in block.content)


def _typed(blocks: Sequence[Node], told: Told) -> Iterator[Piece]:
    """What becomes of neighbouring paragraphs of which each has a line that begins as an item does."""
    if len(blocks) == 1 and _is_one_line(blocks[0]) and text_of(blocks[0]).lstrip(SPACES)[:1] not in _CERTAIN:
        yield blocks[0]  # One line alone is no list, but for a sign that leaves no doubt.
        return
    lines: list[tuple[Node, int, list[Node], _Line]] = []
    for block in blocks:
        lines += [(block, place, line, _Line(line)) for place, line in enumerate(lines_of(block))]
    taken = _taken([line for *_, line in lines])
    told.mended("A typed list became a list", "{} typed lists became lists", _lists_among(taken))
    indents: list[int] = []
    text: list[list[Node]] = []
    item: Listed | None = None
    said: list[list[Node]] = []
    of: Node | None = None

    def whole(item: Listed) -> Listed:
        item.blocks = [make("paragraph", joined(said))]
        return item

    for (block, place, line, read), is_item in zip(lines, taken, strict=True):
        if text and (is_item or place == 0) and of is not None:
            yield of.with_content(joined(text))
            text = []
        if is_item:
            if item:
                yield whole(item)
            else:
                indents = []
            while indents and read.indent < indents[-1]:
                indents.pop()
            if not indents or read.indent > indents[-1]:
                indents.append(read.indent)
            said = [read.content]
            item = Listed([], len(indents) - 1, read.number is not None, read.number, of="typed")
        elif item and place > 0:
            said.append(_cut(line, read.indent))
        else:
            if item:
                yield whole(item)
                item = None
            text.append(line)
        of = block
    if item:
        yield whole(item)
    if text and of is not None:
        yield of.with_content(joined(text))


def _taken(lines: Sequence[_Line]) -> list[bool]:
    """Which lines are items: those of a run of two that belong together, and those with a sign that leaves no doubt."""
    taken = [line.certain for line in lines]
    marked = [index for index, line in enumerate(lines) if line.marked]
    by_indent: dict[int, int] = {}
    for index in marked:
        line = lines[index]
        by_indent = {indent: last for indent, last in by_indent.items() if indent <= line.indent}
        before = by_indent.get(line.indent)
        if before is not None and line.begins_with(lines[before]):
            taken[index] = taken[before] = True
        by_indent[line.indent] = index
    lowest: int | None = None
    for index in marked:
        # One alone, set deeper than an item before it, is a list within that item.
        line = lines[index]
        if lowest is not None and lowest < line.indent and line.number in (None, 1):
            taken[index] = True
        if taken[index]:
            lowest = line.indent if lowest is None else min(lowest, line.indent)
    return taken


def _lists_among(taken: Sequence[bool]) -> int:
    return sum(1 for index, each in enumerate(taken) if each and (index == 0 or not taken[index - 1]))


def is_all(block: Node, mark: str) -> bool:
    """Whether all the words of a textblock bear a mark, and there are any."""
    words = [node for node in block.content if node.kind == "text" and node.text.strip(SPACES)]
    return bool(words) and all(any(each.kind == mark for each in node.marks) for node in words)


def without_mark(block: Node, mark: str) -> Node:
    """A textblock whose words no longer bear a mark."""
    return block.with_content(
        Node(node.kind, node.attrs, (), tuple(each for each in node.marks if each.kind != mark), node.text)
        for node in block.content
    )


def _with_headings(blocks: Sequence[Node], told: Told, under: int) -> list[Node]:
    """Short bold lines made headings, one level below the heading they stand under; headings freed of the paint that
    covers them whole; links freed of what says nothing."""
    made: list[Node] = []
    level = under
    for index, block in enumerate(blocks):
        follows = blocks[index + 1] if index + 1 < len(blocks) else None
        if block.kind == "heading":
            level = block.attrs["level"]
            made.append(_with_plain_links(_unstressed(block, told), told))
        elif block.kind == "paragraph" and follows is not None and _names_a_table(block) and follows.kind == "table":
            # It is put to the table when that comes.
            made.append(block)
        elif made and made[-1].kind == "picture" and _names(block, _FIGURE) and (taken := captioned(made[-1], block)):
            told.mended("A line below a picture became its caption", "{} lines below pictures became their captions")
            made[-1] = taken
        elif block.kind == "table" and made and _names_a_table(made[-1]) and block.content[0].kind != "table_caption":
            told.mended("A line above a table became its caption", "{} lines above tables became their captions")
            caption = make("table_caption", without_mark(made.pop(), "strong").content)
            made.append(block.with_content([caption, *block.content]))
        elif block.kind == "paragraph" and follows is not None and is_bold_line(block) and not is_line(follows):
            told.mended("A bold line became a heading", "{} bold lines became headings")
            words = without_mark(block, "strong").content
            made.append(_unstressed(make("heading", words, level=min(6, max(2, level + 1))), told))
        else:
            made.append(_with_plain_links(block, told))
    return made


_NAMED = re.compile(r"(?:table|tabelle|tableau|tabla|tabella|tabel|tab\.)[ \u00a0]\d{1,3}(?:[.-]\d{1,3}){0,2}\b", re.I)


_FIGURE = re.compile(
    r"(?:figure|fig\.|abbildung|abb\.|figura|figuur|rysunek|rys\.|ffigur|illustration|photo)"
    r"[ \u00a0]\d{1,3}(?:[.-]\d{1,3}){0,2}\b",
    re.IGNORECASE,
)


def _names_a_table(block: Node) -> bool:
    return _names(block, _NAMED)


def _names(block: Node, pattern: re.Pattern[str]) -> bool:
    """Whether a paragraph is a short line that begins as “Table 2” or “Figure 3” does, and no sentence that speaks of
    it. A caption bears no link."""
    if block.kind != "paragraph" or any(node.kind != "text" for node in block.content):
        return False
    if any(mark.kind == "link" for node in block.content for mark in node.marks):
        return False
    text = text_of(block)
    named = pattern.match(text)
    if named is None or len(text) > LONGEST_CAPTION:
        return False
    return is_all(block, "strong") or text[named.end() :][:1] in (".", ":") or text.rstrip(SPACES)[-1] not in ".:;,!?"


def _unstressed(heading: Node, told: Told) -> Node:
    for mark in ("strong", "emphasis", "underline"):
        if is_all(heading, mark):
            told.mended(
                "A heading was stressed once more; the theme does that",
                "{} headings were stressed once more; the theme does that",
            )
            heading = without_mark(heading, mark)
    return heading


def is_line(block: Node) -> bool:
    """Whether a block stands for a heading, or for a change of subject."""
    return block.kind in ("heading", "divider") or (block.kind == "paragraph" and is_bold_line(block))


def is_bold_line(block: Node) -> bool:
    """Whether a paragraph is one short bold line without a stop at its end, as painted headings are."""
    if not is_all(block, "strong") or is_all(block, "link"):
        return False
    if any(node.kind != "text" for node in block.content):
        return False
    text = text_of(block).strip(SPACES)
    if len(text) > LONGEST_LINE or len(text.split()) > MOST_WORDS or text[-1] in ".,;:!–—-…":
        return False
    return text[0].isupper() or (text[0].isdigit() and any(each.isalpha() for each in text))


def _bare(address: str) -> str:
    return re.sub(r"^(?:https?://|mailto:|tel:)(?:www\.)?|/$", "", address.strip(SPACES)).casefold()


def _with_plain_links(block: Node, told: Told) -> Node:
    """A link whose words are its address, beside another to the same place in the same block, becomes plain words."""
    if not SCHEMA.nodes[block.kind].is_textblock:
        return block
    named: set[str] = set()
    made: list[Node] = []
    for node in block.content:
        href = next((str(mark.attrs["href"]) for mark in node.marks if mark.kind == "link"), None)
        if href is not None and _bare(node.text) == _bare(href) and href in named:
            told.mended(
                "A link that only repeats an address became plain words",
                "{} links that only repeat an address became plain words",
            )
            plain = tuple(mark for mark in node.marks if mark.kind != "link")
            made.append(Node(node.kind, node.attrs, (), plain, node.text))
            continue
        if href is not None:
            named.add(href)
        made.append(node)
    return block.with_content(made) if tuple(made) != block.content else block


def _without_layout(block: Node, told: Told) -> Iterator[Node]:
    """A table that only sets things side by side, as its blocks, row by row."""
    if block.kind != "table":
        yield block
        return
    rows = block.content[-1].content
    cells = [cell for row in rows for cell in row.content]
    headed = any(cell.kind == "table_header" for cell in cells)
    single = len(cells) == 1 or all(len(row.content) == 1 for row in rows)
    if headed or len(block.content) > 1 or not single:
        yield block
        return
    told.mended("A table used for layout became plain paragraphs", "{} tables used for layout became plain paragraphs")
    for cell in cells:
        for part in cell.content:
            yield from _without_layout(part, told)


def _with_header(grid: Node, told: Told) -> Node:
    """A first row that is bold throughout names the columns; header cells need no stress of their own."""
    rows = list(grid.content)
    first = rows[0].content
    headed = any(cell.kind == "table_header" for row in rows for cell in row.content)
    if len(rows) > 1 and len(first) > 1 and not headed and all(_is_bold_cell(cell) for cell in first):
        told.mended(
            "A bold first row was made the header of its table", "{} bold first rows were made headers of their tables"
        )
        rows[0] = rows[0].with_content(Node("table_header", cell.attrs, cell.content) for cell in first)
    elif not any(cell.kind == "table_header" and _is_bold_cell(cell) for row in rows for cell in row.content):
        return grid
    return grid.with_content(
        row.with_content(
            cell.with_content(without_mark(part, "strong") if is_all(part, "strong") else part for part in cell.content)
            if cell.kind == "table_header" and _is_bold_cell(cell)
            else cell
            for cell in row.content
        )
        for row in rows
    )


def _is_bold_cell(cell: Node) -> bool:
    return all(part.kind == "paragraph" and is_all(part, "strong") for part in cell.content)
