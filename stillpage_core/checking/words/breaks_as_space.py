"""Line breaks used as space: several in a row within a paragraph. Verses part their stanzas so.

Common practice; technique H48 and failure F2 for what looks like paragraphs and is none.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...reading.mending import SPACES, joined, runs_of_lines
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
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
        if words.node.attrs.get("style") == "verse":
            continue
        # One at an end of the paragraph shows nowhere, and is left in peace.
        if all(line.strip(SPACES) for line in words.flat.strip("\n" + SPACES).split("\n")):
            continue
        runs = runs_of_lines(words.node)
        if words.kind != "paragraph":
            runs = [[line for run in runs for line in run]]
        parts = tuple(words.node.with_content(joined(run)) for run in runs)
        yield RULE.finding(
            "Line breaks are used as space here.",
            words.path,
            None,
            Repair("Make it paragraphs" if len(parts) > 1 else "Leave them out", (ReplaceNodes(words.path, 1, parts),)),
        )
