"""A short bold paragraph that acts as a heading.

WCAG 2.2, 1.3.1 Info and Relationships (A); failure F2, changes in presentation instead of structure; techniques H42
and G115.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import Node, make
from ...document.walking import blocks_of
from ...reading.mending import is_all, is_bold_line, is_line, without_mark
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import in_capitals, in_sentence_case, said
from .heading_capitals import FEWEST

RULE = CheckRule(
    id="heading-painted",
    title="A bold line that acts as a heading",
    whom="Readers with a screen reader: to it the line is a paragraph like any other, and no jump leads there.",
    source="WCAG 2.2, 1.3.1; failure F2, technique H42",
    severity="mend",
    means="A line set bold, with text below it, looks like a heading, but only to the eye. It is missing in the list "
    "of headings, in the Outline, and wherever else the page is shown in another way.",
    right="Make it a heading, of the level below the one it stands under. The theme says how it looks.",
    wrong_example="**What to bring**",
    right_example="3 What to bring",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    level = 1
    for path, block in blocks_of(subject.document):
        if block.kind == "heading":
            level = block.attrs["level"]
            continue
        beside = subject.document.content[path[0]].content
        follows = beside[path[1] + 1] if path[1] + 1 < len(beside) else None
        if block.kind != "paragraph" or follows is None or not is_bold_line(block) or is_line(follows):
            continue
        fitting = min(6, level + 1)
        yield RULE.finding(
            f"{said(''.join(node.text for node in block.content))} is a bold line, and acts as a heading.",
            path,
            None,
            Repair(f"Make it a heading of level {fitting}", (ReplaceNodes(path, 1, (_heading(block, fitting),)),)),
        )


def _heading(block: Node, level: int) -> Node:
    words = without_mark(block, "strong")
    for mark in ("underline", "emphasis"):
        if is_all(words, mark):
            words = without_mark(words, mark)
    if in_capitals("".join(node.text for node in words.content), FEWEST):
        words = words.with_content(in_sentence_case(words.content))
    return make("heading", words.content, level=level, align=block.attrs["align"])
