"""Covers of films elsewhere: the one file that such an item has, kept and made into others as a picture's is."""

from __future__ import annotations

from io import BytesIO

from django.utils import timezone

from stillpage import room
from stillpage_core.media.pictures import FileError

from .models import Item
from .receiving import keep_file, made_of, sniffed


def keep_cover(item: Item, data: bytes) -> None:
    """Make a picture's bytes the cover of an item; an earlier one stays as a version, as of any other file.

    Raises:
        FileError: when they are no picture that is taken, with a sentence; the cover before stays.
    """
    room.require()
    file = BytesIO(data)
    found = sniffed(file)
    if found.kind != Item.Kind.PICTURE:
        raise FileError("What the host gives for a cover is no picture.")
    # Others may have changed what is said of it while its cover was on its way.
    item.refresh_from_db()
    latest = item.files.order_by("-version").values_list("version", flat=True).first() or 0
    # Apart from pictures: the same bytes may be an item of their own.
    with made_of(file, found, "", version=latest + 1, folder=f"hosted/{item.pk}/{latest + 1}") as (records, picture):
        item.version = latest + 1
        item.shown_since = timezone.now()
        item.wanted += 1
        item.tries = 0
        keep_file(item, records, found, picture)
