"""An item whose folder is kept to other sites. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .items import out_of_reach

RULE = CheckRule(
    id="item-elsewhere",
    title="An item that is kept to other sites",
    whom="Those for whose sake it is kept there.",
    source="Common practice",
    severity="blocks",
    means="The folder of this item in the media library is kept to sites among which this one is not.",
    right="Take something else, or ask the library keeper.",
)


def check(subject: Subject) -> Iterator[Finding]:
    return out_of_reach(subject, RULE, "elsewhere", "{} is kept to other sites by its folder in the media library.")
