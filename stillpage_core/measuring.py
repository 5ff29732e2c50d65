"""How long a text is, and how heavy the page that shows it."""

from __future__ import annotations

import gzip
import re
from dataclasses import dataclass

from .document.node import Node
from .document.walking import text_of, walk
from .resolving import Resolver
from .writing.html import published_html

WORDS_A_MINUTE = 238
"""Silent reading of English non-fiction by adults: Brysbaert, “How many words do we read per minute?”, Journal of
Memory and Language 109 (2019). From memory."""

SHOWN_AT = 1440
"""A picture is weighed as the file that a screen twice as dense as the column (720 px) takes, in pixels."""

_WORD = re.compile(r"\w+(?:[’'\-.,:/]\w+)*")


@dataclass(frozen=True)
class Measure:
    """``words`` of the text; ``seconds`` to read them; ``weight`` of page and pictures on the way to a reader, in
    bytes, without the theme's own files."""

    words: int
    seconds: int
    weight: int


def count_words(text: str) -> int:
    """Runs of letters and digits; a hyphen, an apostrophe or a point within one does not part it."""
    return len(_WORD.findall(text))


def measure(document: Node, resolver: Resolver) -> Measure:
    """Measure ``document`` as its readers get it."""
    words = count_words(text_of(document))
    weight = len(gzip.compress(published_html(document, resolver).encode(), 6))
    for number in {node.attrs["item"] for _, node in walk(document) if node.kind == "picture"}:
        picture = resolver.picture(number)
        if picture and picture.files:
            fitting = [file for file in picture.files if file.width >= SHOWN_AT]
            weight += (fitting or picture.files[-1:])[0].size
    return Measure(words, round(words * 60 / WORDS_A_MINUTE), weight)
