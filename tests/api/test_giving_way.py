"""Two changes that lock each other out: one is given up by MariaDB, and made again by itself."""

import threading
import time
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError, connection

from stillpage.people.models import Role
from stillpage.publishing.models import LiveCopy
from stillpage.written.models import Version, WorkingCopy

from .base import CommittedApiTest, a_person, photograph

DEADLOCK = OperationalError(1213, "Deadlock found when trying to get lock; try restarting transaction")
WAITING = "SELECT COUNT(*) FROM information_schema.INNODB_TRX WHERE trx_state = 'LOCK WAIT'"


class GivingWay(CommittedApiTest):
    def test_publishing_that_was_given_up_for_another_change_is_done_once(self):
        self.as_person(a_person("odile", Role.APPROVER))
        saves, refused = [], []
        held = threading.Event()

        def another():
            """Holds the working copy, and wants the site as soon as the publishing waits for the working copy."""
            other = connection.copy()
            try:
                with other.cursor() as cursor:
                    cursor.execute("BEGIN")
                    # So much is changed that MariaDB gives up the other transaction, the one with less to undo.
                    cursor.execute("UPDATE written_workingcopy SET saved_at = NOW() + INTERVAL 1 SECOND")
                    held.set()
                    for _ in range(40):
                        cursor.execute(WAITING)
                        if cursor.fetchone()[0]:
                            break
                        time.sleep(0.2)  # The table is made anew when nobody has read it for 0.1 s.
                    cursor.execute("SELECT id FROM sites_site FOR UPDATE")
                    cursor.execute("COMMIT")
                    saves.append("done")
            except OperationalError as error:
                refused.append(error)
            finally:
                other.close()

        thread = threading.Thread(target=another)
        thread.start()
        held.wait(10)
        self.publish(self.walks)
        thread.join(20)
        self.assertEqual((saves, refused), (["done"], []))
        self.assertEqual(LiveCopy.objects.filter(written=self.walks).count(), 1)
        self.assertEqual(Version.objects.filter(written=self.walks, reason=Version.Reason.PUBLISHED).count(), 1)

    def test_what_is_given_up_every_time_is_told(self):
        with patch("stillpage.written.saving.WorkingCopy.objects.select_for_update", side_effect=DEADLOCK) as asked:
            self.save(self.walks, self.walks.working_copy.document, 1, status=503)
        self.assertEqual(asked.call_count, 3)
        self.assertEqual(WorkingCopy.objects.get(written=self.walks).revision, 1)

    def test_a_database_that_is_away_is_not_asked_again(self):
        away = OperationalError(2006, "Server has gone away")
        with patch("stillpage.written.saving.WorkingCopy.objects.select_for_update", side_effect=away) as asked:
            self.save(self.walks, self.walks.working_copy.document, 1, status=503)
        self.assertEqual(asked.call_count, 1)

    def test_a_file_that_was_read_is_not_asked_for_again(self):
        with patch("stillpage.api.arrivals.receive", side_effect=DEADLOCK) as asked:
            file = SimpleUploadedFile("a.jpg", photograph(), "image/jpeg")
            self.assertEqual(self.client.post("/api/items", {"file": file}).status_code, 503)
        self.assertEqual(asked.call_count, 1)
