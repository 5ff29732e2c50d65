"""Where a film is loud: somebody speaks, or anything else is heard that a caption should tell."""

from __future__ import annotations

from collections.abc import Sequence

STEP = 50
"""Milliseconds to which one level is given."""
QUIETEST = -90.0
"""What silence is taken for, in dB of full scale."""
ABOVE = 12.0
"""By how many dB something is louder than the ground it stands on."""
_LEAST, _BRIDGED = 300, 400


def loud_stretches(levels: Sequence[float], step: int = STEP) -> list[tuple[int, int]]:
    """The stretches, in milliseconds, that are loud.

    ``levels`` is the loudness of each ``step`` milliseconds in dB of full scale (root of the mean square). What is at
    least 12 dB above the ground is loud, the ground being the level that a fifth of the film is below, and nothing
    under -50 dB is. Pauses of less than 0.4 s are bridged, as between words; what lasts less than 0.3 s is left out.
    """
    if not levels:
        return []
    ordered = sorted(max(QUIETEST, level) for level in levels)
    ground = ordered[len(ordered) // 5]
    peak = ordered[len(ordered) * 98 // 100]
    # A film that is loud throughout has no ground to stand above.
    least = max(-50.0, min(ground + ABOVE, peak - ABOVE / 2))
    found: list[list[int]] = []
    for index, level in enumerate(levels):
        if level < least:
            continue
        begin = index * step
        if found and begin - found[-1][1] < _BRIDGED:
            found[-1][1] = begin + step
        else:
            found.append([begin, begin + step])
    return [(begin, end) for begin, end in found if end - begin >= _LEAST]
