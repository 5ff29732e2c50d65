"""What a player of a film or sound is given: its files in the order in which browsers try them, its cover, words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..languages import OWN_NAMES
from ..resolving import AnyFilm, FilmTarget, HostedTarget, ImageFile, PictureTarget, Resolver, Track
from .films import MP4, WEBM
from .labels import in_words
from .shown import Room, shown, shown_size

NARROW = "(max-width: 700px)"
"""The screens to which the smaller film is given (CSS Media Queries 4)."""
FIRST_STILL = "still-10"
_TYPES = (WEBM.mime, "audio/webm", MP4.mime, "audio/mp4")


@dataclass(frozen=True)
class PlayedFile:
    """A source of a player: its address, its MIME type, and the screens that it is for ("" for all)."""

    address: str
    mime: str
    media: str = ""


def sources(target: FilmTarget) -> list[PlayedFile]:
    """The files of a film or sound, what a browser should try first first: the smaller one on narrow screens, then the
    newer format, then the one that every browser plays."""
    small = [PlayedFile(file.address, file.mime, NARROW) for file in target.files if file.cut == "small"]
    whole = [file for file in target.files if file.cut == target.kind and file.mime in _TYPES]
    whole.sort(key=lambda file: _TYPES.index(file.mime))
    return [*small, *(PlayedFile(file.address, file.mime) for file in whole)]


def whole_file(target: FilmTarget) -> ImageFile | None:
    """The file that everybody can play, which a link leads to; None while there is none."""
    found = [file for file in target.files if file.cut == target.kind]
    return next((file for file in found if file.mime in (MP4.mime, "audio/mp4")), found[0] if found else None)


def stills(target: FilmTarget, cover: str | None) -> list[ImageFile]:
    """The files of the still that a cover names, narrowest first; those of the first still where it is not there."""
    found = [file for file in target.files if file.cut == (cover or FIRST_STILL)]
    return sorted(found or [file for file in target.files if file.cut == FIRST_STILL], key=lambda file: file.width)


def cover_item(attrs: Mapping[str, Any]) -> int | None:
    """The number of the picture that is a film's cover; None where that is a still of its own."""
    cover = attrs.get("cover") or ""
    return int(cover[5:]) if cover.startswith("item-") else None


def cover_file(target: FilmTarget, attrs: Mapping[str, Any], room: Room, resolver: Resolver) -> tuple[str, int]:
    """The address of the picture before a film plays, and its size in bytes; ("", 0) where there is none."""
    width = film_size(target, attrs, room)[0]
    number = cover_item(attrs)
    picture = resolver.picture(number) if number else None
    if picture is not None and picture.files:
        return _of_picture(picture, width, room)
    found = stills(target, None if number else attrs.get("cover"))
    chosen = next((file for file in found if file.width >= width), found[-1] if found else None)
    return (chosen.address, chosen.size) if chosen else ("", 0)


def _of_picture(picture: PictureTarget, width: int, room: Room) -> tuple[str, int]:
    address = shown(picture, {**_PLAIN, "width": min(width, 4000)}, room).src
    return address, next((file.size for file in picture.files if file.address == address), 0)


_PLAIN: Mapping[str, Any] = dict.fromkeys(("place", "turn", "straighten", "crop", "ratio", "focus"))


def film_size(target: FilmTarget, attrs: Mapping[str, Any], room: Room) -> tuple[int, int]:
    """Width and height of a film at a use with these attributes, in CSS pixels."""
    return shown_size(attrs, (target.width, target.height), room)


HOSTED_WIDTH = 1280
"""How wide a film elsewhere may be shown at least, in CSS pixels: hosts tell the size of a player, not of a film."""


HOSTED_NARROW = 360
"""Below this width, in CSS pixels, the words of a film elsewhere stand under its cover and not upon it."""


def hosted_natural(width: int, height: int) -> tuple[int, int]:
    """The size up to which a film elsewhere is shown, of the size that its host tells."""
    return (width, height) if width >= HOSTED_WIDTH else (HOSTED_WIDTH, max(1, round(height * HOSTED_WIDTH / width)))


def hosted_size(target: HostedTarget, attrs: Mapping[str, Any], room: Room) -> tuple[int, int]:
    """Width and height of a film elsewhere at a use with these attributes, in CSS pixels."""
    return shown_size(attrs, hosted_natural(target.width, target.height), room)


def hosted_cover(target: HostedTarget, attrs: Mapping[str, Any], room: Room, resolver: Resolver) -> tuple[str, int]:
    """The address of the picture before a film elsewhere plays, and its size in bytes; ("", 0) where there is none."""
    number = cover_item(attrs)
    chosen = resolver.picture(number) if number else None
    picture = chosen if chosen is not None and chosen.files else target.cover
    if picture is None or not picture.files:
        return "", 0
    return _of_picture(picture, hosted_size(target, attrs, room)[0], room)


def length_in_words(milliseconds: int) -> str:
    """A length as readers are told it: “2 min 5 s”, “40 s”, “1 h 10 min”."""
    minutes, seconds = divmod(max(1, round(milliseconds / 1000)), 60)
    hours, minutes = divmod(minutes, 60)
    if hours:
        return f"{hours} h {minutes} min" if minutes else f"{hours} h"
    if minutes:
        return f"{minutes} min {seconds} s" if seconds else f"{minutes} min"
    return f"{seconds} s"


def told_of_host(target: HostedTarget) -> str:
    """Where a film elsewhere is, and how long it is."""
    name = target.host.name if target.host else target.provider
    return ", ".join(filter(None, (name, length_in_words(target.lasts * 1000) if target.lasts else "")))


def told(target: AnyFilm) -> str:
    """A film by its title, kind, size and length, for who gets a link to it in place of a player."""
    if isinstance(target, HostedTarget):
        return f"{target.title} ({told_of_host(target)})"
    file = whole_file(target)
    kind = "MP4" if target.kind == "film" else "M4A"
    size = f", {in_words(file.size)}" if file and file.size else ""
    return f"{target.title} ({kind}{size}, {length_in_words(target.lasts)})"


def transcribed(target: FilmTarget) -> Track | None:
    """The captions from which a transcript is made: the first there are. Those in the page's language stand first."""
    return next((track for track in target.tracks if track.sort == "captions" and track.paragraphs), None)


TRANSCRIPT = {
    "cs": "Přepis",
    "cy": "Trawsgrifiad",
    "de": "Wortlaut",
    "en": "Transcript",
    "es": "Transcripción",
    "fr": "Transcription",
    "it": "Trascrizione",
    "nl": "Transcript",
    "pl": "Transkrypcja",
    "pt": "Transcrição",
    "sv": "Utskrift",
}
"""What readers are told that the words of a film are, by the language of these words."""


def transcript_name(track: Track) -> str:
    """What a transcript is called, in its own language where that is known."""
    first = track.language.partition("-")[0].lower()
    return TRANSCRIPT.get(first) or f"Transcript ({OWN_NAMES.get(first, track.language)})"
