"""Fetching from an address that somebody has typed, so that nothing can be reached that should not be.

Every connection, those of redirects too, goes to an address that was looked up and judged just before: only hosts of
the public internet are connected to, and those that the settings name. What comes is limited in time and in bytes.
"""

from __future__ import annotations

import ipaddress
import socket
import ssl
import time
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from tempfile import SpooledTemporaryFile
from typing import Any
from urllib.parse import quote, unquote, urljoin, urlsplit

import certifi
import httpcore
from django.conf import settings

from stillpage_core.errors import CoreError
from stillpage_core.references import web_parts

MOST_REDIRECTS = 5
IN_MEMORY = 2 * 1024 * 1024
_AGENT = b"StillPage/1 (media library)"
_PIECE = 64 * 1024


class FetchError(CoreError):
    """Nothing could be had from an address; the sentence says why. ``answer`` is the status of HTTP that was answered,
    0 where there was none."""

    def __init__(self, sentence: str, answer: int = 0) -> None:
        super().__init__(sentence)
        self.answer = answer


class _Barred(Exception):
    """A host may not be connected to."""


class _Late(httpcore.TimeoutException):
    """The time for all of it is up, whoever has kept on sending until then."""


class _Guarded(httpcore.NetworkBackend):
    """Looks a host up, judges what it finds, and connects to just that: nobody can answer otherwise meanwhile."""

    def __init__(self, end: float) -> None:
        self.plain = httpcore.SyncBackend()
        self.end = end

    def connect_tcp(
        self,
        host: str,
        port: int,
        timeout: float | None = None,
        local_address: str | None = None,
        socket_options: Iterable[Any] | None = None,
    ) -> httpcore.NetworkStream:
        try:
            found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
        except (socket.gaierror, UnicodeError) as error:
            raise httpcore.ConnectError(str(error)) from error
        addresses = list(dict.fromkeys(str(each[4][0]) for each in found))
        if f"{host}:{port}" not in settings.OUTSIDE_ALLOWED and not all(_is_public(each) for each in addresses):
            raise _Barred
        stream = self.plain.connect_tcp(addresses[0], port, _left(self.end, timeout), local_address, socket_options)
        return _Timed(stream, self.end)

    def sleep(self, seconds: float) -> None:
        self.plain.sleep(seconds)


class _Timed(httpcore.NetworkStream):
    """A connection that ends at a moment, whatever comes until then: whoever sends a byte now and then, in headers
    or in what follows, holds nobody for longer."""

    def __init__(self, stream: httpcore.NetworkStream, end: float) -> None:
        self.stream = stream
        self.end = end

    def read(self, max_bytes: int, timeout: float | None = None) -> bytes:
        with _until(self.end):
            return self.stream.read(max_bytes, _left(self.end, timeout))

    def write(self, buffer: bytes, timeout: float | None = None) -> None:
        with _until(self.end):
            self.stream.write(buffer, _left(self.end, timeout))

    def close(self) -> None:
        self.stream.close()

    def start_tls(
        self, ssl_context: ssl.SSLContext, server_hostname: str | None = None, timeout: float | None = None
    ) -> httpcore.NetworkStream:
        return _Timed(self.stream.start_tls(ssl_context, server_hostname, _left(self.end, timeout)), self.end)

    def get_extra_info(self, info: str) -> Any:
        return self.stream.get_extra_info(info)


@contextmanager
def _until(end: float) -> Iterator[None]:
    """Waiting in vain up to the very end is not the same as an answer that does not come."""
    try:
        yield
    except httpcore.TimeoutException as error:
        if time.monotonic() >= end:
            raise _Late from error
        raise


def _left(end: float, timeout: float | None) -> float:
    """How long may be waited now, in seconds. Raises when the end has come."""
    left = end - time.monotonic()
    if left <= 0:
        raise _Late
    return left if timeout is None else min(left, timeout)


_WITHIN = tuple(
    (ipaddress.IPv6Network(each), shift)
    for each, shift in (
        ("64:ff9b::/96", 0),  # NAT64, the well-known prefix (RFC 6052)
        ("64:ff9b:1::/48", 0),  # NAT64, local use (RFC 8215)
        ("::ffff:0:0/96", 0),  # mapped (RFC 4291, 2.5.5.2)
        ("::ffff:0:0:0/96", 0),  # translated (RFC 7915)
        ("::/96", 0),  # compatible (RFC 4291, 2.5.5.1)
        ("2002::/16", 80),  # 6to4 (RFC 3056)
    )
)
"""Networks of IPv6 whose addresses hold one of IPv4, and how many bits stand behind that."""


def _is_public(address: str) -> bool:
    """Whether an address belongs to the public internet (IANA special-purpose registries, as `ipaddress` has them), and
    so does the one of IPv4 that it may hold."""
    found = ipaddress.ip_address(address.partition("%")[0])
    if isinstance(found, ipaddress.IPv6Address):
        if found.teredo is not None or found.is_site_local:
            return False
        for network, shift in _WITHIN:
            if found in network:
                # Hosts of the public internet have addresses of their own; these lead through somebody's gateway.
                return network.prefixlen == 16 and _is_public(
                    str(ipaddress.IPv4Address(int(found) >> shift & 0xFFFFFFFF))
                )
    return found.is_global and not found.is_multicast


@dataclass(frozen=True)
class Progress:
    """How many bytes have come, and of how many (0 where that was not said)."""

    received: int
    of: int


@dataclass
class Fetched:
    """What came: its bytes, and a name for it. The file goes when it is closed."""

    file: Any
    name: str


def fetch(address: str, most: int, seconds: float | None = None) -> Iterator[Progress | Fetched]:
    """Fetch what is at an address; tells how far it is, and last what came. All of it may take ``seconds``, or what the
    settings allow.

    Raises:
        FetchError: when the address is none, may not be asked, does not answer in time, or has more than ``most``
            bytes; with a sentence.
    """
    end = time.monotonic() + min(seconds or settings.OUTSIDE_LONGEST, settings.OUTSIDE_LONGEST)
    context = ssl.create_default_context(cafile=certifi.where())
    with httpcore.ConnectionPool(ssl_context=context, network_backend=_Guarded(end), max_connections=2) as pool:
        for _ in range(MOST_REDIRECTS + 1):
            url = _judged(address)
            target = yield from _asked(pool, url, most, end)
            if isinstance(target, Fetched):
                yield target
                return
            address = _joined(url, target)
    raise FetchError("This address leads on and on, and never to a file.")


def fetch_whole(address: str, most: int, seconds: float | None = None) -> bytes:
    """All bytes at an address. Raises as `fetch` does."""
    for step in fetch(address, most, seconds):
        if isinstance(step, Fetched):
            with step.file as file:
                file.seek(0)
                data: bytes = file.read()
                return data
    raise FetchError("Nothing came.")


@dataclass(frozen=True)
class Probe:
    """What an address answered: its status, and the address that it leads to for good, if that is another."""

    status: int
    moved_to: str | None = None


def probe(address: str) -> Probe:
    """Ask whether there is something at an address, without having it sent: HEAD, and GET where that is refused.

    Raises:
        FetchError: when the address is none, may not be asked, does not answer in time, or leads on and on.
    """
    end = time.monotonic() + settings.OUTSIDE_LONGEST / 3
    context = ssl.create_default_context(cafile=certifi.where())
    for_good = True
    moved_to: str | None = None
    with httpcore.ConnectionPool(ssl_context=context, network_backend=_Guarded(end), max_connections=2) as pool:
        for _ in range(MOST_REDIRECTS + 1):
            url = _judged(address)
            status, target = _status(pool, "HEAD", url)
            if status >= 400:
                status, target = _status(pool, "GET", url)
            if target is None:
                return Probe(status, moved_to)
            for_good = for_good and status in (301, 308)
            address = _joined(url, target)
            moved_to = address if for_good else moved_to
    raise FetchError("This address leads on and on, and never anywhere.")


def _joined(url: str, target: str) -> str:
    """The address that an answer leads on to."""
    try:
        return urljoin(url, target)
    except ValueError as error:
        raise FetchError("This address leads on to one that is none.") from error


def _status(pool: httpcore.ConnectionPool, method: str, url: str) -> tuple[int, str | None]:
    """What is answered, and where it leads if that is somewhere else. What would come is not waited for."""
    with _answer(pool, method, url) as (answer, said):
        leads = answer.status in REDIRECTS and b"location" in said
        return answer.status, said[b"location"].decode("latin-1") if leads else None


def _judged(address: str) -> str:
    address = address.strip()
    parts = web_parts(address if "://" in address else f"https://{address}")
    if parts is None or parts.port == 0 or len(address) > 2000:
        raise FetchError("This is no address that can be fetched from. It should begin with https:// or http://.")
    if parts.username or parts.password:
        raise FetchError("An address with a name and a password in it is not fetched from.")
    return parts._replace(fragment="").geturl()


def _asked(pool: httpcore.ConnectionPool, url: str, most: int, end: float) -> Any:
    host = urlsplit(url).hostname
    with _answer(pool, "GET", url) as (answer, said):
        if answer.status in REDIRECTS and b"location" in said:
            return said[b"location"].decode("latin-1")
        if answer.status != 200:
            raise FetchError(f"{host} answers {answer.status}: {meant(answer.status)}.", answer.status)
        declared = said.get(b"content-length", b"")
        length = int(declared) if declared.isdigit() else 0
        name = unquote(urlsplit(url).path.rpartition("/")[2]) or str(host)
        return (yield from _read(answer, length, most, end, name))


REDIRECTS = (301, 302, 303, 307, 308)


def meant(status: int) -> str:
    """What an answer that is no success means, as the end of a sentence."""
    return _MEANT.get(status, "there is nothing to be had")


@contextmanager
def _answer(pool: httpcore.ConnectionPool, method: str, url: str) -> Iterator[tuple[Any, dict[bytes, bytes]]]:
    """An answer with its headers, before its body. Raises `FetchError` for whatever goes wrong then or later."""
    host = urlsplit(url).hostname
    seconds = settings.OUTSIDE_SECONDS
    timeout = {"connect": seconds, "read": seconds, "write": seconds, "pool": seconds}
    headers = {b"User-Agent": _AGENT, b"Accept": b"*/*", b"Accept-Encoding": b"identity"}
    try:
        ascii_url = url if url.isascii() else _quoted(url)
        with pool.stream(method, ascii_url, headers=list(headers.items()), extensions={"timeout": timeout}) as answer:
            yield answer, {name.lower(): value for name, value in answer.headers}
    except _Barred as error:
        raise FetchError(f"{host} is in a private network, and nothing is fetched from there.") from error
    except _Late as error:
        raise FetchError("This took too long to come. Load it yourself, and add the file.") from error
    except httpcore.TimeoutException as error:
        raise FetchError(f"{host} did not answer within {seconds:.0f} seconds. Try again later.") from error
    except (httpcore.NetworkError, httpcore.ProtocolError, httpcore.UnsupportedProtocol, OSError) as error:
        raise FetchError(f"{host} cannot be reached, or broke off. Check the address, or try again later.") from error


_MEANT = {
    401: "it asks for a password",
    403: "it does not give this out",
    404: "there is nothing at this address",
    410: "it is gone for good",
    429: "it is asked too often; try again later",
    500: "something is wrong there",
    503: "it is busy; try again later",
}


def _quoted(url: str) -> str:
    """An address of any characters as one of ASCII (RFC 3987, 3.1)."""
    parts = urlsplit(url)
    host = (parts.hostname or "").encode("idna").decode("ascii")
    netloc = f"{host}:{parts.port}" if parts.port else host
    path, query = quote(parts.path, safe="/%:@!$&'()*+,;=~-._"), quote(parts.query, safe="=&?/%:@!$'()*+,;~-._")
    return parts._replace(netloc=netloc, path=path, query=query).geturl()


def _read(answer: Any, length: int, most: int, end: float, name: str) -> Any:
    sentence = f"This is larger than {most // 1024 // 1024:,} MB, the most that is taken."
    if length > most:
        raise FetchError(sentence)
    file = SpooledTemporaryFile(max_size=IN_MEMORY)  # noqa: SIM115 - whoever gets it closes it
    try:
        received = told = 0
        yield Progress(0, length)
        for piece in answer.iter_stream():
            file.write(piece)
            received += len(piece)
            if received > most:
                raise FetchError(sentence)
            if time.monotonic() > end:
                raise FetchError("This took too long to come. Load it yourself, and add the file.")
            if received - told >= 4 * _PIECE:
                told = received
                yield Progress(received, length)
        if length and received < length:
            raise FetchError("The connection broke off before the end. Try again.")
        yield Progress(received, length)
    except BaseException:
        file.close()
        raise
    return Fetched(file, name)
