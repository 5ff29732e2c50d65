"""Several words in capitals within running text. Common practice."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import in_capitals, recased, said

FEWEST = 3
"""From how many words in a row on."""
_PAIR = re.compile(r"[A-Z][A-Z]")
_ROW = re.compile(r"\b[^\W\d_a-z][^\Wa-z]*+(?!\w)(?:[ \u00a0,;:’'\-–&]++[^\W\d_a-z][^\Wa-z]*+(?!\w))+")

RULE = CheckRule(
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


def _rows(flat: str) -> Iterator[tuple[int, int]]:
    """Where several words in capitals stand in a row. Rows with no small letter between them are one."""
    found: tuple[int, int] | None = None
    for match in _ROW.finditer(flat):
        several = [word for word in re.split(r"[\W_]+", match[0]) if len(word) > 1]
        if len(several) < FEWEST or not in_capitals(match[0], 10) or _is_row_of_names(match[0]):
            continue
        if found and _is_of_capitals(flat[found[1] : match.start()]):
            found = found[0], match.end()
            continue
        if found:
            yield found
        found = match.span()
    if found:
        yield found


def _is_row_of_names(row: str) -> bool:
    """Whether words stand one by one between commas: short forms, or the names of values."""
    parts = [part.split() for part in re.split("[,;]", row) if part.strip()]
    return len(parts) > 1 and all(len(part) == 1 for part in parts)


def _is_of_capitals(between: str) -> bool:
    return between == between.upper() and "\n" not in between


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        if words.kind in ("heading", "preformatted") or (words.flat.isascii() and not _PAIR.search(words.flat)):
            continue
        for start, end in _rows(words.flat):
            before = words.flat[:start].rstrip()
            begins = not before or before[-1] in ".!?:…"
            changes = recased(words, start, end, begins=begins)
            yield RULE.finding(
                f"{said(words.flat[start:end], 40)} is in capitals.",
                words.path,
                words.span(start, end),
                *([Repair("Write it small; then give names their capitals back", changes)] if changes else []),
            )
