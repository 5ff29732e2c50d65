"""The words of a document of the library, for the search: no structure, and no more than can be looked through."""

from __future__ import annotations

from ..media.pictures import Format
from .package import Package, local

TEXT_LENGTH = 400_000
"""The most characters that are kept of a document: a book of about 60,000 words."""

_PARTS = {
    "docx": ("word/document.xml", "word/footnotes.xml", "word/endnotes.xml"),
    "xlsx": ("xl/sharedStrings.xml",),
    "odt": ("content.xml",),
    "ods": ("content.xml",),
}
_NEW_LINE = frozenset("p h si tr br tab row table-cell line-break".split())


def words_of_document(data: bytes, form: Format) -> str:
    """The words of an office document, for the search; not more than `TEXT_LENGTH` characters.

    Raises:
        ReadingError: when it is damaged, or would unpack to too much.
    """
    package = Package(data, form.name)
    words: list[str] = []
    length = 0
    for part in _PARTS[form.ending]:
        root = package.xml(part)
        for element in root.iter() if root is not None else ():
            if local(element) in _NEW_LINE:
                words.append(" ")
            for text in (element.text, element.tail):
                if text and text.strip():
                    words.append(text)
                    length += len(text)
            if length > TEXT_LENGTH:
                break
    return " ".join("".join(words).split())[:TEXT_LENGTH]
