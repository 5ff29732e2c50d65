"""A page without a description. Common practice: search results show it below the title."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetFact
from ...sites.search_result import DESCRIPTION_LENGTH
from ...splitting import sentences
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
    id="description-missing",
    title="A page without a description",
    whom="Readers who search: what they see below the title is chosen by a machine.",
    source="Common practice",
    severity="look",
    means="Search results and shared links show a sentence or two below the title. Without a description, they take "
    "any words of the page.",
    right="Say in one or two sentences what readers will find.",
)


def check(subject: Subject) -> Iterator[Finding]:
    around = subject.around
    if around.description is None or around.description.strip():
        return
    offered = _first_sentences(subject)
    known = offered.casefold() in around.descriptions
    repairs = [Repair("Take the first words of the text", (SetFact("description", offered),))]
    yield RULE.finding(
        "The page has no description.", (), None, *(repairs if offered and not known else []), about="description"
    )


def _first_sentences(subject: Subject) -> str:
    """As many whole sentences of the first paragraph of running text as are shown."""
    for words in subject.running:
        flat = words.flat
        if "\ufffc" in flat or len(flat) < 40 or words.within != ("doc", "region"):
            continue
        taken = ""
        for start, end in sentences(flat):
            whole = " ".join(f"{taken} {flat[start:end]}".split())
            if len(whole) > DESCRIPTION_LENGTH:
                break
            taken = whole
        return taken
    return ""
