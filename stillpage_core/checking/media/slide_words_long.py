"""Words on a slide that do not fit in their lines. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...kinds.slideshow import LONGEST_HEADING, LONGEST_WORDS
from ..finding import CheckRule, Finding
from ..subject import Subject
from ..wording import said

RULE = CheckRule(
    id="slide-words-long",
    title="Words that do not fit on a slide",
    whom="Readers with a phone: the words run over many lines, and the slide goes on before they are read.",
    source="Common practice",
    severity="look",
    means=f"A heading of up to {LONGEST_HEADING} letters and words of up to {LONGEST_WORDS} fit in two lines each on a "
    "phone.",
    right="Say less on the slide, and the rest on the page that it leads to.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("slide"):
        for name, longest, what in (("heading", LONGEST_HEADING, "heading"), ("words", LONGEST_WORDS, "words")):
            words = placed.node.attrs[name] or ""
            if len(words) > longest:
                yield RULE.finding(
                    f"The {what} of slide {placed.path[-1] + 1}, {said(words)}: {len(words)} letters; {longest} fit.",
                    placed.path[:-1],
                    None,
                    about=f"{name} {words}",
                )
