"""Colours and their contrast, as WCAG 2.2 defines them."""

from __future__ import annotations

import re

from .errors import CoreError

Rgb = tuple[int, int, int]

TEXT_RATIO = 4.5
"""The least contrast of text with its ground: WCAG 2.2, 1.4.3 (AA)."""


class ColourError(CoreError):
    """A colour is not of the form #rrggbb."""


def parse_colour(text: str) -> Rgb:
    """Read ``#rgb`` or ``#rrggbb``. Raises `ColourError`."""
    digits = text.strip().lower().removeprefix("#")
    if len(digits) == 3:
        digits = "".join(digit * 2 for digit in digits)
    if not re.fullmatch("[0-9a-f]{6}", digits):
        raise ColourError(f"“{text[:40]}” is not a colour of the form #rrggbb.")
    return int(digits[0:2], 16), int(digits[2:4], 16), int(digits[4:6], 16)


def relative_luminance(colour: Rgb) -> float:
    """From 0 (black) to 1 (white): WCAG 2.2, “relative luminance”."""
    red, green, blue = (_linear(channel / 255) for channel in colour)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def _linear(channel: float) -> float:
    return channel / 12.92 if channel <= 0.04045 else ((channel + 0.055) / 1.055) ** 2.4


def contrast(one: Rgb, other: Rgb) -> float:
    """From 1 to 21: WCAG 2.2, “contrast ratio”."""
    lighter, darker = sorted((relative_luminance(one), relative_luminance(other)), reverse=True)
    return (lighter + 0.05) / (darker + 0.05)
