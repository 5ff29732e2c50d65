"""Testing outside addresses: seldom, one at a time for each host, and never for what would come.

An address that answers is asked again after a week; one that does not, sooner, and authors are told only when it has
not several times in a row: servers rest, too. How long the times are is common practice.
"""

from __future__ import annotations

import hashlib
import logging
import time
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from urllib.parse import urlsplit

from django.db import connection
from django.utils import timezone
from django_tasks import task

from .fetching import FetchError, meant, probe
from .models import Address

AT_ONCE = 20
"""How many addresses one task tests at most, so that other work is not kept waiting."""
APART = 1.0
"""Seconds between two questions to one host."""
AGAIN = {
    Address.State.RIGHT: timedelta(days=7),
    Address.State.UNSURE: timedelta(days=7),
    Address.State.GONE: timedelta(days=1),
}
_SILENT = (timedelta(hours=1), timedelta(hours=6), timedelta(days=1))
_NOT_FOR_PROGRAMS = (401, 403, 405, 429, 451)

log = logging.getLogger(__name__)


def digest_of(address: str) -> str:
    """What an address is found by."""
    return hashlib.sha256(address.encode()).hexdigest()


def known(addresses: Iterable[str]) -> list[Address]:
    """The rows of these addresses, made where there were none; those are due at once."""
    wanted = {digest_of(each): each for each in addresses}
    now = timezone.now()
    Address.objects.bulk_create(
        [
            Address(digest=digest, address=each, host=(urlsplit(each).hostname or "")[:255], next_test_at=now)
            for digest, each in wanted.items()
        ],
        ignore_conflicts=True,
    )
    return list(Address.objects.filter(digest__in=wanted))


def faults(addresses: Iterable[str]) -> dict[str, str]:
    """What is wrong with those of these addresses that failed their last tests."""
    rows = Address.objects.filter(digest__in=[digest_of(each) for each in addresses]).exclude(fault="")
    return {row.address: row.fault for row in rows if row.failed}


@task()
def test_due() -> int:
    """Test the addresses whose turn it is; returns how many: none while another worker does, so that no host is asked
    by two at once."""
    with _alone() as first:
        return _test_due() if first else 0


@contextmanager
def _alone() -> Iterator[bool]:
    """Whether nobody else tests just now. The lock is the database's, and goes with the connection of who holds it."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(CONCAT(DATABASE(), '.outside'), 0)")
        first = cursor.fetchone()[0] == 1
        try:
            yield first
        finally:
            if first:
                cursor.execute("SELECT RELEASE_LOCK(CONCAT(DATABASE(), '.outside'))")


def _test_due() -> int:
    asked: dict[str, float] = {}
    due = Address.objects.filter(next_test_at__lte=timezone.now(), leads__isnull=False).distinct()
    tested = 0
    for row in due.order_by("next_test_at")[:AT_ONCE]:
        wait = asked.get(row.host, 0) + APART - time.monotonic()
        if wait > 0:
            time.sleep(min(wait, APART))
        test(row)
        asked[row.host] = time.monotonic()
        tested += 1
    return tested


def is_due() -> bool:
    """Whether any address that some page leads to waits for its test."""
    return Address.objects.filter(next_test_at__lte=timezone.now(), leads__isnull=False).exists()


def forget_unused() -> None:
    """Forget the addresses that no page has led to for a month."""
    before = timezone.now() - timedelta(days=30)
    Address.objects.filter(leads__isnull=True, next_test_at__lt=before).delete()


def test(row: Address) -> None:
    """Ask an address, and note what came of it."""
    row.status, row.fault = None, ""
    try:
        found = probe(row.address)
        row.status, row.moved_to = found.status, (found.moved_to or "")[:2000]
        row.state = _state(found.status)
        if row.state in (Address.State.GONE, Address.State.SILENT):
            row.fault = f"{row.host} answers {found.status}: {meant(found.status)}."[:300]
    except FetchError as error:
        row.state, row.fault = Address.State.SILENT, str(error)[:300]
    except Exception:
        # One strange server must not keep all others from being tested.
        log.exception("Testing %s went wrong", row.address)
        row.state, row.fault = Address.State.SILENT, f"{row.host} answers in a way that cannot be understood."[:300]
    row.failures = row.failures + 1 if row.fault else 0
    row.tested_at = timezone.now()
    later = AGAIN.get(Address.State(row.state)) or _SILENT[min(row.failures, len(_SILENT)) - 1]
    row.next_test_at = row.tested_at + later
    row.save()


def _state(status: int) -> Address.State:
    if status < 400:
        return Address.State.RIGHT
    if status in _NOT_FOR_PROGRAMS:
        return Address.State.UNSURE
    return Address.State.GONE if status in (404, 410) else Address.State.SILENT
