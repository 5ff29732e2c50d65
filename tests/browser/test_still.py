"""What stands on the sheet is what the reader gets: the same boxes at the same places."""

import time
from contextlib import suppress
from io import BytesIO

from playwright.sync_api import TimeoutError, expect

from stillpage.library.receiving import receive
from stillpage.sites.models import Site
from stillpage.written.models import WorkingCopy

from ..api.test_films import played_items
from ..core.documents import document, every_kind_for, heading, paragraph
from ..core.test_animations import DEMO
from .base import BrowserTest

WIDTHS = (390, 820, 1280)
NAMES = ("main", "side", "foot")
MOVED = """new PerformanceObserver((list) => {
  for (const each of list.getEntries()) window.moved = (window.moved ?? 0) + each.value
}).observe({ type: "layout-shift", buffered: true })"""
"""Adds up how much of a page moves while it loads (Layout Instability, https://wicg.github.io/layout-instability/)."""
PROSE = (
    "The towpath leaves the basin by the old stables and keeps to the left bank for the first two kilometres, where "
    "anybody may walk. Beyond the aqueduct it is narrow, and after rain the stones are slippery. "
) * 3
LEFT_OUT = "br, .unseen, .ProseMirror-separator, span.has-finding, video *, audio *, script, .animation-lines *"
BOXES = f"""(text) => [text.closest('main').querySelector('h1'), text, ...text.querySelectorAll('*')]
  .filter((element) => !element.matches('{LEFT_OUT}'))
  .map((element) => {{
    const box = element.getBoundingClientRect()
    const top = text.ownerDocument.defaultView.scrollY
    return [element.tagName, box.x, box.y + top, box.width, box.height]
  }})"""


class Still(BrowserTest):
    def with_items(self):
        """The document of every kind, with this site's page, picture, film and sound."""
        drawn, _ = receive(BytesIO(DEMO.read_bytes()), self.author, name="a lock.json")
        return every_kind_for(self.visit.pk, self.gates.pk, played_items(self.author), drawn.pk)

    def test_every_block_of_every_kind_has_the_same_box_at_three_widths(self):
        self.write(self.walks, self.with_items())
        self.put_live(self.home)
        self.put_live(self.visit)
        self.put_live(self.walks)
        self.hold_to_still(WIDTHS)

    def test_so_has_it_in_a_theme_of_three_regions(self):
        """Which no site of ours has yet: one region stands beside main where there is room."""
        Site.objects.filter(pk=self.site.pk).update(theme="basin")
        self.write(self.walks, self.with_items())
        for page in (self.home, self.visit, self.walks):
            self.put_live(page)
        self.hold_to_still((390, 1280))
        with self.window(1280, 900, user=None) as reader:
            reader.goto(self.address(self.walks))
            main, side, foot = (reader.locator(f'[data-region="{name}"]').bounding_box() for name in NAMES)
            self.assertEqual((main["width"], side["width"], foot["width"]), (720, 340, 1120))
            self.assertEqual((side["y"], side["x"]), (main["y"], main["x"] + 780))
            self.assertGreaterEqual(foot["y"], max(each["y"] + each["height"] for each in (main, side)))
            self.assertEqual(reader.locator('[data-region="side"] img').bounding_box()["width"], 340)
            self.assertEqual(reader.evaluate("document.documentElement.scrollWidth"), 1280)

    def hold_to_still(self, widths):
        for width in widths:
            # A slideshow stands still on the sheet; so it does for readers who want that.
            with self.window(width, 900, user=None, reduced_motion="reduce") as reader:
                reader.goto(self.address(self.walks))
                live = self.boxes(reader.locator(".regions"))
            with self.window(1600, 900) as page:
                sheet = self.open(page, self.walks)
                name = {390: "Phone", 820: "Tablet", 1280: "Desktop"}[width]
                page.get_by_role("button", name=f"Show at the width of: {name}").click()
                text = sheet.locator(".regions")
                # The page's policy allows no eval, with which Playwright would wait for a function.
                expect(page.locator("iframe")).to_have_js_property("clientWidth", width)
                written = self.boxes(text)
            self.assertEqual([box[0] for box in written], [box[0] for box in live])
            self.assertGreater(len(live), 40)
            for one, other in zip(written, live, strict=True):
                for mine, theirs in zip(one[1:], other[1:], strict=True):
                    self.assertAlmostEqual(mine, theirs, delta=0.5, msg=f"{width} px: {one} is not {other}")

    def boxes(self, text):
        with suppress(TimeoutError):  # Whoever writes says every three seconds that they are here.
            text.page.wait_for_load_state("networkidle", timeout=5000)
        text.evaluate(
            """async (text) => {
              await text.ownerDocument.fonts.ready
              for (const image of text.querySelectorAll('img')) image.loading = 'eager'
              await Promise.all([...text.querySelectorAll('img')].map(async (image) => {
                while (!image.complete) await new Promise((resolve) => setTimeout(resolve, 20))
              }))
            }"""
        )
        # What the server draws may come a moment later; it is measured once nothing moves any more.
        before, now = None, text.evaluate(BOXES)
        for _ in range(20):
            if now == before:
                break
            text.page.wait_for_timeout(400)
            before, now = now, text.evaluate(BOXES)
        return now

    def test_nothing_moves_when_the_fonts_come_late(self):
        self.write(
            self.walks,
            document(
                *(each for _ in range(4) for each in (heading(2, "From the basin to the aqueduct"), paragraph(PROSE)))
            ),
        )
        for page in (self.home, self.visit, self.walks):
            self.put_live(page)
        for width in (390, 1280):
            with self.subTest(width), self.window(width, user=None) as reader:
                reader.add_init_script(MOVED)
                reader.route("**/*.woff2", lambda route: (time.sleep(0.4), route.continue_()))
                reader.goto(self.address(self.walks))
                reader.evaluate("document.fonts.ready.then(() => new Promise(requestAnimationFrame))")
                reader.wait_for_load_state("networkidle")
                came = "[...document.fonts].filter((each) => each.status === 'loaded').map((each) => each.family)"
                self.assertLessEqual({"Bitter", "Source Sans 3"}, {each.strip('"') for each in reader.evaluate(came)})
                # Good is at most 0.1 (Web Vitals, https://web.dev/articles/cls); without what stands there before, 0.2.
                self.assertLess(reader.evaluate("window.moved ?? 0"), 0.02)

    def test_opening_a_page_changes_nothing_of_it(self):
        self.write(self.walks, self.with_items())
        before = WorkingCopy.objects.get(written=self.walks)
        with self.window() as page:
            self.open(page, self.walks)
            page.wait_for_timeout(1500)
            page.keyboard.press("Control+s")
            self.saved(page)
        after = WorkingCopy.objects.get(written=self.walks)
        self.assertEqual((after.revision, after.document), (before.revision, before.document))
