"""Spaces in rows, used to push words about, or to spread the letters of a word.

WCAG 2.2, 1.3.2 Meaningful Sequence (A); failures F32 (spaces within a word), F33 and F34 (columns and tables of
spaces).
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from ...splitting import words_of
from ..finding import CheckRule, Finding, Repair
from ..space import SPACES
from ..subject import Subject
from ..wording import is_among, runs_bearing, said

FEWEST = 4
"""From how many letters on a word is spread."""
_ROW = re.compile(f"[{SPACES}]{{2,}}")
_SPREAD = re.compile(rf"(?<!\w)(?<!\b\w[{SPACES}])\w(?:[{SPACES}]\w){{{FEWEST - 1},}}(?!\w)(?![{SPACES}]\w(?!\w))")

_CODE = frozenset("/\\|=<>{}$^")

RULE = CheckRule(
    id="spaces-in-rows",
    title="Spaces in rows",
    whom="Readers with a screen reader, who hear spread letters one by one; on another screen, what was pushed into "
    "place stands elsewhere.",
    source="WCAG 2.2, 1.3.2; failures F32, F33 and F34",
    severity="mend",
    means="Rows of spaces set words side by side on one screen only. What looks like columns is read straight across.",
    right="Leave one space. What belongs in rows and columns is a table.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        if words.kind == "preformatted":
            continue
        flat = words.flat
        if "  " in flat or not flat.isascii():
            code = list(runs_bearing(words, "code"))
            for match in _ROW.finditer(flat):
                if len(match[0]) == 2 and " " in match[0]:
                    continue  # Nobody sees or hears them: they show as one, or hardly wider.
                if is_among(code, *match.span()) or _is_pattern(flat, *match.span()):
                    continue
                ends = match.start() == 0 or match.end() == len(flat)
                edge = ends or flat[match.start() - 1] == "\n" or flat[match.end()] == "\n"
                yield RULE.finding(
                    f"{len(match[0])} spaces stand in a row here.",
                    words.path,
                    words.span(*match.span()),
                    Repair(
                        "Leave none" if edge else "Leave one", (words.replaced(*match.span(), "" if edge else " "),)
                    ),
                    about=flat[max(0, match.start() - 20) : match.end() + 20],
                )
        if not _may_be_spread(words_of(flat)):
            continue
        for match in _SPREAD.finditer(flat):
            letters = re.sub(f"[{SPACES}]", "", match[0])
            if letters.isalpha() and not _is_alphabet(letters):
                yield RULE.finding(
                    f"The letters of {said(match[0])} are spread by spaces.",
                    words.path,
                    words.span(*match.span()),
                    Repair(f"Write it as one word: “{letters}”", (words.replaced(*match.span(), letters),)),
                )


def _is_pattern(flat: str, start: int, end: int) -> bool:
    """Whether spaces stand right between the signs of code that is not marked as such, where they count."""
    return flat[max(0, start - 1) : start] in _CODE or flat[end : end + 1] in _CODE


def _is_alphabet(letters: str) -> bool:
    """Whether letters are a row of letters and no word: one after another as in the alphabet, each with a sign of its
    own, or without a vowel."""
    small = letters.casefold()
    marked = sum(not letter.isascii() for letter in small)
    vowels = sum(letter in "aeiouy" for letter in small)
    return list(small) == sorted(small) or marked * 2 > len(small) or (small.isascii() and not vowels)


def _may_be_spread(words: Sequence[str]) -> bool:
    """Whether single letters follow one another; far quicker than the pattern, which then looks closely."""
    return "\1" * FEWEST in "".join(map(chr, map(len, words)))
