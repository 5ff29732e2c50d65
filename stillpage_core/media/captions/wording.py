"""Rules about what cues say.

Figures: the BBC's subtitle guidelines (version 1.2) ask for two lines at most, of about 37 letters; others for up to
42. Given from memory, as common practice.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import accumulate

from ...checking.wording import in_capitals, sentence_case
from .cues import Cue
from .notes import CaptionNote, Film, Mended

LONGEST_LINE = 42
MOST_LINES = 2
_ENDS = re.compile(r"[.!?…:;,♪)\]—–-][”’\"']*$|[♪)\]]$")
_SOUND = re.compile(r"^[\[(♪].*[\])♪]$", re.S)
_DASH = re.compile(r"^[-–—]\s*(?=\w)")
_NAMED = re.compile(r"^[A-Z][\w .’'-]{0,40}:\s")
_CLAUSE = re.compile(r"[.!?…,;:][”’\"')]?$")


def balanced(words: str, most: int = LONGEST_LINE) -> list[str]:
    """Words on as few lines of at most ``most`` letters as they need, each about as long as the others; a line ends
    after a sign where that costs little. A single word that is longer stands on a line of its own."""
    every = words.split()
    if not every:
        return []
    needed = len(_greedy(every, most))
    ends = list(accumulate(len(word) + 1 for word in every))
    lines: list[str] = []
    start = 0
    for left in range(needed, 0, -1):
        if left == 1 and ends[-1] - (ends[start - 1] if start else 0) - 1 <= most:
            lines.append(" ".join(every[start:]))
            start = len(every)
            break
        before = ends[start - 1] if start else 0
        ideal = before + (ends[-1] - before) / left
        fits = [at for at in range(start, min(start + most, len(every))) if ends[at] - before - 1 <= most] or [start]
        cut = min(fits, key=lambda at: abs(ends[at] - ideal) - (6 if _CLAUSE.search(every[at]) else 0))
        lines.append(" ".join(every[start : cut + 1]))
        start = cut + 1
        if start == len(every):
            break
    return [*lines, *_greedy(every[start:], most)]


def _greedy(words: Sequence[str], most: int) -> list[str]:
    lines: list[str] = []
    for word in words:
        if lines and len(lines[-1]) + 1 + len(word) <= most:
            lines[-1] += f" {word}"
        else:
            lines.append(word)
    return lines


def parted(cue: Cue, words: Sequence[str]) -> tuple[Cue, ...]:
    """A cue as several, one for each of ``words``; the time goes to each by the letters that it has."""
    total = sum(map(len, words)) or 1
    marks = [0, *accumulate(map(len, words))]
    times = [cue.begin + cue.lasts * mark // total for mark in marks]
    times[-1] = cue.end
    made = []
    for index, each in enumerate(words):
        name = cue.name if index == 0 else ""
        made.append(replace(cue, begin=times[index], end=times[index + 1], text=each, name=name))
    return tuple(made)


def short_lines(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """At most two lines, none longer than fits on the picture."""
    for index, cue in enumerate(cues):
        lines = cue.lines
        longest = max(map(len, lines))
        if len(lines) <= MOST_LINES and longest <= LONGEST_LINE:
            continue
        said = f"{len(lines)} lines hide much of the picture"
        if len(lines) <= MOST_LINES:
            said = f"A line of {longest} letters is too long"
        sentence = f"{said}; {MOST_LINES} lines of {LONGEST_LINE} letters are the most."
        yield CaptionNote("lines", sentence, index, cue.begin, repair=_fitted(cue, index))


def _fitted(cue: Cue, index: int) -> Mended | None:
    lines = balanced(cue.words)
    if any(len(line) > LONGEST_LINE for line in lines) or any(_DASH.match(line) for line in cue.lines):
        return None
    if len(lines) <= MOST_LINES:
        return Mended("Break the lines anew", index, index, (replace(cue, text="\n".join(lines)),))
    pieces = ["\n".join(lines[start : start + MOST_LINES]) for start in range(0, len(lines), MOST_LINES)]
    if cue.lasts < len(pieces):
        return None
    return Mended(f"Make {len(pieces)} cues of it", index, index, parted(cue, pieces))


def punctuated(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """A sentence ends with a sign: where the next cue begins with a capital, or nothing follows."""
    for index, cue in enumerate(cues):
        last = cue.words
        if not last or _ENDS.search(last) or _SOUND.match(last):
            continue
        if index + 1 < len(cues):
            following = cues[index + 1].words.lstrip("-–— “‘\"'")
            if not following[:1].isupper() or re.match(r"I\b", following):
                continue
        elif not last[-1].isalnum():
            continue
        repair = Mended("End it with a full stop", index, index, (replace(cue, text=f"{cue.text}."),))
        sentence = "The sentence ends without a sign: whoever reads cannot hear that it has ended."
        yield CaptionNote("punctuation", sentence, index, cue.end, "look", repair)


def not_in_capitals(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """Words stand in small letters, which are read faster."""
    for index, cue in enumerate(cues):
        if _SOUND.match(cue.words) or not in_capitals(cue.text, least=8) or " " not in cue.words:
            continue
        before = cues[index - 1].words if index else "."
        begins = bool(re.search(r"[.!?…][”’\"')]*$", before))
        text = sentence_case(cue.text, begins=begins)
        repair = Mended("Write it in small letters", index, index, (replace(cue, text=text),))
        sentence = "Capitals throughout are read more slowly, and feel shouted. Names need theirs again afterwards."
        yield CaptionNote("capitals", sentence, index, cue.begin, repair=repair)


def speakers_named(cues: Sequence[Cue], film: Film) -> Iterator[CaptionNote]:
    """Where the speaker changes, it is said who speaks."""
    for index, cue in enumerate(cues):
        if not cue.speaker and any(_DASH.match(line) and not _NAMED.match(_DASH.sub("", line)) for line in cue.lines):
            sentence = "The speaker changes here, and nothing says who it is."
            yield CaptionNote("speaker", sentence, index, cue.begin, "look")


RULES = (short_lines, punctuated, not_in_capitals, speakers_named)
