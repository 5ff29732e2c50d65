"""The names of styles that say in a word processor's file what its format has no element for. Readers know them again
when the file comes back (`reading.docx`, `reading.odt`)."""

from __future__ import annotations

import re
from collections.abc import Mapping

from ..document.node import Mark
from ..document.schema import SCHEMA

_WHOLE = "Preformatted whole"
_READ_WHOLE = re.compile(rf"{_WHOLE}(?: in (list \d|quotation|aside))?(?:: (.{{1,40}}))?", re.IGNORECASE)
_MARKS = {"abbreviation": ("Abbreviation", "expansion"), "tone": ("Tone", "name")}


def of_preformatted(language: str | None, within: str = "") -> str:
    """The style of preformatted text that is one paragraph. ``within`` tells what it is a part of: “list 1” (by its
    level), “quotation”, “aside”, or nothing."""
    return f"{_WHOLE}{f' in {within}' if within else ''}{f': {language}' if language else ''}"


def read_preformatted(name: str) -> tuple[str, str | None] | None:
    """What it is a part of, and its language, from the name of such a style; None for any other."""
    found = _READ_WHOLE.fullmatch(name)
    if found is None:
        return None
    language = found[2]
    problem = language and SCHEMA.nodes["preformatted"].attributes["language"].problem(language)
    return (found[1] or "").lower(), None if problem else language


PARAGRAPHS = {"Lead": "lead", "Small print": "small-print"}
"""Styles of paragraphs by their names, and the text styles that they are."""


def of_marks(marks: Mapping[str, Mapping[str, object]]) -> str | None:
    """The style of words that bear one of the marks which no format has: a tone, an abbreviation."""
    for kind, (word, attribute) in _MARKS.items():
        if kind in marks:
            return f"{word}: {marks[kind][attribute]}"
    return None


def read_mark(name: str) -> Mark | None:
    """The mark that the name of a style tells of; None for any other style."""
    word, colon, value = name.partition(": ")
    for kind, (own, attribute) in _MARKS.items():
        if colon and word.lower() == own.lower() and not SCHEMA.marks[kind].attributes[attribute].problem(value):
            return Mark(kind, {attribute: value})
    return None
