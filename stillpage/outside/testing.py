"""Testing outside addresses: seldom, one at a time for each host, and never for what would come.

An address that answers is asked again after a week; one that does not, sooner, and authors are told only when it has
not several times in a row: servers rest, too. How long the times are is common practice.
"""

from __future__ import annotations

import hashlib
import logging
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import timedelta

from django.db import connection
from django.utils import timezone
from django_tasks import task

from stillpage_core.references import web_parts

from .fetching import FetchError, Probe, meant, probe
from .models import Address
from .turns import in_turns

AT_ONCE = 20
"""How many addresses one task tests at most, so that other work is not kept waiting."""
QUEUE = "outside"
"""The queue of a worker of its own: what waits for others' servers keeps no other work waiting."""
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


def _host_of(address: str) -> str:
    parts = web_parts(address)
    return (parts.hostname or "")[:255] if parts else ""


def known(addresses: Iterable[str]) -> list[Address]:
    """The rows of these addresses, made where there were none; those are due at once."""
    wanted = {digest_of(each): each for each in addresses}
    now = timezone.now()
    Address.objects.bulk_create(
        [
            Address(digest=digest, address=each, host=_host_of(each), next_test_at=now)
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
    with alone("outside") as first:
        return _test_due() if first else 0


@contextmanager
def alone(name: str) -> Iterator[bool]:
    """Whether nobody else asks just now. The lock is the database's, and goes with the connection of who holds it."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(CONCAT(DATABASE(), '.', %s), 0)", [name])
        first = cursor.fetchone()[0] == 1
        try:
            yield first
        finally:
            if first:
                cursor.execute("SELECT RELEASE_LOCK(CONCAT(DATABASE(), '.', %s))", [name])


def _test_due() -> int:
    due = Address.objects.filter(next_test_at__lte=timezone.now(), uses__isnull=False).distinct()
    return in_turns({row: row.host for row in due.order_by("next_test_at")[:AT_ONCE]}, answer_of, note)


def is_due() -> bool:
    """Whether any address that some page leads to waits for its test."""
    return Address.objects.filter(next_test_at__lte=timezone.now(), uses__isnull=False).exists()


def forget_unused() -> None:
    """Forget the addresses that no page has led to for a month."""
    before = timezone.now() - timedelta(days=30)
    Address.objects.filter(uses__isnull=True, next_test_at__lt=before).delete()


@dataclass(frozen=True)
class Answer:
    """What an address answered: what it led to, or in a sentence why that is not known."""

    found: Probe | None = None
    fault: str = ""

    @property
    def silent(self) -> bool:
        """Whether nobody answered at all."""
        return bool(self.fault)


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


def note(row: Address, answer: Answer | None) -> None:
    """Note what an address answered, and when it is asked again; with None, that it was not asked now."""
    if answer is None:
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
