"""Two texts that began as one, laid side by side part by part, so that an author can choose.

Blocks are compared as wholes. A run of blocks that only one side changed can be taken from that side without asking;
where both changed the same run, neither is better.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Literal

from ..document.node import Node

Side = Literal["mine", "theirs"]


@dataclass(frozen=True)
class Part:
    """A run of blocks: as in the text both began from, as in the one, as in the other.

    ``proposed`` is the side that alone changed it, "both" where both did and differ, None where they are the same.
    """

    base: tuple[Node, ...]
    mine: tuple[Node, ...]
    theirs: tuple[Node, ...]
    proposed: Literal["mine", "theirs", "both"] | None


def parts_of(base: Node, mine: Node, theirs: Node) -> list[Part]:
    """The parts of ``mine`` and ``theirs``, which both began as ``base``, in reading order.

    The blocks of all parts' ``mine`` in order are those of ``mine``, and so with the others.
    """
    keys = [_keys(each) for each in (base, mine, theirs)]
    in_mine, in_theirs = (_kept(keys[0], other) for other in keys[1:])
    parts: list[Part] = []

    def add(part: Part) -> None:
        if parts and parts[-1].proposed is None and part.proposed is None:
            last = parts.pop()
            part = Part(last.base + part.base, last.mine + part.mine, last.theirs + part.theirs, None)
        parts.append(part)

    at = (0, 0, 0)
    shared = [
        (index, in_mine[index], in_theirs[index])
        for index in range(len(keys[0]))
        if index in in_mine and index in in_theirs
    ]
    for place in [*shared, (len(keys[0]), len(keys[1]), len(keys[2]))]:
        runs = list(zip((base, mine, theirs), keys, at, place, strict=True))
        blocks = [node.content[first:last] for node, _, first, last in runs]
        if any(blocks):
            add(Part(blocks[0], blocks[1], blocks[2], _proposed([key[first:last] for _, key, first, last in runs])))
        if place[0] < len(keys[0]):
            same = (base.content[place[0]],)
            add(Part(same, same, same, None))
        at = (place[0] + 1, place[1] + 1, place[2] + 1)
    return parts


def _proposed(slices: Sequence[Sequence[str]]) -> Literal["mine", "theirs", "both"] | None:
    base, mine, theirs = slices
    if mine == theirs:
        return None
    if mine == base:
        return "theirs"
    return "mine" if theirs == base else "both"


def _keys(document: Node) -> list[str]:
    return [json.dumps(block.to_json(), sort_keys=True) for block in document.content]


def _kept(base: Sequence[str], other: Sequence[str]) -> dict[int, int]:
    """Where the blocks of ``base`` that ``other`` still has stand in it."""
    matcher = SequenceMatcher(None, base, other, autojunk=False)
    return {
        first + offset: second + offset
        for first, second, size in matcher.get_matching_blocks()
        for offset in range(size)
    }
