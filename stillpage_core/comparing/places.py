"""In how many places two documents differ."""

from __future__ import annotations

import json
from difflib import SequenceMatcher

from ..document.node import Node


def places_that_differ(one: Node, other: Node) -> int:
    """The number of separate runs of blocks that were added, removed or changed between two documents."""
    if one == other:
        return 0
    matcher = SequenceMatcher(None, _keys(one), _keys(other), autojunk=False)
    return sum(tag != "equal" for tag, *_ in matcher.get_opcodes())


def _keys(document: Node) -> list[str]:
    return [json.dumps(block.to_json(), sort_keys=True) for block in document.content]
