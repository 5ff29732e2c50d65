"""What the core asks of the outside: what a link leads to, and what a picture is.

A document names pages and items by number. Whoever calls the core hands it a `Resolver` that knows them; the core
never learns where they are kept.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal, Protocol

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
class ItemTarget:
    """An item of the library that a link leads to: its name, and the address, kind ("PDF") and size of its file in
    bytes."""

    number: int
    title: str
    address: str
    kind: str
    size: int
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


class Resolver(Protocol):
    """Knows the pages and items that a document names. None means that there is no such thing (any more).

    ``outside_fault`` says in a sentence what was wrong with an outside address when it was last tested, if anything.
    """

    def page(self, number: int) -> PageTarget | None: ...

    def picture(self, number: int) -> PictureTarget | None: ...

    def item(self, number: int) -> ItemTarget | None: ...

    def outside_fault(self, address: str) -> str | None: ...


@dataclass(frozen=True)
class FixedResolver:
    """A resolver over mappings, number to target. Without them it knows nothing."""

    pages: Mapping[int, PageTarget] = field(default_factory=dict)
    pictures: Mapping[int, PictureTarget] = field(default_factory=dict)
    items: Mapping[int, ItemTarget] = field(default_factory=dict)
    faults: Mapping[str, str] = field(default_factory=dict)

    def page(self, number: int) -> PageTarget | None:
        return self.pages.get(number)

    def picture(self, number: int) -> PictureTarget | None:
        return self.pictures.get(number)

    def item(self, number: int) -> ItemTarget | None:
        return self.items.get(number)

    def outside_fault(self, address: str) -> str | None:
        return self.faults.get(address)
