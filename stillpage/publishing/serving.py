"""Answering readers: at most two indexed queries, no session, nothing that tracks; only the first who asks for a page
after it has changed has it rendered. Who asks for what is for signed-in readers is asked for their pass."""

from __future__ import annotations

import logging
from collections.abc import Callable
from datetime import UTC
from typing import Any
from urllib.parse import urlencode

from django.conf import settings
from django.db import connection
from django.http import (
    HttpRequest,
    HttpResponse,
    HttpResponseNotModified,
    HttpResponsePermanentRedirect,
    HttpResponseRedirect,
    StreamingHttpResponse,
)
from django.http.response import HttpResponseBase
from django.utils.http import http_date

from stillpage import room
from stillpage.library.files import Asker, media
from stillpage.sites.models import Site
from stillpage_core.writing import policy_of

from . import (
    freshness,
    front,
    leading_on,
    looking,
    machines,
    page_memory,
    passes,
    previewing,
    rendering,
)
from .models import LiveCopy, NotFoundPage, OutOfDate, Rendered
from .page_memory import Row

HEADERS = {
    "Cache-Control": "public, max-age=0, must-revalidate",
    "Vary": "Accept-Encoding",
    "Content-Security-Policy": policy_of(),
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "strict-origin-when-cross-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}
_LIVE, _NOT_FOUND, _SITE, _MARK = (each._meta.db_table for each in (LiveCopy, NotFoundPage, Site, OutOfDate))
_ROWS: dict[tuple[type[Rendered], bool], str] = {
    (model, packed): f"SELECT {column}, etag, rendered_at, policy, {number}, {fresh} FROM {table} page "  # noqa: S608
    f"JOIN {_SITE} site ON site.id = page.site_id AND site.closed_at IS NULL WHERE page.address = %s"
    for model, table, number, fresh in (
        (
            LiveCopy,
            _LIVE,
            "page.written_id",
            f"page.frame = site.frame AND NOT EXISTS (SELECT 1 FROM {_MARK} mark WHERE mark.page_id = page.written_id)",  # noqa: S608
        ),
        (NotFoundPage, _NOT_FOUND, "page.site_id", "page.frame = site.frame"),
    )
    for packed, column in ((False, "html"), (True, "html_gzip"))
}
"""The one query of a reader's request, written out: building it anew each time would cost six times as much as asking
it (`bench/serving.py`). It tells the page's number, and whether it is up to date, besides."""
_log = logging.getLogger(__name__)


class PublicSites:
    """Answers every request for the host of a public site, before any session is looked at.

    Requests for the authoring hosts, and for the library's files on any site, go on to the rest of the application.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response
        self.authoring = frozenset(settings.AUTHORING_HOSTS)

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        host = request.META.get("HTTP_HOST", "").rsplit(":", 1)[0].lower()
        if host in self.authoring:
            return self.get_response(request)
        return answer(request, host)


def answer(request: HttpRequest, host: str) -> HttpResponseBase:
    """The answer to a reader's request for ``host``."""
    if not settings.HTTPS:
        return _answer(request, host)
    if not request.is_secure():
        # What Django's security middleware does for the authoring hosts (OWASP ASVS 4.0.3, 9.1.1).
        if not Site.objects.filter(host=host).exists():
            return _plain("There is no site with this name here.", 404)
        return HttpResponsePermanentRedirect(f"https://{host}{request.get_full_path()}")
    response = _answer(request, host)
    response.headers["Strict-Transport-Security"] = f"max-age={settings.SECURE_HSTS_SECONDS}"
    return response


def _answer(request: HttpRequest, host: str) -> HttpResponseBase:
    path = request.path_info
    if request.method not in ("GET", "HEAD"):
        return _plain("Only reading is possible here.", 405, {"Allow": "GET, HEAD"})
    if path.startswith(settings.MEDIA_URL):
        return _media(request, host, path.removeprefix(settings.MEDIA_URL))
    if path == passes.PATH:
        return passes.take_ticket(request, host)
    packed = "gzip" in request.META.get("HTTP_ACCEPT_ENCODING", "")
    if row := _row(LiveCopy, packed, host + path):
        return _sent(request, row, packed, 200)
    if found := _beside_pages(request, host, path):
        return found
    if row := _row(NotFoundPage, packed, host):
        return _sent(request, row, packed, 404)
    if Site.objects.filter(host=host).exists():
        return _plain("This site is closed.", 404)
    return _plain("There is no site with this name here.", 404)


def _beside_pages(request: HttpRequest, host: str, path: str) -> HttpResponseBase | None:
    """The answer at an address that is no live page's: one for machines, one that leads on, the search; or None."""
    if path in _OF_SITE or path.startswith("/sitemap-"):
        site = Site.objects.filter(host=host, closed_at=None).first()
        if site is not None and path == looking.PATH:
            return _told(looking.search_html(site, request.GET.get("q", "")), 200)
        if site is not None and (answer := machines.machines_answer(site, path)):
            pieces, media_type = answer
            headers = {name: value for name, value in HEADERS.items() if name != "Vary"}
            return StreamingHttpResponse(pieces, content_type=f"{media_type}; charset=utf-8", headers=headers)
    if path.startswith(previewing.PATH):
        shown = previewing.preview(host, path.removeprefix(previewing.PATH))
        if shown is None:
            return None
        html, policy = shown
        response = _told(html, 200)
        response.headers["Content-Security-Policy"] = policy
        response.headers["Referrer-Policy"] = "no-referrer"
        return response
    led = leading_on.led_on(host, path)
    if led is None:
        return None
    if not led.to:
        return _told(rendering.gone_html(rendering.Frame.of(Site.objects.get(host=host), ()), "page"), 410)
    # Whoever was led on asks again each time: a page may move back to where it was.
    kind = HttpResponsePermanentRedirect if led.lasting else HttpResponseRedirect
    return kind(led.to, headers={"Cache-Control": HEADERS["Cache-Control"]})


_OF_SITE = frozenset((looking.PATH, "/robots.txt", "/sitemap.xml", rendering.FEED))


def _media(request: HttpRequest, host: str, name: str) -> HttpResponseBase:
    site = Site.objects.filter(host=host).first()
    if site is None:
        return _plain("There is no site with this name here.", 404)
    reads = frozenset({site.pk}) if passes.reads_at(request, site) else frozenset()
    response = media(request, name, Asker(site=site.pk, reads=reads))
    if "text/html" in request.headers.get("Accept", ""):
        if response.status_code == 403 and b"signed-in" in getattr(response, "content", b""):
            address = f"{settings.AUTHORING_ORIGIN}/reader/{site.pk}?{urlencode({'to': request.get_full_path()})}"
            return _told(rendering.signed_in_only_html(rendering.Frame.of(site, ()), address), 403)
        if response.status_code == 410:
            return _told(rendering.gone_html(rendering.Frame.of(site, ())), 410)
    return response


def _told(html: str, status: int) -> HttpResponse:
    headers = {**HEADERS, "Cache-Control": "no-store", "X-Robots-Tag": "noindex"}
    return HttpResponse(html, status=status, content_type="text/html; charset=utf-8", headers=headers)


def _row(model: type[Rendered], packed: bool, address: str) -> Row | None:
    """The page at an address. One that is out of date is rendered first, but while somebody else does so, or there is
    no room on the disk, readers get the one before."""
    if kept := page_memory.get(address, packed):
        return kept
    state = page_memory.now(address)
    found = _found(model, packed, address)
    if found is None and model is NotFoundPage and (site := Site.objects.filter(host=address, closed_at=None).first()):
        _bring_up(model, site.pk, wait=False)
        found = _found(model, packed, address)
    if found is None:
        return None
    *row, number, fresh = found
    if not fresh:
        _bring_up(model, number, wait=not row[0])
        state = page_memory.now(address)
        found = _found(model, packed, address)
        if found is None:
            return None
        *row, _, fresh = found
    if fresh:
        page_memory.keep(address, packed, Row(*row), state)
    return Row(*row)


def _found(model: type[Rendered], packed: bool, address: str) -> tuple[Any, ...] | None:
    with connection.cursor() as cursor:
        cursor.execute(_ROWS[model, packed], [address])
        found: tuple[Any, ...] | None = cursor.fetchone()
    return found


def _bring_up(model: type[Rendered], number: int, *, wait: bool) -> None:
    """Have a page rendered anew; ``wait`` when there is none before it that could be sent."""
    if room.is_none() and not wait:
        return
    try:
        if model is NotFoundPage:
            freshness.bring_up_not_found(number)
        else:
            freshness.bring_up([number], wait=wait)
    except Exception:
        if wait:
            raise
        _log.exception("The page %s could not be brought up to date; the one before is sent", number)


def _sent(request: HttpRequest, row: Row, packed: bool, status: int) -> HttpResponse:
    body, digest, rendered_at, policy = row
    etag = f'"{digest}-gz"' if packed else f'"{digest}"'
    headers = {**HEADERS, "ETag": etag, "Last-Modified": http_date(rendered_at.replace(tzinfo=UTC).timestamp())}
    if policy:
        headers["Content-Security-Policy"] = policy
    if status == 200 and _known(request.META.get("HTTP_IF_NONE_MATCH", ""), etag):
        return HttpResponseNotModified(headers=headers)
    headers["Content-Length"] = str(len(body))
    if packed:
        headers["Content-Encoding"] = "gzip"
    if settings.FRONT:
        # With no room on the disk, the front server could not send what it cannot keep.
        headers["X-Accel-Expires"] = "0" if room.is_none() else str(front.SECONDS)
    return HttpResponse(body, status=status, content_type="text/html; charset=utf-8", headers=headers)


def _known(held: str, etag: str) -> bool:
    """Whether the reader holds this very page already (RFC 9110, 13.1.2)."""
    return bool(held) and (held.strip() == "*" or etag in (each.strip().removeprefix("W/") for each in held.split(",")))


def _plain(sentence: str, status: int, headers: dict[str, str] | None = None) -> HttpResponse:
    return HttpResponse(
        sentence, status=status, content_type="text/plain; charset=utf-8", headers={**HEADERS, **(headers or {})}
    )
