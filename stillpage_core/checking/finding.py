"""What a check is, and what it returns."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Literal

from ..document.changes import Change
from ..errors import Path

if TYPE_CHECKING:
    from .subject import Subject

Severity = Literal["blocks", "mend", "look"]
"""``blocks``: the page may not be published so; ``mend``: it ought to be mended; ``look``: somebody should look."""

SEVERITIES: tuple[Severity, ...] = ("blocks", "mend", "look")


@dataclass(frozen=True)
class Repair:
    """A way to mend a finding: what it will do, as a label, and the changes that do it.

    Every path and position is one of the document that was checked, also where several changes are made.
    """

    label: str
    changes: tuple[Change, ...]


@dataclass(frozen=True)
class CheckRule:
    """What a check holds a page to.

    ``whom`` says whom a breach hurts, ``source`` where the rule comes from. ``means`` and ``right`` are its page of
    help: what is meant, and how to do it right; ``wrong_example`` and ``right_example`` show it in a few words.
    ``together`` tells that the first repairs of all its findings may be done at once, since none needs a thought.
    """

    id: str
    title: str
    whom: str
    source: str
    severity: Severity
    means: str
    right: str
    wrong_example: str = ""
    right_example: str = ""
    together: bool = False

    @property
    def guards_access(self) -> bool:
        """Whether it is there for people who would be shut out otherwise: its source is a criterion of WCAG."""
        return "WCAG" in self.source

    def finding(
        self,
        sentence: str,
        path: Path,
        span: tuple[int, int] | None = None,
        *repairs: Repair,
        about: str | None = None,
    ) -> Finding:
        """A breach of the rule at one place."""
        return Finding(self, sentence, self.severity, path, span, repairs, about)


@dataclass(frozen=True)
class Finding:
    """Something wrong at one place of a page.

    ``path`` leads to the node; it is empty where the page as a whole is meant. ``span`` are positions in the node (as
    in `document.walking`) where only some of its words are. ``about`` is what the finding is about, where that is not
    said by its place: a finding that somebody holds to be right as it is, is known again by it.
    """

    rule: CheckRule
    sentence: str
    severity: Severity
    path: Path
    span: tuple[int, int] | None = None
    repairs: tuple[Repair, ...] = ()
    about: str | None = None
    key: str = ""

    @property
    def check(self) -> str:
        """The id of the rule."""
        return self.rule.id


@dataclass(frozen=True)
class Check:
    """A check: the group it belongs to, its rule, and the function that finds breaches of it."""

    group: str
    rule: CheckRule
    run: Callable[[Subject], Iterator[Finding]]


def in_reading_order(findings: Sequence[Finding]) -> list[Finding]:
    """Findings sorted by their place, the page as a whole first; those of one place in the order they came."""
    return sorted(findings, key=lambda finding: (finding.path, finding.span or (-1, -1)))


def finding_json(finding: Finding, shows: Sequence[Sequence[str]] = ()) -> dict[str, Any]:
    """A finding as it goes out; ``shows`` is what each repair makes of the words."""
    rule = finding.rule
    return {
        "check": rule.id,
        "title": rule.title,
        "sentence": finding.sentence,
        "whom": rule.whom,
        "source": rule.source,
        "severity": finding.severity,
        "path": list(finding.path),
        "span": list(finding.span) if finding.span else None,
        "key": finding.key,
        "together": rule.together and bool(finding.repairs),
        "repairs": [
            {
                "label": repair.label,
                "changes": [change.to_json() for change in repair.changes],
                "shows": list(shows[index]) if index < len(shows) else [],
            }
            for index, repair in enumerate(finding.repairs)
        ],
    }
