"""Shapes of texts that come in and go out."""

from __future__ import annotations

from typing import Literal

from ninja import Field, Schema

from .common import Document, Told
from .library import ItemOut
from .sites import PageRef

Container = Literal["region", "list_item", "quotation_words", "aside", "table_cell", "table_header", "line"]


class Landing(Schema):
    """Where a text is to stand: in what kind of block, under a heading of which level, beside which anchors."""

    container: Container = "region"
    under: int = Field(1, ge=1, le=6)
    taken: list[str] = Field([], max_length=5000, description="Anchors that the page has already.")


class PasteIn(Landing):
    """What is on the clipboard. ``plain`` asks for the words and their paragraphs, nothing mended."""

    html: str = ""
    text: str = ""
    rtf: str = Field("", description="The same as Rich Text Format, which holds the pictures that HTML only names.")
    plain: bool = False
    pictures: list[int] = Field([], max_length=200, description="Items for pictures that came without their bytes.")


class ArrivedOut(Schema):
    """Blocks to be put in, with the items and pages that they name."""

    document: Document
    read_as: Literal["html", "md", "txt", "docx", "odt"]
    title: str | None
    told: Told
    items: list[ItemOut]
    pages: list[PageRef]


class Caret(Schema):
    """A place in a document: the path of a block of words, and a position in it as the editor counts."""

    path: list[int] = Field(max_length=50)
    position: int = Field(ge=0)


class SourceIn(Schema):
    document: Document
    caret: Caret | None = None


class SourceOut(Schema):
    """The page's HTML; ``caret`` in UTF-16 code units from its start."""

    html: str
    caret: int | None


class SourceReadIn(Schema):
    html: str
    caret: int | None = Field(None, ge=0)


class SourceNote(Schema):
    """Something of the source that will not come through as written."""

    start: int
    end: int
    sort: Literal["removed", "changed", "wrong"]
    sentence: str


class SourceReadOut(Schema):
    document: Document
    notes: list[SourceNote]
    caret: Caret | None
    items: list[ItemOut]
    pages: list[PageRef]
