"""Files going into the storage, and the rows that tell of them. A row comes last: no half file is ever served."""

from __future__ import annotations

import hashlib
from typing import Any

from django.core.files.base import File as StoredFile
from django.core.files.storage import default_storage

from stillpage_core.media.editing import EDITS, cut_of
from stillpage_core.media.pictures import AVIF, Format
from stillpage_core.media.plan import FALLBACK, Derived

from .models import File, Item

ACROSS = 320
"""The width of a place in a list, in device pixels of a dense screen."""


def at_once(each: Derived) -> bool:
    """Whether a file of the plan is made while the sender waits: the few for older browsers, which serve for all."""
    return each.form.name in ("JPEG", "PNG", "GIF") and (each.width in FALLBACK or each.width < FALLBACK[0])


def made_file(original: File, cut: str, form: Format, size: tuple[int, int], data: bytes) -> File:
    """The row of a file that was made of a picture's original, beside which it stands; not saved."""
    folder = original.name.rpartition("/")[0]
    return File(
        name=f"{folder}/{cut or 'whole'}-{size[0]}.{form.ending}",
        mime=form.mime,
        cut=cut,
        width=size[0],
        height=size[1],
        size=len(data),
        sha256=hashlib.sha256(data).hexdigest(),
        original=False,
        version=original.version,
    )


def store(name: str, content: Any, saved: list[str] | None = None) -> None:
    """Put a file into the storage under just this name. A file there that a row names holds the same bytes, and stays;
    what was left by a work that broke off goes first."""
    if default_storage.exists(name):
        known = File.objects.filter(name=name).first()
        if known is not None and is_whole(known):
            return
        default_storage.delete(name)
    if saved is not None:
        saved.append(name)
    content.seek(0)
    default_storage.save(name, content if isinstance(content, StoredFile) else StoredFile(content))


def is_whole(file: File) -> bool:
    """Whether a file is there, with as many bytes as it should have."""
    try:
        return bool(default_storage.size(file.name) == file.size)
    except FileNotFoundError:
        return False


def describe_file(item: Item, original: File) -> None:
    """Have an item say what its original is. Not saved."""
    item.size, item.width, item.height = original.size, original.width, original.height
    item.mime = original.mime


FIRST_PAGE = "page-1"
"""The cut of files that show a document's first page."""
_SHOWN: dict[str, str] = {
    Item.Kind.FILM: "still-",
    Item.Kind.SOUND: "still-",
    Item.Kind.DOCUMENT: FIRST_PAGE,
    Item.Kind.ANIMATION: "still-base",
}
"""How the cuts of files begin that show what is no picture."""


def choose_thumbnail(item: Item) -> None:
    """Have an item show, in lists, the smallest file that fills a place there, of its own cut where it has one."""
    if cut := _SHOWN.get(item.kind):
        first = item.files.filter(version=item.version, cut__startswith=cut).order_by("width", "cut").first()
        item.thumbnail = first.name if first else ""
        Item.objects.filter(pk=item.pk).update(thumbnail=item.thumbnail)
    if item.kind not in (Item.Kind.PICTURE, Item.Kind.HOSTED):
        return
    nothing = dict.fromkeys(EDITS)
    own = cut_of(nothing, item.edits or nothing, item.width, item.height).key
    made = item.files.filter(version=item.version, original=False).exclude(mime=AVIF.mime).order_by("width", "id")
    fitting = list(made.filter(cut=own)) or list(made.filter(cut=""))
    if fitting:
        item.thumbnail = next((file for file in fitting if file.width >= ACROSS), fitting[-1]).name
        Item.objects.filter(pk=item.pk).update(thumbnail=item.thumbnail)
