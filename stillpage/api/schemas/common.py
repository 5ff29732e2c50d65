"""Shapes that many operations share."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from ninja import Field, Schema
from pydantic import WithJsonSchema

Document = Annotated[dict[str, Any], WithJsonSchema({"x-core": "Doc"})]
"""A document. Its schema is the core's; `described` puts it in place of the mark."""

State = Literal["unpublished", "live", "changed"]


class Counted(Schema):
    total: int


Severity = Literal["blocks", "mend", "look"]


class Told(Schema):
    """What was done to a text on its way in."""

    kept: list[str] = Field(description="As in “3 headings”.")
    mended: list[str]
    dropped: list[str]


Language = Annotated[str, Field(max_length=35, pattern=r"^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$")]
