"""The page check in the interface: notes and their repairs, what is right as it is, help, and what a site asks for."""

from playwright.sync_api import expect

from stillpage.pages.models import Page as SitePage
from stillpage.people.models import Role
from stillpage.written.models import Allowance
from stillpage_core.document.walking import text_of

from ..api.base import a_person
from ..core.documents import document, heading, link, paragraph, words
from .base import BrowserTest, DemoTest
from .waiting import becomes


class NotesTest(BrowserTest):
    def notes(self, page):
        self.do(page, "notes")
        return page.get_by_role("tabpanel").locator("> ol > li")

    def counted(self, page, number):
        name = f"Notes ({number})" if number else "Notes"
        expect(page.get_by_role("tab", name=name, exact=True)).to_be_visible()


class Notes(NotesTest):
    def test_a_repair_shows_what_it_leaves_is_one_step_of_undo_and_the_note_goes(self):
        self.write(self.walks, document(paragraph("Shut the the gate."), paragraph("W e l c o m e to the lock.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.counted(page, 2)
            self.notes(page)
            # One key goes to the next note, and from the last to the first.
            for _ in range(3):
                page.keyboard.press("F8")
            panel = page.get_by_role("tabpanel")
            expect(panel.get_by_label("Will say")).to_have_text("Shut the gate.")
            becomes(sheet.locator("body"), "() => getSelection().toString()", "the the")
            expect(sheet.locator(".has-finding.is-shown-finding")).to_have_text("the the")
            panel.get_by_role("button", name="Leave one “the”").click()
            expect(sheet.locator(".text > p").first).to_have_text("Shut the gate.")
            expect(panel.get_by_role("status")).to_contain_text("Undo takes it back")
            self.counted(page, 1)
            page.get_by_role("button", name="Undo").click()
            expect(sheet.locator(".text > p").first).to_have_text("Shut the the gate.")
            self.counted(page, 2)

    def test_all_of_a_sort_are_mended_in_one_step(self):
        self.write(self.walks, document(*(paragraph(f"Lock {each}    closed") for each in range(4, 9))))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.counted(page, 5)
            self.notes(page)
            panel = page.get_by_role("tabpanel")
            panel.get_by_role("button", name="4 spaces stand in a row here.").first.click()
            panel.get_by_role("button", name="Mend all 5 of this sort").click()
            self.counted(page, 0)
            expect(sheet.locator(".text")).to_contain_text("Lock 8 closed")
            page.get_by_role("button", name="Undo").click()
            self.counted(page, 5)

    def test_a_repair_does_nothing_where_the_text_is_no_longer_what_was_checked(self):
        self.write(self.walks, document(paragraph("- gloves"), paragraph("- boots"), paragraph("The end.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.counted(page, 1)
            self.notes(page)
            # The next check is kept waiting, so the notes are those of the text before.
            page.route("**/check", lambda route: route.abort())
            sheet.locator(".text > p").nth(1).click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.type(", dry ones")
            page.get_by_role("tabpanel").get_by_role("button", name="Make it a list").click()
            expect(page.get_by_role("tabpanel").get_by_role("status")).to_contain_text("has changed there")
            expect(sheet.locator(".text > p").nth(1)).to_have_text("- boots, dry ones")
            page.unroute("**/check")
            self.do(page, "outline")
            with page.expect_response("**/check"):
                self.type_at_end(page, sheet, " It is.")
            self.do(page, "notes")
            page.get_by_role("tabpanel").get_by_role("button", name="Make it a list").click()
            expect(sheet.locator(".text li").nth(1)).to_have_text("boots, dry ones")

    def test_what_it_means_and_what_is_right_as_it_is(self):
        self.write(self.walks, document(paragraph("HE SHOUTED ACROSS THE WATER.")))
        self.site.authors_may_publish = True
        self.site.save()
        with self.window() as page:
            self.open(page, self.walks)
            self.counted(page, 1)
            self.notes(page)
            panel = page.get_by_role("tabpanel")
            panel.get_by_role("button", name="“HE SHOUTED ACROSS THE WATER” is in capitals.").click()
            panel.get_by_role("button", name="What this means").click()
            told = page.get_by_role("region", name="What this means")
            expect(told).to_contain_text("A short form, such as VCT, is right.")
            self.axe(page, "help beside the sheet")
            self.do(page, "notes")
            panel.get_by_role("button", name="It is right as it is…").click()
            panel.get_by_label("Why? Approvers read this.").fill("It is a quotation.")
            panel.get_by_role("button", name="Save it as right").click()
            self.counted(page, 0)
            right = panel.get_by_role("region", name="Right as it is")
            expect(right).to_contain_text("“It is a quotation.”")
            page.get_by_role("button", name="Publish…").click()
            expect(page.get_by_role("group", name="Publish")).to_contain_text("Wren Osier: “It is a quotation.”")
            page.get_by_role("button", name="Not yet").click()
            page.route("**/allowances/*", lambda route: route.abort(), times=1)
            right.get_by_role("button", name="Undo").click()
            expect(right.get_by_role("alert")).to_contain_text("cannot be reached")
            right.get_by_role("button", name="Undo").click()
            self.counted(page, 1)
        self.assertEqual(Allowance.objects.count(), 0)


class WhatASiteAsksFor(NotesTest):
    def test_an_administrator_lets_a_check_block_and_switches_one_off(self):
        a_person("maud", Role.ADMINISTRATOR)
        vague = paragraph("Apply ", words("here", link(f"page:{self.visit.pk}")))
        self.write(self.walks, document(heading(4, "Deep"), vague))
        with self.window(user="maud") as page:
            page.goto(f"{self.live_server_url}/sites/{self.site.pk}")
            self.below_contents(page, "What the page check asks for")
            page.get_by_label("A heading that skips a level").select_option("blocks")
            page.get_by_label("A link that says nothing of where it leads").select_option("off")
            page.get_by_label("What a page may weigh, in kB").fill("9")
            page.get_by_role("button", name="Save").click()
            expect(page.get_by_role("alert").filter(has_text="50 to 100,000 kB")).to_be_visible()
            page.get_by_label("What a page may weigh, in kB").fill("900")
            page.get_by_role("button", name="Save").click()
            expect(page.get_by_role("status")).to_contain_text("Saved.")
            self.axe(page, "what a site asks for")
            page.get_by_role("link", name="A heading that skips a level").click()
            expect(page.get_by_role("heading", name="A heading that skips a level")).to_be_visible()
            self.axe(page, "the help of a check")
            page.goto(f"{self.live_server_url}/help/checks/none-such")
            expect(page.get_by_role("status")).to_contain_text("There is no check of that name")
        with self.window() as page:
            self.open(page, self.walks)
            self.counted(page, 2)
            page.get_by_role("button", name="Publish…").click()
            expect(page.get_by_role("group", name="Publish")).to_contain_text("“Deep” is of level 4")
            page.goto(f"{self.live_server_url}/sites/{self.site.pk}/checks")
            expect(page.get_by_label("A heading that skips a level")).to_be_disabled()


class FromThirtyFindingsToNone(NotesTest, DemoTest):
    def test_the_demo_page_with_everything_wrong_is_mended_in_the_interface(self):
        faulty = SitePage.objects.get(path="/volunteer/new-page")
        with self.window(user="tobias") as page:
            sheet = self.open(page, faulty)
            panel = page.get_by_role("tabpanel")
            notes = self.notes(page)
            expect(notes.nth(30)).to_be_attached()
            before = text_of(faulty.working_copy.tree)

            # First whatever has a repair, from the top, one press each; the notes are renewed after each.
            for _ in range(60):
                number = len(notes.all())
                repairs = notes.locator("button:not([aria-expanded])")
                if not repairs.count():
                    break
                with page.expect_response("**/check"):
                    repairs.first.click()
                self.settled(page)
                self.assertLessEqual(len(notes.all()), number)
            self.assertLess(len(notes.all()), 12)

            # Then what needs a thought.
            sheet.locator(".title").click()
            page.keyboard.press("Control+a")
            page.keyboard.type("The spring work party")
            sixth = sheet.locator(".text h2", has_text="The sixth lock")
            sixth.click(click_count=3)
            page.keyboard.type("Lock 6")
            for place, caption in (("Rise", "Rise of the locks"), ("Monday", "Closed on Monday")):
                sheet.locator(".text th", has_text=place).click()
                page.get_by_role("button", name="Add a caption").click()
                page.keyboard.type(caption)
            sheet.locator(".text .equation").click()
            page.get_by_label("LaTeX").fill(r"Q = \frac{V}{t}")
            sheet.locator(".text .call a").click()
            page.get_by_role("button", name="Choose the destination").click()
            page.keyboard.type("Contact")
            page.get_by_role("option", name="Contact").first.click()
            self.notes(page)
            for sentence, reason in (
                ("The end of the address", "The address is changed by the web team."),
                ("The sentence “The work party begins", "It is read aloud as it is."),
            ):
                panel.get_by_role("button", name=sentence).click()
                panel.get_by_role("button", name="It is right as it is…").click()
                panel.get_by_label("Why? Approvers read this.").fill(reason)
                panel.get_by_role("button", name="Save it as right").click()
                expect(panel.get_by_role("region", name="Right as it is")).to_contain_text(reason)
            self.counted(page, 0)
            expect(panel).to_contain_text("finds nothing to mend")
            self.saved(page)
            page.get_by_role("button", name="Publish…").click()
            page.get_by_role("button", name="Publish now").click()
            expect(page.locator("[data-save]")).to_contain_text("readers see just this")
        self.assertIn("gloves", before)
        with self.window(user=None) as reader:
            reader.goto(self.address(faulty))
            expect(reader.locator(".text li").first).to_have_text("gloves")
            self.axe(reader, "the page that was mended")
