"""A picture that the library no longer has. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import make, text_node
from ...document.walking import text_of
from ..finding import CheckRule, Finding, Repair
from ..subject import Placed, Subject

RULE = CheckRule(
    id="picture-gone",
    title="A picture that is gone",
    whom="Readers would see nothing here.",
    source="Common practice",
    severity="blocks",
    means="The item was removed from the media library for good.",
    right="Choose another picture, or take this one away. Its caption stays as text.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("picture"):
        if subject.resolver.picture(placed.node.attrs["item"]) is None:
            yield RULE.finding(
                "This picture is no longer in the media library.",
                placed.path,
                None,
                Repair("Take the picture away", (_taken(subject, placed),)),
            )


def _taken(subject: Subject, placed: Placed) -> ReplaceNodes:
    """The picture taken away, its words left as text. From a gallery or a slide it goes with its place there."""
    depth = {"gallery": 1, "slide": 2}.get(placed.within[-1])
    if depth is None:
        caption = placed.node.attrs["caption"]
        alone = placed.within[-1] != "region" or len(subject.at(placed.path[:-1]).content) == 1
        rest = (make("paragraph", [text_node(caption)] if caption else []),) if caption or alone else ()
        return ReplaceNodes(placed.path, 1, rest)
    path, index = placed.path[:-depth], placed.path[-depth]
    holder = subject.at(path)
    left = holder.with_content(each for place, each in enumerate(holder.content) if place != index)
    words = text_of(holder.content[index])
    said = [make("paragraph", [text_node(line)]) for line in words.split("\n") if line]
    return ReplaceNodes(path, 1, (left, *said))
