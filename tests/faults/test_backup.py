"""Backing up a running copy and bringing it back: every row, every file, every live page; and what cannot be used."""

from __future__ import annotations

import os
import random
import re
import shutil
import signal
import subprocess
import tarfile
import time
from datetime import UTC, datetime
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase
from unittest.mock import patch

from django.conf import settings
from django.test import SimpleTestCase

from ops.common import PYTHON, ROOT
from ops.same import live_addresses, live_pages_that_differ, originals, rows
from ops.trial import Copy
from stillpage.operations import backup as backing_up
from stillpage.operations import restoring

from .killing import LONG

KILLS = 40 if LONG else 3
MADE_AGAIN = """
from stillpage.library.models import Item
from stillpage.library.derived import bring_up_to_date
from django.core.files.storage import default_storage
import hashlib
item = Item.objects.filter(kind="picture", nature="photograph").first()
files = list(item.files.filter(original=False))
bring_up_to_date(item.pk)
def same(file):
    with default_storage.open(file.name) as stored:
        return hashlib.sha256(stored.read()).hexdigest() == file.sha256
print(len(files) > 1, all(same(file) for file in files))
"""


class ThereAndBack(TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.copy = Copy().start()
        cls.addClassCleanup(cls.copy.close)
        cls.place = Path(cls.copy.folder.name) / "all.backup"

    def run_command(self, *command: str, copy: Copy | None = None, status: int = 0, **env: str) -> str:
        given = {**(copy or self.copy).env, **env}
        if command[0].endswith("backup"):
            given["STILLPAGE_DB_SOCKET"] = str(self.copy.var / "mariadb.run" / "socket")
        done = subprocess.run(
            command, cwd=ROOT, env=given, capture_output=True, text=True, check=False, stdin=subprocess.DEVNULL
        )
        self.assertEqual(done.returncode, status, done.stdout + done.stderr)
        return done.stdout + done.stderr

    def test_every_row_every_file_and_every_live_page_comes_back(self) -> None:
        said = self.run_command("./backup", str(self.place))
        self.assertRegex(said, r"\d+ originals and the database, [\d.]+ MB")
        were, files = rows(self.copy), originals(self.copy)
        self.assertTrue(all(files.values()))
        self.assertGreater(len(live_addresses(self.copy)), 10)
        other = Copy()
        self.addCleanup(other.close)
        self.assertIn("Done. ./start brings it up.", self.run_command("./restore", str(self.place), copy=other))
        # Once more, it would go over what is there.
        again = self.run_command("./restore", str(self.place), copy=other, status=1)
        self.assertIn("holds an installation already", again)
        # Pages tell their own address; here it is that of the other copy.
        other.env["STILLPAGE_PUBLIC_PORT"] = str(self.copy.port)
        other.start()
        self.assertEqual(rows(other), were)
        self.assertEqual(originals(other), files)
        self.assertEqual(list(live_pages_that_differ(self.copy, other)), [])
        # Who was signed in is not any more, and signs in as before.
        self.assertEqual(other.visitor().sign_in("wren").ask("/api/sites").status, 200)
        # What can be made again is, the same to the byte.
        self.assertEqual(other.shell(MADE_AGAIN), "True True")

    def test_a_backup_that_is_damaged_cut_short_or_none_is_refused_before_anything_is_touched(self) -> None:
        self.run_command("./backup", str(self.place))
        whole = self.place.read_bytes()
        self.assertIn("is whole", self.run_command("./restore", "--check", str(self.place)))
        other = Copy()
        self.addCleanup(other.close)
        bad = self.place.with_name("bad.backup")
        middle = len(whole) // 2
        for data, said in (
            (whole[:middle], "cut short|damaged"),
            (whole[: -len(whole) // 100], "cut short|damaged"),
            (whole[:middle] + bytes([whole[middle] ^ 255]) + whole[middle + 1 :], "is not what it was|damaged"),
            (b"not a backup at all" * 1000, "no backup, or is damaged"),
            (b"", "no backup, or is damaged"),
        ):
            bad.write_bytes(data)
            self.assertRegex(self.run_command("./restore", "--check", str(bad), status=1), said)
        self.assertRegex(self.run_command("./restore", str(bad), copy=other, status=1), "did not come back")
        self.assertFalse((other.var / "media").exists())
        # After one that broke off, the next begins from nothing.
        self.run_command("./restore", str(self.place), copy=other)
        self.assertIn("There is no file", self.run_command("./restore", "/none", copy=other, status=1))

    def test_one_that_is_killed_leaves_no_half_file_and_the_next_is_whole(self) -> None:
        place = self.place.with_name("killed.backup")
        dice = random.Random(7)
        env = {**self.copy.env, "STILLPAGE_DB_SOCKET": str(self.copy.var / "mariadb.run" / "socket")}
        for _ in range(KILLS):
            process = subprocess.Popen(
                [PYTHON, "manage.py", "backup", str(place)], cwd=ROOT, env=env, stderr=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL, start_new_session=True,
            )  # fmt: skip
            time.sleep(dice.uniform(0.5, 4))
            os.killpg(process.pid, signal.SIGKILL)
            process.wait()
            if place.exists():
                self.assertIn("is whole", self.run_command("./restore", "--check", str(place)))
                place.unlink()
        self.run_command("./backup", str(place))
        self.assertIn("is whole", self.run_command("./restore", "--check", str(place)))

    def test_it_holds_neither_passwords_in_the_clear_nor_who_is_signed_in(self) -> None:
        self.copy.visitor().sign_in("wren")
        self.run_command("./backup", str(self.place))
        with tarfile.open(self.place) as archive:
            names = archive.getnames()
            about = archive.extractfile("about.json").read().decode()
            sql = subprocess.run(
                ["gunzip"], input=archive.extractfile("database.sql.gz").read(), capture_output=True, check=True
            ).stdout.decode(errors="replace")
        self.assertEqual(self.place.stat().st_mode & 0o777, 0o600)
        self.assertNotIn("PASSWORD", about)
        self.assertNotIn("INSERT INTO `people_session`", sql)
        self.assertIn("INSERT INTO `people_person`", sql)
        self.assertNotIn("still-water-14", re.sub(r"0x[0-9A-F]+", "", sql))
        # What can be made again is left out.
        self.assertFalse([name for name in names if "whole-" in name])

    def test_an_encrypted_one_comes_back_with_its_key_alone(self) -> None:
        if not shutil.which("age"):
            self.fail("age is missing")
        key = self.place.with_name("key.txt")
        made = subprocess.run(["age-keygen", "-o", str(key)], capture_output=True, text=True, check=True)
        recipient = re.search(r"age1\w+", made.stderr).group()
        secret = self.place.with_name("secret.backup")
        self.run_command("./backup", str(secret), STILLPAGE_BACKUP_RECIPIENT=recipient)
        self.assertTrue(secret.read_bytes().startswith(b"age-encryption.org/v1"))
        self.assertIn("is encrypted", self.run_command("./restore", "--check", str(secret), status=1))
        self.assertIn("is whole", self.run_command("./restore", "--check", str(secret), "--identity", str(key)))
        other = self.place.with_name("other.txt")
        subprocess.run(["age-keygen", "-o", str(other)], capture_output=True, check=True)
        said = self.run_command("./restore", "--check", str(secret), "--identity", str(other), status=1)
        self.assertIn("could not be decrypted", said)


class Nightly(SimpleTestCase):
    """When a backup is made by itself, and which of the earlier ones stay."""

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(TemporaryDirectory())) / "backups"
        self.enterContext(self.settings(BACKUP_FOLDER=str(self.folder), BACKUPS_KEPT=3, BACKUP_DAYS=10))
        made = patch.object(backing_up, "backup", side_effect=lambda place, tell: place.write_bytes(b"x"))
        self.made = self.enterContext(made)

    def at(self, day: int, hour: int) -> Path | None:
        return backing_up.nightly(datetime(2031, 5, day, hour, tzinfo=UTC))

    def test_one_a_night_from_its_hour_on(self) -> None:
        self.assertIsNone(self.at(1, settings.BACKUP_HOUR - 1))
        self.assertEqual(self.at(1, settings.BACKUP_HOUR), self.folder / "still-page-2031-05-01.backup")
        self.assertIsNone(self.at(1, 23))
        self.assertEqual(self.made.call_count, 1)
        with self.settings(BACKUP_FOLDER=""):
            self.assertIsNone(self.at(2, 12))

    def test_so_many_are_kept_and_none_that_is_too_old_but_always_the_newest(self) -> None:
        for day in range(1, 6):
            place = self.at(day, 3)
            moment = datetime(2031, 5, day, 3, tzinfo=UTC).timestamp()
            os.utime(place, (moment, moment))
        kept = sorted(each.name for each in self.folder.iterdir())
        self.assertEqual(kept, [f"still-page-2031-05-0{day}.backup" for day in (3, 4, 5)])
        self.at(20, 3)
        self.assertEqual([each.name for each in self.folder.iterdir()], ["still-page-2031-05-20.backup"])

    def test_one_from_a_newer_version_is_refused(self) -> None:
        for about in ({"format": 1, "migrations": {"pages": ["9999_to_come"]}}, {"format": 2, "migrations": {}}):
            with self.assertRaisesRegex(backing_up.BackupError, "newer version"):
                restoring.fits(about)
