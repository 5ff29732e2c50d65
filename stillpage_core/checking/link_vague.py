"""A link whose words say nothing of where it leads.

WCAG 2.2, 2.4.4 Link Purpose (In Context) (A) and 2.4.9 (AAA); failures F63 and F84; technique G91.
The words themselves are common practice.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..document.changes import ReplaceText
from ..document.node import Node
from ..document.references import parse_reference
from ..document.walking import Run, runs_with
from ..resolving import Resolver
from .finding import Finding, Repair

VAGUE = frozenset(
    [
        "click",
        "click here",
        "click this",
        "click this link",
        "continue",
        "details",
        "download",
        "find out more",
        "follow this link",
        "go",
        "go here",
        "here",
        "info",
        "learn more",
        "link",
        "link to",
        "more",
        "more details",
        "more info",
        "more information",
        "page",
        "press here",
        "read more",
        "see here",
        "see more",
        "tap here",
        "this",
        "this link",
        "this page",
        "this website",
        "view",
        "visit",
        "website",
    ]
)
"""Words that name no destination. English; common practice."""

_WHOM = "Readers who go from link to link, by key or by ear, hear these words alone."
_SOURCE = "WCAG 2.2, 2.4.4; failures F63 and F84"


def check(document: Node, resolver: Resolver) -> Iterator[Finding]:
    for run in runs_with(document, "link"):
        title = title_of_destination(run, resolver)
        if not is_vague(run.text) or (title and plain_words(title) == plain_words(run.text)):
            continue
        better = title if title and not is_vague(title) else None
        replace = ReplaceText(run.path, run.start, run.end, better) if better else None
        yield Finding(
            "link-vague",
            f"This link says only “{run.text.strip()}”.",
            _WHOM,
            _SOURCE,
            "mend",
            run.path,
            (run.start, run.end),
            (Repair(f"Let it say “{better}”", (replace,)),) if replace else (),
        )


def plain_words(words: str) -> str:
    """Words without signs, in small letters."""
    return re.sub(r"[\W_]+", " ", words).strip().casefold()


def is_vague(words: str) -> bool:
    """Whether the words of a link name no destination."""
    return plain_words(words) in VAGUE


def title_of_destination(run: Run, resolver: Resolver) -> str | None:
    """The title of the page or item that a link leads to; words that are the same name their destination."""
    reference = parse_reference(run.mark.attrs["href"])
    if reference is None or reference.number is None:
        return None
    known = resolver.page(reference.number) if reference.kind == "page" else resolver.item(reference.number)
    return known.title.strip() if known else None
