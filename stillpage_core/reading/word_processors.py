"""What the readers of word processors' files have in common."""

from __future__ import annotations

from collections.abc import Iterator

from lxml import etree

from ..document.node import Node, make
from .reading import Told
from .text import clean

CAPTIONS = {"caption": "", "table": "table"} | dict.fromkeys(("illustration", "figure", "drawing"), "picture")
"""The styles of captions and what they are for; some word processors have one for each sort of thing."""


def flat_words(element: etree._Element, told: Told) -> Iterator[Node]:
    """All the words of an element that stands too deep to be looked into, as a paragraph."""
    words = clean(" ".join(" ".join(map(str, element.itertext())).split()))
    if words:
        told.mended("What stood very deep within other things became plain paragraphs")
        yield make("paragraph", [Node("text", text=words)])
