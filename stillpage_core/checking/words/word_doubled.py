"""The same word twice in a row. Common practice."""

from __future__ import annotations

import re
from collections.abc import Iterator
from operator import eq

from ...splitting import words_of
from ..finding import Finding, Repair, Rule
from ..subject import Subject
from ..wording import said

_TWICE = re.compile(r"\b(?<![’'\-.])([^\W\d_]{2,}+)[ \u00a0\n]++\1(?![\w’'\-])", re.IGNORECASE)
_RIGHT = frozenset("had that so very much really bye no ha there now well hear again far long blah".split())
"""Words that are doubled on purpose."""

RULE = Rule(
    id="word-doubled",
    title="A word twice in a row",
    whom="Everybody: the eye slips over it, a voice does not.",
    source="Common practice",
    severity="look",
    means="A word was typed twice, or left behind when a sentence was changed.",
    right="Leave one of them. Some words are doubled on purpose.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        every = words_of(words.flat)
        if words.kind == "preformatted" or not any(map(eq, every, every[1:])):
            continue  # Far quicker than the pattern, which looks closely.
        for match in _TWICE.finditer(words.flat):
            first, second = match[1], words.flat[match.end() - len(match[1]) : match.end()]
            name = first[0].isupper() and second[0].isupper() and not first.isupper()
            if name or first.casefold() in _RIGHT:
                continue
            gone = (match.end(1), match.end())
            yield RULE.finding(
                f"{said(match[0])}: the word stands here twice.",
                words.path,
                words.span(*match.span()),
                Repair(f"Leave one “{first}”", (words.replaced(*gone, ""),)),
                about=words.flat[max(0, match.start() - 20) : match.end() + 20],
            )
