"""A picture, or an item that is linked to, which not all readers of the page will have: it waits in the bin, its folder
is kept to other sites, or it is for signed-in readers only.

Common practice: what a page shows must be there for whoever may read the page.
"""

from __future__ import annotations

from collections.abc import Iterator

from ..document.node import Node
from ..document.references import parse_reference
from ..document.walking import runs_with, walk
from ..errors import Path
from ..resolving import ItemTarget, PictureTarget, Reach, Resolver
from .finding import Finding, Severity

_SOURCE = "Common practice"
_SAID: dict[Reach, tuple[str, str, Severity]] = {
    "binned": (
        "“{}” waits in the bin of the media library. Take it back from there, or take something else.",
        "Readers, once the item is removed for good.",
        "mend",
    ),
    "elsewhere": (
        "“{}” is kept to other sites by its folder in the media library.",
        "Those for whose sake it is kept there.",
        "blocks",
    ),
    "signed in": (
        "“{}” is for signed-in readers only; everybody else is asked to sign in.",
        "Readers without an account, who do not get it.",
        "look",
    ),
}


def check(document: Node, resolver: Resolver) -> Iterator[Finding]:
    for path, node in walk(document):
        if node.kind == "picture":
            yield from _finding(resolver.picture(node.attrs["item"]), path)
        elif node.kind == "call_to_action" and node.attrs["href"]:
            yield from _finding(_linked(node.attrs["href"], resolver), path)
    for run in runs_with(document, "link"):
        yield from _finding(_linked(run.mark.attrs["href"], resolver), run.path, (run.start, run.end))


def _linked(href: str, resolver: Resolver) -> ItemTarget | None:
    reference = parse_reference(href)
    return resolver.item(reference.number or 0) if reference and reference.kind == "item" else None


def _finding(
    target: PictureTarget | ItemTarget | None, path: Path, span: tuple[int, int] | None = None
) -> Iterator[Finding]:
    if target is None or target.reach == "open":
        return
    sentence, whom, severity = _SAID[target.reach]
    yield Finding("item-out-of-reach", sentence.format(target.title), whom, _SOURCE, severity, path, span)
