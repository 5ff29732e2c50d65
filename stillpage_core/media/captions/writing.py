"""Captions going out: WebVTT (W3C, https://www.w3.org/TR/webvtt1/) and SubRip (SRT, which nobody has standardised)."""

from __future__ import annotations

import re
from collections.abc import Sequence

from .cues import Cue

_ENTITY = re.compile(r"&(?=#?\w+;)")
_TAG = re.compile(r"<(?=/?[a-zA-Z])")
_OVERRIDE = re.compile(r"\{(?=\\)")


def clock(moment: int, point: str) -> str:
    """A time as both formats write it: 00:01:02.345; ``point`` stands before the milliseconds."""
    seconds, thousandths = divmod(moment, 1000)
    minutes, seconds = divmod(seconds, 60)
    hours, minutes = divmod(minutes, 60)
    return f"{hours:02}:{minutes:02}:{seconds:02}{point}{thousandths:03}"


def write_webvtt(cues: Sequence[Cue], *, language: str = "") -> str:
    """The captions as WebVTT; `read_captions` gives equal cues. ``language`` (BCP 47) stands in the file's head."""
    head = ["WEBVTT", *([f"Language: {language}"] if language else [])]
    blocks = ["\n".join(head)]
    for cue in cues:
        times = f"{clock(cue.begin, '.')} --> {clock(cue.end, '.')}"
        text = _escaped(cue.text)
        if cue.speaker:
            text = f"<v {_escaped(cue.speaker)}>{text}</v>"
        blocks.append("\n".join(filter(None, (cue.name, f"{times} {cue.settings}".rstrip(), text))))
    return "\n\n".join(blocks) + "\n"


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")


def write_srt(cues: Sequence[Cue]) -> str:
    """The captions as SRT; who speaks stands before the words, since the format has no other place for it.

    Signs are written as they are, which players show; only what they, or we, would take for a mark is escaped.
    """
    blocks = []
    for number, cue in enumerate(cues, start=1):
        text = _ENTITY.sub("&amp;", cue.spoken)
        text = _OVERRIDE.sub("&#123;", _TAG.sub("&lt;", text)).replace("-->", "--&gt;")
        blocks.append(f"{number}\n{clock(cue.begin, ',')} --> {clock(cue.end, ',')}\n{text}\n")
    return "\n".join(blocks)
