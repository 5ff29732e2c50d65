"""An item that waits in the bin of the media library. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .items import out_of_reach

RULE = CheckRule(
    id="item-binned",
    title="An item that waits in the bin",
    whom="Readers, once the item is removed for good.",
    source="Common practice",
    severity="mend",
    means="Somebody has put the picture or document into the bin of the media library. It is still shown, until the "
    "bin is emptied.",
    right="Take it back from the bin, or take something else.",
)


def check(subject: Subject) -> Iterator[Finding]:
    sentence = "{} waits in the bin of the media library. Take it back from there, or take something else."
    return out_of_reach(subject, RULE, "binned", sentence)
