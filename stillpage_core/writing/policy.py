"""What a browser may load on a page: its Content-Security-Policy (W3C, Content Security Policy Level 3), made from what
is on it."""

from __future__ import annotations

import re

from ..document.node import Node
from ..document.walking import walk
from ..kinds.ways import ways_of
from ..resolving import FixedResolver, Resolver

EVERYWHERE: dict[str, tuple[str, ...]] = {
    "default-src": ("'none'",),
    "style-src": ("'self'",),
    "img-src": ("'self'",),
    "font-src": ("'self'",),
    "form-action": ("'self'",),
    "base-uri": ("'none'",),
    "frame-ancestors": ("'self'",),
}
"""What every page has: its stylesheet, fonts and pictures from its own site, and nothing else."""
_ADDED = frozenset(("script-src", "media-src", "frame-src", "connect-src"))
_SOURCE = re.compile(r"'self'|https?://[a-z0-9-]+(?:\.[a-z0-9-]+)*(?::\d{1,5})?")


def policy_of(document: Node | None = None, resolver: Resolver | None = None) -> str:
    """The policy of a page with this text, as the header has it; without one, of a page on which nothing is loaded that
    not every page has.

    Raises:
        ValueError: when a kind of node says that it loads something in a way that no page may.
    """
    directives = {name: set(sources) for name, sources in EVERYWHERE.items()}
    known = resolver or FixedResolver()
    for _, node in walk(document) if document else ():
        loads = ways_of(node.kind).loads
        for directive, source in loads(node, known) if loads else ():
            if directive not in _ADDED or not _SOURCE.fullmatch(source):
                raise ValueError(f"A page may not load from “{source[:80]}” by “{directive[:40]}”.")
            directives.setdefault(directive, set()).add(source)
    return "; ".join(f"{name} {' '.join(sorted(sources))}" for name, sources in directives.items())
