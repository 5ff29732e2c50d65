"""Looking whether the library's files and the rows that tell of them agree, and mending what can be mended."""

from __future__ import annotations

import shutil
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from datetime import timedelta
from itertools import islice
from pathlib import Path

from django.conf import settings
from django.core.files.storage import default_storage
from django.utils import timezone

from . import captions
from .keeping import is_whole
from .models import File, Item, Upload
from .signals import want_files
from .storage import BESIDE

MISSING = "The file of this item is missing on the server. Replace it, or bring it back from a backup."
YOUNG = timedelta(hours=1)
"""What is younger may be on its way just now."""
AT_ONCE = 500


@dataclass
class Swept:
    """What did not agree. ``unknown`` are files that no row tells of, ``lost`` the names of files that are not there or
    of another size; ``left`` files of uploads that nobody goes on with."""

    unknown: list[str] = field(default_factory=list)
    lost: list[str] = field(default_factory=list)
    left: list[str] = field(default_factory=list)

    def sentences(self, *, mended: bool) -> list[str]:
        """What to tell of it."""
        aside = f" They are in {settings.SET_ASIDE} now." if mended else ""
        again = " What can be made again will be; the items of the others say so." if mended else ""
        return [
            sentence
            for names, sentence in (
                (self.unknown, f"{_files(self.unknown)} that no item knows.{aside}"),
                (self.lost, f"{_files(self.lost)} missing or cut short.{again}"),
                (self.left, f"{_files(self.left)} of uploads that nobody goes on with."),
            )
            if names
        ]


def _files(names: list[str]) -> str:
    some = ", ".join(names[:5]) + (", …" if len(names) > 5 else "")
    return f"{len(names)} {'file' if len(names) == 1 else 'files'} ({some})"


def sweep(*, mend: bool) -> Swept:
    """Compare every file with every row; takes time in proportion to their number.

    Nothing that might be somebody's is thrown away: a file that no row tells of is set aside, as it may belong to a
    database that was put back from a backup.
    """
    found = Swept()
    stored = _stored("")
    while names := list(islice(stored, AT_ONCE)):
        known = set(File.objects.filter(name__in=names).values_list("name", flat=True))
        for name in names:
            if name not in known and _is_old(name):
                found.unknown.append(name)
                if mend:
                    _set_aside(name)
    for file in File.objects.select_related("item").order_by("pk").iterator(AT_ONCE):
        if not is_whole(file):
            found.lost.append(file.name)
            if mend:
                _mend(file)
        elif file.item.problem == MISSING and file.original and mend:
            Item.objects.filter(pk=file.item_id).update(problem="")
            want_files(Item.objects.filter(pk=file.item_id))
    found.left = list(_uploads_left(mend=mend))
    return found


def _stored(folder: str) -> Iterator[str]:
    """The names of all files in the storage."""
    if not folder and not default_storage.exists(""):
        return
    folders, files = default_storage.listdir(folder)
    for name in files:
        yield f"{folder}/{name}" if folder else name
    for name in folders:
        yield from _stored(f"{folder}/{name}" if folder else name)


def _is_old(name: str) -> bool:
    try:
        return timezone.now() - default_storage.get_modified_time(name) > YOUNG
    except FileNotFoundError:
        return False


def _set_aside(name: str) -> None:
    if name.rpartition("/")[2].startswith(BESIDE):
        default_storage.delete(name)
        return
    place = Path(settings.SET_ASIDE, name)
    place.parent.mkdir(parents=True, exist_ok=True)
    with default_storage.open(name) as stored, place.open("wb") as out:
        shutil.copyfileobj(stored, out)
    default_storage.delete(name)


def _mend(file: File) -> None:
    item = Item.objects.filter(pk=file.item_id)
    if file.original:
        if file.version == file.item.version:
            item.update(problem=MISSING, made=file.item.wanted)
        return
    if file.cut.startswith(captions.CUT):
        captions.write_again(file)
    elif file.version == file.item.version:
        want_files(item)
    else:
        file.delete()


def _uploads_left(*, mend: bool) -> Iterable[str]:
    """Files of uploads that are finished, or were let go."""
    folder = Path(settings.UPLOAD_FOLDER)
    if not folder.exists():
        return
    going_on = {key.hex for key in Upload.objects.filter(item=None).values_list("pk", flat=True)}
    before = (timezone.now() - YOUNG).timestamp()
    for place in folder.iterdir():
        if place.is_file() and place.name not in going_on and place.stat().st_mtime < before:
            yield place.name
            if mend:
                place.unlink(missing_ok=True)
