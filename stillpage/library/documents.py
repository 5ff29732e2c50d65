"""What is read of a document: its words, what a PDF says of itself, and a picture of its first page.

Poppler and pikepdf look at files of strangers, and LibreOffice where it is installed: each in a process of its own,
within limits. What cannot be found out is left out, and the document stays what it is.
"""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import asdict
from io import BytesIO
from pathlib import Path
from typing import Any

from django.core.files.base import ContentFile
from django.db import IntegrityError, transaction
from django.db.models import F
from PIL import Image

import stillpage_core
from stillpage import room
from stillpage_core.errors import CoreError
from stillpage_core.media.documents import FORMATS, PDF
from stillpage_core.media.papers import ACROSS as PAGE_ACROSS
from stillpage_core.media.papers import CUT, wanted
from stillpage_core.media.pdf import LOCKED, PdfFacts
from stillpage_core.media.pictures import WEBP, Format
from stillpage_core.reading.words import TEXT_LENGTH, words_of_document

from .apart import limited
from .derived import original_of
from .keeping import FIRST_PAGE, choose_thumbnail, is_whole, made_file, store
from .models import DocumentPage, File, Item
from .search import note_words
from .signals import tell_changed

SECONDS = 60
MEMORY = 1024 * 1024 * 1024
OFFICE_MEMORY = 4 * MEMORY
"""LibreOffice reserves more addresses than it uses."""
WRITTEN = 256 * 1024 * 1024
LONG_SIDE = 1000
"""Pixels of the longer side of a page's picture; so a page of a hundred metres takes no more than any other."""
ACROSS = (320, LONG_SIDE)
"""How wide the pictures of a first page are at most."""
QUALITY = 80
PAGE_SIDE = 2040
"""Pixels of the longer side of a page that is shown on a page."""
PAGE_WORDS = 200_000
"""The most letters of one page."""
NO_OFFICE = "There is no picture of its first page, as LibreOffice is not installed on the server."
NOT_DRAWN = "LibreOffice could not draw its first page; for tables, its part for spreadsheets has to be installed."


def read_document(number: int) -> int:
    """Read the words within a document, count its pages, find out what a PDF says of itself, and show its first page;
    what cannot be read is left out. Returns how many signs the words have."""
    item = Item.objects.filter(pk=number, kind=Item.Kind.DOCUMENT).first()
    if item is None:
        return 0
    within: str | None = ""
    problem = ""
    facts: PdfFacts | None = None
    with original_of(item) as (file, stored), _on_disk(stored, FORMATS[file.mime]) as path:
        form = FORMATS[file.mime]
        try:
            if form is PDF:
                within = _words(path)
                facts = _facts(path)
                problem = LOCKED if facts.locked else ""
            else:
                within = words_of_document(path.read_bytes(), form)
        except CoreError as error:
            # What one program cannot read, another may.
            problem = "" if within else str(error)[:300]
        if not problem:
            shown = path if form is PDF else _as_pdf(path)
            if shown:
                _show_first_page(item, file, shown)
                _show_pages(item, file, shown, facts.pages if facts else 0)
    known = (
        {**asdict(facts), "signs": None if within is None else len(within)}
        if facts and (facts.pages or facts.locked)
        else {}
    )
    length = facts.pages if facts else 0
    with transaction.atomic():
        row = Item.objects.filter(pk=number)
        if not row.filter(version=item.version).select_for_update().exists():
            # It was replaced meanwhile; whoever did it has asked for the new one to be read.
            return 0
        note_words(item, within or "")
        row.update(length=length, facts=known, made=F("wanted"), problem=problem)
        if facts and facts.language:
            row.filter(language="").update(language=facts.language)
        choose_thumbnail(item)
        # Live pages that lead to it name its file and how large that is.
        tell_changed([item])
    return len(within or "")


@contextmanager
def _on_disk(stored: Any, form: Format) -> Iterator[Path]:
    """A copy of a stored file in a folder of its own, for programs that want a name."""
    with tempfile.TemporaryDirectory(prefix="stillpage-document-") as folder:
        path = Path(folder) / f"document.{form.ending}"
        with path.open("wb") as copy:
            shutil.copyfileobj(stored, copy, 1024 * 1024)
        yield path


def run_apart(command: list[str | Path], memory: int = MEMORY, **options: Any) -> bytes | None:
    """What a program says that looks at a file; None when it fails, is not there, or takes more than its time."""
    with suppress(FileNotFoundError), tempfile.TemporaryFile() as said:
        process = subprocess.Popen(  # noqa: S603
            [*limited(SECONDS, memory, WRITTEN), *command],
            stdin=subprocess.DEVNULL,
            stdout=said,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
            **options,
        )
        try:
            failed = process.wait(2 * SECONDS)
        except subprocess.TimeoutExpired:
            failed = 1
        finally:
            # What it has started itself goes with it.
            with suppress(ProcessLookupError):
                os.killpg(process.pid, signal.SIGKILL)
            process.wait()
        said.seek(0)
        return None if failed else said.read(4 * TEXT_LENGTH)
    return None


def _facts(path: Path) -> PdfFacts:
    root = Path(stillpage_core.__file__).parent.parent
    said = run_apart([sys.executable, "-m", "stillpage_core.media.pdf", path], cwd=root)
    known = json.loads(said or "{}")
    if "problem" in known:
        raise CoreError(known["problem"])
    return PdfFacts.of(known)


def _words(path: Path) -> str | None:
    """The words of a PDF; None where they could not be looked for to the end."""
    found = run_apart(["pdftotext", "-q", "-enc", "UTF-8", path, "-"])
    if found is None:
        return None
    said = found.decode("utf-8", "replace")
    return " ".join("".join(sign if sign.isprintable() else " " for sign in said).split())[:TEXT_LENGTH]


def office() -> str:
    """The program that draws documents of word processors and tables; "" where it is not installed."""
    return shutil.which("soffice") or shutil.which("libreoffice") or ""


def _show_first_page(item: Item, original: File, shown: Path) -> None:
    """Make the pictures of the first page of a PDF; none where it cannot be drawn."""
    there = [is_whole(file) for file in item.files.filter(version=item.version, cut=FIRST_PAGE)]
    if not (there and all(there)) and (drawn := _drawn(shown)):
        _keep_picture(item, original, FIRST_PAGE, drawn, [(across, LONG_SIDE) for across in ACROSS])


def _show_pages(item: Item, original: File, shown: Path, count: int) -> None:
    """Make the pictures of the pages that texts show, and keep their words, as far as that was not done."""
    framings = [framing for use in item.uses.all() for framing in use.framings]
    there = {file.cut for file in item.files.filter(version=item.version, cut__startswith=CUT) if is_whole(file)}
    missing = [number for number in wanted(framings, count) if f"{CUT}{number}" not in there]
    for number in missing:
        drawn = _drawn(shown, number, PAGE_SIDE)
        if not drawn:
            break  # There are no more, or none can be drawn.
        words = run_apart(["pdftotext", "-q", "-enc", "UTF-8", "-f", f"{number}", "-l", f"{number}", shown, "-"]) or b""
        DocumentPage.objects.update_or_create(
            item=item, version=item.version, number=number, defaults={"words": _lines(words.decode("utf-8", "replace"))}
        )
        _keep_picture(item, original, f"{CUT}{number}", drawn, [(across, PAGE_SIDE) for across in PAGE_ACROSS])


def _lines(words: str) -> str:
    """The words of a page, those that belong together on one line, without signs that cannot be seen."""
    parts = re.split(r"\n\s*\n|\f", words[:PAGE_WORDS])
    shown = ("".join(sign if sign.isprintable() else " " for sign in part).split() for part in parts)
    return "\n".join(" ".join(part) for part in shown if part)


def _keep_picture(item: Item, original: File, cut: str, drawn: bytes, sizes: list[tuple[int, int]]) -> None:
    room.require()
    with Image.open(BytesIO(drawn)) as page:
        for size in sizes:
            picture = page.convert("RGB")
            picture.thumbnail(size)
            out = BytesIO()
            picture.save(out, WEBP.name, quality=QUALITY)
            _keep(item, made_file(original, cut, WEBP, picture.size, out.getvalue()), out.getvalue())


def _keep(item: Item, record: File, data: bytes) -> None:
    record.item = item
    store(record.name, ContentFile(data))
    with suppress(IntegrityError), transaction.atomic():
        record.save()


def _drawn(path: Path, number: int = 1, long_side: int = LONG_SIDE) -> bytes:
    """A page of a PDF as PNG; b"" where it cannot be drawn."""
    picture = path.with_name("page")
    file = picture.with_suffix(".png")
    file.unlink(missing_ok=True)
    page = ["-f", f"{number}", "-l", f"{number}"]
    run_apart(["pdftoppm", "-q", "-png", "-singlefile", *page, "-scale-to", f"{long_side}", path, picture])
    return file.read_bytes() if file.exists() else b""


def _as_pdf(path: Path) -> Path | None:
    """A document of a word processor or a table as PDF, where LibreOffice is installed."""
    if not (program := office()):
        return None
    profile = path.with_name("profile")
    options = ["--headless", "--norestore", "--nolockcheck", f"-env:UserInstallation=file://{profile}"]
    command: list[str | Path] = [program, *options, "--convert-to", "pdf", "--outdir", path.parent, path]
    run_apart(command, OFFICE_MEMORY, env={"HOME": f"{path.parent}", "PATH": "/usr/bin:/bin"})
    made = path.with_suffix(".pdf")
    return made if made.exists() else None
