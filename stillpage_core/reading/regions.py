"""Regions on the way in: a reader gives each but main as a node among the blocks of main, and `Arriving.finished` takes
them apart."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence

from ..document.node import Node, make
from ..document.schema import is_region


def region(name: str | None, blocks: Sequence[Node]) -> Sequence[Node]:
    """Blocks that stand in a region, as one node; as they are where nothing is called so, or where there are none."""
    return [make("region", without_regions(blocks), name=name)] if blocks and is_region(name or "") else blocks


def without_regions(blocks: Iterable[Node]) -> list[Node]:
    """The blocks where no region may stand: those of each in its place."""
    return [each for block in blocks for each in (block.content if block.kind == "region" else (block,))]


def by_region(blocks: Sequence[Node], change: Callable[[Sequence[Node]], Iterable[Node]]) -> list[Node]:
    """The blocks with a change made to those of main, and to those of each other region; one that is left without any
    is no more."""
    main, others = apart(blocks)
    changed = ((name, list(change(held))) for name, held in others)
    return [*change(main), *(make("region", held, name=name) for name, held in changed if held)]


def apart(blocks: Sequence[Node]) -> tuple[Sequence[Node], list[tuple[str, list[Node]]]]:
    """The blocks of main, and those of the other regions by their names; regions of one name are one."""
    if not any(block.kind == "region" for block in blocks):
        return blocks, []
    others: dict[str, list[Node]] = {}
    for block in blocks:
        if block.kind == "region":
            others.setdefault(block.attrs["name"], []).extend(block.content)
    return [block for block in blocks if block.kind != "region"], list(others.items())
