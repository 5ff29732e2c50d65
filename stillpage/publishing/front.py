"""What the front server keeps of live pages (`ops.front`), and telling it at once that some have changed.

It keeps a page for a second, in a file named by the MD5 of what it is kept by. A page that has just changed is taken
from there, so that the next reader gets the new one; had a reader's request been under way in that moment, the second
is the longest that an old page can be sent. Only while the application or its database is away, it sends what it has.
"""

from __future__ import annotations

import hashlib
from collections.abc import Collection, Iterable
from contextlib import suppress
from pathlib import Path
from urllib.parse import quote

from django.conf import settings

SECONDS = 1
"""How long the front server keeps a page."""
MOST = 2000
"""Of more pages than this, all are taken from there that it has."""


def forget(addresses: Iterable[str], hosts: Collection[str] = ()) -> None:
    """Have the front server ask anew for pages, or for all pages of some hosts; an address is host and path together.

    What it keeps of a host is not known here; so everything is taken from it then. It keeps little, and not for long.
    """
    if not settings.FRONT:
        return
    if hosts:
        _forget_all()
        return
    for number, address in enumerate(addresses):
        if number == MOST:
            _forget_all()
            return
        for packed in ("", "gzip"):
            with suppress(OSError):
                kept_at(address, packed).unlink()


def _forget_all() -> None:
    for place in Path(settings.FRONT_PAGES).rglob("*"):
        if place.is_file():
            with suppress(OSError):
                place.unlink()


def kept_at(address: str, packed: str) -> Path:
    """The file in which nginx keeps an answer by `$host$asked$packed`, two folders deep (`proxy_cache_path`)."""
    host, _, path = address.partition("/")
    asked = quote(f"/{path}", safe="/~!$&'()*+,;=:@-._")
    key = f"{host}{asked}{packed}"
    name = hashlib.md5(key.encode(), usedforsecurity=False).hexdigest()
    return Path(settings.FRONT_PAGES) / name[-1] / name[-3:-1] / name
