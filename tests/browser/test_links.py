"""Links in the real interface: typed addresses, changing, removing, and what the particulars say."""

from django.conf import settings
from playwright.sync_api import expect

from stillpage.pages.models import WorkingCopy
from stillpage_core.document.walking import runs_with

from ..core.documents import document, link, paragraph, words
from .base import BrowserTest


class Links(BrowserTest):
    def links(self):
        runs = runs_with(WorkingCopy.objects.get(page=self.walks).tree, "link")
        return [(run.text, run.mark.attrs["href"]) for run in runs]

    def test_typed_addresses_get_what_they_lack_and_bad_ones_are_not_offered(self):
        # RFC 3986 for the forms of addresses, RFC 6068 for mailto, RFC 3966 for tel.
        expected = {
            "varrow.example": "https://varrow.example",
            "varrow.example:8080/a?b=c#d": "https://varrow.example:8080/a?b=c#d",
            "HTTP://varrow.example/Ä": "http://varrow.example/Ä",
            "office@varrow.example": "mailto:office@varrow.example",
            "0100 555 014": "tel:0100-555-014",
            "https://varrow.example/a b": "https://varrow.example/a%20b",
        }
        with self.window() as page:
            self.open(page, self.walks)
            field = page.locator("#shelf-field")
            field.focus()
            offer = page.get_by_role("option", name="Link to this address")
            for typed, address in expected.items():
                field.fill(typed)
                expect(offer).to_contain_text(address)
            for typed in (
                "javascript:alert(1)",
                "data:text/html,x",
                "just words",
                "a.",
                "https://",
                "ftp://varrow.example",
            ):
                field.fill(typed)
                expect(offer).to_have_count(0)

    def test_selected_words_become_a_link_which_is_changed_and_removed_with_its_words_kept(self):
        self.write(self.walks, document(paragraph("See the walks today.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            text = sheet.locator(".text")
            text.click()
            page.keyboard.press("Home")
            for _ in range(4):
                page.keyboard.press("ArrowRight")
            for _ in range(9):
                page.keyboard.press("Shift+ArrowRight")
            page.keyboard.press("Control+k")
            page.keyboard.type("varrow.example")
            page.keyboard.press("Enter")
            expect(text.locator("a")).to_have_text("the walks")
            self.saved(page)
            self.assertEqual(self.links(), [("the walks", "https://varrow.example")])

            text.locator("a").click()
            expect(page.get_by_role("heading", name="This link")).to_be_visible()
            page.get_by_role("button", name="Lead elsewhere").click()
            page.keyboard.type("visit")
            page.keyboard.press("Enter")
            expect(text.locator("a")).to_have_attribute("href", f"page:{self.visit.pk}")
            self.saved(page)
            self.assertEqual(self.links(), [("the walks", f"page:{self.visit.pk}")])

            text.locator("a").click()
            expect(
                page.get_by_text("Readers see the words without a link until that page is published.")
            ).to_be_visible()
            page.get_by_role("button", name="Remove the link, keep the words").click()
            expect(text.locator("a")).to_have_count(0)
            expect(text).to_have_text("See the walks today.")
            self.saved(page)
            self.assertEqual(self.links(), [])

    def test_a_link_on_the_sheet_does_not_lead_away_while_writing(self):
        self.write(self.walks, document(paragraph(words("the walks", link("https://varrow.example/")))))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            for place in (sheet.locator(".text a"), sheet.locator(".site-name"), sheet.locator(".trail a").first):
                if place.count():
                    place.click()
            page.wait_for_timeout(300)
            expect(sheet.locator("h1")).to_have_text("Towpath walks")
            self.assertIn(f"/pages/{self.walks.pk}", page.url)

    def test_escape_goes_from_the_shelf_back_to_the_text_with_the_caret_unmoved(self):
        self.write(self.walks, document(paragraph("Before after.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            page.keyboard.press("Home")
            for _ in range(7):
                page.keyboard.press("ArrowRight")
            page.keyboard.press("Alt+Shift+KeyS")
            page.keyboard.type("nothing like this")
            expect(page.get_by_text("Nothing holds the words “nothing like this”.")).to_be_visible()
            page.keyboard.press("Escape")
            page.keyboard.type("and ")
            expect(sheet.locator(".text")).to_have_text("Before and after.")


class Keys(BrowserTest):
    def test_every_key_stands_on_one_panel_that_a_key_opens(self):
        source = (settings.ROOT / "web/src/editor/keys.ts").read_text()
        with self.window() as page:
            self.open(page, self.walks)
            page.keyboard.press("Alt+Shift+KeyK")
            panel = page.get_by_role("complementary", name="Shelf")
            for shown in ("Ctrl+B", "Ctrl+K", "Alt+Shift+2", "Alt+Shift+6", "Tab", "Alt+Up, Alt+Down", "Escape"):
                expect(panel.get_by_text(shown, exact=True)).to_be_visible()
            self.assertGreaterEqual(panel.locator("dt").count(), source.count('keys: "'))
            page.keyboard.press("Escape")
            expect(panel.locator("dt")).to_have_count(0)
