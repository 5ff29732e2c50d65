"""Words in a language whose tag nobody knows, on the page or in a part.

WCAG 2.2, 3.1.1 Language of Page (A) and 3.1.2 Language of Parts (AA); techniques H57 and H58; BCP 47 and the IANA
registry of its subtags.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import MarkWords
from ...languages import is_tag
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import runs_bearing, said

RULE = CheckRule(
    id="language-unknown",
    title="A language that nobody knows",
    whom="Readers with a screen reader, which cannot choose a voice by it.",
    source="WCAG 2.2, 3.1.1 and 3.1.2; techniques H57 and H58",
    severity="mend",
    means="Languages are named by tags such as “fr” or “cy”. This one is in no register.",
    right="Choose the language from the list.",
)


def check(subject: Subject) -> Iterator[Finding]:
    if not is_tag(subject.around.language):
        yield RULE.finding(f"The language of this site, “{subject.around.language}”, is in no register.", ())
    for words in subject.words:
        for start, end, code in runs_bearing(words, "language"):
            if code and not is_tag(code):
                span = words.span(start, end)
                yield RULE.finding(
                    f"The language of {said(words.flat[start:end])}, “{code}”, is in no register.",
                    words.path,
                    span,
                    Repair("Leave the language of the page", (MarkWords(words.path, *span, "language"),)),
                )
