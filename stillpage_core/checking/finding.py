"""What a check returns."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ..document.changes import Change
from ..document.node import Node
from ..errors import Path
from ..resolving import Resolver

Severity = Literal["blocks", "mend", "look"]
"""``blocks``: the page may not be published so; ``mend``: it ought to be mended; ``look``: somebody should look."""


@dataclass(frozen=True)
class Repair:
    """A way to mend a finding: what it will do, as a label, and the changes that do it."""

    label: str
    changes: tuple[Change, ...]

    def to_json(self) -> dict[str, Any]:
        return {"label": self.label, "changes": [change.to_json() for change in self.changes]}


@dataclass(frozen=True)
class Finding:
    """Something wrong at one place of a document.

    ``path`` leads to the node; ``span`` are positions in it (as in `document.walking`) where only some of its words
    are meant. ``sentence`` says what is wrong, ``whom`` whom it hurts, ``source`` where the rule comes from.
    """

    check: str
    sentence: str
    whom: str
    source: str
    severity: Severity
    path: Path
    span: tuple[int, int] | None = None
    repairs: tuple[Repair, ...] = ()

    def to_json(self) -> dict[str, Any]:
        return {
            "check": self.check,
            "sentence": self.sentence,
            "whom": self.whom,
            "source": self.source,
            "severity": self.severity,
            "path": list(self.path),
            "span": list(self.span) if self.span else None,
            "repairs": [repair.to_json() for repair in self.repairs],
        }


Check = Callable[[Node, Resolver], Iterator[Finding]]


def in_reading_order(findings: Sequence[Finding]) -> list[Finding]:
    """Findings sorted by their place; those of one place in the order they came."""
    return sorted(findings, key=lambda finding: (finding.path, finding.span or (-1, -1)))
