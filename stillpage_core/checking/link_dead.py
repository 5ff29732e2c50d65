"""A link that readers cannot follow: to a page that is gone or not published, an item that is gone, or a heading that
no longer stands there; and a call to action without a destination.

WCAG 2.2, 2.4.4 Link Purpose (A), asks that a link's purpose can be told; that it leads somewhere is common practice.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..document.node import Node
from ..document.references import parse_reference
from ..document.walking import runs_with, text_of, walk
from ..errors import Path
from ..resolving import Resolver
from ..writing.anchors import anchors_of
from .finding import Finding, Severity

_WHOM = "Readers who follow it arrive nowhere; until it leads somewhere, they see the words without a link."
_SOURCE = "Common practice"


def check(document: Node, resolver: Resolver) -> Iterator[Finding]:
    here = frozenset(anchors_of(document).values())
    for run in runs_with(document, "link"):
        if fault := _fault(run.mark.attrs["href"], resolver, here):
            yield _finding(f"“{run.text.strip()}” {fault[0]}", fault[1], run.path, (run.start, run.end))
    for path, node in walk(document):
        if node.kind != "call_to_action":
            continue
        words = text_of(node) or "The call to action"
        if node.attrs["href"] is None:
            yield _finding(f"“{words}” leads nowhere yet. Choose a destination.", "blocks", path)
        elif not node.content:
            yield _finding("A call to action has no words.", "blocks", path)
        elif fault := _fault(node.attrs["href"], resolver, here):
            yield _finding(f"“{words}” {fault[0]}", fault[1], path)


def _finding(sentence: str, severity: Severity, path: Path, span: tuple[int, int] | None = None) -> Finding:
    return Finding("link-dead", sentence, _WHOM, _SOURCE, severity, path, span)


def _fault(href: str, resolver: Resolver, here: frozenset[str]) -> tuple[str, Severity] | None:
    """What is wrong with a destination, and how bad that is."""
    reference = parse_reference(href)
    if reference is None:
        return "leads to an address that cannot be used.", "mend"
    if reference.kind == "heading":
        known = reference.fragment in here
        return None if known else (f"leads to “{reference.fragment}”, and no heading of this page is that.", "mend")
    if reference.kind == "item":
        return None if resolver.item(reference.number or 0) else ("leads to an item that is gone.", "mend")
    if reference.kind != "page":
        return None
    page = resolver.page(reference.number or 0)
    if page is None:
        return "leads to a page that is gone.", "mend"
    if page.address is None:
        return f"leads to “{page.title}”, which is not published.", "look"
    if reference.fragment and page.anchors is not None and reference.fragment not in page.anchors:
        return f"leads to a heading of “{page.title}” that is no longer there.", "mend"
    return None
