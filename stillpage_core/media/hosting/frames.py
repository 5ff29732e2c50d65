"""The address of a frame with what somebody has chosen."""

from __future__ import annotations

from collections.abc import Mapping
from urllib.parse import parse_qsl, urlencode, urlsplit

from .hosts import FilmHost, HostError, origin_of


def frame_address(frame: str, host: FilmHost, chosen: Mapping[str, int | bool]) -> str:
    """The address of a film's frame with options, of which only those that the host honours are written.

    Raises:
        HostError: when the frame is not of the host's origin (any more).
    """
    if origin_of(frame) != host.frames:
        raise HostError(f"The frame of this film is not from {host.name}.")
    parts = urlsplit(frame)
    query = dict(parse_qsl(parts.query, keep_blank_values=True))
    for name, written in host.options.items():
        value = chosen.get(name)
        if value is None or value is False:
            continue
        key, _, form = written.partition("=")
        query[key] = form.replace("{}", str(int(value)))
    return parts._replace(query=urlencode(query), fragment="").geturl()
