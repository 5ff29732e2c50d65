"""Where readers are led who ask for an address at which no live page is: on to the page that had it, elsewhere, to the
address's usual spelling, or nowhere, since it is gone for good. One or two indexed queries."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.db import connection
from django.utils import timezone

from stillpage.pages.models import Page, Redirect
from stillpage.pages.redirects import spelled
from stillpage.sites.models import Site

from .models import LiveCopy

_PAGE, _LIVE, _REDIRECT, _SITE = (each._meta.db_table for each in (Page, LiveCopy, Redirect, Site))
_LED = (
    "SELECT r.id, r.used_on, r.address, r.page_id, p.path, p.elsewhere, theirs.host, l.written_id "  # noqa: S608
    f"FROM {_REDIRECT} r JOIN {_SITE} s ON s.id = r.site_id LEFT JOIN {_PAGE} p ON p.id = r.page_id "
    f"LEFT JOIN {_SITE} theirs ON theirs.id = p.site_id AND theirs.closed_at IS NULL "
    f"LEFT JOIN {_LIVE} l ON l.written_id = p.id WHERE s.host = %s AND r.path = %s "
    "UNION ALL SELECT NULL, NULL, '', p.id, p.path, p.elsewhere, s.host, l.written_id "
    f"FROM {_PAGE} p JOIN {_SITE} s ON s.id = p.site_id "
    f"JOIN {_LIVE} l ON l.written_id = p.id WHERE s.host = %s AND p.path = %s"
)
"""What leads on from an address, and the live page or link that stands at it: two look-ups by index, in one query."""


@dataclass(frozen=True)
class Led:
    """Where an address leads: ``to`` is "" where what was there is gone for good. ``lasting``: it is not asked for
    again."""

    to: str
    lasting: bool = True


def led_on(host: str, path: str) -> Led | None:
    """Where a reader is led who asks for a path at which no live page is; None where nothing is known of it."""
    usual = spelled(path)
    with connection.cursor() as cursor:
        cursor.execute(_LED, [host, usual, host, usual])
        # A live page comes before what leads on from its address.
        rows = sorted(cursor.fetchall(), key=lambda row: row[0] is not None)
    for number, used_on, address, page, at, elsewhere, its_host, live in rows:
        if number is not None and not address and page is not None and (live is None or its_host is None):
            continue  # The page is not live just now.
        _note_use(number, used_on)
        if address or page is None:
            return Led(address)
        to = elsewhere or (at if its_host == host else _origin(its_host) + at)
        return Led(to, lasting=not elsewhere) if (to, its_host) != (path, host) else None
    return None


def _note_use(number: int | None, used_on: Any) -> None:
    """Remember that somebody was led on today; written once a day."""
    today = timezone.now().date()
    if number is not None and used_on != today:
        Redirect.objects.filter(pk=number).update(used_on=today)


def _origin(host: str) -> str:
    return Site(host=host).origin
