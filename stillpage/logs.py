"""What is written to the log."""

from __future__ import annotations

import logging

from stillpage.api.outage import is_outage


class OneLineOfOutages(logging.Filter):
    """A database that is away is told in a line for each request; where the request was then says nothing more."""

    def filter(self, record: logging.LogRecord) -> bool:
        if record.exc_info and is_outage(record.exc_info[1]):
            record.exc_info = record.exc_text = None
        return True
