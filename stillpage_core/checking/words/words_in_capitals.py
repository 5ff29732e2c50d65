"""Several words in capitals within running text. Common practice."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..finding import Finding, Repair, Rule
from ..subject import Subject
from ..wording import in_capitals, recased, said

FEWEST = 3
"""From how many words in a row on."""
_PAIR = re.compile(r"[A-Z][A-Z]")
_ROW = re.compile(r"\b[^\W\d_a-z][^\Wa-z]*+(?!\w)(?:[ \u00a0,;:’'\-–&]++[^\W\d_a-z][^\Wa-z]*+(?!\w))+")

RULE = Rule(
    id="words-in-capitals",
    title="Words in capitals",
    whom="Readers who read slowly or see little: words in capitals all have the same shape. Some screen readers spell "
    "them out.",
    source="Common practice",
    severity="look",
    means="Capitals are read more slowly, and feel shouted. A short form, such as VCT, is right.",
    right="Write the words small. What matters can be strong.",
    wrong_example="DO NOT OPEN BOTH GATES",
    right_example="**Do not open both gates**",
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        if words.kind in ("heading", "preformatted") or (words.flat.isascii() and not _PAIR.search(words.flat)):
            continue
        for match in _ROW.finditer(words.flat):
            several = [word for word in re.split(r"[\W_]+", match[0]) if len(word) > 1]
            if len(several) < FEWEST or not in_capitals(match[0], 10):
                continue
            before = words.flat[: match.start()].rstrip()
            begins = not before or before[-1] in ".!?:…"
            changes = recased(words, *match.span(), begins=begins)
            yield RULE.finding(
                f"{said(match[0], 40)} is in capitals.",
                words.path,
                words.span(*match.span()),
                *([Repair("Write it small; then give names their capitals back", changes)] if changes else []),
            )
