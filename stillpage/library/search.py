"""Finding items by words, in whatever order the list stands.

A word is found where a word of the item begins with it. Two ways lead there. Where many items hold the words, the first
of them stand near the head of the list, and looking through that is quickest; where few do, the full-text index names
them. Neither takes longer than a list ten times as short would, but for the depth of an index.
"""

from __future__ import annotations

import re
import unicodedata
from typing import Any

from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import Q, QuerySet
from django.db.models.expressions import RawSQL

from .models import Item, Words

HEAD = 1500
"""How many items from the head of a list are looked through."""
MOST_WORDS = 8

_WORD = re.compile(r"\w+")
_MATCH = "MATCH (said, within) AGAINST (%s IN BOOLEAN MODE)"


def words_in(text: str) -> list[str]:
    """The words of a text as they are compared: lower case, compatibility forms made one (Unicode NFKD), accents gone.

    So the database compares bytes, which takes a tenth of the time that comparing as people do would.
    """
    plain = "".join(sign for sign in unicodedata.normalize("NFKD", text.casefold()) if not unicodedata.combining(sign))
    return _WORD.findall(plain)


def note_words(item: Item, within: str | None = None) -> None:
    """Keep what an item is found by; ``within`` are the words of its document, None to leave them as they are."""
    tags = list(item.tags.values_list("name", flat=True))
    names = list(item.files.filter(original=True).values_list("came_as", flat=True))
    facts = (item.title, item.alt, item.description, item.credit, item.licence, *tags, *names)
    values = {"said": f" {' '.join(words_in(' '.join(facts)))} "}
    if within is not None:
        # Each word once: what is asked is only whether a document holds them.
        values["within"] = f" {' '.join(sorted(set(words_in(within))))} "
    Words.objects.update_or_create(item=item, defaults=values)


def holding(items: QuerySet[Item], q: str) -> QuerySet[Item]:
    """The items that hold all the words of ``q``, by the full-text index.

    The index is asked for the longest word, which is likely the rarest, and the others are looked for in what it finds:
    asked for all of them it would gather every item that holds the commonest first.
    """
    words = sorted(words_in(q)[:MOST_WORDS], key=len, reverse=True)
    if not words:
        return items
    table = Words._meta.db_table
    for word in words[1:]:
        held = f" {word}"
        items = items.filter(Q(words__said__contains=held) | Q(words__within__contains=held))
    asked = f"+{words[0]}*"
    return items.filter(pk__in=RawSQL(f"SELECT item_id FROM {table} WHERE {_MATCH}", [asked]))  # noqa: S608, S611


def first_of(items: QuerySet[Item], q: str, skip: int, count: int) -> list[int]:
    """The numbers of ``count`` of the items that hold all the words of ``q``, after ``skip`` of them, in the order of
    ``items``."""
    words = words_in(q)[:MOST_WORDS]
    if not words:
        return list(items.values_list("pk", flat=True)[skip : skip + count])
    if skip + count <= HEAD // 4:
        near = _in_head(items, words, skip + count)
        if len(near) >= skip + count or not items.values_list("pk", flat=True)[HEAD : HEAD + 1]:
            return near[skip : skip + count]
    return list(holding(items, q).values_list("pk", flat=True)[skip : skip + count])


def _in_head(items: QuerySet[Item], words: list[str], count: int) -> list[int]:
    """The numbers of the first items that hold the words, among those at the head of the list."""
    try:
        head, parameters = items.values("id")[:HEAD].query.sql_with_params()
    except EmptyResultSet:
        return []
    table = Words._meta.db_table
    each = "(w.said LIKE %s OR w.within LIKE %s)"
    sql = (
        f"SELECT w.item_id FROM ({head}) head STRAIGHT_JOIN {table} w ON w.item_id = head.id "  # noqa: S608
        f"WHERE {' AND '.join([each] * len(words))} LIMIT %s"
    )
    wanted: list[Any] = [form for word in words for form in [f"% {_literal(word)}%"] * 2]
    with connection.cursor() as cursor:
        cursor.execute(sql, [*parameters, *wanted, count])
        return [row[0] for row in cursor.fetchall()]


def _literal(word: str) -> str:
    return word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")


def counted(items: QuerySet[Item], q: str) -> int:
    """How many of the items hold all the words of ``q``."""
    if not words_in(q):
        return items.count()
    if not items.values_list("pk", flat=True)[HEAD : HEAD + 1]:
        return len(_in_head(items, words_in(q)[:MOST_WORDS], HEAD))
    return holding(items, q).count()
