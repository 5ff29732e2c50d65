"""What a link says of the document that it leads to: its kind and size, behind its name."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING

from ..languages import own_name

if TYPE_CHECKING:
    from ..resolving import ItemTarget

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


def facts_of(item: ItemTarget) -> list[str]:
    """What is said of a file beside its name: its kind, size and pages; nothing where that is not known."""
    if not item.kind:
        return []
    pages = ["1 page" if item.pages == 1 else f"{item.pages} pages"] if item.pages else []
    return [item.kind, in_words(item.size), *pages]


def label_of(item: ItemTarget, language: str = "") -> str:
    """What a list of downloads says of a file: its facts, and its language where that is another than the ``language``
    (BCP 47) of the page; as in “(PDF, 212 kB, 3 pages, Cymraeg)”."""
    facts = facts_of(item)
    first = _first(item.language)
    if facts and first and first != _first(language):
        facts.append(own_name(first))
    return f"({', '.join(facts)})" if facts else ""


def _first(language: str) -> str:
    return language.partition("-")[0].lower()


def labelled(text: str, kind: str, size: int) -> str:
    """The words with the label at their end as it is right now; words without one stay as they are."""
    match = _LABEL.search(text)
    return text[: match.start()] + label(kind, size) if match else text
