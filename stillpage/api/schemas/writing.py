"""Shapes of a page that is written: its text, versions, and who else is there."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from ninja import Field, Schema
from pydantic import UUID4

from .common import Document
from .library import ItemOut
from .sites import PageRef, PaletteOut, SiteOut, TrailEntry


class TextIn(Schema):
    title: str = Field(max_length=1000)
    description: str = Field("", max_length=5000)
    document: Document


class WorkingCopyIn(TextIn):
    """``base`` is the revision the text was made of. ``began`` is what it was made of, to be sent where the server asks
    for it, or where it is not the text of that revision. ``mark`` is what the sender knows this save by."""

    base: int
    mark: UUID4 | None = None
    began: TextIn | None = None
    person: str | None = Field(
        None, max_length=150, description="Who wrote it; nobody else saves it, though they may be signed in by now."
    )


class WorkingCopyOut(Schema):
    title: str
    description: str
    document: Document
    revision: int
    saved_at: datetime
    saved_by: str


class LiveOut(Schema):
    """What readers see. ``differs`` counts the places where the working copy is another."""

    address: str
    published_at: datetime
    published_by: str
    differs: int


class ClashOut(Schema):
    """A place that two people changed, each in their way. ``theirs`` was saved first, ``mine`` after it: blocks, or the
    words of the title or description. ``theirs_at`` and ``mine_at`` are the paths of the blocks in the working copy as
    it is told with this, where they stand there, or what has become of them by writing on."""

    id: int
    sort: Literal["words", "gone", "attributes", "title", "description"]
    theirs: list[dict[str, Any]] | str
    mine: list[dict[str, Any]] | str
    theirs_at: list[int] | None
    mine_at: list[int] | None
    theirs_by: str
    mine_by: str
    at: datetime


class PageOut(Schema):
    id: int
    site: SiteOut
    path: str
    address: str
    trail: list[TrailEntry] = Field(description="The pages above this one, from the top.")
    working_copy: WorkingCopyOut
    live: LiveOut | None
    items: list[ItemOut]
    pages: list[PageRef]
    palette: PaletteOut
    frame_weight: int = Field(description="What the theme adds to the weight of every page, in bytes.")
    publishers: list[str] = Field(description="Who publishes pages of the site, where one may not.")
    clashes: list[ClashOut] = Field(description="Where two people's wordings stand, and nobody has chosen yet.")


class ChangeOut(Schema):
    change: Literal["set_attributes", "replace_text", "replace_inline", "mark_words", "replace_nodes", "set_fact"]
    path: list[int]
    attrs: dict[str, Any] | None = None
    start: int | None = None
    end: int | None = None
    text: str | None = None
    kind: str | None = None
    count: int | None = None
    nodes: list[Any] | None = None
    name: str | None = None
    value: str | None = None


class MergedOut(Schema):
    """A text that holds what others have changed too. ``changes`` lead to it from the one that was sent; ``items`` and
    ``pages`` are those it names."""

    title: str
    description: str
    document: Document
    changes: list[ChangeOut]
    items: list[ItemOut]
    pages: list[PageRef]


class SaveOut(Schema):
    """``merged`` is the text as it is now, where it is another than the one that was sent. ``twice`` tells that the
    author changed the same words in two windows, and both wordings stand; nobody is asked."""

    revision: int
    saved_at: datetime
    saved_by: str
    live: LiveOut | None
    merged: MergedOut | None
    twice: bool
    clashes: list[ClashOut] = Field(description="Where nobody has chosen yet.")


class WritingIn(Schema):
    """``window`` is a number of the sender's own making; ``block`` the index of the block with the caret."""

    window: UUID4
    block: int | None = Field(None, ge=0, le=1_000_000)


class WritingOut(Schema):
    """Another window in which somebody writes; ``own`` tells that it is the asker's."""

    window: UUID4
    name: str
    own: bool
    block: int | None


class TogetherOut(Schema):
    revision: int
    room: bool = Field(description="Whether the server's disk has room for more than texts.")
    clashes: list[int] = Field(description="By number; see PageOut.")
    others: list[WritingOut]


class DraftIn(Schema):
    """A text of a page that is being written, saved or not."""

    title: str = Field(max_length=1000)
    description: str = Field(max_length=5000)
    document: Document


class BlocksIn(Schema):
    """Blocks that are to be seen as readers would have them: a document of nothing else."""

    document: Document


class BlockOut(Schema):
    """A block as readers get it, "" where there is nothing for them to see; and the addresses of the scripts that it
    needs. Where it ``waits`` for something to be made, it will be another before long."""

    html: str
    scripts: list[str]
    waits: bool


class TextOut(Schema):
    title: str
    description: str
    document: Document


class VersionIn(TextIn):
    note: str = Field(max_length=1000)


class VersionOut(Schema):
    """A text that is kept for good. ``note`` is the name it was given, if any."""

    id: int
    reason: Literal["published", "set aside", "named"]
    note: str
    at: datetime
    by: str
    title: str


class EquationIn(Schema):
    latex: str = Field(max_length=5000)
    display: bool = False


class EquationOut(Schema):
    mathml: str


class SignOut(Schema):
    text: str
    name: str


class PublishIn(Schema):
    revision: int
