"""How long a text is, and how heavy the page that shows it."""

from __future__ import annotations

import gzip
import re
from dataclasses import dataclass

from .document.node import Node
from .document.walking import text_of, walk
from .media.playing import cover_file, hosted_cover, sources
from .media.shown import Room, Rooms, room_of, taken_by_most
from .readability import Readability, readability_of
from .resolving import FilmTarget, Resolver
from .writing.html import published_html

WORDS_A_MINUTE = 238
"""Silent reading of English non-fiction by adults: Brysbaert, “How many words do we read per minute?”, Journal of
Memory and Language 109 (2019). From memory."""

_WORD = re.compile(r"\w+(?:[’'\-.,:/]\w+)*")


def _before_playing(film: FilmTarget, node: Node, room: Room, resolver: Resolver) -> dict[str, int]:
    """What a film costs a reader before it is played: its cover; if it begins by itself, the film too."""
    if node.kind == "sound":
        return {}
    address, size = cover_file(film, node.attrs, room, resolver)
    found = {address: size} if address else {}
    if node.attrs["autoplay"] and (first := next((each for each in sources(film) if not each.media), None)):
        found |= {file.address: file.size for file in film.files if file.address == first.address}
    return found


@dataclass(frozen=True)
class Measure:
    """``words`` of the text; ``seconds`` to read them; ``weight`` of page and pictures on the way to a reader, in
    bytes, without the theme's own files; ``score`` says how hard it is to read, None where that cannot be said."""

    words: int
    seconds: int
    weight: int
    score: Readability | None = None

    @property
    def ease(self) -> float | None:
        """Flesch's reading ease, to a tenth."""
        return round(self.score.ease, 1) if self.score else None

    @property
    def grade(self) -> float | None:
        """Kincaid's grade, in years at school, to a tenth."""
        return round(self.score.grade, 1) if self.score else None


def count_words(text: str) -> int:
    """Runs of letters and digits; a hyphen, an apostrophe or a point within one does not part it."""
    return len(_WORD.findall(text))


def measure(document: Node, resolver: Resolver, language: str = "en", rooms: Rooms | None = None) -> Measure:
    """Measure ``document``, in ``language``, as its readers get it; ``rooms`` are those of the site's theme."""
    words = count_words(text_of(document))
    weight = len(gzip.compress(published_html(document, resolver, rooms).encode(), 6))
    taken: dict[str, int] = {}
    for path, node in walk(document):
        target = resolver.picture(node.attrs["item"]) if node.kind == "picture" else None
        if target and target.files:
            file = taken_by_most(target, node.attrs, room_of(document, path, rooms))
            taken[file.address] = file.size
        if node.kind in ("film", "sound") and (film := resolver.film(node.attrs["item"])):
            taken |= _before_playing(film, node, room_of(document, path, rooms), resolver)
        if node.kind == "hosted" and (elsewhere := resolver.hosted(node.attrs["item"])):
            address, size = hosted_cover(elsewhere, node.attrs, room_of(document, path, rooms), resolver)
            taken |= {address: size} if address else {}
    weight += sum(taken.values())
    return Measure(words, round(words * 60 / WORDS_A_MINUTE), weight, readability_of(document, language))
