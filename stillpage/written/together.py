"""Who else writes on the same, and where."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from uuid import UUID

from django.utils import timezone

from stillpage.people.models import Person

from .models import Writing, Written

PRESENT = timedelta(seconds=20)
"""Who has not been heard of for so long is not there any more."""
TOLD_AGAIN = timedelta(seconds=6)
"""Who stays where they are is noted again only after so long: every window asks every few seconds."""


def here(written: Written, person: Person, window: UUID, block: int | None) -> None:
    """Somebody writes in a window, in this block of its text."""
    now = timezone.now()
    facts: dict[str, Any] = {"written": written, "person": person, "block": block}
    mine = Writing.objects.filter(window=window)
    if mine.filter(**facts, at__gt=now - TOLD_AGAIN).exists():
        return
    facts["at"] = now
    # A window's number is its own secret: nobody else's is taken over.
    if not mine.filter(person=person).update(**facts):
        Writing.objects.get_or_create(window=window, defaults=facts)


def gone(person: Person, window: UUID) -> None:
    """A window was closed."""
    Writing.objects.filter(window=window, person=person).delete()


def others(written: Written, window: UUID) -> list[Writing]:
    """Everybody who writes on it in other windows, in the order they were heard of."""
    found = Writing.objects.filter(written=written, at__gte=timezone.now() - PRESENT).exclude(window=window)
    return list(found.select_related("person").order_by("person_id", "window"))


def clear_away() -> None:
    """Forget windows that were closed without a word."""
    Writing.objects.filter(at__lt=timezone.now() - 3 * PRESENT).delete()
