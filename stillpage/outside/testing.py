"""Testing outside addresses: seldom, one at a time for each host, and never for what would come.

An address that answers is asked again after a week; one that does not, sooner, and authors are told only when it has
not several times in a row: servers rest, too. How long the times are is common practice.
"""

from __future__ import annotations

import hashlib
import logging
from collections.abc import Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import timedelta
from queue import SimpleQueue
from time import sleep
from urllib.parse import urlsplit

from django.db import connection
from django.utils import timezone
from django_tasks import task

from .fetching import FetchError, Probe, meant, probe
from .models import Address

AT_ONCE = 20
"""How many addresses one task tests at most, so that other work is not kept waiting."""
QUEUE = "outside"
"""The queue of a worker of its own: what waits for others' servers keeps no other work waiting."""
HOSTS = 8
"""How many hosts are asked at the same time. Whoever does not answer keeps only itself waiting."""
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


@task(queue_name=QUEUE)
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
    """Several hosts at a time, the addresses of one after another."""
    due = Address.objects.filter(next_test_at__lte=timezone.now(), uses__isnull=False).distinct()
    by_host: dict[str, list[Address]] = {}
    for row in due.order_by("next_test_at")[:AT_ONCE]:
        by_host.setdefault(row.host, []).append(row)
    answers: SimpleQueue[tuple[Address, Answer]] = SimpleQueue()

    def ask(rows: list[Address]) -> None:
        answer = Answer()
        for number, row in enumerate(rows):
            if answer.fault:
                # Who does not answer at all would not answer for the others either, and hold us for each of them.
                answers.put((row, Answer(later=True)))
                continue
            if number:
                sleep(APART)
            answer = answer_of(row)
            answers.put((row, answer))

    count = sum(len(rows) for rows in by_host.values())
    with ThreadPoolExecutor(HOSTS, "outside") as pool:
        for rows in by_host.values():
            pool.submit(ask, rows)
        # What came is noted here, in the one thread that has a connection to the database.
        for _ in range(count):
            note(*answers.get())
    return count


def is_due() -> bool:
    """Whether any address that some page leads to waits for its test."""
    return Address.objects.filter(next_test_at__lte=timezone.now(), uses__isnull=False).exists()


def forget_unused() -> None:
    """Forget the addresses that no page has led to for a month."""
    before = timezone.now() - timedelta(days=30)
    Address.objects.filter(uses__isnull=True, next_test_at__lt=before).delete()


@dataclass(frozen=True)
class Answer:
    """What an address answered: what it led to, or in a sentence why that is not known; or that it was not asked now
    and will be ``later``."""

    found: Probe | None = None
    fault: str = ""
    later: bool = False


def answer_of(row: Address) -> Answer:
    """Ask an address. Touches no database: many are asked at a time."""
    try:
        return Answer(probe(row.address))
    except FetchError as error:
        return Answer(fault=str(error)[:300])
    except Exception:
        # One strange server must not keep all others from being tested.
        log.exception("Testing %s went wrong", row.address)
        return Answer(fault=f"{row.host} answers in a way that cannot be understood."[:300])


def test(row: Address) -> None:
    """Ask an address, and note what came of it."""
    note(row, answer_of(row))


def note(row: Address, answer: Answer) -> None:
    """Note what an address answered, and when it is asked again."""
    if answer.later:
        Address.objects.filter(pk=row.pk).update(next_test_at=timezone.now() + _SILENT[0])
        return
    row.status, row.fault = None, answer.fault
    if found := answer.found:
        row.status, row.moved_to = found.status, (found.moved_to or "")[:2000]
        row.state = _state(found.status)
        if row.state in (Address.State.GONE, Address.State.SILENT):
            row.fault = f"{row.host} answers {found.status}: {meant(found.status)}."[:300]
    else:
        row.state = Address.State.SILENT
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
