"""Where blocks that were kept stand in a document that has been written on since."""

from __future__ import annotations

from collections.abc import Sequence

from ..document.node import Node
from ..document.schema import SCHEMA
from ..document.walking import walk
from ..errors import Path
from .aligning import alike


def where_they_stand(document: Node, kept: Sequence[Node]) -> list[Path | None]:
    """The path of each block in ``document``: of the very same block, or of the one that has the most words in common
    with it, at least the half; None where there is none. No block of the document is two of them.

    Takes time in proportion to the document and what is looked for.
    """
    places = [(path, node) for path, node in walk(document) if len(path) > 1 and not SCHEMA.nodes[node.kind].inline]
    same: dict[Node, list[int]] = {}
    for index, (_, node) in enumerate(places):
        same.setdefault(node, []).append(index)
    found: dict[int, int] = {}
    for index, block in enumerate(kept):
        if there := same.get(block):
            found[index] = there.pop(0)
    taken = set(found.values())
    left = [index for index in range(len(kept)) if index not in found]
    free = [index for index in range(len(places)) if index not in taken]
    if left:
        for here, place in alike(kept, [node for _, node in places], left, free):
            if here not in found and place not in taken:
                found[here] = place
                taken.add(place)
    return [places[found[index]][0] if index in found else None for index in range(len(kept))]
