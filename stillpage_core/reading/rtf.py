"""The pictures within Rich Text Format, which word processors put on the clipboard beside HTML that only names them.

Source: Rich Text Format Specification 1.9.1, “Pictures”.
"""

from __future__ import annotations

import re
from dataclasses import replace

from .reading import Reading

_PIECE = re.compile(r"\\([a-z]+)(-?\d+)? ?|\\'[0-9a-fA-F]{2}|\\[^a-z]|[{}]|[0-9a-fA-F]+|[^\\{}0-9a-fA-F]+")
_COPY = re.compile(r"(?:\\nonshppict|fillBlip)[^\\]*(?:\\sv[^\\]*)?\Z")
"""What stands before a picture for old readers, or before one that fills a shape."""
_BLIPS = frozenset({"pngblip", "jpegblip"})


def rtf_pictures(rtf: str) -> list[bytes | None]:
    """The bytes of each picture in reading order; None for one that is neither PNG nor JPEG.

    Copies for old readers and what fills shapes are left out. Never raises: what is broken ends the list.
    """
    found: list[bytes | None] = []
    place = 0
    while (start := rtf.find("\\pict", place)) >= 0:
        place = start + 5
        if rtf[place : place + 1].isalpha() or _COPY.search(rtf, max(0, start - 40), start):
            continue
        kind, digits, place = _picture(rtf, place)
        try:
            found.append(bytes.fromhex(digits) if kind in _BLIPS else None)
        except ValueError:
            found.append(None)
    return found


def _picture(rtf: str, place: int) -> tuple[str, str, int]:
    """The kind and the hexadecimal digits of the picture whose group goes on at a place, and where it ends."""
    kind = ""
    digits: list[str] = []
    depth = 0
    while match := _PIECE.match(rtf, place):
        place = match.end()
        piece = match[0]
        if piece == "{":
            depth += 1
        elif piece == "}":
            depth -= 1
            if depth < 0:
                break
        elif depth == 0 and match[1] and match[1].endswith(("blip", "metafile", "pmmetafile", "bitmap")):
            kind = match[1]
        elif depth == 0 and piece[0] not in "\\ \t\r\n":
            digits.append(piece)
    return kind, "".join(digits), place


def with_rtf_pictures(reading: Reading, rtf: str) -> Reading:
    """The reading of some HTML, its pictures with the bytes that the RTF of the same text has for them.

    Both name the same pictures in the same order; where their numbers differ, nothing is taken.
    """
    missing = [picture for picture in reading.pictures if picture.data is None and picture.address.startswith("file:")]
    found = rtf_pictures(rtf) if missing else []
    if len(found) != len(missing):
        return reading
    data = {picture.number: each for picture, each in zip(missing, found, strict=True)}
    pictures = tuple(replace(picture, data=data.get(picture.number, picture.data)) for picture in reading.pictures)
    return replace(reading, pictures=pictures)
