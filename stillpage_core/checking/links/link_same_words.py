"""Links with the same words that lead to different places.

WCAG 2.2, 2.4.9 Link Purpose (Link Only) (AAA); technique G91. Advised for everybody who lists the links of a page.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Link, Subject
from ..wording import plain_words, said
from .link_vague import is_vague

RULE = CheckRule(
    id="link-same-words",
    title="The same words lead to different places",
    whom="Readers who go from link to link cannot tell the two apart.",
    source="WCAG 2.2, 2.4.9; technique G91",
    severity="mend",
    means="In a list of links the two look and sound alike, and readers who followed one believe that they know the "
    "other.",
    right="Say in each what the other is not: “Boat licence form”, “Boat licence prices”.",
)


def check(subject: Subject) -> Iterator[Finding]:
    by_words: dict[str, Link] = {}
    for link in subject.links:
        words = plain_words(link.text)
        if not words or is_vague(link.text):
            continue
        other = by_words.setdefault(words, link)
        if link.href != other.href:
            yield RULE.finding(
                f"{said(link.text)} leads to {_place(link, subject)} here, and to {_place(other, subject)} further up.",
                link.path,
                link.span,
                about=f"{words} {link.href} {other.href}",
            )


def _place(link: Link, subject: Subject) -> str:
    title = subject.title_of(link)
    return f"“{title}”" if title else link.href
