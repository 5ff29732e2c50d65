"""Text split into words and sentences, each text once: what is asked about a text again is remembered."""

from __future__ import annotations

import re
from functools import lru_cache

REMEMBERED = 4_000
"""Of how many texts it is remembered; about as many paragraphs as four long pages have, several times over."""

WORD = re.compile(r"[^\W\d_]+(?:'[^\W\d_]+)*|\d+(?:[.,:]\d+)*")
"""A word, with its apostrophes, or a number; in small letters, apostrophes plain."""

_ASCII = "".join(map(chr, range(128)))
_SMALL = re.sub(r"[^a-z0-9']", " ", re.sub(r"\d", "0", _ASCII.lower()))
"""For each sign of ASCII what it is within words: a small letter, 0 for any figure, an apostrophe, or space."""
_SIGNS = str.maketrans({**dict.fromkeys("“”„‘«»–—…\u00a0", " "), "’": "'"})

_END = re.compile(r"[.!?…][.!?…]*[\"'’”»)\]]*(?=\s|$)")
_END_OR_LINE = re.compile(_END.pattern + r"|\n+")
SHORT_FORMS = frozenset(
    """mr mrs ms dr prof st no nos vol fig figs ch pp ed eds approx ca cf vs etc e.g i.e a.m p.m jr sr rev hon capt sgt
    co ltd inc dept tel ext jan feb mar apr jun jul aug sep sept oct nov dec mon tue wed thu fri sat sun""".split()
)


_ENDING = frozenset("etc inc ltd co jr sr a.m p.m".split())
"""Short forms that stand at the end of a sentence as often as within one."""
_OPENING = re.compile(
    r"(?:A|An|And|All|As|At|But|Each|For|He|How|However|I|If|In|It|Its|Most|No|Not|On|Our|She|So|Some|That|The|Their|Then"
    r"|There|These|They|This|Those|To|We|What|When|Where|Which|Who|Why|With|You|Your)\b"
)
"""Words that, with a capital, begin a sentence; no name begins with one of them alone."""


@lru_cache(maxsize=REMEMBERED)
def words_of(text: str) -> tuple[str, ...]:
    """The words of a text in small letters, numbers among them, as `WORD` finds them."""
    return tuple(split(text))


def split(text: str) -> list[str]:
    """The same, not remembered: for what is asked about once."""
    plain = text if text.isascii() else text.translate(_SIGNS)
    if plain.isascii():
        # The same as the pattern finds, at a fourth of the time.
        parts = plain.translate(_SMALL)
        if "'" not in parts and "0" not in parts:
            return parts.split()
        if "''" not in parts and "0" not in parts:
            return [word for each in parts.split() if (word := each.strip("'"))]
    return WORD.findall(text.lower().replace("’", "'"))


@lru_cache(maxsize=REMEMBERED)
def sentences(text: str) -> tuple[tuple[int, int], ...]:
    """Where the sentences of a text begin and end. The point of a short form, of an initial or of a number ends none;
    a line end does."""
    found: list[tuple[int, int]] = []
    start = 0
    for match in (_END_OR_LINE if "\n" in text else _END).finditer(text):
        first, end = match.span()
        if text[first] == "." and end == first + 1 and _goes_on(text, first, end):
            continue
        _add(found, text, start, first if text[first] == "\n" else end)
        start = end
    _add(found, text, start, len(text))
    return tuple(found)


def _add(found: list[tuple[int, int]], text: str, start: int, end: int) -> None:
    """Add a sentence without the space round it, unless nothing is left."""
    while start < end and text[start].isspace():
        start += 1
    while start < end and text[end - 1].isspace():
        end -= 1
    if start < end:
        found.append((start, end))


def _goes_on(text: str, point: int, end: int) -> bool:
    """Whether the sentence goes on after a point."""
    after = end
    while after < len(text) and text[after].isspace():
        after += 1
    if after == len(text):
        return False
    if text[after].islower():
        return True
    before = text[text.rfind(" ", 0, point) + 1 : point].lstrip("(“‘\"'[").casefold()
    if before in _ENDING and _OPENING.match(text, after):
        return False
    return before in SHORT_FORMS or (len(before) == 1 and before.isalpha() and before != "i")
