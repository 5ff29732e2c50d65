"""How much room the disk has left, and what waits when it is little.

Below `settings.RESERVE` whatever makes the disk fuller waits, save the texts that people are writing; below
`settings.LAST_RESERVE` these wait too, in the browsers that hold them, so that the database always has room to answer
readers. Everything goes on by itself when there is room again.
"""

from __future__ import annotations

import errno
import os
import re
import shutil
import time
from collections.abc import Callable, Iterable

from django.conf import settings
from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse

FILLING = (
    ("POST", "/api/items"),
    ("POST", "/api/uploads"),
    ("PUT", "/api/uploads/{upload_id}"),
    ("POST", "/api/uploads/{upload_id}"),
    ("POST", "/api/library/fetch"),
    ("POST", "/api/commons/take"),
    ("POST", "/api/items/{item_id}/versions/{version}"),
    ("POST", "/api/items/{item_id}/stills"),
    ("POST", "/api/items/{item_id}/ask"),
    ("POST", "/api/captions/{captions_id}/readers"),
    ("POST", "/api/paste"),
    ("POST", "/api/read"),
    ("POST", "/api/sites/{site_id}/import"),
    ("GET", "/api/sites/{site_id}/export"),
    ("POST", "/api/sites/{site_id}/pages"),
    ("POST", "/api/pages/{page_id}/versions"),
    ("POST", "/api/pages/{page_id}/publish"),
)
"""The operations that make the disk fuller, as the API's description names them; a test holds the two together."""
TEXTS = (
    ("PUT", "/api/pages/{page_id}/working-copy"),
    ("POST", "/api/pages/{page_id}/writing"),
    ("PUT", "/api/captions/{captions_id}"),
)
"""Those that go on while there is any room left: what people are writing."""

_SECONDS = 1.0
_looked: tuple[float, int] = (0.0, 0)
_FULL = frozenset((1021, 1026, 1114))
"""MariaDB's codes for a disk that is full (its handbook, “MariaDB Error Codes”: ER_DISK_FULL, ER_ERROR_ON_WRITE,
ER_RECORD_FILE_FULL); 1030 tells of the system's own number."""


class NoRoom(OSError):
    """The disk has too little room left for what was wanted."""

    def __init__(self) -> None:
        super().__init__(errno.ENOSPC, "The disk has no room to spare")


def left() -> int:
    """The bytes that are free where the fewest are; looked at no more often than once a second."""
    global _looked  # noqa: PLW0603
    at, found = _looked
    if time.monotonic() - at > _SECONDS or not at:
        found = min(_free(place) for place in (settings.VAR, settings.MEDIA_ROOT))
        _looked = (time.monotonic(), found)
    return found


def _free(place: str | os.PathLike[str]) -> int:
    try:
        return shutil.disk_usage(place).free
    except FileNotFoundError:
        return 1 << 62


def is_little() -> bool:
    """Whether what makes the disk fuller has to wait."""
    return left() < settings.RESERVE


def is_none() -> bool:
    """Whether even texts have to wait."""
    return left() < settings.LAST_RESERVE


def require() -> None:
    """Raise `NoRoom` when what makes the disk fuller has to wait."""
    if is_little():
        raise NoRoom


def is_full(error: BaseException | None) -> bool:
    """Whether an error of the database or the system says that the disk is full."""
    if isinstance(error, DatabaseError) and error.args:
        code, said = error.args[0], str(error.args[-1])
        return code in _FULL or (code == 1030 and re.search(r"\b(28|135)\b", said) is not None)
    return isinstance(error, OSError) and error.errno == errno.ENOSPC


def _pattern(operations: Iterable[tuple[str, str]]) -> re.Pattern[str]:
    return re.compile("|".join(f"{method} {re.sub(r'{[a-z_]+}', '[^/]+', path)}" for method, path in operations))


_FILLING, _TEXTS = _pattern(FILLING), _pattern(TEXTS)


class Room:
    """Has requests wait that the disk has no room for."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        asked = f"{request.method} {request.path_info}"
        if (_FILLING.fullmatch(asked) and is_little()) or (_TEXTS.fullmatch(asked) and is_none()):
            from stillpage.api.failures import no_room  # noqa: PLC0415 - the API is built upon this

            return no_room()
        return self.get_response(request)
