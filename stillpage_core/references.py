"""The addresses a link may have.

A link to a page or an item names it by number (``page:12``, ``page:12#before-you-set-out``, ``item:7``), so that it
holds when the page moves. Everything else is an address as RFC 3986 has it, of one of four schemes.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal
from urllib.parse import SplitResult, urlsplit

_PLAIN = r"[^\s<>\"\\^`{|}\x00-\x1f\x7f]"

FRAGMENT = r"[^\s#<>\"]{1,200}"
"""The part of an address behind the #."""

PATTERN = (
    rf"(?:page|item):[1-9][0-9]{{0,14}}(?:#{FRAGMENT})?"
    rf"|#{FRAGMENT}"
    r"|https?://[^\s/?#<>\"\\^`{|}\x00-\x1f\x7f]+" + _PLAIN + "*"
    r"|mailto:[^\s@<>\"\\]+@[^\s@<>\"\\]+"
    r"|tel:\+?[0-9().-]{3,30}"
)
"""Every address that may stand in a document. ``javascript:``, ``data:`` and the rest do not match."""

LONGEST = 2000
"""The longest address, in characters."""


@dataclass(frozen=True)
class Reference:
    """An address taken apart. ``number`` is set for pages and items, ``fragment`` where there is one."""

    kind: Literal["page", "item", "heading", "outside", "mail", "telephone"]
    number: int | None = None
    fragment: str | None = None


def web_parts(address: str) -> SplitResult | None:
    """An address of the web in its parts (RFC 3986), its host and port among them; None where it has none, or where
    they cannot be told, as in ``http://[``."""
    try:
        parts = urlsplit(address)
        _ = parts.port
    except ValueError:
        return None
    return parts if parts.scheme in ("http", "https") and parts.hostname else None


def parse_reference(address: str) -> Reference | None:
    """Take a link's address apart; None when it may not stand in a document."""
    if len(address) > LONGEST or not re.fullmatch(PATTERN, address):
        return None
    if match := re.fullmatch(r"(page|item):(\d+)(?:#(.+))?", address):
        kind: Literal["page", "item"] = "page" if match[1] == "page" else "item"
        return Reference(kind, int(match[2]), match[3])
    if address.startswith("#"):
        return Reference("heading", fragment=address[1:])
    if address.startswith("mailto:"):
        return Reference("mail")
    if address.startswith("tel:"):
        return Reference("telephone")
    return Reference("outside")
