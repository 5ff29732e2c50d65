"""A paragraph of short lines with breaks between them that is a list.

WCAG 2.2, 1.3.1 Info and Relationships (A); technique H48. Which lines count as short is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import make
from ...document.walking import text_of
from ...reading.mending import lines_of, typed_lists
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject, Words
from ..wording import said
from .joining import joined, reach

FEWEST = 3
LONGEST = 60
"""A line longer than this, in characters, is no item by itself."""

RULE = CheckRule(
    id="list-as-breaks",
    title="Short lines that may be a list",
    whom="Readers with a screen reader, who hear the lines as one sentence that never ends.",
    source="WCAG 2.2, 1.3.1; technique H48",
    severity="look",
    means="Lines parted by breaks are one paragraph. Where each line is a thing of its own, they are the items of a "
    "list. An address or a verse is rightly written with breaks.",
    right="Make it a list; or, if the lines belong to one another, as those of an address do, say that it is right.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.running:
        if "\n" not in words.flat or words.within[-1] == "list_item" or words.node.attrs["style"] == "verse":
            continue
        lines = words.flat.split("\n")
        if lines[0].rstrip().endswith(":"):
            lines = lines[1:]
        elif not _is_announced(subject, words):
            continue
        if len(lines) < FEWEST or not all(_is_item(line) for line in lines):
            continue
        if any(True for _ in typed_lists((words.node,))):
            continue
        every = lines_of(words.node)
        opening = [make("paragraph", each) for each in every[: len(every) - len(lines)]]
        items = [make("list_item", [make("paragraph", line)]) for line in every[len(opening) :]]
        made = make("bulleted_list", items)
        blocks = subject.at(words.path[:-1]).content
        first, end = reach(blocks, words.path[-1], words.path[-1] + 1, [*opening, made])
        new = joined([*blocks[first : words.path[-1]], *opening, made, *blocks[words.path[-1] + 1 : end]])
        yield RULE.finding(
            f"The {len(lines)} short lines from {said(lines[0], 30)} on may be a list.",
            words.path,
            None,
            Repair("Make it a list", (ReplaceNodes((*words.path[:-1], first), end - first, tuple(new)),)),
        )


def _is_announced(subject: Subject, words: Words) -> bool:
    """Whether the block before ends with a colon. Short lines that nothing announces are an address, a verse, a
    signature as often as a list."""
    *above, index = words.path
    before = subject.at(tuple(above)).content[index - 1] if index else None
    return before is not None and text_of(before).rstrip().endswith(":")


def _is_item(line: str) -> bool:
    bare = line.strip()
    letters = sum(map(str.isalnum, bare))
    if letters * 2 < len(bare) or bare[0] in "|+":
        return False  # A line of a drawing, or of a table that is drawn.
    return 0 < len(bare) <= LONGEST and bare[-1] not in ".,;:!?" and "\ufffc" not in bare
