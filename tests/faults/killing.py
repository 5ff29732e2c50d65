"""Killing a piece of work at a line of its code, as `kill -9` does: nothing is cleaned up behind it."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from types import FrameType
from typing import Any

from django.db import connections

LONG = bool(os.environ.get("STILLPAGE_LONG_TESTS"))
KILLED, ENDED, FAILED = 9, 0, 1
_of_the_parent: list[Any] = []


def killed_at(line: int, work: Callable[[], object], within: str) -> bool:
    """Do ``work`` in a process of its own, which ends without a word when it comes to the ``line``-th line of code in
    files whose path holds ``within``. Returns whether it came to that; else the work was done."""
    child = os.fork()
    if not child:
        _be_killed(line, work, within)
    status = os.waitstatus_to_exitcode(os.waitpid(child, 0)[1])
    assert status in (KILLED, ENDED), f"the work failed by itself: {status}"
    return status == KILLED


def _be_killed(line: int, work: Callable[[], object], within: str) -> None:
    left = line
    for connection in connections.all(initialized_only=True):
        _of_the_parent.append(connection.connection)  # Let go of, it would say good-bye for both of us.
        connection.connection = None

    def trace(frame: FrameType, event: str, _: Any) -> Any:
        nonlocal left
        if within not in frame.f_code.co_filename:
            return None
        if event == "line":
            left -= 1
            if left == 0:
                os._exit(KILLED)
        return trace

    try:
        sys.settrace(trace)
        work()
    except BaseException as error:
        sys.settrace(None)
        print(repr(error), file=sys.stderr)
        os._exit(FAILED)
    os._exit(ENDED)
