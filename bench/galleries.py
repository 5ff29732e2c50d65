"""A page with a gallery of 200 pictures and a slideshow, beside one with bare pictures: python -m bench.galleries

Starts a copy of the application of its own. The bare page has in their place an `<img loading=lazy>` for each picture,
with the file that a link to it leads to, as somebody would write it by hand. Counted is what the browser has fetched
before anybody scrolls: requests, bytes, and the time to the load event.
"""

from __future__ import annotations

import io
import random
import re
import statistics
import sys
import time
from typing import Any

from PIL import Image
from playwright.sync_api import Page, Route, sync_playwright

from ops.common import guarded
from stillpage_core.document.node import document_of, make

from .common import SMALL, a_copy, aim, signed_in
from .editing import BROWSER

COUNT = 12 if SMALL else 200
SLIDES = 3 if SMALL else 6
ROUNDS = 1 if SMALL else 5
SIZE = (800, 600) if SMALL else (960, 720)


def photograph(seed: int) -> bytes:
    """A picture with detail, as a camera writes it."""
    grain = random.Random(seed).randbytes(240 * 180 * 3)
    out = io.BytesIO()
    Image.frombytes("RGB", (240, 180), grain).resize(SIZE, Image.Resampling.BICUBIC).save(out, "JPEG", quality=85)
    return out.getvalue()


class Api:
    """The API as somebody who is signed in in a browser calls it."""

    def __init__(self, page: Page, origin: str) -> None:
        self.page, self.origin = page, origin
        self.token = page.evaluate("document.cookie.match(/csrftoken=([^;]+)/)[1]")

    def __call__(self, method: str, path: str, body: Any = None, **options: Any) -> Any:
        headers = {"X-CSRFToken": self.token}
        answer = self.page.request.fetch(
            f"{self.origin}/api{path}", method=method, data=body, headers=headers, **options
        )
        if not answer.ok:
            raise RuntimeError(f"{method} {path}: {answer.status} {answer.text()[:300]}")
        return answer.json() if answer.body() else None


def published(call: Api) -> str:
    """A page with a gallery and a slideshow, published once all files are made; gives its path."""
    numbers = []
    for seed in range(COUNT):
        file = {"name": f"{seed}.jpg", "mimeType": "image/jpeg", "buffer": photograph(seed)}
        numbers.append(call("POST", "/items", multipart={"file": file, "alt": f"Picture {seed}"})["id"])
    pictures = [make("picture", item=number, alt="A picture") for number in numbers]
    slides = [make("slide", [each], heading="One of them") for each in pictures[:SLIDES]]
    document = document_of([make("slideshow", slides, name="Slides"), make("gallery", pictures)]).to_json()
    page = call("POST", "/sites/1/pages", {"title": f"Pictures {random.randrange(10**6)}"})
    revision = page["working_copy"]["revision"]
    text = {"title": page["working_copy"]["title"], "description": "", "document": document, "base": revision}
    saved = call("PUT", f"/pages/{page['id']}/working-copy", text)
    while any(not call("GET", f"/items/{number}")["ready"] for number in numbers):
        time.sleep(1)
    call("POST", f"/pages/{page['id']}/publish", {"revision": saved["revision"]})
    return str(page["path"])


def fetched(page: Page, address: str) -> tuple[int, int, float]:
    """Requests, bytes on the way, and milliseconds to the load event of a page at which nobody scrolls."""
    session = page.context.new_cdp_session(page)
    session.send("Network.enable")
    session.send("Network.setCacheDisabled", {"cacheDisabled": True})
    found = {"requests": 0, "bytes": 0}

    def ended(event: dict[str, Any]) -> None:
        found["requests"] += 1
        found["bytes"] += int(event["encodedDataLength"])

    session.on("Network.loadingFinished", ended)
    begun = time.perf_counter()
    page.goto(address, wait_until="load")
    took = (time.perf_counter() - begun) * 1000
    page.wait_for_timeout(1500)
    session.detach()
    page.goto("about:blank")
    return found["requests"], found["bytes"], took


def bare(html: str) -> str:
    """The page with an img for each picture in place of gallery and slideshow."""
    begun = html.index('<section class="slideshow"')
    ended = html.index("</ul></div>", begun) + len("</ul></div>")
    images = "".join(
        f'<p><img src="{address}" width="{width}" height="{height}" alt="x" loading="lazy"></p>'
        for address, width, height in re.findall(
            r'<a href="([^"]+)" data-width="(\d+)" data-height="(\d+)"', html[begun:ended]
        )
    )
    return re.sub(r"<script.*?</script>", "", html[:begun] + images + html[ended:])


def main() -> int:
    # Its worker makes the files, as in life.
    with a_copy(STILLPAGE_TASKS="django_tasks_db.DatabaseBackend") as copy, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=BROWSER)
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        origin = f"http://canal.localhost:{copy.port}"
        path = published(Api(signed_in(context, f"http://localhost:{copy.port}"), f"http://localhost:{copy.port}"))
        page = context.new_page()
        answer = page.goto(f"{origin}{path}")
        assert answer is not None
        text = bare(answer.text())

        def without(route: Route) -> None:
            route.fulfill(content_type="text/html; charset=utf-8", body=text)

        page.route(f"{origin}{path}?bare", without)
        ours = [fetched(page, f"{origin}{path}") for _ in range(ROUNDS)]
        theirs = [fetched(page, f"{origin}{path}?bare") for _ in range(ROUNDS)]
        one, other = (
            [statistics.median(each[part] for each in found) for part in range(3)] for found in (ours, theirs)
        )
        for name, (requests, size, took) in (("gallery and slideshow", one), ("bare pictures", other)):
            print(f"{name:<22} {requests:.0f} requests, {size / 1000:.0f} kB, load {took:.0f} ms")
        # Side by side, more pictures are near the window than one below the other.
        print(f"bytes before scrolling, beside bare pictures that are loaded lazily: {one[1] / other[1]:.2f}")
        aim("bytes for each request, beside those", one[1] / one[0] / (other[1] / other[0]), most=1)
        aim("requests before scrolling, for each of the bare page", one[0] / other[0], most=3)
        browser.close()
    return 0


if __name__ == "__main__":
    sys.exit(guarded(main))
