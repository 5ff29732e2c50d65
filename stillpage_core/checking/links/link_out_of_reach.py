"""A link to a page that not all readers of this one can see. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="link-out-of-reach",
    title="A link to a page that readers do not see",
    whom="Readers who follow it arrive nowhere; until it leads somewhere, they see the words without a link.",
    source="Common practice",
    severity="look",
    means="The page is there, but not for everybody who reads this one: it is not published, hidden, in the bin, or "
    "for signed-in readers only.",
    right="Publish that page first, or lead to another.",
)

_SAID = {
    "binned": "which waits in the bin.",
    "hidden": "which is hidden.",
    "signed in": "which only signed-in readers can read.",
}


def check(subject: Subject) -> Iterator[Finding]:
    for link in subject.leads:
        if link.reference is None or link.reference.kind != "page":
            continue
        page = subject.resolver.page(link.reference.number or 0)
        if page is None or (page.address is not None and page.reach == "open"):
            continue
        why = _SAID.get(page.reach, "which is not published.")
        yield RULE.finding(
            f"{said(link.text)} leads to “{page.title}”, {why}",
            link.path,
            link.span,
            about=f"{link.text} {link.href}",
        )
