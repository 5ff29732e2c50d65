"""The picture that stands for a page where it is shared: which it is, and what is cut from it."""

from __future__ import annotations

from typing import Any

from .node import Node

RATIO = "40:21"
"""The proportions of the picture of a shared card: 1200 to 630 pixels (common practice)."""


def share_framing(document: Node) -> dict[str, Any] | None:
    """What is made of the picture for sharing: a value for each of `media.editing.EDITS`; None where there is none."""
    if document.attrs["share"] is None:
        return None
    return {"turn": None, "straighten": None, "crop": None, "ratio": RATIO, "focus": document.attrs["share_focus"]}
