"""Do the background work: python manage.py work. Takes up again what an earlier worker left undone.

With `--outside` it only asks outside addresses, which may take long to answer: nothing else waits for them then.
"""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import InterfaceError, OperationalError, close_old_connections
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from stillpage import room
from stillpage.arranging import undoing
from stillpage.hosts import keeping
from stillpage.library import sweeping, workers
from stillpage.library.tasks import PERIOD, clear_away, make_a_film, take_up_again
from stillpage.operations.backup import BackupError, nightly
from stillpage.outages import is_outage
from stillpage.outside.testing import QUEUE, forget_unused, is_due, test_due
from stillpage.people import attempts, limiting, sessions
from stillpage.publishing import freshness
from stillpage.written import saving, together

FIRST_SWEEP = 600
SWEEPS = 24 * 3600
"""Seconds until the files are first looked through after a start, and between two times."""
_log = logging.getLogger(__name__)


class Command(BaseCommand):
    help = "Make files of pictures and read documents, until it is stopped."

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--outside", action="store_true", help="only ask outside addresses")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            if options["outside"]:
                self._ask()
            else:
                self._work()
        except (OperationalError, InterfaceError) as error:
            if not is_outage(error):
                raise
            # Whoever started this starts it again; what was begun is taken up then.
            raise CommandError(f"The database cannot be reached: {error}") from error

    def _ask(self) -> None:
        """Test outside addresses when they are due, and do what was asked of their queue."""
        if "django_tasks_db" not in settings.TASKS["default"]["BACKEND"]:
            # The queue is on a broker, whose own worker does the work.
            self._look_after(self._look_outside)
        threading.Thread(target=self._look_after, args=(self._look_outside,), daemon=True).start()
        self._serve(queue_name=QUEUE, interval=0.5)

    def _serve(self, **options: Any) -> None:
        """Do what is in the queue, known by a name that tells as long as we live."""
        name = workers.Alive().begin()
        workers.take_up_killed()
        call_command("db_worker", worker_id=name, startup_delay=False, verbosity=0, reload=False, **options)

    def _work(self) -> None:
        take_up_again()
        freshness.take_up_again()
        if "django_tasks_db" not in settings.TASKS["default"]["BACKEND"]:
            # The queue is on a broker, whose own worker does the work.
            self._look_after(self._look_once)
        threading.Thread(target=self._look_after, args=(self._look_once,), daemon=True).start()
        threading.Thread(target=self._sweep, daemon=True).start()
        threading.Thread(target=self._make_films, daemon=True).start()
        self._serve(interval=0.3)

    def _sweep(self) -> None:
        """Once a day, look whether files and rows agree."""
        wait = threading.Event()
        pause = FIRST_SWEEP
        while not wait.wait(pause):
            pause = SWEEPS
            close_old_connections()
            try:
                for sentence in sweeping.sweep(mend=True).sentences(mended=True):
                    _log.warning("In the library: %s", sentence)
            except (OperationalError, InterfaceError, OSError):
                _log.exception("The library could not be looked through")
            close_old_connections()

    def _make_films(self) -> None:
        """Make films ready, one after another, beside whatever is in the queue: ffmpeg is a process of its own."""
        wait = threading.Event()
        while not wait.wait(1.0):
            try:
                while make_a_film():
                    pass
            except Exception:
                # Whatever it was, the next film is made all the same: work on an item is given up after a few tries.
                _log.exception("A film could not be made ready")
                wait.wait(PERIOD)
            close_old_connections()

    def _look_after(self, look: Callable[[], None]) -> None:
        wait = threading.Event()
        while not wait.wait(PERIOD):
            close_old_connections()
            try:
                look()
            except (OperationalError, InterfaceError) as error:
                # While the database is away, there is nothing to look after.
                if not is_outage(error):
                    raise
            close_old_connections()

    def _look_outside(self) -> None:
        if is_due():
            test_due.enqueue()
        if keeping.is_due():
            keeping.ask_due.enqueue()
        forget_unused()

    def _look_once(self) -> None:
        workers.take_up_killed()
        take_up_again()
        freshness.take_up_again()
        if room.is_little():
            _log.error("The disk has %d MB left: uploads, publishing and new files wait.", room.left() // 1024 // 1024)
        clear_away()
        together.clear_away()
        undoing.forget_old()
        saving.forget_old()
        sessions.forget_ended()
        attempts.forget_old()
        limiting.forget_ended()
        DBTaskResult.objects.filter(status__in=("SUCCESSFUL", "FAILED")).delete()
        try:
            nightly(timezone.now())
        except (BackupError, OSError) as error:
            _log.error("The backup of this night could not be made: %s", error)
