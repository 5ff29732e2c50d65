"""Counting how often something is done, in the database, so that all processes count together.

The package `limits` says what a limit is and when it is reached; this is a storage for it.
"""

from __future__ import annotations

import time

from django.db import DatabaseError, connection
from limits.storage import Storage
from limits.strategies import FixedWindowRateLimiter


class CountersInDatabase(Storage):
    """Counters of fixed windows, one row each; a row whose window has ended begins anew when it is next counted."""

    STORAGE_SCHEME = ["stillpage"]

    @property
    def base_exceptions(self) -> type[Exception]:
        return DatabaseError

    def incr(self, key: str, expiry: float, amount: int = 1) -> int:
        """Add to a counter and return what it says then, in one step."""
        now = time.time()
        with connection.cursor() as cursor:
            cursor.execute(
                "INSERT INTO people_counter (name, count, ends) VALUES (%s, %s, %s) ON DUPLICATE KEY UPDATE "
                "count = LAST_INSERT_ID(IF(ends <= %s, VALUES(count), count + VALUES(count))), "
                "ends = IF(ends <= %s, VALUES(ends), ends)",
                [key[:190], amount, now + expiry, now, now],
            )
            if cursor.rowcount == 1:  # MariaDB's handbook: 1 for a row that was new, 2 for one that was there.
                return amount
            cursor.execute("SELECT LAST_INSERT_ID()")
            return int(cursor.fetchone()[0])

    def _row(self, key: str) -> tuple[int, float]:
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT count, ends FROM people_counter WHERE name = %s AND ends > %s", [key[:190], time.time()]
            )
            return cursor.fetchone() or (0, time.time())

    def get(self, key: str) -> int:
        return self._row(key)[0]

    def get_expiry(self, key: str) -> float:
        return self._row(key)[1]

    def check(self) -> bool:
        return True

    def reset(self) -> int:
        with connection.cursor() as cursor:
            return int(cursor.execute("DELETE FROM people_counter"))

    def clear(self, key: str) -> None:
        with connection.cursor() as cursor:
            cursor.execute("DELETE FROM people_counter WHERE name = %s", [key[:190]])


def forget_ended() -> None:
    """Remove the counters whose windows have ended."""
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM people_counter WHERE ends <= %s", [time.time()])


limiter = FixedWindowRateLimiter(CountersInDatabase())
