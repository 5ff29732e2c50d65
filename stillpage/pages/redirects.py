"""Where addresses lead that no live page has: found in one step, made by hand, written out and read as CSV."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Iterator
from urllib.parse import unquote

from django.db import transaction
from django.utils import timezone

from stillpage.people.models import Person
from stillpage.sites.models import Site
from stillpage_core.errors import CoreError
from stillpage_core.references import web_parts
from stillpage_core.sites.addresses import LONGEST_PATH

from .models import Page, Redirect
from .tree import check_elsewhere

COLUMNS = ("from", "to", "why", "made on", "last used on")
"""The columns of the CSV; only the first two are read."""
GONE = "gone"
"""Stands for where an address leads that is gone for good."""
MOST_LINES = 20_000


class RedirectError(CoreError):
    """An address cannot lead on so; the sentence says why."""


def clean_path(path: str) -> str:
    """An address of a site as redirects are kept by: without host, query, fragment, trailing slash or “.html”, in small
    letters, so that old spellings are one.

    Raises:
        RedirectError: when nothing of that is left, or too much.
    """
    whole = path.strip()
    parts = web_parts(whole)
    cleaned = spelled(unquote(parts.path if parts else re.split("[?#]", whole, maxsplit=1)[0]))
    if not cleaned.startswith("/") or cleaned == "/" or any(sign <= " " for sign in cleaned):
        raise RedirectError(f"“{path[:80]}” is no address of a page: one begins with / and has no spaces.")
    if len(cleaned) > LONGEST_PATH:
        raise RedirectError(f"The address is {len(cleaned)} characters long; at most {LONGEST_PATH} are possible.")
    return cleaned


def spelled(path: str) -> str:
    """A path as redirects are kept by; see `clean_path`."""
    plain = "/" + path.strip("/").lower()
    for ending in (".html", ".htm", ".php", ".aspx", "/index"):
        plain = plain.removesuffix(ending)
    return plain.removesuffix("/index") or "/"


def make(site: Site, person: Person, path: str, *, page: Page | None = None, address: str = "") -> Redirect:
    """Have an address of a site lead to a page, wherever that will be, or to an address elsewhere; with neither, it is
    gone for good. One that led on already leads there now.

    Raises:
        RedirectError: when a page has the address, or it would lead to itself.
    """
    cleaned = clean_path(path)
    taken = Page.objects.filter(site=site, path=cleaned).first()
    if taken is not None:
        raise RedirectError(
            f"There is a page at {cleaned}. Give it another address; this one leads on to it by itself then."
        )
    if page is None and address:
        page, address = _own_page(address), address.strip()
        address = "" if page else check_elsewhere(address)
    values = {"page": page, "address": address, "made_by": person, "made_at": timezone.now()}
    why = Redirect.Why.BY_HAND if page or address else Redirect.Why.GONE
    made, _ = Redirect.objects.update_or_create(site=site, path=cleaned, defaults={**values, "why": why})
    return made


def _own_page(address: str) -> Page | None:
    """The page at a whole address of one of our sites. Raises `RedirectError` where there is none there."""
    parts = web_parts(address.strip())
    site = Site.objects.filter(host=(parts.hostname or "").lower()).first() if parts else None
    if parts is None or site is None:
        return None
    page = Page.objects.filter(site=site, path=unquote(parts.path).rstrip("/") or "/").first()
    if page is None:
        raise RedirectError(f"{address[:120]} is an address of ours, and there is no page at it.")
    return page


def as_csv(redirects: Iterable[Redirect]) -> Iterator[str]:
    """The redirects of a site as CSV (RFC 4180), a line each."""
    yield _line(COLUMNS)
    for each in redirects:
        if each.page is not None and each.page.binned_at is not None:
            continue  # It leads nowhere until the page comes back, and there is no address to write.
        to = each.address or (each.page.site.origin + each.page.path if each.page else GONE)
        used = each.used_on.isoformat() if each.used_on else ""
        yield _line((each.path, to, each.why, each.made_at.date().isoformat(), used))


def _line(cells: Iterable[str]) -> str:
    out = io.StringIO()
    # What a spreadsheet would take for a formula is led by an apostrophe.
    csv.writer(out).writerow([f"'{cell}" if cell[:1] in "=+-@\t\r" else cell for cell in cells])
    return out.getvalue()


@transaction.atomic
def read_csv(site: Site, person: Person, text: str) -> tuple[int, list[str]]:
    """Make redirects of CSV: from, and to (a page of a site by its whole address or its path, an address elsewhere, or
    “gone”). Returns how many were made, and a sentence for each line that could not be.

    Raises:
        RedirectError: when there are too many lines; none is made then.
    """
    rows = list(csv.reader(io.StringIO(text.removeprefix("\ufeff"))))
    if len(rows) > MOST_LINES:
        raise RedirectError(f"The file has {len(rows):,} lines; at most {MOST_LINES:,} are read at once.")
    made = 0
    refused: list[str] = []
    for number, row in enumerate(rows, 1):
        cells = [cell.strip().removeprefix("'") for cell in row]
        if not any(cells) or (number == 1 and cells[:2] == list(COLUMNS[:2])):
            continue
        try:
            _read_row(site, person, cells)
            made += 1
        except CoreError as error:
            refused.append(f"Line {number}: {error}")
    return made, refused


def _read_row(site: Site, person: Person, cells: list[str]) -> None:
    if len(cells) < 2 or not cells[1]:
        raise RedirectError("It says from where, but not to where.")
    path, to = cells[:2]
    if to == GONE:
        make(site, person, path)
    elif to.startswith("/"):
        page = Page.objects.filter(site=site, path=to.rstrip("/") or "/").first()
        if page is None:
            raise RedirectError(f"There is no page at {to[:120]}.")
        make(site, person, path, page=page)
    else:
        make(site, person, path, address=to)
