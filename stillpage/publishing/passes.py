"""Passes: how somebody who is signed in on the authoring side is known as a reader on a public site.

The two are different hosts, and no cookie of the one reaches the other. So the authoring side hands out a ticket that
holds for a minute, and the public site turns it into a cookie of its own, which says nothing but who reads there.
"""

from __future__ import annotations

from urllib.parse import urlencode

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect

from stillpage.people.models import Person
from stillpage.people.permissions import Act, may
from stillpage.sites.models import Site

COOKIE = "reader"
PATH = "/reader-pass"
_TICKET = signing.TimestampSigner(salt="stillpage.ticket")
_PASS = signing.TimestampSigner(salt="stillpage.pass")
MINUTE = 60


def ticket_address(person: Person, site: Site, path: str) -> str:
    """Where to send a person so that a public site knows them; they go on to ``path`` from there."""
    query = {"ticket": _TICKET.sign(f"{person.pk}@{site.host}"), "to": path}
    return f"{site.origin}{PATH}?{urlencode(query)}"


def local_path(path: str) -> str:
    """A path on the same host, or the first page."""
    return path if path.startswith("/") and not path.startswith(("//", "/\\")) else "/"


def take_ticket(request: HttpRequest, host: str) -> HttpResponse:
    """Turn a ticket into a cookie, and lead on."""
    to = local_path(request.GET.get("to", "/"))
    try:
        who = _TICKET.unsign(request.GET.get("ticket", ""), max_age=MINUTE)
    except signing.BadSignature:
        who = ""
    response = HttpResponseRedirect(to, headers={"Cache-Control": "no-store"})
    if who.endswith(f"@{host}"):
        response.set_cookie(
            COOKIE,
            _PASS.sign(who),
            max_age=settings.SESSION_COOKIE_AGE,
            httponly=True,
            secure=settings.HTTPS,
            samesite="Lax",
        )
    return response


def is_reader(request: HttpRequest, host: str) -> bool:
    """Whether whoever asks a public site carries its pass, and may read what is for signed-in readers."""
    try:
        who = _PASS.unsign(request.COOKIES.get(COOKIE, ""), max_age=settings.SESSION_COOKIE_AGE)
    except signing.BadSignature:
        return False
    number, _, of = who.partition("@")
    if of != host or not number.isdigit():
        return False
    person = Person.objects.filter(pk=int(number)).first()
    site = Site.objects.filter(host=host).first()
    return person is not None and may(person, Act.READ_RESTRICTED, site)
