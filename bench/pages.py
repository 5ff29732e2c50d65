"""What changes cost on sites of 1,000, 10,000 and 100,000 pages: python -m bench.pages.

Fills a database of its own on a server of its own with a tree in which each page has ten below it, all live. Each act
is asked of the API in this process; “SQL” is the plainest statement that writes, or reads, the same row of a live copy
in the same run, by turns, and “ratio” is the act beside it, each the least of several. “Growth” is the act beside
itself on the site a tenth as large: what costs only what it touches shows 1, what looks at every page shows 10. “All
right again” is what the worker does after a title that every page shows: rendering what stands around the texts of so
many pages a second; and after the program itself has changed, the texts too.
"""

from __future__ import annotations

import resource
import sys
import time
from collections.abc import Callable
from functools import partial
from typing import Any

from ops.common import guarded

from .common import SMALL, a_database, aim, milliseconds
from .painted import a_window

SIZES = (100, 1_000) if SMALL else (1_000, 10_000, 100_000)
ROUNDS = 2 if SMALL else 9
SPELL = 2 if SMALL else 20
"""For how many seconds the worker renders, where it is measured."""
TOP = 8
"""How many pages the navigation names."""
HOST = "bench.localhost"
Act = Callable[[int], object]


def main() -> int:
    """Fill, measure, print."""
    with a_database():
        _measure()
    return 0


def _measure() -> None:
    from django.conf import settings  # noqa: PLC0415
    from django.test import Client  # noqa: PLC0415

    from stillpage.people.models import Person, Role, RoleGrant  # noqa: PLC0415
    from stillpage.publishing import freshness  # noqa: PLC0415
    from stillpage.sites.models import Site  # noqa: PLC0415

    settings.ALLOWED_HOSTS = ["localhost", HOST]
    plain = {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}
    settings.STORAGES = {**settings.STORAGES, "staticfiles": plain}
    person = Person.objects.create(username="bench")
    RoleGrant.objects.create(person=person, role=Role.AUTHOR)
    site = Site.objects.create(name="Bench", host=HOST, theme="water")
    client = Client(HTTP_HOST="localhost", raise_request_exception=True)
    client.force_login(person, "django.contrib.auth.backends.ModelBackend")
    print(f"{'pages':>8} {'ms':>10} {'SQL, ms':>8} {'ratio':>8} {'growth':>7}   act, least of {ROUNDS}")
    before: dict[str, float] = {}

    def contents(_: int) -> None:
        _good(client.get(f"/api/sites/{site.pk}/contents"))

    there = 0
    beside = 0.0
    for size in SIZES:
        _fill(site, person, there, size)
        there = size
        growth = 0.0
        _settle()
        with a_window(client) as painted:
            bare = min(painted("/help", "main h1") for _ in range(ROUNDS))
            took = min(painted(f"/sites/{site.pk}", "[role=treeitem]") for _ in range(ROUNDS))
        grown = took / before[PAINTED] if PAINTED in before else 0.0
        told = f"{grown:7.2f}" if grown else " " * 7
        print(f"{size:8,} {took:10.1f} {bare:8.1f} {took / bare:8.1f} {told}   {PAINTED}", flush=True)
        before[PAINTED], beside = took, took / bare
        for name, (act, bare, rounds) in _acts(client, site, size).items():
            act(0)
            took, plain = _least(act, bare, rounds)
            grown = took / before[name] if name in before else 0.0
            if name == DEEP:
                growth = grown
            told = f"{grown:7.2f}" if grown else " " * 7
            print(f"{size:8,} {took:10.1f} {plain:8.2f} {took / plain:8.1f} {told}   {name}", flush=True)
            before[name] = took
        for why, change in (
            ("a title in the navigation", lambda: freshness._move_on([site.pk])),
            ("a new program", lambda: freshness.renew(site)),
        ):
            change()
            before[WAITING], _ = _least(contents, contents, ROUNDS)
            print(f"{size:8,} {before[WAITING]:10.1f} {'':25}   {WAITING}, after {why}", flush=True)
            _again(site, f"all right again after {why}")
        peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        print(f"{size:8,} {peak:10.0f} MB at most in this process, so far", flush=True)
    _aims(before, growth, beside)


def _aims(before: dict[str, float], growth: float, beside: float) -> None:
    """Say what is met, on the largest site."""
    aim("a new title below the navigation, growth from one site to one ten times as large", growth, most=2)
    aim("a new title below the navigation, ms, on the largest site", before[DEEP], most=1000)
    aim("a new title in the navigation, ms, on the largest site", before[TOP_TITLE], most=1000)
    aim("Contents, ms, on the largest site", before["Contents"], most=300)
    aim("Contents painted in Chromium, beside the Help, on the largest site", beside, most=3)
    aim("finding pages, ms, on the largest site", max(before[each] for each in before if "find" in each), most=300)
    moving = next(took for each, took in reversed(before.items()) if each.startswith(MOVE))
    aim("moving a branch of about a thousand pages, ms, on the largest site", moving, most=2000)
    aim(f"{WAITING}, ms, on the largest site", before[WAITING], most=300)


def _least(act: Act, bare: Act, rounds: int) -> tuple[float, float]:
    """What an act and its plain counterpart take at least, done by turns: whatever else the machine does for a while
    adds to some of them and takes from none."""
    took = [[milliseconds(partial(each, turn)) for each in (act, bare)] for turn in range(1, rounds + 1)]
    return min(one for one, _ in took), min(other for _, other in took)


DEEP = "publish a new title, below the navigation"
TOP_TITLE = "publish a new title in the navigation"
MOVE = "move a branch"
PAINTED = "Contents, to the first page painted in Chromium, beside the Help, a screen that asks for nothing"
WAITING = "Contents, while every page waits for the worker"


def _acts(client: Any, site: Any, size: int) -> dict[str, tuple[Act, Act, int]]:
    """By name: an act that takes the number of its turn, its plain counterpart in SQL, and how many turns it has."""
    from django.db import connection  # noqa: PLC0415

    from stillpage.pages.models import Page  # noqa: PLC0415
    from stillpage.pages.tree import in_branch  # noqa: PLC0415
    from stillpage.publishing import page_memory  # noqa: PLC0415
    from stillpage.publishing.models import LiveCopy  # noqa: PLC0415
    from stillpage.written.models import WorkingCopy  # noqa: PLC0415

    leaf = Page.objects.filter(site=site).order_by("-pk")[0]
    top = Page.objects.filter(site=site, parent=None).exclude(path="/").order_by("pk")[0]

    def publish(page: Any, title: str) -> None:
        WorkingCopy.objects.filter(written=page).update(title=title)
        revision = WorkingCopy.objects.get(written=page).revision
        _good(client.post(f"/api/pages/{page.pk}/publish", {"revision": revision}, "application/json"))

    def save(turn: int) -> None:
        copy = WorkingCopy.objects.get(written=leaf)
        sent = {"title": copy.title, "description": f"Turn {turn}", "document": copy.document, "base": copy.revision}
        _good(client.put(f"/api/pages/{leaf.pk}/working-copy", sent, "application/json"))

    def write(turn: int) -> None:
        with connection.cursor() as cursor:
            cursor.execute(
                "UPDATE publishing_livecopy SET title = %s, html = %s WHERE written_id = %s",
                [f"Turn {turn}", b"x" * (4000 + turn), leaf.pk],
            )

    def read(_: int) -> None:
        with connection.cursor() as cursor:
            cursor.execute("SELECT html, etag FROM publishing_livecopy WHERE address = %s", [HOST + leaf.path])
            cursor.fetchall()

    def stale(_: int) -> None:
        LiveCopy.objects.filter(written=leaf).update(frame=0)
        page_memory.changed([HOST + leaf.path])
        _good(client.get(leaf.path, HTTP_HOST=HOST))

    # The page with the most under it, up to a thousand, and two places for it.
    branches = [
        (in_branch(page).count(), page)
        for page in Page.objects.filter(site=site, parent__isnull=False).order_by("pk")[:90]
    ]
    branch, moved = max((each for each in branches if each[0] <= 1_300), key=lambda each: each[0])
    homes = [moved.parent_id, next(page.pk for _, page in branches if page.parent_id != moved.parent_id)]
    homes[1] = Page.objects.get(pk=homes[1]).parent_id

    def move(turn: int) -> None:
        body = {"pages": [moved.pk], "site": site.pk, "parent": homes[(turn + 1) % 2]}
        _good(client.post("/api/tree/place", body, "application/json"))

    def write_branch(turn: int) -> None:
        page = Page.objects.get(pk=moved.pk)
        with connection.cursor() as cursor:
            cursor.execute(
                "UPDATE pages_page SET copied_title = %s WHERE site_id = %s AND path > %s AND path < %s",
                [f"{turn} {time.monotonic()}", site.pk, f"{page.path}/", f"{page.path}0"],
            )

    def look(words: str) -> Act:
        return lambda _: _good(client.get(f"/api/sites/{site.pk}/find", {"q": words}))

    def lead_on(_: int) -> None:
        if client.get("/p2.html", HTTP_HOST=HOST).status_code != 301:
            raise SystemExit("/p2.html does not lead on")

    acts: dict[str, tuple[Act, Act, int]] = {
        "a reader's request": (lambda _: _good(client.get(leaf.path, HTTP_HOST=HOST)), read, ROUNDS),
        "save": (save, write, ROUNDS),
        "publish, the title as it was": (lambda _: publish(leaf, "Always so"), write, ROUNDS),
        DEEP: (lambda turn: publish(leaf, f"Turn {turn} of {size}"), write, ROUNDS),
        TOP_TITLE: (lambda turn: publish(top, f"Top {turn} of {size}"), write, ROUNDS),
        "a reader's request, out of date": (stale, read, ROUNDS),
        "a reader who is led on": (lead_on, read, ROUNDS),
        "find pages by a rare word": (look("heron"), read, ROUNDS),
        "find pages by a word that all have": (look("towpath"), read, ROUNDS),
        "find pages by an address": (look("/p3/"), read, ROUNDS),
        f"{MOVE} of {branch:,}": (move, write_branch, 2),
        "Contents": (lambda _: _good(client.get(f"/api/sites/{site.pk}/contents")), read, 2),
    }
    return acts


def _again(site: Any, growth: str) -> None:
    """Print how many pages a second the worker renders anew."""
    from stillpage.publishing import freshness  # noqa: PLC0415

    before, begun = freshness.waiting(site), time.monotonic()
    freshness.bring_all_up(begun + SPELL)
    took = time.monotonic() - begun
    done = before - freshness.waiting(site)
    each = took / done * 1000
    print(f"{before:8,} {each:10.1f} {'':8} {'':8} {'':7}   {growth}: {done / took:.0f} pages a second", flush=True)


def _settle() -> None:
    """Wait, a minute at most, until the database has written what it was filled with: that is no part of any act."""
    from django.db import connection  # noqa: PLC0415

    end = time.monotonic() + 60
    while time.monotonic() < end:
        with connection.cursor() as cursor:
            cursor.execute("SHOW GLOBAL STATUS LIKE 'Innodb_buffer_pool_pages_dirty'")
            if int(cursor.fetchone()[1]) < 1_000:
                return
        time.sleep(1)


def _good(response: Any) -> None:
    if response.status_code != 200:
        raise SystemExit(f"{response.request['PATH_INFO']}: {response.status_code} {response.content[:500]!r}")


def _fill(site: Any, person: Any, there: int, size: int) -> None:
    """Have so many pages, all live: the first one, some of the navigation, and ten below each."""
    from django.db import connection  # noqa: PLC0415
    from django.utils import timezone  # noqa: PLC0415

    from stillpage.pages.models import Page  # noqa: PLC0415
    from stillpage.publishing.models import LiveCopy  # noqa: PLC0415
    from stillpage.publishing.rendering import fill  # noqa: PLC0415
    from stillpage.written.models import Said, WorkingCopy, Written  # noqa: PLC0415
    from stillpage_core.document import document_from_json  # noqa: PLC0415
    from stillpage_core.document.digest import digest_of  # noqa: PLC0415

    words = [{"type": "text", "text": "The towpath follows the water past the locks and under the bridge. " * 5}]
    text = {"type": "doc", "content": [{"type": "paragraph", "content": words}] * 4}
    document = document_from_json(text).to_json()
    now = timezone.now()
    paths = dict(Page.objects.filter(site=site).values_list("pk", "path"))
    pages, copies, lives, said_rows = [], [], [], []
    for number in range(there + 1, size + 1):
        above = None if number <= TOP + 1 else (number - TOP - 2) // 10 + 2
        slug = "" if number == 1 else f"p{number}"
        path = "/" if number == 1 else f"{paths[above] if above else ''}/{slug}"
        paths[number] = path
        pages.append((number, site.pk, above, number, slug, path))
        said = {"title": f"Page {number}", "description": "", "document": document}
        digest = digest_of(**said)
        copies.append(WorkingCopy(written_id=number, digest=digest, saved_at=now, saved_by=person, **said))
        live = LiveCopy(written_id=number, site=site, digest=digest, published_at=now, published_by=person, **said)
        live.address, live.label, live.first_at = HOST + path, said["title"], now
        words_of_it = f" page {number} the towpath follows water past locks {'heron' if number % 500 == 7 else ''} "
        said_rows.append(Said(written_id=number, working=words_of_it, live=words_of_it))
        text = b"<p>What was rendered of it, here but a line.</p>" * 80
        live.text_to = len(text)
        fill(live, text, site.frame)
        lives.append(live)
        if len(pages) == 2000 or number == size:
            Written.objects.bulk_create(Written(id=row[0]) for row in pages)
            with connection.cursor() as cursor:
                cursor.executemany(
                    "INSERT INTO pages_page (id, site_id, parent_id, position, slug, path, in_navigation, hidden, "
                    "slug_follows, elsewhere, copied_title) VALUES (%s, %s, %s, %s, %s, %s, 1, 0, 0, '', '')",
                    pages,
                )
            pages.clear()
            for model, rows in ((WorkingCopy, copies), (LiveCopy, lives), (Said, said_rows)):
                model.objects.bulk_create(rows, batch_size=500)
                rows.clear()
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE TABLE pages_page, written_workingcopy, publishing_livecopy, written_said")


if __name__ == "__main__":
    sys.exit(guarded(main))
