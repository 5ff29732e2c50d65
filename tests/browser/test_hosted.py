"""Films at other hosts in the real interface: allowed by an administrator, brought in by address and by code, set,
published, and played by a reader's press; what comes of a host that misbehaves."""

import re
import threading

from django.test import override_settings
from playwright.sync_api import expect

from standins.films import FilmsServer
from stillpage.hosts.models import Host
from stillpage.library.models import Item
from stillpage.people.models import Role

from ..api.base import a_person
from ..api.test_films import hosted_item
from ..core.documents import document, hosted, paragraph
from ..patience import PATIENT, waiting
from .base import BrowserTest

PLAYS = "() => { const film = document.querySelector('video'); return [film.currentTime, film.paused] }"


class Hosted(BrowserTest):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.server = FilmsServer(0)
        cls.addClassCleanup(cls.server.server_close)
        cls.addClassCleanup(cls.server.shutdown)
        threading.Thread(target=cls.server.serve_forever, daemon=True).start()
        there = f"127.0.0.1:{cls.server.server_port}"
        cls.at = f"http://{there}"
        cls.enterClassContext(override_settings(OUTSIDE_ALLOWED=[there], OUTSIDE_SECONDS=PATIENT))

    def setUp(self):
        super().setUp()
        self.server.mode = "well"

    def node(self):
        self.walks.working_copy.refresh_from_db()
        return next(node for node in self.walks.working_copy.tree.content[0].content if node.kind == "hosted")

    def test_from_the_table_of_hosts_to_the_page(self):
        a_person("maud", Role.ADMINISTRATOR)
        with self.window(user="maud") as page:
            page.goto(f"{self.live_server_url}/account")
            # A press while what stands above is still on its way would miss.
            expect(page.get_by_text("This window")).to_be_visible()
            page.get_by_role("link", name="Hosts of films").click()
            expect(page.get_by_text("There is none yet")).to_be_visible()
            page.get_by_role("button", name="Allow another host").click()
            page.get_by_label("Name").fill("Headgate Films")
            page.get_by_label("Addresses of its films").fill(f"{self.at}/watch/*")
            page.get_by_label("Where it answers").fill("nonsense")
            page.get_by_label("Where its player comes from").fill(self.at)
            page.get_by_role("button", name="Keep this host").click()
            expect(page.get_by_text("The endpoint needs an address")).to_be_visible()
            # Whoever leaves before it is kept is asked; what is typed stays.
            page.get_by_role("link", name="Library").click()
            expect(page.get_by_text("What you typed here is not kept yet")).to_be_visible()
            expect(page.get_by_role("button", name="Stay here")).to_be_focused()
            self.axe(page, "a question before one leaves")
            page.keyboard.press("Enter")
            expect(page.get_by_role("button", name="Stay here")).to_have_count(0)
            expect(page.get_by_label("Name")).to_have_value("Headgate Films")
            page.get_by_label("Where it answers").fill(f"{self.at}/oembed")
            page.get_by_label("Begin at a second").fill("t={}")
            page.get_by_label("Show its captions").fill("cc=1")
            page.get_by_label("Try it here: the address").fill(f"{self.at}/watch/over-the-aqueduct")
            page.get_by_label("Try it here: the address").press("Enter")
            expect(page.get_by_text("It answers: “Over the aqueduct, in one go”, by Tamsin Reedmace")).to_be_visible()
            self.axe(page, "a host")
            page.get_by_role("button", name="Keep this host").click()
            expect(page.get_by_text("“Headgate Films” is kept")).to_be_visible()
            page.get_by_role("button", name="Take Headgate Films away").click()
            page.get_by_role("button", name="Bring Headgate Films back").click()
            expect(page.get_by_role("heading", name="Headgate Films")).to_be_visible()
        self.write(self.walks, document(paragraph("Before."), paragraph("After.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            # By its address, typed into the Shelf, by keys alone.
            sheet.get_by_text("Before.").click()
            self.settled(page)
            page.keyboard.press("Control+Enter")
            page.keyboard.type(f"{self.at}/watch/over-the-aqueduct")
            expect(page.get_by_text("Add the picture, film or document at this address")).to_be_visible()
            page.keyboard.press("ArrowDown")
            page.keyboard.press("Enter")
            film = sheet.locator(".hosted")
            expect(film).to_contain_text("Over the aqueduct, in one go")
            expect(film).to_contain_text("Headgate Films, 14 s")
            expect(film.locator("svg")).to_have_attribute("width", "720")
            film.click()
            expect(page.get_by_label("Without sound at first")).to_have_count(0)
            page.get_by_label("Begins at second").fill("3")
            page.get_by_label("With its captions shown").check()
            page.get_by_label("Caption", exact=True).fill("In one go")
            page.get_by_role("button", name="half").click()
            expect(film.locator("svg")).to_have_attribute("width", "360")
            # Its corner is dragged like a picture's, also where there is a caption below it.
            corner = film.locator(".size-handle").bounding_box()
            at = corner["x"] + corner["width"] / 2, corner["y"] + corner["height"] / 2
            space = film.locator("svg").bounding_box()
            self.assertAlmostEqual(at[1], space["y"] + space["height"], delta=4)
            page.mouse.move(*at)
            page.mouse.down()
            page.mouse.move(at[0] + 40, at[1] + 10, steps=3)
            page.mouse.up()
            expect(film.locator("svg")).to_have_attribute("width", "400")
            # What is asked of an author is one undo, and the check asks for captions until somebody has seen some.
            page.get_by_role("button", name="1 to look at").click()
            # It is seen in the list of notes; it may be said meanwhile, too.
            expect(page.get_by_role("main").get_by_text("Nobody has said that the film")).to_be_visible()
            film.click()
            page.get_by_label("Somebody has seen there that it has captions").check()
            expect(page.get_by_role("button", name="Nothing to mend")).to_be_visible()
            # A cover of the library, and the host's own again.
            page.get_by_role("button", name="A picture of the library").click()
            page.get_by_label("Find a picture for the cover").fill("lock gates")
            # A press while the list is another would hit what was there.
            expect(page.get_by_role("button", name="reeds", exact=True)).to_have_count(0)
            page.get_by_role("button", name="lock gates", exact=True).click()
            expect(film.locator("img")).to_have_attribute("src", self.cover_of(self.gates))
            page.get_by_role("button", name="The one that its host has").click()
            self.saved(page)
            attrs = self.node().attrs
            self.assertEqual((attrs["start"], attrs["captions"], attrs["caption"]), (3, True, "In one go"))
            self.assertEqual((attrs["width"], attrs["cover"]), (400, None))
            # By the code that the host gives, pasted as words.
            code = f'<iframe src="{self.at}/play/the-last-pair-of-gates" width="640" height="360"></iframe>'
            sheet.get_by_text("After.").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.press("Enter")
            sheet.locator(".regions").evaluate(
                """(text, code) => {
                  const clipboardData = new DataTransfer()
                  clipboardData.setData('text/plain', code)
                  const said = { clipboardData, bubbles: true, cancelable: true }
                  text.dispatchEvent(new ClipboardEvent('paste', said))
                }""",
                code,
            )
            page.get_by_role("button", name="Bring in the film").click()
            expect(sheet.locator(".hosted")).to_have_count(2)
            expect(sheet.locator(".hosted").last).to_contain_text("The last pair of gates")
            expect(sheet.get_by_text("<iframe")).to_have_count(0)
            self.saved(page)
            self.axe(page, "a film elsewhere", only="button-name")
            page.get_by_role("link", name="Library").click()
            page.get_by_role("option", name="The last pair of gates").click()
            expect(page.get_by_role("link", name="Look at it there, in a new window")).to_be_visible()
            expect(page.get_by_text("Replace the file")).to_have_count(0)

    def cover_of(self, picture):
        folder = Item.objects.get(pk=picture.pk).thumbnail.rpartition("/")[0]
        return re.compile(f"/media/{folder}/")

    def test_a_misbehaving_host_is_told_in_a_sentence_and_nothing_stands_on_the_page(self):
        at = self.at
        Host.objects.create(
            name="Headgate Films",
            addresses=[f"{at}/watch/*"],
            endpoint=f"{at}/oembed",
            frames=at,
            added_by=self.author,
        )
        self.write(self.walks, document(paragraph("Before.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            for mode, words in (
                ("refusing", "does not show this film to others"),
                ("gone", "has no such film, or no more"),
                ("huge", "is larger than"),
                ("lying", "in a frame from localhost"),
                ("scripted", "by a script of its own"),
                ("private", "is in a private network"),
                ("broken", "cannot be understood"),
                ("vanished", "broke off"),
                ("slow", "did not answer within 1 seconds"),
            ):
                self.server.mode = mode
                page.get_by_label("Bring in or do").fill(f"{at}/watch/over-the-aqueduct")
                with waiting(mode):
                    page.get_by_text("Add the picture, film or document at this address").click()
                    expect(page.get_by_text(words)).to_be_visible()
                page.get_by_role("button", name="Dismiss").click()
            self.server.mode = "well"
            page.get_by_label("Bring in or do").fill('<iframe src="https://evil.example/7"></iframe>')
            page.get_by_text("Add the film of this code").click()
            expect(
                page.get_by_text("Films from evil.example are not shown here; allowed are: Headgate")
            ).to_be_visible()
            expect(sheet.locator(".hosted")).to_have_count(0)
        self.assertFalse(Item.objects.filter(kind="hosted").exists())

    def test_a_reader_is_seen_by_no_host_before_the_press_and_plays_it_by_keyboard(self):
        item = hosted_item(self.author, self.at)
        for each in (self.home, self.visit):
            self.put_live(each)
        self.write(
            self.walks, document(paragraph("Before."), hosted(item.pk, start=3, captions=True, caption="Across"))
        )
        self.put_live(self.walks)
        with self.window(user=None, reduced_motion="reduce") as reader:
            asked = []
            reader.on("request", lambda request: asked.append(request.url))
            reader.goto(self.address(self.walks))
            reader.wait_for_load_state("networkidle")
            origin = self.walks.site.origin
            self.assertEqual([url for url in asked if not url.startswith(origin)], [])
            self.axe(reader, "a page with a film elsewhere")
            press = reader.get_by_role("button", name="Over the aqueduct, in one go Headgate Films, 14 s")
            before = press.bounding_box()
            reader.keyboard.press("Tab")
            while not reader.evaluate("document.activeElement.matches('.press')"):
                reader.keyboard.press("Tab")
            with reader.expect_request(f"{self.at}/play/**") as framed:
                reader.keyboard.press("Enter")
            self.assertEqual(framed.value.url, f"{self.at}/play/over-the-aqueduct?t=3&cc=1&begin=1")
            frame = reader.locator("iframe")
            self.assertEqual(frame.bounding_box(), before)
            self.assertEqual(frame.get_attribute("sandbox"), "allow-scripts allow-same-origin allow-presentation")
            self.assertEqual(reader.evaluate("document.activeElement.tagName"), "IFRAME")
            player = frame.element_handle().content_frame()
            player.wait_for_url(f"{self.at}/play/**")
            player.wait_for_function("document.querySelector('video').currentTime > 3.2")
            self.assertFalse(player.evaluate(PLAYS)[1])
            self.assertEqual(player.evaluate("document.querySelector('video').textTracks[0].mode"), "showing")
            expect(reader.get_by_role("link", name="Headgate Films, 14 s")).to_have_attribute(
                "href", f"{self.at}/watch/over-the-aqueduct"
            )
            self.axe(reader, "a page that plays a film elsewhere", only="frame-title")
        with self.window(390, 800, user=None, java_script_enabled=False) as bare:
            bare.goto(self.address(self.walks))
            self.assertEqual(bare.evaluate("document.documentElement.scrollWidth"), 390)
            bare.locator(".press-words").scroll_into_view_if_needed()
            # On a narrow screen its words stand under the cover, and nothing covers them.
            cover, words = (bare.locator(f".press-{part}").bounding_box() for part in ("cover", "words"))
            self.assertAlmostEqual(words["y"], cover["y"] + cover["height"], delta=1)
            seen = "(at) => Boolean(document.elementFromPoint(...at)?.closest('.press-words'))"
            self.assertTrue(bare.evaluate(seen, [words["x"] + 30, words["y"] + 15]))
            bare.get_by_role("link", name="Over the aqueduct").click()
            expect(bare.get_by_role("heading", name="Over the aqueduct, in one go")).to_be_visible()
