"""Making the files that readers get of a picture: cut, turned, made smaller, and written in the formats of the plan."""

from __future__ import annotations

import io
import warnings
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any, BinaryIO

from PIL import Image, ImageCms, ImageOps, ImageSequence

from stillpage_core.media.editing import UNIT, Cut, straightened_share
from stillpage_core.media.pictures import AVIF, GIF, JPEG, PNG, WEBP, Format, PictureError, check_frames, check_size
from stillpage_core.media.plan import SAMPLE, Derived, is_drawing

Image.MAX_IMAGE_PIXELS = None  # The core's own limit is asked before anything is decoded.

QUALITY: dict[str, dict[str, Any]] = {
    JPEG.mime: {"quality": 82, "progressive": True, "optimize": True},
    WEBP.mime: {"quality": 80, "method": 4},
    AVIF.mime: {"quality": 62, "speed": 8},
    PNG.mime: {"optimize": True},
    GIF.mime: {},
}
"""How each format is written, chosen by eye on the demo's photographs."""

_ARTIST, _COPYRIGHT = 0x013B, 0x8298
_SRGB = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB"))


@dataclass
class Opened:
    """A picture read to its end, standing upright. A moving one keeps its file open, to be read frame by frame."""

    picture: Image.Image
    moving: bool = False
    lasts: int | None = 0
    """For how many milliseconds it moves; None when it begins again and again."""
    profile: bytes | None = None
    rights: bytes = b""
    credit: str = ""
    drawn: bool = False

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in pixels."""
        return self.picture.size


@contextmanager
def opened(file: BinaryIO, form: Format) -> Iterator[Opened]:
    """Read a picture; ``form`` is what its bytes say it is.

    Raises:
        PictureError: when it is damaged or has more pixels than can be taken, with a sentence.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            file.seek(0)
            picture = Image.open(file, formats=[form.name.upper()])
            check_size(*picture.size)
            frames = getattr(picture, "n_frames", 1)
            moving = form in (GIF, WEBP) and frames > 1
            lasts: int | None = 0
            if moving:
                check_frames(*picture.size, frames)
                lasts = _lasts(picture)
                picture.seek(0)
            picture.load()
        rights, credit = _rights(picture)
        profile = picture.info.get("icc_profile")
        upright = picture if moving else _in_colour(ImageOps.exif_transpose(picture))
    except PictureError:
        raise
    except Exception as error:  # Decoders raise errors of many kinds for damaged files.
        raise PictureError(
            f"This says it is a {form.name} picture, but it cannot be read to its end. It may be damaged."
        ) from error
    # Colour told for inks cannot stay; such a picture is sRGB from here on.
    kept = None if picture.mode == "CMYK" else profile
    drawn = not moving and looks_drawn(upright)
    yield Opened(upright, moving, lasts, profile=kept, rights=rights, credit=credit, drawn=drawn)


def _lasts(picture: Image.Image) -> int | None:
    """For how many milliseconds a moving picture moves, every frame of which is read for that; None for ever.

    GIF and WebP alike tell how often it is shown, where 0 is without end; a GIF that does not tell is shown once.
    """
    once = 0
    for frame in ImageSequence.Iterator(picture):
        frame.load()
        once += int(frame.info.get("duration", 100))
    turns = picture.info.get("loop", 1)
    return once * int(turns) if turns else None


def _in_colour(picture: Image.Image) -> Image.Image:
    """The picture in a mode that every format can be written from: grey, RGB or RGBA of 8 bits."""
    if picture.mode in ("L", "RGB", "RGBA"):
        clear = picture.mode != "RGBA" and "transparency" in picture.info
        return picture.convert("RGBA") if clear else picture
    if picture.mode == "CMYK" and (profile := picture.info.get("icc_profile")):
        try:
            inks = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            return ImageCms.profileToProfile(picture, inks, _SRGB, outputMode="RGB") or picture.convert("RGB")
        except ImageCms.PyCMSError:
            return picture.convert("RGB")
    if picture.mode.startswith(("I", "F")):
        # 16 bits of grey: the 8 that matter.
        return (
            picture.point(lambda value: value / 256, "L") if picture.mode.startswith("I;16") else picture.convert("L")
        )
    clear = picture.mode in ("LA", "PA", "La", "RGBa") or "transparency" in picture.info
    return picture.convert("RGBA" if clear else "RGB")


def _rights(picture: Image.Image) -> tuple[bytes, str]:
    """Whose the picture is, as EXIF that holds nothing else, and in words."""
    found = picture.getexif()
    kept = Image.Exif()
    words: list[str] = []
    for tag in (_ARTIST, _COPYRIGHT):
        value = found.get(tag)
        if isinstance(value, str) and (said := value.replace("\0", " ").strip()[:190]):
            kept[tag] = said
            words.append(said)
    return (kept.tobytes() if words else b""), (words[0] if words else "")


def looks_drawn(picture: Image.Image) -> bool:
    """Whether it is a drawing rather than a photograph, from five pieces at its own size."""
    rgb = picture.convert("RGB")
    width, height = rgb.size
    side_x, side_y = min(SAMPLE, width), min(SAMPLE, height)
    pieces = []
    for across, down in ((0.5, 0.5), (0.2, 0.2), (0.8, 0.2), (0.2, 0.8), (0.8, 0.8)):
        x, y = round((width - side_x) * across), round((height - side_y) * down)
        pieces.append((rgb.crop((x, y, x + side_x, y + side_y)).tobytes("raw", "RGBX"), side_x))
    return is_drawing(pieces)


def cut_out(picture: Image.Image, cut: Cut) -> Image.Image:
    """What is left of an upright picture after a cut, at its own resolution."""
    turns = {1: Image.Transpose.ROTATE_270, 2: Image.Transpose.ROTATE_180, 3: Image.Transpose.ROTATE_90}
    if cut.turn:
        picture = picture.transpose(turns[cut.turn])
    width, height = picture.size
    if cut.straighten:
        share = straightened_share(width, height, cut.straighten)
        turned = picture.rotate(-cut.straighten / 10, Image.Resampling.BICUBIC)
        across, down = width * share, height * share
        left, top = (width - across) / 2, (height - down) / 2
        picture = turned.crop((round(left), round(top), round(left + across), round(top + down)))
        width, height = picture.size
    x, y, wide, high = cut.crop
    if cut.crop == (0, 0, UNIT, UNIT):
        return picture
    left, top = round(width * x / UNIT), round(height * y / UNIT)
    right, bottom = round(width * (x + wide) / UNIT), round(height * (y + high) / UNIT)
    return picture.crop((left, top, max(left + 1, right), max(top + 1, bottom)))


def made(opened_picture: Opened, cut: Cut, plan: Iterable[Derived]) -> Iterator[tuple[Derived, bytes]]:
    """The bytes of each file of a plan for one cut of a picture, as they are made.

    Each size is made of the one that was made before it where that is at least twice as large, which looks the same
    and takes a quarter of the time.
    """
    if opened_picture.moving:
        for each in plan:
            yield each, _moving(opened_picture, cut, each)
        return
    source = cut_out(opened_picture.picture, cut)
    sizes: dict[tuple[int, int], Image.Image] = {}
    wanted = list(plan)
    for size in sorted({(each.width, each.height) for each in wanted}, reverse=True):
        larger = [known for known in sizes if known[0] >= 2 * size[0]]
        base = sizes[min(larger)] if larger else source
        sizes[size] = base.copy() if base.size == size else base.resize(size, Image.Resampling.LANCZOS, reducing_gap=3)
        sizes[size].info = {}
    for each in wanted:
        yield each, encoded(sizes[each.width, each.height], each.form, opened_picture)


def encoded(picture: Image.Image, form: Format, of: Opened) -> bytes:
    """A picture as a file of a format, without metadata save its colour profile and whose it is."""
    options: dict[str, Any] = dict(QUALITY[form.mime])
    if form is JPEG and picture.mode == "RGBA":
        ground = Image.new("RGB", picture.size, "white")
        ground.paste(picture, mask=picture.getchannel("A"))
        picture = ground
    if form is WEBP and of.drawn:
        options = {"lossless": True, "method": 4}
    if of.profile and not (picture.mode == "L" and form is not PNG):
        options["icc_profile"] = of.profile
    if of.rights:
        options["exif"] = of.rights
    out = io.BytesIO()
    picture.save(out, form.name.upper(), **options)
    return out.getvalue()


def _moving(of: Opened, cut: Cut, each: Derived) -> bytes:
    """A moving picture at another size: every frame, with the times and the number of turns it had."""
    picture = of.picture
    picture.seek(0)
    durations: list[int] = []

    def frames() -> Iterator[Image.Image]:
        for frame in ImageSequence.Iterator(picture):
            whole = frame.convert("RGBA")
            # Some formats tell a frame's time only once it is read.
            durations.append(int(frame.info.get("duration", 100)))
            yield cut_out(whole, cut).resize((each.width, each.height), Image.Resampling.LANCZOS)

    every = list(frames())
    turns = picture.info.get("loop")
    options: dict[str, Any] = {"quality": 75, "method": 3, "loop": 1} if each.form is WEBP else {"disposal": 2}
    if turns is not None:
        options["loop"] = turns
    out = io.BytesIO()
    every[0].save(
        out,
        each.form.name.upper(),
        save_all=True,
        append_images=every[1:],
        duration=durations,
        **options,
    )
    picture.seek(0)
    return out.getvalue()
