"""A link to an outside address that did not answer as it should when it was last tested. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="link-failed-outside",
    title="An outside address that failed its last test",
    whom="Readers who follow it and find nothing.",
    source="Common practice",
    severity="mend",
    means="Outside addresses are tested in the background, once in a while. This one answered that there is nothing, "
    "or did not answer several times in a row.",
    right="Open the link and see. Copy the address of the place anew, lead to another, or take the link away.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for link in subject.leads:
        if link.reference is None or link.reference.kind != "outside":
            continue
        if fault := subject.resolver.outside_fault(link.href):
            yield RULE.finding(
                f"{said(link.text)} leads to an address that failed its last test: {fault}",
                link.path,
                link.span,
                about=f"{link.text} {link.href}",
            )
