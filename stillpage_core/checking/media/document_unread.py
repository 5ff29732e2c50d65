"""A PDF that holds pictures of words and no words, or opens with a password alone.

WCAG 2.2, 1.1.1 Non-text Content (A) and 1.4.5 Images of Text (AA); technique PDF7.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .items import documents_wanting

RULE = CheckRule(
    id="document-unread",
    title="A document without words, or locked",
    whom="Readers who listen to it, enlarge it or search in it; with a password, everybody.",
    source="WCAG 2.2, 1.1.1 and 1.4.5; technique PDF7",
    severity="mend",
    means="The pages of this PDF are pictures, as from a scanner: a screen reader finds nothing on them. Or it opens "
    "only with a password, which readers do not have.",
    right="Put the document it was printed from in its place, or have its text recognised (OCR) and replace the file "
    "in the media library. Save it without a password.",
)


def check(subject: Subject) -> Iterator[Finding]:
    sentences = {
        "words": "“{}” holds no text; it may be a scan.",
        "password": "“{}” opens only with a password.",
    }
    for document, (path, span) in documents_wanting(subject, *sentences):
        said = sentences[document.wanting[0]].format(document.title)
        yield RULE.finding(said, path, span, about=f"{document.number}")
