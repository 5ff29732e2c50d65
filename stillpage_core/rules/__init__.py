"""What the front end knows too: constants and tables, each from the module of the core that it belongs to, written out
as data (`python -m stillpage_core rules`). What is more than data is held together by cases that both sides run.
"""

from __future__ import annotations

import sys
from typing import Any

from ..document.sharing import RATIO
from ..formats import FORMATS
from ..kinds.aside import LABELS as ASIDE_LABELS
from ..kinds.film import PLAYED as FILM_PLAYED
from ..kinds.film import SETTING as FILM_SETTING
from ..kinds.hosted import OPTIONS as HOSTED_OPTIONS
from ..kinds.hosted import SETTING as HOSTED_SETTING
from ..kinds.picture import STANDING
from ..kinds.slideshow import LONGEST_HEADING, LONGEST_WORDS
from ..media import documents, films, pictures, shown
from ..media.animations import LOTTIE
from ..media.captions.cues import LONGEST_CUE
from ..media.editing import STEEPEST, UNIT
from ..media.loudness import STEP
from ..media.playing import FIRST_STILL, HOSTED_NARROW
from ..references import LONGEST
from ..sites.search_result import TITLE_WIDTH
from ..writing import anchors


def shared() -> dict[str, Any]:
    """The rules as JSON has them."""
    return {
        "asides": ASIDE_LABELS,
        "reference": {"longest": LONGEST},
        "anchors": {
            "longest": anchors.LONGEST,
            "otherwise": anchors.OTHERWISE,
            "reserved": sorted(anchors.RESERVED),
            "folded": _folded(),
        },
        "pictures": {
            "unit": UNIT,
            "steepest": STEEPEST,
            "edge": shown.EDGE,
            "densest": shown.DENSEST,
            "standing": STANDING,
        },
        "films": {
            "setting": FILM_SETTING,
            "played": FILM_PLAYED,
            "first_still": FIRST_STILL,
        },
        "hosted": {"setting": HOSTED_SETTING, "options": HOSTED_OPTIONS, "narrow": HOSTED_NARROW},
        "slides": {"longest_heading": LONGEST_HEADING, "longest_words": LONGEST_WORDS},
        "found": {"card_ratio": RATIO, "result_width": TITLE_WIDTH},
        "captions": {"step": STEP, "longest": LONGEST_CUE},
        "files": {
            "pictures": [form.mime for form in pictures.FORMATS],
            "documents": [f".{form.ending}" for form in documents.FORMATS.values()],
            "films": [f".{form.ending}" for form in films.DEMUXERS],
            "animations": [f".{LOTTIE.ending}"],
            "texts": [f".{ending}" for form in FORMATS.values() for ending in (form.ending, *form.also)],
        },
    }


def _folded() -> dict[str, str]:
    """The letters that are folded otherwise (Unicode 3.13, default case folding) than they are made small."""
    letters = (chr(code) for code in range(sys.maxunicode + 1) if not 0xD800 <= code < 0xE000)
    return {letter: letter.casefold() for letter in letters if letter.casefold() != letter.lower()}
