"""Galleries, slideshows, animations and documents shown in a page, from the Shelf to the reader: with a script and
without, at 390 and 1280 px, for readers who want things to stand still, and by keyboard. The slideshow is held against
the carousel of the ARIA Authoring Practices, point by point."""

import re
import tempfile
import threading
from pathlib import Path

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings
from playwright.sync_api import expect

from standins.posts import PostsServer
from stillpage.hosts.models import Host
from stillpage.library.animations import draw_animation
from stillpage.library.documents import read_document
from stillpage.library.models import Item
from stillpage.library.receiving import receive

from ..api.base import image_bytes
from ..core.documents import animation, document, gallery, paper, paragraph, picture, slide, slideshow
from ..core.test_animations import DEMO
from ..papers import a_pdf
from .base import BrowserTest
from .waiting import becomes, pause, rests, until

LEFT = "(strip) => strip.scrollLeft"
"""How far a strip of slides is moved, in pixels."""


class Embeds(BrowserTest):
    def node(self, kind):
        self.walks.working_copy.refresh_from_db()
        return next(node for node in self.walks.working_copy.tree.content[0].content if node.kind == kind)

    def put_all_live(self):
        for page in (self.home, self.visit, self.walks):
            self.put_live(page)

    def asked_elsewhere(self, page):
        """What a page asks other origins for."""
        asked = []
        origin = re.match(r"https?://[^/]+", self.address(self.walks))[0]
        page.on(
            "request", lambda request: None if request.url.startswith((origin, "data:")) else asked.append(request.url)
        )
        return asked

    def test_a_gallery_from_a_drop_of_pictures_to_the_large_view(self):
        self.write(self.walks, document(paragraph("Before."), paragraph("After.")))
        with tempfile.TemporaryDirectory() as folder, self.window() as page:
            files = []
            for number in range(5):
                path = Path(folder) / f"winter {number + 1}.jpg"
                path.write_bytes(image_bytes((640, 480), colour=f"#{number * 40 + 30:02x}6040"))
                files.append(path)
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Before.").click()
            page.keyboard.press("Control+Enter")
            page.locator('input[type="file"]').first.set_input_files(files)
            tiles = sheet.locator(".gallery li")
            expect(tiles).to_have_count(5)
            # Nothing was cut for it yet, and it stands as it will.
            becomes(sheet.locator(".gallery img").first, "it => it.complete && it.clientWidth === it.clientHeight")
            expect(page.get_by_role("heading", name="This gallery")).to_be_visible()
            # Words in one list, by keys; the first goes down by a key, and comes back by undo.
            page.get_by_label("Title", exact=True).fill("Five winters")
            for number in range(1, 6):
                page.get_by_label(f"Alt text of picture {number}").fill(f"Winter {number}")
            page.get_by_label("Caption of picture 1").fill("The first of them")
            page.get_by_label("Caption of picture 1").press("Alt+ArrowDown")
            expect(tiles.nth(1)).to_contain_text("The first of them")
            page.get_by_role("button", name="undo").first.click()
            expect(tiles.nth(0)).to_contain_text("The first of them")
            sheet.locator(".gallery img").first.click()
            page.get_by_role("button", name="A wall of rows").click()
            expect(sheet.locator(".gallery")).to_have_attribute("data-form", "wall")
            page.get_by_role("button", name="Even tiles").click()
            page.get_by_role("button", name="Take picture 5 out").click()
            expect(tiles).to_have_count(4)
            expect(sheet.locator(".gallery img").first).to_have_attribute("alt", "Winter 1")
            # A press selects the whole; what is pressed of it then is brought into view in the list.
            sheet.get_by_text("After.").click()
            sheet.locator(".gallery img").nth(3).click()
            expect(page.get_by_role("heading", name="This gallery")).to_be_visible()
            entry = page.get_by_role("listitem").filter(has=page.get_by_label("Caption of picture 4"))
            self.assertIsNone(entry.get_attribute("aria-current"))
            sheet.locator(".gallery img").nth(3).click()
            expect(page.get_by_label("Caption of picture 4")).to_be_in_viewport()
            expect(entry).to_have_attribute("aria-current", "true")
            self.saved(page)
            self.axe(page, "a gallery with its particulars", only="label")
        for item in Item.objects.filter(kind=Item.Kind.PICTURE):
            self.make_files(item)
        self.put_all_live()
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            pictures = reader.get_by_role("list", name="Five winters").get_by_role("link")
            expect(pictures).to_have_count(4)
            pictures.nth(1).focus()
            reader.keyboard.press("Enter")
            large = reader.get_by_role("dialog")
            expect(large.get_by_role("img")).to_have_attribute("alt", "Winter 2")
            expect(large).to_contain_text("2 of 4")
            reader.keyboard.press("ArrowRight")
            reader.keyboard.press("ArrowRight")
            expect(large).to_contain_text("4 of 4")
            reader.keyboard.press("ArrowRight")
            expect(large).to_contain_text("The first of them · 1 of 4")
            self.axe(reader, "a picture, large")
            reader.keyboard.press("Escape")
            expect(large).to_be_hidden()
            # The focus is where one looked last.
            expect(pictures.nth(0)).to_be_focused()
        with self.window(390, 800, user=None, java_script_enabled=False) as reader:
            reader.goto(self.address(self.walks))
            link = reader.get_by_role("list", name="Five winters").get_by_role("link").first
            self.assertRegex(link.get_attribute("href"), r"/media/.*\.(jpg|png)$")
            self.assertEqual(reader.evaluate("document.documentElement.scrollWidth"), 390)

    def test_an_album_is_a_page_of_its_own_in_one_act(self):
        self.write(self.walks, document(paragraph("Before."), gallery(picture(self.gates.pk), title="Gates")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".gallery img").click()
            page.get_by_role("button", name="Make it an album").click()
            expect(sheet.locator(".call")).to_have_text("Gates")
            expect(sheet.locator(".gallery")).to_have_count(0)
            self.saved(page)
        made = self.node("call_to_action").attrs["href"]
        album = type(self.walks).objects.get(pk=int(made.removeprefix("page:")))
        self.assertEqual((album.parent_id, album.working_copy.title), (self.walks.pk, "Gates"))
        self.assertEqual(album.working_copy.tree.content[0].content[0].kind, "gallery")

    def test_a_slideshow_is_written_beside_its_picture_and_shown_as_it_will_be(self):
        self.write(self.walks, document(paragraph("Before."), paragraph("After.")))
        for each in (self.home, self.visit):
            self.put_live(each)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Before.").click()
            self.settled(page)
            page.keyboard.press("Control+Enter")
            page.keyboard.type("slideshow")
            page.keyboard.press("Enter")
            expect(sheet.get_by_text("No slide stands in this slideshow yet.")).to_be_visible()
            page.get_by_label("Name", exact=True).fill("News")
            page.get_by_role("button", name="More slides").click()
            for words, other in (("gates", "reeds"), ("reeds", "lock gates")):
                page.get_by_label("Find a picture for a slide").fill(words)
                expect(page.get_by_role("button", name=other, exact=True)).to_have_count(0)
                page.get_by_role("button", name=re.compile(words)).last.click()
            slides = sheet.locator(".slide")
            expect(slides).to_have_count(2)
            page.get_by_label("Heading of slide 1").fill("Walk with us " * 5)
            expect(page.get_by_text("The heading is longer than fits on a phone.")).to_be_visible()
            page.get_by_label("Heading of slide 1").fill("Walk with us")
            page.get_by_label("Words of slide 1").fill("Every Sunday.")
            page.get_by_role("textbox", name="Where slide 1 leads").fill("visit")
            page.get_by_role("group", name="Where slide 1 leads").get_by_role("button", name="Visit").click()
            page.get_by_label("Alt text of slide 2").fill("Reeds")
            expect(slides.first.locator("a")).to_have_text("Walk with us")
            page.get_by_role("button", name="1:1").click()
            expect(page.get_by_text("cut by 33 % of its width").first).to_be_visible()
            expect(slides.first.locator("img")).to_have_attribute("height", "720")
            page.get_by_role("button", name="3:2").click()
            # Its buttons stand on the sheet as on the page, and can be pressed; nothing moves by itself.
            sheet.get_by_role("button", name="Next slide").click()
            expect(sheet.get_by_role("button", name="Slide 2")).to_have_attribute("aria-current", "true")
            self.saved(page)
        attrs = self.node("slideshow").content[0].attrs
        self.assertEqual((attrs["heading"], attrs["href"]), ("Walk with us", f"page:{self.visit.pk}"))

    def test_the_slideshow_does_as_the_aria_authoring_practices_describe_a_carousel(self):
        slides = (
            slide(picture(self.gates.pk), heading="One", href=f"page:{self.visit.pk}"),
            slide(picture(self.reeds.pk, "Reeds"), heading="Two"),
            slide(picture(self.gates.pk), words="Three"),
        )
        self.write(self.walks, document(slideshow(*slides, name="News", stay=2000, change=200), paragraph("After.")))
        for each in (self.gates, self.reeds):
            self.make_files(each)
        self.put_all_live()
        with self.window(user=None) as reader:
            elsewhere = self.asked_elsewhere(reader)
            reader.goto(self.address(self.walks))
            show = reader.get_by_role("region", name="News")
            expect(show).to_have_attribute("aria-roledescription", "carousel")
            stop = show.get_by_role("button", name="Stop the slides")
            strip = show.get_by_role("group", name="Slides: News")
            expect(strip).to_have_attribute("aria-live", "off")
            # It moves by itself, and the slides that are not to be seen are out of reach.
            expect(show.get_by_role("button", name="Slide 2: Two")).to_have_attribute("aria-current", "true")
            becomes(strip, "(strip) => [...strip.children].filter((each) => each.inert).length", 2)
            # Under the pointer it stands still.
            strip.hover()
            at = rests(strip, LEFT)
            pause(reader, 3000)
            self.assertEqual(strip.evaluate(LEFT), at)
            reader.mouse.move(5, 5)
            # The button that stops it comes first, its name says what it will do, and it is no toggle.
            self.assertEqual(show.get_by_role("button").first.get_attribute("aria-label"), "Stop the slides")
            stop.press("Enter")
            expect(show.get_by_role("button", name="Start the slides")).to_be_visible()
            self.assertIsNone(show.get_by_role("button").first.get_attribute("aria-pressed"))
            expect(strip).to_have_attribute("aria-live", "polite")
            show.get_by_role("button", name="Next slide").press("Enter")
            show.get_by_role("button", name="Slide 1: One").press("Enter")
            expect(show.get_by_role("button", name="Slide 1: One")).to_have_attribute("aria-current", "true")
            expect(show.get_by_role("link", name="One")).to_be_visible()
            strip.press("End")
            expect(show.get_by_role("button", name="Slide 3: Three")).to_have_attribute("aria-current", "true")
            self.axe(reader, "a slideshow")
            self.assertEqual(elsewhere, [])
            # By keys from the beginning: it has stopped once the focus is within, and does not start again by itself.
            reader.reload()
            show.get_by_role("button", name="Stop the slides").wait_for()
            show.get_by_role("button", name="Next slide").focus()
            reader.keyboard.press("Tab")
            expect(show.get_by_role("button", name="Start the slides")).to_be_visible()
        with self.window(390, 800, user=None, reduced_motion="reduce") as reader:
            reader.goto(self.address(self.walks))
            expect(reader.get_by_role("button", name="Start the slides")).to_be_visible()
            reader.wait_for_timeout(2600)
            self.assertEqual(reader.evaluate("document.querySelector('.slides').scrollLeft"), 0)
            self.assertEqual(reader.evaluate("document.documentElement.scrollWidth"), 390)
        with self.window(390, 800, user=None, java_script_enabled=False) as reader:
            reader.goto(self.address(self.walks))
            strip = reader.get_by_role("group", name="Slides: News")
            strip.focus()
            # One press, one slide: presses that come while the strip still moves are counted differently by its speed.
            strip.press("ArrowRight")
            expect(reader.get_by_text("Two")).to_be_in_viewport()
            expect(reader.get_by_role("link", name="One")).not_to_be_in_viewport()

    def test_an_animation_comes_in_is_coloured_and_plays_for_who_wants_that(self):
        self.write(self.walks, document(paragraph("Before."), *[paragraph("Words. " * 60)] * 6))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Before.").click()
            page.keyboard.press("Control+Enter")
            page.locator('input[type="file"]').first.set_input_files(DEMO)
            box = sheet.locator(".animation-box")
            expect(box.locator(".animation-lines svg")).to_be_visible()
            page.get_by_label("Words of the animation").fill("A lock fills")
            page.get_by_role("button", name="#8a2b3f").click()
            page.get_by_role("group", name="Colours of the theme").get_by_role("button").first.click()
            told = page.get_by_role("button", name=re.compile("#8a2b3f, here #"))
            colour = re.search("here #(.{6})", told.get_attribute("aria-label"))[1]
            red, green, blue = (int(colour[place : place + 2], 16) for place in (0, 2, 4))
            expect(box.locator(f'path[fill="rgb({red},{green},{blue})"]')).to_have_count(1)
            # Standing still while one writes; it moves on a press, and stops when something else is selected.
            where = "(box) => box.querySelector('.animation-lines g[transform]').parentNode.innerHTML"
            before = box.evaluate(where)
            page.wait_for_timeout(500)
            self.assertEqual(box.evaluate(where), before)
            page.get_by_role("button", name="Play on the sheet").click()
            expect(box.get_by_role("button", name=re.compile("^Stop"), include_hidden=True)).to_be_attached()
            page.get_by_role("button", name="by a press").click()
            page.get_by_role("button", name="2 times").click()
            self.saved(page)
        attrs = self.node("animation").attrs
        self.assertEqual((attrs["start"], attrs["times"], attrs["colours"]), ("press", 2, f"8a2b3f-{colour}"))
        item = Item.objects.get(kind=Item.Kind.ANIMATION)
        draw_animation(item.pk)
        self.put_all_live()
        with self.window(user=None) as reader:
            elsewhere = self.asked_elsewhere(reader)
            reader.goto(self.address(self.walks))
            press = reader.get_by_role("button", name=re.compile("^Play: "))
            press.click()
            lines = reader.locator(".animation-lines")
            expect(lines.locator("svg")).to_be_visible()
            first = lines.inner_html()
            until(lines.inner_html, lambda found: found != first)
            reader.get_by_role("button", name=re.compile("^Stop: ")).click()
            still = lines.inner_html()
            pause(reader, 400)
            self.assertEqual(lines.inner_html(), still)
            expect(reader.get_by_role("img", name="A lock fills")).to_be_attached()
            self.axe(reader, "an animation")
            self.assertEqual(elsewhere, [])
        with self.window(390, 800, user=None, java_script_enabled=False) as reader:
            reader.goto(self.address(self.walks))
            shown = reader.get_by_role("img", name="A lock fills")
            shown.scroll_into_view_if_needed()
            expect(shown).to_have_js_property("complete", value=True)
            self.assertEqual(reader.evaluate("document.documentElement.scrollWidth"), 390)

    def test_nothing_moves_nor_is_fetched_for_readers_who_want_things_to_stand_still(self):
        item, _ = receive(SimpleUploadedFile("a lock.json", DEMO.read_bytes()), self.author, "A lock fills")
        draw_animation(item.pk)
        self.write(self.walks, document(animation(item.pk)))
        self.put_all_live()
        with self.window(user=None, reduced_motion="reduce") as reader:
            asked = []
            reader.on("request", lambda request: asked.append(request.url))
            reader.goto(self.address(self.walks))
            expect(reader.get_by_role("button", name="Play: A lock")).to_be_visible()
            reader.wait_for_timeout(800)
            self.assertFalse([url for url in asked if "lottie" in url or url.endswith(".json")])
            # Whoever presses for it has it.
            reader.get_by_role("button", name="Play: A lock").click()
            expect(reader.locator(".animation-lines svg")).to_be_visible()

    def test_the_pages_of_a_document_are_turned_by_keys_and_stand_in_order_without_a_script(self):
        item, _ = receive(SimpleUploadedFile("Licence form.pdf", a_pdf("Name of the boat", pages=3)), self.author)
        self.write(self.walks, document(paragraph("Before."), paragraph("After.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Before.").click()
            self.settled(page)
            page.keyboard.press("Control+Enter")
            page.keyboard.type("licence form")
            page.get_by_role("option", name="its pages shown here").click()
            expect(sheet.locator(".paper-title a")).to_contain_text("Licence form")
            self.saved(page)
            read_document(item.pk)
            # Its pages come by themselves once they are there.
            expect(sheet.locator(".paper img")).to_have_count(3)
            page.get_by_label("Last page").fill("2")
            page.get_by_label("One page at a time, turned by readers").check()
            self.saved(page)
        self.write(self.walks, document(paper(item.pk, last=2, turned=True)))
        self.put_all_live()
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            expect(reader.get_by_role("status")).to_have_text("Page 1 of 3")
            on = reader.get_by_role("button", name="Next page")
            on.focus()
            reader.keyboard.press("Enter")
            expect(reader.get_by_role("status")).to_have_text("Page 2 of 3")
            reader.keyboard.press("ArrowLeft")
            expect(reader.get_by_role("status")).to_have_text("Page 1 of 3")
            reader.get_by_text("Page 1 as text").click()
            expect(reader.get_by_text("Name of the boat").first).to_be_visible()
            self.axe(reader, "a document in the page")
        with self.window(390, 800, user=None, java_script_enabled=False) as reader:
            reader.goto(self.address(self.walks))
            expect(reader.locator(".paper-pages img")).to_have_count(2)
            self.assertEqual(reader.evaluate("document.documentElement.scrollWidth"), 390)

    def test_a_post_is_text_and_its_network_is_asked_for_nothing_before_a_press(self):
        server = PostsServer(0)
        self.addCleanup(server.server_close)
        self.addCleanup(server.shutdown)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        there = f"127.0.0.1:{server.server_port}"
        at = f"http://{there}"
        self.enterContext(override_settings(OUTSIDE_ALLOWED=[there]))
        Host.objects.create(
            name="Towpath Talk", addresses=[f"{at}/by/*"], endpoint=f"{at}/oembed", frames=at, added_by=self.author
        )
        self.write(self.walks, document(paragraph("Before."), paragraph("After.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Before.").click()
            self.settled(page)
            page.keyboard.press("Control+Enter")
            page.get_by_label("Bring in or do").fill(f"{at}/by/perrin/gate-four")
            page.get_by_role("option", name="at this address").click()
            quoted = sheet.locator(".post blockquote")
            expect(quoted).to_contain_text("Gate four is off its hinges")
            expect(quoted.locator("img")).to_have_attribute("alt", re.compile("Three people in orange"))
            page.get_by_label("Show this picture of it").uncheck()
            expect(quoted.locator("img")).to_have_count(0)
            page.get_by_label("Show this picture of it").check()
            page.get_by_label("Caption", exact=True).fill("From the towpath")
            expect(sheet.locator(".post-caption")).to_have_text("From the towpath")
            self.saved(page)
            self.axe(page, "a post with its particulars", only="label")
        for item in Item.objects.filter(kind=Item.Kind.PICTURE):
            self.make_files(item)
        self.put_all_live()
        with self.window(user=None) as reader:
            elsewhere = self.asked_elsewhere(reader)
            reader.goto(self.address(self.walks))
            expect(reader.get_by_role("figure").get_by_text("3 October 2026")).to_be_visible()
            self.axe(reader, "a post")
            reader.wait_for_timeout(300)
            self.assertEqual(elsewhere, [])
            reader.get_by_role("button", name="Show it as it stands there").press("Enter")
            frame = reader.frame_locator("iframe")
            expect(frame.get_by_text("Gate four is off its hinges")).to_be_visible()
            self.assertTrue(elsewhere and all(url.startswith(at) for url in elsewhere))
            expect(reader.locator("blockquote").first).to_be_visible()
        with self.window(390, 800, user=None, java_script_enabled=False) as reader:
            reader.goto(self.address(self.walks))
            expect(reader.get_by_text("Gate four is off its hinges")).to_be_visible()
            expect(reader.get_by_role("link", name="Show it as it stands there")).to_have_attribute(
                "href", f"{at}/by/perrin/gate-four"
            )
            self.assertEqual(reader.evaluate("document.documentElement.scrollWidth"), 390)
