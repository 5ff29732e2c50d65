"""An alt text that only repeats the caption or the words beside the picture.

WCAG 2.2, 1.1.1; technique H2 (the same words twice) and axe-core's rule of the same sense for links. Common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetAttributes
from ...document.walking import text_of
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import plain_words
from .picture_alt_opening import OPENING
from .shown import Use, pictures

RULE = CheckRule(
    id="picture-alt-twice",
    title="An alt text that is heard twice",
    whom="Readers with a screen reader, who hear the same words twice and learn nothing of the picture.",
    source="Common practice; WCAG 2.2, 1.1.1, technique H2",
    severity="mend",
    means="The alt text says just what the caption or the words beside the picture say.",
    right="Say in the alt text what is to be seen, and in the caption what is to be known. If the words beside it say "
    "all, mark the picture as decoration.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        alt = plain_words(OPENING.sub("", use.alt, count=1))
        if use.decorative or not alt:
            continue
        if alt == plain_words(use.caption):
            what = "its caption"
        elif alt in _beside(use, subject):
            what = "the words beside the picture"
        else:
            continue
        pass_over = Repair("Let screen readers pass over the picture", (SetAttributes(use.path, {"decorative": True}),))
        yield RULE.finding(
            f"The alt text says just what {what} say.".replace("caption say", "caption says"), use.path, None, pass_over
        )


def _beside(use: Use, subject: Subject) -> set[str]:
    """What stands right before and right behind a picture."""
    parent = subject.at(use.path[:-1])
    index = use.path[-1]
    beside = [*parent.content[max(0, index - 1) : index], *parent.content[index + 1 : index + 2]]
    return {plain_words(text_of(block)) for block in beside if block.kind in ("paragraph", "heading")}
