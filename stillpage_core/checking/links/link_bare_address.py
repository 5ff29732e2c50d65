"""A link whose words are its address.

WCAG 2.2, 2.4.4 Link Purpose (In Context) (A); technique H30. A screen reader spells an address out. A mail address or
a telephone number may stand for itself.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said
from .hosts import is_address

RULE = CheckRule(
    id="link-bare-address",
    title="A link whose words are an address",
    whom="A screen reader spells an address out, letter by letter; nobody else gets the destination's name either.",
    source="WCAG 2.2, 2.4.4; technique H30",
    severity="mend",
    means="An address is made for machines. Read aloud it is a minute of letters and slashes, and on a phone it does "
    "not fit on a line.",
    right="Let the link say what is there. Where readers are meant to write the address down, as on paper, it may "
    "stand.",
    wrong_example="See https://canal.example/boating/licences/2026",
    right_example="See Boat licences for 2026",
)


def check(subject: Subject) -> Iterator[Finding]:
    for link in subject.links:
        words = link.text.strip()
        own = link.reference is not None and link.reference.kind in ("mail", "telephone")
        if own or not is_address(words):
            continue
        title = subject.title_of(link)
        if title == words:
            continue
        better = title if title and not is_address(title) else None
        yield RULE.finding(
            f"The words of this link are an address: {said(words, 80)}.",
            link.path,
            link.span,
            *([Repair(f"Let it say “{better}”", (link.saying(better),))] if better else []),
            about=f"{words} {link.href}",
        )
