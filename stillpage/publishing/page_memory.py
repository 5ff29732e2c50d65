"""Pages sent recently, kept in memory, so that a page many readers ask for costs no query at all.

Whoever changes what readers get calls `changed`: it touches a file that every process of this machine looks at before
each answer, so nothing old is sent after that. Other machines over the same database look anew every `LONGEST` seconds.
"""

from __future__ import annotations

import os
import time
from collections import OrderedDict
from collections.abc import Iterable
from datetime import datetime
from typing import NamedTuple

from django.conf import settings
from django.db import transaction

from . import front

LONGEST = 2.0
"""Seconds after which a page is asked for again in any case."""
MOST = 2000
"""The most pages kept by one process; the one read from the database first goes first."""


class Row(NamedTuple):
    """A page as it is sent, compressed or not."""

    body: bytes
    etag: str
    rendered_at: datetime


class _Kept(NamedTuple):
    row: Row
    state: int
    at: float


_kept: OrderedDict[tuple[str, bool], _Kept] = OrderedDict()


def get(address: str, packed: bool) -> Row | None:
    """The page at ``address``, if it was kept and nothing has changed since."""
    kept = _kept.get((address, packed))
    if kept is None or kept.state != _state() or time.monotonic() - kept.at > LONGEST:
        return None
    return kept.row


def keep(address: str, packed: bool, row: Row, state: int) -> None:
    """Keep a page that was read from the database after ``state`` was taken with `now`."""
    _kept[address, packed] = _Kept(row, state, time.monotonic())
    if len(_kept) > MOST:
        _kept.popitem(last=False)


def now() -> int:
    """The present state of what readers get. Take it before asking the database, so that a change between is seen."""
    return _state()


def changed(addresses: Iterable[str] = ()) -> None:
    """What readers get changes with the present transaction: forget what is kept now, and again once it is done.
    ``addresses`` are those of which the front server is told."""
    told = list(addresses)
    _touch()

    def done() -> None:
        _touch()
        front.forget(told)

    transaction.on_commit(done)


def _state() -> int:
    try:
        return os.stat(settings.LIVE_STAMP).st_mtime_ns  # noqa: PTH116 - a path object would cost as much again
    except FileNotFoundError:
        return 0


def _touch() -> None:
    stamp = settings.LIVE_STAMP
    stamp.parent.mkdir(parents=True, exist_ok=True)
    stamp.touch()
    moment = max(time.time_ns(), _state() + 1)
    os.utime(stamp, ns=(moment, moment))
