"""A paragraph that seems to be in another language than the page, and does not say so.

WCAG 2.2, 3.1.2 Language of Parts (AA); technique H58, Using language attributes to identify changes in the language.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ...document.changes import MarkWords
from ...languages import SMALL_WORDS, guess, name_of, written_in
from ..finding import CheckRule, Finding, Repair
from ..space import SPACES
from ..subject import Subject, Words
from ..wording import runs_bearing, said

_EMPTY_LINES = re.compile(rf"\n(?:[{SPACES}]*\n)+")

RULE = CheckRule(
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
        for start, end in _parts(words.flat):
            code = guess(words.flat[start:end])
            if code is None or code == own:
                continue
            first, last = start, end
            if code not in SMALL_WORDS and (within := written_in(code, words.flat[start:end])):
                # Before and behind them stand words of the page's own language, such as names.
                first, last = start + within[0], start + within[1]
            if _is_told(words, first, last):
                continue
            place = words.span(start, end)
            mark = MarkWords(words.path, *words.span(first, last), "language", {"code": code})
            yield RULE.finding(
                f"{said(words.flat[start:end], 40)} seems to be {name_of(code)}, and does not say so.",
                words.path,
                None if place == (0, words.size) else place,
                *([] if words.kind == "call_to_action" else [Repair(f"Say that it is {name_of(code)}", (mark,))]),
            )


def _parts(text: str) -> Iterator[tuple[int, int]]:
    """What stands between empty lines: to readers, paragraphs of their own."""
    start = 0
    for match in _EMPTY_LINES.finditer(text):
        if start < match.start():
            yield start, match.start()
        start = match.end()
    if start < len(text):
        yield start, len(text)


def _is_told(words: Words, start: int, end: int) -> bool:
    """Whether most of the words between two indexes say which language they are in."""
    runs = ((first, last) for first, last, code in runs_bearing(words, "language") if code)
    told = sum(max(0, min(last, end) - max(first, start)) for first, last in runs)
    return told * 2 >= end - start
