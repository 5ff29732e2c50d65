"""The library after a kill at any line: uploads can be finished, no file is unknown, and work is taken up again."""

from __future__ import annotations

import errno
from datetime import timedelta
from io import BytesIO, StringIO
from pathlib import Path
from unittest.mock import patch

from django.conf import settings
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.management import call_command
from django.test import TransactionTestCase
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from stillpage.library import sweeping, tasks, uploads, workers
from stillpage.library.derived import bring_up_to_date
from stillpage.library.models import File, Item, Upload
from stillpage.library.receiving import receive
from stillpage.library.storage import BESIDE
from stillpage.people.models import Role

from ..api.base import ApiTest, MediaFolder, a_person, a_picture, photograph
from .killing import LONG, killed_at

HERE = "/stillpage/library/"


def swept(*, mend: bool = False) -> sweeping.Swept:
    """A sweep that takes nothing to be too young."""
    with patch.object(sweeping, "YOUNG", timedelta(seconds=-60)):
        return sweeping.sweep(mend=mend)


class Killed(MediaFolder, TransactionTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.author = a_person("wren", Role.AUTHOR)

    def whole(self, data: bytes, name: str, **more: object) -> Upload:
        upload = uploads.begin(self.author, name, len(data), "", **more)
        uploads.add_piece(upload, 0, BytesIO(data))
        return upload

    def at_every_line(self, one: object) -> int:
        """Kill at one line after the other until the work comes to its end; returns how many kills there were."""
        step, line, kills = (1 if LONG else 15), 1, 0
        while one(line):
            line += step
            kills += 1
        return kills

    def test_an_upload_that_was_being_finished_is_finished_when_it_is_asked_for_again(self):
        def one(line: int) -> bool:
            data = photograph((200, 100), seed=line)
            upload = self.whole(data, f"{line}.jpg")
            killed = killed_at(line, lambda: uploads.finish(upload, self.author), HERE)
            again = Upload.objects.select_related("item", "replaces", "folder").get(pk=upload.pk)
            item, is_new = uploads.finish(again, self.author)
            self.assertTrue(is_new)
            with default_storage.open(item.files.get(original=True).name) as stored:
                self.assertEqual(stored.read(), data)
            # And once more, as by somebody who lost the answer.
            again = Upload.objects.select_related("item", "replaces", "folder").get(pk=upload.pk)
            self.assertEqual(uploads.finish(again, self.author)[0], item)
            return killed

        self.assertGreater(self.at_every_line(one), 5)
        found = swept()
        self.assertEqual([name for name in found.unknown if BESIDE not in name], [])
        self.assertEqual(found.lost, [])

    def test_a_newer_file_that_was_being_put_in_place_is_there_once(self):
        def one(line: int) -> bool:
            item, _ = receive(BytesIO(photograph((200, 100), seed=line)), self.author, name="old.jpg")
            data = photograph((200, 100), seed=10_000 + line)
            upload = self.whole(data, "newer.jpg", replaces=item)
            killed = killed_at(line, lambda: uploads.finish(upload, self.author), HERE)
            again = Upload.objects.select_related("item", "replaces", "folder").get(pk=upload.pk)
            uploads.finish(again, self.author)
            item.refresh_from_db()
            with default_storage.open(item.files.get(original=True, version=item.version).name) as stored:
                self.assertEqual(stored.read(), data)
            self.assertEqual(item.files.filter(original=True).count(), 2)
            return killed

        self.assertGreater(self.at_every_line(one), 5)
        self.assertEqual(swept().lost, [])

    def test_files_that_were_being_made_are_made_by_who_comes_next(self):
        def one(line: int) -> bool:
            item, _ = receive(BytesIO(photograph((300, 200), seed=line)), self.author, name="one.jpg")
            killed = killed_at(line, lambda: bring_up_to_date(item.pk), HERE)
            bring_up_to_date(item.pk)
            item.refresh_from_db()
            self.assertEqual(item.made, item.wanted)
            for file in item.files.all():
                self.assertEqual(default_storage.size(file.name), file.size)
            return killed

        self.assertGreater(self.at_every_line(one), 5)
        self.assertEqual([name for name in swept().unknown if BESIDE not in name], [])


class Sweeping(ApiTest):
    def test_all_is_well(self):
        a_picture(self.author)
        self.assertEqual(swept().sentences(mended=False), [])

    def test_a_file_that_nobody_knows_is_told_and_set_aside_and_a_half_one_goes(self):
        default_storage.save("ab/cd/original.jpg", ContentFile(b"somebody's"))
        half = Path(settings.MEDIA_ROOT, "ab", f"{BESIDE}1")
        half.write_bytes(b"half")
        self.assertEqual(sorted(swept().unknown), sorted([f"ab/{BESIDE}1", "ab/cd/original.jpg"]))
        with self.settings(SET_ASIDE=Path(settings.MEDIA_ROOT).parent / "aside"):
            sentences = swept(mend=True).sentences(mended=True)
            self.assertIn("2 files (", sentences[0])
            kept = Path(settings.SET_ASIDE, "ab/cd/original.jpg")
            self.assertEqual(kept.read_bytes(), b"somebody's")
            self.assertFalse(half.exists())
            self.assertEqual(swept().unknown, [])

    def test_what_is_young_is_left_alone(self):
        default_storage.save("ab/cd/original.jpg", ContentFile(b"on its way"))
        self.assertEqual(sweeping.sweep(mend=True).unknown, [])
        self.assertTrue(default_storage.exists("ab/cd/original.jpg"))

    def test_a_made_file_that_is_gone_or_cut_short_is_made_again(self):
        item = a_picture(self.author)
        bring_up_to_date(item.pk)
        first, second = item.files.filter(original=False)[:2]
        default_storage.delete(first.name)
        Path(settings.MEDIA_ROOT, second.name).write_bytes(b"cut")
        self.assertEqual(sorted(swept(mend=True).lost), sorted([first.name, second.name]))
        bring_up_to_date(item.pk)
        self.assertEqual(swept().lost, [])
        self.assertTrue(File.objects.filter(name=first.name).exists())

    def test_an_original_that_is_gone_is_told_where_the_item_stands_until_it_is_back(self):
        item = a_picture(self.author)
        name = item.files.get(original=True).name
        place = Path(settings.MEDIA_ROOT, name)
        data = place.read_bytes()
        place.unlink()
        swept(mend=True)
        self.assertIn("missing on the server", self.call("GET", f"/items/{item.pk}")["problem"])
        place.write_bytes(data)
        swept(mend=True)
        self.assertEqual(self.call("GET", f"/items/{item.pk}")["problem"], "")

    def test_the_command_tells_and_mends(self):
        out = StringIO()
        call_command("sweep", stdout=out)
        self.assertIn("Every file is known", out.getvalue())
        default_storage.save("ab/cd/original.jpg", ContentFile(b"x"))
        with patch.object(sweeping, "YOUNG", timedelta(seconds=-60)):
            call_command("sweep", stdout=out)
        self.assertIn("1 file (ab/cd/original.jpg) that no item knows.", out.getvalue())

    def test_files_of_uploads_that_were_let_go_are_removed(self):
        folder = Path(settings.UPLOAD_FOLDER)
        folder.mkdir(parents=True)
        (folder / ("0" * 32)).write_bytes(b"left")
        going_on = uploads.begin(self.author, "a.jpg", 10, "")
        self.assertEqual(swept(mend=True).left, ["0" * 32])
        self.assertEqual([place.name for place in folder.iterdir()], [going_on.pk.hex])


class TakenUpAgain(MediaFolder, TransactionTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.author = a_person("wren", Role.AUTHOR)

    def running(self, *workers_: str) -> DBTaskResult:
        task = DBTaskResult.objects.create(
            args_kwargs={"args": [1], "kwargs": {}},
            task_path=tasks.make_files.module_path,
            backend_name="default",
            run_after=timezone.now(),
        )
        for worker in workers_:
            task.claim(worker)
        return task

    def test_a_task_of_a_killed_worker_is_put_back_and_one_of_a_living_worker_is_not(self):
        alive = workers.Alive()
        name = alive.begin()
        self.addCleanup(alive.ended.set)
        kept, killed = self.running(name), self.running("killed")
        self.assertEqual(workers.take_up_killed(), 1)
        kept.refresh_from_db()
        killed.refresh_from_db()
        self.assertEqual((kept.status, killed.status), ("RUNNING", "READY"))

    def test_a_task_that_ended_three_workers_is_not_taken_up_again(self):
        task = self.running("one", "two", "three")
        workers.take_up_killed()
        task.refresh_from_db()
        self.assertEqual(task.status, "FAILED")

    def test_work_that_breaks_off_again_and_again_is_given_up_and_told_where_the_item_stands(self):
        item = a_picture(self.author)
        with patch.object(tasks, "bring_up_to_date", side_effect=RuntimeError):
            for _ in range(tasks.TRIES):
                with self.assertRaises(RuntimeError):
                    tasks.make_files.func(item.pk)
            self.assertEqual(tasks.take_up_again(), 1)
            tasks.make_files.func(item.pk)
        item.refresh_from_db()
        self.assertEqual(item.problem, tasks.GIVEN_UP)
        self.assertEqual(tasks.take_up_again(), 0)
        # Whoever asks for it anew has it tried anew.
        Item.objects.filter(pk=item.pk).update(tries=0)
        tasks.make_files.func(item.pk)
        item.refresh_from_db()
        self.assertEqual((item.problem, item.tries), ("", 0))

    def test_a_worker_that_is_started_again_and_again_does_not_fill_the_queue(self):
        item = a_picture(self.author)
        self.assertEqual(tasks.take_up_again(), 1)
        waiting = self.running()
        self.assertEqual(tasks.take_up_again(), 0)
        waiting.delete()
        tasks.make_files.func(item.pk)
        self.assertEqual(tasks.take_up_again(), 0)

    def test_a_full_disk_is_no_fault_of_the_item(self):
        item = a_picture(self.author)
        with patch.object(tasks, "bring_up_to_date", side_effect=OSError(errno.ENOSPC, "full")):
            for _ in range(tasks.TRIES + 2):
                with self.assertRaises(OSError):
                    tasks.make_files.func(item.pk)
        tasks.make_files.func(item.pk)
        item.refresh_from_db()
        self.assertEqual(item.made, item.wanted)
