"""Two changes that wait for each other: the database gives one of them up, and it is made once more."""

from __future__ import annotations

from collections.abc import Callable

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from django.http.request import RawPostDataException

_DEADLOCK = 1213  # ER_LOCK_DEADLOCK, MariaDB's list of error codes
_MOST = 3


class GivingWay:
    """The innermost middleware. MariaDB's handbook: a transaction given up for a deadlock is to be issued again.

    A request whose body is gone (a file that was sent) cannot be made again; it is answered with 503, as any
    trouble with the database is.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        for _ in range(_MOST - 1):
            response = self.get_response(request)
            if not request.__dict__.pop("gave_way", False) or not _is_whole(request):
                return response
        return self.get_response(request)


def note(request: HttpRequest, error: Exception) -> None:
    """Tell the middleware that what failed was given up for another change."""
    if isinstance(error, OperationalError) and error.args[:1] == (_DEADLOCK,):
        request.__dict__["gave_way"] = True


def _is_whole(request: HttpRequest) -> bool:
    try:
        return request.body is not None
    except RawPostDataException:
        return False
