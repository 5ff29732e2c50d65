"""Captions of films: cues, how they come in and go out, what is wrong with them, and how they are drafted.

- `cues`: a cue, and lists of them
- `reading`, `writing`: WebVTT and SubRip (SRT)
- `notes`: what one finding about captions is; `times` and `wording`: the rules, one function each
- `checking`: all rules over a list of cues
- `drafting`: cues out of a plain transcript, and a transcript out of cues

"""

from ..loudness import loud_stretches
from .checking import check_captions
from .cues import CaptionError, Cue
from .drafting import draft, transcript
from .notes import CaptionNote, Mended
from .reading import CaptionsRead, read_captions
from .writing import write_srt, write_webvtt

__all__ = [
    "CaptionError",
    "CaptionNote",
    "CaptionsRead",
    "Cue",
    "Mended",
    "check_captions",
    "draft",
    "loud_stretches",
    "read_captions",
    "transcript",
    "write_srt",
    "write_webvtt",
]
