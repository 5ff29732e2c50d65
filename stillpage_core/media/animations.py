"""Animations drawn of lines (Lottie 1.0, Lottie Animation Community): what a file holds, what of it is not let in, its
colours, and other ones in their place."""

from __future__ import annotations

import hashlib
import json
import math
import re
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import ceil
from typing import Any

from .pictures import FileError, Format

LOTTIE = Format("Lottie", "video/lottie+json", "json")
"""The MIME type is the one that the specification registers (1.0, “MIME type”)."""
LARGEST = 5 * 1024 * 1024
"""The most bytes; what is meant for a page has some hundred thousand (common practice)."""
MOST_LAYERS = 2000
"""The most layers, those of compositions within included; a browser draws a few hundred smoothly (common practice)."""
LONGEST = 600_000
"""The longest, in milliseconds."""
DEEPEST = 120
"""How deep what is within may be nested."""
MOST_COLOURS = 60
_SOUND, _TEXT = 6, 5
_DATA = re.compile(r"data:image/(?:png|jpeg|webp|gif);base64,[A-Za-z0-9+/=\s]*")
_COLOUR = re.compile(r"[0-9a-f]{6}")


@dataclass(frozen=True)
class Animation:
    """What a file holds: its size in pixels, how long it lasts in milliseconds, how many layers, and its colours as six
    hexadecimal digits, the commonest first. ``data`` is the file as it is given out."""

    width: int
    height: int
    lasts: int
    layers: int
    colours: tuple[str, ...]
    data: bytes


def looks_like_one(start: bytes) -> bool:
    """Whether a file may be an animation, by its first bytes: an object of JSON."""
    return start.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"{")


def read_animation(data: bytes) -> Animation:
    """Read an animation, and hold it to what may stand on a page.

    Raises:
        FileError: when it is none, is too large, or would run script or ask others for something; with the place.
    """
    if len(data) > LARGEST:
        raise FileError(
            f"This animation is larger than {LARGEST // (1024 * 1024)} MB. Make it simpler, or a film of it."
        )
    try:
        whole = json.loads(data.decode("utf-8-sig"), parse_constant=_no_number)
    except (ValueError, RecursionError) as error:
        raise FileError("This file is no JSON that can be read. Export the animation as Lottie JSON again.") from error
    if not isinstance(whole, dict) or not isinstance(whole.get("layers"), list):
        raise FileError("This JSON is no animation: it has no layers. Export it as Lottie JSON.")
    width, height = (_number(whole.get(name), 1, 20_000) for name in ("w", "h"))
    rate = _number(whole.get("fr"), 0.01, 1000)
    begin, end = (_number(whole.get(name), -1_000_000, 1_000_000) for name in ("ip", "op"))
    if None in (width, height, rate, begin, end) or not end > begin:  # type: ignore[operator]
        raise FileError("This animation does not say how large it is or how long it lasts. Export it again.")
    lasts = round((end - begin) / rate * 1000)  # type: ignore[operator]
    if lasts > LONGEST:
        raise FileError(f"This animation lasts longer than {LONGEST // 60_000} minutes. Make a film of it.")
    layers = 0
    for place, value in _walk(whole):
        if isinstance(value, dict):
            layers += "ty" in value and "ip" in value and "op" in value and "layers" not in value
            _refuse(place, value)
    if layers > MOST_LAYERS:
        raise FileError(f"This animation has {layers:,} layers; {MOST_LAYERS:,} are taken. Make it simpler.")
    cleaned = json.dumps(whole, ensure_ascii=False, separators=(",", ":")).encode()
    return Animation(round(width), round(height), lasts, layers, colours_of(whole), cleaned)  # type: ignore[arg-type]


def _no_number(name: str) -> Any:
    raise ValueError(name)


def _number(value: object, least: float, most: float) -> float | None:
    number = isinstance(value, int | float) and not isinstance(value, bool) and math.isfinite(value)
    return float(value) if number and least <= value <= most else None  # type: ignore[arg-type, operator]


def _walk(whole: Any) -> Iterator[tuple[tuple[str, ...], Any]]:
    """Everything in a file with its place; not recursive, since others have written it."""
    waiting: list[tuple[tuple[str, ...], Any]] = [((), whole)]
    while waiting:
        place, value = waiting.pop()
        if len(place) > DEEPEST:
            raise FileError(f"This animation is nested deeper than {DEEPEST} levels, at {_said(place)}.")
        yield place, value
        if isinstance(value, dict):
            waiting += [
                ((*place, str(name)[:40]), each) for name, each in value.items() if isinstance(each, dict | list)
            ]
        elif isinstance(value, list):
            waiting += [
                ((*place, str(number)), each) for number, each in enumerate(value) if isinstance(each, dict | list)
            ]


def _said(place: tuple[str, ...]) -> str:
    return ".".join(place[:12]) or "its beginning"


def _refuse(place: tuple[str, ...], value: dict[str, Any]) -> None:
    """Raise an error for a part that would run script, ask others for something, or make sound."""
    if isinstance(value.get("x"), str) and ("k" in value or "a" in value):
        raise FileError(
            f"This animation has an expression, which is script, at {_said(place)}. Have expressions baked "
            "into its frames, and export it again."
        )
    if value.get("ty") == _SOUND and "ip" in value:
        raise FileError(f"This animation makes sound, at {_said(place)}. Take the sound out, or make a film of it.")
    if place[:1] == ("assets",) and "p" in value:
        source = value["p"]
        if not (isinstance(source, str) and _DATA.fullmatch(source)):
            raise FileError(
                f"This animation asks for a picture from elsewhere, at {_said(place)}. Have pictures put into the file "
                "(embedded), and export it again."
            )
    if value.get("fPath"):
        raise FileError(
            f"This animation asks for a font from elsewhere, at {_said(place)}. Turn its words into shapes, and export "
            "it again."
        )


def _parts(whole: Any) -> Iterator[tuple[dict[str, Any], str]]:
    """Every place that holds a colour: the object, and which of its values does."""
    for _, value in _walk(whole):
        if not isinstance(value, dict):
            continue
        kind = value.get("ty")
        if kind in ("fl", "st") and isinstance(value.get("c"), dict):
            yield value["c"], "k"
        elif kind in ("gf", "gs") and isinstance(value.get("g"), dict):
            yield value["g"], "stops"
        elif kind == 1 and isinstance(value.get("sc"), str):
            yield value, "sc"
        elif isinstance(value.get("fc"), list):
            yield value, "fc"


def _hex(parts: list[Any]) -> str | None:
    """Three numbers from 0 to 1 as a colour; None where they are none."""
    if len(parts) < 3 or not all(isinstance(each, int | float) and math.isfinite(each) for each in parts[:3]):
        return None
    return "".join(f"{min(255, max(0, round(each * 255))):02x}" for each in parts[:3])


def _steps(property_: dict[str, Any]) -> Iterator[list[Any]]:
    """The lists of numbers of a property, in all its keyframes."""
    value = property_.get("k")
    if isinstance(value, list):
        if value and isinstance(value[0], dict):
            for frame in value:
                for name in ("s", "e"):
                    if isinstance(frame, dict) and isinstance(frame.get(name), list):
                        yield frame[name]
        else:
            yield value


def _stops(gradient: dict[str, Any]) -> Iterator[tuple[list[Any], int]]:
    """The colours of a gradient: the list of numbers, and where in it three of them stand."""
    count = gradient.get("p")
    held = gradient.get("k")
    if not isinstance(count, int) or not isinstance(held, dict):
        return
    for numbers in _steps(held):
        for stop in range(min(count, len(numbers) // 4)):
            yield numbers, stop * 4 + 1


def colours_of(whole: Any) -> tuple[str, ...]:
    """The colours that an animation has, the commonest first."""
    found: Counter[str] = Counter()
    for part, name in _parts(whole):
        if name == "sc":
            said = str(part["sc"]).lower().removeprefix("#")
            found[said] += bool(_COLOUR.fullmatch(said))
        elif name == "fc":
            found[_hex(part["fc"]) or ""] += 1
        elif name == "k":
            for numbers in _steps(part):
                found[_hex(numbers) or ""] += 1
        else:
            for numbers, at in _stops(part):
                found[_hex(numbers[at:]) or ""] += 1
    return tuple(colour for colour, count in found.most_common() if colour and count)[:MOST_COLOURS]


def exchanged(data: bytes, colours: Mapping[str, str]) -> bytes:
    """An animation that `read_animation` let in, with other colours (six hexadecimal digits each) in place of some."""
    whole = json.loads(data)
    for part, name in _parts(whole):
        if name == "sc":
            said = str(part["sc"]).lower().removeprefix("#")
            if said in colours:
                part["sc"] = f"#{colours[said]}"
        elif name == "fc":
            _exchange(part["fc"], 0, colours)
        elif name == "k":
            for numbers in _steps(part):
                _exchange(numbers, 0, colours)
        else:
            for numbers, at in _stops(part):
                _exchange(numbers, at, colours)
    return json.dumps(whole, ensure_ascii=False, separators=(",", ":")).encode()


def _exchange(numbers: list[Any], at: int, colours: Mapping[str, str]) -> None:
    new = colours.get(_hex(numbers[at:]) or "")
    if new:
        # Rounded up, for players that round the product down.
        numbers[at : at + 3] = [ceil(int(new[place : place + 2], 16) / 255 * 1e6) / 1e6 for place in (0, 2, 4)]


def cut_for(colours: str | None) -> str:
    """What tells the files of a use with these colours from others: “base” for those in its own."""
    return hashlib.sha256(colours.encode()).hexdigest()[:16] if colours else "base"


def colours_from(said: str | None) -> dict[str, str]:
    """The colours that a use has in place of an animation's, from “from-to” pairs with a blank between."""
    pairs = (each.split("-") for each in (said or "").split())
    return {pair[0]: pair[1] for pair in pairs if len(pair) == 2}
