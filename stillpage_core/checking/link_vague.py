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
        words = re.sub(r"[\W_]+", " ", run.text).strip().casefold()
        if words not in VAGUE:
            continue
        yield Finding(
            "link-vague",
            f"This link says only “{run.text.strip()}”.",
            _WHOM,
            _SOURCE,
            "mend",
            run.path,
            (run.start, run.end),
            tuple(_repairs(run, resolver)),
        )


def _repairs(run: Run, resolver: Resolver) -> Iterator[Repair]:
    reference = parse_reference(run.mark.attrs["href"])
    if reference is None or reference.kind != "page" or reference.number is None:
        return
    page = resolver.page(reference.number)
    if page and page.title.strip() and page.title.strip().casefold() not in VAGUE:
        yield Repair(
            f"Let it say “{page.title.strip()}”", (ReplaceText(run.path, run.start, run.end, page.title.strip()),)
        )
