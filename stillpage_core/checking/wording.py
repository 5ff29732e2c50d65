"""Words and letters, as several checks look at them."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator, Sequence

from ..document.changes import ReplaceText
from ..document.node import Node
from .subject import Words

_SIGNS = re.compile(r"[\W_]+")


def plain_words(words: str) -> str:
    """Words without signs, in small letters."""
    return _SIGNS.sub(" ", words).strip().casefold()


def said(words: str, most: int = 60) -> str:
    """Words between quotation marks, cut where they are long."""
    line = " ".join(words.split())
    return f"“{line if len(line) <= most else line[: most - 1].rstrip() + '…'}”"


def in_capitals(text: str, least: int) -> bool:
    """Whether all the letters are capitals, and there are at least ``least`` of them in a script that has capitals."""
    if text != text.upper():
        return False
    return sum(letter.isalpha() and letter.lower() != letter for letter in text) >= least


def sentence_case(text: str, *, begins: bool = True) -> str:
    """Words in capitals as they stand in a sentence: a capital where one begins (``begins``: at the start too). The
    length stays the same; a letter whose small form is longer stays as it is."""
    made: list[str] = []
    fresh = begins
    for letter in text:
        small = letter.lower()
        if letter.isalpha():
            made.append(letter if fresh or len(small) != 1 else small)
            fresh = False
        else:
            made.append(letter)
            fresh = fresh or letter in ".!?"
    return "".join(made)


def recased(words: Words, start: int, end: int, *, begins: bool) -> tuple[ReplaceText, ...]:
    """The words between two indexes in sentence case, each run of marks by itself, so that the marks stay."""
    cased = sentence_case(words.flat[start:end], begins=begins)
    changes: list[ReplaceText] = []
    index = 0
    for child in words.node.content:
        size = len(child.text) if child.kind == "text" else 1
        first, last = max(index, start), min(index + size, end)
        index += size
        if child.kind != "text" or first >= last:
            continue
        new = cased[first - start : last - start]
        if new != words.flat[first:last]:
            changes.append(words.replaced(first, last, new))
    return tuple(changes)


def in_sentence_case(content: Sequence[Node]) -> list[Node]:
    """Words of several marks in sentence case."""
    cased = sentence_case("".join(node.text or "\n" for node in content))
    made: list[Node] = []
    index = 0
    for node in content:
        size = len(node.text) or 1
        made.append(Node("text", {}, (), node.marks, cased[index : index + size]) if node.text else node)
        index += size
    return made


def runs_bearing(words: Words, mark: str) -> Iterator[tuple[int, int, str | None]]:
    """The runs of words that bear a mark, as indexes of ``flat``, with the value of its first attribute, if any."""
    index = 0
    open_run: tuple[int, int, str | None] | None = None
    for child in words.node.content:
        size = len(child.text) if child.kind == "text" else 1
        found = next((each for each in child.marks if each.kind == mark), None) if child.marks else None
        value = next(iter(found.attrs.values()), None) if found else None
        if open_run and (found is None or value != open_run[2]):
            yield open_run
            open_run = None
        if found:
            open_run = (open_run[0] if open_run else index, index + size, value)
        index += size
    if open_run:
        yield open_run


def is_among(runs: Sequence[tuple[int, int, str | None]], start: int, end: int) -> bool:
    """Whether any of some runs, which follow one another, reaches into what stands between two indexes."""
    before = bisect_left(runs, end, key=lambda run: run[0])
    return before > 0 and runs[before - 1][1] > start
