"""Asking for work in the background, and telling that some was done. Who does the work, and who wants to hear of it,
leaves word here; so nobody here need know them."""

from __future__ import annotations

from collections.abc import Callable, Collection

from django.db import transaction
from django.db.models import F, QuerySet

from .models import Item

_workers: dict[str, Callable[[int], object]] = {}
_watchers: list[Callable[[Collection[Item]], None]] = []


def works(kind: str, worker: Callable[[int], object]) -> None:
    """Have ``worker`` called with the number of every item of a kind for which work is asked."""
    _workers[kind] = worker


def when_items_change(watcher: Callable[[Collection[Item]], None]) -> None:
    """Have ``watcher`` called with items of which files have changed, or words that readers get; who shows items
    registers here."""
    _watchers.append(watcher)


def tell_changed(items: Collection[Item]) -> None:
    """Tell whoever shows items that their files, or their words, are others now; in the transaction that changes
    them, so that neither is there without the other."""
    for watcher in _watchers:
        watcher(items)


def ask(number: int, kind: str) -> None:
    """Have the files of a picture made, or the words of a document read, once the present transaction is done."""
    transaction.on_commit(lambda: _workers[kind](number) and None)


def want_files(items: QuerySet[Item]) -> None:
    """Note that something about items has changed for which files may be missing, and have them made."""
    found = list(items.values_list("pk", "kind"))
    Item.objects.filter(pk__in=[number for number, _ in found]).update(wanted=F("wanted") + 1, tries=0)
    for number, kind in found:
        ask(number, kind)
