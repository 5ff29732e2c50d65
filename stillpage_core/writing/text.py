"""Document → plain text: paragraphs parted by an empty line, list items marked as one would type them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from ..document.node import Node
from ..document.walking import blocks_of, text_of
from ..kinds.ways import ways_of
from ..resolving import AnimationTarget, AnyFilm, ItemTarget, PostTarget
from .carrying import Notes, alt_written, notes_of


def plain_text(
    document: Node,
    alt: Callable[[Node], str] = alt_written,
    films: Mapping[int, AnyFilm] | None = None,
    documents: Mapping[int, ItemTarget] | None = None,
    *,
    animations: Mapping[int, AnimationTarget] | None = None,
    posts: Mapping[int, PostTarget] | None = None,
) -> str:
    """The words of a document, with a line end at the end.

    A picture is its alt text (``alt`` gives it) in square brackets, if any, and its caption below; the sign of a note
    is its number in square brackets. A film is its title and the address of its file, where ``films`` tell them, its
    caption, and its transcript where that is shown; a document of a list of downloads is told by ``documents``.
    """
    writer = Writer(notes_of(document), alt, films, documents)
    writer.animations, writer.posts = animations or {}, posts or {}
    return "\n\n".join(filter(None, (writer.block(block) for _, block in blocks_of(document)))) + "\n"


class Writer:
    """Writes what is within for whatever has a way of its own (`kinds.ways`)."""

    def __init__(
        self,
        notes: Notes,
        alt: Callable[[Node], str],
        films: Mapping[int, AnyFilm] | None = None,
        documents: Mapping[int, ItemTarget] | None = None,
    ) -> None:
        self.notes = notes
        self.alt = alt
        self.films = films or {}
        self.documents = documents or {}
        self.animations: Mapping[int, AnimationTarget] = {}
        self.posts: Mapping[int, PostTarget] = {}

    def block(self, node: Node) -> str:
        if way := ways_of(node.kind).text:
            return way(self, node)
        if node.kind in ("bulleted_list", "numbered_list"):
            return "\n".join(self.items(node, ""))
        return self.table(node) if node.kind == "table" else self.words(node)

    def words(self, block: Node) -> str:
        if not self.notes.items:
            return text_of(block)
        return "".join(f"[{node.text}]" if self.notes.of(node) else text_of(node) for node in block.content)

    def all_of(self, blocks: Sequence[Node]) -> str:
        return "\n".join(filter(None, (self.block(child) for child in blocks)))

    def table(self, node: Node) -> str:
        """One line a row, its cells parted by tabs, as a spreadsheet takes them."""
        lines = [self.words(node.content[0])] if len(node.content) > 1 else []
        for row in node.content[-1].content:
            lines.append("\t".join(" ".join(self.all_of(cell.content).split()) for cell in row.content))
        return "\n".join(lines)

    def items(self, node: Node, indent: str) -> list[str]:
        lines: list[str] = []
        for index, item in enumerate(node.content):
            marker = f"{node.attrs['start'] + index}. " if node.kind == "numbered_list" else "- "
            inner = indent + " " * len(marker)
            for place, child in enumerate(item.content):
                if child.kind in ("bulleted_list", "numbered_list"):
                    lines += self.items(child, inner)
                elif (words := self.block(child)) or place == 0:
                    before = indent + marker if place == 0 else inner
                    lines.append(before + words.replace("\n", "\n" + inner))
        return lines
