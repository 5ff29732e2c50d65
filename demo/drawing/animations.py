"""Draws the demo's animation: a lock that fills, and a boat that rises in it (`python -m demo.drawing.animations`)."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

FOLDER = Path(__file__).parent.parent / "animations"
RATE = 30
LASTS = 240
WIDTH, HEIGHT = 480, 300
LOW, HIGH = 220, 120
"""How high the water stands in the chamber at first and at last, in pixels from above."""
FILLS = (40, 170)
"""The frames from which and to which the lock fills."""
SKY, WATER, DEEP = "dfe9ec", "4f7f8b", "3c626c"
BRICK, STONE, GATE = "9a5b45", "b9b3a3", "3a2f28"
HULL, CABIN, PANE = "1f4a3d", "8a2b3f", "f4e3b0"


def _colour(said: str) -> dict[str, Any]:
    return {"a": 0, "k": [round(int(said[place : place + 2], 16) / 255, 4) for place in (0, 2, 4)] + [1]}


def _moving(*frames: tuple[int, list[float]]) -> dict[str, Any]:
    """A value that changes smoothly from each frame to the next."""
    ease = {"o": {"x": [0.4], "y": [0]}, "i": {"x": [0.6], "y": [1]}}
    *first, (end, last) = frames
    return {"a": 1, "k": [*({"t": time, "s": value, **ease} for time, value in first), {"t": end, "s": last}]}


def _still(*value: float) -> dict[str, Any]:
    return {"a": 0, "k": list(value) if len(value) > 1 else value[0]}


def _box(name: str, x: float, y: float, wide: float, high: float, colour: str, round_: float = 0) -> dict[str, Any]:
    shape = {"ty": "rc", "p": _still(x + wide / 2, y + high / 2), "s": _still(wide, high), "r": _still(round_)}
    return _group(name, [shape], colour)


def _group(name: str, shapes: list[dict[str, Any]], colour: str) -> dict[str, Any]:
    fill = {"ty": "fl", "c": _colour(colour), "o": _still(100), "r": 1}
    place = {"ty": "tr", "p": _still(0, 0), "a": _still(0, 0), "s": _still(100, 100), "r": _still(0), "o": _still(100)}
    return {"ty": "gr", "nm": name, "it": [*shapes, fill, place]}


def _layer(
    number: int, name: str, shapes: list[dict[str, Any]], position: dict[str, Any] | None = None
) -> dict[str, Any]:
    transform = {
        "o": _still(100),
        "r": _still(0),
        "p": position or _still(0, 0),
        "a": _still(0, 0),
        "s": _still(100, 100),
    }
    return {"ddd": 0, "ind": number, "ty": 4, "nm": name, "sr": 1, "ks": transform, "ao": 0, "shapes": shapes} | {
        "ip": 0,
        "op": LASTS,
        "st": 0,
        "bm": 0,
    }


def lock_filling() -> dict[str, Any]:
    """The whole animation; the layer that comes first is in front."""
    begin, end = FILLS
    rise = _moving((0, [0, LOW]), (begin, [0, LOW]), (end, [0, HIGH]), (LASTS, [0, HIGH]))
    boat = [
        _box("pane", 176, -32, 22, 14, PANE, 2),
        _box("second pane", 216, -32, 22, 14, PANE, 2),
        _box("third pane", 256, -32, 22, 14, PANE, 2),
        _box("cabin", 160, -42, 136, 30, CABIN, 4),
        _box("hull", 128, -14, 204, 26, HULL, 8),
    ]
    upper = [_box("upper water", 376, HIGH, 104, 180, DEEP)]
    lower = [_box("lower water", 0, LOW, 90, 80, DEEP)]
    layers = [
        _layer(1, "gates", [_box("lower gate", 88, 92, 14, 208, GATE), _box("upper gate", 374, 92, 14, 208, GATE)]),
        _layer(2, "coping", [_box("stone", 84, 84, 308, 10, STONE)]),
        _layer(3, "water", [_box("chamber water", 102, 0, 272, 190, WATER)], rise),
        _layer(4, "boat", boat, rise),
        _layer(5, "levels", [*upper, *lower]),
        _layer(6, "wall", [_box("bricks", 102, 92, 272, 208, BRICK), _box("bed", 0, 282, 480, 18, GATE)]),
        _layer(7, "sky", [_box("air", 0, 0, WIDTH, HEIGHT, SKY)]),
    ]
    whole = {"v": "5.7.0", "nm": "A lock fills", "fr": RATE, "ip": 0, "op": LASTS, "w": WIDTH, "h": HEIGHT}
    return {**whole, "ddd": 0, "assets": [], "layers": layers}


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    text = json.dumps(lock_filling(), separators=(",", ":"))
    (FOLDER / "a-lock-fills.json").write_text(text + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
