"""Shapes of the page check and the listening view."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ninja import Field, Schema

from .common import Document, Severity
from .sites import PageRef
from .writing import ChangeOut, DraftIn


class CheckIn(Schema):
    """``site`` is that of the page, so that items kept to others are found."""

    document: Document
    site: int | None = None


class RepairOut(Schema):
    """``shows`` are the words that it leaves, where it changes any."""

    label: str
    changes: list[ChangeOut]
    shows: list[str]


class AllowanceOut(Schema):
    """A finding that somebody holds to be right as it is."""

    id: int
    check: str
    key: str
    sentence: str
    reason: str
    at: datetime
    by: str


class FindingOut(Schema):
    """``key`` is what it is known by while the page is changed elsewhere; ``together`` tells that the first repairs of
    all findings of its check may be done at once."""

    check: str
    title: str
    sentence: str
    whom: str
    source: str
    severity: Severity
    path: list[int]
    span: list[int] | None
    key: str
    together: bool
    repairs: list[RepairOut]
    allowed: AllowanceOut | None = None


class MeasureOut(Schema):
    words: int
    seconds: int = Field(description="To read the words.")
    weight: int = Field(description="Of the page and its pictures, in bytes.")
    ease: float | None = Field(description="Flesch's reading ease; null where the language is not scored.")
    grade: float | None = Field(description="Kincaid's grade, in years at school.")


class CheckOut(Schema):
    findings: list[FindingOut]
    measure: MeasureOut
    shown_title: str = Field(description="The title as search results and windows show it.")


class ResultOut(Schema):
    """What the page check found last on a page."""

    page: PageRef
    blocks: int
    mend: int
    look: int
    first: str = Field(description="What is found first of what weighs most.")
    checked_at: datetime
    changed: bool = Field(description="Whether the page has changed since.")


class ResultsOut(Schema):
    pages: int = Field(description="How many pages the site has.")
    checked: int = Field(description="How many of them were ever checked.")
    results: list[ResultOut]


class RenewIn(Schema):
    after: int = Field(0, ge=0, le=2**53, description="The number of the page checked last; 0 begins.")


class RenewedOut(Schema):
    after: int
    left: int


class AllowIn(DraftIn):
    """The text in which the finding stands, so that what is not there cannot be allowed."""

    key: str
    reason: str = Field(max_length=5000)


class RuleOut(Schema):
    """A check of the page check, with its page of help."""

    id: str
    group: str
    title: str
    whom: str
    source: str
    severity: Severity
    means: str
    right: str
    wrong_example: str
    right_example: str
    guards_access: bool = Field(description="Whether somebody is shut out where it is not kept (WCAG).")


class SiteChecks(Schema):
    """What a site has chosen: severities in place of the checks' own (null: off), what a page may weigh in kB, and for
    how many years at school a text may ask."""

    severities: dict[str, Severity | None]
    page_budget: int
    hardest_grade: int


class HeardLine(Schema):
    """Something a screen reader says in one go; ``path`` leads to the block on the sheet, null outside the text."""

    says: str
    role: str
    stop: Literal["", "heading", "link", "landmark"]
    level: int
    depth: int
    language: str
    path: list[int] | None


class OutsideLink(Schema):
    """An outside address that pages of a site lead to, and what came of its last test."""

    id: int
    address: str
    state: Literal["untested", "right", "unsure", "gone", "silent"]
    fault: str
    failed: bool
    moved_to: str
    tested_at: datetime | None
    pages: list[PageRef]


class HeadingOut(Schema):
    level: int
    text: str
    anchor: str
