"""Films on pages, from the file to the reader: brought in, set, captioned by keyboard, played on the live page."""

import re
import tempfile
from io import BytesIO
from pathlib import Path

from playwright.sync_api import expect

from stillpage.library import captions, tasks
from stillpage.library.models import Captions, Item
from stillpage.library.receiving import receive
from stillpage_core.media.captions import Cue

from ..api.test_films import film_bytes, sound_bytes
from ..core.documents import document, film, paragraph, sound
from .base import BrowserTest
from .waiting import becomes, until

ACTIVE = "(video) => [...video.textTracks].flatMap((each) => [...each.activeCues]).map((cue) => cue.text)"
"""The words that a film shows just now."""
PICTURE = """(video) => {
  const canvas = document.createElement("canvas")
  canvas.width = canvas.height = 32
  canvas.getContext("2d").drawImage(video, 0, 0, 32, 32)
  return canvas.toDataURL()
}"""
"""What a film shows just now."""


class Films(BrowserTest):
    def added(self, seconds=4):
        item, _ = receive(BytesIO(film_bytes(seconds)), self.author, name="Through the lock.mov")
        tasks.make_a_film()
        item.refresh_from_db()
        return item

    def given(self, item, *cues, language="en"):
        made = captions.begin(item, self.author, "captions", language, [Cue(*cue) for cue in cues])
        return captions.give(made)

    def node(self):
        self.walks.working_copy.refresh_from_db()
        return next(node for node in self.walks.working_copy.tree.content[0].content if node.kind == "film")

    def test_from_the_file_to_the_page_with_what_is_said_of_it(self):
        self.write(self.walks, document(paragraph("Before."), paragraph("After.")))
        small = self.settings(PAGE_FILM_LIMIT=1000)
        with tempfile.TemporaryDirectory() as folder, small, self.window() as page:
            path = Path(folder) / "Through the lock.mov"
            path.write_bytes(film_bytes(4))
            sheet = self.open(page, self.walks)
            # A film that is large for a page is told before anything of it is sent.
            for answer in ("Cancel", "Add it all the same"):
                sheet.get_by_text("Before.").click()
                page.keyboard.press("Control+Enter")
                page.locator('input[type="file"]').first.set_input_files(path)
                expect(page.get_by_text("a film of a page is to have 1 kB at most")).to_be_visible()
                self.assertFalse(Item.objects.filter(kind=Item.Kind.FILM).exists())
                page.get_by_role("button", name=answer).click()
            waits = sheet.locator(".film")
            expect(waits).to_contain_text("is being made ready")
            # Meanwhile one writes on; the page says why it cannot be published.
            self.type_at_end(page, sheet, " More.")
            self.saved(page)
            page.get_by_role("button", name="1 to mend").click()
            waiting = page.get_by_role("button", name="The page can be published when it is.")
            expect(waiting).to_be_visible()
            tasks.make_a_film()
            player = sheet.locator(".film video")
            expect(player).to_have_attribute("width", "720")
            expect(waiting).to_be_hidden()
            expect(page.get_by_text("has sound and no captions")).to_be_visible()
            sheet.locator(".film").click()
            page.get_by_label("Caption", exact=True).fill("By hand, in four seconds")
            page.get_by_role("button", name="half").click()
            page.get_by_role("button", name="centre").click()
            expect(player).to_have_attribute("width", "360")
            expect(player).to_have_attribute("height", "225")
            page.get_by_role("button", name="A still from the middle").click()
            expect(player).to_have_attribute("poster", re.compile("still-50"))
            page.get_by_role("button", name="Another moment").click()
            page.get_by_label("Go to the moment that is wanted").evaluate("(video) => { video.currentTime = 3 }")
            page.get_by_role("button", name="Take this moment").click()
            expect(player).to_have_attribute("poster", re.compile("at-3000"))
            page.get_by_role("button", name="A picture of the library").click()
            page.get_by_role("button", name="lock gates").click()
            expect(player).to_have_attribute("poster", re.compile("/media/"))
            page.get_by_label("Plays again and again").check()
            self.saved(page)
            attrs = self.node().attrs
            self.assertEqual(
                (attrs["caption"], attrs["width"], attrs["place"], attrs["loop"]),
                ("By hand, in four seconds", 360, "centre", True),
            )
            self.assertEqual(attrs["cover"], f"item-{self.gates.pk}")
            # What is offered to the next film is how this one stands; each choice is one step back.
            page.keyboard.press("Control+z")
            sheet.locator("body").press("Control+z")
            # It plays where it stands, and stops when something else is selected.
            page.get_by_role("button", name="Play on the sheet").click()
            expect(page.get_by_role("button", name="Stop")).to_be_visible()
            becomes(player, "(video) => video.currentTime > 0.1")
            sheet.get_by_text("Before.").click()
            expect(player).to_have_js_property("paused", True)
            self.axe(page, "a film on the sheet", but=("heading-order",))

    def test_captions_are_drafted_corrected_by_keys_and_given_to_readers(self):
        item = self.added()
        self.write(self.walks, document(paragraph("Before."), film(item.pk), paragraph("After.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".film").click()
            page.get_by_role("link", name="Write captions").click()
            expect(page.get_by_role("heading", name="Captions of “Through the lock”")).to_be_visible()
            page.get_by_role("button", name="Begin", exact=True).click()
            draft = page.get_by_role("button", name="Draft from plain words")
            expect(draft).to_have_attribute("aria-expanded", "true")
            page.get_by_label("What is said in the film").fill("Piet: Open it slowly. WREN: Now wait here with me.")
            page.get_by_role("button", name="Spread these words").click()
            first = page.get_by_label("Words of cue 1", exact=True)
            expect(first).to_have_value("Open it slowly.")
            number = page.locator("[data-cue]").count()
            # By keys alone from here: split at the caret, undo, join, times, another cue.
            first.focus()
            page.keyboard.press("End")
            for _ in range(7):
                page.keyboard.press("ArrowLeft")
            page.keyboard.press("Control+Enter")
            expect(page.locator("[data-cue]")).to_have_count(number + 1)
            expect(first).to_have_value("Open it")
            page.keyboard.press("Control+z")
            expect(first).to_have_value("Open it slowly.")
            first.focus()
            page.keyboard.press("End")
            page.keyboard.type(" Slower")
            page.keyboard.press("Control+z")
            expect(first).to_have_value("Open it slowly.")
            page.keyboard.press("Control+Shift+z")
            expect(first).to_have_value("Open it slowly. Slower")
            page.keyboard.press("Control+z")
            page.keyboard.press("Control+j")
            expect(page.locator("[data-cue]")).to_have_count(number - 1)
            page.keyboard.press("Control+z")
            page.keyboard.press("Control+ArrowDown")
            expect(page.get_by_label("Words of cue 2", exact=True)).to_be_focused()
            page.keyboard.press("Control+ArrowUp")
            expect(first).to_be_focused()
            film_here = page.locator("video")
            film_here.evaluate("(video) => { video.currentTime = 0.4 }")
            page.keyboard.press("Control+b")
            expect(page.get_by_label("Cue 1 begins")).to_have_value("0:00.4")
            film_here.evaluate("(video) => { video.currentTime = 1.5 }")
            page.keyboard.press("Control+e")
            expect(page.get_by_label("Cue 1 ends")).to_have_value("0:01.5")
            page.get_by_label("Cue 1 ends").fill("nonsense")
            page.keyboard.press("Enter")
            expect(page.get_by_label("Cue 1 ends")).to_have_value("0:01.5")
            page.get_by_label("Cue 1 ends").fill("1,25")
            page.keyboard.press("Enter")
            expect(page.get_by_label("Cue 1 ends")).to_have_value("0:01.25")
            first.focus()
            # So slow that it is not at its end before a busy machine stops it.
            film_here.evaluate("(video) => { video.playbackRate = 0.2 }")
            page.keyboard.press("Control+.")
            becomes(film_here, "(video) => video.currentTime > 0.1")
            page.keyboard.press("Control+.")
            # The film shows the cue as it will stand.
            film_here.evaluate("(video) => { video.currentTime = 1 }")
            expect(film_here).to_have_js_property("paused", True)
            becomes(film_here, ACTIVE, ["Piet: Open it slowly."])
            # What is wrong is told beside its line, with what mends it.
            first.fill("OPEN IT SLOWLY, AND DO NOT LET GO")
            expect(page.locator('[data-cue="0"]').get_by_text("capitals")).to_be_visible()
            page.locator('[data-cue="0"]').get_by_role("button").first.click()
            expect(first).not_to_have_value("OPEN IT SLOWLY, AND DO NOT LET GO")
            page.get_by_label("Checked against the film").check()
            expect(page.get_by_text("Saved · Readers do not have them yet.")).to_be_visible()
            page.get_by_role("button", name="Give these to readers").click()
            expect(page.get_by_text("Saved · Readers have just this.")).to_be_visible()
            self.assertFalse(Captions.objects.get().drafted)
            self.axe(page, "the captions")
            # A window that goes in the middle of a word loses none of it.
            first.fill("Open it. Slowly")
            page.reload()
            expect(first).to_have_value("Open it. Slowly")
            expect(page.get_by_text("it differs from this")).to_be_visible()
            # Words that wait here while somebody else saves are told, not passed over.
            page.context.set_offline(True)
            first.fill("Mine. Slowly")
            expect(page.get_by_text("Kept in this browser")).to_be_visible()
            kept = Captions.objects.get()
            captions.save(kept, self.other, kept.revision, [Cue(0, 1000, "Theirs.")])
            page.context.set_offline(False)
            page.reload()
            expect(page.get_by_text("Somebody else has changed these captions")).to_be_visible()
            expect(first).to_have_value("Mine. Slowly")
            page.get_by_role("button", name="Keep mine").click()
            expect(page.get_by_text("it differs from this")).to_be_visible()
            expect(page.get_by_text("Saved ·")).to_be_visible()
            self.assertEqual(Captions.objects.get().cues[0]["text"], "Mine. Slowly")
            # A second language, from a file that has a fault.
            page.get_by_role("button", name="Another language").click()
            page.get_by_label("Language of the words").fill("cy")
            page.get_by_role("button", name="Begin", exact=True).click()
            expect(page.get_by_role("button", name="Cymraeg")).to_have_attribute("aria-pressed", "true")
            bad = b"WEBVTT\n\n00:01.000 --> 00:00.500\nAgorwch\n"
            page.get_by_label("A file of captions").set_input_files(
                {"name": "cy.vtt", "mimeType": "text/vtt", "buffer": bad}
            )
            expect(page.get_by_text("1 cue came in")).to_be_visible()
            expect(page.get_by_text("this cue ends before it begins")).to_be_visible()
            bomb = b"WEBVTT\n\n" + b"00:00.000 --> 00:01.000\nx\n\n" * 20_001
            page.get_by_label("A file of captions").set_input_files(
                {"name": "b.vtt", "mimeType": "text/vtt", "buffer": bomb}
            )
            expect(page.get_by_text("more than 20,000 cues")).to_be_visible()
            expect(page.get_by_label("Words of cue 1", exact=True)).to_have_value("Agorwch")
            page.get_by_role("button", name="Take these captions away").click()
            page.get_by_role("button", name="Bring them back").click()
            expect(page.get_by_label("Words of cue 1", exact=True)).to_have_value("Agorwch")
            page.get_by_role("link", name="Back to the page").click()
            sheet = page.frame_locator("iframe")
            sheet.locator(".film").click()
            expect(page.get_by_text("Readers have them in: English.")).to_be_visible()
            page.get_by_role("button", name="behind a press").click()
            expect(sheet.locator("details.transcript summary")).to_have_text("Transcript")
            self.saved(page)

    def test_a_cue_is_moved_and_made_longer_on_the_curve(self):
        item = self.added()
        made = self.given(item, (500, 1000, "One."), (2000, 2500, "Two."))
        with self.window() as page:
            page.goto(f"{self.live_server_url}/films/{item.pk}")
            bar = page.locator('[data-part="bar"]').first
            expect(bar).to_be_visible()
            # Where there are cues, a draft of others is not in the way.
            draft = page.get_by_role("button", name="Draft from plain words")
            expect(draft).to_have_attribute("aria-expanded", "false")
            box = bar.bounding_box()
            scale = page.locator('[data-part="curve"]').bounding_box()["width"] / 4000
            page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 10)
            page.mouse.down()
            page.mouse.move(box["x"] + box["width"] / 2 + 200 * scale, box["y"] + 10, steps=4)
            page.mouse.up()
            expect(page.get_by_text("it differs from this")).to_be_visible()
            begin = until(lambda: made.refresh_from_db() or made.cues[0]["begin"], lambda begin: begin != 500)
            self.assertAlmostEqual(begin, 700, delta=12)
            self.assertEqual(made.cues[0]["end"] - made.cues[0]["begin"], 500)
            box = bar.bounding_box()
            page.mouse.move(box["x"] + box["width"] - 3, box["y"] + 10)
            page.mouse.down()
            page.mouse.move(box["x"] + box["width"] - 3 + 300 * scale, box["y"] + 10, steps=4)
            page.mouse.up()
            page.get_by_role("button", name="Undo").click()
            page.get_by_role("button", name="Redo").click()
            lasts = until(
                lambda: made.refresh_from_db() or made.cues[0]["end"] - made.cues[0]["begin"],
                lambda lasts: lasts != 500,
            )
            self.assertAlmostEqual(lasts, 800, delta=12)

    def live(self, *blocks):
        for each in (self.home, self.visit):
            self.put_live(each)
        self.write(self.walks, document(*blocks))
        self.put_live(self.walks)
        return self.address(self.walks)

    def test_readers_play_it_with_captions_at_their_time_and_without_script(self):
        item = self.added()
        self.given(item, (0, 1500, "The gate opens."), (2000, 3900, "Now wait."))
        warden, _ = receive(BytesIO(sound_bytes(2)), self.author, name="A warden.wav")
        tasks.make_a_film()
        address = self.live(
            paragraph("Before."),
            film(item.pk, caption="By hand", transcript="folded"),
            sound(warden.pk, caption="Told"),
        )
        with self.window(user=None) as reader:
            asked = []
            reader.on("request", lambda request: asked.append(request.url))
            reader.goto(address)
            player = reader.locator("video")
            reader.wait_for_load_state("networkidle")
            self.assertEqual([url for url in asked if url.endswith((".mp4", ".webm", ".m4a", ".weba"))], [])
            before = player.bounding_box()
            player.evaluate("(video) => { video.textTracks[0].mode = 'showing'; return video.play() }")
            page_time = "(video) => video.currentTime"
            becomes(player, "(video) => video.currentTime > 0.2")
            one, seen = player.evaluate(page_time), player.evaluate(PICTURE)
            becomes(player, f"(video) => video.currentTime > {one + 0.5}")
            self.assertNotEqual(seen, player.evaluate(PICTURE))
            self.assertEqual(player.bounding_box(), before)
            player.evaluate("(video) => { video.pause(); video.currentTime = 1 }")
            becomes(player, ACTIVE, ["The gate opens."])
            player.evaluate("(video) => { video.currentTime = 2.5 }")
            becomes(player, ACTIVE, ["Now wait."])
            expect(reader.get_by_text("Now wait.")).to_be_hidden()
            reader.locator("summary").press("Enter")
            expect(reader.get_by_text("The gate opens. Now wait.")).to_be_visible()
            heard = reader.locator("audio")
            heard.evaluate("(audio) => audio.play()")
            becomes(heard, "(audio) => audio.currentTime > 0")
            self.axe(reader, "a page with a film")
        with self.window(user=None, java_script_enabled=False) as bare:
            bare.goto(address)
            player = bare.locator("video")
            self.assertTrue(player.evaluate("(video) => video.controls"))
            player.evaluate("(video) => video.play()")
            becomes(player, "(video) => video.currentTime > 0")

    def test_a_film_that_begins_by_itself_is_silent_stops_for_good_and_never_begins_for_who_wants_stillness(self):
        item = self.added()
        address = self.live(paragraph("Before."), film(item.pk, autoplay=True, loop=True))
        with self.window(user=None) as reader:
            reader.goto(address)
            player = reader.locator("video")
            expect(player).to_have_js_property("paused", False)
            self.assertTrue(player.evaluate("(video) => video.muted"))
            player.evaluate("(video) => video.pause()")
            reader.evaluate("scrollTo(0, 0)")
            reader.wait_for_timeout(300)
            self.assertTrue(player.evaluate("(video) => video.paused"))
        with self.window(user=None, reduced_motion="reduce") as calm:
            calm.goto(address)
            calm.wait_for_timeout(600)
            self.assertTrue(calm.locator("video").evaluate("(video) => video.paused"))
        self.assertEqual(Item.objects.get(pk=item.pk).problem, "")
