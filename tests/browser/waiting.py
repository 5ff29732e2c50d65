"""Waiting for what happens, not for a time: a busy machine takes longer, a fast one less."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any, TypeVar

from playwright.sync_api import Locator, Page

Found = TypeVar("Found")
LONGEST = 60
"""Seconds; a bound against hanging."""


def until(read: Callable[[], Found], right: Callable[[Found], Any] = bool, page: Page | None = None) -> Found:
    """Read until what is read is right, and give it. With a ``page``, its events are heard meanwhile.

    Raises `AssertionError` after `LONGEST` seconds."""
    end = time.monotonic() + LONGEST
    while not right(found := read()):
        if time.monotonic() > end:
            raise AssertionError(f"after {LONGEST} s it is still {found!r}")
        if page:
            page.wait_for_timeout(50)
        else:
            time.sleep(0.05)
    return found


def becomes(element: Locator, said: str, wanted: object = True) -> None:
    """Wait until what a function in the page says of an element is what is wanted."""
    until(lambda: element.evaluate(said), lambda found: found == wanted)


def rests(element: Locator, said: str) -> Any:
    """Wait until what a function says of an element is the same for a fifth of a second of the page's own; give it."""
    pause = "new Promise((done) => setTimeout(done, 200))"
    return until(
        lambda: element.evaluate(f"async (it) => [({said})(it), await {pause}, ({said})(it)]"),
        lambda found: found[0] == found[2],
    )[0]


def pause(page: Page, milliseconds: int) -> None:
    """A pause by the page's own clock: what the page has been asked before is in it, however late it comes there."""
    page.evaluate("(long) => new Promise((done) => setTimeout(done, long))", milliseconds)
