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
        title = _title_of_destination(run, resolver)
        if not _vague(run.text) or (title and _plain(title) == _plain(run.text)):
            continue
        better = title if title and not _vague(title) else None
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


def _plain(words: str) -> str:
    """Words without signs, in small letters."""
    return re.sub(r"[\W_]+", " ", words).strip().casefold()


def _vague(words: str) -> bool:
    return _plain(words) in VAGUE


def _title_of_destination(run: Run, resolver: Resolver) -> str | None:
    """The title of the page that a link leads to; words that are the same name their destination."""
    reference = parse_reference(run.mark.attrs["href"])
    if reference is None or reference.kind != "page" or reference.number is None:
        return None
    page = resolver.page(reference.number)
    return page.title.strip() if page else None
