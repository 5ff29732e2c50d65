"""A film or sound whose title is the name of its file, or none.

WCAG 2.2, 4.1.2 Name, Role, Value (A): a player's name is what it is chosen by; technique ARIA6.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import played

RULE = CheckRule(
    id="film-untitled",
    title="A film or sound without a title",
    whom="Readers who hear the page: the player is announced by its title.",
    source="WCAG 2.2, 4.1.2; technique ARIA6",
    severity="mend",
    means="The title of the item is empty, or what a camera or a phone has called the file.",
    right="Give the item a title in the media library that says what is seen or heard.",
)
_FILE = re.compile(
    r"(?:(?:img|vid|mov|mvi|dsc|pxl|gopr|audio|video|recording|rec|clip|film|sound)[ _-]*)?[\d _.:-]{3,}"
    r"|.*\.(?:mp4|mov|webm|ogv|ogg|mp3|m4a|wav|flac|mkv|avi)",
    re.IGNORECASE,
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in played(subject):
        title = use.target.title.strip()
        if not title or _FILE.fullmatch(title):
            what = f"is called “{title}”, which is the name of a file" if title else "has no title"
            yield RULE.finding(f"A {use.target.kind} {what}.", use.path, None, about=f"{use.target.number}")
