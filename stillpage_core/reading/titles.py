"""The title of a text that is a page of its own, and the levels of its headings below it."""

from __future__ import annotations

from collections.abc import Sequence

from ..document.node import Node
from ..document.walking import text_of
from .listed import is_empty
from .reading import Arriving
from .regions import by_region, without_regions


def titled(blocks: list[Node], arriving: Arriving) -> list[Node]:
    """The blocks of a whole page without its title, where they begin with one: the only heading of level 1.

    A title that is marked as such comes as a heading of level 0; it takes level 1, and all headings one lower. Those
    of level 1 stay so until `lowered` is asked.
    """
    if any(block.kind == "heading" and block.attrs["level"] == 0 for block in blocks):
        blocks = by_region(blocks, _one_lower)
    if not arriving.whole:
        return blocks
    ones = [index for index, block in enumerate(blocks) if block.kind == "heading" and block.attrs["level"] == 1]
    if len(ones) != 1 or not is_empty(blocks[: ones[0]]):
        return blocks
    links = sum(any(mark.kind == "link" for mark in node.marks) for node in blocks[ones[0]].content)
    arriving.told.dropped("A link in the title was left out", "{} links in the title were left out", links)
    arriving.title = " ".join(text_of(blocks[ones[0]]).split()) or arriving.title
    return blocks[ones[0] + 1 :]


def lowered(blocks: list[Node], arriving: Arriving) -> list[Node]:
    """The blocks with all headings one level lower where one of them is of level 1, which is the page's title."""
    if not any(block.kind == "heading" and block.attrs["level"] == 1 for block in without_regions(blocks)):
        return blocks
    arriving.told.mended("Headings were lowered by one level: level 1 is the page's title")
    return by_region(blocks, _one_lower)


def _one_lower(blocks: Sequence[Node]) -> list[Node]:
    return [
        block.with_attrs(level=min(6, block.attrs["level"] + 1)) if block.kind == "heading" else block
        for block in blocks
    ]
