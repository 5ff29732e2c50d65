"""What the core asks of the outside: what a link leads to, and what a picture is.

A document names pages and items by number. Whoever calls the core hands it a `Resolver` that knows them; the core
never learns where they are kept.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Protocol


@dataclass(frozen=True)
class PageTarget:
    """A page that a link leads to. ``address`` is None while visitors cannot see the page; ``anchors`` are the ids of
    its headings as visitors have them, None where they are not known."""

    number: int
    title: str
    address: str | None
    anchors: frozenset[str] | None = None


@dataclass(frozen=True)
class ItemTarget:
    """An item of the library that a link leads to: its name, and the address, kind ("PDF") and size of its file in
    bytes."""

    number: int
    title: str
    address: str
    kind: str
    size: int


@dataclass(frozen=True)
class ImageFile:
    """A file a picture can be shown from: its address, its size in CSS pixels, and in bytes."""

    address: str
    width: int
    height: int
    size: int = 0


@dataclass(frozen=True)
class PictureTarget:
    """A picture of the library: its own alt text ("" when it has none), its name and its files, smallest first."""

    number: int
    title: str
    alt: str
    files: tuple[ImageFile, ...] = field(default=())


class Resolver(Protocol):
    """Knows the pages and items that a document names. None means that there is no such thing (any more)."""

    def page(self, number: int) -> PageTarget | None: ...

    def picture(self, number: int) -> PictureTarget | None: ...

    def item(self, number: int) -> ItemTarget | None: ...


@dataclass(frozen=True)
class Known:
    """A resolver over mappings, number to target. Without them it knows nothing."""

    pages: Mapping[int, PageTarget] = field(default_factory=dict)
    pictures: Mapping[int, PictureTarget] = field(default_factory=dict)
    items: Mapping[int, ItemTarget] = field(default_factory=dict)

    def page(self, number: int) -> PageTarget | None:
        return self.pages.get(number)

    def picture(self, number: int) -> PictureTarget | None:
        return self.pictures.get(number)

    def item(self, number: int) -> ItemTarget | None:
        return self.items.get(number)
