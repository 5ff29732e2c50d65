"""How long the page check takes, beside axe-core on the same page; and from a key to the notes in the browser.

    python -m bench.checking

Starts a copy of the application of its own. The core checks texts of 1,000, 5,000 and 20,000 words with links, lists
and faults in them. axe-core runs in Chromium over the same text as rendered, with the theme's stylesheet, in the same
run: the ratio is of medians. Then somebody types in the writing view of a page of 5,000 words and the time is taken
from a key that makes a fault to the note that tells of it. Aims: 5,000 words in 50 ms, linear; at most a tenth of
axe-core; 300 ms to the note, p95, beyond the pause that waits for the typing to rest.
"""

from __future__ import annotations

import random
import re
import statistics
import time
from itertools import pairwise
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from stillpage_core.checking import Around, Subject, check_page
from stillpage_core.document import Mark, Node
from stillpage_core.document.node import document_of, make, text_node
from stillpage_core.document.walking import text_of
from stillpage_core.measuring import count_words
from stillpage_core.resolving import FixedResolver
from stillpage_core.writing import PageParts, Site, ThemeFiles, published_html, render_page

from .common import SMALL, a_copy, aim

PASSWORD = "still-water-14"  # Of the demo accounts: demo/people.py needs a database.
CHROMIUM = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--no-first-run"]
ROOT = Path(__file__).parent.parent
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
_THEME = re.sub(r"url\([^)]*\)", "none", (ROOT / "theme" / "page.css").read_text(encoding="utf-8"))
SIZES = (200, 1_000) if SMALL else (1_000, 5_000, 20_000)
TURNS = 1 if SMALL else 7
KEYS = 2 if SMALL else 25
PAUSE = 100
"""What the writing view waits for the typing to rest, in ms (useChecking.ts)."""

_WORDS = """canal lock gate water towpath boat bridge morning winter warden paddle beam wharf meadow reed narrow
quiet open shut wide level slow long short old new stone brick wooden under over beside between
along the a and of to in is on with from when where which until after before""".split()


def text(words: int, seed: int = 1) -> Node:
    """A text of about so many words, the same for the same seed, with a fault here and there."""
    chance = random.Random(seed)
    blocks: list[Node] = []
    written = 0
    while written < words:
        if len(blocks) % 6 == 0:
            blocks.append(make("heading", [text_node(f"Section {len(blocks)}")], level=chance.choice((2, 2, 2, 4))))
        sentences = []
        for _ in range(chance.randint(2, 6)):
            chosen = _unlike(chance.choices(_WORDS, k=chance.randint(6, 24)), chance)
            sentences.append(" ".join(chosen).capitalize() + ".")
            written += len(chosen)
        paragraph = " ".join(sentences)
        if chance.random() < 0.05:
            paragraph = paragraph.replace(" ", "   ", 1)
        blocks.append(make("paragraph", _linked(paragraph, chance)))
        if chance.random() < 0.15:
            items = [" ".join(chance.choices(_WORDS, k=6)).capitalize() for _ in range(4)]
            written += 24
            listed = [make("list_item", [make("paragraph", [text_node(each)])]) for each in items]
            blocks.append(make("bulleted_list", listed))
    return document_of(blocks)


def _unlike(words: list[str], chance: random.Random) -> list[str]:
    """The words with hardly one that follows itself."""
    pairs = pairwise(["", *words])
    return [word for before, word in pairs if word != before or chance.random() < 0.05]


def _linked(paragraph: str, chance: random.Random) -> list[Node]:
    """The words of a paragraph; in every third, two of them lead somewhere."""
    words = paragraph.split(" ")
    if chance.random() > 0.33:
        return [text_node(paragraph)]
    place = chance.randrange(len(words) - 2)
    href = f"https://locks.example/{chance.randrange(10_000)}"
    link = Mark("link", {"href": href, "title": None, "new_window": False})
    before, linked, after = words[:place], words[place : place + 2], words[place + 2 :]
    return [
        *([text_node(" ".join(before) + " ")] if before else []),
        text_node(" ".join(linked), [link]),
        text_node(" " + " ".join(after)),
    ]


def in_core(document: Node) -> float:
    """The median time of a check, in ms. Each turn checks another document, so that nothing is remembered."""
    took = []
    for turn in range(TURNS):
        other = text(count_words(text_of(document)), seed=turn + 2)
        begun = time.perf_counter()
        check_page(Subject(other, FixedResolver(), Around(title="A page", description="")))
        took.append((time.perf_counter() - begun) * 1000)
    return statistics.median(took)


def in_axe(page: Page, document: Node) -> float:
    """The median time of axe-core over the rendered page, in ms."""
    html = render_page(
        Site("Site", "http://a.localhost", "en", "canal", ()),
        PageParts("A page", "", "http://a.localhost/a", published_html(document, FixedResolver())),
        ThemeFiles(),
    )
    page.set_content(html.replace("</head>", f"<style>{_THEME}</style></head>"))
    page.add_script_tag(content=AXE.read_text())
    took = [
        page.evaluate(
            "async () => { const begun = performance.now(); await axe.run(); return performance.now() - begun }"
        )
        for _ in range(3)
    ]
    return statistics.median(took)


def key_to_note(browser: Browser, origin: str) -> tuple[list[float], list[float]]:
    """From a key to the refreshed notes, and from a key to the next frame, in ms."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.set_default_timeout(120_000)  # A bound against hanging, not a measure of speed.
    page.goto(origin)
    page.get_by_label("Name").fill("wren")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Contents").wait_for()
    number = page.evaluate(
        """async (text) => {
          const csrf = /csrftoken=([^;]+)/.exec(document.cookie)[1]
          const ask = (method, path, body) => fetch(path, {method, body: JSON.stringify(body),
            headers: {"X-CSRFToken": csrf, "Content-Type": "application/json"}}).then((answer) => answer.json())
          const [site] = await fetch("/api/sites").then((answer) => answer.json())
          const made = await ask("POST", `/api/sites/${site.id}/pages`, {title: "Bench " + Date.now()})
          await ask("PUT", `/api/pages/${made.id}/working-copy`,
            {title: made.working_copy.title, description: "", document: text, base: made.working_copy.revision})
          return made.id
        }""",
        text(500 if SMALL else 5_000).to_json(),
    )
    page.goto(f"{origin}/pages/{number}")
    sheet = page.frame_locator("iframe")
    sheet.locator(".regions[contenteditable]").wait_for()
    page.wait_for_timeout(3_000)
    sheet.locator(".text > p").last.click()
    page.keyboard.press("Control+End")
    notes, frames = [], []
    for _ in range(KEYS):
        page.keyboard.type(" heron")
        page.wait_for_timeout(900)
        took = page.evaluate(
            """() => new Promise((done) => {
              const frame = document.querySelector("iframe")
              const text = frame.contentDocument.querySelector(".text")
              const begun = performance.now()
              let painted = 0
              frame.contentWindow.requestAnimationFrame(() => { painted = performance.now() - begun })
              const look = () => {
                const words = text.querySelectorAll(".has-finding")
                if ([...words].some((each) => each.textContent.endsWith("heron heron"))) {
                  done([performance.now() - begun, painted])
                } else requestAnimationFrame(look)
              }
              frame.contentDocument.execCommand("insertText", false, " heron")
              look()
            })"""
        )
        notes.append(took[0])
        frames.append(took[1])
        page.keyboard.press("Control+z")
        page.keyboard.press("Control+z")
        page.wait_for_timeout(900)
    page.close()
    return notes, frames


def p95(values: list[float]) -> float:
    """The value below which 95 of 100 lie."""
    return sorted(values)[max(0, round(len(values) * 0.95) - 1)]


def main() -> None:
    """Print the table."""
    with a_copy() as copy, sync_playwright() as playwright:
        origin = f"http://localhost:{copy.port}"
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=CHROMIUM)
        page = browser.new_page()
        before, last = 0.0, 1
        print(f"{'words':>7} {'core, ms':>9} {'axe, ms':>9} {'ratio':>6} {'growth':>7}")
        for size in SIZES:
            document = text(size)
            ours, theirs = in_core(document), in_axe(page, document)
            grows = ours / before / (size / last) if before else 1.0
            growth = f"{grows:.2f}" if before else ""
            print(f"{size:>7} {ours:>9.1f} {theirs:>9.0f} {ours / theirs:>6.3f} {growth:>7}")
            before, last = ours, size
        page.close()
        notes, frames = key_to_note(browser, origin)
        print(f"key to note, 5,000 words: median {statistics.median(notes):.0f} ms, p95 {p95(notes):.0f} ms, of which")
        print(f"{PAUSE} ms are waited for the typing to rest; key to frame: p95 {p95(frames):.0f} ms")
        browser.close()
    aim("the page check of the longest text beside axe-core", ours / theirs, most=0.1)
    aim("growth with the words", grows, most=1.5)
    aim("key to note, p95, in ms beyond the pause,", p95(notes) - PAUSE, most=300)


if __name__ == "__main__":
    main()
