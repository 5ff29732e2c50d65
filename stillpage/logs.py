"""What is written to the log."""

from __future__ import annotations

import logging

from django.db import InterfaceError, OperationalError


class OneLineOfOutages(logging.Filter):
    """A database that is away is told in a line for each request; where the request was then says nothing more."""

    def filter(self, record: logging.LogRecord) -> bool:
        if record.exc_info and isinstance(record.exc_info[1], OperationalError | InterfaceError):
            record.exc_info = record.exc_text = None
        return True
