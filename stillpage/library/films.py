"""What is made of films and sounds: files that every browser plays, stills to choose a cover from, the loudness curve.

Begun again after it broke off anywhere, it goes on with the file that was being made: each is kept once it is whole.
"""

from __future__ import annotations

import hashlib
import io
import json
import shutil
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, BinaryIO

from django.conf import settings
from django.core.files.base import ContentFile
from django.core.files.base import File as StoredFile
from django.core.files.storage import default_storage
from django.db import IntegrityError, transaction
from django.db.models import F, QuerySet
from PIL import Image

from stillpage import room
from stillpage_core.media.films import DEMUXERS, STILLS, Facts, FilmError, Making, plan_of, still_moments
from stillpage_core.media.pictures import JPEG, Format

from .converting import Cancelled, convert, levels, probe, still
from .keeping import ACROSS, choose_thumbnail, is_whole, made_file, store
from .making import QUALITY
from .models import File, Item
from .signals import tell_changed

FORMATS: dict[str, Format] = {form.mime: form for form in DEMUXERS}
"""The formats of films and sounds, by MIME type."""
KINDS = (Item.Kind.FILM, Item.Kind.SOUND)
LEVELS = Format("JSON", "application/json", "json")
COLUMN = 1440
"""The width, in device pixels, of a still for the column of a page on a dense screen."""
AT = "at-"
"""How the name begins of what a still of a chosen moment is (`File.cut`), which goes on in milliseconds."""
TOLD_EVERY = 1.0
"""Seconds between two times at which progress is written down."""


@contextmanager
def on_disk(file: BinaryIO | StoredFile[bytes], ending: str) -> Iterator[Path]:
    """Where a file is on the disk, for programs that read it; a copy, where it is on none."""
    place = getattr(file, "temporary_file_path", None)
    named = place() if place else getattr(getattr(file, "file", file), "name", None)
    if isinstance(named, str) and Path(named).is_file():
        yield Path(named)
        return
    with TemporaryDirectory(prefix="stillpage-film-", dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        copy = Path(folder) / f"original.{ending}"
        file.seek(0)
        with copy.open("wb") as out:
            while piece := file.read(1024 * 1024):
                out.write(piece)
        yield copy


def looked_at(file: BinaryIO, form: Format) -> Facts:
    """What a file that comes in holds. Raises `FilmError` as `probe` does."""
    with on_disk(file, form.ending) as path:
        return probe(path, form)


def waiting() -> QuerySet[Item]:
    """The films and sounds for which files are wanted that are not made, those wanted first first."""
    items = Item.objects.filter(kind__in=KINDS, made__lt=F("wanted"), problem="", binned_at=None)
    return items.order_by("pk")


def make_film(number: int) -> int:
    """Make whatever a film or sound still needs; returns how many files were made."""
    count = 0
    while True:
        item = Item.objects.filter(pk=number, kind__in=KINDS, binned_at=None).first()
        if item is None:
            return count
        try:
            count += _made(item)
        except Cancelled:
            continue  # It is in the bin now, or another file has taken its place.
        except FilmError as error:
            Item.objects.filter(pk=number).update(problem=str(error)[:300], made=item.wanted, progress=0)
            return count
        with transaction.atomic():
            if Item.objects.filter(pk=number, wanted=item.wanted).update(made=F("wanted"), problem="", progress=0):
                tell_changed([item])
                return count


def make_playable(item: Item) -> int:
    """Make the first of the files of a film or sound, which every browser plays, and its stills; `make_film` goes on
    with what else there is. Raises `FilmError`."""
    return _made(item, most=1)


def _made(item: Item, most: int | None = None) -> int:
    original = item.files.get(version=item.version, original=True)
    count = 0
    with default_storage.open(original.name) as stored, on_disk(stored, Path(original.name).suffix[1:]) as path:
        facts = probe(path, FORMATS[original.mime])
        item.lasts = facts.lasts
        Item.objects.filter(pk=item.pk).update(lasts=facts.lasts)
        if facts.is_film:
            count += _stills(item, original, path, facts)
        count += _levels(item, original, path, facts)
        plan = plan_of(facts)[:most]
        folder = _empty_folder()
        for index, each in enumerate(plan):
            if _is_there(item, original, each):
                continue
            room.require()
            target = folder / f"film.{each.form.ending}"
            convert(path, facts, each, target, _progress(item, index, len(plan)))
            count += _kept(item, original, each, target)
            target.unlink()
            # What has come so far does not come again: a worker that is stopped now and then is no reason to give up.
            Item.objects.filter(pk=item.pk).update(tries=1)
    return count


def _empty_folder() -> Path:
    """Where files are made, on a disk whose room is looked at; what a worker left there that was killed is gone: only
    one film is made at a time."""
    folder = Path(settings.UPLOAD_FOLDER) / "making"
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    return folder


def _progress(item: Item, index: int, number: int) -> Any:
    """Writes down how far it is, now and then, and says whether it is still wanted."""
    last = 0.0

    def tell(share: float) -> bool:
        nonlocal last
        if time.monotonic() - last < TOLD_EVERY:
            return True
        last = time.monotonic()
        percent = min(99, int(100 * (index + share) / number))
        still_wanted = Item.objects.filter(pk=item.pk, binned_at=None, version=item.version, wanted=item.wanted)
        return bool(still_wanted.update(progress=percent) or still_wanted.exists())

    return tell


def _row(original: File, name: str, form: Format, size: tuple[int, int], data: BinaryIO) -> File:
    """The row of a file made of a film, with the hash of its bytes; not saved."""
    record = made_file(original, name, form, size, b"")
    digest = hashlib.sha256()
    data.seek(0)
    length = 0
    while piece := data.read(1024 * 1024):
        digest.update(piece)
        length += len(piece)
    record.size, record.sha256, record.item_id = length, digest.hexdigest(), original.item_id
    return record


def _keep(record: File, content: Any) -> None:
    store(record.name, content)
    try:
        with transaction.atomic():
            record.save()
    except IntegrityError:
        File.objects.filter(name=record.name).update(size=record.size, sha256=record.sha256)


def _is_there(item: Item, original: File, each: Making) -> bool:
    row = item.files.filter(version=original.version, original=False, cut=each.name, mime=each.form.mime).first()
    return row is not None and is_whole(row)


def _kept(item: Item, original: File, each: Making, target: Path) -> int:
    """Keep a file that was made, unless it should be smaller than another and is not; returns how many were kept."""
    with target.open("rb") as data:
        record = _row(original, each.name, each.form, (each.width, each.height), data)
        other = item.files.filter(version=original.version, original=False, cut=each.instead).first()
        if each.instead and other is not None and record.size >= other.size:
            return 0
        _keep(record, StoredFile(data))
    return 1


def _stills(item: Item, original: File, path: Path, facts: Facts) -> int:
    count = 0
    named = {f"still-{share}": moment for share, moment in zip(STILLS, still_moments(facts), strict=True)}
    # Covers that were chosen are of the moment that was chosen, in a later file too.
    chosen = item.files.filter(cut__startswith=AT).values_list("cut", flat=True).distinct()
    named |= {cut: moment for cut in chosen if (moment := int(cut.removeprefix(AT))) < facts.lasts}
    for name, moment in named.items():
        # A film without a picture at some moment may be played all the same; whether it is whole is found out later.
        with suppress(FilmError):
            count += _still(original, path, facts, name, moment)
        if not item.thumbnail or name == f"still-{STILLS[0]}":
            choose_thumbnail(item)
    return count


def _still(original: File, path: Path, facts: Facts, name: str, moment: int) -> int:
    """Keep a still in the widths of `_widths`, unless it is there; returns how many files were made."""
    there = [
        each.width
        for each in File.objects.filter(item=original.item_id, version=original.version, cut=name)
        if is_whole(each)
    ]
    if there and sorted(there) == sorted(_widths(max(there))):
        return 0
    picture = Image.open(io.BytesIO(still(path, facts, moment))).convert("RGB")
    widths = _widths(picture.width)
    for across in widths:
        size = (across, max(1, round(picture.height * across / picture.width)))
        out = io.BytesIO()
        picture.resize(size, Image.Resampling.LANCZOS).save(out, JPEG.name, **QUALITY[JPEG.mime])
        _keep(_row(original, name, JPEG, size, out), ContentFile(out.getvalue()))
    return len(widths)


def _widths(whole: int) -> list[int]:
    """How wide a still is kept: as the film is, for a column of text on a dense screen, and for lists."""
    return [whole, *([COLUMN] if whole > COLUMN * 5 // 4 else []), min(ACROSS, whole - 1)]


def make_still(item: Item, at: int) -> int:
    """Keep the picture that a film shows at a moment (milliseconds), to be a cover; returns how many files were made.

    Raises:
        FilmError: when the film has no such moment, or it cannot be had.
    """
    original = item.files.get(version=item.version, original=True)
    if item.kind != Item.Kind.FILM or not 0 <= at < max(1, item.lasts):
        raise FilmError("There is no such moment in this film.")
    room.require()
    with default_storage.open(original.name) as stored, on_disk(stored, Path(original.name).suffix[1:]) as path:
        return _still(original, path, probe(path, FORMATS[original.mime]), f"{AT}{at}", at)


def _levels(item: Item, original: File, path: Path, facts: Facts) -> int:
    row = item.files.filter(version=original.version, original=False, cut="levels").first()
    if not facts.channels or (row is not None and is_whole(row)):
        return 0
    data = json.dumps([round(level) for level in levels(path, facts)], separators=(",", ":")).encode()
    _keep(_row(original, "levels", LEVELS, (0, 0), io.BytesIO(data)), ContentFile(data))
    return 1
