"""Shapes of the media library."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ninja import Field, Schema

from .sites import PageRef


class Edits(Schema):
    """What is made of a picture; null where nothing is said. See docs/document.md."""

    turn: int | None = Field(None, ge=0, le=3)
    straighten: int | None = Field(None, ge=-150, le=150)
    crop: str | None = Field(None, pattern=r"^\d{1,5},\d{1,5},[1-9]\d{0,4},[1-9]\d{0,4}$")
    ratio: str | None = Field(None, pattern=r"^[1-9][0-9]?:[1-9][0-9]?$")
    focus: str | None = Field(None, pattern=r"^\d{1,5},\d{1,5}$")


class FileOut(Schema):
    """A file that a picture can be shown from. ``cut`` names what part of the original it shows."""

    address: str
    width: int
    height: int
    size: int
    mime: str
    cut: str


class ItemBrief(Schema):
    """An item as lists show it. ``width`` and ``height`` are the original's."""

    id: int
    kind: Literal["picture", "document", "film", "sound", "hosted", "animation", "post"]
    nature: Literal["", "photograph", "drawing", "moving", "lines"]
    title: str
    alt: str
    decorative: bool
    restricted: bool
    binned: bool
    problem: str
    width: int
    height: int
    length: int = Field(description="Of a document, in pages; 0 where it is not known.")
    lasts: int = Field(description="Of a film or sound, in milliseconds.")
    progress: int = Field(description="Of a film that is being made ready, in percent.")
    size: int = Field(description="In bytes.")
    format: str
    thumbnail: str
    ready: bool = Field(description="Whether all its files are made.")


class PlayedFileOut(Schema):
    """A source of a player, for the screens that ``media`` says; empty for all."""

    address: str
    mime: str
    media: str


class TrackOut(Schema):
    """Words that go with a film, as readers have them."""

    sort: Literal["captions", "descriptions", "chapters"]
    language: str
    name: str
    address: str


class FilmOut(Schema):
    """What readers are given of a film or sound; ``unfinished`` are languages of captions that they have not."""

    sources: list[PlayedFileOut]
    tracks: list[TrackOut]
    heard: bool = Field(description="Whether there is anything to hear.")
    unfinished: list[str]


class HostedOut(Schema):
    """A film that stands at another host. ``width`` and ``height`` are the size up to which it is shown."""

    host: str
    told: str = Field(description="Where it is and how long, as readers are told it.")
    address: str
    author: str
    author_address: str
    plays: bool = Field(description="Whether readers can play it on the page.")
    options: list[Literal["start", "captions", "muted", "loop"]] = Field(description="What its player honours.")
    width: int
    height: int
    gone: str = Field(description="Why it cannot be had, in a sentence; empty where it can.")
    asked_at: datetime | None = Field(description="When its host was last asked.")


class PostOut(Schema):
    """A post of a network, as it is kept. ``pictures`` are the numbers of its pictures in the library."""

    told: str = Field(description="Who wrote it, when, and where, as readers are told.")
    address: str
    words: list[str]
    pictures: list[int]
    gone: str = Field(description="Why it cannot be had there any more, in a sentence; empty where it can.")


class PdfOut(Schema):
    """What a PDF says of itself (ISO 32000-1)."""

    pages: int
    tagged: bool
    title: str
    language: str = Field(description="BCP 47; empty where it says none.")
    encrypted: bool
    form: bool
    script: bool
    locked: bool = Field(description="It opens with a password alone; the rest is not known.")


class WantingOut(Schema):
    """Something that readers miss in a document."""

    says: str
    remedy: str


class DocumentOut(Schema):
    """What was found in a document's file, the worst first."""

    pdf: PdfOut | None
    wanting: list[WantingOut]
    without_picture: str = Field(description="Why there is no picture of its first page, where it will not come.")


class ItemOut(ItemBrief):
    """An item of the library. ``files`` are what is made of it."""

    holds_words: bool
    colours: list[str] = Field(description="Of an animation: its colours, as six hexadecimal digits.")
    captioned: bool = Field(description="Of a film elsewhere: somebody has seen that it has captions.")
    description: str
    credit: str
    licence: str
    language: str
    tags: list[str]
    folder: int | None
    edits: Edits | None
    version: int
    leads_on: bool = Field(description="Whether old addresses lead to the present file, or are gone.")
    address: str
    link_format: str = Field(description="Of the file that a link gives readers; empty while it is to be made.")
    link_size: int = Field(description="Of the same, in bytes.")
    link_facts: list[str] = Field(description="What a list of downloads says of it: kind, size, pages.")
    language_name: str = Field(description="What its language calls itself; empty where none is said.")
    files: list[FileOut]
    film: FilmOut | None = Field(None, description="Of a film or sound.")
    document: DocumentOut | None = Field(None, description="Of a document.")
    hosted: HostedOut | None = Field(None, description="Of a film elsewhere.")
    post: PostOut | None = Field(None, description="Of a post of a network.")
    is_new: bool = True


class ItemChange(Schema):
    title: str | None = Field(None, max_length=200)
    alt: str | None = Field(None, max_length=1000)
    decorative: bool | None = None
    holds_words: bool | None = None
    captioned: bool | None = None
    description: str | None = Field(None, max_length=2000)
    credit: str | None = Field(None, max_length=200)
    licence: str | None = Field(None, max_length=200)
    language: str | None = Field(None, max_length=35, pattern=r"^$|^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$")
    tags: list[str] | None = Field(None, max_length=40)
    restricted: bool | None = None
    leads_on: bool | None = None
    edits: Edits | None = Field(None, description="All of them together; an empty object leaves nothing.")


class ActOut(Schema):
    """Something that was done, and can be undone by its number."""

    id: int
    sentence: str
    changed: int


class ItemsIn(Schema):
    items: list[int] = Field(max_length=5000)


class ItemsAct(ItemsIn):
    """``act`` on many items: ``move`` to a folder, ``tag`` (``words`` to give, ``without`` to take), ``describe`` with
    what ``say`` holds, ``bin``, ``restore``."""

    act: Literal["move", "tag", "describe", "bin", "restore"]
    folder: int | None = None
    words: list[str] = Field([], max_length=40)
    without: list[str] = Field([], max_length=40)
    say: ItemChange | None = None


class FolderOut(Schema):
    """A folder. ``kept_to`` are the sites that alone may use what it holds, by it or one above; none: all."""

    id: int
    name: str
    parent: int | None
    items: int
    sites: list[int]
    kept_to: list[int]


class FolderIn(Schema):
    name: str = Field(max_length=500)
    parent: int | None = None


class FolderChange(Schema):
    name: str | None = Field(None, max_length=500)
    parent: int | None = Field(None, description="0 for the top.")
    sites: list[int] | None = Field(None, max_length=200)


class FolderMade(Schema):
    folder: FolderOut
    act: ActOut


class VersionOfFile(Schema):
    """A file that an item has or had."""

    version: int
    came_as: str
    made_at: datetime
    size: int
    width: int
    height: int
    format: str
    address: str
    present: bool


class UploadIn(Schema):
    """``stamp`` tells two files of one name apart: when the file was last changed."""

    name: str = Field(max_length=1000)
    size: int = Field(ge=0)
    stamp: str = Field("", max_length=40)
    folder: int | None = None
    replaces: int | None = None


class UploadOut(Schema):
    id: str
    received: int
    piece: int


class FetchIn(Schema):
    """``address`` is that of a file, that of a film at a host that is allowed, or a code that such a host gives."""

    address: str = Field(max_length=20_000)
    folder: int | None = None


class CommonsPicture(Schema):
    id: str
    title: str
    author: str
    licence: str
    alt: str
    width: int
    height: int
    preview: str


class CommonsOut(Schema):
    pictures: list[CommonsPicture]
    more: bool


class CommonsTake(Schema):
    id: str = Field(max_length=200)
    folder: int | None = None


class LibraryEntry(Schema):
    """An item among others. ``uses`` counts the pages that show it or link to it."""

    item: ItemBrief
    added_at: datetime
    added_by: str
    uses: int


class ItemEntry(Schema):
    """An item with everything that is known of it."""

    item: ItemOut
    added_at: datetime
    added_by: str
    uses: int


class LibraryOut(Schema):
    """A part of what was asked for, and whether there is more after it."""

    entries: list[LibraryEntry]
    more: bool


class ItemUse(Schema):
    """A page that shows an item or links to it."""

    page: PageRef
    working: bool = Field(description="As it is being written.")
    live: bool = Field(description="As readers see it.")
    framings: list[Edits] = Field([], description="What is made of a picture there, each way once.")


class ShelfOut(Schema):
    """What the Shelf found: pictures and documents of the library, and pages of all sites."""

    pictures: list[ItemOut]
    documents: list[ItemOut]
    pages: list[PageRef]


class StillIn(Schema):
    at: int = Field(ge=0, le=99_999_999, description="In milliseconds.")
