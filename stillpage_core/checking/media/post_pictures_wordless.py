"""Pictures of a post without alt text.

WCAG 2.2, 1.1.1 Non-text Content (A); technique H37.
"""

from __future__ import annotations

from collections.abc import Iterator

from ...kinds.post.ways import pictures_of
from ..finding import CheckRule, Finding
from ..subject import Subject

RULE = CheckRule(
    id="post-pictures-wordless",
    title="A picture of a post without alt text",
    whom="Readers who cannot see the picture are told nothing about it.",
    source="WCAG 2.2, 1.1.1; technique H37",
    severity="mend",
    means="The network gave no words for a picture of the post.",
    right="Write them in the media library: the picture is an item there. Or show the post without its pictures.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("post"):
        for number in pictures_of(placed.node):
            target = subject.resolver.picture(number)
            if target is not None and not target.alt and not target.decorative:
                sentence = f"The picture “{target.title}” of this post has no alt text."
                yield RULE.finding(sentence, placed.path, None, about=f"{number}")
