"""From paragraphs that say what they belong to, to lists, captions, quotations and preformatted text.

Word processors keep all of these flat: each paragraph names its list and its level, or its style. So do typed lists.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field

from ..document.fitting import fitted, words_of
from ..document.node import Node, make
from ..document.walking import text_of
from ..kinds.aside import LABELS as ASIDE_LABELS
from .reading import Told

DEEPEST = 15
"""Lists nested deeper than this go on at this level."""


@dataclass
class Listed:
    """Blocks that are an item of a list: its level from 0, whether it is numbered, its number where that is known,
    and which list it is of. ``more`` tells that they are not an item of their own but go on with the one before."""

    blocks: list[Node]
    level: int = 0
    numbered: bool = False
    number: int | None = None
    of: str = ""
    anchor: str | None = None
    more: bool = False


@dataclass
class Caption:
    """A paragraph that is the caption of the picture before it, or of the table beside it. ``of`` is the kind of the
    two it is for, where its style tells."""

    block: Node
    of: str = ""


@dataclass
class Styled:
    """A paragraph, or the item of a list, that is part of a quotation, an aside or of preformatted text, together with
    its neighbours of the kind."""

    kind: str
    block: Node | Listed


Piece = Node | Listed | Caption | Styled


@dataclass
class _List:
    numbered: bool
    of: str
    start: int
    items: list[tuple[str | None, list[Node]]] = field(default_factory=list)

    def goes_on_with(self, piece: Listed) -> bool:
        if piece.numbered != self.numbered or piece.of != self.of:
            return False
        return piece.number is None or not self.numbered or piece.number == self.start + len(self.items)

    def node(self, told: Told) -> Node:
        items = [
            make("list_item", fitted("list_item", blocks, told.flattened), anchor=anchor)
            for anchor, blocks in self.items
        ]
        return make("numbered_list", items, start=self.start) if self.numbered else make("bulleted_list", items)


def assembled(pieces: Iterable[Piece], told: Told) -> list[Node]:
    """Blocks with every run of `Listed` pieces made lists, nested by their levels, every `Caption` put to its picture
    or table, and every run of `Styled` pieces made one block. A caption that belongs to neither stays a paragraph."""
    all_of_them = list(pieces)
    blocks = [piece for piece in all_of_them if type(piece) is Node]
    return blocks if len(blocks) == len(all_of_them) else _with_lists(_joined(all_of_them, told), told)


def _joined(pieces: Iterable[Piece], told: Told) -> Iterator[Piece]:
    """Pieces with each run of equally styled paragraphs made one block."""
    run: list[Styled] = []
    for piece in pieces:
        if isinstance(piece, Styled) and (not run or run[0].kind == piece.kind):
            run.append(piece)
            continue
        if run:
            yield _block_of(run, told)
        run = [piece] if isinstance(piece, Styled) else []
        if not isinstance(piece, Styled):
            yield piece
    if run:
        yield _block_of(run, told)


def _block_of(run: Sequence[Styled], told: Told) -> Node:
    blocks = _with_lists([piece.block for piece in run], told)
    if run[0].kind == "aside":
        return labelled(blocks, told) or with_source(blocks, told)
    if run[0].kind == "quotation":
        return with_source(blocks, told)
    content: list[Node] = []
    for line in blocks:
        content += [make("line_break")] if line is not blocks[0] else []
        content += _without_marks(line.content)
    return make("preformatted", content)


def _without_marks(content: Iterable[Node]) -> list[Node]:
    return [make("line_break") if node.kind == "line_break" else Node("text", text=text_of(node)) for node in content]


def whole_preformatted(paragraph: Node, within: str, language: str | None) -> Piece:
    """Preformatted text that is one paragraph of a style of ours (`writing.style_names`), where it belongs."""
    block = make("preformatted", _without_marks(paragraph.content), language=language)
    if within.startswith("list"):
        return Listed([block], int(within[-1]) - 1, more=True)
    return Styled(within, block) if within else block


def called(paragraph: Node, emphasis: str) -> Node:
    """A call to action that is a paragraph of a style of ours (`writing.style_names`)."""
    links = (mark for node in paragraph.content for mark in node.marks if mark.kind == "link")
    href = next((mark.attrs["href"] for mark in links), None)
    words = " ".join(text_of(paragraph).split())
    return make("call_to_action", [Node("text", text=words)] if words else [], href=href, emphasis=emphasis)


def quotation(blocks: Sequence[Node], source: list[Node] | None, told: Told) -> Node:
    """A quotation of these blocks, fitted, with its source if there is one."""
    parts = [make("quotation_words", fitted("quotation_words", blocks, told.flattened))]
    return make("quotation", parts if source is None else [*parts, make("quotation_source", source)])


def labelled(blocks: list[Node], told: Told) -> Node | None:
    """An aside, where the first words of these blocks are its label (“Note”, “Tip”, “Warning”) alone and strong."""
    first = blocks[0] if blocks else make("paragraph")
    sorts = {label: sort for sort, label in ASIDE_LABELS.items()}
    strong = len(first.content) == 1 and [mark.kind for mark in first.content[0].marks] == ["strong"]
    if first.kind == "paragraph" and strong and (sort := sorts.get(text_of(first))):
        return make("aside", fitted("aside", blocks[1:], told.flattened), sort=sort)
    return None


def with_source(blocks: list[Node], told: Told) -> Node:
    """A quotation; a last paragraph after a dash is its source."""
    last = blocks[-1] if len(blocks) > 1 else make("paragraph")
    if last.kind != "paragraph" or not text_of(last).startswith("— "):
        return quotation(blocks, None, told)
    opening, *rest = words_of([last])
    dashless = [Node("text", {}, (), opening.marks, opening.text[2:])] if opening.text[2:] else []
    return quotation(blocks[:-1], [*dashless, *rest], told)


def _with_lists(pieces: Iterable[Piece], told: Told) -> list[Node]:
    blocks: list[Node] = []
    open_lists: list[_List] = []
    waiting: Node | None = None

    def close(depth: int) -> None:
        while len(open_lists) > depth:
            closed = open_lists.pop().node(told)
            if open_lists:
                open_lists[-1].items[-1][1].append(closed)
            else:
                blocks.append(closed)

    for piece in pieces:
        if isinstance(piece, Listed):
            if waiting:
                blocks.append(waiting)
                waiting = None
            if piece.more and open_lists:
                close(min(piece.level, len(open_lists) - 1) + 1)
                open_lists[-1].items[-1][1].extend(piece.blocks)
                continue
            if piece.more:
                blocks += piece.blocks
                continue
            level = min(piece.level, DEEPEST, len(open_lists))
            close(level + 1)
            if len(open_lists) == level + 1 and not open_lists[level].goes_on_with(piece):
                close(level)
            if len(open_lists) == level:
                start = min(max(piece.number if piece.number is not None else 1, 0), 999_999)
                open_lists.append(_List(piece.numbered, piece.of, start if piece.numbered else 1))
            open_lists[-1].items.append((piece.anchor, list(piece.blocks)))
            continue
        close(0)
        if isinstance(piece, Caption):
            if waiting:
                blocks.append(waiting)
            waiting = None
            before = blocks[-1] if blocks else None
            taken = captioned(before, piece.block) if before and piece.of in ("", before.kind) else None
            if taken:
                blocks[-1] = taken
            else:
                waiting = piece.block
            continue
        assert isinstance(piece, Node)
        above = captioned(piece, waiting) if waiting and piece.kind == "table" else None
        if waiting and not above:
            blocks.append(waiting)
        waiting = None
        blocks.append(above or piece)
    close(0)
    return [*blocks, waiting] if waiting else blocks


def captioned(block: Node, caption: Node) -> Node | None:
    """A picture or table with this caption; None where it can have none or has one already."""
    if block.kind in ("picture", "film", "sound", "hosted") and not block.attrs["caption"]:
        words = " ".join(text_of(caption).split())
        return block.with_attrs(caption=words) if 0 < len(words) <= 1000 else None
    if block.kind == "table" and block.content[0].kind != "table_caption":
        return block.with_content([make("table_caption", words_of([caption])), *block.content])
    return None


def is_empty(blocks: Sequence[Node]) -> bool:
    """Whether nothing stands in these blocks but empty paragraphs."""
    return all(block.kind == "paragraph" and not block.content for block in blocks)
