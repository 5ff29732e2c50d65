"""Pages with films beside the same pages with bare players, and the caption editor beside a bare text field.

    python -m bench.films [page] [captions]

Starts a copy of the application of its own. What is measured, each against a reference of the same run:

- page: requests and bytes of a live page with a film and of one with a film elsewhere, before anything is pressed,
  beside the same page with bare `<video src>` and `<iframe src>` in their place; and the time to its load event.
- captions: from the address of a film to the first line that can be written in: what the 1,200 cues of an hour, and
  20,000, take more than ten do, beside a page that loads the same cues and has each as a paragraph; and a key in that
  line beside a key in a bare text field above those paragraphs.

Both are done by turns, and the least of the turns counts: whatever else the machine does only ever adds.
"""

from __future__ import annotations

import json
import statistics
import sys
import time
from typing import Any

from playwright.sync_api import Page, Route, sync_playwright

from ops.common import guarded
from ops.trial import Copy

from .common import ARGUMENTS, SMALL, a_copy, aim, signed_in
from .editing import BROWSER, PREPARE, keys, summary

CUES = (300,) if SMALL else (1_200, 20_000)
ROUNDS, TURNS, KEYS = (1, 1, 4) if SMALL else (9, 6, 30)
FRAME = 1000 / 60
"""Milliseconds between two pictures of a screen."""


def loaded(page: Page, address: str) -> tuple[int, int, float]:
    """Requests, bytes on the way, and milliseconds to the load event of a page that nothing is kept of."""
    session = page.context.new_cdp_session(page)
    others: list[str] = []
    own = "/".join(address.split("/")[:3])
    page.on("request", lambda request: None if request.url.startswith(own) else others.append(request.url))
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
    page.evaluate("scrollTo(0, document.body.scrollHeight)")
    page.wait_for_timeout(1500)
    session.detach()
    page.goto("about:blank")
    return found["requests"], found["bytes"], took, len(others)


def text_at(page: Page, address: str) -> str:
    """What is at an address, asked by the browser: it alone knows the hosts of this machine."""
    answer = page.goto(address)
    assert answer is not None
    return answer.text()


def measure_page(page: Page, origin: str, films: str) -> None:
    html = text_at(page, f"{origin}/visit")
    begun, ended = html.index('<div class="film hosted"'), html.index("</figure></div>") + len("</figure></div>")
    script = html.index("<script", ended)
    frame = f'<iframe src="{films}/play/over-the-aqueduct" width="720" height="405" title="x"></iframe>'
    bare = {"/visit": html[:begun] + frame + html[ended:script] + html[html.index("</script>", script) + 9 :]}
    html = text_at(page, f"{origin}/boating/how-to-work-a-lock")
    begun, ended = html.index("<video"), html.index("</video>")
    source = html[html.index('<source src="', begun) :].split('"')[1]
    player = f'<video controls width="720" height="405" src="{source}">'
    bare["/boating/how-to-work-a-lock"] = html[:begun] + player + html[ended:]
    for name, path in (("a film elsewhere", "/visit"), ("a film", "/boating/how-to-work-a-lock")):

        def without(route: Route, *, text: str = bare[path]) -> None:
            route.fulfill(content_type="text/html; charset=utf-8", body=text)

        page.route(f"{origin}{path}?bare", without)
        ours = [loaded(page, f"{origin}{path}") for _ in range(ROUNDS)]
        theirs = [loaded(page, f"{origin}{path}?bare") for _ in range(ROUNDS)]
        (requests, size, one, away), (others, theirs_size, other, _) = (
            tuple(statistics.median(each[part] for each in found) for part in range(4)) for found in (ours, theirs)
        )
        print(
            f"{name:<17} {requests:.0f} requests, {size / 1000:.0f} kB, load {one:.0f} ms; with a bare player "
            f"{others:.0f} requests, {theirs_size / 1000:.0f} kB, load {other:.0f} ms"
        )
        # Ours has a cover; the bare player of the stand-in is a page of a few hundred bytes.
        aim(f"bytes of a page with {name}, before a press, beside a bare player", size / theirs_size, most=1.2)
        aim(f"requests of a page with {name} to others, before a press", away, most=0)


def captions_of(page: Page, origin: str, count: int) -> tuple[int, int, int]:
    """Captions of ten and of very many cues for the demo's film: the numbers of the film, of the few, of the many."""
    token = page.evaluate("document.cookie.match(/csrftoken=([^;]+)/)[1]")

    def call(method: str, path: str, body: Any = None) -> Any:
        answer = page.request.fetch(f"{origin}/api{path}", method=method, data=body, headers={"X-CSRFToken": token})
        if not answer.ok:
            raise RuntimeError(f"{method} {path}: {answer.status} {answer.text()[:300]}")
        return answer.json()

    film = next(each for each in call("GET", "/shelf?q=lock")["documents"] if each["kind"] == "film")
    for each in call("GET", f"/items/{film['id']}/captions"):
        page.request.fetch(f"{origin}/api/captions/{each['id']}", method="DELETE", headers={"X-CSRFToken": token})
    cues = [
        {"begin": 2000 * index, "end": 2000 * index + 1500, "text": f"Cue {index}, of the lock.", "speaker": ""}
        for index in range(count)
    ]
    made = [
        call("POST", f"/items/{film['id']}/captions", {"language": language, "cues": some})["id"]
        for language, some in (("cy", cues[:10]), ("en", cues))
    ]
    return int(film["id"]), *made


def measure_captions(page: Page, reference: Page, origin: str, count: int) -> None:
    film, few, made = captions_of(page, origin, count)
    plain = (
        "<!DOCTYPE html><title>x</title><textarea></textarea><script>fetch('/api/captions/" + str(made) + "')"
        ".then((answer) => answer.json()).then(({ cues }) => { for (const cue of cues) { const line = "
        "document.createElement('p'); line.textContent = cue.text; document.body.append(line) } "
        "document.body.dataset.done = '' })</script>"
    )
    reference.route(f"{origin}/bare", lambda route: route.fulfill(content_type="text/html", body=plain))
    first = page.get_by_label("Words of cue 1", exact=True)
    ways = (
        (reference, f"{origin}/bare", reference.locator("body[data-done]")),
        (page, f"{origin}/films/{film}?captions={few}", first),
        (page, f"{origin}/films/{film}?captions={made}", first),
    )
    took: list[list[float]] = [[], [], []]
    for _ in range(ROUNDS):
        for (each, address, there), times in zip(ways, took, strict=True):
            each.bring_to_front()
            begun = time.perf_counter()
            each.goto(address)
            there.wait_for()
            times.append((time.perf_counter() - begun) * 1000)
    bare, ten, many = map(min, took)
    print(f"{count:,} cues       open in {many:.0f} ms, ten in {ten:.0f} ms; as bare paragraphs {bare:.0f} ms")
    aim(f"what {count:,} cues add to the way to the first line, beside bare paragraphs", (many - ten) / bare, most=1)
    ours, theirs = by_turns(page, reference)
    print("key to paint      by turns, beside a bare text field:")
    for one, other in zip(ours, theirs, strict=True):
        print(f"                  {summary(one)}; {summary(other)}")
    ratio = min(map(statistics.median, ours)) / min(map(statistics.median, theirs))
    aim(f"a key among {count:,} cues beside a bare text field", ratio, most=2)
    later = (min(map(_p95, ours)) - min(map(_p95, theirs))) / FRAME
    aim(f"frames by which a key among {count:,} cues is later than in a bare text field, p95", later, most=1)


def by_turns(page: Page, reference: Page) -> tuple[list[list[float]], list[list[float]]]:
    """Milliseconds from key to paint, turn by turn, in the first line of the captions and in a bare text field."""
    fields = (page.get_by_label("Words of cue 1", exact=True), reference.locator("textarea"))
    found: tuple[list[list[float]], list[list[float]]] = ([], [])
    for turn in range(TURNS + 1):
        for each, field, times in zip((page, reference), fields, found, strict=True):
            each.bring_to_front()
            if not turn:
                each.evaluate(PREPARE)
            field.click()
            each.wait_for_timeout(200)
            took = keys(each, each.main_frame, KEYS)
            if turn:  # The first turn warms both up.
                times.append(took)
    return found


def _p95(times: list[float]) -> float:
    return statistics.quantiles(times, n=20)[-1]


def run(copy: Copy) -> None:
    """Measure and print."""
    wanted = ARGUMENTS or ["page", "captions"]
    origin = f"http://localhost:{copy.port}"
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=BROWSER)
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        context.set_default_timeout(120_000)  # A bound against hanging, not a measure of speed.
        page = signed_in(context, origin)
        if "page" in wanted:
            measure_page(context.new_page(), f"http://canal.localhost:{copy.port}", films_of(page, origin))
        if "captions" in wanted:
            for count in CUES:
                measure_captions(page, context.new_page(), origin, count)
        browser.close()


def films_of(page: Page, origin: str) -> str:
    """Where the stand-in for a host of films is."""
    hosts = json.loads(page.request.get(f"{origin}/api/hosts").text())
    return str(hosts[0]["frames"])


def main() -> int:
    with a_copy() as copy:
        run(copy)
    return 0


if __name__ == "__main__":
    sys.exit(guarded(main))
