"""DOCX (ECMA-376, WordprocessingML) → document.

Files in reading order:

- ``parts.py``: the parts of the package, and what elements say
- ``styles.py``, ``numbering.py``, ``fields.py``: what paragraphs and words say by naming it
- ``reader.py``: the text, element by element; ``tables.py`` and ``drawings.py`` what stands in it
"""

from __future__ import annotations

from ...errors import ReadingError
from ..mending import mended
from ..package import Package
from ..reading import Arriving, Reading
from ..titles import lowered, titled
from .parts import WHAT
from .reader import Reader

__all__ = ["read_docx"]


def read_docx(data: bytes, arriving: Arriving | None = None, *, under: int = 1) -> Reading:
    """Read a DOCX file. ``under`` as in `mending.mended`.

    Raises:
        ReadingError: when it is none, is damaged, locked, or made to do harm.
    """
    arriving = arriving or Arriving()
    package = Package(data, WHAT)
    if any(name.lower().endswith("vbaproject.bin") for name in package.names):
        raise ReadingError("This Word document holds macros, which are programs. Save it without them, as DOCX.")
    reader = Reader(package, arriving)
    blocks = titled(reader.blocks(), arriving)
    came = mended(lowered(blocks, arriving), arriving.told, under)
    return arriving.finished(came, reader.parts.has_words)
