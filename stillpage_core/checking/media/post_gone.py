"""A post that the library no longer has, or its network. Common practice."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import ReplaceNodes
from ...document.node import Node, make, text_node
from ...resolving import PostTarget
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .films import taken_away

RULE = CheckRule(
    id="post-gone",
    title="A post that is gone",
    whom="Readers who look for the original.",
    source="Common practice",
    severity="mend",
    means="The network does not have the post any more, or the library does not. Its words stay on the page as they "
    "were read; readers are told that the original is gone.",
    right="Ask yourself whether the page may still quote it: who wrote it may have taken it back.",
)


def quoted(target: PostTarget) -> Node:
    """A post as a plain quotation."""
    words = [make("paragraph", [text_node(line)]) for line in target.words] or [make("paragraph")]
    source = ", ".join(filter(None, (target.author, target.moment, target.provider)))
    return make("quotation", [make("quotation_words", words), make("quotation_source", [text_node(source)])])


def check(subject: Subject) -> Iterator[Finding]:
    for placed in subject.nodes("post"):
        target = subject.resolver.post(placed.node.attrs["item"])
        if target is None:
            sentence = "This post is no longer in the media library."
            yield RULE.finding(sentence, placed.path, None, taken_away(subject, placed))
        elif target.gone:
            repairs = [taken_away(subject, placed)]
            if placed.within[-1] == "region" and not placed.node.attrs["caption"]:
                repairs.insert(0, Repair("Keep it as a quotation", (ReplaceNodes(placed.path, 1, (quoted(target),)),)))
            sentence = f"The post “{target.title}” is gone at {target.provider}."
            yield RULE.finding(sentence, placed.path, None, *repairs, about=f"{target.number}")
