"""Document → Markdown (CommonMark 0.31.2, with tables and with equations between dollar signs).

What Markdown has no way to say stands as HTML in the storable form: tables with merged cells or several paragraphs in
a cell, calls to action. Of marks without a sign the words stay.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

from ..document.node import Mark, Node
from ..document.walking import text_of
from .html import ASIDE_LABELS, storable_block

_SIGNS = {"strong": "**", "emphasis": "*"}
"""What CommonMark has signs for. Links and code are written in a way of their own; of other marks the words stay."""


def markdown(document: Node) -> str:
    """The document as CommonMark, with a line end at the end. Pages and items keep their numbered addresses."""
    return _blocks(document.content, loose=True) + "\n"


def _blocks(nodes: Iterable[Node], *, loose: bool) -> str:
    parts: list[str] = []
    before: Node | None = None
    for node in nodes:
        if before is not None and before.kind == node.kind and node.kind.endswith("_list"):
            parts.append("<!-- -->")
        parts.append(_block(node))
        before = node
    return ("\n\n" if loose else "\n").join(parts)


def _block(node: Node) -> str:
    if node.kind == "heading":
        signs: str = "#" * node.attrs["level"]
        return signs + " " + _words(node.content).replace("\\\n", " ")
    if node.kind == "divider":
        return "***"
    if node.kind == "preformatted":
        return _fenced(node)
    if node.kind == "picture":
        alt = "" if node.attrs["decorative"] else node.attrs["alt"] or ""
        return f"![{_escape(alt)}](item:{node.attrs['item']})"
    if node.kind in ("bulleted_list", "numbered_list"):
        return _list(node)
    if node.kind == "quotation":
        words, *source = node.content
        parts = [_blocks(words.content, loose=True)]
        parts += ["— " + _words(each.content) for each in source]
        return _quoted(parts)
    if node.kind == "aside":
        return _quoted([f"**{ASIDE_LABELS[node.attrs['sort']]}**", _blocks(node.content, loose=True)])
    if node.kind == "table" and _is_plain(node):
        return _table(node)
    if node.kind in ("table", "call_to_action"):
        return storable_block(node)
    if node.kind == "equation":
        return f"$$\n{node.attrs['latex']}\n$$"
    return _guard(_words(node.content))


def _quoted(parts: Sequence[str]) -> str:
    return "\n".join(f"> {line}".rstrip() for line in "\n\n".join(parts).split("\n"))


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


def _table(table: Node) -> str:
    rows = table.content[0].content
    lines = ["| " + " | ".join(_cell(cell) for cell in row.content) + " |" for row in rows]
    lines.insert(1, "|" + " --- |" * len(rows[0].content))
    return "\n".join(lines)


def _cell(cell: Node) -> str:
    return _words(cell.content[0].content).replace("|", "\\|").strip(" ")


def _fenced(node: Node) -> str:
    lines = text_of(node)
    fence = "`" * max(3, *(len(run) + 1 for run in re.findall("`+", lines)), 3)
    return f"{fence}{node.attrs['language'] or ''}\n{lines}\n{fence}"


def _list(node: Node) -> str:
    loose = any(_needs_space(item) for item in node.content)
    items = []
    for index, item in enumerate(node.content):
        marker = f"{node.attrs['start'] + index}. " if node.kind == "numbered_list" else "- "
        body = _blocks(item.content, loose=loose)
        items.append(
            marker + body.replace("\n", "\n" + " " * len(marker)).replace("\n" + " " * len(marker) + "\n", "\n\n")
        )
    return ("\n\n" if loose else "\n").join(items)


def _needs_space(item: Node) -> bool:
    """Whether an empty line must stand within an item: a second paragraph, or a list that begins elsewhere than at 1
    (which, by CommonMark 5.3, would otherwise be read as part of the paragraph)."""
    return any(
        child.kind in ("paragraph", "picture") or (child.kind == "numbered_list" and child.attrs["start"] != 1)
        for child in item.content[1:]
    )


def _words(nodes: Iterable[Node]) -> str:
    """Inline content. Of marks that begin together the one that lasts longest is opened first, so that signs nest."""
    runs = list(nodes)
    written: list[str] = []
    opened: list[Mark] = []

    def close(keep: int) -> None:
        while len(opened) > keep:
            mark = opened.pop()
            if mark.kind not in ("link", *_SIGNS):
                continue
            title = _title(mark) if mark.kind == "link" else ""
            sign = f"](<{mark.attrs['href']}>{title})" if mark.kind == "link" else _SIGNS[mark.kind]
            spaces = len(written[-1]) - len(written[-1].rstrip(" "))
            if spaces and mark.kind != "link":
                sign += written[-1][-spaces:]
                written[-1] = written[-1][:-spaces]
            written.append(sign)

    for index, node in enumerate(runs):
        keep = 0
        while keep < len(opened) and opened[keep] in node.marks:
            keep += 1
        close(keep)
        fresh = [mark for mark in node.marks if mark not in opened]
        text = node.text
        if any(mark.kind != "link" for mark in fresh):
            # A sign of emphasis before a space would be read as a plain sign.
            text = text.lstrip(" ")
            written.append(" " * (len(node.text) - len(text)))
        for mark in sorted(fresh, key=lambda mark: -_lasts(runs[index:], mark)):
            opened.append(mark)
            written.append("[" if mark.kind == "link" else _SIGNS.get(mark.kind, ""))
        written.append(_inline(node, text))
    close(0)
    return "".join(written)


def _inline(node: Node, text: str) -> str:
    if node.kind == "line_break":
        return "\\\n"
    if node.kind == "formula":
        return f"${node.attrs['latex']}$"
    return _code(text) if _is_code(node) else _escape(text)


def _title(link: Mark) -> str:
    title = link.attrs["title"]
    if not title:
        return ""
    escaped = re.sub(r'(["\\])', r"\\\1", title)
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
    return re.sub(r"([\\`*_\[\]<>&!$])", r"\\\1", text)


def _guard(paragraph: str) -> str:
    """Keep a paragraph from being read as a heading, a list or a rule."""
    return re.sub(r"^( *)([#+=~|—-]|\d+[.)](?=\s|$))", _guarded, paragraph, flags=re.MULTILINE)


def _guarded(match: re.Match[str]) -> str:
    sign = match[2]
    return match[1] + (f"\\{sign}" if len(sign) == 1 else f"{sign[:-1]}\\{sign[-1]}")
