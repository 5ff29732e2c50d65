"""Holding the core to a budget while somebody waits for it: steps, which it counts itself, and time of the processor.

What the core counts is the same everywhere and catches what is merely long. Against what it does not count, a watch
looks at how much time a thread has taken, and raises the same error in it. That is done only within `computing`, where
there is nothing but computation: no connection, no lock, no file that could be left half done.
"""

from __future__ import annotations

import ctypes
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass

from django.conf import settings

from stillpage_core.budget import Budget, TooMuch, limited

LOOK = 0.1
"""Seconds between two looks of the watch."""


@dataclass(eq=False)
class _Watched:
    """A thread that computes: its number, the clock of its time on the processor, and when that is up."""

    thread: int
    clock: int
    end: float
    told: bool = False


class _Watch:
    """One thread for the whole process, there only while something is watched."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self.watched: set[_Watched] = set()
        self.runs = False

    def add(self, each: _Watched) -> None:
        with self.lock:
            self.watched.add(each)
            if not self.runs:
                self.runs = True
                threading.Thread(target=self._run, name="watch", daemon=True).start()

    def remove(self, each: _Watched, *, came: bool = False) -> None:
        """From here on nothing is raised in that thread. Raises `TooMuch` where that was under way; ``came`` tells that
        it has come already."""
        with self.lock:
            self.watched.discard(each)
        if each.told:
            # What was asked for comes with one of the next steps; if not here, it would come somewhere else.
            end = time.monotonic() + (0.02 if came else 1)
            while time.monotonic() < end:
                pass

    def _run(self) -> None:
        while True:
            time.sleep(LOOK)
            with self.lock:
                if not self.watched:
                    self.runs = False
                    return
                for each in self.watched:
                    if not each.told and time.clock_gettime(each.clock) > each.end:
                        each.told = True
                        ctypes.pythonapi.PyThreadState_SetAsyncExc(
                            ctypes.c_ulong(each.thread), ctypes.py_object(TooMuch)
                        )


_watch = _Watch()
_here = threading.local()


@contextmanager
def computing() -> Iterator[None]:
    """Pure computation on something foreign, held to what the settings allow. Raises `TooMuch`.

    What it has to ask of the database meanwhile, it asks within `resting`.
    """
    thread = threading.get_ident()
    clock = time.pthread_getcpuclockid(thread)
    end = time.clock_gettime(clock) + settings.COMPUTING_SECONDS
    watched = _Watched(thread, clock, end + 2 * LOOK)
    came = False
    with limited(Budget(settings.COMPUTING_STEPS, lambda: time.clock_gettime(clock) > end)):
        _here.watched = watched
        _watch.add(watched)
        try:
            yield
        except TooMuch:
            came = True
            raise
        finally:
            _here.watched = None
            with suppress(TooMuch):  # Under way when the work had just been done, or had failed of itself.
                _watch.remove(watched, came=came)


@contextmanager
def resting() -> Iterator[None]:
    """Something that must not be broken off in the middle: a question to the database, say."""
    watched = getattr(_here, "watched", None)
    if watched is None:
        yield
        return
    _watch.remove(watched)
    try:
        yield
    finally:
        _watch.add(watched)
