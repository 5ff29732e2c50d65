"""An equation in words, as it may be said. MathML Core (W3C) names the elements; the words are common practice."""

from __future__ import annotations

import unicodedata

from lxml.html import HtmlElement

_SIGNS = {
    "=": "equals",
    "+": "plus",
    "-": "minus",
    "−": "minus",
    "±": "plus or minus",
    "×": "times",
    "⋅": "times",
    "/": "over",
    "<": "less than",
    ">": "greater than",
    "≤": "less than or equal to",
    "≥": "greater than or equal to",
    "≠": "not equal to",
    "≈": "about",
    "∑": "sum",
    "∏": "product",
    "∫": "integral",
    "∞": "infinity",
    "√": "square root of",
    "→": "to",
    "(": "open bracket",
    ")": "close bracket",
    "[": "open square bracket",
    "]": "close square bracket",
    ",": ",",
    "π": "pi",
    "\u2061": "of",
    "\u2062": "times",
}
_POWERS = {"2": "squared", "3": "cubed"}


def equation_words(element: HtmlElement) -> str:
    """The words for a MathML element."""
    return " ".join(_said(element).split())


def _said(element: HtmlElement) -> str:
    children = [child for child in element if isinstance(child.tag, str)]
    parts = [_said(child) for child in children]
    match str(element.tag), len(parts):
        case (("mi" | "mn" | "mo" | "mtext" | "ms"), _):
            return _sign("".join(element.itertext()).strip())
        case "mfrac", 2:
            return f"fraction {parts[0]} over {parts[1]} end fraction"
        case "msqrt", _:
            return f"square root of {' '.join(parts)} end root"
        case "mroot", 2:
            return f"root {parts[1]} of {parts[0]} end root"
        case "msup", 2:
            return f"{parts[0]} {_POWERS.get(parts[1], f'to the power {parts[1]}')}"
        case "msub", 2:
            return f"{parts[0]} sub {parts[1]}"
        case "msubsup", 3:
            return f"{parts[0]} sub {parts[1]} to the power {parts[2]}"
        case "munder", 2:
            return f"{parts[0]} under {parts[1]}"
        case "mover", 2:
            return f"{parts[0]} over {parts[1]}"
        case "munderover", 3:
            return f"{parts[0]} from {parts[1]} to {parts[2]}"
        case "mtr", _:
            return f"row {' '.join(parts)}"
    return " ".join(parts)


def _sign(text: str) -> str:
    plain = unicodedata.normalize("NFKC", text)
    if plain in _SIGNS:
        return _SIGNS[plain]
    if len(plain) == 1 and not plain.isascii() and (name := unicodedata.name(plain, "")):
        words = name.lower()
        letter = words.rpartition(" letter ")[2]
        return f"capital {letter}" if " capital letter " in words else letter
    return plain
