"""Anchors: the ids that headings get, so that a link can lead to them."""

from __future__ import annotations

import re
import unicodedata


def slug(text: str, otherwise: str = "section") -> str:
    """Words as they may stand in an address: lower case, hyphens for everything else, accents folded.

    Letters of other scripts stay (RFC 3987 allows them); ``otherwise`` serves where nothing is left.
    """
    folded = unicodedata.normalize("NFKD", text.casefold())
    plain = "".join(character for character in folded if not unicodedata.combining(character))
    return re.sub(r"[\W_]+", "-", unicodedata.normalize("NFC", plain)).strip("-")[:80].strip("-") or otherwise


class Anchors:
    """Gives each heading of one page an id of its own."""

    RESERVED = frozenset({"main", "top"})

    def __init__(self) -> None:
        self._taken: set[str] = set(self.RESERVED)

    def take(self, heading: str) -> str:
        """The id for a heading with these words; a number is added where the words were used before."""
        base = slug(heading)
        name, number = base, 1
        while name in self._taken:
            number += 1
            name = f"{base}-{number}"
        self._taken.add(name)
        return name
