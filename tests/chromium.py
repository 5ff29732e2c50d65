"""One Chromium for all the tests of a process, and windows that are used again.

To start a browser, and to compile the interface in each window anew, took most of the time of the browser tests. A
window that is used again is empty as a new one: nothing stored or granted, nobody listening, no request under way.
"""

from __future__ import annotations

import atexit
import os
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from functools import cache
from typing import Any

from playwright.sync_api import Browser, Error, Page, Playwright, expect, sync_playwright

os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"  # Playwright's loop runs in the thread that also uses the database.
EXECUTABLE = "/usr/bin/chromium"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--use-fake-device-for-media-stream",
]
LONGEST = 60_000
"""Milliseconds; a bound against hanging, which a busy machine does not come near."""
expect.set_options(timeout=LONGEST)


@cache
def playwright() -> Playwright:
    """Playwright, once a process."""
    started = sync_playwright().start()
    atexit.register(_stop, started)
    return started


def _stop(started: Playwright) -> None:
    with suppress(Exception):  # The process ends; nobody is left to be told.
        started.stop()


@cache
def chromium() -> Browser:
    """The browser of this process."""
    return playwright().chromium.launch(executable_path=EXECUTABLE, args=ARGUMENTS)


@contextmanager
def new_page(**options: Any) -> Iterator[Page]:
    """A page in a context of its own, closed at the end."""
    context = chromium().new_context(**options)
    context.set_default_timeout(LONGEST)
    try:
        yield context.new_page()
    finally:
        context.close()


class Window:
    """A page in a context of its own that can be emptied and used again."""

    def __init__(self) -> None:
        self.context = chromium().new_context()
        self.context.set_default_timeout(LONGEST)
        self.page = self.context.new_page()
        self._session = self.context.new_cdp_session(self.page)
        self._heard: list[tuple[str, Any]] = []
        self._changed = False
        listen = self.page.on

        def noted(event: str, handler: Callable[..., None]) -> None:
            self._heard.append((event, handler))
            listen(event, handler)

        def lasting(do: Callable[..., None]) -> Callable[..., None]:
            def done(*args: Any, **named: Any) -> None:
                self._changed = True
                do(*args, **named)

            return done

        # What a test leaves behind in the page is noted, so that it can be taken away; what cannot be ends the window.
        page: Any = self.page
        page.on = noted
        page.add_init_script = lasting(page.add_init_script)
        page.expose_function = lasting(page.expose_function)
        page.emulate_media = lasting(page.emulate_media)

    def emptied(self, origin: str) -> bool:
        """Take away all that a test left; tells whether the window is as good as new."""
        if self._changed or self.page.is_closed():
            return False
        for other in self.context.pages:
            if other is not self.page:
                other.close()
        self.context.set_offline(True)  # What leaving the page would still send must not reach the next test.
        self.page.goto("about:blank")
        self.page.unroute_all(behavior="ignoreErrors")
        for event, handler in self._heard:
            self.page.remove_listener(event, handler)  # type: ignore[call-overload]
        self._heard.clear()
        self._session.send("Storage.clearDataForOrigin", {"origin": origin, "storageTypes": "all"})
        self.context.clear_cookies()
        self.context.clear_permissions()
        self.context.set_offline(False)
        self.page.mouse.move(0, 0)
        return True

    def close(self) -> None:
        with suppress(Error):
            self.context.close()


_free: list[Window] = []


@contextmanager
def window(origin: str, width: int, height: int, permissions: tuple[str, ...] = ()) -> Iterator[Page]:
    """A window of this size, used before or new; ``origin`` is what may have stored something in it."""
    taken = _free.pop() if _free else Window()
    try:
        taken.page.set_viewport_size({"width": width, "height": height})
        if permissions:
            taken.context.grant_permissions(list(permissions))
        yield taken.page
        kept = taken.emptied(origin)
    except BaseException:
        taken.close()
        raise
    if kept:
        _free.append(taken)
    else:
        taken.close()
