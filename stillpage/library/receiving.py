"""Files coming in: limited while they arrive, told apart by their bytes, made into items or newer versions of them."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from io import BytesIO
from pathlib import PurePath
from typing import Any, BinaryIO

from django.conf import settings
from django.core.files.base import File as StoredFile
from django.core.files.storage import default_storage
from django.core.files.uploadhandler import FileUploadHandler, StopUpload
from django.db import IntegrityError, transaction
from django.utils import timezone

from stillpage.people.models import Person
from stillpage.rights import closed_folders
from stillpage_core.errors import CoreError
from stillpage_core.media.animations import LARGEST, LOTTIE, Animation, cut_for, looks_like_one, read_animation
from stillpage_core.media.documents import sniff_document
from stillpage_core.media.drawings import read_drawing
from stillpage_core.media.editing import Cut
from stillpage_core.media.films import Facts, sniff_film
from stillpage_core.media.pictures import SVG, FileError, Format, sniff
from stillpage_core.media.plan import plan

from . import folders
from .films import looked_at
from .keeping import at_once, choose_thumbnail, describe_file, made_file, store
from .making import Opened, made, opened
from .models import File, Folder, Item
from .search import note_words
from .signals import ask

PIECE = 1024 * 1024
"""How much of a file is in memory at once, in bytes, while it is looked through or kept."""


class TooLarge(FileError):
    """The file has more bytes than are taken."""

    status = 413
    name = "too-large"
    title = "The file is too large"

    def __init__(self, limit: int | None = None) -> None:
        megabytes = (limit or settings.UPLOAD_LIMIT) // (1024 * 1024)
        super().__init__(f"This file is larger than {megabytes:,} MB, the most that is taken. Save it smaller.")


class Replacing(CoreError):
    """A file cannot take the place of an item's present one; the sentence says why."""


class Hidden(CoreError):
    """The library has the file already, where the person who sends it may not see it."""

    def __init__(self) -> None:
        super().__init__(
            "The library has this file already, in a folder that is kept to other sites. "
            "Ask a library keeper to let your site use it."
        )


class Limit(FileUploadHandler):
    """Stops keeping a file once it is larger than the limit; the rest is read and thrown away, so that the sender
    gets an answer instead of a broken connection."""

    def handle_raw_input(
        self, input_data: Any, META: Any, content_length: int, boundary: Any, encoding: Any = None
    ) -> None:
        self.received = 0
        imports = META.get("PATH_INFO", "").endswith(("/import", "/api/read"))
        self.limit = settings.IMPORT_LIMIT if imports else settings.UPLOAD_LIMIT

    def receive_data_chunk(self, raw_data: bytes, start: int) -> bytes:
        self.received += len(raw_data)
        if self.received > self.limit:
            self.request.META["stillpage.too_large"] = True  # type: ignore[union-attr]
            raise StopUpload(connection_reset=False)
        return raw_data

    def file_complete(self, file_size: int) -> None:
        return None


def title_from_name(name: str) -> str:
    """A first title for a file from its name: the ending and any path gone, hyphens and underscores as spaces."""
    stem = PurePath(name.replace("\\", "/")).stem
    words = re.sub(r"[\s_-]+", " ", re.sub(r"[\x00-\x1f\x7f-\x9f\u200e\u200f\u202a-\u202e\u2066-\u2069]", "", stem))
    return words.strip()[:200] or "Without a name"


def _plain_name(name: str) -> str:
    return re.sub(r"[\x00-\x1f\x7f]", "", PurePath(name.replace("\\", "/")).name)[-255:]


@dataclass
class Sniffed:
    """What a file's bytes say: its format, its hash, and how many there are."""

    form: Format
    document: bool
    digest: str
    size: int
    film: Facts | None = None
    animation: Animation | None = None

    @property
    def kind(self) -> str:
        """The kind of item that it becomes."""
        if self.film is not None:
            return Item.Kind.FILM if self.film.is_film else Item.Kind.SOUND
        if self.animation is not None:
            return Item.Kind.ANIMATION
        return Item.Kind.DOCUMENT if self.document else Item.Kind.PICTURE


def sniffed(file: BinaryIO) -> Sniffed:
    size = file.seek(0, 2)
    if size == 0:
        raise FileError("This file is empty: it has no bytes at all. Save it again and try once more.")
    film: Facts | None = None
    animation: Animation | None = None
    moving = None
    limit = settings.UPLOAD_LIMIT
    if document := sniff_document(file):
        form, limit = document, settings.DOCUMENT_LIMIT
    else:
        file.seek(0)
        start = file.read(65536)
        moving = sniff_film(start)
        if not moving and looks_like_one(start):
            animation = read_animation(start + file.read(LARGEST + 1 - len(start)))
        form, limit = (moving, settings.FILM_LIMIT) if moving else (LOTTIE if animation else sniff(start), limit)
    if size > limit:
        raise TooLarge(limit)
    if moving:
        film = looked_at(file, moving)
        form = film.form
    digest = hashlib.sha256()
    file.seek(0)
    while piece := file.read(PIECE):
        digest.update(piece)
    return Sniffed(form, document is not None, digest.hexdigest(), size, film, animation)


def receive(
    upload: StoredFile[bytes] | BinaryIO,
    person: Person,
    alt: str = "",
    *,
    name: str | None = None,
    folder: Folder | None = None,
    **facts: str,
) -> tuple[Item, bool]:
    """Make an item of a picture or document; returns it, and whether it is new.

    The same bytes again give the item that has them already; from the bin it comes back. Nothing is kept when anything
    fails. ``facts`` are what else is said of a new item: its title, credit, licence, description.

    Raises:
        FileError: when the bytes are nothing that is taken, with a sentence.
        Hidden: when an item has them that the person may not see.
    """
    file: Any = upload
    named = name or str(getattr(upload, "name", None) or "")
    found = sniffed(file)
    if known := _known(found.digest, person):
        return known, False
    with made_of(file, found, named) as (records, picture):
        item = Item(
            kind=found.kind,
            title=title_from_name(named),
            alt=alt[:1000] if found.kind in (Item.Kind.PICTURE, Item.Kind.ANIMATION) else "",
            credit=picture.credit if picture else "",
            folder=folder,
            added_at=timezone.now(),
            added_by=person,
        )
        for fact, words in facts.items():
            setattr(item, fact, words or getattr(item, fact))
        try:
            keep_file(item, records, found, picture)
        except IntegrityError:
            # Somebody sent the same bytes at the same moment.
            if known := _known(found.digest, person):
                return known, False
            raise
    return item, True


def _known(digest: str, person: Person) -> Item | None:
    files = File.objects.filter(sha256=digest, original=True).exclude(item__kind=Item.Kind.HOSTED)
    file = files.select_related("item").first()
    if file is None:
        return None
    if file.item.folder_id in closed_folders(person, folders.Tree()):
        raise Hidden
    if file.item.binned_at is not None:
        Item.objects.filter(pk=file.item_id).update(binned_at=None, binned_by=None)
        file.item.binned_at = None
    return file.item


def replace(item: Item, upload: StoredFile[bytes] | BinaryIO, name: str = "", person: Person | None = None) -> None:
    """Put a newer file in the place of an item's present one; the earlier stays as a version.

    Raises:
        FileError: when the bytes are nothing that is taken.
        Replacing: when they are of another kind, or another item has them.
        Hidden: when an item has them that ``person``, who sends them, may not see.
    """
    file: Any = upload
    found = sniffed(file)
    if item.kind in (Item.Kind.HOSTED, Item.Kind.POST):
        raise Replacing(
            f"“{item.title}” stands at another host; it is replaced there. Add the file as an item of its own."
        )
    if found.kind != item.kind:
        raise Replacing(f"This is a {found.kind}, and “{item.title}” is a {item.kind}. Add it as an item of its own.")
    same = File.objects.filter(sha256=found.digest, original=True).exclude(item__kind=Item.Kind.HOSTED)
    if known := same.select_related("item").first():
        if known.item_id != item.pk:
            if person and known.item.folder_id in closed_folders(person, folders.Tree()):
                raise Hidden
            raise Replacing(f"“{known.item.title}” has these very bytes already. Use that item instead.")
        show_version(item, known.version)
        return
    latest = item.files.order_by("-version").values_list("version", flat=True).first() or 0
    with made_of(file, found, name, version=latest + 1) as (records, picture):
        item.version = latest + 1
        item.shown_since = timezone.now()
        item.wanted += 1
        item.tries = 0
        keep_file(item, records, found, picture)


def show_version(item: Item, version: int) -> None:
    """Show an earlier version of an item's file again."""
    original = item.files.filter(version=version, original=True).first()
    if original is None:
        raise Replacing("There is no such version of this file.")
    item.version = version
    item.shown_since = timezone.now()
    describe_file(item, original)
    item.wanted += 1
    item.tries = 0
    item.save()
    choose_thumbnail(item)
    ask(item.pk, item.kind)


Records = list[tuple[File, BytesIO | BinaryIO]]


@contextmanager
def made_of(
    file: BinaryIO, found: Sniffed, name: str, version: int = 1, folder: str = ""
) -> Iterator[tuple[Records, Opened | None]]:
    """The original, and the files that are made of a picture at once, with their contents; in a ``folder`` of the
    storage, or in one that is named by the bytes."""
    folder = folder or f"{found.digest[:2]}/{found.digest[2:18]}"
    original = File(
        name=f"{folder}/original.{found.form.ending}",
        came_as=_plain_name(name),
        mime=found.form.mime,
        width=0,
        height=0,
        size=found.size,
        sha256=found.digest,
        original=True,
        version=version,
    )
    if found.film is not None:
        original.width, original.height = found.film.width, found.film.height
    if found.animation is not None:
        drawn = found.animation
        original.width, original.height = drawn.width, drawn.height
        moving = made_file(original, f"moving-{cut_for(None)}", LOTTIE, (drawn.width, drawn.height), drawn.data)
        yield [(original, file), (moving, BytesIO(drawn.data))], None
        return
    if found.kind != Item.Kind.PICTURE:
        yield [(original, file)], None
        return
    if found.form is SVG:
        file.seek(0)
        drawing = read_drawing(file.read())
        original.width, original.height = drawing.width, drawing.height
        shown = made_file(original, "", SVG, (drawing.width, drawing.height), drawing.data)
        yield [(original, file), (shown, BytesIO(drawing.data))], None
        return
    with opened(file, found.form) as picture:
        original.width, original.height = picture.size
        first = [each for each in plan(*picture.size, drawing=picture.drawn, moving=picture.moving) if at_once(each)]
        records: Records = [(original, file)]
        for each, data in made(picture, Cut(), first):
            size = (each.width, each.height)
            records.append((made_file(original, "", each.form, size, data), BytesIO(data)))
        yield records, picture


def keep_file(item: Item, records: Records, found: Sniffed, picture: Opened | None) -> None:
    """Save an item with its files; all or nothing."""
    original = records[0][0]
    describe_file(item, original)
    if found.film is not None:
        item.lasts = found.film.lasts
    if found.animation is not None:
        item.lasts, item.facts = found.animation.lasts, {"colours": list(found.animation.colours)}
    if found.kind == Item.Kind.PICTURE:
        item.nature = (
            Item.Nature.LINES
            if picture is None
            else Item.Nature.MOVING
            if picture.moving
            else Item.Nature.DRAWING
            if picture.drawn
            else Item.Nature.PHOTOGRAPH
        )
        item.moves_for = picture.lasts if picture else 0
    saved: list[str] = []
    try:
        with transaction.atomic():
            item.save()
            for record, content in records:
                record.item = item
                store(record.name, content, saved)
                record.save()
            note_words(item)
            choose_thumbnail(item)
    except BaseException:
        # A row that is there now is somebody else's, who sent the same bytes at the same moment: the file stays theirs.
        theirs = set(File.objects.filter(name__in=saved).values_list("name", flat=True))
        for name in set(saved) - theirs:
            default_storage.delete(name)
        raise
    if found.kind != Item.Kind.PICTURE or picture is not None:
        ask(item.pk, item.kind)
    else:
        Item.objects.filter(pk=item.pk).update(made=item.wanted)
        item.made = item.wanted
