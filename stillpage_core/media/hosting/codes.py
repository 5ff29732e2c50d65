"""The address of a film out of a code that its host gives to be pasted: a frame, or a link with a script beside it."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape

from selectolax.lexbor import LexborHTMLParser

from .hosts import FilmHost, HostError, host_of, origin_of

LARGEST = 20_000
"""The most characters of a code; what hosts give has a few hundred."""


def address_in(code: str, hosts: Iterable[FilmHost]) -> str:
    """The address of the film that a code, or an address typed as it is, leads to.

    Raises:
        HostError: when it leads to no host that is allowed; the sentence names the one that it does lead to.
    """
    known = tuple(hosts)
    text = code.strip()
    if len(text) > LARGEST:
        raise HostError(f"This has {len(text):,} characters; the code of a film has a few hundred. Paste its address.")
    found = [text] if text.startswith(("http://", "https://")) else _addresses(text)
    for address in found:
        if host_of(address, known):
            return address
    allowed = ", ".join(host.name for host in known) or "none so far"
    if named := next(filter(None, map(origin_of, found)), None):
        raise HostError(
            f"Films from {named.partition('//')[2][:100]} are not shown here; allowed are: {allowed}. "
            "Link to it instead, or ask an administrator."
        )
    raise HostError(
        f"There is no address of a film in this. Paste its address, or the code that its host gives: {allowed}."
    )


def _addresses(code: str) -> list[str]:
    """The addresses in a piece of HTML: of frames first, then of links, then what a quotation says of itself."""
    tree = LexborHTMLParser(code if "<" in code else f"<p>{escape(code)}</p>")
    found: list[str] = []
    for selector, names in (
        ("iframe", ("src", "data-src")),
        ("video source, video, embed", ("src",)),
        ("a", ("href",)),
        ("blockquote, div", ("cite", "data-href", "data-url")),
    ):
        for node in tree.css(selector)[:50]:
            for name in names:
                if address := (node.attributes.get(name) or "").strip():
                    found.append(f"https:{address}" if address.startswith("//") else address)
    return [each for each in found if each.startswith(("http://", "https://"))]
