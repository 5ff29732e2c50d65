"""An item for signed-in readers only. Common practice: what a page shows must be there for whoever may read it."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .items import out_of_reach

RULE = CheckRule(
    id="item-signed-in",
    title="An item for signed-in readers only",
    whom="Readers without an account, who do not get it.",
    source="Common practice",
    severity="look",
    means="The item is restricted in the media library. Whoever is not signed in is asked to sign in; of a picture "
    "they get the alt text only.",
    right="Say beside it whom it is for, or take something that everybody may have.",
)


def check(subject: Subject) -> Iterator[Finding]:
    sentence = "{} is for signed-in readers only; everybody else is asked to sign in."
    return out_of_reach(subject, RULE, "signed in", sentence)
