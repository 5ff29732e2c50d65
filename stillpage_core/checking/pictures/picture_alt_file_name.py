"""An alt text that is the name of a file.

WCAG 2.2, 1.1.1 Non-text Content (A); failure F30, text alternatives that are not alternatives.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ...document.changes import SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said
from .shown import pictures

_ENDING = re.compile(r"\S+\.(?:jpe?g|png|gif|webp|avif|svg|tiff?|bmp|heic)", re.IGNORECASE)
_NUMBERED = re.compile(
    r"(?:img|image|dsc[nf]?|pict?|picture|photo|scan|screenshot|screen shot|bild|p|figure|fig|graphic|spacer|untitled)"
    r"[\s_.-]*\d[\d\s_.-]*|\d[\d_.-]*",
    re.IGNORECASE,
)
_NOTHING = frozenset("spacer image picture photo graphic untitled photograph img blank alt".split())

RULE = CheckRule(
    id="picture-alt-file-name",
    title="An alt text that is the name of a file",
    whom="Readers with a screen reader hear letters and figures in the picture's place.",
    source="WCAG 2.2, 1.1.1; failure F30",
    severity="mend",
    means="“IMG_0412.jpg” or “picture 3” names a file, not what is to be seen.",
    right="Say what the picture is there to tell.",
    wrong_example="IMG_20260412_0081.jpg",
    right_example="The trip boat in its winter berth",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        if use.decorative or not use.alt or not is_file_name(use.alt):
            continue
        better = use.target.alt.strip()
        repairs = []
        if use.own and better and not is_file_name(better):
            repairs.append(Repair(f"Take the library's: “{better}”", (SetAttributes(use.path, {"alt": None}),)))
        what = "says nothing" if use.alt.casefold() in _NOTHING else "is the name of a file"
        yield RULE.finding(f"The alt text {said(use.alt)} {what}.", use.path, None, *repairs)


def is_file_name(alt: str) -> bool:
    """Whether an alt text names a file rather than what is to be seen."""
    return bool(_ENDING.fullmatch(alt) or _NUMBERED.fullmatch(alt)) or alt.casefold() in _NOTHING
