"""A running copy, killed at random under writing and reading, and with a disk that is full."""

from __future__ import annotations

import contextlib
import http.client
import json
import math
import os
import random
import re
import signal
import subprocess
import time
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase, skipUnless

from ops.trial import Copy

from .authors import Mover, Publisher, Renamer, Sender, Writer, words_on
from .bad_line import BadLine
from .killing import LONG

KILLS = 1000 if LONG else 6
DATABASE_KILLS = 100 if LONG else 3
BRANCH_OF = 1000 if LONG else 200
"""How many pages stand under one that is moved."""
TASKS = {"STILLPAGE_TASKS": "django_tasks_db.DatabaseBackend"} if LONG else {}
"""Making files of all the demo's pictures takes minutes of the whole machine."""
SITE = "canal.localhost"
PAGE = "/visit/towpath-walks"
OTHER_PAGE = "/visit/opening-times"
PUBLISHED = re.compile(rb"Published odile(\d+)\.")
NUMBER = "from stillpage.pages.models import Page; print(Page.objects.get(site__host='{}', path='{}').pk)"

WAITING = """
from django_tasks_db.models import DBTaskResult
print(DBTaskResult.objects.filter(status__in=("READY", "RUNNING"), task_path__contains="library").count())
"""
WHOLE = """
from stillpage.publishing import freshness
from stillpage.publishing.models import Change, OutOfDate
from tests.api.whole import is_kept, should_be
freshness.bring_all_up()
should, kept = should_be(), is_kept()
print(Change.objects.count(), OutOfDate.objects.count(), [each for each in should if kept.get(each) != should[each]])
"""
"""Which live pages are not what a rendering from nothing gives, once the worker has rested."""
BRANCH = """
from django.db import connection
from stillpage.pages.models import Page
from stillpage.publishing.models import LiveCopy
from stillpage.written.models import Written
from stillpage.written.saving import Draft, save
above = Page.objects.get(site__host="{}", path="{}")
like = LiveCopy.objects.get(written__page__path="/contact")
first = Written.objects.order_by("-pk")[0].pk + 1
for number in range(first, first + {}):
    Written.objects.create(pk=number)
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO pages_page (id, site_id, parent_id, position, slug, path, in_navigation, hidden, "
            "slug_follows, elsewhere, copied_title) VALUES (%s, %s, %s, %s, %s, %s, 1, 0, 0, '', '')",
            [number, above.site_id, above.pk, number, f"p{{number}}", f"{{above.path}}/p{{number}}"],
        )
    like.pk, like.written_id = None, number
    like.address = f"{{above.site.host}}{{above.path}}/p{{number}}"
    like.save(force_insert=True)
"""
"""Live pages below one, as many as are asked for."""
STANDING = """
from stillpage.pages.models import Page, Redirect
from stillpage.publishing.models import LiveCopy
pages = {each.pk: each for each in Page.every.all()}
astray = [
    each.path for each in pages.values()
    if each.parent_id and each.binned_at is None and each.path != f"{pages[each.parent_id].path}/{each.slug}"
]
copies = LiveCopy.objects.filter(written__page__elsewhere="").select_related("written__page__site")
wrong = [each.address for each in copies if each.address != each.written.page.site.host + each.written.page.path]
led = Redirect.objects.filter(page=None, address="").exclude(why="gone").count()
taken = Redirect.objects.filter(path__in=Page.objects.values("path"), site__host="canal.localhost").count()
print(astray[:3], wrong[:3], led, taken, *(Page.objects.filter(path__startswith=f"{above}/towpath-walks").count()
    for above in ("/visit", "/boating")))
"""
"""What of the tree does not fit together after moves, and how many pages stand in each of two places."""
ITEMS = """
import hashlib, json
from datetime import timedelta
from django.core.files.storage import default_storage
from stillpage.library import storage, sweeping
from stillpage.library.models import Item
sweeping.YOUNG = timedelta(seconds=-60)
swept = sweeping.sweep(mend=False)
items = {}
for item in Item.objects.exclude(kind="post"):
    with default_storage.open(item.files.get(original=True, version=item.version).name) as stored:
        items[item.pk] = [hashlib.sha256(stored.read()).hexdigest(), item.made == item.wanted, item.problem]
unknown = [name for name in swept.unknown if storage.BESIDE not in name]
print(json.dumps({"unknown": unknown, "lost": swept.lost, "items": items}))
"""
"""What the library holds, and whether its files do; each original read anew."""


def without_number(page: bytes) -> bytes:
    """A live page but for what is published anew all the time, and the files of pictures as they come to be."""
    page = re.sub(rb"(?s)<picture>.*?</picture>", b"<picture>", page)
    return re.sub(rb"<p>Published odile\d+\.</p>\s*", b"", page)


def parts_of(copy: Copy) -> list[int]:
    """The processes of a copy, those that they have started among them."""
    listed = subprocess.run(["ps", "-eo", "pid,ppid"], capture_output=True, text=True, check=True).stdout
    above = {int(pid): int(parent) for pid, parent in (line.split() for line in listed.splitlines()[1:])}
    assert copy.process is not None
    found = [copy.process.pid]
    for pid in found:
        found += [each for each, parent in above.items() if parent == pid]
    return found[1:]


def answers(copy: Copy) -> bool:
    """Whether readers get a page and authors get to the database."""
    with contextlib.suppress(OSError, http.client.HTTPException):
        return copy.visitor(SITE).ask(PAGE).status == 200 and copy.visitor().ask("/api/session").status == 200
    return False


class Killed(TestCase):
    """Two write on one page, one publishes another, one sends pictures, over a bad line, while processes are killed."""

    def test_what_was_acknowledged_is_there_whatever_is_killed_and_readers_get_whole_pages(self):
        with Copy(**TASKS) as copy, BadLine(copy.port) as line:
            number, published = (int(copy.shell(NUMBER.format(SITE, path))) for path in (PAGE, OTHER_PAGE))
            tobias, odile, wren, piet = (copy.visitor().sign_in(name) for name in ("tobias", "odile", "wren", "piet"))
            self.writers = [Writer(wren, "wren", number), Writer(tobias, "tobias", number)]
            self.publisher, self.sender = Publisher(odile, "odile", published), Sender(piet, "piet")
            authors = [*self.writers, self.publisher, self.sender]
            for author in authors:
                author.visitor.port = line.port
                author.start()
            Copy.wait_until(lambda: self.publisher.acknowledged)
            read, not_read = self.kill_and_read(copy)
            assert copy.process is not None
            self.assertIsNone(copy.process.poll(), "what looks after the rest has ended")
            Copy.wait_until(lambda: answers(copy))
            line.good = True
            for author in authors:
                author.end()
                self.assertFalse(author.is_alive())
                self.assertEqual(author.problems, [])
                self.assertGreater(author.acknowledged, 0, author.name_)
            for writer in self.writers:
                found = words_on(copy, number, writer.name_)
                self.assertEqual(set(range(1, writer.acknowledged + 1)) - found, set())
            self.published_at_last(copy)
            self.assertEqual(copy.shell(WHOLE), "0 0 []")
            if LONG:
                told = {author.name_: author.acknowledged for author in authors}
                met = f"line {dict(line.told)}; read {read}, not {not_read}"
                print(f"{KILLS} kills; acknowledged and found {told}; {met}", flush=True)
            self.items_are_whole(copy)

    def test_the_database_killed_while_pages_are_published_leaves_no_page_half_and_none_forgotten(self):
        """What a page shows of others is told in the transaction that changes it; so it outlives the server of it."""
        dice = random.Random(16)
        with Copy() as copy:
            visit, hours = (int(copy.shell(NUMBER.format(SITE, path))) for path in ("/visit", OTHER_PAGE))
            authors = [Renamer(copy.visitor().sign_in("odile"), "odile", visit)]
            authors.append(Publisher(copy.visitor().sign_in("wren"), "wren", hours))
            reader = copy.visitor(SITE)
            for author in authors:
                author.start()
            Copy.wait_until(lambda: all(author.acknowledged for author in authors))
            for _ in range(DATABASE_KILLS):
                before = authors[0].acknowledged
                Copy.wait_until(lambda before=before: authors[0].acknowledged > before)
                time.sleep(dice.uniform(0, 0.15))
                os.kill(int((copy.var / "mariadb.run" / "pid").read_text()), signal.SIGKILL)
                with contextlib.suppress(OSError, http.client.HTTPException):
                    reader.ask(PAGE)
                Copy.wait_until(lambda: answers(copy))
            for author in authors:
                author.end()
                self.assertEqual(author.problems, [])
            self.assertEqual(copy.shell(WHOLE), "0 0 []")
            title = f"Visit odile{authors[0].acknowledged}".encode()
            self.assertIn(title, copy.visitor(SITE).ask(OTHER_PAGE).body)

    def test_a_branch_of_a_thousand_pages_that_is_moved_stands_in_one_place_whatever_is_killed(self):
        dice = random.Random(20)
        with Copy() as copy:
            walks, *places = (int(copy.shell(NUMBER.format(SITE, path))) for path in (PAGE, "/visit", "/boating"))
            copy.shell(BRANCH.format(SITE, PAGE, BRANCH_OF))
            mover = Mover(copy.visitor().sign_in("odile"), "odile", walks, places)
            mover.start()
            Copy.wait_until(lambda: mover.acknowledged)
            for kill in range(DATABASE_KILLS + 1):
                before = mover.acknowledged
                Copy.wait_until(lambda before=before: mover.acknowledged > before)
                time.sleep(dice.uniform(0, 0.3))
                database = int((copy.var / "mariadb.run" / "pid").read_text())
                # The database, and by turns everything else at once.
                for number in [database] if kill % 2 == 0 else [each for each in parts_of(copy) if each != database]:
                    with contextlib.suppress(ProcessLookupError):
                        os.kill(number, signal.SIGKILL)
                Copy.wait_until(lambda: answers(copy))
                *wrong, there, here = copy.shell(STANDING).strip().rsplit(" ", 2)
                self.assertEqual(wrong, ["[] [] 0 0"])
                self.assertIn((int(there), int(here)), ((BRANCH_OF + 1, 0), (0, BRANCH_OF + 1)))
            mover.end()
            self.assertEqual(mover.problems, [])
            at = ("/visit", "/boating")[mover.acknowledged % 2]
            led = copy.visitor(SITE).ask(f"{('/boating', '/visit')[mover.acknowledged % 2]}/towpath-walks")
            self.assertEqual(led.status, 301)
            self.assertTrue(led.headers["Location"].endswith(f"{at}/towpath-walks"))

    def kill_and_read(self, copy: Copy) -> tuple[int, int]:
        """Kill, and read what readers get, which is always one whole page and never goes back."""
        dice, reader = random.Random(14), copy.visitor(SITE)
        whole = {path: without_number(reader.ask(path).body) for path in (PAGE, OTHER_PAGE)}
        read = not_read = newest = 0
        for kill in range(1, KILLS + 1):
            time.sleep(dice.uniform(0.2, 1.5))
            if kill % 10 == 0:  # What is killed all the time stays away for longer and longer; let it come up.
                Copy.wait_until(lambda: answers(copy))
            if parts := parts_of(copy):
                with contextlib.suppress(ProcessLookupError):
                    os.kill(dice.choice(parts), signal.SIGKILL)
            for path, same in whole.items():
                with contextlib.suppress(OSError, http.client.HTTPException):
                    answer = reader.ask(path)
                    read += answer.status == 200
                    not_read += answer.status != 200
                    if answer.status == 200:
                        self.assertEqual(without_number(answer.body), same)
                        if said := PUBLISHED.search(answer.body):
                            self.assertGreaterEqual(int(said[1]), newest)
                            newest = int(said[1])
        return read, not_read

    def published_at_last(self, copy: Copy) -> None:
        said = PUBLISHED.search(copy.visitor(SITE).ask(OTHER_PAGE).body)
        self.assertEqual(int(said[1]), self.publisher.acknowledged)

    def items_are_whole(self, copy: Copy) -> None:
        """Each picture has its bytes and whatever is made of it, no file is unknown, and no task is left behind."""
        left = math.inf
        while TASKS and (now := int(copy.shell(WAITING))):
            self.assertLess(now, left, "nothing is made any more")
            left = now
            time.sleep(30)
        found = json.loads(copy.shell(ITEMS))
        self.assertEqual([found["unknown"], found["lost"]], [[], []])
        for item, digest in self.sender.sent.items():
            bytes_, made, problem = found["items"][str(item)]
            self.assertEqual((bytes_, made), (digest, bool(TASKS)))
            # Whoever was killed three times over the same item gave it up, and says so where it stands.
            self.assertRegex(problem, "^$|begun three times")


def _mounted(place: str, megabytes: int) -> bool:
    command = ["mount", "-t", "tmpfs", "-o", f"size={megabytes}m,mode=755", "none", place]
    return os.geteuid() == 0 and subprocess.run(command, capture_output=True, check=False).returncode == 0


def _may_mount() -> bool:
    with TemporaryDirectory() as place:
        if not _mounted(place, 1):
            return False
        subprocess.run(["umount", place], check=True)
        return True


@skipUnless(_may_mount(), "needs a small disk of its own, and may not make one")
class Full(TestCase):
    """A disk of its own that is filled."""

    def fill(self, leave: int) -> None:
        """Fill the disk but for so many megabytes."""
        free = os.statvfs(self.disk.name)
        room = free.f_bavail * free.f_frsize - leave * 1024 * 1024
        with (Path(self.disk.name) / "filling").open("ab") as out, contextlib.suppress(OSError):
            while room > 0:
                room -= out.write(b"x" * min(room, 1024 * 1024))

    def make_room(self) -> None:
        (Path(self.disk.name) / "filling").unlink()

    def setUp(self) -> None:
        self.disk = TemporaryDirectory()
        Path(self.disk.name).chmod(0o755)
        self.assertTrue(_mounted(self.disk.name, 900))
        self.addCleanup(subprocess.run, ["umount", "--lazy", self.disk.name], check=False)

    def test_readers_are_served_texts_are_saved_as_long_as_they_can_be_and_it_goes_on_by_itself(self):
        copy = Copy(STILLPAGE_RESERVE_MB="120")
        copy.var = Path(self.disk.name) / "var"
        copy.env["STILLPAGE_VAR"] = str(copy.var)
        with copy:
            number = int(copy.shell(NUMBER.format(SITE, PAGE)))
            wren, reader = copy.visitor().sign_in("wren"), copy.visitor(SITE)
            text = wren.ask(f"/api/pages/{number}").json["working_copy"]
            draft = {name: text[name] for name in ("title", "description", "document")}
            upload = {"name": "a.jpg", "size": 1000}

            def save(word: str) -> int:
                main, *others = text["document"]["content"]
                last = {"type": "paragraph", "content": [{"type": "text", "text": word}]}
                regions = [{**main, "content": [*main["content"], last]}, *others]
                body = {**draft, "document": {**text["document"], "content": regions}, "base": text["revision"]}
                answer = wren.ask(f"/api/pages/{number}/working-copy", "PUT", body)
                if answer.status == 200:
                    text["revision"] = answer.json["revision"]
                return answer.status

            self.assertEqual((save("one"), wren.ask("/api/uploads", "POST", upload).status), (200, 201))
            self.fill(leave=100)
            time.sleep(1.5)
            answer = wren.ask("/api/uploads", "POST", upload)
            self.assertEqual((answer.status, answer.headers["Retry-After"]), (507, "30"))
            self.assertIn("nearly full", answer.json["detail"])
            self.assertEqual(wren.ask(f"/api/pages/{number}/publish", "POST", {"revision": 1}).status, 507)
            self.assertEqual((save("two"), reader.ask(PAGE).status), (200, 200))
            self.fill(leave=20)
            time.sleep(1.5)
            self.assertEqual((save("three"), reader.ask(PAGE).status), (507, 200))
            # Somebody else takes the very last of it.
            self.fill(leave=0)
            for path in (PAGE, "/visit", "/") * 5:
                self.assertEqual(reader.ask(path).status, 200)
                time.sleep(0.2)
            self.assertIn(wren.ask(f"/api/pages/{number}").status, (200, 507))
            self.make_room()
            Copy.wait_until(lambda: save("three") == 200 and wren.ask("/api/uploads", "POST", upload).status == 201)
            self.assertIn("three", wren.ask(f"/api/pages/{number}").body.decode())
            self.assertNotIn("ended by itself", "".join(copy.later))
