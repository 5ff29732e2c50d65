"""Outages of the database: what is one, and how it is told in the log."""

from __future__ import annotations

import logging

from django.db import InterfaceError, OperationalError

_AWAY = frozenset((1040, 1041, 1053, 1203, 1205, 1213, 1317, 1927, 2002, 2003, 2006, 2013, 2055))
"""MariaDB's codes of errors that pass: too many connections, shutting down, killed, a lock that was waited for in vain
or given up, and those of a server that cannot be reached (its handbook, “MariaDB Error Codes”)."""


def is_outage(error: BaseException | None) -> bool:
    """Whether a database error says that it is away or busy, and not that what was asked of it is wrong."""
    if isinstance(error, OperationalError):
        return not error.args or error.args[0] in _AWAY
    return isinstance(error, InterfaceError)


class OneLineOfOutages(logging.Filter):
    """A database that is away is told in a line for each request; where the request was then says nothing more."""

    def filter(self, record: logging.LogRecord) -> bool:
        if record.exc_info and is_outage(record.exc_info[1]):
            record.exc_info = record.exc_text = None
        return True
