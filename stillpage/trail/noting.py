"""Noting what was done, in the database and in the log.

The entry is part of the transaction of what it tells: neither is there without the other. The line of JSON in the log
follows when that is done.
"""

from __future__ import annotations

import json
import logging
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from .models import Entry

ACTS = {
    "signed in": "Somebody signed in",
    "sign-in failed": "A name and a password did not belong together",
    "sign-in paused": "An attempt to sign in was not looked at",
    "signed out": "Somebody signed out",
    "password changed": "Somebody changed their password",
    "sessions ended": "Somebody ended sessions of theirs",
    "role given": "A role was given",
    "role taken": "A role was taken",
    "published": "A page was published",
    "withdrawn": "A page was taken from readers",
    "arranged": "Pages were moved, named, copied, shown elsewhere, or put into the bin",
    "redirects changed": "Where addresses lead was changed by hand",
    "preview given": "A preview address was made or ended",
    "site changed": "A site was made, changed, closed or opened",
    "removed for good": "Items or pages were removed for good",
    "reach changed": "Who may have items was changed",
    "checks changed": "What the page check asks for was changed",
    "hosts changed": "Which hosts films may be shown from was changed",
    "exported": "A page or a site was exported",
    "begun": "The installation was begun",
}
"""What is noted, and what each means."""

_log = logging.getLogger("stillpage.trail")


@dataclass(frozen=True)
class Origin:
    """Where a request comes from."""

    address: str = ""
    agent: str = ""


_here: ContextVar[Origin | None] = ContextVar("where the present request comes from", default=None)


class Whence:
    """Middleware that remembers where a request comes from, for whatever is noted while it is answered."""

    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: Any) -> Any:
        before = _here.set(
            Origin(request.META.get("REMOTE_ADDR", "")[:45], request.headers.get("User-Agent", "")[:300])
        )
        try:
            return self.get_response(request)
        finally:
            _here.reset(before)


def note(act: str, sentence: str, *, person: Any = None, name: str = "", site: Any = None, **facts: Any) -> Entry:
    """Add an entry. ``person`` and ``site`` are rows, or None; ``name`` is for somebody who is no known person."""
    assert act in ACTS, act
    whence = _here.get() or Origin()
    number = getattr(person, "pk", None)
    entry = Entry.objects.create(
        act=act,
        sentence=sentence[:500],
        person=number,
        name=(name or getattr(person, "username", "") or "")[:320],
        site=getattr(site, "pk", None),
        address=whence.address,
        agent=whence.agent,
        facts=facts,
    )
    transaction.on_commit(lambda: _log.info(line_of(entry)))
    return entry


def line_of(entry: Entry) -> str:
    """An entry as a line of JSON. Whatever it holds stands within its strings: a line cannot be made to look like
    two (OWASP ASVS 4.0.3, 7.3.1)."""
    names = ("act", "sentence", "person", "name", "site", "address", "agent", "facts")
    told = {"at": entry.at.isoformat(), **{name: getattr(entry, name) for name in names}}
    return json.dumps(told, ensure_ascii=True, default=str)
