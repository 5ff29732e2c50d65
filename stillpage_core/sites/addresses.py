"""The address of a page: its parts, and how they are made from a title."""

from __future__ import annotations

import re
from collections.abc import Collection

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


def slug_from_title(title: str, taken: Collection[str] = ()) -> str:
    """An address part made from a title, with a number behind it where it is taken or reserved."""
    base = slug(title, otherwise="page")
    name, number = base, 1
    while name in taken or name in RESERVED:
        number += 1
        name = f"{base}-{number}"
    return name


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
