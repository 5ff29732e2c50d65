"""How long a text is, and how heavy the page that shows it."""

from __future__ import annotations

import gzip
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from .document.node import Node, make
from .document.walking import node_at, text_of, walk
from .kinds.animation.ways import files_for
from .kinds.gallery.ways import tile
from .kinds.paper.ways import pages_shown
from .kinds.post.ways import ACROSS, pictures_of
from .kinds.slideshow.ways import framed as slide_framed
from .kinds.slideshow.ways import room_within
from .media.playing import cover_file, hosted_cover, sources
from .media.shown import Room, Rooms, room_of, taken_by_most
from .readability import Readability, readability_of
from .resolving import FilmTarget, PictureTarget, Resolver
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


def _standing(
    picture: Node, target: PictureTarget, around: Sequence[Node], room: Room
) -> tuple[Mapping[str, Any], Room]:
    """How a picture stands where it is, and the room there; ``around`` are what it stands in, and what that does."""
    if around[0].kind == "gallery":
        framed, room = tile(around[0], picture, target)
        return {**picture.attrs, **framed}, room
    if around[0].kind == "slide":
        return {**picture.attrs, **slide_framed(around[1], picture)}, room_within(around[1], room)
    return picture.attrs, room


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
            around = [node_at(document, path[:-depth]) for depth in (1, 2)]
            file = taken_by_most(target, *_standing(node, target, around, room_of(document, path, rooms)))
            taken[file.address] = file.size
        if node.kind in ("film", "sound") and (film := resolver.film(node.attrs["item"])):
            taken |= _before_playing(film, node, room_of(document, path, rooms), resolver)
        if node.kind == "hosted" and (elsewhere := resolver.hosted(node.attrs["item"])):
            address, size = hosted_cover(elsewhere, node.attrs, room_of(document, path, rooms), resolver)
            taken |= {address: size} if address else {}
        for number in pictures_of(node) if node.kind == "post" else ():
            if (shown := resolver.picture(number)) and shown.files:
                file = taken_by_most(shown, make("picture", item=number).attrs, Room(ACROSS, ACROSS))
                taken[file.address] = file.size
        if node.kind == "animation" and (drawn := resolver.animation(node.attrs["item"])):
            taken |= {file.address: file.size for file in files_for(node, drawn) if file}
        if node.kind == "paper" and (paper := resolver.item(node.attrs["item"])):
            taken |= {page.files[-1].address: page.files[-1].size for page in pages_shown(node, paper)}
    weight += sum(taken.values())
    return Measure(words, round(words * 60 / WORDS_A_MINUTE), weight, readability_of(document, language))
