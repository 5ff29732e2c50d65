"""Passes: how somebody who is signed in on the authoring side is known as a reader on a public site.

The two are different hosts, and no cookie of the one reaches the other. So the authoring side hands out a ticket that
holds for a minute and serves once, and the public site turns it into a cookie of its own. A pass hangs on the session
that it was given for: it ends when that ends, with the password and with the role.
"""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from urllib.parse import urlencode

from django.conf import settings
from django.db import transaction
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.utils import timezone

from stillpage.people.sessions import still_holds
from stillpage.rights import Right, may
from stillpage.sites.models import Site

from .models import ReaderPass

PATH = "/reader-pass"
TICKET = timedelta(minutes=1)


def _digest(word: str) -> str:
    return hashlib.sha256(word.encode()).hexdigest()


def ticket_address(session_key: str, site: Site, path: str) -> str:
    """Where to send somebody so that a public site knows them; they go on to ``path`` from there."""
    ticket = secrets.token_urlsafe(24)
    ReaderPass.objects.create(digest=_digest(ticket), session_id=session_key, site=site)
    return f"{site.origin}{PATH}?{urlencode({'ticket': ticket, 'to': path})}"


def local_path(path: str) -> str:
    """A path on the same host, or the first page."""
    return path if path.startswith("/") and not path.startswith(("//", "/\\")) else "/"


def take_ticket(request: HttpRequest, host: str) -> HttpResponse:
    """Turn a ticket into a cookie, and lead on. The same ticket again gives nothing."""
    to = local_path(request.GET.get("to", "/"))
    response = HttpResponseRedirect(to, headers={"Cache-Control": "no-store", "Referrer-Policy": "no-referrer"})
    with transaction.atomic():
        found = ReaderPass.objects.select_for_update().filter(digest=_digest(request.GET.get("ticket", "")))
        ticket = found.filter(taken=False, site__host=host, made_at__gt=timezone.now() - TICKET).first()
        if ticket is None:
            return response
        carried = secrets.token_urlsafe(24)
        ticket.digest, ticket.taken = _digest(carried), True
        ticket.save(update_fields=["digest", "taken"])
    response.set_cookie(
        settings.READER_COOKIE_NAME,
        carried,
        max_age=settings.SESSION_COOKIE_AGE,
        httponly=True,
        secure=settings.HTTPS,
        samesite="Lax",
    )
    return response


def reads_at(request: HttpRequest, site: Site | None) -> bool:
    """Whether whoever asks a public site carries its pass, and may read what is for its signed-in readers."""
    carried = request.COOKIES.get(settings.READER_COOKIE_NAME, "")
    if not carried or site is None:
        return False
    found = ReaderPass.objects.filter(digest=_digest(carried), taken=True, site=site)
    given = found.select_related("session__person").first()
    person = given.session.person if given is not None and still_holds(given.session) else None
    return person is not None and may(person, Right.READ_RESTRICTED, site)
