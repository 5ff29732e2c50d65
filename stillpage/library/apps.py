"""The library as Django starts it: its work is done by its tasks."""

from __future__ import annotations

from django.apps import AppConfig


class LibraryConfig(AppConfig):
    name = "stillpage.library"

    def ready(self) -> None:
        from . import signals, tasks  # noqa: PLC0415 - models are there only now
        from .models import Item  # noqa: PLC0415

        signals.works(Item.Kind.PICTURE, tasks.make_files.enqueue)
        signals.works(Item.Kind.DOCUMENT, tasks.read_words.enqueue)
        signals.works(Item.Kind.ANIMATION, tasks.draw_stills.enqueue)
        signals.works(Item.Kind.HOSTED, tasks.make_files.enqueue)
        # The worker looks for films by itself: one that is made ready for an hour must not stand in the queue.
        signals.works(Item.Kind.FILM, lambda _: None)
        signals.works(Item.Kind.SOUND, lambda _: None)
        # Of a post nothing is made: its pictures are items of their own.
        signals.works(Item.Kind.POST, lambda _: None)
