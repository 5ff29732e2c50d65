"""A page heavier than its site allows. Common practice; how heavy it may be is the site's choice."""

from __future__ import annotations

from collections.abc import Iterator

from ...media.labels import in_words
from ..finding import CheckRule, Finding
from ..subject import Subject

RULE = CheckRule(
    id="page-heavy",
    title="A heavy page",
    whom="Readers on a phone or a slow line, who wait for it, and pay for it.",
    source="Common practice",
    severity="look",
    means="All that most readers load for this page, its pictures, and what every page brings, is more than the site "
    "wants a page to weigh.",
    right="Show fewer pictures, or smaller ones. The heaviest are told by notes of their own.",
)


def check(subject: Subject) -> Iterator[Finding]:
    weight, budget = subject.around.weight, subject.around.budget
    if weight is not None and budget is not None and weight > budget:
        sentence = f"Most readers load {in_words(weight)} for this page; the site wants {in_words(budget)} at most."
        yield RULE.finding(sentence, (), about="weight")
