"""What inline style declarations say of the meaning of words: that they are bold, hidden, an item of a list.

Paint (colours, fonts, spacing) is not looked at. Declarations as in CSS Syntax Level 3; those that begin with ``mso-``
are what word processors put on the clipboard.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from ...document.node import Mark

_DECLARATION = re.compile(r"\s*([a-zA-Z-]+)\s*:\s*((?:\"[^\"]*\"|'[^']*'|[^;\"'])*)")
_BLOCKS = re.compile(r"block|flex|grid|flow-root|list-item|table(?:-row|-caption)?")


@dataclass(frozen=True)
class Meaning:
    """What a style says. ``marks`` are set or taken off; ``block`` is None where nothing is said of it. ``lines``:
    line ends in the text are line ends; ``side_by_side``: what stands in it is set as boxes."""

    marks: Mapping[str, bool]
    hidden: bool = False
    block: bool | None = None
    preformatted: bool = False
    lines: bool = False
    side_by_side: bool = False
    item: tuple[str, int] | None = None
    ignored: bool = False
    note: bool = False
    paint: bool = False


NOTHING = Meaning({})


@lru_cache(maxsize=4096)
def meaning_of(style: str) -> Meaning:
    """Read the ``style`` attribute of an element."""
    declared = {
        name.lower(): value.strip().lower().removesuffix("!important").rstrip()
        for name, value in _DECLARATION.findall(style)
    }
    marks: dict[str, bool] = {}
    if weight := declared.get("font-weight") or declared.get("mso-bidi-font-weight" if "font" in declared else ""):
        marks["strong"] = weight in ("bold", "bolder") or (weight.isdigit() and int(weight) >= 600)
    if slant := declared.get("font-style"):
        marks["emphasis"] = slant.startswith(("italic", "oblique"))
    if line := declared.get("text-decoration") or declared.get("text-decoration-line"):
        marks["underline"] = "underline" in line
        marks["strike"] = "line-through" in line
    if raised := declared.get("vertical-align"):
        marks["superscript"] = raised == "super"
        marks["subscript"] = raised == "sub"
    display = declared.get("display", "")
    item = re.match(r"l(\d+)\s+level(\d+)(?:\s+lfo(\d+))?", declared.get("mso-list", ""))
    family = declared.get("font-family", "")
    return Meaning(
        marks,
        hidden=display == "none"
        or declared.get("visibility") == "hidden"
        or declared.get("mso-hide") == "all"
        or declared.get("mso-element") in ("comment", "comment-list", "header", "footer"),
        block=None if not display else bool(_BLOCKS.fullmatch(display)),
        preformatted=declared.get("white-space", "").startswith("pre")
        and bool(re.search(r"mono|courier|consolas|menlo", family)),
        lines=declared.get("white-space", "") in ("pre", "pre-wrap", "pre-line", "break-spaces"),
        side_by_side=display in ("flex", "grid", "inline-flex", "inline-grid"),
        item=(f"{item[1]} {item[3]}", int(item[2]) - 1) if item else None,
        ignored=declared.get("mso-list") == "ignore",
        note=declared.get("mso-element") in ("footnote", "endnote"),
        paint=any(not name.startswith("mso-") for name in declared if name != "display"),
    )


_RULE = re.compile(r"([^{}]+)\{([^{}]*)\}")
_TELLING = re.compile(r"font-weight|font-style|text-decoration|vertical-align|display|visibility|mso-|white-space")


def class_styles(sheet: str) -> dict[str, str]:
    """Of a style sheet: class → what its plain rules (``.name`` and ``tag.name``) declare, where that has a meaning.

    Programs that write HTML keep what is bold and what is hidden in such rules.
    """
    found: dict[str, str] = {}
    bare = re.sub(r"/\*.*?\*/|<!--|-->", "", sheet, flags=re.DOTALL)
    for selectors, declarations in _RULE.findall(bare):
        if not _TELLING.search(declarations):
            continue
        for selector in selectors.split(","):
            if match := re.fullmatch(r"\s*(?:span|p|div|b|i|li|td|th|a)?\.([\w-]+)\s*", selector):
                found[match[1]] = f"{found.get(match[1], '')};{declarations.replace('!important', '')}"
    return found


_MARKS = {kind: Mark(kind) for kind in ("strong", "emphasis", "underline", "strike", "superscript", "subscript")}


def restyled(marks: tuple[Mark, ...], said: Mapping[str, bool]) -> tuple[Mark, ...]:
    """Marks with those that a style sets, and without those that it takes off."""
    for kind, wanted in said.items():
        has = any(mark.kind == kind for mark in marks)
        if wanted and not has:
            marks = (*marks, _MARKS[kind])
        elif has and not wanted:
            marks = tuple(mark for mark in marks if mark.kind != kind)
    return marks
