"""Opening files that are a ZIP of XML parts: DOCX, ODT. Whatever is in them, memory stays bounded and nothing is
fetched."""

from __future__ import annotations

import posixpath
import zipfile
import zlib
from io import BytesIO

from lxml import etree

from ..errors import ReadingError

MOST_PARTS = 10_000
LARGEST_XML = 64 * 1024 * 1024
"""The most bytes one XML part may have when it is unpacked."""
LARGEST_PART = 128 * 1024 * 1024
LARGEST_IN_ALL = 512 * 1024 * 1024
"""The most bytes that are unpacked of one file."""

_OLD = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"
"""How a Compound File begins ([MS-CFB] 2.2): an old binary document, or an encrypted one ([MS-OFFCRYPTO] 2.3.1)."""


class Package:
    """The parts of an opened file. ``what`` is what it should be, as in “Word document (DOCX)”.

    Raises:
        ReadingError: when it cannot be opened, with a sentence.
    """

    def __init__(self, data: bytes, what: str) -> None:
        self.what = what
        self.unpacked = 0
        if data.startswith(_OLD):
            raise ReadingError(
                f"This {what} is locked with a password, or is of the old binary form. Open it in the program that "
                "made it, take the password off, and save it anew."
            )
        try:
            self.archive = zipfile.ZipFile(BytesIO(data))
            self.names = {info.filename: info for info in self.archive.infolist()}
        except (zipfile.BadZipFile, NotImplementedError, OSError, EOFError, ValueError) as error:
            raise ReadingError(
                f"This {what} cannot be opened. It may be damaged, or cut off on its way; save it anew."
            ) from error
        if len(self.names) > MOST_PARTS:
            raise ReadingError(f"This {what} has more than {MOST_PARTS:,} parts, which no document needs.")

    def part(self, name: str, largest: int = LARGEST_PART) -> bytes | None:
        """The bytes of a part; None when there is none of the name."""
        info = self.names.get(name)
        if info is None:
            return None
        if info.flag_bits & 1:
            raise ReadingError(f"This {self.what} is locked with a password. Take it off and save the file anew.")
        try:
            with self.archive.open(info) as part:
                data = part.read(largest + 1)
        except (zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, OSError, EOFError) as error:
            raise ReadingError(f"This {self.what} is damaged: “{name[:80]}” within it cannot be read.") from error
        self.unpacked += len(data)
        if len(data) > largest or self.unpacked > LARGEST_IN_ALL:
            raise ReadingError(
                f"This {self.what} unpacks to more than can be taken ({largest // 1024 // 1024} MB in one part). It "
                "may be made to do harm."
            )
        return data

    def xml(self, name: str) -> etree._Element | None:
        """The root of an XML part; None when there is none of the name.

        Entities are not resolved and no declaration of a document type is taken: neither ECMA-376, part 2, 6.2.5, nor
        any writer of OpenDocument has one.
        """
        data = self.part(name, LARGEST_XML)
        if data is None:
            return None
        parser = etree.XMLParser(
            resolve_entities=False, no_network=True, load_dtd=False, remove_comments=True, remove_pis=True
        )
        try:
            root = etree.fromstring(data, parser)
        except (etree.XMLSyntaxError, ValueError) as error:
            raise ReadingError(f"This {self.what} is damaged: “{name[:80]}” within it is not proper XML.") from error
        if root.getroottree().docinfo.internalDTD is not None:
            raise ReadingError(
                f"This {self.what} declares entities, which can be used to read files of the server. It is refused; "
                "save it anew in a word processor."
            )
        return root


def joined_path(base: str, target: str) -> str:
    """The name of a part that another names, both by paths in the package."""
    if target.startswith("/"):
        return target.lstrip("/")
    return posixpath.normpath(posixpath.join(posixpath.dirname(base), target))


def local(element: etree._Element) -> str:
    """The name of an element without its namespace."""
    tag = element.tag
    return tag.rsplit("}", 1)[-1] if isinstance(tag, str) else ""
