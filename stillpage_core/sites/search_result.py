"""How a page looks in a search result: how wide its title is, and how much of it and of its description is shown.

Widths are those of Arial at 20 CSS pixels, in which results are commonly set, taken from the metrics of Arimo, whose
letters are as wide (`data/widths.json`, made by `ops/tables.py`). The limits are common practice: no search engine
publishes them.
"""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path

TITLE_WIDTH = 600
"""How much of a title is shown, in CSS pixels."""

TITLE_SIZE = 20
"""The size in which a title is shown, in CSS pixels."""

DESCRIPTION_LENGTH = 160
"""About how many characters of a description are shown."""

_TABLE = Path(__file__).parent.parent / "data" / "widths.json"


@cache
def _metrics() -> tuple[int, dict[str, int], dict[str, int], int]:
    data = json.loads(_TABLE.read_text(encoding="utf-8"))
    widths = {letter: width for width, letters in data["widths"].items() for letter in letters}
    return (
        data["units"],
        {letter: int(width) for letter, width in widths.items()},
        {pair: int(kern) for kern, pairs in data["kerning"].items() for pair in pairs.split(" ")},
        data["missing"],
    )


def title_width(text: str) -> float:
    """How wide a line of text is in a result's title, in CSS pixels. A letter that the font has not counts as a
    wide one."""
    units, widths, kerning, missing = _metrics()
    total = sum(widths.get(letter, missing) for letter in text)
    total += sum(kerning.get(text[index : index + 2], 0) for index in range(len(text) - 1))
    return total * TITLE_SIZE / units


def shown_title(title: str, site: str, *, home: bool = False) -> str:
    """The title as it stands in the page's head, and so in a result: with the name of the site behind it."""
    title = title.strip()
    return title if not site or (home and title == site) else f"{title} – {site}"
