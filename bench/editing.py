"""Writing on a long page beside writing in a bare contenteditable with the same HTML, in the same browser.

    python -m bench.editing [keys] [loading] [memory]

Starts a copy of the application of its own, and a page of 5,000 words in 300 blocks with 40 pictures. What is
measured, each against a reference of the same run:

- key to paint: from a key until the first task after the frame that shows it. The browser draws frames as fast as it
  can, so that waiting for the screen's next frame is in neither number. Editor and bare page take turns, since the
  speed of a shared machine drifts.
- loading: from the address to the first key taken, beside the time the live page takes to load.
- memory: the JavaScript heap after 10,000 keys beside that after 1,000, garbage collected.
"""

from __future__ import annotations

import random
import statistics
import sys
import time
from typing import Any

from playwright.sync_api import Frame, Page, sync_playwright

from ops.common import guarded
from ops.trial import Copy

from .common import ARGUMENTS, SMALL, a_copy, aim, signed_in

WORDS, BLOCKS, PICTURES = (300, 40, 4) if SMALL else (5_000, 300, 40)
ROUNDS, KEYS = (1, 4) if SMALL else (7, 40)
MANY, MORE = (10, 40) if SMALL else (1_000, 10_000)
BROWSER = ["--no-sandbox", "--disable-gpu", "--no-first-run", "--disable-frame-rate-limit", "--disable-gpu-vsync"]
TYPED = "the water falls and the boat with it "

_origin: list[str] = []
"""Where the authoring side of the copy is."""

PREPARE = """() => {
  const channel = new MessageChannel()
  let began = 0
  window.times = []
  channel.port1.onmessage = () => window.times.push(performance.now() - began)
  document.addEventListener('keydown', (event) => {
    began = event.timeStamp
    requestAnimationFrame(() => channel.port2.postMessage(0))
  }, { capture: true })
}"""
CARET = """(text) => {
  const lines = [...text.querySelectorAll(':scope > p')].slice(Math.floor(text.childElementCount / 3))
  const line = lines.find(({ firstChild }) => firstChild?.nodeType === Node.TEXT_NODE && firstChild.length > 5)
  text.closest('[contenteditable]').focus()
  line.scrollIntoView({ block: 'center' })
  getSelection().collapse(line.firstChild, 5)
}"""


def a_long_document(items: list[int]) -> dict[str, Any]:
    """A document of the size that is measured: headings, lists and pictures among paragraphs."""
    chance = random.Random(20)
    lexicon = (
        "lock gate water towpath boat sluice windlass bridge meadow rope keeper summer level mooring stone".split()
    )

    def words(number: int) -> list[dict[str, Any]]:
        return [{"type": "text", "text": " ".join(chance.choices(lexicon, k=number)).capitalize() + "."}]

    blocks: list[dict[str, Any]] = []
    texts = BLOCKS - PICTURES
    for index in range(texts):
        if index % 12 == 0:
            blocks.append({"type": "heading", "attrs": {"level": 2}, "content": words(4)})
        elif index % 12 == 7:
            entry = {"type": "list_item", "content": [{"type": "paragraph", "content": words(7)}]}
            blocks.append({"type": "bulleted_list", "content": [entry, entry, entry]})
        else:
            blocks.append({"type": "paragraph", "content": words(round(WORDS / texts))})
        if index % (texts // PICTURES) == 3 and len(blocks) < BLOCKS:
            blocks.append({"type": "picture", "attrs": {"item": items[index % len(items)]}})
    return {"type": "doc", "content": blocks}


def the_page(page: Page, copy: Copy) -> int:
    """Make the long page, publish it, and return its number."""
    token = page.evaluate("document.cookie.match(/csrftoken=([^;]+)/)[1]")

    def call(method: str, path: str, body: Any = None) -> Any:
        answer = page.request.fetch(
            f"http://localhost:{copy.port}/api{path}", method=method, data=body, headers={"X-CSRFToken": token}
        )
        if not answer.ok:
            raise RuntimeError(f"{method} {path}: {answer.status} {answer.text()[:300]}")
        return answer.json()

    site = call("GET", "/sites")[0]["id"]
    items = [each["id"] for each in call("GET", "/shelf")["pictures"] if each["alt"]]
    made = call("POST", f"/sites/{site}/pages", {"title": f"A long page {time.time_ns()}"})
    called = {"title": "A long page", "description": "A page of many words, to be written on."}
    body = {**called, "document": a_long_document(items), "base": 1}
    saved = call("PUT", f"/pages/{made['id']}/working-copy", body)
    call("POST", f"/pages/{made['id']}/publish", {"revision": saved["revision"]})
    return int(made["id"])


def writing(page: Page, number: int) -> Frame:
    """The page in the writing view; the frame of its sheet once it can be written in."""
    page.goto(f"{_origin[0]}/pages/{number}")
    page.frame_locator("iframe").locator(".regions[contenteditable=true]").wait_for()
    return next(frame for frame in page.frames if "/sheet/" in frame.url)


def bare(page: Page, number: int, html: str) -> Frame:
    """The same page with the same HTML in a bare contenteditable."""
    page.goto(f"{_origin[0]}/sheet/{number}")
    page.locator(".regions").evaluate("(text, html) => { text.innerHTML = html; text.contentEditable = 'true' }", html)
    return page.main_frame


def keys(page: Page, frame: Frame, number: int) -> list[float]:
    """Milliseconds from key to paint for so many keys."""
    frame.evaluate("window.times = []")
    for index in range(number):
        page.keyboard.press(TYPED[index % len(TYPED)].replace(" ", "Space"))
        frame.wait_for_function("count => window.times.length >= count", arg=index + 1)
    return list(frame.evaluate("window.times"))


def summary(times: list[float]) -> str:
    ordered = sorted(times)
    return f"median {statistics.median(ordered):5.1f} ms, p95 {ordered[int(len(ordered) * 0.95)]:5.1f} ms"


def measure_keys(editor: Page, reference: Page, number: int) -> None:
    sheet = writing(editor, number)
    editor.wait_for_timeout(2500)
    plain = bare(reference, number, sheet.locator(".regions").inner_html())
    for frame in (sheet, plain):
        frame.evaluate(PREPARE)
    ours: list[float] = []
    theirs: list[float] = []
    ratios: list[float] = []
    for turn in range(ROUNDS + 1):
        pair = []
        for page, frame in ((editor, sheet), (reference, plain)):
            page.bring_to_front()
            frame.locator(".text").evaluate(CARET)
            page.wait_for_timeout(200)
            pair.append(keys(page, frame, KEYS))
        if turn:  # The first turn warms both up.
            ours += pair[0]
            theirs += pair[1]
            ratios.append(statistics.median(pair[0]) / statistics.median(pair[1]))
    print(f"key to paint   editor              {summary(ours)}")
    print(f"               bare contenteditable {summary(theirs)}")
    print(
        f"               ratio of medians, by turns: {statistics.median(ratios):.2f} "
        f"({min(ratios):.2f} to {max(ratios):.2f})"
    )
    aim("key to paint beside a bare contenteditable", statistics.median(ratios), most=2)


def measure_loading(editor: Page, reference: Page, number: int, address: str) -> None:
    ours, theirs = [], []
    for turn in range(ROUNDS):
        editor.bring_to_front()
        began = time.perf_counter()
        sheet = writing(editor, number)
        sheet.locator(".text").evaluate(CARET)
        editor.keyboard.press("q")
        sheet.wait_for_function("document.querySelector('.text').textContent.includes('q')")
        ours.append(time.perf_counter() - began)
        editor.keyboard.press("Control+z")
        editor.wait_for_timeout(1500)
        reference.bring_to_front()
        began = time.perf_counter()
        reference.goto(f"{address}?turn={turn}", wait_until="load")
        theirs.append(time.perf_counter() - began)
    one, other = statistics.median(ours), statistics.median(theirs)
    print(
        f"loading        to the first key taken {one * 1000:5.0f} ms; the live page {other * 1000:5.0f} ms; "
        f"ratio {one / other:.2f}"
    )
    aim("loading, to the first key taken, in ms", one * 1000, most=1500)


def measure_memory(editor: Page, number: int) -> None:
    sheet = writing(editor, number)
    session = editor.context.new_cdp_session(editor)

    def heap() -> float:
        session.send("HeapProfiler.collectGarbage")
        return float(session.send("Runtime.getHeapUsage")["usedSize"]) / 1e6

    sheet.locator(".text").evaluate(CARET)
    found = {}
    for count in range(1, MORE + 1):
        editor.keyboard.press(TYPED[count % len(TYPED)].replace(" ", "Space"))
        if count in (MANY, MORE):
            editor.wait_for_timeout(3000)
            found[count] = heap()
    first, last = found[MANY], found[MORE]
    print(f"memory         after {MANY:,} keys {first:.1f} MB, after {MORE:,} {last:.1f} MB; ratio {last / first:.2f}")
    aim("the heap after ten times as many keys", last / first, most=1.5)


def main() -> int:
    """Measure and print."""
    wanted = ARGUMENTS or ["keys", "loading", "memory"]
    with a_copy() as copy, sync_playwright() as playwright:
        _origin.append(f"http://localhost:{copy.port}")
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=BROWSER)
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        context.set_default_timeout(120_000)  # A bound against hanging, not a measure of speed.
        editor, reference = signed_in(context, _origin[0]), context.new_page()
        number = the_page(editor, copy)
        found = editor.request.get(f"{_origin[0]}/api/pages/{number}").json()
        if "keys" in wanted:
            measure_keys(editor, reference, number)
        if "loading" in wanted:
            measure_loading(editor, reference, number, found["address"])
        reference.close()
        if "memory" in wanted:
            measure_memory(editor, number)
        browser.close()
    return 0


if __name__ == "__main__":
    sys.exit(guarded(main))
