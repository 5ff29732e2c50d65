"""The same word twice in a row. Common practice."""

from __future__ import annotations

import re
from collections.abc import Iterator
from operator import eq

from ...languages import guess
from ...splitting import words_of
from ..finding import Finding, Repair, Rule
from ..subject import Subject, Words
from ..wording import is_among, runs_bearing, said

_TWICE = re.compile(r"\b(?<![’'\-.])([^\W\d_]{2,}+)[ \u00a0]++\1(?![\w’'\-])", re.IGNORECASE)
_RIGHT = {
    "en": frozenset("had that so very much really bye no ha there now well hear again far long blah is do her".split()),
    "fr": frozenset("nous vous si très tout ah oh non oui bien".split()),
    "de": frozenset("die der das den dem sie so sehr ja nein ganz was dass".split()),
    "nl": frozenset("die dat zijn heel zo ja nee had".split()),
    "es": frozenset("no sí ya muy casi".split()),
    "it": frozenset("così quasi ben via piano no sì".split()),
    "cy": frozenset("iawn".split()),
}
"""Words that are rightly doubled, by language. Of other languages too little is known here to say anything; many
double words as a matter of grammar."""

RULE = Rule(
    id="word-doubled",
    title="A word twice in a row",
    whom="Everybody: the eye slips over it, a voice does not.",
    source="Common practice",
    severity="look",
    means="A word was typed twice, or left behind when a sentence was changed.",
    right="Leave one of them. Some words are doubled on purpose.",
)


def _language_of(words: Words, subject: Subject) -> str:
    """What the words seem to be in, or what the page says where they are too few to tell."""
    return guess(words.flat) or subject.around.language.split("-")[0].lower()


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        every = words_of(words.flat)
        if words.kind == "preformatted" or not any(map(eq, every, every[1:])):
            continue  # Far quicker than the pattern, which looks closely.
        apart = [list(runs_bearing(words, mark)) for mark in ("code", "language")]
        right = _RIGHT.get(_language_of(words, subject))
        if right is None:
            continue
        for match in _TWICE.finditer(words.flat):
            first, second = match[1], words.flat[match.end() - len(match[1]) : match.end()]
            name = first[0].isupper() and second[0].isupper() and not first.isupper()
            if name or first.casefold() in right:
                continue
            if any(is_among(runs, *match.span()) for runs in apart):
                continue  # Code, or of a language of its own.
            gone = (match.end(1), match.end())
            yield RULE.finding(
                f"{said(match[0])}: the word stands here twice.",
                words.path,
                words.span(*match.span()),
                Repair(f"Leave one “{first}”", (words.replaced(*gone, ""),)),
                about=words.flat[max(0, match.start() - 20) : match.end() + 20],
            )
