"""Shapes of sites, their trees and the links to pages."""

from __future__ import annotations

from ninja import Field, Schema

from .common import State


class SiteOut(Schema):
    id: int
    name: str
    origin: str
    language: str
    may_write: bool
    may_publish: bool
    may_set_checks: bool
    theme: str
    host: str
    description: str
    picture: int | None
    thumbnail: str = Field(description="The address of a small picture of it, or “”.")
    closed: bool
    levels: int = Field(description="How many levels of pages its navigation shows.")


class ContentsEntry(Schema):
    """A page as the Contents shows it. ``state`` "changed" means: live, and the working copy differs."""

    id: int
    parent: int | None
    title: str
    path: str
    state: State
    in_navigation: bool
    hidden: bool
    elsewhere: str = Field(description="Where an entry leads that is a link; “” for a page.")
    below: int = Field(description="How many pages stand right under it; they may be given here or not.")


class Contents(Schema):
    site: SiteOut
    pages: list[ContentsEntry] = Field(description="Each page before those below it, siblings in order.")
    among: int = Field(description="How many pages stand right under the one asked for, or at the top.")
    all: int = Field(description="How many pages the site has.")
    out_of_date: int = Field(description="How many live pages wait for being rendered anew, in the background.")


class NewPage(Schema):
    title: str = Field(max_length=1000)
    parent: int | None = None
    after: int | None = None
    before: int | None = None
    slug: str | None = Field(None, max_length=200)
    elsewhere: str | None = Field(None, max_length=2500, description="Where an entry leads that is to be a link.")


class PageRef(Schema):
    """A page to link to."""

    id: int
    title: str
    path: str
    site: str
    address: str
    state: State


class TrailEntry(Schema):
    """A page above another."""

    title: str
    path: str


class ToneOut(Schema):
    """A colour for words, with its contrast on each ground where it may be used."""

    name: str
    colour: str
    ratios: dict[str, float]


class RegionOut(Schema):
    """A part of the page that the theme has a place for; the widest pictures in it, in CSS pixels."""

    name: str
    label: str
    column: int
    wide: int


class PaletteOut(Schema):
    tones: list[ToneOut]
    styles: list[str]
    regions: list[RegionOut]
