"""Shapes of what is done to a tree, of where addresses lead, and of preview addresses."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from ninja import Field, Schema

from .common import State
from .sites import ContentsEntry, PageRef, SiteOut, TrailEntry

Numbers = Annotated[list[int], Field(min_length=1, max_length=500)]


class Found(ContentsEntry):
    """A page that was looked for, with the pages above it."""

    trail: list[TrailEntry]
    changed_at: datetime
    changed_by: str


class FoundOut(Schema):
    pages: list[Found]
    more: bool


class FactsOut(Schema):
    """What stands beside the tree of one page. What it is called elsewhere is “” where the title serves."""

    id: int
    site: SiteOut
    title: str
    description: str
    label: str
    search_title: str
    share: int | None
    slug: str
    slug_follows: bool
    path: str
    address: str
    state: State
    revision: int
    in_navigation: bool
    hidden: bool
    elsewhere: str
    copied_title: str
    trail: list[TrailEntry]
    below: int
    saved_at: datetime
    saved_by: str
    published_at: datetime | None
    published_by: str
    linked_from: list[PageRef] = Field(description="The first few of the pages that link to it.")
    links: int = Field(description="How many pages link to it.")
    redirects: int = Field(description="How many earlier addresses lead to it.")


class NamesIn(Schema):
    """What a page is called. What is left out stays; “” gives it back to the title."""

    revision: int
    title: str | None = Field(None, max_length=1000)
    description: str | None = Field(None, max_length=2000)
    label: str | None = Field(None, max_length=80)
    search_title: str | None = Field(None, max_length=200)


class PlaceIn(Schema):
    """Where pages are to stand: under a page of a site, or at its top, as the last there; or right beside another."""

    site: int
    parent: int | None = None
    after: int | None = None
    before: int | None = None


class PlacedIn(PlaceIn):
    pages: Numbers


class PagesIn(Schema):
    pages: Numbers


class ShownIn(PagesIn):
    in_navigation: bool
    hidden: bool


class AskedIn(PagesIn):
    """An act of which the consequences are asked for; ``place`` where pages would be put, ``slug`` of a new address."""

    act: Literal["place", "slug", "bin", "withdraw"]
    place: PlaceIn | None = None
    slug: str | None = Field(None, max_length=200)


class AddressChange(Schema):
    before: str
    after: str


class ConsequencesOut(Schema):
    pages: int
    live: int
    links: int
    addresses: list[AddressChange]
    linked_from: list[PageRef]
    sentences: list[str]


class TreeActOut(Schema):
    """Something that was done to a tree, and can be undone."""

    id: int
    sentence: str
    at: datetime
    undone: bool


class LastAct(Schema):
    act: TreeActOut | None


class RestoreOut(Schema):
    act: TreeActOut
    live: bool = Field(description="Whether what readers had is live again.")


class BinnedOut(Schema):
    """Pages that came into the bin together, by the uppermost."""

    id: int
    title: str
    path: str = Field(description="The address that it had, as far as that is known.")
    pages: int
    was_live: int
    at: datetime
    by: str


class BinOut(Schema):
    binned: list[BinnedOut]
    more: bool


class SlugIn(Schema):
    slug: str | None = Field(max_length=200, description="null: it follows the title.")


class ElsewhereIn(Schema):
    address: str = Field(max_length=2500)


class DuplicateIn(Schema):
    title: str = Field(max_length=1000)
    label: str | None = Field(None, max_length=80)
    slug: str | None = Field(None, max_length=200)
    deep: bool = False


class DuplicateOut(Schema):
    page: int
    act: TreeActOut


class ProposalOut(Schema):
    """What a copy might be called, and what its address would be."""

    title: str
    label: str
    slug: str
    below: int


class RedirectOut(Schema):
    id: int
    path: str
    page: PageRef | None
    address: str
    gone: bool
    why: str
    made_at: datetime
    made_by: str
    used_on: date | None


class RedirectsOut(Schema):
    redirects: list[RedirectOut]
    total: int


class RedirectIn(Schema):
    """An address of the site that is to lead to a page, or to an address elsewhere; to neither: it is gone."""

    path: str = Field(max_length=1000)
    page: int | None = None
    address: str = Field("", max_length=2500)


class RedirectsRead(Schema):
    made: int
    refused: list[str]


class PreviewIn(Schema):
    until: date


class PreviewOut(Schema):
    id: int
    address: str
    until: date
    made_at: datetime
    made_by: str
    visits: int
    seen_at: datetime | None
    ended: bool


class SiteIn(Schema):
    name: str = Field(max_length=300)
    host: str = Field(max_length=300)
    language: str = Field("en", max_length=35)
    theme: str = Field(max_length=40)
    description: str = Field("", max_length=1000)
    footer: str = Field("", max_length=1000)
    picture: int | None = None


class SiteChange(Schema):
    name: str | None = Field(None, max_length=300)
    host: str | None = Field(None, max_length=300)
    language: str | None = Field(None, max_length=35)
    theme: str | None = Field(None, max_length=40)
    description: str | None = Field(None, max_length=1000)
    footer: str | None = Field(None, max_length=1000)
    picture: int | None = None
    first_page: int | None = None


class SiteCopyIn(Schema):
    name: str = Field(max_length=300)
    host: str = Field(max_length=300)


class SiteFull(SiteOut):
    footer: str
    pages: int
    live: int
    first_page: int | None


class SitesOut(Schema):
    sites: list[SiteFull]
    themes: list[str]
