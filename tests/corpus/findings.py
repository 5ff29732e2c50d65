"""Findings in documents that others wrote, drawn at random and judged by hand: python -m tests.corpus.findings draw

A draw takes findings by chance, of each check at most so many, that no draw before took, and writes them to
`judged.json` without a judgement. Whoever judges sets ``right``, and ``repair`` where a repair is offered (whether it
may be made as it stands), with a word on why where it is not. `test_findings` holds the checks to the judgements, and
``python -m tests.corpus.findings`` writes the table that the documentation has.
"""

from __future__ import annotations

import json
import random
import sys
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from stillpage_core.checking import Around, Finding, Subject, check_page
from stillpage_core.checking.showing import shown
from stillpage_core.document.node import Node
from stillpage_core.document.walking import node_at, text_of, walk
from stillpage_core.reading import Reading
from stillpage_core.resolving import FixedResolver, ImageFile, PictureTarget

from .reading import corpus, name_of, print_of, read

JUDGED = Path(__file__).parent / "judged.json"
MOST = 11
"""Findings of one check that a draw of 300 takes at first."""
AROUND = 90


@dataclass
class Found:
    """A finding and where it was found."""

    file: str
    kept: str
    document: Node
    finding: Finding

    @property
    def id(self) -> str:
        return f"{self.file}#{self.finding.check}#{self.finding.key}"


def subject_of(reading: Reading) -> Subject:
    """A reading as a page is checked: its pictures in the library, in a size that is enough."""
    numbers = {node.attrs["item"] for _, node in walk(reading.document) if node.kind == "picture"}
    file = ImageFile("/media/a.jpg", 1600, 1200, 100_000, "image/jpeg")
    pictures = {number: PictureTarget(number, "A picture", "", (file,), 1600, 1200) for number in numbers}
    around = Around(title=reading.title, description=reading.description)
    return Subject(reading.document, FixedResolver(pictures=pictures), around)


def found() -> Iterator[Found]:
    """Every finding in the corpus."""
    for file, reading in corpus(1):
        if "{%" not in text_of(reading.document):  # A template is no document.
            yield from _of(file, reading)


def found_in(file: Path) -> Iterator[Found]:
    """Every finding in one file."""
    reading = read(file)
    if reading is not None:
        yield from _of(file, reading)


def _of(file: Path, reading: Reading) -> Iterator[Found]:
    """What is found in a document; two of one key count once."""
    known: set[str] = set()
    for finding in check_page(subject_of(reading)):
        each = Found(name_of(file), print_of(file), reading.document, finding)
        if each.id not in known:
            known.add(each.id)
            yield each


def judged() -> list[dict[str, Any]]:
    """What was drawn, with the judgements."""
    entries: list[dict[str, Any]] = json.loads(JUDGED.read_text()) if JUDGED.exists() else []
    return entries


def entry_of(each: Found, draw: int) -> dict[str, Any]:
    """A finding as it is judged: with the words around it."""
    finding = each.finding
    text = text_of(node_at(each.document, finding.path)) if finding.path else ""
    start, end = finding.span or (0, 0)
    around = text[max(0, start - AROUND) : end + AROUND] if finding.span else text[: 2 * AROUND]
    entry: dict[str, Any] = {"id": each.id, "of": each.kept, "draw": draw, "says": finding.sentence, "words": around}
    if finding.repairs:
        entry["repairs"] = [[repair.label, *shown(each.document, repair)] for repair in finding.repairs]
    return entry


def drawn(many: int, draw: int, seed: int) -> list[dict[str, Any]]:
    """So many findings by chance: of each check at most `MOST` at first, then of any; none of a text that was drawn."""
    before = {entry["id"] for entry in judged()}
    by_check: dict[str, list[Found]] = defaultdict(list)
    texts: set[str] = set()
    everything = [each for each in found() if each.id not in before]
    chance = random.Random(seed)
    chance.shuffle(everything)
    for each in everything:
        entry = entry_of(each, draw)
        key = f"{each.finding.check} {entry['says']} {entry['words']}"
        if key not in texts:
            texts.add(key)
            by_check[each.finding.check].append(each)
    most = max(1, MOST * many // 300)
    first = [each for found_of in by_check.values() for each in found_of[:most]]
    rest = [each for found_of in by_check.values() for each in found_of[most:]]
    chance.shuffle(rest)
    taken = (first + rest)[:many] if len(first) < many else first
    return [entry_of(each, draw) for each in sorted(taken, key=lambda each: (each.finding.check, each.id))]


def sum_of() -> str:
    """What each draw came to, in a sentence."""
    draws: dict[int, list[dict[str, Any]]] = defaultdict(list)
    for entry in judged():
        draws[entry["draw"]].append(entry)
    said = []
    for draw, entries in sorted(draws.items()):
        offered = [entry["repair"] for entry in entries if "repair" in entry]
        right = sum(entry["right"] for entry in entries)
        said.append(f"Draw {draw}: {right} of {len(entries)} findings right, {sum(offered)} of {len(offered)} repairs.")
    return " ".join(said)


def table() -> str:
    """What was judged, check by check, as Markdown."""
    entries = judged()
    count: dict[str, Counter[str]] = defaultdict(Counter)
    for entry in entries:
        check = entry["id"].split("#")[-2]
        count[check]["judged"] += 1
        count[check]["right"] += bool(entry["right"])
        count[check]["repairs"] += "repair" in entry
        count[check]["repairs right"] += bool(entry.get("repair"))
    lines = [
        f"| `{check}` | {c['judged']} | {c['right']} | {c['repairs']} | {c['repairs right']} |"
        for check, c in sorted(count.items())
    ]
    return "\n".join(lines)


if __name__ == "__main__":
    if sys.argv[1:2] == ["draw"]:
        number = max((entry["draw"] for entry in judged()), default=0) + 1
        fresh = drawn(int(sys.argv[2]) if len(sys.argv) > 2 else 300, number, seed=number)
        JUDGED.write_text(json.dumps([*judged(), *fresh], indent=1, ensure_ascii=False) + "\n")
        print(f"{len(fresh)} findings were drawn.")
    else:
        print(table())
