"""Files made of an animation: in the colours of each of its uses, one that moves and a still frame of it.

A frame is drawn by rlottie in a process of its own, within limits; the colours are exchanged here.
"""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Iterable
from contextlib import suppress
from datetime import datetime
from pathlib import Path
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import IntegrityError, transaction
from django.db.models import F
from PIL import Image

import stillpage_core
from stillpage import room
from stillpage_core.media.animations import LOTTIE, colours_from, cut_for, exchanged, read_animation
from stillpage_core.media.pictures import PNG, FileError

from .derived import original_of
from .documents import run_apart
from .keeping import choose_thumbnail, is_whole, made_file, store
from .models import File, Item
from .signals import tell_changed

ACROSS = 960
"""How wide a still frame is at most, in pixels."""
PLACE = 0.4
"""Which frame stands for the whole: past the beginning, where often nothing is to be seen yet (common practice)."""
NOT_DRAWN = "No frame of this animation can be drawn; it plays, but readers without script see nothing of it."


def _uses(item: Item) -> set[str | None]:
    return {framing.get("colours") for use in item.uses.all() for framing in use.framings} | {None}


def colour_at_once(item: Item, framings: Iterable[dict[str, Any]]) -> None:
    """Have the files that move, in these colours, while somebody waits; the frames come by and by."""
    for colours in {framing.get("colours") for framing in framings}:
        _moving(item, colours)


def unused_before(moment: datetime) -> list[File]:
    """The files in colours that were tried before a moment, and that no text has."""
    rows = File.objects.filter(item__kind=Item.Kind.ANIMATION, original=False, made_at__lt=moment)
    found: list[File] = []
    used: dict[int, set[str]] = {}
    for file in rows.exclude(cut__endswith=f"-{cut_for(None)}").select_related("item").prefetch_related("item__uses"):
        if file.item_id not in used:
            used[file.item_id] = {cut_for(colours) for colours in _uses(file.item)}
        if file.cut.partition("-")[2] not in used[file.item_id]:
            found.append(file)
    return found


def _moving(item: Item, colours: str | None) -> File | None:
    """The file that moves in some colours, made where it is not there."""
    cut = f"moving-{cut_for(colours)}"
    known = item.files.filter(version=item.version, cut=cut).first()
    if known is not None and is_whole(known):
        return known
    with original_of(item) as (original, stored):
        data = read_animation(stored.read()).data
    data = exchanged(data, colours_from(colours)) if colours else data
    return _keep(item, made_file(original, cut, LOTTIE, (item.width, item.height), data), data)


def _keep(item: Item, record: File, data: bytes) -> File:
    room.require()
    record.item = item
    store(record.name, ContentFile(data))
    with suppress(IntegrityError), transaction.atomic():
        record.save()
        return record
    File.objects.filter(name=record.name).update(size=record.size, sha256=record.sha256)
    return File.objects.get(name=record.name)


def draw_animation(number: int) -> int:
    """Make what an animation needs in the colours of its uses; returns how many frames were drawn."""
    item = Item.objects.filter(pk=number, kind=Item.Kind.ANIMATION).first()
    if item is None:
        return 0
    count, problem = 0, ""
    try:
        for colours in sorted(_uses(item), key=str):
            cut = f"still-{cut_for(colours)}"
            moving = _moving(item, colours)
            there = item.files.filter(version=item.version, cut=cut).first()
            if moving is None or (there is not None and is_whole(there)):
                continue
            drawn, size = _drawn(item, moving)
            if not drawn:
                problem = NOT_DRAWN
                break
            with original_of(item) as (original, _):
                _keep(item, made_file(original, cut, PNG, size, drawn), drawn)
            count += 1
    except FileError as error:
        problem = str(error)[:300]
    with transaction.atomic():
        row = Item.objects.filter(pk=number)
        if row.filter(version=item.version, wanted=item.wanted).update(made=F("wanted"), problem=problem):
            choose_thumbnail(item)
            tell_changed([item])
    return count


def _drawn(item: Item, moving: File) -> tuple[bytes, tuple[int, int]]:
    """A frame of an animation, and its size in pixels; b"" where none can be drawn."""
    root = Path(stillpage_core.__file__).parent.parent
    across = min(ACROSS, max(2 * item.width, 320))
    with tempfile.TemporaryDirectory(prefix="stillpage-animation-") as folder:
        place, out = Path(folder) / "moving.json", Path(folder) / "still.png"
        with default_storage.open(moving.name) as stored:
            place.write_bytes(stored.read())
        program = [sys.executable, "-m", "stillpage_core.media.animation_still"]
        run_apart([*program, place, f"{PLACE}", f"{across}", out], cwd=root)
        if not out.exists():
            return b"", (0, 0)
        with Image.open(out) as picture:
            return out.read_bytes(), picture.size
