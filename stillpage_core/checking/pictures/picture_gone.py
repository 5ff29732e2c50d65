"""A picture that the library no longer has. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import make, text_node
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

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
            caption = placed.node.attrs["caption"]
            alone = placed.within[-1] != "region" or len(subject.at(placed.path[:-1]).content) == 1
            rest = (make("paragraph", [text_node(caption)] if caption else []),) if caption or alone else ()
            yield RULE.finding(
                "This picture is no longer in the media library.",
                placed.path,
                None,
                Repair("Take the picture away", (ReplaceNodes(placed.path, 1, rest),)),
            )
