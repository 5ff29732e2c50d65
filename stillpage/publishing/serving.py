"""Answering readers: one indexed query, no rendering, no session, nothing that tracks."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseNotModified, HttpResponsePermanentRedirect
from django.utils.http import http_date

from .models import LiveCopy, NotFoundPage

CONTENT_SECURITY_POLICY = "; ".join(
    (
        "default-src 'none'",
        "style-src 'self'",
        "img-src 'self'",
        "font-src 'self'",
        "form-action 'self'",
        "base-uri 'none'",
        "frame-ancestors 'self'",
    )
)
HEADERS = {
    "Cache-Control": "public, max-age=0, must-revalidate",
    "Vary": "Accept-Encoding",
    "Content-Security-Policy": CONTENT_SECURITY_POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "strict-origin-when-cross-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}
_FIELDS = ("html", "html_gzip", "etag", "rendered_at")


class PublicSites:
    """Answers every request for the host of a public site, before any session is looked at.

    Requests for the authoring hosts, and for the library's files on any site, go on to the rest of the application.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self.authoring = frozenset(settings.AUTHORING_HOSTS)

    def __call__(self, request: HttpRequest) -> HttpResponse:
        host = request.META.get("HTTP_HOST", "").rsplit(":", 1)[0].lower()
        if host in self.authoring:
            return self.get_response(request)
        return answer(request, host)


def answer(request: HttpRequest, host: str) -> HttpResponse:
    """The answer to a reader's request for ``host``."""
    path = request.path_info
    if request.method not in ("GET", "HEAD"):
        return _plain("Only reading is possible here.", 405, {"Allow": "GET, HEAD"})
    if path.startswith(settings.MEDIA_URL):
        from stillpage.library.files import media  # noqa: PLC0415 - only a site's pictures need it

        return media(request, path.removeprefix(settings.MEDIA_URL))
    row = LiveCopy.objects.filter(address=host + path).values_list(*_FIELDS).first()
    if row is not None:
        return _sent(request, row, 200)
    if path != "/" and path.endswith("/"):
        return HttpResponsePermanentRedirect("/" + path.strip("/"))
    missing = NotFoundPage.objects.filter(address=host).values_list(*_FIELDS).first()
    if missing is None:
        return _plain("There is no site with this name here.", 404)
    return _sent(request, missing, 404)


def _sent(request: HttpRequest, row: tuple[object, ...], status: int) -> HttpResponse:
    html, html_gzip, digest, rendered_at = row
    packed = "gzip" in request.META.get("HTTP_ACCEPT_ENCODING", "")
    etag = f'"{digest}-gz"' if packed else f'"{digest}"'
    headers = {**HEADERS, "ETag": etag, "Last-Modified": http_date(rendered_at.timestamp())}  # type: ignore[attr-defined]
    if status == 200 and _known(request.META.get("HTTP_IF_NONE_MATCH", ""), etag):
        return HttpResponseNotModified(headers=headers)
    if packed:
        headers["Content-Encoding"] = "gzip"
    body = html_gzip if packed else html
    return HttpResponse(body, status=status, content_type="text/html; charset=utf-8", headers=headers)


def _known(held: str, etag: str) -> bool:
    """Whether the reader holds this very page already (RFC 9110, 13.1.2)."""
    return bool(held) and (held.strip() == "*" or etag in (each.strip().removeprefix("W/") for each in held.split(",")))


def _plain(sentence: str, status: int, headers: dict[str, str] | None = None) -> HttpResponse:
    return HttpResponse(
        sentence, status=status, content_type="text/plain; charset=utf-8", headers={**HEADERS, **(headers or {})}
    )
