"""A link without words that could be read out.

WCAG 2.2, 2.4.4 Link Purpose (A) and 4.1.2; failure F89, no accessible name for what a link consists of; technique H30.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import MarkWords
from ...reading.html.fragments import PERMALINKS
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="link-empty",
    title="A link without words",
    whom="Readers with a screen reader, who are told of a link and not of what it is; others cannot see it at all.",
    source="WCAG 2.2, 2.4.4 and 4.1.2; failure F89, technique H30",
    severity="mend",
    means="Spaces or signs alone can be pressed, but have no name. Such links are left behind when words are deleted, "
    "or come along when a line is pasted.",
    right="Take the link away, or give it words.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    notes = {placed.node.attrs["anchor"] for placed in subject.nodes("list_item")}
    for link in subject.links:
        if link.mark is None or link.named:
            continue
        if link.href[0] == "#" and link.text.strip() in PERMALINKS:
            continue  # It gives the address of the heading it stands in; its name would be read out with each.
        if link.href[0] == "#" and link.href[1:] in notes and link.text.strip():
            continue  # The sign of a note, such as a dagger.
        title = subject.title_of(link)
        away = Repair("Take the link away", (MarkWords(link.path, link.start, link.end, "link"),))
        named = (
            [Repair(f"Let it say “{title}”", (link.saying(title),))]
            if title and link.text and not link.text.strip(" \u00a0")
            else []
        )
        seen = link.text.strip(" \u00a0")
        what = f"only {said(link.text)}" if link.text.strip() else "no words"
        # Where a sign can be seen and pressed, taking the link away would take something from readers.
        repairs = named if seen else [away, *named]
        yield RULE.finding(f"A link here has {what}.", link.path, link.span, *repairs)
