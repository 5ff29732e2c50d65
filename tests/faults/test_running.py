"""A running copy, killed at random under writing and reading, and with a disk that is full."""

from __future__ import annotations

import contextlib
import http.client
import os
import random
import signal
import subprocess
import time
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase, skipUnless

from ops.trial import Copy

from .killing import LONG
from .writing import Writer, words_on

KILLS = 1000 if LONG else 9
SITE = "canal.localhost"
PAGE = "/visit/towpath-walks"
NUMBER = "from stillpage.pages.models import Page; print(Page.objects.get(site__host='{}', path='{}').pk)"


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
    def test_what_was_acknowledged_is_there_whatever_is_killed_and_readers_get_whole_pages(self):
        dice = random.Random(14)
        with Copy() as copy:
            number = int(copy.shell(NUMBER.format(SITE, PAGE)))
            whole = copy.visitor(SITE).ask(PAGE).body
            writers = [
                Writer(copy.visitor().sign_in(name), number, name, seed) for seed, name in enumerate(("wren", "tobias"))
            ]
            for writer in writers:
                writer.start()
            reader = copy.visitor(SITE)
            read = failed = 0
            for _ in range(KILLS):
                time.sleep(dice.uniform(0.2, 1.5))
                with contextlib.suppress(ProcessLookupError):
                    os.kill(dice.choice(parts_of(copy)), signal.SIGKILL)
                with contextlib.suppress(OSError):
                    answer = reader.ask(PAGE)
                    read += answer.status == 200
                    failed += answer.status != 200
                    if answer.status == 200:
                        self.assertEqual(answer.body, whole)
            assert copy.process is not None
            self.assertIsNone(copy.process.poll(), "what looks after the rest has ended")
            Copy.wait_until(lambda: answers(copy))
            for writer in writers:
                writer.end()
                self.assertFalse(writer.is_alive())
                self.assertEqual(writer.problems, [])
                self.assertGreater(writer.acknowledged, 5)
                found = words_on(copy, number, writer.name_)
                self.assertEqual(set(range(1, writer.acknowledged + 1)) - found, set())
            if LONG:
                told = [(writer.name_, writer.acknowledged, writer.lost) for writer in writers]
                print(
                    f"{KILLS} kills; words acknowledged and found, requests doubled: {told}; read {read}, not {failed}"
                )


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
                blocks = [
                    *text["document"]["content"],
                    {"type": "paragraph", "content": [{"type": "text", "text": word}]},
                ]
                body = {**draft, "document": {**text["document"], "content": blocks}, "base": text["revision"]}
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
