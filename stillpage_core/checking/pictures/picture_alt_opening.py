"""An alt text that begins by saying that it is a picture. Common practice; WCAG 2.2, 1.1.1, technique H37."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ...document.changes import SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said
from .picture_alt_file_name import is_file_name
from .shown import pictures

OPENING = re.compile(
    r"^(?:an?\s+|the\s+|this\s+is\s+an?\s+)?(?:picture|image|photo|photograph|graphic|pic|snapshot)\s+"
    r"(?:of|showing|shows|depicting)\s+(?=\w)",
    re.IGNORECASE,
)
"""“A picture of”, and what is like it, at the beginning of an alt text; what follows is a word."""

RULE = CheckRule(
    id="picture-alt-opening",
    title="An alt text that says that it is a picture",
    whom="Readers with a screen reader, which says “graphic” before every alt text.",
    source="Common practice; technique H37",
    severity="mend",
    means="“Picture of” is heard twice, and tells nothing. What sort of picture it is may be told where it matters, as "
    "of a map or a painting.",
    right="Begin with what is to be seen.",
    wrong_example="Picture of the closed lock gates",
    right_example="The closed lock gates",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        match = OPENING.match(use.alt)
        if use.decorative or not match:
            continue
        rest = use.alt[match.end() :]
        better = rest[0].upper() + rest[1:]
        repair = Repair(f"Let it say {said(better)}", (SetAttributes(use.path, {"alt": better}),))
        good = not OPENING.match(better) and not is_file_name(better)
        yield RULE.finding(
            f"The alt text begins with “{match[0].strip()}”.", use.path, None, *([repair] if good else [])
        )
