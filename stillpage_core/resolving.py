"""What the core asks of the outside: what a link leads to, and what a picture is.

A document names pages and items by number. Whoever calls the core hands it a `Resolver` that knows them; the core
never learns where they are kept.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, Literal, Protocol

from .media.hosting.hosts import FilmHost

Reach = Literal["open", "binned", "elsewhere", "signed in", "hidden"]
"""Who can have an item or a page: everybody; nobody for long, since it waits in the bin; the readers of other sites
only; readers who are signed in; or nobody who does not know its address."""


@dataclass(frozen=True)
class PageTarget:
    """A page that a link leads to. ``address`` is None while visitors cannot see the page; ``anchors`` are the ids of
    its headings as visitors have them, None where they are not known."""

    number: int
    title: str
    address: str | None
    anchors: frozenset[str] | None = None
    reach: Reach = "open"


@dataclass(frozen=True)
class ImageFile:
    """A file a picture can be shown from: its address, its size in pixels and in bytes, its MIME type, and the cut of
    the original that it shows (`media.editing.Cut.key`)."""

    address: str
    width: int
    height: int
    size: int = 0
    mime: str = ""
    cut: str = ""


@dataclass(frozen=True)
class PageShown:
    """A page of a document: its number, its pictures, smallest first, and its words, a line each."""

    number: int
    files: tuple[ImageFile, ...]
    words: tuple[str, ...] = ()


@dataclass(frozen=True)
class ItemTarget:
    """An item of the library that a link leads to: its name, and the address, kind ("PDF") and size of its file in
    bytes. ``pages`` is how many a document has, 0 where that is not known; ``language`` (BCP 47) is that of its words.
    ``wanting`` is what a PDF lacks that readers need (`media.pdf.WANTED`), or "password". ``shown`` are those of its
    pages of which there are pictures; ``undrawn`` says in a sentence why there are none.
    """

    number: int
    title: str
    address: str
    kind: str
    size: int
    reach: Reach = "open"
    pages: int = 0
    language: str = ""
    wanting: tuple[str, ...] = ()
    shown: tuple[PageShown, ...] = ()
    undrawn: str = ""


_WHOLE: Mapping[str, Any] = {"turn": None, "straighten": None, "crop": None, "ratio": None, "focus": None}


@dataclass(frozen=True)
class PictureTarget:
    """A picture of the library: its own alt text ("" when it has none), its name and its files, smallest first.

    ``width`` and ``height`` are the upright original's, in pixels; ``edits`` is what the item says is to be made of it.
    ``words`` tells that the picture holds words that matter; ``moves`` is for how many seconds it moves by itself
    (0 when it stands still, infinite when it begins again and again).
    """

    number: int
    title: str
    alt: str
    files: tuple[ImageFile, ...] = field(default=())
    width: int = 1
    height: int = 1
    decorative: bool = False
    edits: Mapping[str, Any] = field(default_factory=lambda: _WHOLE)
    reach: Reach = "open"
    words: bool = False
    moves: float = 0


TrackSort = Literal["captions", "descriptions", "chapters"]


@dataclass(frozen=True)
class Track:
    """Words that go with a film, as readers have them: in a language (BCP 47), which calls itself ``name``, at an
    address. ``paragraphs`` are its transcript.

    ``cues`` is how many there are, ``drafted`` that nobody has held them against the film, ``earlier`` that they were
    checked with an earlier file of it; ``faults`` counts what the rules for captions find in them, by rule.
    """

    sort: TrackSort
    language: str
    name: str
    address: str
    paragraphs: tuple[str, ...] = ()
    cues: int = 0
    drafted: bool = False
    earlier: bool = False
    faults: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class FilmTarget:
    """A film or a sound of the library: its name, what was made of it to be played and shown (files whose ``cut`` is
    "film", "small", "sound", or a still), and the words that go with it.

    ``width`` and ``height`` are the upright original's, in pixels; ``lasts`` is in milliseconds. ``heard`` tells
    whether there is anything to hear. While ``files`` are still to be made, ``progress`` is the percentage of it that
    is done; ``problem`` says why they cannot be. ``unfinished`` are the languages of captions that readers have not
    been given.
    """

    number: int
    title: str
    kind: Literal["film", "sound"] = "film"
    files: tuple[ImageFile, ...] = ()
    tracks: tuple[Track, ...] = ()
    width: int = 1
    height: int = 1
    lasts: int = 0
    heard: bool = True
    progress: int = 0
    problem: str = ""
    language: str = ""
    unfinished: tuple[str, ...] = ()
    reach: Reach = "open"

    @property
    def playable(self) -> bool:
        """Whether there is a file by now that browsers play."""
        return any(file.cut == self.kind for file in self.files)


@dataclass(frozen=True)
class HostedTarget:
    """A film that stands at another host: its name, its ``address`` there, and what is known of it.

    ``host`` is None once nothing is shown from there any more; ``provider`` is what it calls itself. ``frame`` is the
    address of its player. ``width`` and ``height`` are its proportions, in pixels; ``lasts`` is in seconds, 0 where it
    is not known. ``cover`` is the picture that the host has for it, kept in the library. ``gone`` says in a sentence
    why it cannot be had there (any more), and ``captioned`` that somebody has seen that it has captions.
    """

    number: int
    title: str
    address: str
    host: FilmHost | None = None
    provider: str = ""
    frame: str = ""
    author: str = ""
    author_address: str = ""
    width: int = 16
    height: int = 9
    lasts: int = 0
    cover: PictureTarget | None = None
    gone: str = ""
    captioned: bool = False
    reach: Reach = "open"


@dataclass(frozen=True)
class AnimationTarget:
    """An animation of the library: its name, what it shows in words, and its files: of those with the cut
    “moving-NAME” the players make it move, those with “still-NAME” are a frame of it (`media.animations.cut_for`).

    ``width`` and ``height`` are its own, in pixels; ``lasts`` is in milliseconds; ``colours`` are its own, as six
    hexadecimal digits. ``problem`` says why there is no still frame.
    """

    number: int
    title: str
    alt: str = ""
    files: tuple[ImageFile, ...] = ()
    width: int = 1
    height: int = 1
    lasts: int = 0
    colours: tuple[str, ...] = ()
    problem: str = ""
    reach: Reach = "open"


@dataclass(frozen=True)
class PostTarget:
    """A post of a network, as it was when it was brought in: its words by paragraphs, who wrote it, and when (``at``,
    ISO 8601). ``frame`` is the address of the network's own view of it, ``width`` and ``height`` its size there;
    ``gone`` says in a sentence that it cannot be had there any more. ``host`` is None once nothing is shown from there.
    """

    number: int
    title: str
    address: str
    provider: str = ""
    host: FilmHost | None = None
    author: str = ""
    author_address: str = ""
    words: tuple[str, ...] = ()
    at: str = ""
    frame: str = ""
    width: int = 0
    height: int = 0
    gone: str = ""
    reach: Reach = "open"

    @property
    def moment(self) -> str:
        """When it was written, as readers are told: the day; "" where that is not known."""
        try:
            day = datetime.fromisoformat(self.at)
        except ValueError:
            return ""
        return f"{day.day} {day:%B %Y}"


AnyFilm = FilmTarget | HostedTarget
"""A film or sound of the library, wherever it stands."""


class Resolver(Protocol):
    """Knows the pages and items that a document names. None means that there is no such thing (any more).

    ``outside_fault`` says in a sentence what was wrong with an outside address when it was last tested, if anything.
    """

    def page(self, number: int) -> PageTarget | None: ...

    def picture(self, number: int) -> PictureTarget | None: ...

    def item(self, number: int) -> ItemTarget | None: ...

    def film(self, number: int) -> FilmTarget | None: ...

    def hosted(self, number: int) -> HostedTarget | None: ...

    def animation(self, number: int) -> AnimationTarget | None: ...

    def post(self, number: int) -> PostTarget | None: ...

    def outside_fault(self, address: str) -> str | None: ...


@dataclass(frozen=True)
class FixedResolver:
    """A resolver over mappings, number to target. Without them it knows nothing."""

    pages: Mapping[int, PageTarget] = field(default_factory=dict)
    pictures: Mapping[int, PictureTarget] = field(default_factory=dict)
    items: Mapping[int, ItemTarget] = field(default_factory=dict)
    faults: Mapping[str, str] = field(default_factory=dict)
    films: Mapping[int, FilmTarget] = field(default_factory=dict)
    elsewhere: Mapping[int, HostedTarget] = field(default_factory=dict)
    animations: Mapping[int, AnimationTarget] = field(default_factory=dict)
    posts: Mapping[int, PostTarget] = field(default_factory=dict)

    def page(self, number: int) -> PageTarget | None:
        return self.pages.get(number)

    def picture(self, number: int) -> PictureTarget | None:
        return self.pictures.get(number)

    def item(self, number: int) -> ItemTarget | None:
        return self.items.get(number)

    def film(self, number: int) -> FilmTarget | None:
        return self.films.get(number)

    def hosted(self, number: int) -> HostedTarget | None:
        return self.elsewhere.get(number)

    def animation(self, number: int) -> AnimationTarget | None:
        return self.animations.get(number)

    def post(self, number: int) -> PostTarget | None:
        return self.posts.get(number)

    def outside_fault(self, address: str) -> str | None:
        return self.faults.get(address)
