"""Document → plain text: paragraphs parted by an empty line, list items marked as one would type them."""

from __future__ import annotations

from ..document.node import Node
from ..document.walking import text_of


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
    return text_of(node)


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
