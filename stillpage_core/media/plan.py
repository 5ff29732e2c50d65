"""Which files are made of a picture: a pure function of its size and sort."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from operator import eq

from .pictures import AVIF, GIF, JPEG, PNG, WEBP, Format

LADDER = (160, 240, 320, 480, 720, 960, 1440, 2160, 3240)
"""The widths that are made, in pixels. No step is more than half as wide again as the one before, so that no screen
needs to load a file with more than 1.5 times the pixels across that it can show."""

FALLBACK = (480, 960)
"""The widths made for browsers that know neither AVIF nor WebP."""

FIRST = 960
"""The width of the file that is made at once, before all others."""

WIDEST = LADDER[-2]
"""The widest file of a picture in the column: 720 CSS pixels on a screen of three times their density."""


@dataclass(frozen=True)
class Derived:
    """A file to be made: its size in pixels, and its format."""

    width: int
    height: int
    form: Format


def plan(
    width: int, height: int, *, drawing: bool = False, moving: bool = False, widest: int = WIDEST
) -> list[Derived]:
    """The files to make of a picture of this size (what is left of it after the cut), those readers need first first.

    A photograph is made as AVIF and WebP, with JPEG for older browsers; a drawing, whose edges such compression
    blurs, as lossless WebP and PNG; a moving picture as WebP and GIF. None is larger than the picture.
    """
    widths = [each for each in LADDER if each < width and each <= widest]
    if width <= widest:
        widths.append(width)
    modern = (AVIF, WEBP) if not (drawing or moving) else (WEBP,)
    older = GIF if moving else PNG if drawing else JPEG
    fallback = [each for each in FALLBACK if each < width] or [width]
    order = sorted(widths, key=lambda each: (abs(each - FIRST), each))
    made = [(each, form) for each in order for form in modern]
    return [_sized(each, width, height, form) for each, form in [*((each, older) for each in fallback[::-1]), *made]]


def _sized(across: int, width: int, height: int, form: Format) -> Derived:
    return Derived(across, max(1, round(height * across / width)), form)


SAMPLE = 96
"""The side, in pixels, of the piece of a picture that tells photographs and drawings apart."""


def is_drawing(pieces: Sequence[tuple[bytes, int]]) -> bool:
    """Whether pixels are those of a drawing: lines and even areas, rather than light and texture.

    ``pieces`` are parts of the picture at its own size: rows of pixels of four bytes each (red, green, blue and one
    that is the same everywhere), and how many pixels a row has. In a drawing most pixels are just like the one beside
    them, and few colours make up nearly all of it (common practice).
    """
    same = total = 0
    colours: Counter[int] = Counter()
    for data, across in pieces:
        pixels = memoryview(data).cast("I").tolist()
        colours.update(pixels)
        total += len(pixels)
        for start in range(0, len(pixels), across):
            row = pixels[start : start + across]
            same += sum(map(eq, row, row[1:]))
    if not total:
        return False
    common = sum(count for _, count in colours.most_common(64))
    return same / total > 0.5 and common / total > 0.75
