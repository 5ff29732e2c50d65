"""Nothing is in the way of somebody who writes: by keyboard, by name, in a small window, by touch, in any colours."""

import re

from playwright.sync_api import expect

from stillpage.library.models import Item
from stillpage.people.models import Person, Role
from stillpage.written.models import WorkingCopy
from stillpage_core.writing import markdown

from ..api.base import a_person
from ..core.documents import cell, document, heading, link, paragraph, picture, table, words
from .base import BrowserTest
from .hearing import all_heard, in_part, listen, somewhere
from .waiting import until

GONE = "/pages/999999"
SPACING = """() => {
  const sheet = new CSSStyleSheet()
  const spaced = 'line-height: 1.5 !important; letter-spacing: .12em !important; word-spacing: .16em !important'
  sheet.replaceSync(`* { ${spaced} }`)
  document.adoptedStyleSheets = [sheet]
}"""
CUT = """all => all.filter((each) => each.scrollWidth > each.clientWidth + 2)
  .filter((each) => getComputedStyle(each).overflow !== 'visible')
  .map((each) => each.textContent)"""


class Focus(BrowserTest):
    def test_f6_goes_round_the_parts_and_skip_links_lead_to_them(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            expect(sheet.locator(".regions")).to_be_focused()
            for part in ("shelf", "foot", "top", "rule", "left", "text"):
                page.keyboard.press("F6")
                in_part(page, part)
            for part in ("left", "rule", "top"):
                page.keyboard.press("Shift+F6")
                in_part(page, part)
            page.evaluate("document.activeElement.blur()")
            page.keyboard.press("Tab")
            for name, part in (("text", "text"), ("Shelf", "shelf"), ("foot", "foot")):
                page.get_by_role("button", name=f"Skip to the {name}").focus()
                self.axe(page, "a skip link", only="color-contrast")
                page.keyboard.press("Enter")
                in_part(page, part)
            # The site's own links are no stops.
            self.assertEqual(
                sheet.locator("a:not(.regions a)").evaluate_all("all => all.filter((a) => a.tabIndex >= 0).length"), 0
            )

    def test_the_finder_opens_on_typing_and_not_on_being_passed(self):
        with self.window() as page:
            self.open(page, self.walks)
            page.keyboard.press("F6")
            field = page.get_by_label("Bring in or do")
            expect(field).to_be_focused()
            expect(field).to_have_attribute("aria-expanded", "false")
            page.keyboard.press("Tab")
            page.keyboard.press("Shift+Tab")
            expect(field).to_have_attribute("aria-expanded", "false")
            page.keyboard.type("gates")
            expect(field).to_have_value("gates")
            expect(page.get_by_role("option", name="lock gates")).to_be_visible()
            # What cannot be done at the caret says so, and does nothing.
            field.fill("redo")
            expect(page.locator("#offer-0")).to_contain_text("not possible at the caret")
            page.keyboard.press("Enter")
            expect(field).to_be_focused()

    def test_the_focus_never_falls_to_nowhere(self):
        text = document(paragraph("Shut the the gate. "), heading(2, "First"), paragraph("x"), heading(2, "Second"))
        self.write(self.walks, text)
        self.put_live(self.home)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            text = sheet.locator(".regions")
            expect(page.get_by_role("tab", name="Notes (1)")).to_be_visible()
            page.keyboard.press("F8")
            expect(text).to_be_focused()
            page.get_by_role("button", name="Leave one “the”").click()
            expect(text).to_be_focused()
            page.keyboard.press("Control+z")
            expect(sheet.locator(".text > p").first).to_have_text("Shut the the gate.")
            self.do(page, "help")
            in_part(page, "shelf")
            page.keyboard.press("Escape")
            expect(text).to_be_focused()
            self.do(page, "versions")
            in_part(page, "shelf")
            page.get_by_role("button", name="Back to how you found it").click()
            somewhere(page)
            self.do(page, "publish")
            expect(page.get_by_role("button", name="Publish now")).to_be_focused()
            page.keyboard.press("Escape")
            expect(text).to_be_focused()
            self.do(page, "publish")
            page.keyboard.press("Enter")
            expect(page.locator("[data-save]")).to_contain_text("readers see just this")
            expect(text).to_be_focused()
            # Back in the Contents one is at the page that was left.
            self.do(page, "contents")
            expect(page.get_by_role("treeitem", name=re.compile("^Towpath walks"))).to_be_focused()
            page.get_by_role("button", name="New page at the top").click()
            expect(page.get_by_label("Title", exact=True)).to_be_focused()
            page.get_by_role("button", name="Cancel").click()
            expect(page.get_by_role("treeitem", name=re.compile("^Towpath walks"))).to_be_focused()
            for name in ("Library", "Help", "Wren"):
                page.get_by_role("link", name=name).click()
                expect(page.get_by_role("heading", level=1)).to_be_visible()
                somewhere(page)
            page.keyboard.press("Tab")
            page.get_by_role("link", name="Contents", exact=True).click()
            expect(page.get_by_role("treeitem", name=re.compile("^Towpath walks"))).to_be_focused()

    def test_a_press_of_undo_is_heard_wherever_one_is_but_in_a_field_being_typed_in(self):
        self.write(self.walks, document(paragraph("As it was."), picture(self.gates.pk), paragraph("The end.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            first = sheet.locator(".text > p").first
            first.click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.type(" More.")
            page.get_by_role("tab", name="Listening").click()
            page.keyboard.press("Control+z")
            expect(first).to_have_text("As it was.")
            page.keyboard.press("Control+Shift+z")
            expect(first).to_have_text("As it was. More.")
            # A number typed slowly is one step; Tab leads from the picture to its particulars.
            sheet.locator("figure img").click()
            page.keyboard.press("Tab")
            expect(page.get_by_label("Alt text")).to_be_focused()
            width = page.get_by_label("Width in px")
            width.click()
            page.keyboard.press("Control+a")
            for digit in "300":
                page.keyboard.type(digit)
                page.wait_for_timeout(700)
            expect(sheet.locator("figure img")).to_have_attribute("width", "300")
            page.keyboard.press("Escape")
            page.keyboard.press("Control+z")
            expect(sheet.locator("figure img")).to_have_attribute("width", "720")
            # In a field in which something was typed, Undo is the field's own.
            caption = page.get_by_label("Caption")
            sheet.locator("figure img").click()
            caption.click()
            page.keyboard.type("Gates")
            page.keyboard.press("Control+z")
            expect(caption).not_to_have_value("Gates")
            expect(first).to_have_text("As it was. More.")

    def test_in_the_library_too(self):
        with self.window() as page:
            page.goto(f"{self.live_server_url}/library")
            items = page.get_by_role("listbox", name="Items").get_by_role("option")
            items.filter(has_text="lock gates").click()
            page.get_by_role("button", name="Put into the bin").click()
            page.get_by_role("button", name="Put into the bin").last.click()
            expect(items).to_have_count(1)
            somewhere(page)
            page.keyboard.press("Control+z")
            expect(items).to_have_count(2)
            self.assertFalse(Item.objects.filter(binned_at__isnull=False).exists())


class Heard(BrowserTest):
    def test_what_happens_elsewhere_is_said_once_and_no_more(self):
        self.write(self.walks, document(paragraph("The gate.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.wait_for_timeout(2000)
            listen(page)
            # Saving goes on quietly; a note that comes is said with its sentence, and when it is gone.
            page.keyboard.press("End")
            page.keyboard.type(" Shut the the gate.")
            self.saved(page)
            self.assertEqual(all_heard(page), ["New note: “the the”: the word stands here twice. 1 note."])
            page.keyboard.press("F8")
            self.assertEqual(all_heard(page), ["1 of 1. To look at: “the the”: the word stands here twice."])
            page.keyboard.press("ArrowRight")
            page.keyboard.press("Backspace")
            page.keyboard.press("Backspace")
            page.keyboard.press("Backspace")
            page.keyboard.press("Backspace")
            self.assertEqual(all_heard(page), ["Nothing to mend."])
            page.keyboard.press("Control+z")
            self.assertTrue(all_heard(page)[0].startswith("Undo: “"))
            page.keyboard.press("Control+s")
            self.assertIn("Saved", all_heard(page))
            # How many are found, and no “nothing” before the answer; what was put in.
            page.keyboard.press("Control+Enter")
            page.keyboard.type("gates")
            expect(page.get_by_role("option", name="lock gates")).to_be_visible()
            found = all_heard(page)
            self.assertFalse([each for each in found if "Nothing" in each], found)
            self.assertTrue(re.fullmatch(r"\d+ found", found[-1]), found)
            page.keyboard.press("Enter")
            expect(sheet.locator("figure img")).to_be_visible()
            self.assertIn("Put in: the picture “lock gates”", all_heard(page))
            # Away, once; and once when it is over.
            page.route("**/api/pages/*/working-copy", lambda route: route.abort())
            page.keyboard.press("Control+End")
            page.keyboard.type("Offline. ")
            expect(page.locator("[data-save]")).to_have_attribute("data-save", "away")
            page.keyboard.type("Still.")
            away = [each for each in all_heard(page) if "cannot be reached" in each]
            self.assertEqual(len(away), 1, away)
            page.unroute("**/api/pages/*/working-copy")
            page.keyboard.type(" Back.")
            self.saved(page)
            back = [each for each in all_heard(page) if each.startswith("Saved again")]
            self.assertEqual(len(back), 1, back)

    def test_the_sheet_says_what_it_shows(self):
        """The title has a name, findings carry their note, header cells the scope that the live page has."""
        grid = table(
            [cell("Lock", header=True), cell("Monday", header=True), cell("Tuesday", header=True)],
            [cell("Four", header=True), cell("open"), cell("shut")],
            [cell("Five", header=True), cell("shut"), cell("open", header=True)],
        )
        self.write(self.walks, document(paragraph("Shut the the gate."), grid))
        self.put_live(self.walks)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            expect(sheet.get_by_role("textbox", name="The title of the page")).to_have_text("Towpath walks")
            expect(sheet.get_by_role("heading", level=1)).to_contain_text("Towpath walks")
            expect(sheet.locator(".has-finding").first).to_have_attribute(
                "aria-description", "To look at: “the the”: the word stands here twice."
            )
            scopes = "all => all.map((each) => each.getAttribute('scope'))"
            written = sheet.locator("th").evaluate_all(scopes)
            self.axe(page, "a sheet with a note and a table", but=("region",))
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            self.assertEqual(reader.locator("th").evaluate_all(scopes), written)
        self.assertIn("row", written)


class SmallWindows(BrowserTest):
    """320 by 256 CSS pixels are 1280 by 1024 at 400 % (WCAG 2.2, 1.4.10)."""

    def test_all_of_the_main_job_at_320_by_256(self):
        with self.window(320, 256) as page:
            sheet = self.open(page, self.walks)
            text = sheet.locator(".regions")
            self.assertGreater(page.locator("iframe").bounding_box()["height"], 100)
            page.keyboard.type("Before you set out")
            page.get_by_role("button", name="Heading of level 2", exact=True).click()
            expect(text.locator("h2")).to_be_visible()
            page.keyboard.press("End")
            page.keyboard.press("Enter")
            page.keyboard.type("boots")
            page.get_by_role("button", name="Bulleted list").click()
            expect(text.locator("li")).to_have_text("boots")
            page.keyboard.press("Enter")
            page.keyboard.press("Enter")
            page.get_by_role("button", name="Shelf", exact=True).click()
            page.get_by_label("Bring in or do").click()
            page.keyboard.type("reeds")
            page.get_by_role("option", name="reeds").click()
            expect(text.locator("figure img")).to_be_visible()
            page.keyboard.press("F2")
            page.get_by_label("Alt text").fill("Reeds beside the path")
            page.keyboard.press("Escape")
            expect(text).to_be_focused()
            self.saved(page)
            page.get_by_role("button", name="Publish…").click()
            page.get_by_role("button", name="Publish now").click()
            page.get_by_role("button", name="More", exact=True).click()
            expect(page.locator("[data-save]")).to_contain_text("readers see just this")
            self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), 320)
            self.axe(page, "320 by 256", but=("region",))
            small = page.locator("button:visible:not([aria-label=Skip] *)").evaluate_all(
                """all => all.filter((each) => {
                  const { width, height } = each.getBoundingClientRect()
                  return width > 1 && (width < 24 || height < 24)
                }).map((each) => each.textContent)"""
            )
            self.assertEqual(small, [], "targets are 24 px (WCAG 2.2, 2.5.8)")
        kept = WorkingCopy.objects.get(written=self.walks)
        self.assertIn("## Before you set out\n\n- boots\n\n![Reeds beside the path]", markdown(kept.tree))

    def test_every_screen_at_320_by_640_and_by_touch(self):
        with self.window(320, 640, has_touch=True, is_mobile=True) as page:
            for path in (
                "/",
                "/library",
                f"/sites/{self.site.pk}/results",
                f"/sites/{self.site.pk}/checks",
                "/help",
                GONE,
            ):
                page.goto(self.live_server_url + path)
                expect(page.get_by_role("heading", level=1)).to_be_visible()
                page.wait_for_timeout(300)
                self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), 320, path)
                self.axe(page, path)
                # Whoever comes by an address that leads to nothing can go on from there.
                expect(page.get_by_role("navigation", name="Everything")).to_be_visible()
            self.write(self.walks, document(paragraph("Words to tap."), heading(2, "First"), heading(2, "Second")))
            sheet = self.open(page, self.walks)
            sheet.locator(".text > p").tap()
            page.get_by_role("button", name="Heading of level 2", exact=True).tap()
            expect(sheet.locator(".text > h2")).to_have_count(3)
            page.get_by_role("button", name="Undo").tap()
            expect(sheet.locator(".text > h2")).to_have_count(2)
            # A section is moved without dragging.
            page.get_by_role("button", name="Outline and Notes").tap()
            page.locator("[data-line]").nth(1).tap()
            page.get_by_role("button", name="Outline and Notes").tap()
            page.get_by_role("button", name="Move up: “Second”").tap()
            expect(page.locator("[data-line]").first).to_contain_text("Second")
            page.get_by_role("button", name="Shelf", exact=True).tap()
            page.get_by_label("Bring in or do").tap()
            page.keyboard.type("numbered")
            page.get_by_role("option", name="Numbered list").tap()
            expect(sheet.locator("ol li")).to_have_count(1)


class Looks(BrowserTest):
    def test_what_holds_is_seen_in_the_systems_own_colours(self):
        with self.window(forced_colors="active") as page:
            self.open(page, self.walks)
            pressed = page.get_by_role("button", name="Running text")
            other = page.get_by_role("button", name="Heading of level 2", exact=True)
            ground = "each => getComputedStyle(each).backgroundColor"
            self.assertNotEqual(pressed.evaluate(ground), other.evaluate(ground))
            tabs = [page.get_by_role("tab", name=name).evaluate(ground) for name in ("Outline", "Listening")]
            self.assertNotEqual(*tabs)
            self.axe(page, "forced colours", but=("region",))
            # The focus shows on every rung, those drawn open too.
            for level in (2, 3, 6):
                rung = page.get_by_role("button", name=re.compile(f"^Heading of level {level}"))
                rung.focus()
                page.keyboard.press("Shift+F6")
                page.keyboard.press("F6")
                self.assertIn("solid 2px", rung.evaluate("each => getComputedStyle(each).outline"))

    def test_with_more_space_between_letters_and_without_motion_nothing_is_cut_off(self):
        """WCAG 2.2, 1.4.12: the values are the criterion's own."""
        with self.window(reduced_motion="reduce") as page:
            self.open(page, self.walks)
            page.evaluate(SPACING)
            page.wait_for_timeout(200)
            cut = page.locator("button:visible:not([aria-label=Skip] *)").evaluate_all(CUT)
            self.assertEqual(cut, [])
            self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), 1280)
            self.axe(page, "text spacing", but=("region",))


class Choices(BrowserTest):
    def test_what_one_chose_stays_chosen_for_oneself_alone(self):
        with self.window() as page:
            self.open(page, self.walks)
            page.get_by_role("button", name="Show at the width of: Tablet").click()
            page.get_by_role("button", name="Beside the sheet: Outline and Notes").click()
            expect(page.get_by_role("tab", name="Outline")).to_be_hidden()
            page.get_by_role("button", name="More: other ways").click()
            page.goto(f"{self.live_server_url}/library")
            page.get_by_role("button", name="Lines").click()
            chosen = {"width": "820", "left_shut": True, "more_marks": True, "library": "lines"}
            until(lambda: Person.objects.get(username="wren").choices, lambda kept: kept == chosen, page)
        with self.window() as page:
            self.open(page, self.walks)
            expect(page.locator("iframe")).to_have_js_property("clientWidth", 820)
            expect(page.get_by_role("tab", name="Outline")).to_be_hidden()
            expect(page.get_by_role("button", name="Underline")).to_be_visible()
            # What is folded away comes when somebody goes there, and goes when they come back.
            self.do(page, "outline")
            expect(page.get_by_role("tab", name="Outline")).to_be_visible()
            page.keyboard.press("Escape")
            expect(page.get_by_role("tab", name="Outline")).to_be_hidden()
        with self.window(user="tobias") as page:
            self.open(page, self.walks)
            expect(page.get_by_role("tab", name="Outline")).to_be_visible()


class Finding(BrowserTest):
    def test_words_are_found_and_replaced_wherever_they_stand(self):
        text = document(
            paragraph("A lock and a ", words("locked", link("https://varrow.example/lock")), " gate."),
            picture(self.gates.pk, alt="The lock", caption="Lock 4"),
        )
        self.write(self.walks, text)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.keyboard.press("Control+f")
            line = page.get_by_role("search", name="Find and replace")
            expect(line.get_by_label("Find on this page")).to_be_focused()
            page.keyboard.type("lock")
            status = line.get_by_role("status")
            expect(status).to_have_text("1 of 5")
            for says in ("2 of 5", "3 of 5, in an address", "4 of 5, in an alt text", "5 of 5, in a caption", "1 of 5"):
                page.keyboard.press("Enter")
                expect(status).to_have_text(says)
            page.keyboard.press("Shift+Enter")
            expect(status).to_have_text("5 of 5, in a caption")
            line.get_by_label("Whole words").check()
            expect(status).to_contain_text("of 4")
            line.get_by_label("Match case").check()
            expect(status).to_contain_text("of 3")
            line.get_by_label("Replace with").fill("weir")
            self.axe(page, "finding", but=("region",))
            line.get_by_role("button", name="Replace all").click()
            expect(status).to_contain_text("3 places replaced. Undo takes them back at once.")
            page.keyboard.press("Escape")
            expect(sheet.locator(".regions")).to_be_focused()
            expect(sheet.locator(".text > p")).to_have_text("A weir and a locked gate.")
            expect(sheet.locator(".text a")).to_have_attribute("href", "https://varrow.example/weir")
            expect(sheet.locator("img")).to_have_attribute("alt", "The weir")
            page.keyboard.press("Control+z")
            expect(sheet.locator(".text > p")).to_have_text("A lock and a locked gate.")
            expect(sheet.locator("img")).to_have_attribute("alt", "The lock")
            page.keyboard.press("Control+f")
            page.keyboard.type("nowhere at all")
            expect(status).to_have_text("Not on this page")

    def test_the_source_has_a_find_of_its_own_and_no_key_reaches_the_sheet_below(self):
        self.write(self.walks, document(paragraph("A lock.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.keyboard.type("Words. ")
            self.do(page, "source")
            expect(page.get_by_role("textbox", name="The source of the page")).to_be_focused()
            page.keyboard.press("Control+z")
            page.keyboard.press("Control+f")
            expect(page.get_by_role("textbox", name="Find")).to_be_focused()
            page.keyboard.type("lock")
            self.axe(page, "finding in the source")
            page.keyboard.press("Escape")
            page.keyboard.press("Escape")
            expect(sheet.locator(".regions")).to_be_focused()
            expect(sheet.locator(".text > p")).to_have_text("Words. A lock.")


class Told(BrowserTest):
    def test_an_address_alone_says_what_is_possible(self):
        with self.window(permissions=["clipboard-read", "clipboard-write"]) as page:
            sheet = self.open(page, self.walks)
            copy = "words => navigator.clipboard.writeText(words)"
            page.evaluate(copy, "https://varrow.example/film")
            sheet.locator(".regions").focus()
            page.keyboard.type("See ")
            page.keyboard.press("Control+v")
            expect(page.get_by_text("posts cannot be shown on a page yet").last).to_be_visible()
            page.get_by_role("button", name="Make it a link").click()
            expect(sheet.locator(".text a")).to_have_attribute("href", "https://varrow.example/film")
            # Over words, it is the address of a link that they become.
            page.keyboard.press("Enter")
            page.keyboard.type("the film")
            page.keyboard.press("Shift+Home")
            page.keyboard.press("Control+v")
            expect(sheet.locator(".text a").last).to_have_text("the film")

    def test_who_publishes_is_named_to_those_who_may_not(self):
        self.site.authors_may_publish = False
        self.site.save()
        a_person("piet", Role.APPROVER)
        with self.window() as page:
            self.open(page, self.walks)
            page.get_by_role("button", name="Publish…").click()
            expect(page.get_by_role("group", name="Publish")).to_contain_text("pages are published by Piet")
            page.keyboard.press("Escape")
            somewhere(page)

    def test_publishing_shows_what_remains_and_how_it_will_be_found(self):
        self.write(self.walks, document(paragraph("Shut the the gate."), picture(self.reeds.pk)))
        with self.window() as page:
            self.open(page, self.walks)
            page.get_by_role("button", name="Publish…").click()
            group = page.get_by_role("group", name="Publish")
            remains = group.get_by_role("region", name="What remains").get_by_role("listitem")
            expect(remains).to_have_count(2)
            expect(remains.first).to_contain_text("Blocks publishing")
            shown = group.get_by_role("region", name="How it will be found")
            expect(shown).to_contain_text("Towpath walks – Varrow Canal Trust")
            expect(shown).to_contain_text("What the page /visit/towpath-walks is about.")
            self.axe(page, "before publishing", but=("region",))

    def test_the_table_of_results_and_a_check_that_is_turned_off(self):
        a_person("maud", Role.ADMINISTRATOR)
        self.write(self.walks, document(paragraph("Shut the the gate."), picture(self.reeds.pk)))
        with self.window(user="maud") as page:
            page.goto(self.live_server_url)
            self.below_contents(page, "What the page check found")
            expect(page.get_by_text("No page has been checked yet.")).to_be_visible()
            page.get_by_role("button", name="Check every page now").click()
            expect(page.get_by_text("All pages are checked.")).to_be_visible()
            row = page.get_by_role("row").nth(1)
            expect(row).to_contain_text("Towpath walks")
            expect(row).to_contain_text("has no alt text")
            somewhere(page)
            self.axe(page, "results")
            page.goto(f"{self.live_server_url}/sites/{self.site.pk}/checks")
            page.get_by_role("combobox", name="A picture without alt text").select_option("off")
            expect(page.get_by_role("alert").filter(has_text="guards accessibility")).to_contain_text("It hurts:")
            expect(page.get_by_text("1 check that guards accessibility is off.")).to_be_visible()
