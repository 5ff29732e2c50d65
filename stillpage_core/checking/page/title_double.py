"""A title that another page of the site has too.

WCAG 2.2, 2.4.2 Page Titled (A); technique G88; failure F25.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="title-double",
    title="A title that another page has too",
    whom="Readers who find both in a search or in a list of windows, and cannot tell which is which.",
    source="WCAG 2.2, 2.4.2; technique G88, failure F25",
    severity="mend",
    means="Two pages of the site have the same title. It mostly comes of a page that was made from another.",
    right="Say in each title what the other page is not.",
)


def check(subject: Subject) -> Iterator[Finding]:
    title = (subject.around.title or "").strip()
    other = subject.around.titles.get(title.casefold())
    if title and other:
        yield RULE.finding(f"The page {other} has the title {said(title)} too.", (), about=title)
