"""Pages sent recently, kept in memory, so that a page many readers ask for costs no query at all.

Whoever changes what readers get calls `changed`: it moves a number on, in a small file that every process of this
machine has mapped into its memory, and looks at before each answer; so nothing old is sent after that. There is a
number for each page and one for each site (several share one, by the checksum of their address: no harm but a query
more). Other machines over the same database look anew every `LONGEST` seconds.
"""

from __future__ import annotations

import logging
import mmap
import os
import time
from collections import OrderedDict
from collections.abc import Iterable
from datetime import datetime
from pathlib import Path
from typing import NamedTuple
from zlib import crc32

from django.conf import settings
from django.db import transaction

from . import front

LONGEST = 2.0
"""Seconds after which a page is asked for again in any case."""
MOST = 2000
"""The most pages kept by one process; the one read from the database first goes first."""
_log = logging.getLogger(__name__)
_NUMBERS = 1 << 16
_WIDTH = 8

State = tuple[int, int]
"""The numbers of a page and of its site."""


class Row(NamedTuple):
    """A page as it is sent, compressed or not."""

    body: bytes
    etag: str
    rendered_at: datetime
    policy: str


class _Kept(NamedTuple):
    row: Row
    state: State
    at: float


_kept: OrderedDict[tuple[str, bool], _Kept] = OrderedDict()
_mapped: dict[Path, memoryview] = {}


def get(address: str, packed: bool) -> Row | None:
    """The page at ``address``, if it was kept and has not changed since."""
    kept = _kept.get((address, packed))
    if kept is None or kept.state != now(address) or time.monotonic() - kept.at > LONGEST:
        return None
    return kept.row


def keep(address: str, packed: bool, row: Row, state: State) -> None:
    """Keep a page that was read from the database after ``state`` was taken with `now`."""
    _kept[address, packed] = _Kept(row, state, time.monotonic())
    if len(_kept) > MOST:
        _kept.popitem(last=False)


def now(address: str) -> State:
    """The present state of a page. Take it before asking the database, so that a change between is seen."""
    numbers = _numbers()
    return numbers[_place(address)], numbers[_place(address.partition("/")[0])]


def changed(addresses: Iterable[str] = (), hosts: Iterable[str] = ()) -> None:
    """What readers get of these pages, or of all pages of these sites, changes with the present transaction: forget
    what is kept of them now, and again once it is done; the front server is told then."""
    pages, sites = list(addresses), list(hosts)
    _move_on(*pages, *sites)

    def done() -> None:
        _move_on(*pages, *sites)
        front.forget(pages, sites)

    transaction.on_commit(done)


def _place(address: str) -> int:
    return crc32(address.encode()) % _NUMBERS


def _move_on(*addresses: str) -> None:
    numbers = _numbers()
    for address in addresses:
        # The moment, not one more: two processes that move on at once both leave a number that was not there before.
        numbers[_place(address)] = max(time.time_ns(), numbers[_place(address)] + 1)


def _numbers() -> memoryview:
    path = settings.LIVE_STAMP
    if path not in _mapped:
        _mapped[path] = _map(path)
    return _mapped[path]


def _map(path: Path) -> memoryview:
    """The numbers in a file. Where there can be none (a full disk, a file of somebody else's), numbers of this process
    alone: what others change is seen after `LONGEST` then, and readers get their pages all the same."""
    size = _NUMBERS * _WIDTH
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        file = os.open(path, os.O_RDWR | os.O_CREAT, 0o600)
        try:
            # With holes in the file, writing to it could fail later, where nothing could be done about it.
            os.posix_fallocate(file, 0, size)
            return memoryview(mmap.mmap(file, size)).cast("Q")
        finally:
            os.close(file)
    except OSError as error:
        _log.warning("%s: changes made by other processes reach readers after %g seconds", error, LONGEST)
        return memoryview(bytearray(size)).cast("Q")
