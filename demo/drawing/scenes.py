"""Draws the demo pictures into `demo/pictures/`: python -m demo.drawing.scenes [NAME …].

The pictures are committed; run this after changing a scene. Each is the same every time.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PIL import Image, ImageFilter

from .brushes import HEIGHT, WIDTH, Canvas, colour

FOLDER = Path(__file__).parent.parent / "pictures"
HAZE = colour("c9d6dc")


def _landscape(seed: int, *, horizon: float = 520, season: str = "summer") -> Canvas:
    """Sky and far hills; the near ground is still empty."""
    skies = {
        "summer": ("5f93c4", "dbe8ee", "f7f6f2", 0.5),
        "dawn": ("6a7ea8", "f3cfa8", "f6dccb", 0.44),
        "autumn": ("8ba3b8", "ece3d2", "f3efe6", 0.6),
        "winter": ("a9b7c4", "e9ecef", "f3f4f5", 0.7),
    }
    greens = {"summer": "5c7f45", "dawn": "4f6650", "autumn": "8a7a3d", "winter": "9aa3a3"}
    high, low, cloud, cover = skies[season]
    canvas = Canvas(seed)
    canvas.sky(colour(high), colour(low), horizon, colour(cloud), cover)
    for depth, drop, rise in ((0.75, 60, 90), (0.5, 25, 60), (0.2, -10, 34)):
        canvas.hills(horizon - drop, rise, 500 * (0.4 + depth), colour(greens[season]), HAZE, depth)
    return canvas


def _trees(canvas: Canvas, foot: float, leaves: list[str], count: int, size: tuple[float, float]) -> None:
    for cx in np.sort(canvas.random.uniform(0, WIDTH, count)):
        leaf = colour(leaves[int(canvas.random.integers(len(leaves)))])
        canvas.tree(float(cx), foot + float(canvas.random.normal(0, 5)), float(canvas.random.uniform(*size)), leaf)


def _bank(canvas: Canvas, shade: str, *points: tuple[float, float]) -> None:
    canvas.grass(canvas.polygon(*points, soft=2), colour(shade))


def _path(canvas: Canvas, *points: tuple[float, float]) -> None:
    mask = canvas.polygon(*points, soft=3)
    canvas.paint(mask, colour("b9a88c"), 0.5 * canvas.noise(6, 2) + 0.5 * canvas.noise(120, 4), 0.28)


def _boat(canvas: Canvas, left: float, line: float, length: float, hull: str, cabin: str) -> None:
    """A narrow boat seen from the side, floating at ``line``."""
    h = length * 0.105
    canvas.paint(
        canvas.polygon(
            (left, line - h * 0.55),
            (left + length, line - h * 0.7),
            (left + length * 0.97, line),
            (left + h * 0.5, line),
        ),
        colour(hull),
        canvas.noise(30, 4),
        0.15,
    )
    x0, x1 = left + length * 0.16, left + length * 0.9
    canvas.paint(
        canvas.polygon(
            (x0, line - h * 0.6), (x0 + h * 0.1, line - h * 1.5), (x1 - h * 0.1, line - h * 1.55), (x1, line - h * 0.65)
        ),
        colour(cabin),
        canvas.noise(200, 3),
        0.1,
    )
    canvas.paint(
        canvas.polygon((x0, line - h * 1.5), (x1, line - h * 1.55), (x1, line - h * 1.63), (x0, line - h * 1.58)),
        colour("d8cfb8"),
    )
    for share in np.linspace(0.12, 0.88, 6):
        cx = x0 + (x1 - x0) * share
        canvas.paint(canvas.ellipse(cx, line - h * 1.08, h * 0.22, h * 0.2), colour("e8dfc4"))
        canvas.paint(
            canvas.ellipse(cx, line - h * 1.08, h * 0.17, h * 0.155), colour("24323a"), canvas.noise(20, 2), 0.5
        )
    chimney = x0 + (x1 - x0) * 0.8
    canvas.paint(
        canvas.polygon(
            (chimney, line - h * 1.5),
            (chimney, line - h * 2.1),
            (chimney + h * 0.16, line - h * 2.1),
            (chimney + h * 0.16, line - h * 1.5),
        ),
        colour("1c1c1e"),
    )


def canal_at_dawn() -> Image.Image:
    canvas = _landscape(11, horizon=500, season="dawn")
    canvas.paint(canvas.ellipse(1060, 400, 120, 120, soft=110), colour("ffe9c9"))
    _trees(canvas, 545, ["3f5340", "52614a", "6b6a48"], 22, (90, 210))
    canvas.water(555, colour("6d7682"), 0.8, 5)
    _bank(canvas, "4c5a3a", (0, 640), (420, 570), (300, 1000), (0, 1000))
    _bank(canvas, "3f4d36", (1500, 600), (1100, 565), (1290, 1000), (1500, 1000))
    _path(canvas, (0, 780), (350, 580), (380, 580), (200, 1000), (0, 1000))
    mist = np.clip(1 - np.abs(canvas.y - 560) / 120, 0, 1) * canvas.noise(260, 4, stretch=4)
    canvas.paint((mist * 0.8).astype(np.float32), colour("f2e3d6"))
    return canvas.finish(0.03)


def towpath_in_summer() -> Image.Image:
    canvas = _landscape(23)
    _trees(canvas, 560, ["4c7a35", "5f8c3c", "3f6b3a", "7a9a4a"], 26, (130, 300))
    canvas.water(575, colour("4c5f56"), 0.7)
    _bank(canvas, "6d8f45", (0, 560), (760, 575), (560, 1000), (0, 1000))
    _path(canvas, (60, 1000), (600, 578), (640, 578), (470, 1000))
    _bank(canvas, "5b7d3f", (1500, 575), (1180, 578), (1400, 1000), (1500, 1000))
    canvas.tree(130, 760, 620, colour("587f36"))
    return canvas.finish(0.02)


def towpath_in_autumn() -> Image.Image:
    canvas = _landscape(37, season="autumn")
    _trees(canvas, 570, ["b5732b", "c9952f", "94542a", "7d7a38"], 30, (130, 320))
    canvas.water(580, colour("5d574a"), 0.75)
    _bank(canvas, "8d7d3c", (1500, 560), (700, 578), (930, 1000), (1500, 1000))
    _path(canvas, (1360, 1000), (800, 580), (835, 580), (1500, 880), (1500, 1000))
    canvas.tree(1350, 800, 700, colour("b8752a"))
    leaves = (canvas.random.random((HEIGHT, WIDTH)) > 0.9992) & (canvas.y > 600)
    spots = (
        np.asarray(Image.fromarray((leaves * 255).astype(np.uint8)).filter(ImageFilter.MaxFilter(5)), np.float32) / 255
    )
    canvas.paint(spots, colour("c8842f"), canvas.noise(14, 2), 0.5)
    return canvas.finish(0.05)


def narrowboat_moored() -> Image.Image:
    canvas = _landscape(41)
    _trees(canvas, 540, ["4a7038", "638a44", "3d6040"], 20, (100, 230))
    _bank(canvas, "6b8a48", (0, 530), (1500, 530), (1500, 640), (0, 640))
    _boat(canvas, 260, 645, 980, "1e2a3c", "7c2530")
    canvas.water(646, colour("4a574e"), 0.66, 6)
    return canvas.finish(0.02)


def two_boats_passing() -> Image.Image:
    canvas = _landscape(47, season="autumn")
    _trees(canvas, 540, ["8a7a38", "6d7a40", "a5772f"], 18, (110, 240))
    _boat(canvas, 720, 590, 620, "24323a", "2d5a48")
    _boat(canvas, 60, 640, 860, "1e2226", "31517a")
    canvas.water(641, colour("545b54"), 0.66, 8)
    return canvas.finish(0.03)


def lock_gates() -> Image.Image:
    canvas = _landscape(53, horizon=420)
    _trees(canvas, 460, ["52783c", "6a8c44", "436a3c"], 16, (120, 260))
    canvas.bricks(canvas.polygon((0, 470), (470, 500), (470, 1000), (0, 1000)), colour("8d5a46"), colour("b9aa9a"))
    canvas.bricks(
        canvas.polygon((1500, 470), (1030, 500), (1030, 1000), (1500, 1000)), colour("855442"), colour("b3a494")
    )
    canvas.light(canvas.polygon((1030, 500), (1500, 470), (1500, 1000), (1030, 1000)), -0.18)
    canvas.paint(canvas.polygon((0, 440), (500, 478), (500, 512), (0, 486)), colour("c3baa9"), canvas.noise(40, 5), 0.2)
    canvas.paint(
        canvas.polygon((1500, 440), (1000, 478), (1000, 512), (1500, 486)), colour("b8ae9d"), canvas.noise(40, 5), 0.2
    )
    canvas.planks(canvas.polygon((470, 520), (762, 560), (762, 1000), (470, 1000)), colour("3a3d38"))
    canvas.planks(canvas.polygon((1030, 520), (738, 560), (738, 1000), (1030, 1000)), colour("31342f"))
    for level in (600, 720, 850):
        canvas.planks(
            canvas.polygon((470, level), (1030, level), (1030, level + 34), (470, level + 34)), colour("4a4c45"), 400
        )
    canvas.planks(canvas.polygon((90, 372), (790, 500), (790, 548), (90, 430)), colour("26282a"), 500, upright=False)
    canvas.planks(canvas.polygon((90, 372), (240, 399), (240, 455), (90, 430)), colour("ece9e0"), 500, upright=False)
    canvas.planks(
        canvas.polygon((1410, 372), (710, 500), (710, 548), (1410, 430)), colour("222426"), 500, upright=False
    )
    canvas.planks(
        canvas.polygon((1410, 372), (1260, 399), (1260, 455), (1410, 430)), colour("e6e3da"), 500, upright=False
    )
    for cx, top in ((640, 690), (860, 740), (752, 640)):
        fall = canvas.polygon((cx - 7, top), (cx + 7, top), (cx + 26, 960), (cx - 26, 960), soft=5)
        canvas.paint(fall * canvas.noise(20, 3, stretch=0.2), colour("e8eef0"))
    canvas.water(930, colour("59645c"), 0.4, 12)
    return canvas.finish(0.02)


def lock_chamber() -> Image.Image:
    canvas = Canvas(59)
    canvas.sky(colour("86a5bd"), colour("dfe7ea"), 380, colour("f5f5f2"), 0.6)
    canvas.hills(360, 40, 300, colour("5f7f4a"), HAZE, 0.3)
    canvas.bricks(canvas.polygon((0, 200), (560, 380), (560, 700), (0, 1000)), colour("7d4f40"), colour("a89a8c"))
    canvas.bricks(canvas.polygon((1500, 200), (940, 380), (940, 700), (1500, 1000)), colour("8d5f4a"), colour("b5a797"))
    wet = np.clip((canvas.y - 520) / 160, 0, 1)
    canvas.paint((wet * 0.55).astype(np.float32), colour("2e3b2c"), canvas.noise(60, 5), 0.5)
    canvas.planks(canvas.polygon((560, 380), (940, 380), (940, 720), (560, 720)), colour("4a4f4a"))
    canvas.paint(canvas.polygon((0, 150), (575, 362), (575, 392), (0, 235)), colour("cfc6b4"), canvas.noise(50, 5), 0.2)
    canvas.paint(
        canvas.polygon((1500, 150), (925, 362), (925, 392), (1500, 235)), colour("d6cdbc"), canvas.noise(50, 5), 0.2
    )
    canvas.water(715, colour("3f4d45"), 0.5, 9)
    ladder = canvas.polygon((1150, 480), (1166, 485), (1166, 800), (1150, 795))
    canvas.paint(ladder, colour("1b1d1c"))
    canvas.paint(canvas.polygon((1200, 490), (1216, 495), (1216, 815), (1200, 810)), colour("1b1d1c"))
    for level in range(510, 800, 34):
        canvas.paint(
            canvas.polygon((1150, level), (1216, level + 14), (1216, level + 22), (1150, level + 8)), colour("2a2c2b")
        )
    return canvas.finish()


def stone_bridge() -> Image.Image:
    canvas = _landscape(61)
    _trees(canvas, 560, ["52783c", "6f8f48", "41683c"], 20, (120, 280))
    body = canvas.polygon((0, 420), (520, 300), (980, 300), (1500, 420), (1500, 640), (0, 640))
    body = body * (1 - canvas.ellipse(750, 640, 300, 270, soft=2))
    canvas.bricks(body, colour("a8997f"), colour("7d725f"), 74, 30)
    ring = canvas.ellipse(750, 640, 335, 305, soft=2) * (1 - canvas.ellipse(750, 640, 300, 270, soft=2))
    canvas.paint(ring * (canvas.y < 640), colour("bfb094"), canvas.noise(22, 4), 0.3)
    canvas.bricks(
        canvas.polygon((0, 392), (520, 272), (980, 272), (1500, 392), (1500, 424), (520, 306), (0, 424)),
        colour("b5a78d"),
        colour("8a7e6a"),
        90,
        40,
    )
    canvas.light(
        canvas.ellipse(820, 640, 300, 270, soft=60) * (canvas.y < 640) * canvas.ellipse(750, 640, 300, 270, soft=2),
        -0.3,
    )
    canvas.water(640, colour("48574f"), 0.72, 6)
    _bank(canvas, "65833f", (0, 620), (330, 645), (120, 1000), (0, 1000))
    return canvas.finish(0.03)


def aqueduct() -> Image.Image:
    canvas = _landscape(67, horizon=640)
    body = canvas.polygon((0, 300), (1500, 330), (1500, 760), (0, 780))
    for cx in (180, 560, 940, 1320):
        hole = np.maximum(
            canvas.ellipse(cx, 540, 150, 150, soft=2),
            canvas.polygon((cx - 150, 540), (cx + 150, 540), (cx + 150, 1000), (cx - 150, 1000)),
        )
        body = body * (1 - hole)
    canvas.bricks(body, colour("a08c74"), colour("7a6c5a"), 80, 32)
    for cx in (180, 560, 940, 1320):
        canvas.light(canvas.polygon((cx + 150, 520), (cx + 190, 520), (cx + 190, 790), (cx + 150, 790), soft=12), -0.28)
    canvas.paint(
        canvas.polygon((0, 286), (1500, 316), (1500, 346), (0, 316)), colour("c0b29a"), canvas.noise(60, 4), 0.2
    )
    _trees(canvas, 790, ["5a7a3c", "6f8d46"], 14, (90, 190))
    _bank(canvas, "7a9550", (0, 760), (1500, 750), (1500, 1000), (0, 1000))
    return canvas.finish(0.03)


def lock_cottage() -> Image.Image:
    canvas = _landscape(71)
    _trees(canvas, 570, ["4c7338", "658a42", "86994e"], 18, (150, 320))
    canvas.bricks(canvas.polygon((470, 380), (1060, 380), (1060, 660), (470, 660)), colour("b9a991"), colour("d4c9b8"))
    canvas.paint(
        canvas.polygon((430, 390), (560, 230), (970, 230), (1100, 390)),
        colour("5d5a5e"),
        canvas.noise(18, 4, stretch=4),
        0.4,
    )
    canvas.bricks(canvas.polygon((620, 170), (690, 170), (690, 250), (620, 250)), colour("8a5644"), colour("b0a090"))
    for left in (540, 880):
        canvas.paint(canvas.polygon((left, 450), (left + 110, 450), (left + 110, 560), (left, 560)), colour("f0ece0"))
        canvas.paint(
            canvas.polygon((left + 10, 460), (left + 100, 460), (left + 100, 550), (left + 10, 550)),
            colour("35454e"),
            canvas.noise(50, 3),
            0.5,
        )
        canvas.paint(
            canvas.polygon((left + 51, 455), (left + 59, 455), (left + 59, 555), (left + 51, 555)), colour("f0ece0")
        )
    canvas.planks(canvas.polygon((715, 470), (815, 470), (815, 660), (715, 660)), colour("2f5a4a"), 25)
    _bank(canvas, "6f9048", (0, 630), (1500, 630), (1500, 820), (0, 820))
    _path(canvas, (720, 650), (810, 650), (960, 820), (640, 820))
    canvas.water(820, colour("4c5f56"), 0.65, 8)
    return canvas.finish(0.04)


def winter_ice() -> Image.Image:
    canvas = _landscape(73, season="winter")
    _trees(canvas, 560, ["7d7a76", "8f8c86", "6b6964"], 24, (110, 260))
    canvas.water(575, colour("aebbc4"), 0.45, 2)
    plates = np.clip((canvas.noise(160, 4) - 0.5) * 12, 0, 1) * np.clip(canvas.y - 575, 0, 1)
    canvas.paint((plates * 0.7).astype(np.float32), colour("e4ecf0"), canvas.noise(30, 4), 0.1)
    _bank(canvas, "d5d9d8", (0, 570), (640, 578), (420, 1000), (0, 1000))
    _path(canvas, (30, 1000), (520, 580), (548, 580), (330, 1000))
    return canvas.finish(-0.03)


def drained_lock() -> Image.Image:
    canvas = Canvas(79)
    canvas.sky(colour("9fb0bd"), colour("e2e6e8"), 300, colour("f2f2f0"), 0.7)
    canvas.bricks(canvas.polygon((0, 120), (600, 300), (600, 640), (0, 880)), colour("6f4c40"), colour("9a8c80"))
    canvas.bricks(canvas.polygon((1500, 120), (900, 300), (900, 640), (1500, 880)), colour("7d5646"), colour("a5978a"))
    canvas.planks(canvas.polygon((600, 290), (900, 290), (900, 645), (600, 645)), colour("55584f"))
    mud = canvas.polygon((0, 880), (600, 635), (900, 635), (1500, 880), (1500, 1000), (0, 1000))
    canvas.paint(mud, colour("5a4a38"), canvas.noise(90, 6), 0.45)
    pools = np.clip((canvas.noise(220, 4, stretch=3) - 0.56) * 14, 0, 1) * mud
    canvas.paint(pools, colour("a9b4b8"), canvas.noise(40, 3), 0.15)
    for left, foot, size in ((420, 870, 190), (560, 800, 150), (1010, 840, 170)):
        canvas.paint(canvas.ellipse(left, foot - size * 0.86, size * 0.11, size * 0.12), colour("d8a92c"))
        canvas.paint(
            canvas.ellipse(left, foot - size * 0.5, size * 0.19, size * 0.3),
            colour("d9662a"),
            canvas.noise(30, 3),
            0.25,
        )
        canvas.paint(
            canvas.polygon(
                (left - size * 0.14, foot - size * 0.3),
                (left + size * 0.14, foot - size * 0.3),
                (left + size * 0.16, foot),
                (left - size * 0.16, foot),
            ),
            colour("2c3540"),
        )
    return canvas.finish()


def reeds_and_water() -> Image.Image:
    canvas = _landscape(83, horizon=380)
    canvas.water(395, colour("5c7078"), 0.7, 6)
    image = Image.fromarray((np.clip(canvas.pixels, 0, 1) * 255).astype(np.uint8))
    from PIL import ImageDraw  # noqa: PLC0415

    draw = ImageDraw.Draw(image)
    for _ in range(900):
        px, foot = canvas.random.uniform(-20, 1520), canvas.random.uniform(760, 1020)
        tall = canvas.random.uniform(200, 560) * (foot / 1000)
        lean = canvas.random.normal(0, 40)
        tone = canvas.random.uniform(0.6, 1.15)
        fill = tuple(int(part * tone * 255) for part in colour("7d8a45"))
        draw.line((px, foot, px + lean * 0.4, foot - tall * 0.6, px + lean, foot - tall), fill=fill, width=3)
        if canvas.random.random() < 0.14:
            tx, ty = px + lean, foot - tall
            draw.ellipse((tx - 8, ty - 42, tx + 8, ty + 30), fill=(92, 58, 34))
    canvas.pixels = np.asarray(image, np.float32) / 255
    return canvas.finish(0.02)


def windlass_on_a_bench() -> Image.Image:
    canvas = Canvas(89)
    whole = np.ones((HEIGHT, WIDTH), np.float32)
    canvas.planks(whole, colour("8a6a4a"), 180, upright=False)
    canvas.light(canvas.ellipse(300, 120, 1200, 900, soft=500), 0.25)
    shadow = canvas.polygon((330, 700), (1020, 560), (1040, 620), (350, 765), soft=26)
    canvas.light(shadow, -0.5)
    bar = canvas.polygon((320, 660), (1010, 520), (1022, 575), (332, 718), soft=2)
    canvas.paint(bar, colour("4a4d50"), canvas.noise(30, 5), 0.5)
    canvas.light(canvas.polygon((320, 662), (1010, 522), (1012, 534), (322, 674), soft=4), 0.8)
    handle = canvas.polygon((960, 545), (1030, 530), (1130, 830), (1060, 850), soft=2)
    canvas.paint(handle, colour("53565a"), canvas.noise(30, 5), 0.5)
    canvas.light(canvas.polygon((965, 545), (985, 541), (1085, 842), (1066, 848), soft=4), 0.6)
    canvas.paint(canvas.ellipse(330, 690, 96, 92, soft=2), colour("46494c"), canvas.noise(24, 5), 0.5)
    canvas.light(canvas.ellipse(312, 668, 60, 52, soft=30), 0.4)
    canvas.paint(canvas.polygon((296, 660), (360, 648), (372, 712), (308, 724), soft=2), colour("151617"))
    return canvas.finish(0.05)


def map_of_the_canal() -> Image.Image:
    """A drawing rather than a photograph: flat tones, thin lines."""
    canvas = Canvas(97)
    canvas.pixels[:] = colour("f3efe3")
    relief = np.round(canvas.noise(420, 5) * 9) / 9
    canvas.paint(np.ones((HEIGHT, WIDTH), np.float32) * 0.6, colour("d9e0c4"), relief.astype(np.float32), 0.12)
    from PIL import ImageDraw  # noqa: PLC0415

    image = Image.fromarray((np.clip(canvas.pixels, 0, 1) * 255).astype(np.uint8))
    draw = ImageDraw.Draw(image)
    points = [(60 + t * 14, 520 + 190 * np.sin(t / 17) + 60 * np.sin(t / 5.3)) for t in range(100)]
    draw.line([(x, y + 260) for x, y in points], fill=(150, 190, 214), width=26, joint="curve")
    draw.line(points, fill=(44, 92, 138), width=11, joint="curve")
    for number in range(1, 15):
        x, y = points[number * 7 - 4]
        draw.polygon([(x - 16, y + 17), (x + 16, y + 17), (x, y - 17)], fill=(122, 36, 48), outline=(255, 255, 255))
    for index in (6, 40, 71, 95):
        x, y = points[index]
        draw.ellipse((x - 24, y - 84, x + 24, y - 36), fill=(35, 48, 44), outline=(255, 255, 255), width=5)
    return image


SCENES: dict[str, Callable[[], Image.Image]] = {
    scene.__name__.replace("_", "-"): scene
    for scene in (
        canal_at_dawn, towpath_in_summer, towpath_in_autumn, narrowboat_moored, two_boats_passing, lock_gates,
        lock_chamber, stone_bridge, aqueduct, lock_cottage, winter_ice, drained_lock, reeds_and_water,
        windlass_on_a_bench, map_of_the_canal,
    )
}  # fmt: skip


def main() -> None:
    """Draw the scenes named on the command line, or all."""
    FOLDER.mkdir(exist_ok=True)
    for name in sys.argv[1:] or SCENES:
        picture = SCENES[name]()
        if name.startswith("map-"):
            picture.quantize(128).save(FOLDER / f"{name}.png", optimize=True)
        else:
            picture.save(FOLDER / f"{name}.jpg", quality=84, progressive=True, optimize=True)
        print(name)


if __name__ == "__main__":
    main()
