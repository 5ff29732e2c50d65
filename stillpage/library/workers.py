"""Whether who took up a task is still at it: a worker holds a lock of the database for as long as it lives."""

from __future__ import annotations

import secrets
import threading

from django.db import InterfaceError, OperationalError, connection
from django_tasks_db.models import DBTaskResult

from stillpage.outages import is_outage

LOOKS = 10
"""Seconds between two looks whether the lock is still there; a database that was restarted has forgotten it."""
MOST_WORKERS = 3
"""How often a task is taken up at most when whoever did it was killed."""


def _lock(worker: str) -> str:
    return f"stillpage worker {worker}"[:64]


class Alive(threading.Thread):
    """Tells, for as long as this process runs, that a worker lives. ``name`` is what it is called in the queue."""

    def __init__(self) -> None:
        super().__init__(name=secrets.token_hex(8), daemon=True)
        self.told = threading.Event()
        self.ended = threading.Event()

    def begin(self) -> str:
        """Take the lock; gives the worker's name."""
        self.start()
        self.told.wait(LOOKS)
        return self.name

    def run(self) -> None:
        while not self.ended.is_set():
            try:
                self._hold()
                self.told.set()
            except (OperationalError, InterfaceError) as error:
                if not is_outage(error):
                    raise
                connection.close()
            self.ended.wait(LOOKS)
        connection.close()

    def _hold(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("SELECT COALESCE(IS_USED_LOCK(%s) = CONNECTION_ID(), 0)", [_lock(self.name)])
            if not cursor.fetchone()[0]:
                cursor.execute("SELECT GET_LOCK(%s, 0)", [_lock(self.name)])


def take_up_killed() -> int:
    """Put tasks of workers that were killed back into the queue, or end those that were taken up too often; returns
    how many there were."""
    killed = [task for task in DBTaskResult.objects.running() if not _lives(task.worker_ids[-1:])]
    for task in killed:
        status = "READY" if len(task.worker_ids) < MOST_WORKERS else "FAILED"
        DBTaskResult.objects.filter(pk=task.pk, status="RUNNING", worker_ids=task.worker_ids).update(status=status)
    return len(killed)


def _lives(names: list[str]) -> bool:
    with connection.cursor() as cursor:
        for name in names:
            cursor.execute("SELECT IS_USED_LOCK(%s)", [_lock(name)])
            if cursor.fetchone()[0] is not None:
                return True
    return False
