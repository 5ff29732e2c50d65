"""The documents of the corpus, read: those that came with the packages of the front end and of Python, and what
`fetching` has fetched."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Collection, Iterator
from pathlib import Path
from urllib.parse import urljoin

import django

from stillpage_core.errors import ReadingError
from stillpage_core.reading import Arriving, Reading, read_html, read_markdown
from stillpage_core.reading.docx import read_docx
from stillpage_core.reading.odt import read_odt

from .fetching import FOLDER

PACKAGES = (Path(__file__).parents[2] / "web" / "node_modules", Path(django.__file__).parents[1], FOLDER)
LARGEST = 200_000
STEP = 1 if os.environ.get("STILLPAGE_LONG_TESTS") else 6


def files(ending: str, step: int = STEP) -> list[Path]:
    """The files of an ending, the same ones on every machine: all of them, or every sixth."""
    found = (each for folder in PACKAGES for each in sorted(folder.rglob(f"*.{ending}")))
    return [each for each in found if 0 < each.stat().st_size < LARGEST][::step]


def name_of(file: Path) -> str:
    """The name of a file of the corpus, from the folder of the packages on."""
    folder = next(each for each in PACKAGES if file.is_relative_to(each))
    return file.relative_to(folder).as_posix()


def print_of(file: Path) -> str:
    """What a file is known by while its package has other versions."""
    return hashlib.sha256(file.read_bytes()).hexdigest()[:12]


def by_name(wanted: Collection[tuple[str, str]]) -> dict[str, Path]:
    """Of files of the corpus, each given by its name and its print, those that are there as they were."""
    found: dict[str, Path] = {}
    for name, kept in wanted:
        file = next((folder / name for folder in PACKAGES if (folder / name).is_file()), None)
        if file is not None and print_of(file) == kept:
            found[name] = file
    return found


def _led(address: str) -> str | None:
    """Addresses that are relative lead on from somewhere, as they do when a page is brought in from a site."""
    return None if address.startswith("#") else urljoin("https://corpus.example/docs/", address)


def read(file: Path) -> Reading | None:
    """A file as a page of its own; None for those that are refused (some are made to be)."""
    arriving = Arriving(_led, whole=True)
    try:
        match file.suffix:
            case ".md":
                return read_markdown(file.read_text(errors="replace"), arriving)
            case ".html":
                return read_html(file.read_text(errors="replace"), arriving)
            case ".docx":
                return read_docx(file.read_bytes(), arriving)
            case _:
                return read_odt(file.read_bytes(), arriving)
    except ReadingError:
        return None


def corpus(step: int = STEP) -> Iterator[tuple[Path, Reading]]:
    """Every document that can be read."""
    for ending in ("md", "html", "docx", "odt"):
        for file in files(ending, step):
            if (reading := read(file)) is not None:
                yield file, reading
