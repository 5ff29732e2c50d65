"""A document of a list of downloads that the library no longer has. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import Node, make, text_node
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
    id="download-gone",
    title="A document of a list that is gone",
    whom="Readers, who miss what the list has promised.",
    source="Common practice",
    severity="mend",
    means="The document was removed from the media library for good. Readers see the list without it.",
    right="Put another document in its place, or take it from the list.",
)


def titled(node: Node) -> tuple[Node, ...]:
    """The title of a list as a paragraph, where it has one."""
    title = node.attrs["title"]
    return (make("paragraph", [text_node(title)]),) if title else ()


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("downloads"):
        for index, each in enumerate(placed.node.content):
            if subject.resolver.item(each.attrs["item"]) is not None:
                continue
            named = f"“{each.attrs['words']}”" if each.attrs["words"] else f"number {index + 1} of the list"
            rest = tuple(other for place, other in enumerate(placed.node.content) if place != index)
            # What was written of it stays as text.
            words = " ".join(filter(None, (each.attrs["words"], each.attrs["description"])))
            below = (make("paragraph", [text_node(words)]),) if words else ()
            left = (placed.node.with_content(rest), *below) if rest else (*titled(placed.node), *below)
            repair = Repair("Take it from the list", (ReplaceNodes(placed.path, 1, left or (make("paragraph"),)),))
            yield RULE.finding(f"The document {named} is no longer in the library.", placed.path, None, repair)
