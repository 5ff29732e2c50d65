"""A heading without words.

WCAG 2.2, 1.3.1 and 2.4.6; technique H42; failure F43, structural markup that does not say what the content is.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import make
from ...document.walking import text_of
from ...reading.mending import is_bold_line
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject

RULE = CheckRule(
    id="heading-empty",
    title="A heading without words",
    whom="Readers with a screen reader, who are told of a heading and hear nothing.",
    source="WCAG 2.2, 1.3.1 and 2.4.6; technique H42, failure F43",
    severity="mend",
    means="An empty heading is still a heading: it stands in the list that a screen reader makes, without a name. "
    "It is often left behind when words are deleted, or used to make space.",
    right="Write what the part is about, or take the heading away. The theme makes the space.",
    together=True,
)


def check(subject: Subject) -> Iterator[Finding]:
    only_empty = [
        all(block.kind == "heading" and not text_of(block).strip() for block in region.content)
        for region in subject.document.content
    ]
    above = 1
    for index, heading in enumerate(subject.headings):
        words = subject.at(heading.path).content
        if not any(node.text.strip() for node in words):
            region, place = heading.path
            blocks = subject.document.content[region].content
            beside = [blocks[each].kind for each in (place - 1, place + 1) if 0 <= each < len(blocks)]
            painted = place > 0 and blocks[place - 1].kind == "paragraph" and is_bold_line(blocks[place - 1])
            below = subject.headings[index + 1].level if index + 1 < len(subject.headings) else 2
            # Even when all are taken away at once, there is somewhere left to write.
            rest = (make("paragraph"),) if only_empty[region] and place == len(blocks) - 1 else ()
            away = Repair("Take the empty heading away", (ReplaceNodes(heading.path, 1, rest),))
            # Taken away, it must leave no gap in the levels, no two lists side by side, and no bold line above text.
            good = below <= above + 1 and sum(kind.endswith("_list") for kind in beside) < 2 and not painted
            only = "nothing but an equation, which gives it no name" if heading.text else "no words"
            sentence = f"A heading of level {heading.level} has {only}."
            yield RULE.finding(sentence, heading.path, None, *([away] if good and not heading.text else []))
        above = heading.level
