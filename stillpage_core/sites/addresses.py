"""The address of a page: its parts, and how they are made from a title."""

from __future__ import annotations

import re
from collections.abc import Callable

from ..errors import CoreError
from ..writing.anchors import slug

RESERVED = frozenset(
    {
        "static",
        "media",
        "api",
        "robots.txt",
        "favicon.ico",
        "sitemap.xml",
        "feed.atom",
        ".well-known",
        "reader-pass",
        "preview",
        "search",
    }
)
"""Address parts that pages at the top of a site may not have, because the server answers there itself."""

LONGEST_PART = 80
LONGEST_PATH = 500


class AddressError(CoreError):
    """An address a page may not have."""


def check_slug(part: str) -> str:
    """Check one part of an address and give it back.

    It holds lower-case letters and digits of any script, and single hyphens between them (RFC 3986 and 3987).

    Raises:
        AddressError: with a sentence that says what is wrong.
    """
    if not part:
        raise AddressError("The address needs at least one letter or digit.")
    if len(part) > LONGEST_PART:
        raise AddressError(f"The address part is {len(part)} characters long; at most {LONGEST_PART} are possible.")
    if part != part.lower() or not re.fullmatch(r"[^\W_]+(?:-[^\W_]+)*", part):
        raise AddressError(
            f"“{part}” cannot be part of an address: only small letters, digits and hyphens between them can."
        )
    return part


def slug_from_title(title: str) -> str:
    """An address part made from a title, with a number behind it where it is reserved."""
    name = slug(title, otherwise="page")
    return f"{name}-2" if name in RESERVED else name


def free_number(taken: Callable[[int], bool]) -> int:
    """A number from 2 that is not taken: the first where few are, else one that follows a taken one. The asking grows
    with the digits of the number, not with the number: each may be a look into the database."""
    number = 2
    while number < 10 and taken(number):
        number += 1
    if number < 10:
        return number
    low, high = number - 1, number
    while taken(high):
        low, high = high, 2 * high
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if taken(middle) else (low, middle)
    return high


def page_path(parent: str | None, part: str) -> str:
    """The path of a page from its parent's path (None at the top) and its own part; "/" for the site's first page.

    Raises:
        AddressError: when the part is reserved or the whole too long.
    """
    above = (parent or "/").rstrip("/")
    if not above and part in RESERVED:
        raise AddressError(f"“{part}” is used by the server itself; choose another address.")
    path = f"{above}/{part}"
    if len(path) > LONGEST_PATH:
        raise AddressError(f"The whole address is {len(path)} characters long; at most {LONGEST_PATH} are possible.")
    return path
