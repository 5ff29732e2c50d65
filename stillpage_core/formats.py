"""The formats that a page comes in and goes out as: one table for the shell, the API and the interface."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from io import BytesIO

from .document.node import Node
from .errors import ReadingError
from .media.documents import sniff_document
from .media.pictures import FileError
from .media.playing import FIRST_STILL
from .reading import Arriving, Message, Reading, read_html, read_markdown, read_text
from .reading.docx import read_docx
from .reading.encoding import decoded, text_from
from .reading.odt import read_odt
from .references import parse_reference
from .resolving import (
    AnimationTarget,
    FilmTarget,
    HostedTarget,
    ImageFile,
    ItemTarget,
    PageTarget,
    PictureTarget,
    PostTarget,
)
from .writing import plain_text
from .writing.carrying import Carried, alt_of
from .writing.docx import docx
from .writing.html import html_file
from .writing.markdown import Places, markdown
from .writing.odt import odt

Read = Callable[[bytes, Arriving, int], Reading]
Write = Callable[[Node, Carried], bytes]

FOLDER = "pictures"
"""The folder beside a file in which its pictures go along."""


@dataclass(frozen=True)
class Format:
    """A format of pages. ``beside`` tells that pictures go along as files of their own."""

    name: str
    ending: str
    mime: str
    read: Read
    write: Write
    also: tuple[str, ...] = ()
    beside: bool = False


def picture_path(carried: Carried, number: int) -> str:
    """Where the file of a picture stands beside the page."""
    file = carried.pictures.get(number)
    if file is None:
        return f"item:{number}"
    stem, _, ending = re.sub(r"[^\w.-]+", "-", file.name).rpartition(".")
    return f"{FOLDER}/{number}-{stem.strip('-.')[:60] or 'picture'}.{ending or 'bin'}"


@dataclass(frozen=True)
class _Outside:
    """Answers the writer of HTML from what goes along."""

    carried: Carried

    def page(self, number: int) -> PageTarget | None:
        address = self.carried.leads(f"page:{number}")
        return PageTarget(number, "", address) if address else None

    def item(self, number: int) -> ItemTarget | None:
        address = self.carried.leads(f"item:{number}")
        if address and (known := self.carried.items.get(number)):
            return replace(known, address=address)
        return ItemTarget(number, "", address, "", 0) if address else None

    def picture(self, number: int) -> PictureTarget | None:
        file = self.carried.pictures.get(number)
        if file is None:
            return None
        image = ImageFile(picture_path(self.carried, number), file.width, file.height)
        return PictureTarget(number, file.name, file.alt, (image,), decorative=file.decorative)

    def film(self, number: int) -> FilmTarget | None:
        target = self.carried.films.get(number)
        if not isinstance(target, FilmTarget):
            return None
        files = [file for file in target.files if file.cut in ("film", "small", "sound")]
        for looks, image in self._covers(number):
            own = looks and not looks.startswith("item-")
            files.append(replace(image, cut=looks if own else FIRST_STILL))
        return replace(target, files=tuple(files))

    def _covers(self, number: int) -> Iterator[tuple[str, ImageFile]]:
        for looks, cover in self.carried.covers.get(number, {}).items():
            if file := self.carried.pictures.get(cover):
                yield looks, ImageFile(picture_path(self.carried, cover), file.width, file.height)

    def hosted(self, number: int) -> HostedTarget | None:
        target = self.carried.films.get(number)
        if not isinstance(target, HostedTarget):
            return None
        covers = self.carried.covers.get(number, {})
        cover = covers.get("") or next(iter(covers.values()), None)
        return replace(target, cover=self.picture(cover) if cover is not None else None)

    def animation(self, number: int) -> AnimationTarget | None:
        target = self.carried.animations.get(number)
        stills = [replace(image, cut=f"still-{looks}") for looks, image in self._covers(number)]
        return target and replace(target, files=tuple(stills))

    def post(self, number: int) -> PostTarget | None:
        return self.carried.posts.get(number)

    def outside_fault(self, address: str) -> str | None:
        return None


def _html(document: Node, carried: Carried) -> bytes:
    return html_file(document, _Outside(carried), carried.title, carried.language, carried.description).encode()


def _leads(carried: Carried) -> Callable[[str], str | None]:
    def leads(href: str) -> str | None:
        reference = parse_reference(href)
        return href if reference and reference.kind not in ("page", "item") else carried.leads(href)

    return leads


def _markdown(document: Node, carried: Carried) -> bytes:
    places = Places(
        _leads(carried), lambda number: picture_path(carried, number), lambda picture: alt_of(picture, carried)
    )
    escaped = re.sub(r"([\\`*_\[\]<>&$~])", r"\\\1", carried.title)
    title = f"# {escaped}\n\n" if carried.title else ""
    quoted = carried.description.replace("'", "''")
    front = f"---\ndescription: '{quoted}'\n---\n\n" if carried.description else ""
    return (front + title + markdown(document, places)).encode()


def _text(document: Node, carried: Carried) -> bytes:
    title = f"{carried.title}\n\n" if carried.title else ""
    words = plain_text(
        document,
        lambda picture: alt_of(picture, carried),
        carried.films,
        carried.items,
        animations=carried.animations,
        posts=carried.posts,
    )
    return (title + words).encode()


def _told(data: bytes, read: Callable[[str], Reading]) -> Reading:
    """What a file of text becomes; an encoding that had to be guessed is told."""
    found = decoded(data)
    reading = read(found.text)
    if not found.told:
        return reading
    return replace(reading, messages=(Message("mended", found.told), *reading.messages))


FORMATS: Mapping[str, Format] = {
    each.ending: each
    for each in (
        Format(
            "Word document",
            "docx",
            "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
            lambda data, arriving, under: read_docx(data, arriving, under=under),
            docx,
        ),
        Format(
            "OpenDocument text",
            "odt",
            "application/vnd.oasis.opendocument.text",
            lambda data, arriving, under: read_odt(data, arriving, under=under),
            odt,
        ),
        Format(
            "Markdown",
            "md",
            "text/markdown; charset=utf-8",
            lambda data, arriving, _: _told(data, lambda text: read_markdown(text, arriving)),
            _markdown,
            also=("markdown", "mdown", "mkd"),
            beside=True,
        ),
        Format(
            "HTML",
            "html",
            "text/html; charset=utf-8",
            lambda data, arriving, under: _told(data, lambda text: read_html(text, arriving, under=under)),
            _html,
            also=("htm", "xhtml"),
            beside=True,
        ),
        Format(
            "Text",
            "txt",
            "text/plain; charset=utf-8",
            lambda data, arriving, under: _told(data, lambda text: read_text(text, arriving, under=under)),
            _text,
            also=("text",),
        ),
    )
}
"""By file ending."""

_BY_ENDING = {ending: each for each in FORMATS.values() for ending in (each.ending, *each.also)}
_WOULD_DO = "Pages are made of DOCX, ODT, Markdown, HTML and text."


def format_of(name: str, data: bytes) -> Format:
    """The format of a file: for packages by their bytes, for text by the name, or by its first words.

    Raises:
        ReadingError: when it is nothing that a page can be made of.
    """
    if not data.strip():
        raise ReadingError(f"This file is empty. {_WOULD_DO}")
    if data.startswith(b"%PDF-"):
        raise ReadingError(f"This is a PDF, which has pages but no paragraphs. {_WOULD_DO}")
    ending = name.rsplit(".", 1)[-1].lower() if "." in name else ""
    if data.startswith(b"\xd0\xcf\x11\xe0"):
        return FORMATS["odt" if ending == "odt" else "docx"]
    if data.startswith(b"PK"):
        try:
            known = sniff_document(BytesIO(data))
        except FileError as error:
            raise ReadingError(str(error)) from error
        if known is None and ending in ("docx", "odt"):
            return FORMATS[ending]
        if known is None or known.ending not in FORMATS:
            raise ReadingError(f"No page can be made of this file. {_WOULD_DO}")
        return FORMATS[known.ending]
    if ending in _BY_ENDING and ending not in ("docx", "odt"):
        return _BY_ENDING[ending]
    if re.match(rb"(?:\xef\xbb\xbf)?\s*<(?:!doctype html|html|head|body|article)\b", data[:512], re.IGNORECASE):
        return FORMATS["html"]
    text_from(data)
    if ending in ("docx", "odt"):
        raise ReadingError(f"This file is named like a {FORMATS[ending].name}, but is none. {_WOULD_DO}")
    return FORMATS["txt"]


def read_file(name: str, data: bytes, arriving: Arriving | None = None, *, under: int = 1) -> Reading:
    """Read a file as what its bytes and its name say it is. ``under`` as in `reading.mending.mended`.

    Raises:
        ReadingError: when it cannot be read; the sentence says why and what would do.
    """
    return format_of(name, data).read(data, arriving or Arriving(), under)
