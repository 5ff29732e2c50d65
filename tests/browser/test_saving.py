"""Nothing is lost: the server away, a closed window, an expired sign-in."""

import re

from django.conf import settings
from playwright.sync_api import expect

from stillpage.written.models import WorkingCopy
from stillpage_core.document.walking import text_of

from ..api.base import image_bytes
from ..core.documents import document, paragraph
from .base import BrowserTest


class Saving(BrowserTest):
    def words(self):
        return text_of(WorkingCopy.objects.get(written=self.walks).tree)

    def test_writing_goes_on_while_the_server_is_away_and_is_saved_when_it_returns(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.route("**/api/**", lambda route: route.abort())
            self.type_at_end(page, sheet, " On the boat.")
            expect(page.locator("[data-save]")).to_contain_text("The server cannot be reached")
            page.keyboard.type(" Still writing.")
            self.assertEqual(self.words(), "Begun.")
            page.unroute("**/api/**")
            self.saved(page)
            self.assertEqual(self.words(), "Begun. On the boat. Still writing.")

    def test_a_stopped_database_is_told_and_the_text_is_saved_when_it_is_back(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            outage = '{"type":"x","title":"x","status":503,"detail":"The database cannot be reached at the moment."}'
            page.route(
                "**/working-copy",
                lambda route: route.fulfill(status=503, body=outage, content_type="application/problem+json"),
            )
            self.type_at_end(page, sheet, " More.")
            expect(page.locator("[data-save]")).to_contain_text("your text is kept here")
            page.unroute("**/working-copy")
            self.saved(page)
            self.assertEqual(self.words(), "Begun. More.")

    def test_a_window_closed_before_saving_has_its_text_when_opened_again(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.route("**/api/**", lambda route: route.abort())
            self.type_at_end(page, sheet, " Kept here.")
            again = page.context.new_page()
            again.on("dialog", lambda dialog: dialog.accept())
            page.close()
            again.goto(f"{self.live_server_url}/pages/{self.walks.pk}")
            expect(again.frame_locator("iframe").locator(".text")).to_have_text("Begun. Kept here.")
            expect(again.locator("[data-save]")).to_have_attribute("data-save", "saved")
            self.assertEqual(self.words(), "Begun. Kept here.")

    def test_an_expired_sign_in_loses_nothing(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            cookies = page.context.cookies()
            page.context.clear_cookies(name=settings.SESSION_COOKIE_NAME)
            self.type_at_end(page, sheet, " Signed out.")
            expect(page.locator("[data-save]")).to_contain_text("You are signed out")
            page.context.add_cookies(cookies)
            self.saved(page)
            self.assertEqual(self.words(), "Begun. Signed out.")

    def test_a_part_that_breaks_or_does_not_arrive_keeps_the_words(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.route("**/working-copy", lambda route: route.abort())
            page.route(
                "**/versions", lambda route: route.fulfill(body='{"versions": 1}', content_type="application/json")
            )
            self.type_at_end(page, sheet, " Not yet saved.")
            page.get_by_role("button", name="Versions", exact=False).first.click()
            expect(page.get_by_role("alert")).to_contain_text("Something in Still Page broke")
            expect(page.get_by_role("button", name="Open it anew")).to_be_focused()
            page.unroute("**/working-copy")
            page.unroute("**/versions")
            page.keyboard.press("Enter")
            expect(page.frame_locator("iframe").locator(".text")).to_have_text("Begun. Not yet saved.")
            self.saved(page)
            self.assertEqual(self.words(), "Begun. Not yet saved.")
            page.route("**/Library-*.js", lambda route: route.abort())
            page.get_by_role("link", name="Library", exact=True).click()
            expect(page.get_by_role("alert")).to_contain_text("A part of Still Page did not arrive")
            page.unroute("**/Library-*.js")
            page.get_by_role("button", name="Open it anew").click()
            expect(page.get_by_role("heading", name="Library")).to_be_visible()
            self.assertIn("is not a function", self.problems[0])  # The faults that were made, and no other.
            self.assertTrue(all("Library-" in each for each in self.problems if "not a function" not in each))
            self.problems.clear()


class Bringing(BrowserTest):
    def test_files_that_cannot_be_used_say_why_and_the_good_one_comes_in(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.get_by_label("Bring in or do").click()
            files = [
                {"name": "notes.zip", "mimeType": "application/zip", "buffer": b"PK"},
                {
                    "name": "bad.svg",
                    "mimeType": "image/svg+xml",
                    "buffer": b"<svg xmlns='http://www.w3.org/2000/svg'><script>1</script></svg>",
                },
                {"name": "good.png", "mimeType": "image/png", "buffer": image_bytes((200, 100), "PNG", "#123")},
            ]
            page.get_by_label("Files from this computer").set_input_files(files)
            expect(page.get_by_role("list", name="Files being added").get_by_role("alert")).to_have_count(2)
            expect(page.get_by_text("holds a script")).to_be_visible()
            expect(sheet.locator("figure")).to_have_count(1)

    def test_a_picture_dropped_on_the_sheet_comes_in_where_it_was_dropped(self):
        self.write(self.walks, document(paragraph("First."), paragraph("Second.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            data = sheet.locator("body").evaluate_handle(
                """(body, bytes) => {
                  const data = new body.ownerDocument.defaultView.DataTransfer()
                  data.items.add(new File([new Uint8Array(bytes)], 'dropped.png', { type: 'image/png' }))
                  return data
                }""",
                list(image_bytes((200, 100), "PNG", "#321")),
            )
            second = sheet.locator(".text p").nth(1)
            box = second.evaluate("p => { const b = p.getBoundingClientRect(); return [b.x, b.y, b.width, b.height] }")
            at = {"clientX": box[0] + 60, "clientY": box[1] + box[3] / 2, "dataTransfer": data}
            second.dispatch_event("drop", at)
            expect(sheet.locator("figure img")).to_have_attribute("src", re.compile("^/media/"))
            self.assertEqual(
                sheet.locator(".text").evaluate("text => [...text.children].map((each) => each.tagName)"),
                ["P", "P", "FIGURE"],
            )

    def test_ordinary_text_is_pasted_with_its_paragraphs_and_marks(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            text = sheet.locator(".regions")
            text.click()
            html = "<h1>Big</h1><p style='color:red'>One <b>two</b> <a href='javascript:x'>three</a></p><p>Four</p>"
            text.evaluate(
                """(text, html) => {
                  const data = new DataTransfer()
                  data.setData('text/html', html)
                  const options = { clipboardData: data, bubbles: true, cancelable: true }
                  text.dispatchEvent(new ClipboardEvent('paste', options))
                }""",
                html,
            )
            expect(text.locator("p")).to_have_text(["One two three", "Four"])
            self.assertEqual(text.locator("h2").inner_text(), "Big")
            self.assertEqual(text.locator("strong").inner_text(), "two")
            self.assertEqual(text.locator("a").count(), 0)
            self.saved(page)
            # The browser tells that the policy kept the foreign style out; nothing else may have gone wrong.
            self.problems = [each for each in self.problems if "Applying inline style" not in each]

    def test_undo_goes_back_to_the_start_through_text_pictures_settings_and_title(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text p").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.press("Enter")
            page.keyboard.press("Control+Enter")
            page.keyboard.type("gates")
            page.keyboard.press("Enter")
            page.get_by_label("Alt text").fill("Other words")
            page.get_by_text("Decorative:").click()
            sheet.locator("h1").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.type(" in winter")
            expect(sheet.locator("h1")).to_have_text("Towpath walks in winter")
            undo = page.get_by_role("button", name="Undo")
            for _ in range(12):
                if undo.is_enabled():
                    undo.click()
            expect(undo).to_be_disabled()
            expect(sheet.locator("h1")).to_have_text("Towpath walks")
            expect(sheet.locator(".text")).to_have_text("Begun.")
            expect(sheet.locator("figure")).to_have_count(0)
