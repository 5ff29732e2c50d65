"""All rules over a list of cues."""

from __future__ import annotations

from collections.abc import Sequence

from . import times, wording
from .cues import Cue
from .notes import CaptionNote, Film, Rule

RULES: tuple[Rule, ...] = (*times.RULES, *wording.RULES)


def check_captions(
    cues: Sequence[Cue], *, length: int | None = None, loud: Sequence[tuple[int, int]] = ()
) -> list[CaptionNote]:
    """What is wrong with the captions of a film, in the order in which it is shown.

    ``length`` of the film and the stretches in which it is ``loud`` (sorted, apart from one another) in milliseconds;
    what needs them is not checked without.
    """
    film = Film(length, loud)
    return sorted((note for rule in RULES for note in rule(cues, film)), key=lambda note: (note.at, note.cue))


def mend_all(cues: Sequence[Cue], *, length: int | None = None) -> tuple[Cue, ...]:
    """The cues after every repair: each rule in turn, from the last cue to the first, so that what stands before keeps
    its place."""
    film = Film(length)
    made = tuple(cues)
    for rule in RULES:
        notes = [note for note in rule(made, film) if note.repair]
        if rule == times.in_order:
            notes = notes[:1]
        pieces = list(made)
        for note in reversed(notes):
            if note.repair:
                pieces[note.repair.first : note.repair.last + 1] = note.repair.cues
        made = tuple(pieces)
    return made
