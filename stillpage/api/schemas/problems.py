"""The shape of what went wrong (RFC 9457)."""

from __future__ import annotations

from ninja import Schema

from .checking import FindingOut


class Problem(Schema):
    """A problem document (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    pointer: str | None = None
    findings: list[FindingOut] | None = None
    place: int | None = None
    received: int | None = None
