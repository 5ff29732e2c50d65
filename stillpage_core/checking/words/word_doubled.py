"""The same word twice in a row. Common practice."""

from __future__ import annotations

import re
from collections.abc import Iterator
from operator import eq

from ...document.node import Mark
from ...languages import SMALL_WORDS, guess
from ...splitting import SHORT_FORMS, words_of
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject, Words
from ..wording import is_among, runs_bearing, said

_TWICE = re.compile(r"\b(?<![’'\-.])([^\W\d_]{2,}+)[ \u00a0]++\1(?![\w’'\-])", re.IGNORECASE)
_RIGHT = {
    "en": frozenset(
        "had that so very much really bye no ha there now well hear again far long blah is do her etc".split()
    ),
    "fr": frozenset("nous vous si très tout ah oh non oui bien".split()),
    "de": frozenset("die der das den dem sie so sehr ja nein ganz was dass".split()),
    "nl": frozenset("die dat zijn heel zo ja nee had".split()),
    "es": frozenset("no sí ya muy casi".split()),
    "it": frozenset("così quasi ben via piano no sì".split()),
    "cy": frozenset("iawn".split()),
}
"""Words that are rightly doubled, by language. Of other languages too little is known here to say anything; many
double words as a matter of grammar."""

_PARTICLES = frozenset("in on up out off over".split())
_PHRASAL = re.compile(r"\b(?:log|sign|check|tun|turn|fill|mov|carr|go|com|step|tap|typ|cli)\w{0,5}$", re.IGNORECASE)
"""Verbs that take such a word with them."""
_CODE = frozenset("/\\|=<>{}$^_#@")

RULE = CheckRule(
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


def _is_meant(flat: str, match: re.Match[str], second: str) -> bool:
    """Whether a word seems to stand there twice on purpose: as a name, as a name before a noun, in a row of three, as
    the end of one verb and the beginning of what follows (“logging in in another window”), or as code."""
    first = match[1]
    start, end = match.span()
    before = flat[:start].rstrip(" \u00a0")
    begins = not before or (before[-1] in ".!?:\n" and before.split()[-1][:-1].casefold() not in SHORT_FORMS)
    small = first.casefold() in SMALL_WORDS["en"]
    name = first[0].isupper() and not first.isupper() and (second[0].isupper() or not (begins or small))
    third = flat[end:].lstrip(" \u00a0")[: len(first)], before[-len(first) :]
    row = any(each.casefold() == first.casefold() for each in third)
    verb = first.casefold() in _PARTICLES and _PHRASAL.search(before[-12:]) is not None
    glued = flat[max(0, start - 1) : start] in _CODE
    return name or row or verb or glued


def _is_marked_off(words: Words, index: int) -> bool:
    """Whether the marks change at an index."""
    at = 0
    before: tuple[Mark, ...] | None = None
    for child in words.node.content:
        if at >= index:
            return before != child.marks
        at += len(child.text) if child.kind == "text" else 1
        before = child.marks
    return False


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
            if first.casefold() in right or _is_meant(words.flat, match, second):
                continue
            if second[0].isupper() and first.islower() and _is_marked_off(words, match.end(1)):
                continue  # A name, or the sort of something, before the sentence on it.
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
