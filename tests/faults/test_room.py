"""What waits when the disk has little room, and what goes on."""

from __future__ import annotations

from contextlib import contextmanager
from unittest.mock import patch
from uuid import uuid4

from django.conf import settings
from django.db import OperationalError

from stillpage import room
from stillpage.api.interface import api
from stillpage.library.derived import bring_up_to_date
from stillpage.written.models import WorkingCopy

from ..api.base import ApiTest, a_document, a_picture


class Room(ApiTest):
    @contextmanager
    def left(self, megabytes: float):
        with patch.object(room, "left", return_value=int(megabytes * 1024 * 1024)):
            yield

    def test_every_operation_that_waits_is_one_that_there_is(self):
        paths = api.get_openapi_schema(path_prefix="/api/")["paths"]
        there = {(method.upper(), path) for path, methods in paths.items() for method in methods}
        self.assertEqual({*room.FILLING, *room.TEXTS} - there, set())

    def test_texts_go_on_while_everything_else_waits(self):
        self.publish(self.walks)
        with self.left(settings.RESERVE / 1024 / 1024 - 1):
            problem = self.call("POST", "/uploads", {"name": "a.jpg", "size": 10}, 507)
            self.assertIn("it goes on as soon as there is room", problem["detail"])
            self.call("POST", f"/pages/{self.walks.pk}/publish", {"revision": 1}, 507)
            self.call("POST", f"/sites/{self.site.pk}/pages", {"title": "New"}, 507)
            self.save(self.walks, a_document("kept"), 1)
            told = self.call("POST", f"/pages/{self.walks.pk}/writing", {"window": str(uuid4())})
            self.assertFalse(told["room"])
        self.assertEqual(self.call("POST", "/uploads", {"name": "a.jpg", "size": 10}, 201)["received"], 0)
        self.assertTrue(self.call("POST", f"/pages/{self.walks.pk}/writing", {"window": str(uuid4())})["room"])

    def test_in_the_end_texts_wait_too_and_readers_do_not(self):
        self.publish(self.walks)
        with self.left(1):
            self.save(self.walks, a_document("waits"), 1, status=507)
            self.assertEqual(self.visit_page("/visit/towpath-walks").status_code, 200)
            self.call("GET", f"/pages/{self.walks.pk}")
        self.assertEqual(WorkingCopy.objects.get(written=self.walks).revision, 1)

    def test_files_of_pictures_wait_and_are_made_when_there_is_room(self):
        item = a_picture(self.author)
        with self.left(1), self.assertRaises(room.NoRoom):
            bring_up_to_date(item.pk)
        self.assertGreater(bring_up_to_date(item.pk), 0)

    def test_a_database_without_room_is_told_as_such(self):
        for error in (
            OperationalError(1114, "The table 'written_save' is full"),
            OperationalError(1021, "Disk full"),
            OperationalError(1030, 'Got error 28 "No space left on device" from storage engine InnoDB'),
        ):
            with patch("stillpage.written.saving.WorkingCopy.objects.select_for_update", side_effect=error):
                self.save(self.walks, a_document("kept?"), 1, status=507)
        self.assertFalse(room.is_full(OperationalError(2006, "gone away")))
