"""What a picture's bytes say: its format and its size."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..errors import CoreError

MOST_MOVING_PIXELS = 300_000_000
"""The most pixels that all frames of a moving picture may have together."""

MOST_PIXELS = 60_000_000
"""The most pixels a picture may have: a camera of 60 megapixels. Decoding one takes about 240 MB."""


class FileError(CoreError):
    """Bytes that cannot become an item of the library; the sentence says why and what would do."""

    status = 415
    name = "no-item"
    title = "This file cannot be used"


class PictureError(FileError):
    """The same, of a picture."""


@dataclass(frozen=True)
class Format:
    """A format of files that is taken in: its name, MIME type and file ending."""

    name: str
    mime: str
    ending: str


JPEG = Format("JPEG", "image/jpeg", "jpg")
PNG = Format("PNG", "image/png", "png")
WEBP = Format("WebP", "image/webp", "webp")
GIF = Format("GIF", "image/gif", "gif")
AVIF = Format("AVIF", "image/avif", "avif")
SVG = Format("SVG", "image/svg+xml", "svg")
FORMATS = (JPEG, PNG, WEBP, GIF, AVIF, SVG)

_WOULD_DO = "Pictures may be JPEG, PNG, WebP, AVIF, GIF or SVG, documents PDF, DOCX, ODT, XLSX or ODS."


def sniff(start: bytes) -> Format:
    """Tell the format from the first bytes of a file (64 kB are plenty); names and declared types are not asked.

    Signatures as in the WHATWG MIME Sniffing Standard, section 6.1; AVIF by its brand (AV1 Image File Format, 6.2); SVG
    by its root element.

    Raises:
        PictureError: when it is something else, with a sentence that says what it seems to be.
    """
    if not start:
        raise PictureError(f"This file is empty. {_WOULD_DO}")
    if start.startswith(b"\xff\xd8\xff"):
        return JPEG
    if start.startswith(b"\x89PNG\r\n\x1a\n"):
        return PNG
    if start.startswith(b"RIFF") and start[8:14] == b"WEBPVP":
        return WEBP
    if start.startswith((b"GIF87a", b"GIF89a")):
        return GIF
    if start[4:12] in (b"ftypavif", b"ftypavis"):
        return AVIF
    if re.search(rb"<(?:\w+:)?svg[\s>]", start[:4096]):
        return SVG
    raise PictureError(f"This is no picture that can be read. {_WOULD_DO}")


def size_of(data: bytes, form: Format) -> tuple[int, int]:
    """Width and height in pixels as the header of a picture declares them; (0, 0) where it cannot be read.

    PNG: W3C PNG, 11.2.1; GIF: GIF89a, 18; JPEG: ITU-T T.81, B.2.2; WebP: RFC 9649, 2.5 to 2.7.
    """
    try:
        if form is PNG:
            return int.from_bytes(data[16:20]), int.from_bytes(data[20:24])
        if form is GIF:
            return int.from_bytes(data[6:8], "little"), int.from_bytes(data[8:10], "little")
        if form is JPEG:
            return _jpeg_size(data)
        return _webp_size(data) if form is WEBP else (0, 0)
    except IndexError:
        return 0, 0


def _jpeg_size(data: bytes) -> tuple[int, int]:
    place = 2
    while place + 9 <= len(data):
        if data[place] != 0xFF:
            return 0, 0
        marker = data[place + 1]
        if 0xC0 <= marker <= 0xCF and marker not in (0xC4, 0xC8, 0xCC):
            return int.from_bytes(data[place + 7 : place + 9]), int.from_bytes(data[place + 5 : place + 7])
        alone = marker == 0xFF or 0xD0 <= marker <= 0xD9 or marker == 0x01
        place += (1 if marker == 0xFF else 2) if alone else 2 + int.from_bytes(data[place + 2 : place + 4])
    return 0, 0


def _webp_size(data: bytes) -> tuple[int, int]:
    kind = data[12:16]
    if kind == b"VP8X":
        return 1 + int.from_bytes(data[24:27], "little"), 1 + int.from_bytes(data[27:30], "little")
    if kind == b"VP8L":
        bits = int.from_bytes(data[21:25], "little")
        return 1 + (bits & 0x3FFF), 1 + (bits >> 14 & 0x3FFF)
    return int.from_bytes(data[26:28], "little") & 0x3FFF, int.from_bytes(data[28:30], "little") & 0x3FFF


def check_size(width: int, height: int) -> None:
    """Refuse a picture that declares more pixels than can be safely decoded.

    Raises:
        PictureError: with the numbers.
    """
    if width < 1 or height < 1:
        raise PictureError("This picture declares a size of nothing. It may be damaged.")
    if width * height > MOST_PIXELS:
        raise PictureError(
            f"This picture declares {width:,} × {height:,} pixels; at most {MOST_PIXELS // 1_000_000} million in all "
            "can be taken. Save it smaller and try again."
        )


def check_frames(width: int, height: int, frames: int) -> None:
    """Raise `PictureError` when the frames of a moving picture have too many pixels together."""
    if width * height * frames > MOST_MOVING_PIXELS:
        raise PictureError(
            f"This moving picture has {frames:,} frames of {width:,} × {height:,} pixels; at most "
            f"{MOST_MOVING_PIXELS // 1_000_000} million pixels in all can be taken. Make it smaller or shorter."
        )
