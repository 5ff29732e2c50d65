"""Finding items among 1,000, 10,000 and 100,000: python -m bench.searching.

Fills a database of its own on a server of its own. Each question is asked through the API, in this process, and
beside it as bare SQL that gives the same rows, by turns; p95 of each over all questions, and the ratio of the two.
“Growth” is p95 beside that of the list a tenth as long; a search that looks at every item would show 10.
"""

from __future__ import annotations

import json
import random
import statistics
import sys

from ops.common import guarded

from .common import SMALL, a_database, aim, milliseconds

SIZES = (100, 1_000) if SMALL else (1_000, 10_000, 100_000)
ROUNDS = 2 if SMALL else 30
COMMON = "canal lock towpath boat winter bridge water gate meadow village path summer".split()
QUESTIONS = (
    {},
    {"show": "pictures"},
    {"show": "without alt text"},
    {"show": "used nowhere", "order": "largest"},
    {"order": "title"},
    {"folder": 3},
    {"q": "lock"},
    {"q": "lock winter"},
    {"q": "towp bri"},
    {"q": "w00123"},
    {"q": "lock w00077"},
    {"q": "nothing-is-called-so"},
    {"q": "winter", "show": "pictures", "order": "title"},
)


def main() -> int:
    """Fill, measure, print."""
    with a_database():
        _measure()
    return 0


def _measure() -> None:
    from django.conf import settings  # noqa: PLC0415
    from django.test import Client  # noqa: PLC0415

    from stillpage.library.models import Folder  # noqa: PLC0415
    from stillpage.people.models import Person, Role, RoleGrant  # noqa: PLC0415

    settings.ALLOWED_HOSTS = ["localhost"]
    person = Person.objects.create(username="bench")
    RoleGrant.objects.create(person=person, role=Role.KEEPER)
    for number in range(20):
        Folder.objects.create(name=f"Folder {number}")
    client = Client(HTTP_HOST="localhost")
    client.force_login(person, "django.contrib.auth.backends.ModelBackend")
    print(f"{'items':>8} {'API p95, ms':>12} {'SQL p95, ms':>12} {'ratio':>6} {'growth':>7}   slowest question")
    before = 0.0
    there = 0
    for size in SIZES:
        _fill(there, size, person.pk)
        there = size
        api: list[float] = []
        sql: list[float] = []
        slowest: dict[str, float] = {}
        for question in QUESTIONS * 2:
            milliseconds(lambda question=question: client.get("/api/library", question))
        for _ in range(ROUNDS):
            for question in QUESTIONS:
                took = milliseconds(lambda question=question: client.get("/api/library", question))
                api.append(took)
                sql.append(milliseconds(lambda question=question: _bare(question)))
                slowest.setdefault(json.dumps(question), 0)
                slowest[json.dumps(question)] += took / ROUNDS
        p95 = _p95(api)
        growth, earlier = (f"{p95 / before:7.2f}" if before else " " * 7), before or p95
        worst = max(slowest, key=lambda each: slowest[each])
        print(f"{size:8,} {p95:12.1f} {_p95(sql):12.1f} {p95 / _p95(sql):6.2f} {growth}   {worst} {slowest[worst]:.1f}")
        before = p95
    aim("p95 of the API beside bare SQL, of the longest list", p95 / _p95(sql), most=4)
    aim("growth of p95 from one list to one ten times as long", p95 / earlier, most=3)


def _p95(times: list[float]) -> float:
    return statistics.quantiles(times, n=20)[-1]


def _fill(there: int, size: int, person: int) -> None:
    from django.db import connection  # noqa: PLC0415
    from django.utils import timezone  # noqa: PLC0415

    from stillpage.library.models import Item, Words  # noqa: PLC0415

    chance = random.Random(there)
    now = timezone.now()
    items, words = [], []
    for number in range(there + 1, size + 1):
        said = [*chance.choices(COMMON, k=4), *(f"w{chance.randrange(5000):05}" for _ in range(12))]
        title = " ".join(said[:5])
        kind = chance.choice(("picture", "picture", "picture", "document"))
        alt = "" if chance.random() < 0.2 else title
        items.append(
            Item(
                id=number,
                kind=kind,
                title=title,
                alt=alt,
                wordless=not alt and kind == "picture",
                folder_id=chance.randrange(20) + 1,
                size=chance.randrange(9**7),
                width=900,
                height=600,
                mime="image/jpeg",
                thumbnail="a",
                made=1,
                added_at=now,
                added_by_id=person,
            )
        )
        words.append(Words(item_id=number, said=f" {' '.join(said)} ", within=""))
    Item.objects.bulk_create(items, batch_size=2000)
    Words.objects.bulk_create(words, batch_size=2000)
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE TABLE library_item, library_words")


_ORDER = {"newest": "i.added_at DESC, i.id DESC", "title": "i.title, i.id", "largest": "i.size DESC, i.id DESC"}
_SHOW = {
    "pictures": " AND i.kind = 'picture'",
    "without alt text": " AND i.wordless = 1",
    "used nowhere": " AND i.used_on = 0",
}
_SELECT = (
    "i.id, i.kind, i.title, i.alt, i.size, i.width, i.height, i.mime, i.thumbnail, i.used_on, i.added_at, i.added_by_id"
)


def _bare(question: dict[str, object]) -> list[tuple[object, ...]]:
    """The same rows by the plainest SQL that uses the same indexes."""
    from django.db import connection  # noqa: PLC0415

    from stillpage.library.search import words_in  # noqa: PLC0415

    where = "i.binned_at IS NULL" + _SHOW.get(str(question.get("show", "")), "")
    if "folder" in question:
        where += f" AND i.folder_id = {question['folder']}"
    order = _ORDER[str(question.get("order", "newest"))]
    parameters: list[str] = []
    source = "library_item i"
    if q := question.get("q"):
        source += " JOIN library_words w ON w.item_id = i.id"
        where += " AND MATCH (w.said, w.within) AGAINST (%s IN BOOLEAN MODE)"
        parameters.append(" ".join(f"+{word}*" for word in words_in(str(q))))
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {_SELECT} FROM {source} WHERE {where} ORDER BY {order} LIMIT 61", parameters)
        return list(cursor.fetchall())


if __name__ == "__main__":
    sys.exit(guarded(main))
