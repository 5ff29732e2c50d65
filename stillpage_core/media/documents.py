"""What the bytes of a document of the library say: PDF, and texts and tables of word processors and spreadsheets."""

from __future__ import annotations

import zipfile
from typing import BinaryIO

from .pictures import FileError, Format

PDF = Format("PDF", "application/pdf", "pdf")
_OFFICE = "application/vnd.openxmlformats-officedocument."
_BY_PART = {
    "word/document.xml": Format("DOCX", f"{_OFFICE}wordprocessingml.document", "docx"),
    "xl/workbook.xml": Format("XLSX", f"{_OFFICE}spreadsheetml.sheet", "xlsx"),
}
_BY_MIMETYPE = {
    form.mime: form
    for form in (
        Format("ODT", "application/vnd.oasis.opendocument.text", "odt"),
        Format("ODS", "application/vnd.oasis.opendocument.spreadsheet", "ods"),
    )
}
FORMATS = {form.mime: form for form in (PDF, *_BY_PART.values(), *_BY_MIMETYPE.values())}
"""The formats that are taken, by MIME type."""

_MOST_PARTS = 10_000


LARGEST_UNPACKED = 2 * 1024 * 1024 * 1024
"""The most bytes that the parts of a document may have in all when unpacked, as its directory declares them."""
STEEPEST = 200
"""How many times larger the parts may be than the file, where they have more than 64 MB in all. Texts of words pack to
about a twentieth; a bomb to less than a thousandth (common practice)."""


def sniff_document(file: BinaryIO) -> Format | None:
    """Tell the format of a document from its file, which may be large and is not read whole; None when it is none that
    is taken.

    PDF by its signature (WHATWG MIME Sniffing Standard, 6.4); Open Packaging files by their main part (ECMA-376, part
    2); OpenDocument by its first member (OpenDocument 1.3, part 2, 3.3).

    Raises:
        FileError: when it is one, but holds macros, cannot be opened, or would unpack to too much.
    """
    file.seek(0)
    start = file.read(8)
    if start.startswith(b"%PDF-"):
        size = file.seek(0, 2)
        file.seek(max(0, size - 2048))
        if b"%%EOF" not in file.read():
            raise FileError("This PDF ends before its end. It may be damaged; save it again and try once more.")
        return PDF
    if not start.startswith(b"PK\x03\x04"):
        return None
    try:
        with zipfile.ZipFile(file) as archive:
            infos = archive.infolist()
            names = {info.filename for info in infos[:_MOST_PARTS]}
            packed = file.seek(0, 2)
            unpacked = sum(info.file_size for info in infos)
            if any(name.lower().endswith("vbaproject.bin") for name in names):
                raise FileError("This document holds macros, which could run on readers' machines. Save it without.")
            if unpacked > LARGEST_UNPACKED or (unpacked > 64 * 1024 * 1024 and unpacked > packed * STEEPEST):
                raise FileError("This document unpacks to far more than its size. It may be made to do harm.")
            if "mimetype" in names and archive.getinfo("mimetype").file_size < 100:
                return _BY_MIMETYPE.get(archive.read("mimetype").decode("ascii", "replace").strip())
    except FileError:
        raise
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, OSError, EOFError, ValueError) as error:
        raise FileError("This file cannot be opened. It may be damaged, or locked with a password.") from error
    return next((form for part, form in _BY_PART.items() if part in names), None)
