"""Links in the real interface: typed addresses, changing, removing, and what the particulars say."""

from playwright.sync_api import expect

from stillpage.written.models import WorkingCopy
from stillpage_core.document.walking import runs_with

from ..core.documents import document, heading, link, paragraph, words
from .base import BrowserTest


class Links(BrowserTest):
    def links(self):
        runs = runs_with(WorkingCopy.objects.get(written=self.walks).tree, "link")
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
            text = sheet.locator(".regions")
            text.click()
            self.settled(page)
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
            page.get_by_role("button", name="Change the destination").click()
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
            self.settled(page)
            page.keyboard.press("Home")
            for _ in range(7):
                page.keyboard.press("ArrowRight")
            page.keyboard.press("Control+Enter")
            page.keyboard.type("nothing like this")
            expect(page.get_by_text("Nothing holds the words “nothing like this”.")).to_be_visible()
            page.keyboard.press("Escape")
            page.keyboard.type("and ")
            expect(sheet.locator(".text")).to_have_text("Before and after.")


class Destinations(BrowserTest):
    """Where a link may lead: documents, headings, what was linked to lately, and the tree."""

    def setUp(self):
        super().setUp()
        self.write(self.walks, document(paragraph("Read this here today."), heading(2, "Short walks"), paragraph("x")))

    def links(self):
        runs = runs_with(WorkingCopy.objects.get(written=self.walks).tree, "link")
        return [(run.text, run.mark.attrs["href"]) for run in runs]

    def select(self, page, sheet, words):
        """Select words of the first paragraph by keyboard."""
        sheet.locator(".text").click()
        self.settled(page)
        page.keyboard.press("Control+Home")
        text = sheet.locator(".text p").first.inner_text()
        for _ in range(text.index(words)):
            page.keyboard.press("ArrowRight")
        for _ in words:
            page.keyboard.press("Shift+ArrowRight")

    def test_a_heading_of_this_page_is_linked_to_and_the_link_holds_when_it_is_renamed(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.select(page, sheet, "Read this")
            page.keyboard.press("Control+k")
            page.keyboard.type("short")
            expect(page.get_by_role("option", name="Short walks")).to_contain_text("on this page")
            page.keyboard.press("Enter")
            expect(sheet.locator(".text a")).to_have_text("Read this")
            sheet.locator("h2").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.type(" and long ones")
            self.saved(page)
            self.assertEqual(self.links(), [("Read this", "#short-walks")])
            expect(page.get_by_role("tab", name="Notes", exact=True)).to_be_visible()
        self.put_live(self.walks)
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            reader.get_by_role("link", name="Read this").click()
            expect(reader.locator("h2:target")).to_have_text("Short walks and long ones")

    def test_a_heading_of_another_page_is_chosen_by_keys_and_a_lost_one_is_told_at_once(self):
        self.write(self.visit, document(heading(2, "By train"), paragraph("x"), heading(2, "By bus")))
        self.put_live(self.visit)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.select(page, sheet, "Read this")
            page.keyboard.press("Control+k")
            page.keyboard.type("visit")
            expect(page.get_by_role("option").first).to_contain_text("Visit")
            page.keyboard.press("ArrowRight")
            expect(page.get_by_label("Link to a heading of “Visit”")).to_be_visible()
            expect(page.get_by_role("option")).to_have_count(3)
            page.keyboard.type("bus")
            expect(page.get_by_role("option")).to_have_text(["By busheading of level 2"])
            self.axe(page, "the headings of a page in the Shelf")
            page.keyboard.press("Enter")
            self.saved(page)
            self.assertEqual(self.links(), [("Read this", f"page:{self.visit.pk}#by-bus")])
            self.write(self.visit, document(heading(2, "By train")))
            self.put_live(self.visit)
            page.reload()
            page.get_by_role("tab", name="Notes (1)").click()
            expect(page.get_by_role("tabpanel")).to_contain_text("a heading of “Visit” that is no longer there")

    def test_a_document_comes_in_from_disk_and_is_linked_to_with_its_kind_and_size_and_may_open_a_window(self):
        pdf = b"%PDF-1.7\n" + b"0" * 3000 + b"\n%%EOF\n"
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text p").last.click()
            page.get_by_label("Bring in or do").click()
            page.get_by_label("Files from this computer").set_input_files(
                {"name": "boat-licence_form.pdf", "mimeType": "application/pdf", "buffer": pdf}
            )
            link = sheet.locator(".text a")
            expect(link).to_have_text("boat licence form (PDF, 3 kB)")
            link.click()
            expect(page.get_by_text("PDF, 3 kB, in the media library")).to_be_visible()
            page.get_by_label("Opens a new window; readers are told so").check()
            page.get_by_label("Link title").fill("The form to fill in")
            self.axe(page, "the particulars of a link")
            self.saved(page)
        self.put_live(self.walks)
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            found = reader.get_by_role("link", name="boat licence form (PDF, 3 kB) (opens in a new window)")
            expect(found).to_have_attribute("title", "The form to fill in")
            answer = self.client.get(found.get_attribute("href"), headers={"host": "canal.localhost"})
            self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "application/pdf"))
            self.assertEqual(b"".join(answer.streaming_content), pdf)

    def test_what_was_linked_to_lately_comes_first_and_the_tree_opens_in_the_same_place(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.select(page, sheet, "Read this")
            page.keyboard.press("Control+k")
            page.get_by_role("button", name="Open the tree").click()
            expect(page.get_by_role("option")).to_have_count(3)
            expect(page.get_by_label("Link to")).to_be_focused()
            page.keyboard.press("ArrowDown")
            page.keyboard.press("Enter")
            self.saved(page)
            self.assertEqual(self.links(), [("Read this", f"page:{self.visit.pk}")])
            self.select(page, sheet, "today")
            page.keyboard.press("Control+k")
            expect(page.get_by_role("option").first).to_contain_text("linked to lately")
            page.keyboard.press("Enter")
            expect(sheet.locator(".text a")).to_have_text(["Read this", "today"])

    def test_vague_words_are_judged_while_the_link_is_made_and_the_title_is_proposed(self):
        self.put_live(self.visit)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.select(page, sheet, "here")
            page.keyboard.press("Control+k")
            expect(page.get_by_text("The words: “here”")).to_be_visible()
            page.keyboard.type("visit")
            expect(page.get_by_text("This link says only “here”.")).to_be_visible()
            expect(sheet.locator(".text a")).to_have_count(0)
            page.get_by_role("button", name="Let it say “Visit”").click()
            expect(sheet.locator(".text p").first).to_have_text("Read this Visit today.")
            expect(sheet.locator(".text a")).to_have_text("Visit")
            self.saved(page)
            self.assertEqual(self.links(), [("Visit", f"page:{self.visit.pk}")])
            # The same words to another place are told where the link stands, too.
            self.select(page, sheet, "today")
            page.keyboard.press("Control+k")
            page.keyboard.type("varrow.example")
            page.keyboard.press("Enter")
            sheet.locator(".text a").last.click()
            page.get_by_role("button", name="Copy the address").click()
            expect(page.get_by_text("varrow.example").last).to_be_visible()


class Keys(BrowserTest):
    def test_every_key_stands_on_one_panel_that_a_key_opens(self):
        with self.window() as page:
            self.open(page, self.walks)
            self.do(page, "keys")
            panel = page.get_by_role("complementary", name="Shelf")
            for shown in ("Ctrl+B", "Ctrl+K", "Ctrl+Enter", "F6", "Tab", "Ctrl and arrows", "Escape"):
                expect(panel.get_by_text(shown, exact=True)).to_be_visible()
            # Another key for an act, one that is taken, one that types a sign; then none.
            panel.get_by_role("button", name="Link: Ctrl+K. Change").click()
            field = panel.get_by_label("New keys for: Link")
            expect(field).to_be_focused()
            page.keyboard.press("Control+t")
            expect(panel.get_by_text("Ctrl+T belongs to the browser or to writing.", exact=False)).to_be_visible()
            page.keyboard.press("Control+b")
            expect(panel.get_by_text("They do “Strong” now, which would have none.")).to_be_visible()
            page.keyboard.press("Alt+Shift+s")
            expect(panel.get_by_text("These keys type a sign on some keyboards.", exact=False)).to_be_visible()
            page.keyboard.press("F9")
            panel.get_by_role("button", name="Keep").click()
            page.keyboard.press("Escape")
            expect(panel.locator("dt")).to_have_count(0)
            page.keyboard.press("F9")
            expect(page.get_by_label("Link to")).to_be_focused()
            page.reload()
            expect(page.frame_locator("iframe").locator(".regions[contenteditable]")).to_be_focused()
            page.keyboard.press("Control+k")
            expect(page.get_by_label("Link to")).to_have_count(0)
            page.keyboard.press("F9")
            expect(page.get_by_label("Link to")).to_be_focused()
