"""A film elsewhere that its host does not have any more, or from where nothing is shown any more. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import hosted, taken_away

RULE = CheckRule(
    id="hosted-gone",
    title="A film elsewhere that its host does not show",
    whom="Readers, who would press and find nothing.",
    source="Common practice",
    severity="mend",
    means="A film that stands at another host was taken away there, or an administrator has taken the host from those "
    "that films may be shown from. Hosts are asked again every few days.",
    right="Look at the film at its host. Choose another one, or take this one away; its caption stays as text.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed, target in hosted(subject):
        repair = taken_away(subject, placed)
        if target.host is None:
            sentence = f"The film “{target.title}” is not shown here: nothing is shown from {target.provider} any more."
            yield RULE.finding(f"{sentence} Readers get a link.", placed.path, None, repair)
        elif target.gone:
            yield RULE.finding(f"The film “{target.title}”: {target.gone}", placed.path, None, repair)
