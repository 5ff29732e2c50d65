"""Files that come in pieces: begun, gone on with after a broken connection, and made into items when they are whole."""

from __future__ import annotations

from pathlib import Path
from typing import Any, BinaryIO

from django.conf import settings
from django.core.files.base import File as StoredFile
from django.db import transaction

from stillpage.people.models import Person
from stillpage_core.errors import CoreError
from stillpage_core.media.pictures import FileError

from .models import Folder, Item, Upload
from .receiving import PIECE, TooLarge, receive, replace


class UploadError(CoreError):
    """A piece does not fit; ``received`` is where to go on."""

    def __init__(self, sentence: str, received: int) -> None:
        self.received = received
        super().__init__(sentence)


def _place(upload: Upload) -> Path:
    return Path(settings.UPLOAD_FOLDER) / upload.pk.hex


def begin(
    person: Person, name: str, size: int, stamp: str, *, folder: Folder | None = None, replaces: Item | None = None
) -> Upload:
    """Begin an upload, or find the one that the same person broke off with the same file.

    Raises:
        TooLarge: when no file of that size is taken, whatever it is.
        FileError: when it is empty.
    """
    limit = max(settings.UPLOAD_LIMIT, settings.DOCUMENT_LIMIT, settings.FILM_LIMIT)
    if size > limit:
        raise TooLarge(limit)
    if size == 0:
        raise FileError("This file is empty: it has no bytes at all. Save it again and try once more.")
    if stamp:
        same = Upload.objects.filter(person=person, name=name, size=size, stamp=stamp, replaces=replaces, item=None)
        known = same.order_by("-begun_at").first()
        if known is not None and _place(known).exists() and _place(known).stat().st_size >= known.received:
            if known.folder != folder:
                known.folder = folder
                known.save(update_fields=["folder", "touched_at"])
            return known
    upload = Upload.objects.create(person=person, name=name, size=size, stamp=stamp, folder=folder, replaces=replaces)
    _place(upload).parent.mkdir(parents=True, exist_ok=True)
    _place(upload).touch()
    return upload


def add_piece(upload: Upload, start: int, source: Any) -> Upload:
    """Write what ``source`` gives to the upload's file, from byte ``start`` on; ``source.read(n)`` gives bytes.

    What arrived of a piece that breaks off is kept. Raises `UploadError` when the piece begins where no byte is
    expected, or goes beyond the end.
    """
    if upload.received == upload.size and _place(upload).exists():
        return upload  # It is whole, and may be looked at just now: a piece that comes twice changes nothing.
    if start > upload.received:
        raise UploadError("A piece is missing before this one.", upload.received)
    place = start
    try:
        with _place(upload).open("r+b") as file:
            file.seek(start)
            while piece := source.read(PIECE):
                if place + len(piece) > upload.size:
                    raise UploadError("There is more of this file than was said. Begin again.", upload.received)
                file.write(piece)
                place += len(piece)
    except FileNotFoundError as error:
        raise UploadError("The beginning of this file is gone. Begin again.", 0) from error
    finally:
        if place > upload.received:
            upload.received = place
            upload.save(update_fields=["received", "touched_at"])
    return upload


def finish(upload: Upload, person: Person) -> tuple[Item, bool]:
    """Make the item, or the newer version, that a whole upload is; returns it, and whether it is new.

    It can be done again after it broke off anywhere: the bytes stay in our own file until the item is there, and what
    became of the upload is written with the item. Done already is done.

    Raises:
        UploadError: when pieces are missing.
        FileError, Replacing, Hidden: as `receive` and `replace` do; the upload is forgotten then.
    """
    if upload.item is not None:
        _place(upload).unlink(missing_ok=True)
        return upload.item, upload.is_new
    if upload.received < upload.size:
        raise UploadError("This file is not whole yet.", upload.received)
    try:
        with _place(upload).open("rb") as file, transaction.atomic():
            item, is_new = _taken(upload, file, person)
            upload.item, upload.is_new = item, is_new
            upload.save(update_fields=["item", "is_new", "touched_at"])
    except FileNotFoundError as error:
        upload.received = 0
        upload.save(update_fields=["received", "touched_at"])
        _place(upload).parent.mkdir(parents=True, exist_ok=True)
        _place(upload).touch()
        raise UploadError("What had come of this file is gone. Begin again.", 0) from error
    except CoreError:
        forget(upload)
        raise
    _place(upload).unlink(missing_ok=True)
    return item, is_new


def _taken(upload: Upload, file: BinaryIO, person: Person) -> tuple[Item, bool]:
    whole = StoredFile(file, upload.name)
    if upload.replaces is None:
        return receive(whole, person, name=upload.name, folder=upload.folder)
    replace(upload.replaces, whole, upload.name, person)
    return upload.replaces, True


def forget(upload: Upload) -> None:
    """Let go of an upload and what arrived of it."""
    _place(upload).unlink(missing_ok=True)
    upload.delete()
