"""The names of styles that say in a word processor's file what its format has no element for. Readers know them again
when the file comes back (`reading.docx`, `reading.odt`)."""

from __future__ import annotations

import re
from collections.abc import Mapping

from ..document.node import Mark
from ..document.schema import SCHEMA, is_region
from ..kinds.picture import STANDING

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


_REGION = "Region "


def of_region(name: str) -> str:
    """What a part of a word processor's text is called that is a region of the page other than main."""
    return _REGION + name


def read_region(said: str | None) -> str | None:
    """The region that a part of the text is called after; None for any other name."""
    name = (said or "").removeprefix(_REGION)
    return name if name != said and is_region(name) else None


_IN_LINE = {"centre": "in the middle", "end": "at the end"}
_VARIANT = re.compile(r"(.+?)(?: in (quotation|aside))?(?:, (in the middle|at the end))?", re.IGNORECASE | re.DOTALL)


def of_variant(name: str, within: str = "", align: str | None = None) -> str:
    """The style of paragraphs as a style has them that stand elsewhere in their line, or that are part of a list
    within a quotation or an aside."""
    return f"{name}{f' in {within}' if within else ''}{f', {_IN_LINE[align]}' if align else ''}"


def read_variant(name: str) -> tuple[str, str, str | None]:
    """The style that such a style is a variant of, what it is within ("" where nothing is), and where it stands."""
    found = None if name.startswith(_WHOLE) else _VARIANT.fullmatch(name)
    if found is None:
        return name, "", None
    said = (found[3] or "").lower()
    return found[1], (found[2] or "").lower(), next((align for align, shown in _IN_LINE.items() if shown == said), None)


_CALL = "Call to action: "


def of_call(emphasis: str) -> str:
    """The style of a call to action."""
    return f"{_CALL}{emphasis}"


def read_call(name: str) -> str | None:
    """The emphasis of a call to action, from the name of such a style; None for any other."""
    value = name[len(_CALL) :]
    is_call = name.startswith(_CALL) and not SCHEMA.nodes["call_to_action"].attributes["emphasis"].problem(value)
    return value if is_call else None


_PICTURE = "Picture: "


def of_picture(attrs: Mapping[str, object]) -> str | None:
    """The style of the paragraph that holds a picture which stands in a way of its own; None for any other."""
    said = [f"{name} {attrs[name]}" for name in STANDING if attrs[name] is not None]
    return _PICTURE + ", ".join(said) if said else None


def read_picture(name: str) -> dict[str, object]:
    """How a picture stands, from the name of such a style."""
    kinds = SCHEMA.nodes["picture"].attributes
    found: dict[str, object] = {}
    for said in name[len(_PICTURE) :].split(", ") if name.startswith(_PICTURE) else ():
        key, _, written = said.partition(" ")
        value: object = int(written) if re.fullmatch(r"\d{1,5}", written) else written
        if key in STANDING and kinds[key].problem(value) is None:
            found[key] = value
    return found


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
