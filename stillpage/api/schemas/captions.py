"""Shapes of captions and transcripts."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ninja import Field, Schema

from .common import Language


class CueRow(Schema):
    """Words that are shown from ``begin`` to ``end``, in milliseconds; ``name`` and ``settings`` are the identifier and
    the settings of WebVTT."""

    begin: int = Field(ge=0)
    end: int = Field(ge=0)
    text: str = Field(max_length=4000)
    speaker: str = Field("", max_length=400)
    name: str = Field("", max_length=400)
    settings: str = Field("", max_length=400)


class Stretch(Schema):
    """A part of a film, in milliseconds."""

    begin: int
    end: int


CaptionSort = Literal["captions", "descriptions", "chapters"]


class CaptionsBrief(Schema):
    """The captions of an item in one language, without their cues."""

    id: int
    item: int
    sort: CaptionSort
    language: str
    name: str = Field(description="What the language calls itself, for whoever chooses.")
    number: int = Field(description="How many cues there are.")
    revision: int
    drafted: bool = Field(description="Whether nobody has held them against the film since they were drafted.")
    earlier_file: bool = Field(description="Whether they were checked with an earlier file of the item.")
    saved_at: datetime
    saved_by: str
    given: str = Field(description="The address of the file that readers get; empty while they get none.")
    given_at: datetime | None
    differs: bool = Field(description="Whether they have been changed since readers got them.")


class CaptionsOut(CaptionsBrief):
    """The same with its cues, and where the film is loud."""

    cues: list[CueRow]
    loud: list[Stretch]


class CaptionsBegun(Schema):
    sort: CaptionSort = "captions"
    language: Language
    cues: list[CueRow] = Field([], max_length=20_000)


class CaptionsSaved(Schema):
    """Captions written on from a ``revision``. ``drafted`` false says that they were held against the film."""

    revision: int
    cues: list[CueRow] = Field(max_length=20_000)
    language: Language | None = None
    drafted: bool | None = None


class CuesIn(Schema):
    cues: list[CueRow] = Field(max_length=20_000)


class CaptionRepair(Schema):
    """The cues from ``first`` to ``last``, both included, as they are after it."""

    label: str
    first: int
    last: int
    cues: list[CueRow]


class CaptionNoteOut(Schema):
    rule: str
    sentence: str
    cue: int
    at: int = Field(description="In milliseconds.")
    severity: Literal["mend", "look"]
    repair: CaptionRepair | None


class CaptionNotes(Schema):
    """What is wrong with cues: the first of it, and how much there is."""

    notes: list[CaptionNoteOut]
    total: int


class WordsIn(Schema):
    words: str = Field(max_length=400_000)


class CuesRead(Schema):
    """Cues out of a file or a transcript, and what was mended or left out."""

    cues: list[CueRow]
    language: str = ""
    told: list[str] = []


class TranscriptOut(Schema):
    paragraphs: list[str]


class ItemTranscript(TranscriptOut):
    """The transcript that readers get of a film; no paragraphs while they have no captions."""

    name: str
    language: str
