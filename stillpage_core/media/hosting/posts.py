"""What is kept of a post of a network: its words, who wrote it and when, and the pictures it has. Of the network's HTML
nothing else is kept."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from selectolax.lexbor import LexborHTMLParser, LexborNode

from .hosts import FilmHost, origin_of

MOST_WORDS = 6000
"""The most letters of a post; longer ones are texts of their own, and are linked to."""
MOST_PICTURES = 4
MOST_PARTS = 30
"""The most paragraphs, those of a thread's posts in all."""
_UNSEEN = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff\u200e\u200f\u2028-\u202e\u2066-\u2069]")


@dataclass(frozen=True)
class Posted:
    """A post as its network gives it: its words by paragraphs, when it was written, and its pictures, each an address
    with the words that stand for it ("" where there are none). ``cut`` tells that it has more words than are kept."""

    words: tuple[str, ...]
    at: datetime | None = None
    pictures: tuple[tuple[str, str], ...] = ()
    cut: bool = False


def read_post(html: str, host: FilmHost) -> Posted | None:
    """The post in the HTML of a network's answer; None where there is none."""
    tree = LexborHTMLParser(html)
    quotes = [each for each in tree.css("blockquote") if each.parent is None or each.parent.css_first("blockquote")]
    if not quotes:
        return None
    words, cut = kept_of(line for quote in quotes for line in _lines(quote))
    pictures: list[tuple[str, str]] = []
    for image in tree.css("blockquote img"):
        address = (image.attributes.get("src") or "").strip()
        if origin_of(address) in (origin_of(host.endpoint), host.frames) and len(pictures) < MOST_PICTURES:
            pictures.append((address, _clean(image.attributes.get("alt") or "")[:1000]))
    time = tree.css_first("time[datetime]")
    at = _moment(time.attributes.get("datetime") or "") if time else None
    return Posted(words, at, tuple(pictures), cut) if words or pictures else None


def kept_of(lines: Iterable[str]) -> tuple[tuple[str, ...], bool]:
    """What is kept of the lines of a post, and whether there were more."""
    words: list[str] = []
    left = MOST_WORDS
    for line in filter(None, map(_clean, lines)):
        if len(words) >= MOST_PARTS or not left:
            return tuple(words), True
        words.append(line[:left])
        if len(line) > left:
            return tuple(words), True
        left -= len(line)
    return tuple(words), False


def title_of(author: str, words: Sequence[str]) -> str:
    """What a post is called: who wrote it, and how it begins."""
    begun = words[0] if words else "a picture"
    short = begun if len(begun) <= 60 else begun[:60].rsplit(" ", 1)[0] + " …"
    return f"{author}: {short}"


def _lines(quote: LexborNode) -> list[str]:
    """The words of a quotation by its paragraphs; without any, all of them."""
    for each in quote.css("script, style, time, footer, cite"):
        each.decompose()
    paragraphs = quote.css("p") or [quote]
    found: list[str] = []
    for each in paragraphs:
        for line_break in each.css("br"):
            line_break.replace_with("\n")
        found += each.text().split("\n")
    return found


def _clean(text: str) -> str:
    return " ".join(_UNSEEN.sub(" ", text).split())


def _moment(written: str) -> datetime | None:
    """A date with a time (ISO 8601); without a zone it is taken for UTC."""
    try:
        at = datetime.fromisoformat(written.strip().replace("Z", "+00:00"))
    except ValueError:
        return None
    return at if at.tzinfo else at.replace(tzinfo=UTC)
