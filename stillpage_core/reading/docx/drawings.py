"""Pictures, drawn rules and frames with text of a DOCX file."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from lxml import etree

from ...document.node import Mark, make
from ..package import joined_path, local
from ..text import clean
from .parts import R_STRICT, R

if TYPE_CHECKING:
    from .reader import Held, Reader


def drawing(reader: Reader, element: etree._Element, marks: tuple[Mark, ...], held: Held) -> None:
    """A picture, a drawn rule, or a frame with text in it, which then stands behind the paragraph."""
    for box in _outermost(element, "txbxContent"):
        held.behind += list(reader.pieces(box))
    for data in _outermost(element, "graphicData"):
        if (data.get("uri") or "").endswith(("/chart", "/diagram", "/chartex")):
            reader.told.dropped("A chart or diagram was left out", "{} charts or diagrams were left out")
    if any(each.get("{urn:schemas-microsoft-com:office:office}hr") for each in element.iter()):
        held.nodes.append(make("divider"))
    if any(local(each) == "hlinkClick" for each in element.iter()):
        marks = (*marks, Mark("link"))
    described = next((each for each in element.iter() if local(each) in ("docPr", "shape")), None)
    alt, decorative = "", False
    if described is not None:
        alt = described.get("descr") or described.get("alt") or ""
        decorative = any(local(each) == "decorative" and each.get("val") == "1" for each in described.iter())
    relations = reader._relations_here()
    for each in element.iter():
        if local(each) not in ("blip", "imagedata"):
            continue
        names = [each.get(f"{space}{name}") for space in (R, R_STRICT) for name in ("embed", "id", "link")]
        identity = next((name for name in names if name), "")
        _, target, outside = relations.get(identity, ("", "", False))
        if not target:
            continue
        reader.told.picture(marks)
        said = reader.told.within(clean(" ".join(alt.split())), 1000, "alt text")
        _picture(reader, target, said, held, outside=outside, decorative=decorative)


def _picture(reader: Reader, target: str, alt: str, held: Held, *, outside: bool, decorative: bool) -> None:
    name = target.rsplit("/", 1)[-1]
    if outside:
        number = reader.arriving.picture(target, name=name, alt=alt)
    else:
        data = reader.package.part(joined_path(reader.source, target))
        if data is None:
            reader.told.without_file(alt)
            return
        number = reader.arriving.picture(data=data, name=name, alt=alt)
    held.nodes.append(make("picture", item=number, alt=alt or None, decorative=decorative))


def _outermost(element: etree._Element, name: str) -> Iterator[etree._Element]:
    """The elements of a name that stand in no other of it; of alternatives (`mc:AlternateContent`) the first alone."""
    waiting = [element]
    while waiting:
        each = waiting.pop()
        if local(each) == name:
            yield each
        else:
            waiting += [child for child in each if local(child) != "Fallback"][::-1]
