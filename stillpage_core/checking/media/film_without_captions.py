"""A film with something to hear and no captions.

WCAG 2.2, 1.2.2 Captions (Prerecorded) (A); technique G87. Of a sound alone: 1.2.1 (A), technique G158.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import played

RULE = CheckRule(
    id="film-without-captions",
    title="A film without captions",
    whom="Readers who do not hear what is said, or who have the sound off.",
    source="WCAG 2.2, 1.2.2; technique G87",
    severity="mend",
    means="What is said in a film, and what is heard besides and matters, stands in captions at the time it is heard.",
    right="Open the captions of the film and write them, or bring in a file of captions. Then give them to readers.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in played(subject):
        if use.target.kind != "film" or not use.target.heard or not use.target.playable or use.captions:
            continue
        if use.target.unfinished:
            sentence = f"{use.named} has captions that readers have not been given yet."
        else:
            sentence = f"{use.named} has sound and no captions."
        yield RULE.finding(sentence, use.path)
