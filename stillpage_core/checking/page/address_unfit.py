"""An address that cannot well be read out, written down or kept. Common practice."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject

LONGEST = 75
"""The most characters that an address within a site should have."""

RULE = CheckRule(
    id="address-unfit",
    title="An address that says little, or is too long",
    whom="Readers who are told it on the telephone, read it on paper, or see it in a search result.",
    source="Common practice",
    severity="look",
    means="An address is read out, written down and printed. It should say what is there, and be short.",
    right="Take two or three words of the title. A changed address leads on from the old one.",
    wrong_example="/visit/new-page-2",
    right_example="/visit/towpath-walks",
)

_SAYS_LITTLE = re.compile(r"(?:new-page|untitled|page|copy|copy-of-.+|.+-copy|test|draft)(?:-\d+)?|\d+")


def check(subject: Subject) -> Iterator[Finding]:
    path = subject.around.path
    if not path or path == "/":
        return
    last = path.rstrip("/").rpartition("/")[2]
    if len(path) > LONGEST:
        yield RULE.finding(f"The address is {len(path)} characters long.", (), about=path)
    elif _SAYS_LITTLE.fullmatch(last):
        yield RULE.finding(f"The end of the address, “{last}”, does not say what is there.", (), about=path)
