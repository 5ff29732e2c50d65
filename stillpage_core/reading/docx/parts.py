"""The parts of a DOCX package, and what its elements say."""

from __future__ import annotations

import re

from lxml import etree

from ...errors import ReadingError
from ..package import Package, joined_path, local
from ..reading import has_words

R = "{http://schemas.openxmlformats.org/officeDocument/2006/relationships}"
R_STRICT = "{http://purl.oclc.org/ooxml/officeDocument/relationships}"
WHAT = "Word document (DOCX)"
OFF = frozenset({"0", "false", "off", "none"})
SETTINGS = frozenset(
    """pPr rPr sdtPr sdtEndPr tblPr tblPrEx tblGrid trPr tcPr sectPr customXmlPr smartTagPr dirPr bookmarkStart
    bookmarkEnd commentRangeStart commentRangeEnd proofErr permStart permEnd moveFromRangeStart moveFromRangeEnd
    moveToRangeStart moveToRangeEnd customXmlInsRangeStart customXmlInsRangeEnd customXmlDelRangeStart
    customXmlDelRangeEnd subDoc""".split()
)
"""Elements that hold no words; any other is looked into."""


class Parts:
    """The parts of a package: its main one, those that this names, and what elements of them say."""

    def __init__(self, package: Package) -> None:
        self.package = package
        self.main = self._main_part()
        root = package.xml(self.main)
        body = next((child for child in root if local(child) == "body"), None) if root is not None else None
        if root is None or body is None:
            raise ReadingError(f"This is no {WHAT}: it has no text. Choose another file, or save it anew.")
        self.body = body
        self.w = root.tag[: root.tag.index("}") + 1]
        self.relations = self.relations_of(self.main)

    def _main_part(self) -> str:
        rels = self.package.xml("_rels/.rels")
        for relation in rels if rels is not None else ():
            if (relation.get("Type") or "").endswith("/officeDocument"):
                return (relation.get("Target") or "").lstrip("/")
        return "word/document.xml"

    def relations_of(self, part: str) -> dict[str, tuple[str, str, bool]]:
        """Of a part: id → (type, target, outside)."""
        folder, _, name = part.rpartition("/")
        root = self.package.xml(f"{folder}/_rels/{name}.rels" if folder else f"_rels/{name}.rels")
        return {
            relation.get("Id") or "": (
                (relation.get("Type") or "").rsplit("/", 1)[-1],
                relation.get("Target") or "",
                relation.get("TargetMode") == "External",
            )
            for relation in (root if root is not None else ())
        }

    def part(self, kind: str) -> etree._Element | tuple[()]:
        """The root of the part that the main one names for this."""
        for sort, target, outside in self.relations.values():
            if sort == kind and not outside:
                root = self.package.xml(joined_path(self.main, target))
                if root is not None:
                    return root
        return ()

    def get(self, element: etree._Element | None, name: str = "val") -> str:
        return "" if element is None else element.get(self.w + name) or ""

    def child(self, element: etree._Element | None, *names: str) -> etree._Element | None:
        for name in names:
            element = None if element is None else element.find(self.w + name)
        return element

    def on(self, element: etree._Element | None) -> bool:
        return element is not None and self.get(element) not in OFF

    def has_words(self) -> bool:
        """Whether any words stand in the body that are shown."""
        return any(has_words(each.text) for each in self.body.iter(f"{self.w}t"))

    def margins(self) -> int:
        """1 where pages have a header or footer with words in it, otherwise 0."""
        for sort, target, outside in self.relations.values():
            if sort in ("header", "footer") and not outside:
                root = self.package.xml(joined_path(self.main, target))
                if root is not None and any(has_words(each.text) for each in root.iter(f"{self.w}t")):
                    return 1
        return 0


def number_of(written: str, otherwise: int = 0) -> int:
    return int(written) if re.fullmatch(r"\d{1,6}", written) else otherwise
