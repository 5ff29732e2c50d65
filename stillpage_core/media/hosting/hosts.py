"""A host that films may be at, and which host an address belongs to."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from urllib.parse import SplitResult, urlencode

from ...errors import CoreError
from ...references import web_parts

LONGEST = 2000
"""The most characters an address may have."""
OPTIONS = ("start", "captions", "muted", "loop", "autoplay")
"""What a host may let one choose: from which second on, captions shown, without sound, again and again, and beginning
by itself, which it does once a reader has pressed. Its buttons are never taken from a player."""
_SCHEME = re.compile(r"(https?)://(\*\.)?([a-z0-9-]+(?:\.[a-z0-9-]+)*)(?::(\d{1,5}))?(/[^\s?#]*)?")
_ORIGIN = re.compile(r"https?://[a-z0-9-]+(?:\.[a-z0-9-]+)*(?::\d{1,5})?")


class HostError(CoreError):
    """A film elsewhere cannot be had; the sentence says why, and what would do."""

    name = "not-hosted"
    title = "This film cannot be shown"


@dataclass(frozen=True)
class FilmHost:
    """A host of films that an administrator allows.

    ``addresses`` are those of its films, as oEmbed 1.0, 2.1 writes them: ``*`` stands for a subdomain at the beginning
    of the host, and for anything within the path. ``endpoint`` answers oEmbed; ``frames`` is the origin of the frames
    in which films play, and the only one from which any is shown. ``options`` says how each of `OPTIONS` that the host
    honours is written in the query of a frame's address: “t={}” (the braces for a number), “cc=1”.
    """

    name: str
    addresses: tuple[str, ...]
    endpoint: str
    frames: str
    options: Mapping[str, str] = field(default_factory=dict, hash=False)

    def problem(self) -> str | None:
        """What is wrong with it, in a sentence; None where it may stand."""
        if not self.name.strip():
            return "A host needs a name."
        if not self.addresses:
            return "Say which addresses its films have, as in https://films.example/watch/*."
        for each in self.addresses:
            if not _SCHEME.fullmatch(each):
                return f"“{each[:100]}” is no address of films. It should look like https://films.example/watch/*."
        if not _ORIGIN.fullmatch(self.frames):
            return "The frames need an origin, as in https://play.films.example, without a path."
        if not _split(self.endpoint) or "{" in self.endpoint:
            return "The endpoint needs an address, as in https://films.example/oembed."
        for name, written in self.options.items():
            if name not in OPTIONS or not re.fullmatch(r"[A-Za-z0-9_.-]{1,40}=[A-Za-z0-9_.,-]{0,40}(?:\{\})?", written):
                return f"The option “{name[:40]}” should be written like “t={{}}” or “cc=1”."
        return None


def _split(address: str) -> SplitResult | None:
    """An address of the web in its parts; None for anything else."""
    parts = web_parts(address)
    if parts is None or parts.port == 0 or parts.username or parts.password:
        return None
    clean = len(address) <= LONGEST and not re.search(r"[\s\x00-\x1f\x7f\"<>\\]", address)
    return parts if clean else None


def origin_of(address: str) -> str | None:
    """The origin of an address (RFC 6454), without the port that its scheme has anyway; None where it has none."""
    parts = _split(address)
    if parts is None:
        return None
    usual = {"http": 80, "https": 443}[parts.scheme]
    port = "" if parts.port in (None, usual) else f":{parts.port}"
    return f"{parts.scheme}://{parts.hostname}{port}"


def _fits(address: SplitResult, scheme: str) -> bool:
    """Whether an address is one of those that a scheme means."""
    match = _SCHEME.fullmatch(scheme)
    if match is None:
        return False
    kind, within, host, port, path = match.groups()
    named = (address.hostname or "").lower()
    if named != host and not (within and named.endswith(f".{host}")):
        return False
    if address.scheme != kind or address.port != (int(port) if port else None):
        return False
    return _holds(address.path or "/", re.split(r"\*+", path or "/"))


def _holds(path: str, parts: list[str]) -> bool:
    """Whether a path is these parts in their order with anything between them. Each part is looked for once, at the
    first place where it stands: no path takes longer than its length."""
    first, *others = parts
    if not others:
        return path == first
    if not path.startswith(first):
        return False
    *between, last = others
    at = len(first)
    for part in between:
        found = path.find(part, at)
        if found < 0:
            return False
        at = found + len(part)
    return path.endswith(last) and len(path) - len(last) >= at


def host_of(address: str, hosts: Iterable[FilmHost]) -> FilmHost | None:
    """The host that an address of a film belongs to; a frame's address belongs to it, too."""
    parts = _split(address)
    if parts is None:
        return None
    for host in hosts:
        if origin_of(address) == host.frames or any(_fits(parts, each) for each in host.addresses):
            return host
    return None


def question_for(host: FilmHost, address: str, width: int = 1280) -> str:
    """The address at which the host says what it knows of a film (oEmbed 1.0, 2.2)."""
    joint = "&" if "?" in host.endpoint else "?"
    return f"{host.endpoint}{joint}{urlencode({'url': address, 'maxwidth': width, 'format': 'json'})}"
