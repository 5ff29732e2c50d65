"""Work in the background: files of pictures, and the words within documents.

The row of an item says what is wanted and what is made; a task only ever brings the two together. So a task may run
twice, or break off at any point, and the next one goes on from what is there.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from django.core.files.storage import default_storage
from django.db import connection, transaction
from django.db.models import F
from django.utils import timezone
from django_tasks import task

from .models import Item

Changed = Callable[[Item], None]
_watchers: list[Changed] = []


def when_files_change(watcher: Changed) -> None:
    """Have ``watcher`` called with every item whose files have changed; who shows items anew registers here."""
    _watchers.append(watcher)


def tell_files_changed(item: Item) -> None:
    """Tell whoever shows an item that its files are others now."""
    for watcher in _watchers:
        watcher(item)


def ask_for_files(item: Item) -> None:
    """Have the files of a picture made, once the present transaction is done."""
    number = item.pk
    transaction.on_commit(lambda: make_files.enqueue(number) and None)


def ask_for_words(item: Item) -> None:
    """Have the words within a document read, once the present transaction is done."""
    number = item.pk
    transaction.on_commit(lambda: read_words.enqueue(number) and None)


def want_files(items: Any) -> None:
    """Note that something about pictures has changed for which files may be missing, and have them made."""
    numbers = list(items.filter(kind=Item.Kind.PICTURE).values_list("pk", flat=True))
    Item.objects.filter(pk__in=numbers).update(wanted=F("wanted") + 1)
    for number in numbers:
        transaction.on_commit(lambda number=number: make_files.enqueue(number) and None)


@contextmanager
def _alone(name: str) -> Iterator[bool]:
    """Whether nobody else does the same just now; a lock of the database, which goes when its connection does."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(%s, 0)", [name])
        mine = bool(cursor.fetchone()[0])
    try:
        yield mine
    finally:
        if mine:
            with connection.cursor() as cursor:
                cursor.execute("SELECT RELEASE_LOCK(%s)", [name])


@task()
def make_files(number: int) -> int:
    """Make every file that a picture still needs; returns how many were made."""
    from .needed import bring_up_to_date  # noqa: PLC0415 - it needs what needs this

    with _alone(f"stillpage item {number}") as mine:
        return bring_up_to_date(number) if mine else 0


@task()
def read_words(number: int) -> int:
    """Read the words within a document, for the search; returns how many characters there are."""
    from .needed import read_document  # noqa: PLC0415

    return read_document(number)


def take_up_again() -> int:
    """Ask anew for whatever was wanted and is not made, as after a worker has been killed; returns how many."""
    waiting = Item.objects.filter(made__lt=F("wanted"), problem="").values_list("pk", "kind")
    for number, kind in waiting:
        (make_files if kind == Item.Kind.PICTURE else read_words).enqueue(number)
    return len(waiting)


def clear_away() -> None:
    """Remove what nobody will ask for any more: uploads broken off a week ago, and made files of versions that were
    replaced a day ago."""
    from .models import File, Upload  # noqa: PLC0415
    from .uploads import forget  # noqa: PLC0415

    for upload in Upload.objects.filter(touched_at__lt=timezone.now() - timedelta(days=7)):
        forget(upload)
    before = timezone.now() - timedelta(days=1)
    stale = File.objects.filter(original=False, made_at__lt=before).exclude(version=F("item__version"))
    for file in stale.filter(item__made=F("item__wanted")):
        file.delete()
        default_storage.delete(file.name)


PERIOD = 60
"""Seconds between two looks at what has been left undone."""
