"""Work in the background: files of pictures, and the words within documents.

The row of an item says what is wanted and what is made; a task only ever brings the two together. So a task may run
twice, or break off at any point, and the next one goes on from what is there.
"""

from __future__ import annotations

import errno
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta

from django.core.files.storage import default_storage
from django.db import connection
from django.db.models import F
from django.utils import timezone
from django_tasks import task
from django_tasks_db.models import DBTaskResult

from . import captions, films
from .animations import draw_animation, unused_before
from .derived import bring_up_to_date
from .documents import read_document
from .models import File, Item, Upload
from .uploads import forget


@contextmanager
def _alone(name: str) -> Iterator[bool]:
    """Whether nobody else does the same just now; a lock of the database, which goes when its connection does. A server
    has one set of locks for all its databases: the name tells ours from others'."""
    name = f"{connection.settings_dict['NAME']} {name}"[-64:]
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(%s, 0)", [name])
        mine = bool(cursor.fetchone()[0])
    try:
        yield mine
    finally:
        if mine:
            with connection.cursor() as cursor:
                cursor.execute("SELECT RELEASE_LOCK(%s)", [name])


TRIES = 3
"""How often work on an item is begun at most without being ended: some files end whoever looks at them."""
GIVEN_UP = (
    "The work on its files was begun three times and broke off each time. "
    "An administrator finds out more in the server’s log; replacing the file begins anew."
)


def _tried(number: int, work: Callable[[int], int]) -> int:
    """Do work on an item, counted as a try until it has ended."""
    item = Item.objects.filter(pk=number)
    item.update(tries=F("tries") + 1)
    if item.filter(tries__gt=TRIES).update(problem=GIVEN_UP, made=F("wanted")):
        return 0
    try:
        done = work(number)
    except OSError as error:
        if error.errno == errno.ENOSPC:  # That is no fault of the item's, and will pass.
            item.update(tries=0)
        raise
    item.update(tries=0)
    return done


@task()
def make_files(number: int) -> int:
    """Make every file that a picture still needs; returns how many were made."""
    with _alone(f"stillpage item {number}") as mine:
        return _tried(number, bring_up_to_date) if mine else 0


@task()
def read_words(number: int) -> int:
    """Read the words within a document, for the search; returns how many characters there are."""
    return _tried(number, read_document)


@task()
def draw_stills(number: int) -> int:
    """Make the files of an animation in the colours of its uses; returns how many."""
    return _tried(number, draw_animation)


def make_a_film() -> bool:
    """Make the next film or sound ready that waits; whether there was one. One at a time, of all workers."""
    with _alone("stillpage films") as mine:
        number = films.waiting().values_list("pk", flat=True).first() if mine else None
        if number is None:
            return False
        _tried(number, films.make_film)
    return True


def take_up_again() -> int:
    """Ask anew for whatever was wanted and is not made, as after a worker has been killed; returns how many.

    Nothing is done while the queue holds work on items: a worker that is started again and again would otherwise fill
    it faster than anybody empties it.
    """
    if DBTaskResult.objects.filter(status="READY", task_path__startswith=f"{__name__}.").exists():
        return 0
    workers = {Item.Kind.DOCUMENT: read_words, Item.Kind.ANIMATION: draw_stills}
    kinds = (Item.Kind.PICTURE, Item.Kind.HOSTED, *workers)
    waiting = Item.objects.filter(made__lt=F("wanted"), problem="", kind__in=kinds).values_list("pk", "kind")[:AT_ONCE]
    for number, kind in waiting:
        workers.get(Item.Kind(kind), make_files).enqueue(number)
    return len(waiting)


def clear_away() -> None:
    """Remove what nobody will ask for any more: uploads broken off a week ago, and made files of versions that were
    replaced a day ago."""
    for upload in Upload.objects.filter(touched_at__lt=timezone.now() - timedelta(days=7)):
        forget(upload)
    before = timezone.now() - timedelta(days=1)
    # Until then, who opened a page before the replacement still sees its pictures.
    old = File.objects.filter(original=False, item__made=F("item__wanted")).exclude(version=F("item__version"))
    made = old.exclude(item__shown_since__gte=before).exclude(cut__startswith=captions.CUT)
    for file in (*made, *captions.replaced_before(before), *unused_before(before)):
        file.delete()
        default_storage.delete(file.name)


AT_ONCE = 500
"""How many items are asked for anew at one look, so that a long queue does not grow by being looked at."""
PERIOD = 60
"""Seconds between two looks at what has been left undone."""
