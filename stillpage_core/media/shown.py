"""How wide a picture is shown at a place of the page, and from which files."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..document.node import Node
from ..document.schema import MAIN
from ..errors import Path
from ..resolving import ImageFile, PictureTarget
from .editing import Cut, cut_of
from .pictures import AVIF, GIF, JPEG, PNG, SVG, WEBP

EDGE = 24
"""What the theme leaves free on either side of a narrow screen, in CSS pixels."""

DENSEST = 3
"""The most device pixels to a CSS pixel that files are offered for."""


@dataclass(frozen=True)
class Room:
    """How much room a theme gives to pictures in one of its regions, in CSS pixels: ``column`` is the widest in running
    text, ``wide`` the widest that reaches beyond it."""

    column: int
    wide: int

    @property
    def beside(self) -> int:
        """The widest of a picture that text flows round: a third of the column is left to the text."""
        return self.column * 2 // 3

    @property
    def usually_beside(self) -> int:
        """How wide such a picture is where nothing is said of it (common practice: about 300 to 400 px in a column of
        700)."""
        return self.column // 2


Rooms = Mapping[str, Room]
"""The rooms that a theme has, by the names of its regions."""

USUAL = Room(720, 1120)
"""The room where no theme says another, as in a file that is read apart from any."""


def room_in(rooms: Rooms | None, region: str) -> Room:
    """The room for pictures in a region; in one that the theme does not have, that of main."""
    return (rooms or {}).get(region) or (rooms or {}).get(MAIN, USUAL)


def room_of(document: Node, path: Path, rooms: Rooms | None) -> Room:
    """The room for a picture at a path of a document."""
    return room_in(rooms, document.content[path[0]].attrs["name"])


_OLDER = (JPEG.mime, PNG.mime, GIF.mime, SVG.mime)


@dataclass(frozen=True)
class Source:
    """Files of one format among which the browser chooses."""

    type: str
    srcset: str


@dataclass(frozen=True)
class Shown:
    """What the elements of a picture say: its size in CSS pixels, and its files. ``src`` is "" while there are none."""

    width: int
    height: int
    src: str
    srcset: str
    sizes: str
    sources: tuple[Source, ...]


def picture_cut(target: PictureTarget, attrs: Mapping[str, Any]) -> Cut:
    """What is cut from the original at a use with these attributes. A drawing of lines (SVG) is shown whole."""
    if any(file.mime == SVG.mime for file in target.files):
        return Cut()
    return cut_of(attrs, target.edits, target.width, target.height)


def shown_size(
    attrs: Mapping[str, Any], natural: tuple[int, int], room: Room, *, drawn: bool = False
) -> tuple[int, int]:
    """Width and height in CSS pixels of a picture whose own size (after its cut) is ``natural``: never larger than
    that, nor than its place. A picture that is ``drawn`` of lines (SVG) may be made larger, since that costs nothing.
    """
    if attrs["place"] in ("start", "end"):
        usual, most = room.usually_beside, room.beside
    else:
        usual = most = room.wide if attrs["place"] == "wide" else room.column
    width = min(attrs["width"] or min(usual, natural[0]), most, room.wide if drawn else natural[0])
    return width, max(1, round(natural[1] * width / natural[0]))


def shown(target: PictureTarget, attrs: Mapping[str, Any], room: Room) -> Shown:
    """How a picture is shown at a use with these attributes.

    Where nothing has been made yet of what is left after the cut, the files of the whole picture serve.
    """
    cut = picture_cut(target, attrs)
    files = [file for file in target.files if file.cut == cut.key] or [file for file in target.files if not file.cut]
    drawn = any(file.mime == SVG.mime for file in files)
    width, height = shown_size(attrs, cut.size(target.width, target.height), room, drawn=drawn)
    edges = 2 * EDGE
    sizes = f"(min-width: {width + edges}px) {width}px, calc(100vw - {edges}px)"
    older = [file for file in files if file.mime in _OLDER or not file.mime] or files
    chosen = min(older, key=lambda file: (file.width < width, abs(file.width - width)), default=None)
    return Shown(
        width,
        height,
        chosen.address if chosen else "",
        _srcset(older, width) if len(older) > 1 else "",
        sizes,
        tuple(
            Source(form.mime, _srcset(those, width))
            for form in (AVIF, WEBP)
            if (those := [file for file in files if file.mime == form.mime]) and those != older
        ),
    )


def large_file(target: PictureTarget, attrs: Mapping[str, Any]) -> ImageFile:
    """The largest file of a picture, cut as a use says, that every browser shows. The picture must have files."""
    cut = picture_cut(target, attrs)
    files = [file for file in target.files if file.cut == cut.key] or [file for file in target.files if not file.cut]
    files = files or list(target.files)
    return max((file for file in files if file.mime in _OLDER or not file.mime), key=_wide, default=files[-1])


def _wide(file: ImageFile) -> int:
    return file.width


def taken_by_most(target: PictureTarget, attrs: Mapping[str, Any], room: Room) -> ImageFile:
    """The file by which a picture is weighed: the one a present browser takes on a screen of two device pixels to a
    CSS pixel. The picture must have files."""
    cut = picture_cut(target, attrs)
    files = [file for file in target.files if file.cut == cut.key] or list(target.files)
    best = next((kind for kind in (AVIF.mime, WEBP.mime) if any(file.mime == kind for file in files)), None)
    files = sorted((file for file in files if best in (None, file.mime)), key=lambda file: file.width)
    needed = 2 * shown_size(attrs, cut.size(target.width, target.height), room)[0]
    return next((file for file in files if file.width >= needed), files[-1])


def _srcset(files: list[ImageFile], width: int) -> str:
    """The files a screen may need that shows the picture so wide, at one to `DENSEST` pixels each."""
    ordered = sorted(files, key=lambda file: file.width)
    enough = next((file.width for file in ordered if file.width >= width * DENSEST), ordered[-1].width)
    return ", ".join(f"{file.address} {file.width}w" for file in ordered if file.width <= enough)
