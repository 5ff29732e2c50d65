"""Pictures of a commons, whose makers let everybody use them: found by words, and taken with licence and credit.

The commons answers ``GET /search?q=WORDS&page=N`` with JSON: ``pictures`` (``id``, ``title``, ``author``, ``licence``,
``alt``, ``width``, ``height``, ``preview`` and ``file``, both addresses) and ``more``.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode, urlsplit

from django.conf import settings

from .fetching import FetchError, fetch_whole

LARGEST_ANSWER = 1024 * 1024
LARGEST_PREVIEW = 512 * 1024


@dataclass(frozen=True)
class Offer:
    """A picture that may be taken. ``preview`` and ``file`` are addresses at the commons."""

    id: str
    title: str
    author: str
    licence: str
    alt: str
    width: int
    height: int
    preview: str
    file: str


def offered() -> bool:
    """Whether there is a commons to look in."""
    return bool(settings.COMMONS)


def search(q: str, page: int) -> tuple[list[Offer], bool]:
    """Pictures for some words, a page at a time, and whether there are more. Raises `FetchError`."""
    answer = _json(f"/search?{urlencode({'q': q, 'page': page})}")
    try:
        pictures = [Offer(**{name: each[name] for name in Offer.__dataclass_fields__}) for each in answer["pictures"]]
        more = bool(answer["more"])
    except (KeyError, TypeError) as error:
        raise FetchError("The commons answers in a way that cannot be understood. Try again later.") from error
    return [each for each in pictures if _is_there(each.preview) and _is_there(each.file)], more


def picture(number: str) -> Offer:
    """One picture by its number at the commons. Raises `FetchError`, also when it is gone."""
    answer = _json(f"/pictures/{urlencode({'': number})[1:]}")
    try:
        found = Offer(**{name: answer[name] for name in Offer.__dataclass_fields__})
    except (KeyError, TypeError) as error:
        raise FetchError("The commons answers in a way that cannot be understood. Try again later.") from error
    if not _is_there(found.file):
        raise FetchError("The commons names a file that is somewhere else; it is not fetched.")
    return found


def preview(number: str) -> bytes:
    """The small picture that shows what an offer is; JPEG. Raises `FetchError`."""
    offer = picture(number)
    data = fetch_whole(offer.preview, LARGEST_PREVIEW)
    if not data.startswith(b"\xff\xd8\xff"):
        raise FetchError("The commons has no picture to show for this.")
    return data


def facts_of(offer: Offer) -> dict[str, str]:
    """What is said of an item that was taken from the commons."""
    return {
        "title": offer.title[:200],
        "alt": offer.alt[:1000],
        "credit": offer.author[:200],
        "licence": offer.licence[:200],
        "description": f"From {urlsplit(settings.COMMONS).netloc}, number {offer.id}."[:2000],
    }


def _is_there(address: str) -> bool:
    return isinstance(address, str) and address.startswith(settings.COMMONS + "/")


def _json(path: str) -> Any:
    data = fetch_whole(settings.COMMONS + path, LARGEST_ANSWER)
    try:
        return json.loads(data)
    except ValueError as error:
        raise FetchError("The commons answers in a way that cannot be understood. Try again later.") from error
