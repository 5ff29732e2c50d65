"""Finding rows by words, in whatever order their list stands.

A word is found where a word that is kept begins with it. Two ways lead there. Where many rows hold the words, the first
of them stand near the head of the list, and looking through that is quickest; where few do, a full-text index names
them. Neither takes longer than a list ten times as short would, but for the depth of an index.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import F, QuerySet
from django.db.models.expressions import RawSQL

HEAD = 1500
"""How many rows from the head of a list are looked through."""
MOST_WORDS = 8

_WORD = re.compile(r"\w+")


def words_in(text: str) -> list[str]:
    """The words of a text as they are compared: lower case, compatibility forms made one (Unicode NFKD), accents gone.

    So the database compares bytes, which takes a tenth of the time that comparing as people do would.
    """
    plain = "".join(sign for sign in unicodedata.normalize("NFKD", text.casefold()) if not unicodedata.combining(sign))
    return _WORD.findall(plain)


def in_order(texts: Iterable[str]) -> str:
    """The words of texts as they are kept, in their order."""
    return f" {' '.join(words_in(' '.join(texts)))} "


def each_once(text: str) -> str:
    """The words of a text as they are kept where all that is asked is whether it holds them."""
    return f" {' '.join(sorted(set(words_in(text))))} "


@dataclass(frozen=True)
class Index:
    """Where words are kept: a table, its column that has the number of what they belong to, and its columns of words,
    which have one full-text index together."""

    table: str
    key: str
    columns: tuple[str, ...]

    def holding(self, rows: QuerySet[Any], q: str) -> QuerySet[Any]:
        """The rows that hold all the words of ``q``, by the full-text index.

        The index is asked for the longest word, which is likely the rarest, and the others are looked for in what it
        finds: asked for all of them it would gather every row that holds the commonest first.
        """
        words = sorted(words_in(q)[:MOST_WORDS], key=len, reverse=True)
        if not words:
            return rows
        found = [f"MATCH ({', '.join(self.columns)}) AGAINST (%s IN BOOLEAN MODE)", *[self._held()] * (len(words) - 1)]
        asked = [f"+{words[0]}*", *self._forms(words[1:])]
        return rows.filter(pk__in=RawSQL(f"SELECT {self.key} FROM {self.table} WHERE {' AND '.join(found)}", asked))  # noqa: S608, S611

    def first_of(self, rows: QuerySet[Any], q: str, skip: int, count: int) -> list[int]:
        """The numbers of ``count`` of the rows that hold all the words of ``q``, after ``skip`` of them, in the order
        of ``rows``."""
        words = words_in(q)[:MOST_WORDS]
        if not words:
            return list(rows.values_list("pk", flat=True)[skip : skip + count])
        if skip + count <= HEAD // 4:
            near = self._in_head(rows, words, skip + count)
            if len(near) >= skip + count or not rows.values_list("pk", flat=True)[HEAD : HEAD + 1]:
                return near[skip : skip + count]
        return list(self.holding(rows, q).values_list("pk", flat=True)[skip : skip + count])

    def counted(self, rows: QuerySet[Any], q: str) -> int:
        """How many of the rows hold all the words of ``q``."""
        if not words_in(q):
            return rows.count()
        if not rows.values_list("pk", flat=True)[HEAD : HEAD + 1]:
            return len(self._in_head(rows, words_in(q)[:MOST_WORDS], HEAD))
        return self.holding(rows, q).count()

    def _held(self) -> str:
        return f"({' OR '.join(f'{column} LIKE %s' for column in self.columns)})"

    def _forms(self, words: list[str]) -> list[str]:
        return [form for word in words for form in [f"% {_literal(word)}%"] * len(self.columns)]

    def _in_head(self, rows: QuerySet[Any], words: list[str], count: int) -> list[int]:
        """The numbers of the first rows that hold the words, among those at the head of the list."""
        try:
            head, parameters = rows.values(number=F("pk"))[:HEAD].query.sql_with_params()
        except EmptyResultSet:
            return []
        sql = (
            f"SELECT w.{self.key} FROM ({head}) head STRAIGHT_JOIN {self.table} w ON w.{self.key} = head.number "  # noqa: S608
            f"WHERE {' AND '.join([self._held()] * len(words))} LIMIT %s"
        )
        with connection.cursor() as cursor:
            cursor.execute(sql, [*parameters, *self._forms(words), count])
            return [row[0] for row in cursor.fetchall()]


def _literal(word: str) -> str:
    return word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
