"""How soon Chromium shows a screen of the application that is served from this process, with the data made there."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from .editing import BROWSER

_WATCH = """(selector) => {
  window.paintedAt = 0
  const look = () => {
    if (!document.querySelector(selector)) return requestAnimationFrame(look)
    requestAnimationFrame(() => { window.paintedAt = performance.now() })
  }
  look()
}"""


@contextmanager
def a_window(client: Any) -> Iterator[Callable[[str, str], float]]:
    """A browser in which whom a Django test client has signed in is signed in. What it gives takes a path and a CSS
    selector, and tells how many ms after going there the first such element has been painted."""
    from django.conf import settings  # noqa: PLC0415
    from django.contrib.staticfiles.handlers import StaticFilesHandler  # noqa: PLC0415
    from django.test.testcases import LiveServerThread  # noqa: PLC0415
    from playwright.sync_api import sync_playwright  # noqa: PLC0415

    server = LiveServerThread("localhost", StaticFilesHandler, connections_override={})
    server.daemon = True
    server.start()
    server.is_ready.wait()
    if server.error:
        raise server.error
    origin = f"http://localhost:{server.port}"
    session = client.cookies[settings.SESSION_COOKIE_NAME].value
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=BROWSER)
            context = browser.new_context(viewport={"width": 1280, "height": 800})
            context.add_cookies([{"name": settings.SESSION_COOKIE_NAME, "value": session, "url": origin}])
            page = context.new_page()

            def painted(path: str, selector: str) -> float:
                page.goto(f"{origin}{path}", wait_until="commit")
                page.evaluate(_WATCH, selector)
                while not (took := page.evaluate("window.paintedAt")):
                    page.wait_for_timeout(5)
                return float(took)

            yield painted
            browser.close()
    finally:
        server.terminate()
