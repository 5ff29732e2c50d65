"""Lists of downloads in the real interface: from the library in one act, worded and put in order by keyboard."""

from django.core.files.uploadedfile import SimpleUploadedFile
from playwright.sync_api import expect

from stillpage.library.receiving import receive

from ..api.test_downloads import pdf
from ..core.documents import document, paragraph
from .base import BrowserTest


class Downloads(BrowserTest):
    def setUp(self):
        super().setUp()
        for number, name in enumerate(("January", "March", "May")):
            receive(SimpleUploadedFile(f"Minutes of {name}.pdf", pdf(number + 1)), self.author)

    def test_from_the_library_to_the_reader(self):
        self.write(self.walks, document(paragraph("Before."), paragraph("After.")))
        for each in (self.home, self.visit):
            self.put_live(each)
        with self.window() as page:
            page.goto(f"{self.live_server_url}/library")
            page.get_by_role("option", name="Minutes of May").click()
            expect(page.get_by_role("heading", name="Minutes of May")).to_be_visible()
            page.keyboard.press("Control+a")
            page.get_by_role("button", name="Take them along to a page").click()
            expect(page.get_by_text("its Shelf offers documents among them")).to_be_visible()
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Before.").click()
            self.settled(page)
            page.keyboard.press("Control+Enter")
            expect(page.get_by_text("5 items: a list of downloads")).to_be_visible()
            page.keyboard.press("Enter")
            entries = sheet.locator(".downloads li")
            # The two pictures among them are no documents.
            expect(entries).to_have_count(3)
            sheet.locator(".downloads").click()
            page.get_by_label("Title", exact=True).fill("Minutes of the trustees")
            page.get_by_label("Description of document 1").fill("What was said & settled.")
            page.get_by_label("Words of document 1").fill("The latest")
            page.get_by_label("Words of document 1").press("Alt+ArrowDown")
            expect(entries.nth(1)).to_contain_text("The latest (PDF, ")
            # Another one by its name; and one that is taken out and comes back by undo.
            page.get_by_label("Find a document for the list").fill("march")
            page.get_by_role("button", name="Put into the list: Minutes of March").click()
            expect(entries).to_have_count(4)
            page.get_by_role("button", name="Take document 3 out").click()
            expect(entries).to_have_count(3)
            page.get_by_role("button", name="undo").first.click()
            expect(entries).to_have_count(4)
            sheet.locator(".downloads").click()
            page.get_by_label("Each opens in a window of its own").check()
            expect(entries.first.locator("a")).to_have_attribute("target", "_blank")
            self.saved(page)
            self.axe(page, "a list of downloads", only="label")
        self.put_live(self.walks)
        with self.window(390, 800, user=None, java_script_enabled=False) as reader:
            reader.goto(self.address(self.walks))
            held = reader.get_by_role("list", name="Minutes of the trustees")
            expect(held.get_by_role("listitem")).to_have_count(4)
            expect(held.get_by_role("link", name="The latest (PDF, ")).to_be_visible()
            expect(held).to_contain_text("(opens in a new window)")
            self.assertEqual(reader.evaluate("document.documentElement.scrollWidth"), 390)
