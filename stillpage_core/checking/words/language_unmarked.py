"""A paragraph that seems to be in another language than the page, and does not say so.

WCAG 2.2, 3.1.2 Language of Parts (AA); technique H58, Using language attributes to identify changes in the language.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import MarkWords
from ...languages import guess, name_of
from ..finding import Finding, Repair, Rule
from ..subject import Subject, Words
from ..wording import runs_bearing, said

RULE = Rule(
    id="language-unmarked",
    title="Words in another language that do not say so",
    whom="Readers with a screen reader: it reads them with the wrong voice, and nobody can understand them.",
    source="WCAG 2.2, 3.1.2; technique H58",
    severity="mend",
    means="A screen reader has a voice for each language and takes it by what the page says. Words in another language "
    "need to say so. Names and words that are at home in both need not.",
    right="Say which language it is.",
)


def check(subject: Subject) -> Iterator[Finding]:
    own = subject.around.language.split("-")[0].lower()
    for words in subject.words:
        if words.kind == "preformatted" or not words.flat.strip():
            continue
        code = guess(words.flat)
        if code is None or code == own or _is_told(words, code):
            continue
        size = words.size
        yield RULE.finding(
            f"{said(words.flat, 40)} seems to be {name_of(code)}, and does not say so.",
            words.path,
            None,
            *(
                [
                    Repair(
                        f"Say that it is {name_of(code)}", (MarkWords(words.path, 0, size, "language", {"code": code}),)
                    )
                ]
                if words.kind != "call_to_action"
                else []
            ),
        )


def _is_told(words: Words, code: str) -> bool:
    """Whether most of the words say that they are in the language, or at least in another than the page's."""
    told = sum(end - start for start, end, said_code in runs_bearing(words, "language") if said_code)
    return told * 2 >= len(words.flat)
