"""Rules about when cues are shown.

Figures: the BBC's subtitle guidelines (version 1.2) ask for 160 to 180 words a minute; the Captioning Key of the
Described and Captioned Media Program for 1.33 s at least. Both are given from memory, as common practice.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from .cues import Cue
from .notes import CaptionNote, Film, Mended

FASTEST = 180
"""The most words a minute."""
SHORTEST = 1_000
"""The shortest a cue may be shown, in milliseconds, where there is room for more."""
TWO_FRAMES = 80
"""Of a film of 25 pictures a second, in milliseconds: a shorter gap is seen as a flicker."""
SILENT = 1_500
"""For how many milliseconds something may be heard without a cue."""


def seconds(moment: int) -> str:
    """A length of time in words: “1.3 s”."""
    return f"{moment / 1000:.1f} s".replace(".0 s", " s")


def _room_after(cues: Sequence[Cue], index: int, film: Film) -> int:
    """Until when a cue may be shown without touching the next."""
    if index + 1 < len(cues):
        return cues[index + 1].begin
    return film.length if film.length is not None else cues[index].end + 3_000


def in_order(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """Cues stand in the order in which they are shown."""
    ordered = tuple(sorted(cues, key=lambda cue: cue.begin))
    repair = Mended("Put all cues in order", 0, len(cues) - 1, ordered)
    for index in range(1, len(cues)):
        if cues[index].begin < cues[index - 1].begin:
            sentence = "This cue begins before the one above it."
            yield CaptionNote("order", sentence, index, cues[index].begin, repair=repair)


def shown_at_all(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """A cue ends after it begins, and before the film does."""
    for index, cue in enumerate(cues):
        if cue.end <= cue.begin:
            needed = max(SHORTEST, time_to_read(cue))
            room = _room_after(cues, index, film)
            end = min(cue.begin + needed, room) if room > cue.begin else cue.begin + needed
            repair = Mended(f"Show it for {seconds(end - cue.begin)}", index, index, (replace(cue, end=end),))
            yield CaptionNote(
                "no-time", "This cue ends before it begins: nobody sees it.", index, cue.begin, repair=repair
            )
        elif film.length is not None and cue.end > film.length:
            if cue.begin >= film.length:
                yield CaptionNote("after-end", "This cue begins after the end of the film.", index, cue.begin)
            else:
                repair = Mended("End it with the film", index, index, (replace(cue, end=film.length),))
                yield CaptionNote(
                    "after-end", "This cue goes on after the end of the film.", index, cue.end, "look", repair
                )


def one_after_another(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """Cues neither overlap nor flicker."""
    for index in range(len(cues) - 1):
        cue, following = cues[index], cues[index + 1]
        gap = following.begin - cue.end
        touching = replace(cue, end=following.begin)
        if gap < 0 and following.begin > cue.begin:
            both = seconds(max(0, min(cue.end, following.end) - following.begin))
            sentence = f"This cue and the next are both shown for {both}."
            repair = Mended("End it where the next begins", index, index, (touching,))
            yield CaptionNote("overlap", sentence, index, following.begin, repair=repair)
        elif gap < 0 and following.begin == cue.begin:
            yield CaptionNote("overlap", "This cue and the next begin together.", index, cue.begin)
        elif 0 < gap < TWO_FRAMES:
            repair = Mended("Close the gap", index, index, (touching,))
            yield CaptionNote("flicker", "Between this cue and the next is a flicker.", index, cue.end, "look", repair)


def time_to_read(cue: Cue) -> int:
    """How many milliseconds it takes to read a cue at the fastest."""
    words = len(cue.words.split())
    return round(words * 60_000 / FASTEST)


def slow_enough(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """A cue is shown for as long as it takes to read it."""
    for index, cue in enumerate(cues):
        if cue.lasts <= 0:
            continue
        needed = max(time_to_read(cue), SHORTEST)
        if cue.lasts >= needed:
            continue
        if cue.lasts < SHORTEST and time_to_read(cue) <= cue.lasts:
            sentence, rule = f"This cue is shown for {seconds(cue.lasts)} only: it is gone before it is seen.", "short"
        else:
            speed = round(len(cue.words.split()) * 60_000 / cue.lasts)
            sentence, rule = f"{speed:,} words a minute are too fast to read; {FASTEST} are the most.", "fast"
        end = min(cue.begin + needed, _room_after(cues, index, film))
        longer = replace(cue, end=end)
        repair = Mended(f"Show it for {seconds(longer.lasts)}", index, index, (longer,))
        yield CaptionNote(rule, sentence, index, cue.begin, "look", repair if end - cue.begin >= needed else None)


def all_covered(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """Whatever is loud has a cue."""
    shown = sorted((cue.begin, cue.end) for cue in cues if cue.end > cue.begin)
    ordered = sorted((cue.begin, index) for index, cue in enumerate(cues))
    position = place = 0
    for begin, end in film.loud:
        moment = begin
        while position < len(shown) and shown[position][1] <= moment:
            position += 1
        look = position
        while moment < end:
            until = shown[look][0] if look < len(shown) else end
            if min(until, end) - moment >= SILENT:
                while place < len(ordered) and ordered[place][0] < moment:
                    place += 1
                before = ordered[place][1] if place < len(ordered) else len(cues)
                sentence = f"Something is heard for {seconds(min(until, end) - moment)} that no cue tells."
                yield CaptionNote("uncovered", sentence, before, moment, "look")
            if look >= len(shown):
                break
            moment = max(moment, shown[look][1])
            look += 1


RULES = (in_order, shown_at_all, one_after_another, slow_enough, all_covered)
