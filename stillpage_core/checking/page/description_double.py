"""A description that another page of the site has too. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject

RULE = CheckRule(
    id="description-double",
    title="A description that another page has too",
    whom="Readers who search, and find two results that say the same.",
    source="Common practice",
    severity="look",
    means="Two pages of the site have the same description. It mostly comes of a page that was made from another.",
    right="Say what readers find on this page.",
)


def check(subject: Subject) -> Iterator[Finding]:
    description = (subject.around.description or "").strip()
    other = subject.around.descriptions.get(description.casefold())
    if description and other:
        yield RULE.finding(f"The page {other} has the same description.", (), about=description)
