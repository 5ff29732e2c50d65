"""Sound and film recorded in the browser, with a microphone and a camera that Chromium plays itself."""

from playwright.sync_api import expect

from stillpage.library import films
from stillpage.library.models import Item

from ..core.documents import document, paragraph
from .base import BrowserTest
from .waiting import becomes


class Recording(BrowserTest):
    def newest(self):
        item = Item.objects.order_by("-pk").first()
        films.make_film(item.pk)
        item.refresh_from_db()
        return item

    def test_a_sound_is_recorded_heard_again_kept_and_added(self):
        with self.window(permissions=("microphone",)) as page:
            page.goto(f"{self.live_server_url}/library")
            page.get_by_role("button", name="Record sound or film").click()
            page.get_by_role("button", name="Record sound", exact=True).click()
            expect(page.get_by_text("Recording", exact=True)).to_be_visible()
            meter = page.get_by_role("meter", name="How loud it is")
            expect(meter).not_to_have_attribute("aria-valuenow", "0")
            self.axe(page, "a recording that is being made")
            page.get_by_role("button", name="Pause").click()
            expect(page.get_by_text("Paused")).to_be_visible()
            page.get_by_role("button", name="Go on").click()
            page.wait_for_timeout(1500)
            page.get_by_role("button", name="Stop recording").click()
            taken = page.get_by_role("region", name="Recording of")
            expect(taken.locator("audio")).to_be_visible()
            taken.locator("audio").evaluate("(audio) => audio.play()")
            becomes(taken.locator("audio"), "(audio) => audio.currentTime > 0")
            # Taken once more: the first may be had back for as long as one looks at it.
            taken.get_by_role("button", name="Let it go").click()
            page.get_by_role("button", name="Take it back").click()
            # A window that is closed in the middle of another recording loses neither.
            page.get_by_role("button", name="Record sound", exact=True).click()
            expect(page.get_by_text("Recording", exact=True)).to_be_visible()
            page.wait_for_timeout(2600)
            page.reload()
            page.get_by_role("button", name="Record sound or film").click()
            expect(page.get_by_role("region", name="Recording of")).to_have_count(2)
            first = page.get_by_role("region", name="Recording of").last
            first.get_by_label("Title").fill("A warden on her round")
            first.get_by_role("button", name="Add to the library").click()
            expect(page.get_by_role("option", name="A warden on her round")).to_be_visible()
            expect(page.get_by_role("region", name="Recording of")).to_have_count(1)
            page.get_by_role("region", name="Recording of").get_by_role("button", name="Let it go").click()
            page.reload()
            page.get_by_role("button", name="Record sound or film").click()
            expect(page.get_by_role("button", name="Record sound", exact=True)).to_be_visible()
            expect(page.get_by_role("region", name="Recording of")).to_have_count(0)
        item = self.newest()
        self.assertEqual((item.kind, item.title, item.problem), ("sound", "A warden on her round", ""))
        self.assertGreater(item.lasts, 1400)

    def test_a_film_is_recorded_where_it_is_wanted(self):
        self.write(self.walks, document(paragraph("Before."), paragraph("After.")))
        with self.window(permissions=("microphone", "camera")) as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Before.").click()
            page.keyboard.press("Control+Enter")
            page.get_by_role("button", name="Record sound or film").click()
            page.get_by_role("button", name="Record film", exact=True).click()
            expect(page.get_by_label("What the camera sees")).to_be_visible()
            page.wait_for_timeout(1800)
            page.get_by_role("button", name="Stop recording").click()
            page.get_by_role("button", name="Add to the library").click()
            expect(sheet.locator(".film")).to_contain_text("is being made ready")
            item = self.newest()
            self.assertEqual((item.kind, item.problem), ("film", ""))
            expect(sheet.locator(".film video")).to_be_visible()

    def test_where_nothing_may_be_heard_the_way_out_is_told(self):
        with self.window() as page:
            page.goto(f"{self.live_server_url}/library")
            page.get_by_role("button", name="Record sound or film").click()
            page.get_by_role("button", name="Record sound", exact=True).click()
            expect(page.get_by_text("may not use the microphone. Allow it beside the address")).to_be_visible()
