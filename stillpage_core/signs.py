"""Signs by name: symbols and emoji that no keyboard has.

Names are those of the Unicode Character Database, as this Python carries it; a short list adds what people call them.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

_RANGES = (
    (0x00A0, 0x00BF),
    (0x00D7, 0x00D7),
    (0x00F7, 0x00F7),
    (0x02C6, 0x02DD),
    (0x0391, 0x03C9),
    (0x2002, 0x203A),
    (0x2042, 0x2042),
    (0x2044, 0x2044),
    (0x20A0, 0x20C0),
    (0x2100, 0x218B),
    (0x2190, 0x23FF),
    (0x2460, 0x27BF),
    (0x27C0, 0x2BFF),
    (0x1F300, 0x1FAFF),
)
"""Punctuation, Greek, currencies, arrows, mathematics, shapes, and pictographs."""

_CALLED = {
    "°": "degree temperature",
    "–": "dash range from to",
    "—": "dash long",
    "…": "dots ellipsis",
    "\u00a0": "hard space non breaking",
    "\u202f": "narrow hard space",
    "\u2011": "hard hyphen",
    "×": "times by",
    "÷": "divided",
    "²": "squared",
    "³": "cubed",
    "½": "half",
    "¼": "quarter",
    "¾": "three quarters",
    "€": "euro money",
    "£": "pound money",
    "→": "arrow right",
    "←": "arrow left",
    "↑": "arrow up",
    "↓": "arrow down",
    "✓": "tick right",
    "✗": "cross wrong",
    "⚠": "caution danger",
    "☎": "phone",
    "✉": "mail letter",
    "№": "number",
    "§": "section law",
    "©": "copyright",
    "™": "trade mark",
    "♿": "accessible step free",
    "🛶": "boat",
    "🚤": "boat motor",
    "⛵": "boat sail",
    "🐕": "dog",
    "🚲": "bicycle cycling",
    "🅿": "parking car park",
    "≈": "about",
    "≠": "unequal not equal",
    "≤": "at most",
    "≥": "at least",
    "µ": "micro",
}
_EMOJI_STYLE = "\ufe0f"
_PICTOGRAPHS_SHOWN_AS_TEXT = frozenset("☀☁☂☃☎☘☝☠☢☣☮☯☸☹♠♣♥♦♨♻⚒⚓⚔⚖⚗⚙⚛⚜⚠⚡✂✈✉✌✍✏✒✔✖✝❄❤🅿🏖🏕🏛🏞🐿🕊🖼🗺🛠🛤🛥🛳")
"""Characters that are drawn as text unless U+FE0F follows (Unicode Technical Standard 51, 1.4.3; from memory)."""


@dataclass(frozen=True)
class Sign:
    """``text`` is what is put in; ``name`` is its Unicode name in lower case."""

    text: str
    name: str


@cache
def _known() -> tuple[tuple[Sign, str], ...]:
    return tuple(_named())


def _named() -> Iterator[tuple[Sign, str]]:
    for first, last in _RANGES:
        for point in range(first, last + 1):
            character = chr(point)
            name = unicodedata.name(character, "").lower()
            if not name or unicodedata.category(character) in ("Cf", "Mn", "Zl", "Zp"):
                continue
            text = character + (_EMOJI_STYLE if character in _PICTOGRAPHS_SHOWN_AS_TEXT else "")
            yield Sign(text, name), f"{name} {_CALLED.get(character, '')}"


def find_signs(words: str, most: int = 12) -> list[Sign]:
    """Signs whose name holds every one of the words (or is the sign itself), those with the plainest names first."""
    asked = words.lower().split()
    if not asked:
        return []
    found = [
        (0 if sign.name == " ".join(asked) else 1 if called != f"{sign.name} " else 2, len(sign.name), sign)
        for sign, called in _known()
        if words.strip() == sign.text or all(_begins(called, each) for each in asked)
    ]
    return [sign for *_, sign in sorted(found, key=lambda each: each[:2])[:most]]


def _begins(called: str, word: str) -> bool:
    """Whether one of the words of a name begins so."""
    return called.startswith(word) or f" {word}" in called or f"-{word}" in called
