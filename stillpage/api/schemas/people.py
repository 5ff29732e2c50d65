"""Shapes of people, their sessions and the audit trail."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Field, Schema
from pydantic import ConfigDict


class SignIn(Schema):
    username: str = Field(max_length=150)
    password: str = Field(max_length=1000)


class Choices(Schema):
    """How a person likes the interface. What is null was never chosen."""

    model_config = ConfigDict(extra="forbid")

    width: Literal["fit", "390", "820", "1280"] | None = Field(None, description="The reading width of the sheet.")
    left: Literal["outline", "notes", "listening"] | None = None
    left_shut: bool | None = Field(None, description="Whether Outline, Notes and Listening are folded away.")
    shelf_shut: bool | None = Field(None, description="Whether the Shelf is folded away.")
    more_marks: bool | None = Field(None, description="Whether the second line of the rule is open.")
    library: Literal["pictures", "lines"] | None = None
    keys: dict[Annotated[str, Field(max_length=60)], Annotated[str, Field(max_length=40)]] | None = Field(
        None, max_length=100, description="Keys of one's own, by the act they do; an empty one switches a key off."
    )


class Person(Schema):
    username: str
    name: str
    choices: Choices


class Session(Schema):
    """Who is signed in (nobody: null), and what the interface has to know."""

    person: Person | None
    csrf_token: str
    upload_limit: int = Field(description="The largest picture taken, in bytes.")
    document_limit: int = Field(description="The largest document taken, in bytes.")
    film_limit: int = Field(description="The largest film or sound taken, in bytes.")
    page_film_limit: int = Field(description="What a film of a page is to have at most, in bytes.")
    upload_piece: int = Field(description="The largest piece in which a file is sent, in bytes.")
    commons: bool = Field(description="Whether there is a commons of free pictures to look in.")
    may_arrange: bool = Field(description="Move, replace and delete items of the library.")
    may_keep: bool = Field(description="Say who may have items, and remove them for good.")
    may_read_trail: bool = Field(description="Read the audit trail.")
    may_keep_sites: bool = Field(description="Make, change or close sites.")
    may_keep_hosts: bool = Field(description="Say which hosts films may be shown from.")
    demo: bool = Field(description="Whether this is the demo, whose passwords everybody can read.")


class PasswordIn(Schema):
    present: str = Field(max_length=1000)
    new: str = Field(max_length=1000)


class SignedInAt(Schema):
    """A session of one's own: where and when it began, and when it was last used."""

    id: str
    present: bool = Field(description="Whether it is the one that asks.")
    agent: str = Field(description="What its browser calls itself.")
    address: str
    begun_at: datetime
    seen_at: datetime


class NotedEntry(Schema):
    """Something that was done. ``person`` is null where nobody was signed in."""

    id: int
    at: datetime
    act: str
    sentence: str
    person: int | None
    name: str
    site: int | None
    address: str
    agent: str
    facts: dict[str, Any]


class TrailOut(Schema):
    entries: list[NotedEntry] = Field(description="The newest first.")
    more: bool
    acts: list[str] = Field(description="Every act that is noted.")
