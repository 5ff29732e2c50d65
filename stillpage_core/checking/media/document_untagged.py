"""A PDF without tags, or that does not say its language or its title.

WCAG 2.2, 1.3.1 Info and Relationships (A), 3.1.1 Language of Page (A), 2.4.2 Page Titled (A); techniques PDF9, PDF16
and PDF18.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .items import documents_wanting

RULE = CheckRule(
    id="document-untagged",
    title="A document that is hard to listen to",
    whom="Readers who listen to it.",
    source="WCAG 2.2, 1.3.1, 3.1.1 and 2.4.2; techniques PDF9, PDF16 and PDF18",
    severity="look",
    means="A PDF tells what is a heading, a list or a table by its tags, and in which voice to read it by its "
    "language. This one lacks what is named here.",
    right="Save it anew from the word processor, as a tagged (accessible) PDF with language and title, and replace the "
    "file in the media library; or put its words on a page.",
)
_NAMES = {"tags": "tags", "language": "a language", "title": "a title of its own"}


def check(subject: Subject) -> Iterator[Finding]:
    for document, (path, span) in documents_wanting(subject, *_NAMES):
        missing = [_NAMES[each] for each in document.wanting]
        named = " and ".join(filter(None, (", ".join(missing[:-1]), missing[-1])))
        yield RULE.finding(f"“{document.title}” is a PDF without {named}.", path, span, about=f"{document.number}")
