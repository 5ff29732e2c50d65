"""Draws further views of the canal: python -m demo.drawing.views. A view is a season and what stands in it.

The first list goes into `demo/pictures/`, the second into `standins/commons/` with a catalogue. Each is the same every
time. The moving picture and the drawing of lines are made here too.
"""

from __future__ import annotations

import json
import math
import sys
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw

from ..views import FREE, VIEWS, View
from .brushes import Canvas, colour
from .scenes import FOLDER, _bank, _boat, _landscape, _path, _trees

COMMONS = Path(__file__).resolve().parents[2] / "standins" / "commons"
LEAVES = {
    "summer": ["4c7a35", "5f8c3c", "3f6b3a", "7a9a4a"],
    "dawn": ["3f5340", "52614a", "6b6a48"],
    "autumn": ["b5762c", "c7922f", "8f5a2a", "a84f2a"],
    "winter": ["6d6a66", "7d7a76", "5a5855"],
}
GROUND = {"summer": "6d8f45", "dawn": "4c5a3a", "autumn": "8d7f3f", "winter": "cdd3d4"}
WATER = {"summer": "4c5f56", "dawn": "6d7682", "autumn": "5d5a4a", "winter": "7a8891"}
HULLS = (("7a2430", "2b4a3a"), ("24506e", "8a3a2a"), ("2f5d45", "c08a2e"), ("3a3f4a", "6a3d5c"))


def draw(view: View, seed: int) -> Image.Image:
    """Paint a view."""
    horizon = 430 + seed * 37 % 140
    canvas = _landscape(seed, horizon=horizon, season=view.season)
    holds = view.holds.split()
    _trees(canvas, horizon + 30, LEAVES[view.season], 12 + seed % 14, (80, 240))
    if "village" in holds:
        _houses(canvas, horizon + 34)
    if "field" not in holds:
        canvas.water(horizon + 50, colour(WATER[view.season]), 0.72, 5 + seed % 4)
    ground = GROUND[view.season]
    left = seed % 2 == 0
    if "field" in holds:
        _bank(canvas, ground, (0, horizon + 30), (1500, horizon + 40), (1500, 1000), (0, 1000))
    else:
        edge = 300 + seed * 53 % 300
        near = (0, 560) if left else (1500, 560)
        _bank(
            canvas,
            ground,
            near,
            (edge if left else 1500 - edge, horizon + 52),
            (220 if left else 1280, 1000),
            (near[0], 1000),
        )
        _bank(
            canvas,
            ground,
            (1500 - near[0], horizon + 60),
            (750, horizon + 48),
            (1180 if left else 320, 1000),
            (1500 - near[0], 1000),
        )
    if "path" in holds:
        at = 0 if left else 900
        _path(canvas, (at, 1000), (at + 520, horizon + 56), (at + 552, horizon + 56), (at + 330, 1000))
    if "bridge" in holds:
        _bridge(canvas, horizon, seed)
    if "gates" in holds:
        _gates(canvas, horizon)
    for number in range(holds.count("boat")):
        hull, cabin = HULLS[(seed + number) % len(HULLS)]
        _boat(canvas, 180 + seed * 71 % 400 + number * 420, 690 + number * 80, 520 + number * 120, hull, cabin)
    if "people" in holds:
        _people(canvas, seed)
    if "birds" in holds:
        for _ in range(9):
            x, y = canvas.random.uniform(200, 1300), canvas.random.uniform(80, 320)
            canvas.paint(
                canvas.polygon((x - 22, y - 9), (x, y), (x + 22, y - 10), (x, y + 5), soft=1), colour("3a4148")
            )
    return canvas.finish(0.02 if view.season in ("summer", "autumn") else -0.02).resize(
        (1080, 720), Image.Resampling.LANCZOS
    )


def _houses(canvas: Canvas, foot: float) -> None:
    for number in range(7):
        x = 160 + number * 170 + float(canvas.random.normal(0, 18))
        wide, high = float(canvas.random.uniform(70, 120)), float(canvas.random.uniform(60, 95))
        wall = ("c9b79a", "b4a58f", "d8cdb6", "a8907a")[number % 4]
        body = canvas.polygon((x, foot), (x + wide, foot), (x + wide, foot - high), (x, foot - high))
        canvas.paint(body, colour(wall), canvas.noise(20, 4), 0.2)
        roof = canvas.polygon((x - 8, foot - high), (x + wide / 2, foot - high * 1.5), (x + wide + 8, foot - high))
        canvas.paint(roof, colour("6d4a3f"), canvas.noise(14, 3), 0.3)
        for share in (0.25, 0.7):
            pane = canvas.polygon(
                *((x + wide * share + a, foot - high * 0.5 + b) for a, b in ((-7, -9), (7, -9), (7, 9), (-7, 9)))
            )
            canvas.paint(pane, colour("2a3036"))


def _bridge(canvas: Canvas, horizon: float, seed: int) -> None:
    top, foot = horizon - 60, horizon + 130
    middle = 700 + seed * 29 % 200
    whole = canvas.polygon(
        (middle - 460, foot), (middle - 330, top + 30), (middle, top), (middle + 330, top + 30), (middle + 460, foot)
    )
    arch = canvas.ellipse(middle, foot, 210, 150)
    canvas.bricks(np.clip(whole - arch, 0, 1), colour("8f8272"), colour("c7beac"), 54, 22)
    canvas.light(canvas.ellipse(middle, foot - 6, 214, 156) * np.clip(whole, 0, 1) * (1 - arch), -0.25)


def _gates(canvas: Canvas, horizon: float) -> None:
    top, foot = horizon + 20, horizon + 300
    for left in (True, False):
        x0, x1 = (420, 752) if left else (748, 1080)
        canvas.planks(canvas.polygon((x0, top + 30), (x1, top), (x1, foot), (x0, foot - 20)), colour("4f4a40"), 26)
        beam = canvas.polygon(
            (x0 - 300 if left else x1, top - 8),
            (x1 if left else x1 + 300, top - 8),
            (x1 if left else x1 + 300, top + 22),
            (x0 - 300 if left else x1, top + 22),
        )
        canvas.paint(beam, colour("20221f"), canvas.noise(20, 3), 0.3)
        tip = canvas.polygon(
            *(
                ((120, top - 8), (190, top - 8), (190, top + 22), (120, top + 22))
                if left
                else ((1310, top - 8), (1380, top - 8), (1380, top + 22), (1310, top + 22))
            )
        )
        canvas.paint(tip, colour("eeeae0"))


def _people(canvas: Canvas, seed: int) -> None:
    for number in range(2 + seed % 3):
        x, foot, size = 520 + number * 120 + seed * 13 % 90, 820 + number * 14, 170 + number * 12
        coat = ("d9662a", "2f5d7a", "7a6a2a", "8a2f3f")[(seed + number) % 4]
        canvas.paint(
            canvas.polygon((x - 24, foot - size * 0.32), (x + 24, foot - size * 0.32), (x + 26, foot), (x - 26, foot)),
            colour("2c3540"),
        )
        canvas.paint(
            canvas.ellipse(x, foot - size * 0.52, size * 0.18, size * 0.28), colour(coat), canvas.noise(24, 3), 0.25
        )
        canvas.paint(canvas.ellipse(x, foot - size * 0.86, size * 0.1, size * 0.11), colour("caa184"))


def lock_filling() -> None:
    """A lock chamber that fills, as a moving picture of 24 frames."""
    frames: list[Image.Image] = []
    for step in range(24):
        level = 250 - 130 * (0.5 - 0.5 * math.cos(math.pi * min(1, step / 18)))
        image = Image.new("RGB", (480, 320), "#e6ecee")
        pen = ImageDraw.Draw(image)
        pen.rectangle((0, 280, 480, 320), fill="#8a7a64")
        pen.rectangle((0, 110, 120, 280), fill="#5f8fae")
        pen.rectangle((120, level, 360, 280), fill="#5f8fae")
        pen.rectangle((360, 250, 480, 280), fill="#5f8fae")
        pen.rectangle((112, 70, 128, 280), fill="#3d3a33")
        pen.rectangle((352, 70, 368, 280), fill="#3d3a33")
        pen.polygon([(170, level - 6), (320, level - 6), (308, level + 12), (182, level + 12)], fill="#7a2430")
        pen.rectangle((200, level - 28, 300, level - 6), fill="#2b4a3a")
        for place in range(3):
            x = 215 + place * 30
            pen.ellipse((x, level - 23, x + 12, level - 11), fill="#e8dfc4")
        frames.append(image)
    frames[0].save(FOLDER / "lock-filling.gif", save_all=True, append_images=frames[1:], duration=120, loop=0)


LOCK_PLAN = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 640 240" width="640" height="240">
<title>Plan of a lock</title>
<rect width="640" height="240" fill="#f3efe3"/>
<path d="M0 80H180M460 80H640M0 160H180M460 160H640" stroke="#6d4a3f" stroke-width="6"/>
<path d="M180 70H460V80H180zM180 160H460V170H180z" fill="#8f8272"/>
<path d="M0 83H640V157H0z" fill="#9dbfd3"/>
<path d="M180 80L215 120L180 160M460 80L495 120L460 160" fill="none" stroke="#3d3a33" stroke-width="8"/>
<path d="M240 105H400Q420 120 400 135H240Q228 120 240 105z" fill="#7a2430"/>
<g font-family="sans-serif" font-size="16" fill="#23302c" text-anchor="middle">
<text x="90" y="60">upper level</text><text x="320" y="60">chamber</text><text x="560" y="60">lower level</text>
<text x="200" y="195">top gates</text><text x="478" y="195">bottom gates</text>
</g>
</svg>
"""


def main() -> None:
    """Draw everything."""
    COMMONS.mkdir(parents=True, exist_ok=True)
    wanted = set(sys.argv[1:])
    for number, view in enumerate(VIEWS):
        if not wanted or view.name in wanted:
            draw(view, 101 + number).save(FOLDER / f"{view.name}.jpg", quality=76, progressive=True, optimize=True)
    catalogue = []
    for number, view in enumerate(FREE):
        name = f"{view.name}.jpg"
        picture = draw(view, 301 + number)
        picture.save(COMMONS / name, quality=78, progressive=True, optimize=True)
        licence = ("CC BY 4.0", "CC BY-SA 4.0", "CC0 1.0")[number % 3]
        title = view.name.replace("-", " ").capitalize()
        catalogue.append(
            {
                "id": str(4000 + number),
                "title": title,
                "author": view.author,
                "licence": licence,
                "alt": view.alt,
                "width": picture.width,
                "height": picture.height,
                "file": name,
                "preview": name,
            }
        )
    (COMMONS / "catalogue.json").write_text(json.dumps(catalogue, indent=1) + "\n", encoding="utf-8")
    lock_filling()
    (FOLDER / "plan-of-a-lock.svg").write_text(LOCK_PLAN, encoding="utf-8")


if __name__ == "__main__":
    main()
