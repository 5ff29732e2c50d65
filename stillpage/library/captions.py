"""Captions of films and sounds: kept while they are written, given to readers, taken away and brought back."""

from __future__ import annotations

import hashlib
import json
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from stillpage import room
from stillpage.people.models import Person
from stillpage_core.errors import CoreError
from stillpage_core.media.captions import CaptionError, Cue, check_captions, loud_stretches, write_webvtt
from stillpage_core.media.captions.cues import LATEST, LONGEST_CUE, MOST_CUES, one_line, plain_text

from .files import files_of
from .keeping import store
from .models import Captions, File, Item
from .search import note_words
from .signals import tell_changed

CUT = "captions-"
"""How the name begins of what a file of captions is (`File.cut`)."""
MIME = "text/vtt"
_SLIGHT = ("flicker", "speaker")
"""The rules whose findings are no matter to readers."""
_REPLACED = 0
"""The version of a file of captions that others have taken the place of."""


class ChangedMeanwhile(CoreError):
    """Somebody else has saved these captions since they were read."""

    name = "changed-meanwhile"
    title = "These captions were changed meanwhile"
    status = 409


def packed(cues: Iterable[Cue]) -> list[dict[str, Any]]:
    """Cues as the database and the API have them."""
    return [asdict(cue) for cue in cues]


def unpacked(rows: Sequence[Mapping[str, Any]]) -> tuple[Cue, ...]:
    """The other way round, of what anybody sent.

    Raises:
        CaptionError: when there are too many, or one is too long or has no times.
    """
    if len(rows) > MOST_CUES:
        raise CaptionError(f"These are {len(rows):,} cues; one film may have {MOST_CUES:,}.")
    return tuple(_cue(number, row) for number, row in enumerate(rows, start=1))


def _cue(number: int, row: Mapping[str, Any]) -> Cue:
    begin, end, text = row["begin"], row["end"], row["text"]
    if not 0 <= begin <= LATEST or not 0 <= end <= LATEST:
        raise CaptionError(f"Cue {number} has a time that no film reaches.")
    if len(text) > LONGEST_CUE:
        raise CaptionError(f"Cue {number} has {len(text):,} characters; one cue may have {LONGEST_CUE:,}.")
    # A name or a setting with an arrow in it would be read as a time.
    others = [one_line(row[each]).replace("-->", "→")[:200] for each in ("speaker", "name", "settings")]
    return Cue(begin, end, plain_text(text), others[0][:100], *others[1:])


def of_item(item: Item) -> QuerySet[Captions]:
    """The captions that an item has, those left out that were taken away."""
    return item.captions.filter(removed_at=None).select_related("saved_by", "given")


def loud(item: Item) -> list[tuple[int, int]]:
    """The stretches in which an item's present file is loud, in milliseconds; none until its levels are known."""
    row = next((each for each in files_of(item) if each.cut == "levels"), None)
    if row is None:
        return []
    try:
        with default_storage.open(row.name) as stored:
            return loud_stretches(json.load(stored))
    except (FileNotFoundError, ValueError):
        return []


@transaction.atomic
def begin(item: Item, person: Person, sort: str, language: str, cues: Sequence[Cue] = ()) -> Captions:
    """Begin captions. Raises `CaptionError` where an item has such already."""
    Item.objects.select_for_update().get(pk=item.pk)
    if item.kind not in (Item.Kind.FILM, Item.Kind.SOUND):
        raise CaptionError("Only a film or a sound can have captions.")
    made = Captions(item=item, sort=sort, language=language, cues=packed(cues), version=item.version, saved_by=person)
    _only_one(made)
    made.save()
    _note_words(item)
    return made


def _only_one(captions: Captions) -> None:
    there = Captions.objects.filter(item=captions.item_id, sort=captions.sort, removed_at=None)
    if there.filter(language__iexact=captions.language).exclude(pk=captions.pk).exists():
        raise CaptionError(f"There are {captions.get_sort_display().lower()} in this language already.")


@transaction.atomic
def save(
    captions: Captions,
    person: Person,
    revision: int,
    cues: Sequence[Cue],
    *,
    language: str | None = None,
    drafted: bool | None = None,
) -> Captions:
    """Save captions as somebody has written them on from a revision.

    Raises:
        ChangedMeanwhile: when there is a later one.
        CaptionError: when there are captions in that language already.
    """
    Item.objects.select_for_update().get(pk=captions.item_id)
    found = Captions.objects.select_for_update().select_related("item").get(pk=captions.pk)
    if found.revision != revision:
        sentence = f"{found.saved_by.shown_name} has changed these captions since you opened them."
        raise ChangedMeanwhile(sentence)
    found.cues = packed(cues)
    if language is not None and language != found.language:
        found.language = language
        _only_one(found)
    if drafted is not None:
        found.drafted = drafted
        found.version = found.version if drafted else found.item.version
    found.revision += 1
    found.saved_at, found.saved_by = timezone.now(), person
    found.save()
    _note_words(found.item)
    return found


@transaction.atomic
def give(captions: Captions) -> Captions:
    """Give captions to readers as they are now. Raises `CaptionError` when there are none."""
    Item.objects.select_for_update().get(pk=captions.item_id)
    found = Captions.objects.select_for_update().select_related("item").get(pk=captions.pk)
    cues = [cue for cue in unpacked(found.cues) if cue.text and cue.end > cue.begin]
    if not cues:
        raise CaptionError("There is no cue with words and a time yet.")
    earlier = found.given
    found.given = _file(found, cues)
    found.given_cues, found.given_at = packed(cues), timezone.now()
    heard = loud(found.item) if found.sort == Captions.Sort.CAPTIONS else []
    notes = check_captions(cues, length=found.item.lasts or None, loud=heard)
    found.faults = dict(Counter(note.rule for note in notes if note.rule not in _SLIGHT))
    found.save()
    if earlier is not None and earlier.pk != found.given.pk:
        _replaced(earlier)
    tell_changed([found.item])
    return found


@transaction.atomic
def take_back(captions: Captions) -> Captions:
    """Take captions from readers; what is written stays."""
    found = Captions.objects.select_for_update().select_related("item").get(pk=captions.pk)
    if found.given is not None:
        _replaced(found.given)
    found.given, found.given_cues, found.given_at, found.faults = None, [], None, {}
    found.save()
    tell_changed([found.item])
    return found


@transaction.atomic
def remove(captions: Captions) -> Captions:
    """Take captions away, from readers too; `bring_back` undoes it, readers get them again by `give`."""
    found = take_back(captions)
    found.removed_at = timezone.now()
    found.save(update_fields=["removed_at"])
    _note_words(found.item)
    return found


@transaction.atomic
def bring_back(captions: Captions) -> Captions:
    """Bring back captions that were taken away. Raises `CaptionError` when others have their place."""
    Item.objects.select_for_update().get(pk=captions.item_id)
    _only_one(captions)
    captions.removed_at = None
    captions.save(update_fields=["removed_at"])
    _note_words(captions.item)
    return captions


def _file(captions: Captions, cues: Sequence[Cue]) -> File:
    room.require()
    data = write_webvtt(cues, language=captions.language).encode()
    digest = hashlib.sha256(data).hexdigest()
    original = captions.item.files.get(version=captions.item.version, original=True)
    folder = original.name.rpartition("/")[0]
    name = f"{folder}/{CUT}{captions.pk}-{digest[:16]}.vtt"
    store(name, ContentFile(data))
    facts = {"cut": f"{CUT}{captions.pk}", "mime": MIME, "width": 0, "height": 0, "original": False}
    row, _ = File.objects.update_or_create(
        name=name, defaults={"item": captions.item, "version": 1, "size": len(data), "sha256": digest, **facts}
    )
    return row


def _replaced(file: File) -> None:
    """Who has a page open that names the file still gets it, for a day."""
    File.objects.filter(pk=file.pk).update(version=_REPLACED, made_at=timezone.now())


def replaced_before(moment: datetime) -> QuerySet[File]:
    """The files of captions that readers have not been given since then."""
    return File.objects.filter(cut__startswith=CUT, version=_REPLACED, made_at__lt=moment)


def write_again(file: File) -> None:
    """Write a file of captions anew that is missing on the disk."""
    captions = Captions.objects.filter(given=file).first()
    if captions is None:
        file.delete()
        return
    store(file.name, ContentFile(write_webvtt(unpacked(captions.given_cues), language=captions.language).encode()))


def _note_words(item: Item) -> None:
    """What is said in a film is found by the search."""
    rows = of_item(item).values_list("cues", flat=True)
    note_words(item, " ".join(str(row["text"]) for cues in rows for row in cues))
