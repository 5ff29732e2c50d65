"""What a host says of a film (oEmbed 1.0), asked by way of `outside.fetching`, so that nothing can be reached that
should not be. Touches no database: many are asked at a time."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import dataclass

from stillpage.outside.fetching import FetchError, fetch_whole
from stillpage_core.media.hosting import FilmHost, Hosted, HostError, Posted, endpoints_in, question_for, read_answer
from stillpage_core.media.hosting.answers import LARGEST

COVER_LIMIT = 8 * 1024 * 1024
"""The most bytes of a cover."""
SECONDS = 15.0
"""How long one question may take; and after how long no other is asked."""
_SURE = (401, 403, 404, 410, 429)
"""Answers of an endpoint after which no other one is looked for."""


@dataclass(frozen=True)
class Reply:
    """What came of asking: what is known of the film, or in a sentence why nothing is; ``gone`` that there is nothing
    to be had, whoever asks again."""

    hosted: Hosted | None = None
    fault: str = ""
    gone: bool = False


def ask(host: FilmHost, address: str) -> Reply:
    """Ask a host for a film: at its endpoint, in JSON and in XML; then where the film’s page names another."""
    reply = Reply(fault=f"{host.name} does not answer.")
    end = time.monotonic() + SECONDS
    for question in _questions(host, address):
        if time.monotonic() > end:
            break
        status, data, fault = _asked(question)
        if not status:
            return Reply(fault=fault)
        try:
            return Reply(read_answer(data, host, status=status))
        except HostError as error:
            reply = Reply(fault=str(error), gone=status in (401, 403, 404, 410))
            if status in _SURE:
                break
    return reply


def _questions(host: FilmHost, address: str) -> Iterator[str]:
    asked = question_for(host, address)
    yield asked
    yield asked.replace("format=json", "format=xml")
    status, page, _ = _asked(address)
    if status == 200:
        yield from endpoints_in(page, host)[:2]


def _asked(address: str) -> tuple[int, bytes, str]:
    """The status and the bytes at an address; 0 and why, where there was no answer."""
    try:
        return 200, fetch_whole(address, LARGEST, SECONDS), ""
    except FetchError as error:
        return error.answer, b"", str(error)


@dataclass(frozen=True)
class Pictures:
    """The bytes of a post's pictures, each with the words that stand for it, and why others could not be had."""

    had: tuple[tuple[bytes, str], ...] = ()
    faults: tuple[str, ...] = ()


def pictures_of(post: Posted) -> Pictures:
    """The pictures that a network names in a post."""
    had: list[tuple[bytes, str]] = []
    faults: list[str] = []
    for address, alt in post.pictures:
        try:
            had.append((fetch_whole(address, COVER_LIMIT, SECONDS), alt))
        except FetchError as error:
            faults.append(str(error))
    return Pictures(tuple(had), tuple(faults))


def cover_of(hosted: Hosted) -> tuple[bytes, str]:
    """The bytes of the cover that a host names; b"" and, where it names one, why it could not be had."""
    if not hosted.cover:
        return b"", ""
    try:
        return fetch_whole(hosted.cover, COVER_LIMIT, SECONDS), ""
    except FetchError as error:
        return b"", str(error)
