"""White space, as the checks of it understand it."""

from __future__ import annotations

from ..document.node import Node

SPACES = " \u00a0\u2007\u202f\u2003\u2002"
"""Spaces, hard ones among them, and those that are as wide as letters."""


def is_empty(block: Node) -> bool:
    """Whether a paragraph shows nothing but space."""
    return block.kind == "paragraph" and not any(
        child.kind == "formula" or child.text.strip(SPACES) for child in block.content
    )
