"""A picture that is marked as decorative and has an alt text for this page all the same.

WCAG 2.2, 1.1.1; technique H67; failures F38 and F39.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said
from .shown import pictures

RULE = CheckRule(
    id="picture-decorative-worded",
    title="A decoration that has an alt text",
    whom="Readers with a screen reader: what was written for them is not read out.",
    source="WCAG 2.2, 1.1.1; technique H67, failure F39",
    severity="look",
    means="The picture is marked as decoration, so its alt text is left out. Either it tells something, or the alt "
    "text is not needed.",
    right="If it tells something, take the mark of decoration away. If not, leave the alt text out.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        own = (use.node.attrs["alt"] or "").strip()
        if not use.node.attrs["decorative"] or not own:
            continue
        away = Repair("It is decoration: leave the alt text out", (SetAttributes(use.path, {"alt": None}),))
        yield RULE.finding(
            f"The picture is marked as decoration, so its alt text {said(own, 40)} is not read out.",
            use.path,
            None,
            away,
        )
