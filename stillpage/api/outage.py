"""What is answered when something under the application has failed."""

from __future__ import annotations

import logging
from collections.abc import Callable

from django.conf import settings
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse

from .problems import problem

_log = logging.getLogger(__name__)
_SENTENCE = "The database cannot be reached at the moment. Nothing is lost: try again in a few seconds."


class DatabaseOutage:
    """Turns a database that cannot be reached into a clear answer instead of a bare server error."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        try:
            return self.get_response(request)
        except (OperationalError, InterfaceError) as error:
            return unreachable(request, error)

    def process_exception(self, request: HttpRequest, error: Exception) -> HttpResponse | None:
        return unreachable(request, error) if isinstance(error, OperationalError | InterfaceError) else None


def unreachable(request: HttpRequest, error: Exception) -> HttpResponse:
    """503, as a problem document for the front end and as a sentence for readers."""
    _log.error("The database cannot be reached: %s", error)
    if request.path_info.startswith("/api/"):
        return problem(503, "database-unreachable", "The database cannot be reached", _SENTENCE)
    return HttpResponse(_SENTENCE, status=503, content_type="text/plain; charset=utf-8", headers={"Retry-After": "5"})


def locked_out(request: HttpRequest, response: HttpResponse | None = None, credentials: object = None) -> HttpResponse:
    """The answer to a sign-in after too many wrong passwords."""
    minutes = round(settings.AXES_COOLOFF_TIME * 60)
    sentence = f"There were too many wrong passwords. Wait {minutes} minutes, then try again."
    return problem(429, "too-many-attempts", "Too many attempts", sentence)


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    """The answer to a change that does not come from our own interface."""
    return problem(403, "forged", "The request was refused", f"{reason} Reload the page and try again.")
