"""Lists side by side, with nothing or only empty paragraphs between them, that are one list."""

from __future__ import annotations

from collections.abc import Sequence

from ...document.node import Node
from ..space import is_empty

LISTS = ("bulleted_list", "numbered_list")


def goes_on(block: Node, after: Node) -> bool:
    """Whether the second list only goes on with the first: its numbers do, if there are any."""
    if block.kind not in LISTS or after.kind != block.kind:
        return False
    return block.kind == "bulleted_list" or after.attrs["start"] == block.attrs["start"] + len(block.content)


def after_empty(blocks: Sequence[Node], index: int, step: int = 1) -> int:
    """The first block from ``index`` on, forwards or backwards, that is no empty paragraph; may lie outside."""
    while 0 <= index < len(blocks) and is_empty(blocks[index]):
        index += step
    return index


def joined(blocks: Sequence[Node]) -> list[Node]:
    """The blocks with every such pair made one list; empty paragraphs elsewhere stay."""
    made: list[Node] = []
    for block in blocks:
        last = after_empty(made, len(made) - 1, -1)
        if last >= 0 and goes_on(made[last], block):
            made[last:] = [made[last].with_content([*made[last].content, *block.content])]
        else:
            made.append(block)
    return made


def reach(blocks: Sequence[Node], first: int, end: int, new: Sequence[Node]) -> tuple[int, int]:
    """How far a change from ``first`` up to ``end`` reaches that puts ``new`` there: over the lists before and behind
    with which ``new`` becomes one."""
    if not new:
        return first, end
    before, behind = after_empty(blocks, first - 1, -1), after_empty(blocks, end)
    if before >= 0 and goes_on(blocks[before], new[0]):
        first = before
    if behind < len(blocks) and goes_on(new[-1], blocks[behind]):
        end = behind + 1
    return first, end
