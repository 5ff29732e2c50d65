"""The styles of a DOCX file, each with what it and those it is based on say."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass, field

from lxml import etree

from ...writing.style_names import read_variant
from ..package import local
from .parts import Parts


@dataclass
class Style:
    """A style with what it and those it is based on say. ``written`` is its name as it is written, ``name`` in small
    letters."""

    name: str = ""
    written: str = ""
    level: int | None = None
    list_id: str | None = None
    list_level: int = 0
    marks: dict[str, bool] = field(default_factory=dict)
    hidden: bool = False
    within: str = ""
    align: str | None = None


_TOGGLES = {
    "b": "strong",
    "i": "emphasis",
    "u": "underline",
    "strike": "strike",
    "dstrike": "strike",
}


def styles_of(parts: Parts) -> dict[str, Style]:
    raw = {parts.get(each, "styleId"): each for each in parts.part("styles") if local(each) == "style"}
    known: dict[str, Style] = {}

    def resolved(name: str, depth: int = 0) -> Style:
        if name in known or name not in raw or depth > 30:
            return known.get(name, Style())
        element = raw[name]
        base = resolved(parts.get(parts.child(element, "basedOn")), depth + 1)
        written, within, align = read_variant(parts.get(parts.child(element, "name")))
        style = Style(written.lower(), written, base.level, base.list_id, base.list_level)
        style.marks, style.hidden = dict(base.marks), base.hidden
        style.within, style.align = within, align
        if match := re.fullmatch(r"heading (\d)", style.name):
            style.level = int(match[1])
        outline = parts.get(parts.child(element, "pPr", "outlineLvl"))
        if outline.isdigit():
            style.level = int(outline) + 1 if int(outline) < 9 else None
        numbering = parts.child(element, "pPr", "numPr")
        if numbering is not None:
            style.list_id = parts.get(parts.child(numbering, "numId")) or style.list_id
            level = parts.get(parts.child(numbering, "ilvl"))
            style.list_level = int(level) if level.isdigit() else style.list_level
        style.marks |= said(parts, parts.child(element, "rPr"))
        style.hidden = style.hidden or parts.on(parts.child(element, "rPr", "vanish"))
        known[name] = style
        return style

    for name in raw:
        resolved(name)
    return known


def said(parts: Parts, properties: etree._Element | None) -> dict[str, bool]:
    """Which marks the properties of a run set or take off."""
    marks: dict[str, bool] = {}
    for each in properties if properties is not None else ():
        name = local(each)
        if name in _TOGGLES:
            marks[_TOGGLES[name]] = parts.on(each)
        elif name == "vertAlign":
            marks["superscript"] = parts.get(each) == "superscript"
            marks["subscript"] = parts.get(each) == "subscript"
    return marks


def language_of(parts: Parts) -> str:
    """The language that most words are said to be in, without its region; "" where none is said."""
    letters: Counter[str] = Counter()
    for run in parts.body.iter(f"{parts.w}r"):
        said = parts.get(parts.child(run, "rPr", "lang")).split("-")[0].lower()
        letters[said] += sum(len(each.text or "") for each in run.iterchildren(f"{parts.w}t"))
    styles = parts.part("styles")
    defaults = next((each for each in styles if local(each) == "docDefaults"), None)
    default = parts.get(parts.child(defaults, "rPrDefault", "rPr", "lang")).split("-")[0].lower()
    letters[default] += letters.pop("", 0)
    return max(letters, key=lambda each: letters[each])
