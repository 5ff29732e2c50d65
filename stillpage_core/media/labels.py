"""What a link says of the document that it leads to: its kind and size, behind its name."""

from __future__ import annotations

import re

_LABEL = re.compile(r"\(([A-Za-z0-9 ]{1,20}), (\d[\d.,]{0,9} ?(?:bytes|kB|MB|GB))\)$")


def in_words(size: int) -> str:
    """A size in bytes as readers are told it."""
    if size < 1000:
        return f"{size} bytes"
    if size < 1_000_000:
        return f"{round(size / 1000)} kB"
    return f"{size / 1_000_000:.1f} MB".replace(".0 ", " ")


def label(kind: str, size: int) -> str:
    """As in “(PDF, 212 kB)”."""
    return f"({kind}, {in_words(size)})"


def labelled(text: str, kind: str, size: int) -> str:
    """The words with the label at their end as it is right now; words without one stay as they are."""
    match = _LABEL.search(text)
    return text[: match.start()] + label(kind, size) if match else text
