"""Document → plain text: paragraphs parted by an empty line, list items marked as one would type them."""

from __future__ import annotations

from ..document.node import Node
from ..document.walking import text_of
from .html import ASIDE_LABELS


def plain_text(document: Node) -> str:
    """The words of a document, with a line end at the end. A picture is its alt text in square brackets, if any."""
    return "\n\n".join(filter(None, (_block(child) for child in document.content))) + "\n"


def _block(node: Node, indent: str = "") -> str:
    if node.kind == "picture":
        return f"[{node.attrs['alt']}]" if node.attrs["alt"] and not node.attrs["decorative"] else ""
    if node.kind == "divider":
        return "* * *"
    if node.kind in ("bulleted_list", "numbered_list"):
        return "\n".join(_items(node, indent))
    match node.kind:
        case "quotation":
            words, *source = node.content
            lines = [line for line in [_all(words), *(f"— {text_of(each)}" for each in source)] if line]
            return "\n".join(lines)
        case "aside":
            return f"{ASIDE_LABELS[node.attrs['sort']]}\n{_all(node)}"
        case "table":
            return _table(node)
    return text_of(node)


def _all(parent: Node) -> str:
    return "\n".join(filter(None, (_block(child) for child in parent.content)))


def _table(node: Node) -> str:
    """One line a row, its cells parted by tabs, as a spreadsheet takes them."""
    lines = [text_of(node.content[0])] if len(node.content) > 1 else []
    for row in node.content[-1].content:
        lines.append("\t".join(" ".join(_all(cell).split()) for cell in row.content))
    return "\n".join(lines)


def _items(node: Node, indent: str) -> list[str]:
    lines: list[str] = []
    for index, item in enumerate(node.content):
        marker = f"{node.attrs['start'] + index}. " if node.kind == "numbered_list" else "- "
        inner = indent + " " * len(marker)
        for place, child in enumerate(item.content):
            if child.kind == "paragraph":
                words = text_of(child).replace("\n", "\n" + inner)
                lines.append((indent + marker if place == 0 else inner) + words)
            else:
                lines += _items(child, inner)
    return lines
