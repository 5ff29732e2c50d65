"""What a host says of a film: oEmbed 1.0 (https://oembed.com), as JSON or as XML."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass
from html import unescape
from math import isfinite
from typing import Any

import lxml.etree
from selectolax.lexbor import LexborHTMLParser

from .hosts import LONGEST, FilmHost, HostError, origin_of
from .posts import Posted, read_post, title_of

LARGEST = 256 * 1024
"""The most bytes of an answer."""
_NOT_UNDERSTOOD = "{} answers in a way that cannot be understood. Try again later, or link to the film."
_MEANT = {
    401: "does not show this film to others",
    403: "does not show this film to others",
    404: "has no such film, or no more",
    410: "has this film no more",
    429: "is asked too often; try again later",
    501: "does not answer in a form that is read here",
}


_UNSEEN = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff\u200e\u200f\u2028-\u202e\u2066-\u2069]")
"""Signs that cannot be seen, those among them that turn the direction of others."""


@dataclass(frozen=True)
class Hosted:
    """A film at a host: its title, who made it and where they are found, its size in pixels, the address of its frame,
    its length in seconds where the host tells that (0 otherwise), and a cover: its address and size."""

    title: str
    author: str
    author_address: str
    provider: str
    width: int
    height: int
    frame: str
    lasts: int = 0
    cover: str = ""
    cover_width: int = 0
    cover_height: int = 0
    cache_age: int = 0
    post: Posted | None = None
    """Of a post: what is kept of it; then there need be no frame."""


def read_answer(data: bytes, host: FilmHost, *, status: int = 200) -> Hosted:
    """Read an answer of a host's endpoint: a video, or a post (a quotation in what oEmbed calls rich). Its form is told
    by its first sign.

    Raises:
        HostError: when there is no such film or post, the answer lacks what oEmbed asks of it, or a film's frame is of
            another origin than the host's frames.
    """
    if status != 200:
        raise HostError(f"{host.name} {_MEANT.get(status, f'answers {status}; try again later')}.")
    if len(data) > LARGEST:
        raise HostError(_NOT_UNDERSTOOD.format(host.name))
    said = _said(data, host)
    if said.get("type") == "rich" and str(said.get("version")) == "1.0":
        return _post(said, host)
    if said.get("type") != "video":
        what = str(said.get("type"))[:20]
        raise HostError(f"At this address {host.name} has no film (it says “{what}”). Link to it instead.")
    if str(said.get("version")) != "1.0":
        raise HostError(_NOT_UNDERSTOOD.format(host.name))
    width, height = _number(said.get("width")), _number(said.get("height"))
    html = said.get("html")
    if not isinstance(html, str) or not width or not height:
        raise HostError(f"{host.name} does not say how large the film is, or what plays it. Link to it instead.")
    cover = _address(said.get("thumbnail_url"))
    sizes = _number(said.get("thumbnail_width")), _number(said.get("thumbnail_height"))
    return Hosted(
        title=_words(said.get("title"), 200),
        author=_words(said.get("author_name"), 200),
        author_address=_address(said.get("author_url")),
        provider=_words(said.get("provider_name"), 100) or host.name,
        width=width,
        height=height,
        frame=_frame(html, host),
        lasts=_number(said.get("duration"), 360_000),
        cover=cover,
        cover_width=sizes[0] if cover else 0,
        cover_height=sizes[1] if cover else 0,
        cache_age=_number(said.get("cache_age"), 10**9),
    )


def _post(said: Mapping[str, Any], host: FilmHost) -> Hosted:
    html = said.get("html")
    posted = read_post(html, host) if isinstance(html, str) else None
    if posted is None:
        raise HostError(
            f"At this address {host.name} has no film, and no words that could be kept (it says “rich”). Link to it "
            "instead."
        )
    author = _words(said.get("author_name"), 200)
    # What the network says of the author leads to the network, or nowhere.
    led = _address(said.get("author_url"))
    known = origin_of(led) in (origin_of(host.endpoint), host.frames)
    frame = ""
    with suppress(HostError):
        frame = _frame(str(html), host)
    return Hosted(
        title=title_of(author or host.name, posted.words),
        author=author,
        author_address=led if known else "",
        provider=_words(said.get("provider_name"), 100) or host.name,
        width=_number(said.get("width"), 2000) or 480,
        height=_number(said.get("height"), 2000) or 360,
        frame=frame,
        cache_age=_number(said.get("cache_age"), 10**9),
        post=posted,
    )


def _said(data: bytes, host: FilmHost) -> Mapping[str, Any]:
    text = data.lstrip(b"\xef\xbb\xbf \t\r\n")
    try:
        if text.startswith(b"<"):
            return _xml(text)
        said = json.loads(text)
    except (ValueError, RecursionError, lxml.etree.XMLSyntaxError) as error:
        raise HostError(_NOT_UNDERSTOOD.format(host.name)) from error
    if not isinstance(said, dict):
        raise HostError(_NOT_UNDERSTOOD.format(host.name))
    return said


def _xml(data: bytes) -> Mapping[str, Any]:
    """The elements below ``oembed`` with their words (oEmbed 1.0, 2.3.2). Nothing outside is asked for."""
    parser = lxml.etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
    root = lxml.etree.fromstring(data, parser)
    if root.tag != "oembed":
        raise ValueError("no oEmbed")
    return {str(child.tag): child.text or "" for child in root if isinstance(child.tag, str)}


def _number(value: object, most: int = 20_000) -> int:
    """A whole number within bounds; 0 where it is none. Hosts write them as words, too."""
    if isinstance(value, bool):
        return 0
    if isinstance(value, str) and re.fullmatch(r"\d{1,9}(?:\.\d{1,9})?", value.strip()):
        value = float(value)
    if isinstance(value, float) and isfinite(value):
        value = round(value)
    return value if isinstance(value, int) and 0 < value <= most else 0


def _words(value: object, most: int) -> str:
    """Words without signs that cannot be seen, cut at a limit."""
    if not isinstance(value, str):
        return ""
    return " ".join(_UNSEEN.sub(" ", unescape(value)).split())[:most]


def _address(value: object) -> str:
    """An address of the web; "" for anything else."""
    return value if isinstance(value, str) and len(value) <= LONGEST and origin_of(value) else ""


def _frame(html: str, host: FilmHost) -> str:
    """The address of the frame in a host's HTML, of which nothing else is kept."""
    frames = LexborHTMLParser(html).css("iframe")
    address = (frames[0].attributes.get("src") or "").strip() if frames else ""
    if address.startswith("//"):
        address = f"{host.frames.partition(':')[0]}:{address}"
    if not address:
        raise HostError(f"{host.name} wants to play this film by a script of its own, which is not let in. Link to it.")
    if origin_of(address) != host.frames:
        named = (origin_of(address) or "nowhere").partition("//")[2] or "nowhere"
        raise HostError(
            f"{host.name} wants to show this film in a frame from {named[:100]}, which is not where its films are. "
            "Link to it, or ask an administrator."
        )
    return address


def endpoints_in(html: bytes, host: FilmHost) -> list[str]:
    """Where the page of a film says that its oEmbed is (oEmbed 1.0, section 4), JSON first; only where the host's
    endpoint is, too."""
    found: dict[str, list[str]] = {"application/json+oembed": [], "text/xml+oembed": [], "application/xml+oembed": []}
    for link in LexborHTMLParser(html[:LARGEST]).css("link[rel~=alternate]"):
        kind, address = link.attributes.get("type") or "", _address(link.attributes.get("href"))
        if kind in found and origin_of(address) == origin_of(host.endpoint):
            found[kind].append(address)
    return [address for addresses in found.values() for address in addresses]
