"""What stands around every request: where it comes from when a front server handed it on, and what no cache may
keep."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse


class Front:
    """Takes the word of the front server, and of nobody else, on where a request comes from.

    Our processes listen on sockets that only it can use then (`ops.front`); without it the header is somebody's claim.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if settings.FRONT:
            request.META["REMOTE_ADDR"] = request.META.get("HTTP_X_REAL_IP", "")
        return self.get_response(request)


class NothingKept:
    """What the API answers is for who asked just now; no cache keeps it (OWASP ASVS 4.0.3, 8.2.1)."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        if request.path_info.startswith("/api/"):
            response.headers["Cache-Control"] = "no-store"
        return response


def static_headers(headers: dict[str, str], path: str, url: str) -> None:
    """What WhiteNoise sends with every static file besides."""
    headers["X-Content-Type-Options"] = "nosniff"
    headers["Referrer-Policy"] = "same-origin"
    if settings.SECURE_HSTS_SECONDS:
        headers["Strict-Transport-Security"] = f"max-age={settings.SECURE_HSTS_SECONDS}"
