"""By which words items are found, and finding them (`searching`)."""

from __future__ import annotations

from django.db.models import QuerySet

from stillpage.searching import Index, each_once, in_order, words_in

from .models import Item, Words

__all__ = ["counted", "first_of", "holding", "note_words", "words_in"]

INDEX = Index("library_words", "item_id", ("said", "within"))


def note_words(item: Item, within: str | None = None) -> None:
    """Keep what an item is found by; ``within`` are the words of its document, None to leave them as they are."""
    tags = list(item.tags.values_list("name", flat=True))
    names = list(item.files.filter(original=True).values_list("came_as", flat=True))
    facts = (item.title, item.alt, item.description, item.credit, item.licence, *tags, *names)
    values = {"said": in_order(facts)}
    if within is not None:
        # Each word once: what is asked is only whether a document holds them.
        values["within"] = each_once(within)
    Words.objects.update_or_create(item=item, defaults=values)


def holding(items: QuerySet[Item], q: str) -> QuerySet[Item]:
    """The items that hold all the words of ``q``, by the full-text index."""
    return INDEX.holding(items, q)


def first_of(items: QuerySet[Item], q: str, skip: int, count: int) -> list[int]:
    """The numbers of ``count`` of the items that hold all the words of ``q``, after ``skip`` of them."""
    return INDEX.first_of(items, q, skip, count)


def counted(items: QuerySet[Item], q: str) -> int:
    """How many of the items hold all the words of ``q``."""
    return INDEX.counted(items, q)
