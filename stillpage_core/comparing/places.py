"""In how many places two documents differ."""

from __future__ import annotations

from ..document.node import Node
from ..document.walking import blocks_of
from .aligning import changed_runs, numbered


def places_that_differ(one: Node, other: Node) -> int:
    """The number of separate runs of blocks that were added, removed or changed between two documents."""
    if one == other:
        return 0
    return len(changed_runs(*numbered(*([block for _, block in blocks_of(each)] for each in (one, other)))))
