"""Bytes → text: which encoding they are in, and whether they are text at all."""

from __future__ import annotations

import codecs
import re
from dataclasses import dataclass

from charset_normalizer import from_bytes

from ..errors import ReadingError

LARGEST_TEXT = 16 * 1024 * 1024
"""The largest file of text that is read, in bytes: some two million words."""

_BOMS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF32_LE, "utf-32"),
    (codecs.BOM_UTF32_BE, "utf-32"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)
_DECLARED = re.compile(
    rb"""<meta[^>]+charset\s*=\s*["']?\s*([\w:.-]+)|<\?xml[^>]+encoding\s*=\s*["']([\w:.-]+)""", re.IGNORECASE
)
_SAMPLE = 64 * 1024
_BEYOND_ASCII = bytes(range(128, 256))
_ENOUGH = 8
"""From how many bytes beyond ASCII on an encoding can be told by what they look like."""
_NAMES = {"cp1252": "Windows-1252", "utf-8": "UTF-8"}


@dataclass(frozen=True)
class Decoded:
    """The text of a file. ``guessed`` names the encoding where nothing in the file says it and it is not UTF-8."""

    text: str
    guessed: str = ""

    @property
    def told(self) -> str:
        """What to tell whoever brought the file; empty where there is nothing to doubt."""
        if not self.guessed:
            return ""
        return f"The file is not in UTF-8, and was read as {self.guessed}. Look whether letters with accents are right"


def text_from(data: bytes) -> str:
    """The text alone of `decoded`."""
    return decoded(data).text


def decoded(data: bytes) -> Decoded:
    """Decode a file of text: by its byte order mark, as UTF-8, by what it declares, or by what it most looks like.

    Labels mean what the WHATWG Encoding Standard (4.2) says; "iso-8859-1", for one, is windows-1252.

    Raises:
        ReadingError: when it is too large, or no text.
    """
    if len(data) > LARGEST_TEXT:
        raise ReadingError(
            f"This file is larger than {LARGEST_TEXT // 1024 // 1024} MB, the most that can be read as text. Part it."
        )
    for mark, name in _BOMS:
        if data.startswith(mark):
            return Decoded(data.decode(name, "replace").removeprefix("\ufeff"))
    wide = _wide(data[:_SAMPLE])
    if wide:
        return Decoded(data.decode(wide, "replace"))
    _refuse_binary(data[:_SAMPLE])
    try:
        return Decoded(data.decode("utf-8"))
    except UnicodeDecodeError:
        pass
    if declared := _DECLARED.search(data[:2048]):
        label = (declared[1] or declared[2]).decode("ascii", "replace").lower()
        label = "cp1252" if label in ("iso-8859-1", "latin1", "ascii", "us-ascii", "windows-1252") else label
        try:
            if label not in ("utf-8", "utf8"):
                return Decoded(data.decode(label, "replace"))
        except LookupError:
            pass
    name = _likely(data)
    return Decoded(data.decode(name, "replace"), _NAMES.get(name, name))


def _likely(data: bytes) -> str:
    """What a text looks like that says nothing of its encoding. A few letters, which look like anything, are
    Western."""
    if len(data) - len(data.translate(None, _BEYOND_ASCII)) < _ENOUGH:
        return "cp1252"
    likely = from_bytes(data[:_SAMPLE]).best()
    return likely.encoding if likely else "cp1252"


def _wide(sample: bytes) -> str | None:
    """UTF-16 without a mark: every other byte of Western text is zero."""
    if len(sample) < 8 or 0 not in sample:
        return None
    even, odd = sample[0::2].count(0), sample[1::2].count(0)
    half = len(sample) / 2
    if odd > half * 0.6 and even < half * 0.05:
        return "utf-16-le"
    return "utf-16-be" if even > half * 0.6 and odd < half * 0.05 else None


def _refuse_binary(sample: bytes) -> None:
    control = sum(sample.count(bytes([code])) for code in (*range(9), 14, 15, *range(16, 27), 28, 29, 30, 31))
    if control > max(2, len(sample) // 200):
        raise ReadingError("This file is no text, whatever its name says. Choose another, or save it anew as text.")
