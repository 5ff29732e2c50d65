"""A link whose words are its address.

WCAG 2.2, 2.4.4 Link Purpose (In Context) (A); technique H30. A screen reader spells an address out. A mail address or
a telephone number may stand for itself.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..document.changes import ReplaceText
from ..document.node import Node
from ..document.references import parse_reference
from ..document.walking import runs_with
from ..resolving import Resolver
from .finding import Finding, Repair
from .link_vague import title_of_destination

_BARE = re.compile(r"(?:https?://|www\.)\S+|[\w-]+(?:\.[\w-]+)+(?:/\S*)?", re.IGNORECASE)


def check(document: Node, resolver: Resolver) -> Iterator[Finding]:
    for run in runs_with(document, "link"):
        words = run.text.strip()
        reference = parse_reference(run.mark.attrs["href"])
        own = reference is not None and reference.kind in ("mail", "telephone")
        if own or not _BARE.fullmatch(words):
            continue
        title = title_of_destination(run, resolver)
        if title == words:
            continue
        replace = ReplaceText(run.path, run.start, run.end, title) if title else None
        yield Finding(
            "link-bare-address",
            f"The words of this link are an address: “{words[:80]}”.",
            "A screen reader spells an address out, letter by letter; nobody else gets the destination's name either.",
            "WCAG 2.2, 2.4.4; technique H30",
            "mend",
            run.path,
            (run.start, run.end),
            (Repair(f"Let it say “{title}”", (replace,)),) if replace else (),
        )
