"""Parts of a file for who asks for one (RFC 9110, section 14): a film is looked into without being fetched whole.

Behind the front server that sends the parts from the disk; this does it where there is none, or where files are kept
elsewhere. Of several ranges at once the whole file is sent, as the standard allows.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import IO

PIECE = 256 * 1024
"""How much is read at a time, in bytes."""
_ONE = re.compile(r"bytes\s*=\s*(\d{0,18})\s*-\s*(\d{0,18})\s*", re.IGNORECASE)


class Unsatisfiable(Exception):
    """The range that is asked for begins beyond the end of the file (RFC 9110, 15.5.17)."""


@dataclass(frozen=True)
class Span:
    """Bytes of a file from ``first`` to ``last``, both included."""

    first: int
    last: int

    def __len__(self) -> int:
        return self.last - self.first + 1

    def of(self, size: int) -> str:
        """As Content-Range says it."""
        return f"bytes {self.first}-{self.last}/{size}"


def asked_for(header: str | None, if_range: str | None, etag: str, size: int) -> Span | None:
    """The part that is asked for of a file of ``size`` bytes; None for the whole: when none is asked for, when what is
    asked is not understood, or when the asker has a part of another file (``if_range`` is not its ``etag``).

    Raises:
        Unsatisfiable: when there are no such bytes.
    """
    if header is None or (if_range is not None and if_range.strip() != etag):
        return None
    match = _ONE.fullmatch(header.strip())
    if match is None or not (match[1] or match[2]):
        return None
    if not match[1]:
        many = min(int(match[2]), size)
        if many == 0:
            raise Unsatisfiable
        return Span(size - many, size - 1)
    first, last = int(match[1]), int(match[2]) if match[2] else size - 1
    if last < first and match[2]:
        return None
    if first >= size:
        raise Unsatisfiable
    return Span(first, min(last, size - 1))


def pieces(file: IO[bytes], span: Span) -> Iterator[bytes]:
    """The bytes of a part, piece by piece; the file is closed at the end."""
    with file:
        file.seek(span.first)
        left = len(span)
        while left > 0 and (data := file.read(min(PIECE, left))):
            left -= len(data)
            yield data
