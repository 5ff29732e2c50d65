"""Brushes for the demo pictures: noise, masks, and textured paint on a canvas of floating-point colour."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFilter

Array = NDArray[np.float32]
Colour = tuple[float, float, float]

WIDTH, HEIGHT = 1500, 1000


def colour(text: str) -> Colour:
    """A colour from its six hexadecimal digits, each part from 0 to 1."""
    return tuple(int(text[i : i + 2], 16) / 255 for i in (0, 2, 4))  # type: ignore[return-value]


class Canvas:
    """A picture being painted; ``pixels`` has the shape (HEIGHT, WIDTH, 3). ``random`` makes it the same every time."""

    def __init__(self, seed: int) -> None:
        self.random = np.random.default_rng(seed)
        self.pixels = np.zeros((HEIGHT, WIDTH, 3), np.float32)
        self.y, self.x = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float32)

    def noise(self, scale: float, octaves: int = 4, stretch: float = 1.0) -> Array:
        """Smooth noise from 0 to 1; ``scale`` is the size of its largest features in pixels."""
        total = np.zeros((HEIGHT, WIDTH), np.float32)
        weight = 0.0
        for octave in range(octaves):
            cell = max(1.5, scale / 2**octave)
            grid = self.random.random((int(HEIGHT / cell) + 3, int(WIDTH / cell / stretch) + 3)).astype(np.float32)
            layer = Image.fromarray(grid).resize((WIDTH, HEIGHT), Image.Resampling.BICUBIC)
            total += np.asarray(layer) / 2**octave
            weight += 1 / 2**octave
        return total / weight

    def ridge(self, base: float, rise: float, scale: float) -> Array:
        """A line of hills: a height in pixels for each column."""
        xs = np.arange(WIDTH, dtype=np.float32)
        line = np.zeros(WIDTH, np.float32)
        for octave in range(6):
            cell = scale / 2**octave
            knots = self.random.random(int(WIDTH / cell) + 3)
            line += np.interp(xs / cell, np.arange(len(knots)), knots).astype(np.float32) / 2**octave
        return base - rise * (line - line.mean())

    def polygon(self, *points: tuple[float, float], soft: float = 1.0) -> Array:
        """A mask from 0 to 1 of the area within the points."""
        image = Image.new("L", (WIDTH, HEIGHT))
        ImageDraw.Draw(image).polygon([tuple(point) for point in points], fill=255)
        return np.asarray(image.filter(ImageFilter.GaussianBlur(soft)), np.float32) / 255

    def ellipse(self, cx: float, cy: float, rx: float, ry: float, soft: float = 1.0) -> Array:
        distance = np.sqrt(((self.x - cx) / rx) ** 2 + ((self.y - cy) / ry) ** 2)
        return np.clip((1 - distance) * min(rx, ry) / soft, 0, 1)

    def paint(self, mask: Array, shade: Colour, texture: Array | None = None, strength: float = 0.3) -> None:
        """Lay a colour over the mask, lighter and darker with the texture (0 to 1)."""
        tone = np.ones_like(mask) if texture is None else 1 + strength * (texture - 0.5) * 2
        layer = np.asarray(shade, np.float32)[None, None, :] * tone[..., None]
        self.pixels += (layer - self.pixels) * mask[..., None]

    def light(self, mask: Array, amount: float) -> None:
        """Make what lies under the mask lighter (above 0) or darker."""
        self.pixels *= 1 + amount * mask[..., None]

    def sky(self, high: Colour, low: Colour, horizon: float, cloud: Colour, cover: float) -> None:
        t = np.clip(self.y / horizon, 0, 1)[..., None]
        self.pixels = np.asarray(high, np.float32) * (1 - t) + np.asarray(low, np.float32) * t
        billow = self.noise(320, 6, stretch=2.2)
        mask = np.clip((billow - (1 - cover)) * 4, 0, 1) * np.clip(1.2 - self.y / horizon, 0, 1)
        shade = self.noise(140, 5, stretch=2)
        self.paint(mask * 0.9, cloud, shade, 0.12)

    def hills(self, base: float, rise: float, scale: float, shade: Colour, haze: Colour, depth: float) -> None:
        """A line of hills; ``depth`` from 0 (near) to 1 (lost in haze)."""
        line = self.ridge(base, rise, scale)
        mask = np.clip(self.y - line[None, :], 0, 1)
        mixed = tuple(s * (1 - depth) + h * depth for s, h in zip(shade, haze, strict=True))
        self.paint(mask, mixed, self.noise(26 + 40 * depth, 5), 0.34 * (1 - depth * 0.7))  # type: ignore[arg-type]

    def tree(self, cx: float, foot: float, height: float, leaf: Colour, trunk: Colour = (0.22, 0.17, 0.13)) -> None:
        """A broad-leaved tree, of some hundred tufts lit from the upper left."""
        wide = height * 0.34
        self.paint(
            self.polygon((cx - height * 0.03, foot), (cx + height * 0.03, foot), (cx, foot - height * 0.6)), trunk
        )
        image = Image.fromarray((np.clip(self.pixels, 0, 1) * 255).astype(np.uint8))
        draw = ImageDraw.Draw(image)
        for _ in range(int(height * 2.6)):
            angle, radius = self.random.random() * 6.283, np.sqrt(self.random.random())
            dx, dy = np.cos(angle) * radius, np.sin(angle) * radius
            tone = 0.72 + 0.3 * (-dx * 0.5 - dy) + self.random.normal(0, 0.11)
            size = height * (0.014 + 0.02 * self.random.random())
            px, py = cx + dx * wide, foot - height * 0.66 + dy * wide * 0.98
            fill = tuple(int(np.clip(part * tone, 0, 1) * 255) for part in leaf)
            draw.ellipse((px - size, py - size * 0.8, px + size, py + size * 0.8), fill=fill)
        self.pixels = np.asarray(image, np.float32) / 255

    def water(self, top: float, tint: Colour, clear: float = 0.62, ripple: float = 7) -> None:
        """Water from ``top`` down: what stands above it upside down, broken by ripples, tinted."""
        depth = np.clip((self.y - top) / (HEIGHT - top), 0, 1)
        waves = self.noise(60, 4, stretch=6) - 0.5
        sx = np.clip(self.x + waves * ripple * (3 + 9 * depth), 0, WIDTH - 1).astype(int)
        sy = np.clip(2 * top - self.y + waves * ripple * (2 + 14 * depth), 0, max(0, top - 1)).astype(int)
        mirrored = self.pixels[sy, sx]
        mix = np.asarray(tint, np.float32) * (1 - clear * (1 - 0.45 * depth))[..., None]
        mirrored = mirrored * (clear * (1 - 0.45 * depth))[..., None] + mix
        mirrored *= (1 + (self.noise(18, 3, stretch=9) - 0.5) * 0.22 * (0.4 + depth))[..., None]
        mask = np.clip(self.y - top, 0, 1)[..., None]
        self.pixels = self.pixels * (1 - mask) + mirrored * mask

    def grass(self, mask: Array, shade: Colour, blades: int = 9000) -> None:
        """Grass where the mask is: a ground of noise, and blades that grow longer towards the viewer."""
        self.paint(mask, shade, self.noise(40, 6), 0.4)
        image = Image.fromarray((np.clip(self.pixels, 0, 1) * 255).astype(np.uint8))
        draw = ImageDraw.Draw(image)
        rows, columns = np.nonzero(mask > 0.6)
        if len(rows):
            for pick in np.sort(self.random.integers(0, len(rows), blades)):
                px, py = float(columns[pick]), float(rows[pick])
                near = (py / HEIGHT) ** 2
                tone = 0.65 + self.random.random() * 0.75
                fill = tuple(int(np.clip(part * tone, 0, 1) * 255) for part in shade)
                draw.line((px, py, px + self.random.normal(0, 5) * near, py - 4 - 22 * near), fill=fill, width=1)
        self.pixels = np.asarray(image, np.float32) / 255

    def bricks(self, mask: Array, shade: Colour, mortar: Colour, wide: float = 46, high: float = 17) -> None:
        """Brickwork in running bond, each brick of its own tone."""
        row = np.floor(self.y / high)
        offset = self.x + (row % 2) * wide / 2
        column = np.floor(offset / wide)
        tone = np.modf(np.abs(np.sin(row * 12.9898 + column * 78.233) * 43758.5453))[0].astype(np.float32)
        joint = ((self.y % high) < 2.2) | ((offset % wide) < 2.2)
        self.paint(mask, shade, 0.6 * tone + 0.4 * self.noise(30, 5), 0.42)
        self.paint(mask * joint * 0.75, mortar, self.noise(12, 3), 0.2)

    def planks(self, mask: Array, shade: Colour, wide: float = 30, *, upright: bool = True) -> None:
        """Boards with grain and dark joints."""
        along, across = (self.y, self.x) if upright else (self.x, self.y)
        grain = self.noise(90, 4, stretch=0.12 if upright else 8)
        tone = np.modf(np.abs(np.sin(np.floor(across / wide) * 37.7) * 999.1))[0].astype(np.float32)
        self.paint(mask, shade, 0.5 * grain + 0.5 * tone + 0 * along, 0.32)
        self.paint(mask * ((across % wide) < 2.5) * 0.8, (0.06, 0.05, 0.05))

    def finish(self, warmth: float = 0.0) -> Image.Image:
        """The finished picture: a vignette, a little grain, and warmer or cooler light."""
        radius = ((self.x / WIDTH - 0.5) ** 2 + (self.y / HEIGHT - 0.5) ** 2)[..., None]
        pixels = self.pixels * (1.05 - 0.42 * radius)
        pixels = pixels + self.random.normal(0, 0.012, pixels.shape)
        pixels = pixels * np.asarray((1 + warmth, 1, 1 - warmth), np.float32)
        return Image.fromarray((np.clip(pixels, 0, 1) * 255).astype(np.uint8))
