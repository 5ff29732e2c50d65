"""Shapes of the table of hosts."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Field, Schema

_Pattern = Annotated[str, Field(max_length=2000)]


class HostIn(Schema):
    """A host that films may be shown from. ``addresses`` are those of its films, as oEmbed 1.0 writes them;
    ``options`` say how its player is told what, as in “t={}” or “cc=1”."""

    name: str = Field(max_length=80)
    addresses: list[_Pattern] = Field(max_length=40)
    endpoint: str = Field(max_length=2000)
    frames: str = Field(max_length=255)
    options: dict[Literal["start", "captions", "muted", "loop", "autoplay"], Annotated[str, Field(max_length=90)]] = {}


class HostOut(HostIn):
    id: int
    films: int = Field(description="How many films the library has from there.")
    removed: bool


class HostTry(Schema):
    """A host as it is typed, and the address or the code of a film to try it with."""

    host: HostIn
    address: str = Field(max_length=20_000)


class HostTried(Schema):
    """What a host says of a film; ``with_options`` is the address of its player with everything that it honours."""

    title: str
    author: str
    width: int
    height: int
    lasts: int = Field(description="In seconds; 0 where it does not say.")
    cover: str
    frame: str
    with_options: str
