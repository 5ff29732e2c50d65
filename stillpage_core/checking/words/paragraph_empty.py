"""Empty paragraphs used as space. Common practice; WCAG 2.2, 1.3.1, asks that space is made by the style."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.schema import MAIN
from ...errors import Path
from ..finding import CheckRule, Finding, Repair
from ..lists.containers import containers
from ..lists.joining import goes_on
from ..space import is_empty
from ..subject import Subject

RULE = CheckRule(
    id="paragraph-empty",
    title="Empty paragraphs used as space",
    whom="Readers with a screen reader, which may stop at each; everybody, once the theme's own space is added to it.",
    source="Common practice",
    severity="mend",
    means="The theme makes the space between paragraphs, the right one for each screen. Empty paragraphs come on top "
    "of it, and on a phone they are a hole in the page.",
    right="Leave them out. Where a new subject begins, a heading or a divider says so.",
    together=True,
)


def _place(subject: Subject, path: Path) -> str:
    """Where the blocks stand; of main, as it was said before there were regions."""
    region = subject.document.content[path[0]].attrs["name"]
    return f"{path[1:]}" if region == MAIN else f"{region} {path[1:]}"


def check(subject: Subject) -> Iterator[Finding]:
    for path, blocks in containers(subject):
        index = 0
        while index < len(blocks):
            end = index
            while end < len(blocks) and is_empty(blocks[end]):
                end += 1
            # One at the very end is where the author goes on writing; a cell or an aside may hold just one.
            last = end == len(blocks)
            within_list = index > 0 and not last and goes_on(blocks[index - 1], blocks[end])
            if end > index and not within_list and not (last and end - index == 1):
                first = index + 1 if last and index == 0 else index
                number = end - first
                what = "An empty paragraph is" if number == 1 else f"{number} empty paragraphs are"
                yield RULE.finding(
                    f"{what} used as space here.",
                    (*path, first),
                    None,
                    Repair("Leave out what is empty", (ReplaceNodes((*path, first), number, ()),)),
                    about=_place(subject, path),
                )
            index = max(end, index + 1)
