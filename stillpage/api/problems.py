"""Errors as problem documents (RFC 9457)."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpResponse

TYPES = "https://stillpage.invalid/problems/"
"""The prefix of problem types. They are names, not addresses: nothing is there to be fetched."""


def problem(
    status: int, name: str, title: str, detail: str, *, retry_after: int | None = None, **more: Any
) -> HttpResponse:
    """A problem document: ``name`` is its type, ``title`` what kind of thing went wrong, ``detail`` a way out;
    ``retry_after`` are the seconds after which asking again may help."""
    body = {"type": TYPES + name, "title": title, "status": status, "detail": detail, **more}
    wait = 5 if status == 503 and retry_after is None else retry_after
    headers = {} if wait is None else {"Retry-After": str(wait)}
    return HttpResponse(
        json.dumps(body, ensure_ascii=False, default=str),
        status=status,
        content_type="application/problem+json",
        headers={"Cache-Control": "no-store", **headers},
    )
