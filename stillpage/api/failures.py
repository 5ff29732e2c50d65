"""What is answered when something under the application has failed."""

from __future__ import annotations

import logging
import sys

from django.http import HttpRequest, HttpResponse

from stillpage import room
from stillpage.outages import is_outage

from .problems import problem

_log = logging.getLogger(__name__)
_SENTENCE = "The database cannot be reached at the moment. Nothing is lost: try again in a few seconds."


def unreachable(request: HttpRequest, error: Exception) -> HttpResponse:
    """503, as a problem document for the front end and as a sentence for readers."""
    _log.error("The database cannot be reached: %s", error)
    if request.path_info.startswith("/api/"):
        return problem(503, "database-unreachable", "The database cannot be reached", _SENTENCE)
    return HttpResponse(_SENTENCE, status=503, content_type="text/plain; charset=utf-8", headers={"Retry-After": "5"})


_NO_ROOM = (
    "The server’s disk is nearly full, so this has to wait. Nothing is lost; it goes on as soon as there is room. "
    "Tell an administrator."
)


def no_room() -> HttpResponse:
    """507: the disk has too little room left."""
    return problem(507, "disk-full", "The disk is full", _NO_ROOM, retry_after=30)


def server_error(request: HttpRequest) -> HttpResponse:
    """The answer to any error that nothing else has caught, wherever in the application it was raised."""
    error = sys.exc_info()[1]
    if isinstance(error, Exception) and is_outage(error):
        return unreachable(request, error)
    if room.is_full(error):
        return no_room()
    sentence = "Something went wrong on the server. It has been noted. What you have written is kept."
    if request.path_info.startswith("/api/"):
        return problem(500, "server-error", "Something went wrong", sentence)
    return HttpResponse(sentence, status=500, content_type="text/plain; charset=utf-8")


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    """The answer to a change that does not come from our own interface."""
    return problem(403, "forged", "The request was refused", f"{reason} Reload the page and try again.")
