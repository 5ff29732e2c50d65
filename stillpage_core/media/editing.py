"""What is cut, turned and straightened of a picture, as numbers. The original is never changed.

The steps follow one another: quarter turns; then straightening, which keeps the largest upright rectangle of the same
proportions; then the crop. A crop is either a rectangle, or proportions and a focal point: then the largest rectangle
of those proportions is taken, with the focal point as near its middle as the picture's edges allow.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

UNIT = 10_000
"""Places and sizes within a picture count from 0 to this, whatever its size in pixels."""

STEEPEST = 150
"""The most a picture is straightened either way, in tenths of a degree."""

EDITS = ("turn", "straighten", "crop", "ratio", "focus")
"""The attributes of a picture that say what is made of the original; for each, None stands for the item's own."""


@dataclass(frozen=True)
class Cut:
    """What is to be made of an original: quarter turns clockwise, tenths of a degree clockwise, and the rectangle that
    is left (x, y, width, height, in `UNIT`)."""

    turn: int = 0
    straighten: int = 0
    crop: tuple[int, int, int, int] = (0, 0, UNIT, UNIT)

    @property
    def key(self) -> str:
        """A short name for it; "" where nothing is done."""
        if self == Cut():
            return ""
        return f"{self.turn}.{self.straighten}.{'.'.join(map(str, self.crop))}"

    @classmethod
    def from_key(cls, key: str) -> Cut:
        """Undo `key`. Raises ValueError for anything that it has not made."""
        if not key:
            return cls()
        turn, straighten, *crop = (int(each) for each in key.split("."))
        x, y, width, height = crop
        cut = cls(turn, straighten, (x, y, width, height))
        inside = x >= 0 and y >= 0 and width > 0 and height > 0 and x + width <= UNIT and y + height <= UNIT
        if not (inside and 0 <= turn < 4 and abs(straighten) <= STEEPEST and cut.key == key):
            raise ValueError(f"“{key}” names no cut of a picture.")
        return cut

    def upright(self, width: int, height: int) -> tuple[float, float]:
        """Width and height, in pixels, after turning and straightening an original of this size."""
        turned = (height, width) if self.turn % 2 else (width, height)
        share = straightened_share(*turned, self.straighten)
        return turned[0] * share, turned[1] * share

    def size(self, width: int, height: int) -> tuple[int, int]:
        """Width and height, in pixels, of what is left of an original of this size; at least 1."""
        upright = self.upright(width, height)
        return max(1, round(upright[0] * self.crop[2] / UNIT)), max(1, round(upright[1] * self.crop[3] / UNIT))


def straightened_share(width: float, height: float, tenths: int) -> float:
    """How much of either side is left of a picture turned by so many tenths of a degree, when the largest upright
    rectangle of the same proportions is cut from it; from 0 to 1."""
    angle = math.radians(abs(tenths) / 10)
    cosine, sine = math.cos(angle), math.sin(angle)
    return min(width / (width * cosine + height * sine), height / (width * sine + height * cosine))


def cut_of(used: Mapping[str, Any], own: Mapping[str, Any], width: int, height: int) -> Cut:
    """The cut for one use of a picture.

    ``used`` and ``own`` hold `EDITS` as the document and the item have them; what a use leaves open (None) is the
    item's. A crop or proportions set for the use put both of the item's aside. ``width`` and ``height`` are the
    original's, in pixels.
    """
    turn, straighten = (used[name] if used[name] is not None else (own[name] or 0) for name in ("turn", "straighten"))
    framed = used if used["crop"] is not None or used["ratio"] is not None else own
    cut = Cut(turn, straighten)
    if framed["crop"] is not None:
        x, y, wide, high = (int(each) for each in framed["crop"].split(","))
        x, y = min(x, UNIT - 1), min(y, UNIT - 1)
        return Cut(turn, straighten, (x, y, max(1, min(wide, UNIT - x)), max(1, min(high, UNIT - y))))
    if framed["ratio"] is None:
        return cut
    focus = used["focus"] or own["focus"] or f"{UNIT // 2},{UNIT // 2}"
    across, down = (int(each) for each in framed["ratio"].split(":"))
    middle = tuple(min(UNIT, int(each)) for each in focus.split(","))
    return Cut(turn, straighten, framed_by(across / down, (middle[0], middle[1]), *cut.upright(width, height)))


def framed_by(proportion: float, focus: tuple[int, int], width: float, height: float) -> tuple[int, int, int, int]:
    """The largest rectangle of a proportion (width by height) in a picture of this size, as near round ``focus`` as it
    can be; x, y, width and height in `UNIT`."""
    wide = min(1.0, proportion * height / width)
    high = min(1.0, width / proportion / height)
    size = (max(1, round(wide * UNIT)), max(1, round(high * UNIT)))
    x, y = (min(max(0, focus[axis] - size[axis] // 2), UNIT - size[axis]) for axis in (0, 1))
    return x, y, *size
