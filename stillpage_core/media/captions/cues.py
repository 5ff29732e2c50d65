"""A cue: words that are shown for a while."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ...errors import CoreError

LONGEST_CUE = 2_000
"""The most characters a cue may have. What a viewer can read at once has under a hundred."""
MOST_CUES = 20_000
"""The most cues of one film; an hour of talk has about 1,200."""
LATEST = 100 * 3_600_000
"""The latest time, in milliseconds: a hundred hours."""

_BLANK = re.compile(r"[^\S\n]+")
_UNSEEN = re.compile("[\x00-\x09\x0b-\x1f\x7f-\x9f\ud800-\udfff\u2028\u2029]")


class CaptionError(CoreError):
    """Captions cannot be used; the sentence says where and why."""

    name = "no-captions"
    title = "These captions cannot be used"


@dataclass(frozen=True)
class Cue:
    """Words that are shown from ``begin`` to ``end`` (milliseconds from the film's start).

    ``text`` has a line for each line that is shown, none of them empty. ``speaker`` is who speaks, "" where that is not
    said. ``name`` and ``settings`` are the identifier and the settings of WebVTT (where on the picture it stands), as
    they came.
    """

    begin: int
    end: int
    text: str
    speaker: str = ""
    name: str = ""
    settings: str = ""

    @property
    def lasts(self) -> int:
        """For how many milliseconds it is shown."""
        return self.end - self.begin

    @property
    def lines(self) -> list[str]:
        """The lines that are shown."""
        return self.text.split("\n")

    @property
    def words(self) -> str:
        """Its words on one line."""
        return " ".join(self.text.split())

    @property
    def spoken(self) -> str:
        """Its words, after the name of who says them where that is known."""
        return f"{self.speaker}: {self.text}" if self.speaker else self.text


def plain_text(text: str) -> str:
    """Text as a cue has it: no blank at the ends of lines, no empty line, no sign that cannot be seen."""
    text = _UNSEEN.sub(" ", text.replace("\r\n", "\n").replace("\r", "\n").replace("\t", " "))
    lines = (_BLANK.sub(" ", line).strip() for line in text.split("\n"))
    return "\n".join(line for line in lines if line)


def one_line(text: str) -> str:
    """The same, on one line."""
    return plain_text(text).replace("\n", " ")
