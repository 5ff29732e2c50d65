"""Fields (ECMA-376, part 1, 17.16.18): first an instruction, then what it results in."""

from __future__ import annotations

import re

from lxml import etree

from ..reading import Told
from .parts import Parts


class Fields:
    """The fields that are open while words are read."""

    def __init__(self, parts: Parts, bodies: list[etree._Element], told: Told) -> None:
        self.parts = parts
        self.told = told
        self.whole = self._whole(bodies)
        self.open: list[list[str]] = []

    def _whole(self, bodies: list[etree._Element]) -> set[etree._Element]:
        """The marks of the fields that have an end. One without would swallow all that follows; so would one that has
        words where its instruction is, and no result: the end is that of a field around it."""
        whole: set[etree._Element] = set()
        for part in bodies:
            open_fields: list[tuple[list[etree._Element], set[str]]] = []
            for mark in part.iter(f"{self.parts.w}fldChar", f"{self.parts.w}t"):
                kind = self.parts.get(mark, "fldCharType") or "t"
                if kind == "begin":
                    open_fields.append(([mark], set()))
                    continue
                while open_fields and kind == "end" and open_fields[-1][1] == {"t"}:
                    open_fields.pop()
                if not open_fields:
                    continue
                marks, seen = open_fields[-1]
                if kind != "t":
                    marks.append(mark)
                if kind != "t" or "separate" not in seen:
                    seen.add(kind)
                if kind == "end":
                    whole.update(marks)
                    open_fields.pop()
        return whole

    def mark(self, kind: str) -> None:
        """The begin, middle or end of a field."""
        if kind == "begin":
            self.open.append([""])
        elif kind == "separate" and self.open:
            self.open[-1].append("shown")
        elif kind == "end" and self.open:
            ended = self.open.pop()
            if ended[0].strip().upper().startswith("TOC"):
                self.told.dropped("A table of contents was left out: the Outline makes it")

    @property
    def is_contents(self) -> bool:
        """Whether what is read now is the result of a table of contents."""
        return any(each and each[0].strip().upper().startswith("TOC") for each in self.open)

    @property
    def is_instruction(self) -> bool:
        """Whether what is read now is the instruction of a field, and nothing that is shown."""
        return bool(self.open) and len(self.open[-1]) == 1

    @property
    def shown(self) -> list[str]:
        """The instructions of the fields whose results are read now, if the innermost shows one."""
        if not self.open or len(self.open[-1]) < 2:
            return []
        return [each[0] for each in self.open if len(each) > 1]


def leads_to(instruction: str) -> tuple[str, str] | None:
    """The address and the place that a field of the sort HYPERLINK leads to; None for any other."""
    match = re.match(r'\s*HYPERLINK\s+(?:"([^"]*)")?(?:.*?\\l\s+"([^"]+)")?', instruction, re.IGNORECASE)
    return (match[1] or "", match[2] or "") if match else None
