"""Neighbouring links to the same place.

WCAG 2.2, 1.1.1, 2.4.4 and 2.4.9; technique H2, Combining adjacent image and text links for the same resource. (Pictures
are no links here; links side by side are what is left of it.)
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import MarkWords
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject, Words
from ..wording import said

RULE = CheckRule(
    id="link-neighbours",
    title="Neighbouring links to the same place",
    whom="Readers who go by key or by ear have to pass the same place twice.",
    source="WCAG 2.2, 2.4.4; technique H2",
    severity="look",
    means="Two links side by side that lead to the same place are one link with a gap. They mostly come about when a "
    "word is put between, or when a link is set twice.",
    right="Make them one link.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    by_path = {words.path: words for words in subject.words}
    for before, link in zip(subject.links, subject.links[1:], strict=False):
        if before.path != link.path or before.href != link.href or before.mark is None:
            continue
        words = by_path[link.path]
        if _between(words, before.end, link.start).strip(" \u00a0,;·|/–-") or not link.text.strip():
            continue
        one = MarkWords(link.path, before.start, link.end, "link", before.mark.attrs)
        yield RULE.finding(
            f"{said(before.text)} and {said(link.text)} are two links to the same place.",
            link.path,
            (before.start, link.end),
            Repair("Make them one link", (one,)),
        )


def _between(words: Words, start: int, end: int) -> str:
    if words.plain:
        return words.flat[start:end]
    return words.flat.encode("utf-16-le")[start * 2 : end * 2].decode("utf-16-le")
