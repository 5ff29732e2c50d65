"""Line breaks used as space: several in a row, or at the beginning or the end of a paragraph.

Common practice; technique H48 and failure F2 for what looks like paragraphs and is none.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import Node
from ...reading.mending import joined, lines_of
from ..finding import Finding, Repair, Rule
from ..space import SPACES
from ..subject import Subject

RULE = Rule(
    id="breaks-as-space",
    title="Line breaks used as space",
    whom="Readers with a screen reader, who hear one long paragraph where there seem to be two.",
    source="Common practice; failure F2",
    severity="mend",
    means="Several line breaks in a row look like the end of a paragraph, but are none: the theme's space is missing, "
    "and a screen reader goes on without a pause.",
    right="Begin a new paragraph with Enter. A single line break, with Shift and Enter, is for addresses and verses.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    for words in subject.words:
        if "\n" not in words.flat or words.kind == "preformatted" or not words.flat.strip():
            continue
        lines = words.flat.split("\n")
        if all(line.strip(SPACES) for line in lines):
            continue
        parts = _parts(words.node)
        if words.kind != "paragraph" and len(parts) > 1:
            parts = (words.node.with_content(joined([line for part in parts for line in lines_of(part)])),)
        yield RULE.finding(
            "Line breaks are used as space here.",
            words.path,
            None,
            Repair("Make it paragraphs" if len(parts) > 1 else "Leave them out", (ReplaceNodes(words.path, 1, parts),)),
        )


def _parts(block: Node) -> tuple[Node, ...]:
    """The block parted where lines are empty."""
    groups: list[list[list[Node]]] = [[]]
    for line in lines_of(block):
        if any(node.kind == "formula" or node.text.strip(SPACES) for node in line):
            groups[-1].append(line)
        elif groups[-1]:
            groups.append([])
    return tuple(block.with_content(joined(group)) for group in groups if group)
