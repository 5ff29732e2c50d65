"""Which pages of a document are shown."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from ..kinds.paper import MOST

ACROSS = (720, 1440)
"""How wide the pictures of a page are, in pixels."""
CUT = "shown-"
"""How the cut of a file begins that shows a page; its number follows."""


def span(first: int, last: int | None, count: int) -> range:
    """The numbers of the pages that are shown of a document that has ``count`` (0 where that is not known)."""
    end = min(last or first + MOST - 1, first + MOST - 1)
    return range(first, (min(end, count) if count else end) + 1)


def wanted(framings: Iterable[Mapping[str, Any]], count: int) -> list[int]:
    """The numbers of the pages that uses of a document show, each once, in order."""
    spans = [span(each["first"], each["last"], count) for each in framings if "first" in each]
    return sorted({number for each in spans for number in each})
