"""A document shown in the page of which no page can be seen. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...kinds.paper.ways import pages_shown
from ..finding import CheckRule, Finding
from ..subject import Subject

RULE = CheckRule(
    id="paper-undrawn",
    title="A document of which no page is to be seen",
    whom="Everybody: they get a link where the pages were meant to be.",
    source="Common practice",
    severity="look",
    means="The pages are drawn in the background once they are wanted, which takes a moment. Documents of a word "
    "processor need LibreOffice on the server; some files cannot be drawn at all. The pages that were asked for may "
    "also be beyond the last.",
    right="Wait a moment. If nothing comes, save the document as a PDF and replace it, or ask for other pages.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("paper"):
        item = subject.resolver.item(placed.node.attrs["item"])
        if item is not None and not pages_shown(placed.node, item):
            why = f" {item.undrawn}" if item.undrawn else ""
            sentence = f"No page of “{item.title}” is to be seen yet; readers get a link to it.{why}"
            yield RULE.finding(sentence, placed.path, None, about=f"{item.number}")
