"""The lists of a DOCX file: which paragraphs are items, and of what number."""

from __future__ import annotations

from dataclasses import dataclass

from lxml import etree

from ..package import local
from .parts import Parts, number_of
from .styles import Style

_NUMBERED = frozenset("decimal decimalZero lowerLetter upperLetter lowerRoman upperRoman ordinal cardinalText".split())


@dataclass
class Level:
    """A level of a list: how it is numbered, and from where."""

    form: str
    start: int


class Numbering:
    """The lists of a file, and how far each has been counted."""

    def __init__(self, parts: Parts) -> None:
        self.parts = parts
        self.get, self.child = parts.get, parts.child
        self.lists, self.abstract, self.restarts = self._numbering()
        self.counters: dict[str, list[int | None]] = {}
        self.begun: set[str] = set()

    def _numbering(self) -> tuple[dict[str, dict[int, Level]], dict[str, str], dict[tuple[str, int], int]]:
        """Of each list its levels, and which numbering it shares with others; where lists begin anew."""
        abstract: dict[str, dict[int, Level]] = {}
        lists: dict[str, dict[int, Level]] = {}
        shared: dict[str, str] = {}
        restarts: dict[tuple[str, int], int] = {}
        root = self.parts.part("numbering")
        for each in root:
            if local(each) == "abstractNum":
                abstract[self.get(each, "abstractNumId")] = {
                    number_of(self.get(level, "ilvl")): self._level(level)
                    for level in each.findall(f"{self.parts.w}lvl")
                }
        for each in root:
            if local(each) != "num":
                continue
            number = self.get(each, "numId")
            shared[number] = self.get(self.child(each, "abstractNumId"))
            lists[number] = dict(abstract.get(shared[number], {}))
            for override in each.findall(f"{self.parts.w}lvlOverride"):
                level = number_of(self.get(override, "ilvl"))
                if (own := self.child(override, "lvl")) is not None:
                    lists[number][level] = self._level(own)
                if (start := self.child(override, "startOverride")) is not None:
                    restarts[number, level] = number_of(self.get(start), 1)
        return lists, shared, restarts

    def _level(self, element: etree._Element) -> Level:
        form = self.get(self.child(element, "numFmt")) or "decimal"
        return Level(form, number_of(self.get(self.child(element, "start")), 1))

    def item(self, properties: etree._Element | None, style: Style) -> tuple[str, int, bool, int | None] | None:
        """Of the item of a list: its list, level, whether it is numbered, and its number."""
        numbering = self.child(properties, "numPr")
        list_id, depth = style.list_id, style.list_level
        if numbering is not None:
            list_id = self.get(self.child(numbering, "numId")) or list_id
            depth = number_of(self.get(self.child(numbering, "ilvl")), depth)
        if not list_id or list_id == "0" or list_id not in self.lists:
            return None
        depth = min(depth, 8)
        level = self.lists[list_id].get(depth, Level("bullet", 1))
        if level.form == "none":
            return None
        shared = self.abstract[list_id]
        counters = self.counters.setdefault(shared, [None] * 9)
        if list_id not in self.begun:
            self.begun.add(list_id)
            for at in range(9):
                if (list_id, at) in self.restarts:
                    counters[at] = self.restarts[list_id, at] - 1
        before = counters[depth]
        counters[depth] = level.start if before is None else before + 1
        counters[depth + 1 :] = [None] * (8 - depth)
        numbered = level.form in _NUMBERED
        return shared, depth, numbered, counters[depth] if numbered else None
