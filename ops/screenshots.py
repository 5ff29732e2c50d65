"""Take the pictures of docs/screenshots from the demo data: python -m ops.screenshots, while ./start is running.

Needs what `./test` installs (Playwright and Chromium).
"""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from .common import ROOT

FOLDER = ROOT / "docs" / "screenshots"
PORT = os.environ.get("STILLPAGE_PORT", "8400")
CLIPBOARD = ["clipboard-read", "clipboard-write"]
AUTHORING = f"http://localhost:{PORT}/"


def _open(page: Page, title: str) -> None:
    page.get_by_role("treeitem", name=title).first.locator(".name").click()


def contents(page: Page) -> None:
    """A page is being moved: where it will stand, and what follows from it."""
    page.get_by_role("treeitem", name="Towpath walks").first.focus()
    beside = page.get_by_role("complementary", name="Beside the Contents")
    beside.get_by_role("button", name="Move", exact=True).click()
    for _ in range(11):
        page.keyboard.press("ArrowDown")
    beside.get_by_text("address changes.").wait_for()


def writing(page: Page) -> None:
    _open(page, "Towpath walks")
    page.frame_locator("iframe").locator(".text a").first.wait_for()
    page.frame_locator("iframe").get_by_text("After heavy rain").click()


def notes(page: Page) -> None:
    """The page on which nearly everything is wrong, with one of its notes open."""
    _faulty(page)
    page.get_by_role("tab", name="Notes (").click()
    for _ in range(6):
        page.keyboard.press("F8")


def listening(page: Page) -> None:
    """What is heard of the page, with the sheet following."""
    writing(page)
    page.get_by_role("tab", name="Listening").click()
    page.get_by_role("combobox", name="Up and down go").select_option("heading")
    for _ in range(3):
        page.get_by_role("button", name="Next").click()


def _faulty(page: Page) -> None:
    _open(page, "Untitled")
    page.frame_locator("iframe").locator(".regions[contenteditable]").wait_for()
    page.get_by_role("tab", name="Notes (").wait_for()


def shelf(page: Page) -> None:
    _open(page, "Moorings")
    page.frame_locator("iframe").locator(".text p").first.click()
    page.get_by_label("Bring in or do").fill("lock")
    page.get_by_role("option").first.wait_for()


def slideshow(page: Page) -> None:
    """A slideshow on the sheet, with its slides beside it."""
    _open(page, "Varrow Canal Trust")
    slide = page.frame_locator("iframe").locator(".slide img").first
    slide.click()
    page.get_by_label("Heading of slide 1").scroll_into_view_if_needed()


def links(page: Page) -> None:
    _open(page, "Boat licence")
    page.frame_locator("iframe").locator(".text p").first.click()
    page.keyboard.press("Home")
    for _ in range(9):
        page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press("Control+k")
    page.keyboard.type("boat")
    page.get_by_role("option").nth(3).wait_for()


def versions(page: Page) -> None:
    _open(page, "How to work a lock")
    page.frame_locator("iframe").locator(".text p").first.click()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Versions").click()
    page.get_by_role("button", name="Read").first.click()


def paste(page: Page) -> None:
    """A word processor's document, pasted onto a new page, and what was done to it."""
    html = (ROOT / "tests" / "fixtures" / "towpath-guide.html").read_text()
    _new(page, "Towpath guide")
    page.evaluate(
        """html => {
            const put = (event) => { event.preventDefault(); event.clipboardData.setData("text/html", html) }
            document.addEventListener("copy", put, { capture: true, once: true })
            document.execCommand("copy")
        }""",
        html,
    )
    page.frame_locator("iframe").locator(".text").click()
    page.keyboard.press("Control+V")
    page.get_by_role("button", name="See what was done").click()
    page.frame_locator("iframe").locator("figure img").wait_for()


def source(page: Page) -> None:
    """The source of a page with something in it that will not come through."""
    _open(page, "How to work a lock")
    page.frame_locator("iframe").locator(".text p").nth(1).click()
    page.keyboard.press("Home")
    page.get_by_role("button", name="Source").click()
    page.get_by_role("textbox", name="The source of the page").wait_for()
    page.wait_for_timeout(300)
    page.keyboard.type('<b onclick="open()">Slowly.</b> ')


def bring_in(page: Page) -> None:
    page.get_by_role("button", name="Import files").click()
    texts = [
        ("winter-work.md", b"# Winter work\n\nThe gates of *Lock 4*."),
        ("wardens.html", b"<h1>Towpath wardens</h1><p style='color:red'><b>Who they are</b></p><p>Nine people.</p>"),
        ("minutes.docx", b"no document"),
    ]
    files = [{"name": name, "mimeType": "text/plain", "buffer": data} for name, data in texts]
    page.get_by_label("Files to import").set_input_files(files)  # type: ignore[arg-type]
    page.get_by_role("button", name="Close").scroll_into_view_if_needed()


def library(page: Page) -> None:
    page.get_by_role("link", name="Library").click()
    page.get_by_role("listbox", name="Items").get_by_role("option", name="Village in autumn").click()


def film(page: Page) -> None:
    """A film on the sheet, with what can be said of it."""
    _open(page, "How to work a lock")
    player = page.frame_locator("iframe").locator(".film:not(.animation)")
    player.scroll_into_view_if_needed()
    player.click()
    page.get_by_role("button", name="Play on the sheet").wait_for()


def captions(page: Page) -> None:
    """Captions with faults, beside their film."""
    film(page)
    page.get_by_role("link", name="Open the captions").click()
    page.get_by_role("button", name="Cymraeg").click()
    page.get_by_label("Words of cue 4", exact=True).click()
    page.locator("video").evaluate("(video) => { video.currentTime = 16.5 }")


def crop(page: Page) -> None:
    """A picture on the sheet, and what is cut from it."""
    _open(page, "Towpath walks")
    page.frame_locator("iframe").locator("figure img").first.click()
    page.get_by_role("button", name="Crop, turn, straighten").click()
    page.get_by_role("button", name="4:3").click()
    page.get_by_role("group", name="Crop, turn and straighten").scroll_into_view_if_needed()


def _new(page: Page, title: str) -> None:
    page.get_by_role("button", name="New page at the top").click()
    page.get_by_label("Title", exact=True).fill(title)
    page.get_by_role("button", name="Add and write").click()
    page.frame_locator("iframe").locator(".regions[contenteditable]").wait_for()


def dark(page: Page) -> None:
    writing(page)
    page.get_by_role("button", name="Show at the width of: Phone").click()


def public(page: Page) -> None:
    page.goto(f"http://canal.localhost:{PORT}/visit/towpath-walks")


def results(page: Page) -> None:
    """What the page check found on every page of a site."""
    page.get_by_role("link", name="What the page check found").click()
    page.get_by_role("button", name="Check every page now").click()
    page.get_by_text("All pages are checked.").wait_for()


SHOTS: dict[str, tuple[Callable[[Page], None], dict[str, object]]] = {
    "contents": (contents, {}),
    "writing": (writing, {}),
    "notes": (notes, {}),
    "shelf": (shelf, {}),
    "links": (links, {}),
    "versions": (versions, {}),
    "dark": (dark, {"color_scheme": "dark"}),
    "narrow": (writing, {"viewport": {"width": 390, "height": 800}}),
    "public-page": (public, {}),
    "source": (source, {}),
    "library": (library, {}),
    "film": (film, {}),
    "slideshow": (slideshow, {}),
    "captions": (captions, {}),
    "crop": (crop, {}),
    "listening": (listening, {}),
    "results": (results, {}),
    "paste": (paste, {}),
    "bring-in": (bring_in, {}),
}


NOTHING_CHOSEN = """() => fetch("/api/account/choices", {
  method: "PATCH",
  headers: {"X-CSRFToken": /csrftoken=([^;]+)/.exec(document.cookie)[1], "Content-Type": "application/json"},
  body: JSON.stringify({width: null, left: null, left_shut: null, shelf_shut: null, more_marks: null, library: null}),
})"""
"""What somebody chose for one picture is not chosen for the next."""


def take(browser: Browser, name: str, folder: Path) -> None:
    """Take one picture, signed in as an author."""
    prepare, options = SHOTS[name]
    context = browser.new_context(**{"viewport": {"width": 1280, "height": 800}, "permissions": CLIPBOARD, **options})  # type: ignore[arg-type]
    page = context.new_page()
    page.goto(AUTHORING)
    page.get_by_label("Name").fill("wren")
    page.get_by_label("Password").fill("still-water-14")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("tree").wait_for()
    page.evaluate(NOTHING_CHOSEN)
    page.reload()
    page.get_by_role("tree").wait_for()
    prepare(page)
    page.mouse.move(0, 0)
    page.wait_for_timeout(900)
    page.screenshot(path=folder / f"{name}.png")
    context.close()


def main() -> None:
    """Take the pictures named on the command line, or all."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    arguments = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--no-first-run"]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=arguments)
        for name in sys.argv[1:] or SHOTS:
            take(browser, name, FOLDER)
            print(name)
        browser.close()


if __name__ == "__main__":
    main()
