"""Many files at once become pages: read one after another, then made all together or not at all."""

from __future__ import annotations

import posixpath
import re
import zipfile
import zlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import partial
from io import BytesIO
from urllib.parse import unquote

from django.core.files.base import ContentFile
from django.db import OperationalError, transaction

from stillpage.computing import computing, resting
from stillpage.library.receiving import receive, title_from_name
from stillpage.pages import tree
from stillpage.pages.models import Page
from stillpage.pages.seeing import sight_of
from stillpage.people.models import Person
from stillpage.sites.models import Site
from stillpage.written import saving
from stillpage_core.document import Node
from stillpage_core.errors import CoreError, ReadingError
from stillpage_core.formats import read_file
from stillpage_core.reading import Arriving, Message, Picture, Reading, with_pages
from stillpage_core.reading.reading import PROVISIONAL

from .arriving import arrived, surroundings

MOST_FILES = 2000
LARGEST_FILE = 128 * 1024 * 1024
LARGEST_IN_ALL = 1024 * 1024 * 1024
_SKIPPED = re.compile(r"(?:^|/)(?:__MACOSX|\.[^/]*|Thumbs\.db|desktop\.ini)(?:/|$)", re.IGNORECASE)
_PAGES = frozenset("docx odt md markdown mdown mkd html htm xhtml txt text".split())
_DEADLOCK, _TRIES = 1213, 5
_FIRST = frozenset({"index", "readme", "home"})


@dataclass
class Source:
    """A file to be read: its path among the others, and its bytes, which a ZIP unpacks only when they are asked for."""

    path: str
    load: partial[bytes]


@dataclass
class _Draft:
    """A page about to be made."""

    path: str
    title: str
    document: Node
    number: int
    messages: tuple[Message, ...] = ()
    description: str = ""


@dataclass
class Outcome:
    """What an import did: pages made, with what was done on the way, and files that could not be read, with why."""

    pages: list[tuple[Page, tuple[Message, ...]]] = field(default_factory=list)
    refused: list[tuple[str, str]] = field(default_factory=list)


@dataclass(frozen=True)
class Step:
    """How far an import is: this many files of so many, and the one being read."""

    done: int
    of: int
    name: str


def sources_of(files: Sequence[tuple[str, bytes]]) -> list[Source]:
    """The files to read, those within a ZIP among them.

    Raises:
        ReadingError: when a ZIP cannot be opened, is locked, or holds more than is taken.
    """
    sources: list[Source] = []
    for name, data in files:
        path = _path(name)
        if data.startswith(b"PK") and path.lower().endswith(".zip"):
            sources += _unpacked(path, data)
        elif not _SKIPPED.search(path):
            sources.append(Source(path, partial(bytes, data)))
    if not sources:
        raise ReadingError("There is no file in this that a page could be made of.")
    if len(sources) > MOST_FILES:
        raise ReadingError(f"These are {len(sources):,} files; at most {MOST_FILES:,} are read at once.")
    return sources


def _path(name: str) -> str:
    parts = [part for part in name.replace("\\", "/").split("/") if part not in ("", ".", "..")]
    return "/".join(parts)[:500] or "page"


def _unpacked(name: str, data: bytes) -> Iterator[Source]:
    try:
        archive = zipfile.ZipFile(BytesIO(data))
        entries = [entry for entry in archive.infolist() if not entry.is_dir()]
    except (zipfile.BadZipFile, NotImplementedError, OSError, ValueError) as error:
        raise ReadingError(f"“{name}” cannot be opened. It may be damaged; make the ZIP anew.") from error
    if any(entry.flag_bits & 1 for entry in entries):
        raise ReadingError(f"“{name}” is locked with a password. Take it off and make the ZIP anew.")
    if len(entries) > MOST_FILES:
        raise ReadingError(f"“{name}” holds {len(entries):,} files; at most {MOST_FILES:,} are read at once.")
    if sum(entry.file_size for entry in entries) > LARGEST_IN_ALL:
        raise ReadingError(f"“{name}” unpacks to more than {LARGEST_IN_ALL // 1024**3} GB. Take it in parts.")
    for entry in entries:
        path = _path(entry.filename)
        if not _SKIPPED.search(path):
            yield Source(path, partial(_entry, archive, entry))


def _entry(archive: zipfile.ZipFile, entry: zipfile.ZipInfo) -> bytes:
    try:
        with archive.open(entry) as file:
            data = file.read(LARGEST_FILE + 1)
    except (zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, OSError, EOFError) as error:
        raise ReadingError("This file of the ZIP is damaged.") from error
    if len(data) > LARGEST_FILE:
        raise ReadingError(f"This file is larger than {LARGEST_FILE // 1024**2} MB, the most that is read.")
    return data


def import_files(
    site: Site, person: Person, files: Sequence[tuple[str, bytes]], parent: Page | None
) -> Iterator[Step | Outcome]:
    """Read the files and make pages of them below ``parent``; tells each step, and at the end the outcome.

    Nothing is made until all has been read; who stops listening before has changed no page. A file that cannot be
    read is told and left out.

    Raises:
        ReadingError: when nothing can be begun, as in `sources_of`.
    """
    reading = _Import(site, person, sources_of(files), parent)
    yield from reading.steps()
    yield reading.made_anew()


class _Import:
    def __init__(self, site: Site, person: Person, sources: Sequence[Source], parent: Page | None) -> None:
        self.site = site
        self.person = person
        self.parent = parent
        self.by_path = {source.path: source for source in sources}
        self.pages = [source for source in sources if source.path.rsplit(".", 1)[-1].lower() in _PAGES]
        self.pages.sort(key=lambda source: _order(source.path))
        self.numbers = {source.path: PROVISIONAL + index for index, source in enumerate(self.pages)}
        self.items: dict[str, int | None] = {}
        self.surroundings = surroundings(sight_of(person))
        self.drafts: list[_Draft] = []
        self.outcome = Outcome()

    def steps(self) -> Iterator[Step]:
        if not self.pages:
            raise ReadingError("There is no page in this: DOCX, ODT, Markdown, HTML or text would be one.")
        for index, source in enumerate(self.pages):
            yield Step(index, len(self.pages), source.path)
            try:
                self.read(source)
            except CoreError as error:
                self.outcome.refused.append((source.path, str(error)))
        yield Step(len(self.pages), len(self.pages), "")

    def read(self, source: Source) -> None:
        arriving = Arriving(
            link=lambda address: self.link(source.path, address), post=self.surroundings.post, whole=True
        )
        data = source.load()
        with computing():
            reading = read_file(source.path, data, arriving)
        into = arrived(reading, self.person, fetch=lambda picture: self.picture(source.path, picture))
        title = reading.title or title_from_name(_named(source.path))
        title = " ".join(title.split())[: saving.LONGEST_TITLE]
        self.drafts.append(
            _Draft(source.path, title, into.document, self.numbers[source.path], into.messages, _description(reading))
        )

    def beside(self, path: str, address: str) -> tuple[str, str]:
        """The path and fragment that an address names, seen from a file."""
        place, mark, fragment = address.partition("#")
        place = unquote(place.split("?", 1)[0])
        joined = posixpath.normpath(posixpath.join(posixpath.dirname(path), place)) if place else path
        return joined.lstrip("/"), mark + fragment

    def link(self, path: str, address: str) -> str | None:
        if re.match(r"[a-z][a-z0-9+.-]*:", address, re.IGNORECASE):
            return self.surroundings.link(address)
        target, fragment = self.beside(path, address)
        for each in (target, f"{target}.md", f"{target}.html", f"{target}/index.html", f"{target}/index.md"):
            if each in self.numbers:
                return f"page:{self.numbers[each]}{fragment}"
        if target in self.by_path:
            with resting():
                number = self.item(target)
            return f"item:{number}" if number else None
        return None

    def item(self, path: str) -> int | None:
        """The number of the item that a file beside the pages becomes; None for one that the library does not take."""
        if path not in self.items:
            try:
                source = ContentFile(self.by_path[path].load(), name=_named(path))
                self.items[path] = receive(source, self.person)[0].pk
            except CoreError:
                self.items[path] = None
        return self.items[path]

    def picture(self, path: str, picture: Picture) -> bytes | int | None:
        if re.match(r"[a-z][a-z0-9+.-]*:", picture.address, re.IGNORECASE):
            return None
        target, _ = self.beside(path, picture.address)
        return self.by_path[target].load() if target in self.by_path else None

    def made_anew(self) -> Outcome:
        """Make the pages; once more where the database gave that up for another change (its handbook, “Deadlocks”)."""
        for turn in range(_TRIES):
            try:
                return self.made()
            except OperationalError as error:
                if error.args[:1] != (_DEADLOCK,) or turn == _TRIES - 1:
                    raise
                self.outcome.pages.clear()
        raise AssertionError

    @transaction.atomic
    def made(self) -> Outcome:
        """Make the pages, those of a folder below the page that stands for it."""
        places: dict[str, Page] = {}
        numbers: dict[int, int] = {}
        for draft in self.drafts:
            page = tree.add_page(self.site, self.person, draft.title, parent=self.above(draft.path, places))
            numbers[draft.number] = page.pk
            for stands_for in _stands_for(draft.path):
                places.setdefault(stands_for, page)
            self.outcome.pages.append((page, draft.messages))
        for draft, (page, _) in zip(self.drafts, self.outcome.pages, strict=True):
            text = saving.Draft(draft.title, draft.description, with_pages(draft.document, numbers))
            saving.save(page, self.person, text, page.working_copy.revision)
            page.working_copy.refresh_from_db()
        return self.outcome

    def above(self, path: str, places: dict[str, Page]) -> Page | None:
        folder = posixpath.dirname(path)
        if _stem(path) in _FIRST:
            folder = posixpath.dirname(folder) if folder else ""
        while folder:
            if folder in places:
                return places[folder]
            folder = posixpath.dirname(folder)
        return places.get("", self.parent) if _stem(path) not in _FIRST or posixpath.dirname(path) else self.parent


def _description(reading: Reading) -> str:
    """The description that a text brings along; one that is too long is cut at a word."""
    words = reading.description or ""
    if len(words) <= saving.LONGEST_DESCRIPTION:
        return words
    return words[: saving.LONGEST_DESCRIPTION].rpartition(" ")[0]


def _named(path: str) -> str:
    """The name that tells most of a file: its own, or its folder's for the first page of one."""
    folder = posixpath.basename(posixpath.dirname(path))
    return folder if _stem(path) in _FIRST and folder else posixpath.basename(path)


def _stem(path: str) -> str:
    return posixpath.splitext(posixpath.basename(path))[0].lower()


def _order(path: str) -> tuple[int, str, bool, list[tuple[int, str]]]:
    """Pages of upper folders first, the first page of a folder before its others, numbers in names by their size."""
    folder = posixpath.dirname(path)
    first = _stem(path) in _FIRST
    parts = [(int(part), "") if part.isdecimal() else (-1, part) for part in re.split(r"(\d+)", path.lower())]
    return path.count("/") - first, folder, not first, parts


def _stands_for(path: str) -> tuple[str, ...]:
    """The folders whose pages stand below this one."""
    folder = posixpath.dirname(path)
    return (folder,) if _stem(path) in _FIRST else (posixpath.splitext(path)[0],)
