"""A whole paragraph that is strong. Common practice: so much bold stresses nothing."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import MarkWords
from ...reading.mending import SPACES, is_all
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said

FEWEST = 80
"""From how many characters on."""

RULE = CheckRule(
    id="strong-throughout",
    title="A whole paragraph in bold",
    whom="Everybody: where all is loud, nothing stands out; long bold text is tiring to read.",
    source="Common practice",
    severity="look",
    means="Strong words are there to be found at a glance. A paragraph of them hides what matters.",
    right="Keep strong for the few words that must not be missed. A warning is better an aside.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.running:
        sentence = len(words.flat) >= FEWEST and words.flat.rstrip(SPACES)[-1] in ".!?…"
        if sentence and "table" not in words.within and is_all(words.node, "strong"):
            away = MarkWords(words.path, 0, words.size, "strong")
            yield RULE.finding(
                f"The whole paragraph {said(words.flat, 40)} is strong.",
                words.path,
                None,
                Repair("Make it plain", (away,)),
            )
