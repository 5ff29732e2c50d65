"""The media library, as far as it is seen from the sheet."""

from playwright.sync_api import expect

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
