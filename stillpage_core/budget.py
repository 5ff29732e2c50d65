"""How much one piece of work may take: steps, counted where nodes are made and tokens are read, and time.

Whoever hands something foreign to the core says how much it may cost (`limited`); without that nothing is counted.
Steps are the same on every machine; how long they take is for the caller's clock, which is looked at now and then.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from .errors import CoreError

LOOKS = 512
"""Steps between two looks at the clock."""


class TooMuch(CoreError):
    """What was asked for takes more steps, or more time, than it may."""

    name = "too-much"
    title = "This takes too long"

    def __init__(self) -> None:
        super().__init__(
            "This takes more computing than one text is given. Nothing was changed. Take it in parts, "
            "or save it anew from the program that it comes from."
        )


class Budget:
    """So many ``steps`` are left; ``over`` tells whether the time is up."""

    __slots__ = ("left", "over", "until_look")

    def __init__(self, steps: int, over: Callable[[], bool] = lambda: False) -> None:
        self.left = steps
        self.over = over
        self.until_look = LOOKS

    def spend(self, steps: int) -> None:
        """Take steps from the budget. Raises `TooMuch` when there are none left, or the time is up."""
        self.left -= steps
        self.until_look -= steps
        if self.left < 0:
            raise TooMuch
        if self.until_look < 0:
            self.until_look = LOOKS
            if self.over():
                raise TooMuch


_present: ContextVar[Budget | None] = ContextVar("what the present work may take", default=None)


@contextmanager
def limited(budget: Budget) -> Iterator[Budget]:
    """Hold everything within to a budget."""
    before = _present.set(budget)
    try:
        yield budget
    finally:
        _present.reset(before)


def spend(steps: int = 1) -> None:
    """Count steps of the present work, if it is held to a budget. Raises `TooMuch`."""
    budget = _present.get()
    if budget is not None:
        budget.spend(steps)
