"""The way back in the real interface: versions, a conflict part by part, and a browser that is killed while writing."""

import os
import signal
import tempfile
import time
from contextlib import suppress
from pathlib import Path

from playwright.sync_api import Error, expect

from stillpage.written.models import WorkingCopy
from stillpage_core.document.walking import text_of

from .. import chromium
from ..core.documents import document, paragraph
from .base import BrowserTest


class WayBack(BrowserTest):
    def words(self):
        return text_of(WorkingCopy.objects.get(written=self.walks).tree)

    def test_a_version_is_kept_by_name_read_put_back_and_that_undone(self):
        self.write(self.walks, document(paragraph("As it was.")), title="Walks")
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text p").click()
            self.do(page, "versions")
            expect(page.get_by_text("None yet.")).to_be_visible()
            page.get_by_label("Save the text as it is now").fill("Before the rewrite")
            page.keyboard.press("Enter")
            versions = page.get_by_role("list", name="Versions, the newest first").get_by_role("listitem")
            expect(versions).to_have_count(1)
            expect(versions.first).to_contain_text("Before the rewrite")
            self.axe(page, "versions")
            sheet.locator(".text p").click(click_count=3)
            page.keyboard.type("As it is now.")
            self.saved(page)
            page.get_by_role("button", name="Read", exact=True).click()
            version = page.frame_locator('iframe[title="The version"]')
            expect(version.locator(".text")).to_have_text("As it was.")
            expect(page.get_by_text("You are reading this version: “Before the rewrite”")).to_be_visible()
            page.get_by_role("button", name="Back to my text").click()
            self.do(page, "versions")
            page.get_by_role("button", name="Restore").click()
            expect(sheet.locator(".text")).to_have_text("As it was.")
            page.get_by_role("button", name="Undo").click()
            expect(sheet.locator(".text")).to_have_text("As it is now.")
            self.saved(page)
            self.assertEqual(self.words(), "As it is now.")

    def test_back_to_the_live_copy_and_to_how_it_was_found(self):
        self.write(self.walks, document(paragraph("Live.")))
        self.put_live(self.walks)
        self.write(self.walks, document(paragraph("Found.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.type_at_end(page, sheet, " More.")
            self.saved(page)
            self.do(page, "versions")
            expect(page.get_by_role("listitem").filter(has_text="Published")).to_have_count(1)
            page.get_by_role("button", name="Back to the live copy").click()
            expect(sheet.locator(".text")).to_have_text("Live.")
            expect(page.locator("[data-save]")).to_contain_text("readers see just this")
            page.get_by_role("button", name="Back to how you found it").click()
            expect(sheet.locator(".text")).to_have_text("Found.")
            for words in ("Live.", "Found. More."):
                page.get_by_role("button", name="Undo").click()
                expect(sheet.locator(".text")).to_have_text(words)

    def test_back_to_the_last_save_while_the_server_is_away(self):
        self.write(self.walks, document(paragraph("Saved.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.route("**/working-copy", lambda route: route.abort())
            self.type_at_end(page, sheet, " Not saved.")
            expect(page.locator("[data-save]")).to_have_attribute("data-save", "away")
            self.do(page, "versions")
            page.get_by_role("button", name="Back to the last save").click()
            expect(sheet.locator(".text")).to_have_text("Saved.")
            page.get_by_role("button", name="Undo").click()
            expect(sheet.locator(".text")).to_have_text("Saved. Not saved.")


class Windows(BrowserTest):
    """The journals of several windows over the same page."""

    def test_a_second_window_does_not_take_what_the_first_is_still_writing(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.route("**/working-copy", lambda route: route.abort())
            self.type_at_end(page, sheet, " In the first.")
            second = page.context.new_page()
            second.goto(f"{self.live_server_url}/pages/{self.walks.pk}")
            other = second.frame_locator("iframe").locator(".text")
            expect(other).to_have_text("Begun.")
            second.close()
            expect(sheet.locator(".text")).to_have_text("Begun. In the first.")
            page.unroute("**/working-copy")
            self.saved(page)
        self.assertEqual(text_of(WorkingCopy.objects.get(written=self.walks).tree), "Begun. In the first.")

    def test_what_is_undone_after_a_return_is_only_what_is_done_then(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.route("**/working-copy", lambda route: route.abort())
            self.type_at_end(page, sheet, " Left behind.")
            page.on("dialog", lambda dialog: dialog.accept())
            page.unroute("**/working-copy")
            self.come_back(page)
            text = page.frame_locator("iframe").locator(".text")
            expect(text).to_have_text("Begun. Left behind.")
            self.saved(page)
            expect(page.get_by_role("button", name="Undo")).to_be_disabled()
            # Nothing is left to be found a second time.
            page.reload()
            expect(text).to_have_text("Begun. Left behind.")
            self.assertEqual(WorkingCopy.objects.get(written=self.walks).revision, 3)

    def test_words_written_on_after_a_return_are_there_on_the_next(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            page.on("dialog", lambda dialog: dialog.accept())
            page.route("**/working-copy", lambda route: route.abort())
            sheet = self.open(page, self.walks)
            so_far = "Begun."
            for words in (" One.", " Two.", " Three."):
                self.type_at_end(page, sheet, words)
                so_far += words
                self.come_back(page)
                expect(sheet.locator(".text")).to_have_text(so_far)
            page.unroute("**/working-copy")
            self.saved(page)
        self.assertEqual(text_of(WorkingCopy.objects.get(written=self.walks).tree), "Begun. One. Two. Three.")


class Killed(BrowserTest):
    """A browser of its own with a profile on disk, killed with all its processes, as by a crash."""

    def begun(self, profile):
        context = chromium.playwright().chromium.launch_persistent_context(
            profile,
            executable_path=chromium.EXECUTABLE,
            args=chromium.ARGUMENTS,
            viewport={"width": 1280, "height": 800},
        )
        context.add_cookies([self.session_of("wren")])  # Killed, a browser has no time to write its own.
        return context, context.pages[0]

    def test_words_typed_fifty_milliseconds_before_the_browser_is_killed_are_there_on_return(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with tempfile.TemporaryDirectory() as profile:
            _, page = self.begun(profile)
            sheet = self.open(page, self.walks)
            # What is saved by itself comes too late here; only the journal can know the words.
            page.route("**/working-copy", lambda route: route.abort())
            self.type_at_end(page, sheet, " Not lost")
            page.keyboard.press("!")
            # Fifty milliseconds of the page's own: on a machine that does much else the keys come to it later.
            page.evaluate("new Promise((done) => setTimeout(done, 50))")
            kill(profile)
            with self.assertRaises(Error):  # The browser is gone; Playwright notices a moment later.
                for _ in range(100):
                    page.title()
                    time.sleep(0.05)
            self.assertEqual(text_of(WorkingCopy.objects.get(written=self.walks).tree), "Begun.")

            again, page = self.begun(profile)
            page.goto(f"{self.live_server_url}/pages/{self.walks.pk}")
            expect(page.frame_locator("iframe").locator(".text")).to_have_text("Begun. Not lost!")
            expect(page.locator("[data-save]")).to_contain_text("the words left unsaved here are back")
            self.saved(page)
            self.assertEqual(text_of(WorkingCopy.objects.get(written=self.walks).tree), "Begun. Not lost!")
            page.reload()
            expect(page.frame_locator("iframe").locator(".text")).to_have_text("Begun. Not lost!")
            again.close()


def kill(profile):
    """Kill every process of the browser with this profile, without a chance to write anything."""
    for folder in Path("/proc").glob("[0-9]*"):
        with suppress(OSError):
            if f"--user-data-dir={profile}".encode() in (folder / "cmdline").read_bytes():
                os.kill(int(folder.name), signal.SIGKILL)
