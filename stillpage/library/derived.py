"""What files a picture needs, given where it is used; and making those that are missing."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import IntegrityError, transaction
from django.db.models import F

from stillpage import room
from stillpage_core.media.drawings import read_drawing
from stillpage_core.media.editing import EDITS, Cut, cut_of
from stillpage_core.media.pictures import AVIF, GIF, JPEG, PNG, SVG, WEBP, FileError, Format
from stillpage_core.media.plan import Derived, plan

from .keeping import at_once, choose_thumbnail, is_whole, made_file, store
from .making import made, opened
from .models import File, Item
from .signals import tell_changed

PICTURES: dict[str, Format] = {form.mime: form for form in (JPEG, PNG, WEBP, GIF, AVIF, SVG)}
NOTHING_SAID: dict[str, Any] = dict.fromkeys(EDITS)


def cuts_of(item: Item, framings: Iterable[dict[str, Any]] = ()) -> list[Cut]:
    """The cuts of a picture that are needed: the whole, the item's own, and those of its uses; each once."""
    own = item.edits or NOTHING_SAID
    used = [framing for use in item.uses.all() for framing in use.framings]
    found = [Cut()]
    for framing in (NOTHING_SAID, *used, *framings):
        cut = cut_of({**NOTHING_SAID, **framing}, own, item.width, item.height)
        if cut not in found:
            found.append(cut)
    return found


def missing(item: Item, cuts: Iterable[Cut]) -> list[tuple[Cut, list[Derived]]]:
    """The files that are planned for these cuts and not there yet, or not there any more."""
    rows = item.files.filter(version=item.version, original=False)
    there = {(file.cut, file.width, file.mime) for file in rows if is_whole(file)}
    todo = []
    for cut in cuts:
        size = cut.size(item.width, item.height)
        planned = plan(*size, drawing=item.nature == Item.Nature.DRAWING, moving=item.nature == Item.Nature.MOVING)
        wanted = [each for each in planned if (cut.key, each.width, each.form.mime) not in there]
        if wanted:
            todo.append((cut, wanted))
    return todo


@contextmanager
def original_of(item: Item) -> Iterator[tuple[File, Any]]:
    file = item.files.get(version=item.version, original=True)
    with default_storage.open(file.name) as stored:
        yield file, stored


def make(item: Item, todo: list[tuple[Cut, list[Derived]]]) -> int:
    """Make files; each is there for readers once it is whole. Returns how many."""
    count = 0
    with original_of(item) as (original, stored), opened(stored, PICTURES[original.mime]) as picture:
        picture.drawn = item.nature == Item.Nature.DRAWING
        for cut, planned in todo:
            for each, data in made(picture, cut, planned):
                _keep(item, original, cut, each, data)
                count += 1
    return count


def _keep(item: Item, original: File, cut: Cut, each: Derived, data: bytes) -> None:
    room.require()
    record = made_file(original, cut.key, each.form, (each.width, each.height), data)
    record.item = item
    store(record.name, ContentFile(data))
    try:
        with transaction.atomic():
            record.save()
    except IntegrityError:
        # There is a row for it: somebody else made the same just now, or the file was gone.
        File.objects.filter(name=record.name).update(size=record.size, sha256=record.sha256)


def _draw_again(item: Item) -> None:
    """Put the cleaned form of a drawing of lines back where it is gone."""
    shown = item.files.filter(version=item.version, original=False).first()
    if shown is not None and not is_whole(shown):
        with original_of(item) as (_, stored):
            store(shown.name, ContentFile(read_drawing(stored.read()).data))


def make_at_once(item: Item, framings: Iterable[dict[str, Any]]) -> None:
    """Make, while somebody waits, the few files without which a use of a picture could not be shown."""
    if item.nature == Item.Nature.LINES:
        return
    cuts = [cut for cut in cuts_of(item, framings) if cut != Cut()]
    todo = [(cut, few) for cut, every in missing(item, cuts) if (few := [each for each in every if at_once(each)])]
    if todo:
        make(item, todo)


def bring_up_to_date(number: int) -> int:
    """Make whatever a picture needs, until nothing more was asked for meanwhile; returns how many files were made."""
    count = 0
    while True:
        item = Item.objects.filter(pk=number).first()
        if item is None or item.kind not in (Item.Kind.PICTURE, Item.Kind.HOSTED):
            return count
        if item.kind == Item.Kind.HOSTED and not item.files.filter(version=item.version, original=True).exists():
            # The host has no cover for it.
            Item.objects.filter(pk=number, wanted=item.wanted).update(made=item.wanted)
            return count
        if item.nature == Item.Nature.LINES:
            _draw_again(item)
        else:
            try:
                count += make(item, missing(item, cuts_of(item)))
            except FileError as error:
                Item.objects.filter(pk=number).update(problem=str(error)[:300], made=item.wanted)
                return count
        with transaction.atomic():
            done = Item.objects.filter(pk=number, wanted=item.wanted).update(made=F("wanted"), problem="")
            if done:
                choose_thumbnail(item)
                tell_changed([item])
                return count


def preview(item: Item, cut: Cut, width: int) -> bytes:
    """A cut of a picture as JPEG or PNG, made for the moment: what somebody sees who is just choosing it."""
    size = cut.size(item.width, item.height)
    across = min(width, size[0])
    form = PNG if item.nature == Item.Nature.DRAWING else JPEG
    one = Derived(across, max(1, round(size[1] * across / size[0])), form)
    with _source(item, max(across, 640)) as (stored, mime), opened(stored, PICTURES[mime]) as picture:
        picture.moving = False
        if picture.picture.mode not in ("L", "RGB", "RGBA"):
            picture.picture = picture.picture.convert("RGBA")
        return next(data for _, data in made(picture, cut, [one]))


@contextmanager
def _source(item: Item, width: int) -> Iterator[tuple[Any, str]]:
    """The smallest file of the whole picture that is wide enough, or the original."""
    whole = item.files.filter(version=item.version, original=False, cut="", width__gte=2 * width)
    file = whole.filter(mime__in=(JPEG.mime, PNG.mime)).order_by("width").first()
    file = file or item.files.get(version=item.version, original=True)
    with default_storage.open(file.name) as stored:
        yield stored, file.mime
