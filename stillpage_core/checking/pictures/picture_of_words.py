"""A picture of words, where the item says that it is one.

WCAG 2.2, 1.4.5 Images of Text (AA); techniques C30 and G140; and 1.1.1, which asks that the alt text holds the words.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .shown import pictures

RULE = CheckRule(
    id="picture-of-words",
    title="Words in a picture",
    whom="Readers who enlarge words, change their colours, or have them read or translated: in a picture none of that "
    "works.",
    source="WCAG 2.2, 1.4.5 and 1.1.1; techniques C30 and G140",
    severity="look",
    means="The media library says of this picture that it holds words that matter.",
    right="Write the words on the page, and show the picture without them, or let the alt text hold them all. A logo "
    "and a picture of an old sign are right as they are.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        if use.target.words and not use.node.attrs["decorative"]:
            yield RULE.finding(f"The picture “{use.target.title}” holds words.", use.path)
