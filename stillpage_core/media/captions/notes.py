"""What is found out about captions: a sentence, where it is, and what mends it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from .cues import Cue

Severity = Literal["mend", "look"]


@dataclass(frozen=True)
class Mended:
    """A repair: what it is called, and the cues from ``first`` to ``last`` (both included) as they are after it."""

    label: str
    first: int
    last: int
    cues: tuple[Cue, ...]

    def applied(self, cues: Sequence[Cue]) -> tuple[Cue, ...]:
        """All cues after the repair."""
        return (*cues[: self.first], *self.cues, *cues[self.last + 1 :])


@dataclass(frozen=True)
class CaptionNote:
    """One finding. ``cue`` is the index of the cue that it is about; of a stretch without any, that before which a cue
    would stand. ``at`` is the moment it is about, in milliseconds."""

    rule: str
    sentence: str
    cue: int
    at: int
    severity: Severity = "mend"
    repair: Mended | None = None


@dataclass(frozen=True)
class Film:
    """What is known of the film: its length (None: not known), and the stretches in which it is loud; milliseconds."""

    length: int | None = None
    loud: Sequence[tuple[int, int]] = ()


Rule = Callable[[Sequence[Cue], Film], "Iterable[CaptionNote]"]
