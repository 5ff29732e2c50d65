"""A film elsewhere of which nobody has said that it has captions.

WCAG 2.2, 1.2.2 Captions (Prerecorded) (A); technique G87.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import hosted

RULE = CheckRule(
    id="hosted-uncaptioned",
    title="A film elsewhere whose captions nobody has seen",
    whom="Readers who do not hear what is said, or who have the sound off.",
    source="WCAG 2.2, 1.2.2; technique G87",
    severity="look",
    means="Whether a film at another host has captions can be seen there only. Drafts that a machine has made are "
    "captions once somebody has corrected them.",
    right="Play the film at its host and look. If it has captions, say so in its particulars; if it has none, ask "
    "whoever keeps it there, or show a film of your own with captions.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed, target in hosted(subject):
        if target.host is not None and not target.gone and not target.captioned:
            sentence = f"Nobody has said that the film “{target.title}” has captions at {target.host.name}."
            yield RULE.finding(sentence, placed.path, None, about=f"{target.number}")
