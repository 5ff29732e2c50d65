"""Document → Markdown (CommonMark 0.31.2, with tables, task lists, footnotes, struck words and equations between dollar
signs).

Marks without a sign are written as HTML tags, which CommonMark allows among words. Each block is read back as it is
written; one that would come back as anything else stands as HTML instead, so that nothing is lost on the way.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from html import escape, unescape

from ..document.node import Mark, Node
from ..document.normal import normal_form
from ..document.schema import VERSION
from ..document.walking import blocks_of, text_of, walk
from ..kinds.ways import ways_of
from .carrying import Notes, alt_written, notes_of
from .html import FORM, REGION, attribute, mark_tags, storable_block

_SIGNS = {"strong": "**", "emphasis": "*", "strike": "~~"}


@dataclass(frozen=True)
class Places:
    """Where links lead and pictures are outside: the address for each, None for a link that leads nowhere; and the alt
    text of a picture, as far as it goes along."""

    leads: Callable[[str], str | None]
    picture: Callable[[int], str]
    alt: Callable[[Node], str] = alt_written


WITHIN = Places(lambda href: href, lambda number: f"item:{number}")
"""Pages and items keep their numbered addresses."""


def markdown(document: Node, places: Places = WITHIN) -> str:
    """The document as Markdown, with a line end at the end."""
    notes = _sure_notes(document)
    within = Writer(WITHIN, notes)
    writer = within if places is WITHIN else Writer(places, notes)
    parts: list[str] = []
    for index, region in enumerate(document.content):
        before: Node | None = None
        if index:
            parts.append(f"<div{attribute(REGION, region.attrs['name'])}>")
        for place, block in enumerate(region.content):
            if before is not None and before.kind == block.kind and block.kind.endswith("_list"):
                parts.append("<!-- -->")
            parts.append(writer.notes_list(block) if (index, place) in notes.lists else _sure(block, within, writer))
            before = block
        if index:
            parts.append("</div>")
    return "\n\n".join(parts) + "\n"


def _sure_notes(document: Node) -> Notes:
    """The footnotes of a document, if every one comes back as it is; otherwise their lists are lists like any other."""
    notes = notes_of(document)
    lists = [block for path, block in blocks_of(document) if path in notes.lists]
    writer = Writer(WITHIN, notes)
    # What stands between them keeps them apart.
    written = "\n\n-----\n\n".join(map(writer.notes_list, lists))
    sure = [each for each in _read(written, {}) if each.kind != "divider"] == lists
    return notes if sure else Notes({}, frozenset())


def _sure(block: Node, within: Writer, writer: Writer) -> str:
    """A block as Markdown if it comes back so, otherwise as HTML."""
    written = within.block(block)
    if _comes_back(written, block, within.notes):
        return written if writer is within else writer.block(block)
    html = _one_line(storable_block(block))
    if writer is not within:
        return led_out(html, writer.places)
    if _comes_back(html, block):
        return html
    return f'<div {FORM}="{VERSION}">{html}</div>'


def led_out(html: str, places: Places) -> str:
    """Storable HTML whose links and pictures lead where they are to be had outside."""
    html = _PLAYER.sub(lambda match: match[1] + _played(match[2], places), html)
    html = re.sub(r'(?<=<img) src="item:(\d+)"', lambda match: f' src="{escape(places.picture(int(match[1])))}"', html)

    def link(match: re.Match[str]) -> str:
        address = places.leads(unescape(match[1]))
        return f' href="{escape(address)}"' if address is not None else ""

    return re.sub(r' href="([^"]*)"', link, html)


_PLAYER = re.compile(r'(<(?:video|audio|iframe)) src="item:(\d+)"')


def _played(number: str, places: Places) -> str:
    """The address of a film or sound where readers get it; its number, where they get it nowhere."""
    return f' src="{escape(places.leads(f"item:{number}") or f"item:{number}")}"'


def _one_line(html: str) -> str:
    """HTML on one line: an empty line would end it, for Markdown."""
    return re.sub(r"\s*\n\s*", " ", html)


def _read(written: str, numbers: Mapping[str, int]) -> list[Node]:
    from ..reading.markdown import markdown_blocks  # noqa: PLC0415 - the reader knows the writer's HTML form
    from ..reading.reading import Arriving  # noqa: PLC0415

    return [normal_form(block) for block in markdown_blocks(written, Arriving(), numbers)]


def _comes_back(written: str, block: Node, notes: Notes | None = None) -> bool:
    """Whether a block as it is written comes back; of the notes that it leads to, the number is all that matters."""
    led = {notes.of(node) for _, node in walk(block)} - {None} if notes and notes.items else set()
    numbers = {anchor: notes.items[anchor][0] for anchor in led if anchor} if notes else {}
    found = _read("\n\n".join([written, *(f"[^{anchor}]: x" for anchor in numbers)]), numbers)
    alone = bool(numbers) or len(found) == 1
    return bool(found) and alone and found[0] == block


class Writer:
    """Writes what is within for whatever has a way of its own (`kinds.ways`)."""

    def __init__(self, places: Places, notes: Notes) -> None:
        self.places = places
        self.notes = notes

    def blocks(self, nodes: Iterable[Node], *, loose: bool) -> str:
        parts: list[str] = []
        before: Node | None = None
        for node in nodes:
            if before is not None and before.kind == node.kind and node.kind.endswith("_list"):
                parts.append("<!-- -->")
            parts.append(self.block(node))
            before = node
        return ("\n\n" if loose else "\n").join(parts)

    def block(self, node: Node) -> str:
        if way := ways_of(node.kind).markdown:
            return way(self, node)
        match node.kind:
            case "heading":
                signs: str = "#" * node.attrs["level"]
                return signs + " " + self.words(node.content).replace("\\\n", " ")
            case "preformatted":
                return _fenced(node)
            case "bulleted_list" | "numbered_list":
                return self.list(node)
            case "table" if _is_plain(node):
                return self.table(node)
            case "paragraph":
                return _guard(self.words(node.content))
        return _one_line(storable_block(node))

    def picture(self, node: Node) -> str:
        alt = self.places.alt(node)
        title = _title(node.attrs["caption"])
        return f"![{_escape(alt)}]({_address(self.places.picture(node.attrs['item']))}{title})"

    def led_out(self, node: Node) -> str:
        """A node in the storable form, on one line, what it names where that is to be had outside."""
        return led_out(_one_line(storable_block(node)), self.places)

    def quoted(self, parts: Sequence[str]) -> str:
        return "\n".join(f"> {line}".rstrip() for line in "\n\n".join(parts).split("\n"))

    def table(self, table: Node) -> str:
        rows = table.content[0].content
        lines = ["| " + " | ".join(self.cell(cell) for cell in row.content) + " |" for row in rows]
        lines.insert(1, "|" + " --- |" * len(rows[0].content))
        return "\n".join(lines)

    def cell(self, cell: Node) -> str:
        return self.words(cell.content[0].content).replace("|", "\\|").strip(" ")

    def list(self, node: Node) -> str:
        loose = any(_needs_space(item) for item in node.content)
        items = []
        for index, item in enumerate(node.content):
            marker = f"{node.attrs['start'] + index}. " if node.kind == "numbered_list" else "- "
            items.append(_indented(marker, _tasked(self.blocks(item.content, loose=loose))))
        return ("\n\n" if loose else "\n").join(items)

    def notes_list(self, node: Node) -> str:
        """A list of notes: each with its anchor for a label."""
        return "\n\n".join(
            _indented(f"[^{item.attrs['anchor']}]: ", self.blocks(item.content, loose=True), 4) for item in node.content
        )

    def words(self, nodes: Iterable[Node]) -> str:
        """Inline content. Of marks that begin together the one that lasts longest is opened first, so that signs
        nest."""
        runs = list(nodes)
        written: list[str] = []
        opened: list[Mark] = []

        def close(keep: int) -> None:
            while len(opened) > keep:
                mark = opened.pop()
                sign = self.sign(mark, "end")
                spaces = len(written[-1]) - len(written[-1].rstrip(" "))
                if spaces and mark.kind in _SIGNS:
                    sign += written[-1][-spaces:]
                    written[-1] = written[-1][:-spaces]
                written.append(sign)

        for index, node in enumerate(runs):
            if anchor := self.notes.of(node):
                close(0)
                written.append(f"[^{anchor}]")
                continue
            keep = 0
            while keep < len(opened) and opened[keep] in node.marks:
                keep += 1
            close(keep)
            fresh = [mark for mark in node.marks if mark not in opened]
            text = node.text
            if any(mark.kind in _SIGNS for mark in fresh):
                # A sign of emphasis before a space would be read as a plain sign.
                text = text.lstrip(" ")
                written.append(" " * (len(node.text) - len(text)))
            for mark in sorted(fresh, key=lambda mark: -_lasts(runs[index:], mark)):
                opened.append(mark)
                written.append(self.sign(mark, "start"))
            written.append(_inline(node, text))
        close(0)
        return "".join(written)

    def sign(self, mark: Mark, which: str) -> str:
        """What opens or closes a mark."""
        if mark.kind == "code":
            return ""
        if mark.kind in _SIGNS:
            return _SIGNS[mark.kind]
        if mark.kind == "link" and not mark.attrs["new_window"]:
            href = self.places.leads(mark.attrs["href"])
            if href is None:
                return ""
            return "[" if which == "start" else f"]({_address(href)}{_title(mark.attrs['title'])})"
        start, end = mark_tags(mark)
        return start if which == "start" else end


def _indented(marker: str, body: str, width: int = 0) -> str:
    space = " " * (width or len(marker))
    return marker + body.replace("\n", "\n" + space).replace(f"\n{space}\n", "\n\n")


def _tasked(body: str) -> str:
    """The words of an item whose sign is that of a task."""
    return re.sub("^([☐☑]) ", lambda match: "[ ] " if match[1] == "☐" else "[x] ", body)


def _is_plain(table: Node) -> bool:
    """Whether Markdown can say the table: no caption, one row of headers above, a line of words in each cell."""
    if len(table.content) > 1:
        return False
    rows = table.content[0].content
    cells = [(cell, index) for index, row in enumerate(rows) for cell in row.content]
    return all(
        (cell.kind == "table_header") == (row == 0)
        and cell.attrs["colspan"] == cell.attrs["rowspan"] == 1
        and len(cell.content) == 1
        and cell.content[0].kind == "paragraph"
        and not any(each.kind == "line_break" for each in cell.content[0].content)
        for cell, row in cells
    )


def _fenced(node: Node) -> str:
    lines = text_of(node)
    fence = "`" * max(3, *(len(run) + 1 for run in re.findall("`+", lines)), 3)
    return f"{fence}{node.attrs['language'] or ''}\n{lines}\n{fence}"


def _needs_space(item: Node) -> bool:
    """Whether an empty line must stand within an item: a second paragraph, or a list that begins elsewhere than at 1
    (which, by CommonMark 5.3, would otherwise be read as part of the paragraph)."""
    return any(
        child.kind in ("paragraph", "picture") or (child.kind == "numbered_list" and child.attrs["start"] != 1)
        for child in item.content[1:]
    )


def _inline(node: Node, text: str) -> str:
    if node.kind == "line_break":
        return "\\\n"
    if node.kind == "formula":
        return f"${node.attrs['latex']}$"
    return _code(text) if _is_code(node) else _escape(text)


def _address(address: str) -> str:
    """An address as a link's destination (CommonMark 6.3), in angle brackets where it holds what may mean more."""
    return address if re.fullmatch(r"[\w:/.%?=#@+,;-]+", address, re.ASCII) else f"<{address}>"


def _title(words: str | None) -> str:
    if not words:
        return ""
    escaped = re.sub(r'(["\\&])', r"\\\1", words)
    return f' "{escaped}"'


def _is_code(node: Node) -> bool:
    return any(mark.kind == "code" for mark in node.marks)


def _code(text: str) -> str:
    """A code span (CommonMark 6.1): a fence longer than any within, and a space at both ends where that is needed."""
    fence = "`" * (max((len(run) for run in re.findall("`+", text)), default=0) + 1)
    beside = text.startswith("`") or text.endswith("`") or (text.strip(" ") and text[0] == text[-1] == " ")
    return f"{fence} {text} {fence}" if beside else f"{fence}{text}{fence}"


def _lasts(runs: Sequence[Node], mark: Mark) -> int:
    return next((index for index, node in enumerate(runs) if mark not in node.marks), len(runs))


def _escape(text: str) -> str:
    return re.sub(r"([\\`*_\[\]<>&!$~])", r"\\\1", text)


def _guard(paragraph: str) -> str:
    """Keep a paragraph from being read as a heading, a list or a rule."""
    return re.sub(r"^( *)([#+=~|—-]|\d+[.)](?=\s|$))", _guarded, paragraph, flags=re.MULTILINE)


def _guarded(match: re.Match[str]) -> str:
    sign = match[2]
    return match[1] + (f"\\{sign}" if len(sign) == 1 else f"{sign[:-1]}\\{sign[-1]}")
