"""A page that asks for more schooling than its readers may have.

WCAG 2.2, 3.1.5 Reading Level (AAA); technique G153. The grade is that of Kincaid and others, “Derivation of new
readability formulas” (1975), after Flesch, “A new readability yardstick” (1948). English only.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...languages import guess
from ...readability import readability_of
from ..finding import CheckRule, Finding
from ..subject import Subject

MOST = 20
"""Years at school beyond which the formula counts on, and nobody goes."""
FEWEST = 100
"""From how many words on: of fewer, the formula says little."""

RULE = CheckRule(
    id="hard-to-read",
    title="A text that is hard to read",
    whom="Readers with little schooling or time, and those who have learned the language.",
    source="WCAG 2.2, 3.1.5; technique G153; Kincaid and others, 1975",
    severity="look",
    means="The grade is the number of years at school that a text asks for, reckoned from the length of its sentences "
    "and words. It knows nothing of sense, but long words in long sentences are hard for most. Only English is scored.",
    right="Shorten sentences, and take the short word where there is one.",
)


def _is_foreign(subject: Subject) -> bool:
    """Whether a good part of the words seems to be in another language than the page: the formula is not for those."""
    own = subject.around.language.split("-")[0].lower()
    blocks = [words.flat for words in subject.running]
    others = sum(len(flat) for flat in blocks if guess(flat) not in (None, own))
    return others * 4 > sum(map(len, blocks))


def check(subject: Subject) -> Iterator[Finding]:
    score = subject.around.readability or readability_of(subject.document, subject.around.language)
    if score and score.words >= FEWEST and score.grade > subject.around.hardest_grade and not _is_foreign(subject):
        years = f"{score.grade:.0f}" if score.grade < MOST else f"more than {MOST}"
        yield RULE.finding(
            f"This text asks for {years} years at school (reading ease {max(0, score.ease):.0f} of 100).",
            (),
            about="grade",
        )
