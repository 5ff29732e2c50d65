"""The media library: its own screen, and what the sheet says of it."""

from playwright.sync_api import expect

from stillpage.library.models import Item

from ..api.base import image_bytes
from ..core.documents import document, paragraph, picture
from .base import BrowserTest


class FromTheSheet(BrowserTest):
    def test_the_particulars_of_a_picture_say_where_else_it_is_used(self):
        self.write(self.walks, document(paragraph("Level."), picture(self.gates.pk)))
        self.write(self.visit, document(picture(self.gates.pk)))
        self.put_live(self.visit)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator("figure img").click()
            uses = page.get_by_role("region", name="Where else it is used")
            expect(uses).to_contain_text("It is used on 1 other page:")
            uses.get_by_role("link", name="Visit").click()
            expect(page.get_by_role("heading", name="Writing “Visit”")).to_be_attached()
            sheet.locator("figure img").click()
            expect(uses).to_contain_text("Towpath walks, Varrow Canal Trust (not for readers yet)")


class TheScreen(BrowserTest):
    def test_items_are_found_described_and_added(self):
        self.write(self.walks, document(picture(self.gates.pk)))
        with self.window() as page:
            page.get_by_role("link", name="Library").click()
            options = page.get_by_role("listbox", name="Items").get_by_role("option")
            expect(options).to_have_count(2)
            self.axe(page, "the library as pictures")
            page.get_by_role("button", name="Without alt text").click()
            expect(options).to_have_text(["reedsno alt text"])
            page.get_by_label("Alt text").fill("Reeds at the water's edge")
            page.get_by_label("Credit").fill("Imre Fenn")
            page.get_by_role("button", name="Keep this").click()
            expect(page.get_by_text("Nothing in the library is like that.")).to_be_visible()
            page.get_by_role("button", name="Everything").click()
            page.get_by_label("Find").fill("imre")
            expect(options).to_have_count(1)
            page.get_by_label("Find").fill("")
            page.get_by_role("button", name="Lines").click()
            expect(options.filter(has_text="lock gates")).to_contain_text("on 1 page")
            self.axe(page, "the library as lines")
            page.get_by_label("Files to add to the library").set_input_files(
                [
                    {"name": "bad.png", "mimeType": "image/png", "buffer": b"no picture"},
                    {"name": "summer.png", "mimeType": "image/png", "buffer": image_bytes((300, 200), "PNG", "#8c4")},
                ]
            )
            expect(options).to_have_count(3)
            expect(page.get_by_role("alert").filter(has_text="no picture that can be read")).to_be_visible()
            expect(page.get_by_role("heading", name="summer")).to_be_visible()
        reeds = Item.objects.get(title="reeds")
        self.assertEqual((reeds.alt, reeds.credit), ("Reeds at the water's edge", "Imre Fenn"))

    def test_arrows_go_through_the_items(self):
        with self.window() as page:
            page.get_by_role("link", name="Library").click()
            items = page.get_by_role("listbox", name="Items")
            items.focus()
            first = page.get_by_role("heading", level=2).inner_text()
            page.keyboard.press("ArrowRight")
            expect(page.get_by_role("heading", level=2)).not_to_have_text(first)
            page.keyboard.press("Home")
            expect(page.get_by_role("heading", level=2)).to_have_text(first)
