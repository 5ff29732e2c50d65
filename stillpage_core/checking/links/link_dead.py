"""A link to something that is gone: a page, an item, or a heading that no longer stands there.

WCAG 2.2, 2.4.4 Link Purpose (A), asks that a link's purpose can be told; that it leads somewhere is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import Change, MarkWords, SetAttributes
from ..finding import CheckRule, Finding, Repair
from ..subject import Link, Subject
from ..wording import said

RULE = CheckRule(
    id="link-dead",
    title="A link to something that is gone",
    whom="Readers who follow it arrive nowhere; until it leads somewhere, they see the words without a link.",
    source="Common practice",
    severity="mend",
    means="The page, the item or the heading that the link named is no longer there. A link to a page or an item holds "
    "when it is moved or renamed, so it has been removed for good, or the link came from elsewhere.",
    right="Choose another destination, or take the link away; its words stay.",
)


BY_ATTRIBUTE = ("slide", "further")
"""The kinds whose link is an attribute of theirs that may be none."""


def check(subject: Subject) -> Iterator[Finding]:
    for link in subject.leads:
        if fault := _fault(link, subject):
            away = [Repair("Take the link away", (_taken(link, subject),))]
            yield RULE.finding(
                f"{said(link.text or 'The call to action')} {fault}",
                link.path,
                link.span,
                *(away if link.mark or subject.at(link.path).kind in BY_ATTRIBUTE else []),
                about=f"{link.text} {link.href}",
            )


def _taken(link: Link, subject: Subject) -> Change:
    if subject.at(link.path).kind in BY_ATTRIBUTE:
        return SetAttributes(link.path, {"href": None})
    return MarkWords(link.path, link.start, link.end, "link")


def _fault(link: Link, subject: Subject) -> str | None:
    reference = link.reference
    if reference is None:
        return "leads to an address that cannot be used."
    if reference.kind == "heading":
        known = reference.fragment in subject.anchors
        return None if known else f"leads to “{reference.fragment}”, and no heading of this page is that."
    if reference.kind == "item":
        return None if subject.resolver.item(reference.number or 0) else "leads to an item that is gone."
    if reference.kind != "page":
        return None
    page = subject.resolver.page(reference.number or 0)
    if page is None:
        return "leads to a page that is gone."
    if page.address and reference.fragment and page.anchors is not None and reference.fragment not in page.anchors:
        return f"leads to a heading of “{page.title}” that is no longer there."
    return None
