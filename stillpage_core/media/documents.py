"""What the bytes of a document of the library say: PDF, and texts and tables of word processors and spreadsheets."""

from __future__ import annotations

import zipfile
from io import BytesIO

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


def sniff_document(data: bytes) -> Format | None:
    """Tell the format of a document from all its bytes, or return None when it is none that is taken.

    PDF by its signature (WHATWG MIME Sniffing Standard, 6.4); Open Packaging files by their main part (ECMA-376, part
    2); OpenDocument by its first member (OpenDocument 1.3, part 2, 3.3).

    Raises:
        FileError: when it is one, but holds macros or cannot be opened.
    """
    if data.startswith(b"%PDF-"):
        if b"%%EOF" not in data[-2048:]:
            raise FileError("This PDF ends before its end. It may be damaged; save it again and try once more.")
        return PDF
    if not data.startswith(b"PK\x03\x04"):
        return None
    try:
        with zipfile.ZipFile(BytesIO(data)) as archive:
            names = set(archive.namelist()[:_MOST_PARTS])
            if any(name.lower().endswith("vbaproject.bin") for name in names):
                raise FileError("This document holds macros, which could run on readers' machines. Save it without.")
            if "mimetype" in names and archive.getinfo("mimetype").file_size < 100:
                return _BY_MIMETYPE.get(archive.read("mimetype").decode("ascii", "replace").strip())
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, OSError, EOFError) as error:
        raise FileError("This file cannot be opened. It may be damaged, or locked with a password.") from error
    return next((form for part, form in _BY_PART.items() if part in names), None)
