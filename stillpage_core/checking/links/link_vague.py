"""A link whose words say nothing of where it leads.

WCAG 2.2, 2.4.4 Link Purpose (In Context) (A) and 2.4.9 (AAA); failures F63 and F84; techniques G91 and H30.
The words themselves are common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import plain_words, said

VAGUE = frozenset(
    [
        "click",
        "click here",
        "click this",
        "click this link",
        "continue",
        "details",
        "download",
        "find out more",
        "follow this link",
        "go",
        "go here",
        "here",
        "info",
        "learn more",
        "link",
        "link to",
        "more",
        "more details",
        "more info",
        "more information",
        "page",
        "press here",
        "read more",
        "see here",
        "see more",
        "tap here",
        "this",
        "this link",
        "this page",
        "this website",
        "view",
        "visit",
        "website",
    ]
)
"""Words that name no destination. English; common practice."""

RULE = CheckRule(
    id="link-vague",
    title="A link that says nothing of where it leads",
    whom="Readers who go from link to link, by key or by ear, hear these words alone.",
    source="WCAG 2.2, 2.4.4; failures F63 and F84",
    severity="mend",
    means="A screen reader can list the links of a page, and many look a page over by its links. “Here” and “more” "
    "name nothing in such a list, and two of them look alike.",
    right="Let the link say what is behind it, best by the name of the page or document.",
    wrong_example="To apply for a licence, click here.",
    right_example="Apply with the boat licence form.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for link in subject.links:
        if not is_vague(link.text) or link.code:
            continue
        title = subject.title_of(link)
        if title and plain_words(title) == plain_words(link.text):
            continue
        better = title if title and not is_vague(title) else None
        yield RULE.finding(
            f"This link says only {said(link.text)}.",
            link.path,
            link.span,
            *([Repair(f"Let it say “{better}”", (link.saying(better),))] if better else []),
            about=f"{link.text} {link.href}",
        )


def is_vague(words: str) -> bool:
    """Whether the words of a link name no destination."""
    return plain_words(words) in VAGUE
