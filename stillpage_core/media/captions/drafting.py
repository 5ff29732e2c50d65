"""Cues out of a plain transcript, and a transcript out of cues."""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from itertools import accumulate

from .cues import MOST_CUES, CaptionError, Cue, one_line, plain_text
from .wording import LONGEST_LINE, MOST_LINES, balanced

_SPEAKER = re.compile(r"([A-Z][\w.’'-]{0,30}(?: [\w.’'-]{1,30}){0,3}):\s+(?=\S)")
_PARAGRAPH_END = re.compile(r"\n[^\S\n]*\n\s*|\n(?=[A-Z][\w.’' -]{0,60}:\s)")
_SENTENCE_END = re.compile(r"(?<=[.!?…])[”’\"')]*\s+")
_CLAUSE_END = re.compile(r"(?<=[,;:–—])\s+")
PAUSE = 3_000
"""The silence, in milliseconds, after which a transcript begins a new paragraph."""
LONG = 500
"""How many letters a paragraph of a transcript has before it ends with the next sentence."""


def draft(transcript: str, *, length: int, loud: Sequence[tuple[int, int]] = ()) -> tuple[Cue, ...]:
    """Cues for a film of ``length`` milliseconds out of its words: split at sentences and clauses into what fits on two
    lines, and spread over the ``loud`` stretches (over the whole film where there are none) by their letters.

    A paragraph that begins with a name and a colon names its speaker; names stay until another comes.

    Raises:
        CaptionError: when there are no words, or too many for a film of this length.
    """
    pieces = list(_pieces(transcript))
    if not pieces:
        raise CaptionError("There are no words to make captions from.")
    if len(pieces) > MOST_CUES or len(pieces) > length:
        raise CaptionError("There are more words than a film of this length can hold.")
    stretches = [(begin, min(end, length)) for begin, end in loud if begin < length] or [(0, length)]
    whole = [0, *accumulate(end - begin for begin, end in stretches)]
    if whole[-1] < len(pieces):
        stretches, whole = [(0, length)], [0, length]
    letters = [0, *accumulate(len(text) for _, text in pieces)]
    cues = []
    for index, (speaker, text) in enumerate(pieces):
        first, last = (whole[-1] * letters[at] // letters[-1] for at in (index, index + 1))
        last = max(last, first + 1)
        begins = min(bisect_right(whole, first) - 1, len(stretches) - 1)
        ends = max(bisect_left(whole, last) - 1, begins)
        begin = stretches[begins][0] + first - whole[begins]
        end = stretches[ends][0] + last - whole[ends]
        cues.append(Cue(begin, end, "\n".join(balanced(text)), speaker))
    return tuple(cues)


def _pieces(transcript: str) -> Iterator[tuple[str, str]]:
    """What each cue says, after who says it."""
    speaker = ""
    for paragraph in re.split(
        r"\n\s*\n|\n(?=[A-Z][\w.’' -]{0,60}:\s)", transcript.replace("\r\n", "\n").replace("\r", "\n")
    ):
        text = one_line(plain_text(paragraph))
        if match := _SPEAKER.match(text):
            speaker, text = match[1], text[match.end() :]
        waiting = ""
        for part in _parts(text):
            lines_needed = len(balanced(f"{waiting} {part}"))
            if waiting and lines_needed > (1 if waiting[-1] in ".!?…”’)" else MOST_LINES):
                yield speaker, waiting
                waiting = part
            else:
                waiting = f"{waiting} {part}".strip()
        if waiting:
            yield speaker, waiting


def _parts(text: str) -> Iterator[str]:
    """A paragraph in sentences; long ones in clauses; long clauses in what fits on two lines."""
    for sentence in _SENTENCE_END.split(text):
        if len(balanced(sentence)) <= MOST_LINES:
            yield from [sentence] if sentence else []
            continue
        for clause in _CLAUSE_END.split(sentence):
            lines = balanced(clause, LONGEST_LINE)
            for start in range(0, len(lines), MOST_LINES):
                yield " ".join(lines[start : start + MOST_LINES])


def transcript(cues: Sequence[Cue]) -> list[str]:
    """The words of a film as paragraphs: a new one where the speaker changes, after a long silence, and with the first
    sentence after `LONG` letters. A paragraph begins with its speaker's name where that is new."""
    paragraphs: list[str] = []
    speaker, end = "", 0
    for cue in cues:
        words = cue.words
        if not words:
            continue
        turn = bool(cue.speaker) and cue.speaker != speaker
        full = paragraphs and len(paragraphs[-1]) > LONG and paragraphs[-1].endswith((".", "!", "?", "…", "”"))
        if turn or not paragraphs or full or cue.begin - end >= PAUSE:
            paragraphs.append(f"{cue.speaker}: {words}" if turn else words)
        else:
            paragraphs[-1] += f" {words}"
        speaker, end = cue.speaker or speaker, cue.end
    return paragraphs
