"""Quotations, asides, calls to action, preformatted text, equations and signs in the real interface."""

import re
from contextlib import suppress

from playwright.sync_api import Error, expect

from stillpage.written.models import WorkingCopy
from stillpage_core.writing import markdown, storable_html

from ..core.documents import call_to_action, document, equation, formula, paragraph, quotation
from .base import BrowserTest
from .waiting import rests

EMPTY = '<div data-stillpage-document="2"><p></p></div>\n'


class Blocks(BrowserTest):
    def kept(self):
        return WorkingCopy.objects.get(written=self.walks).tree

    def bring(self, page, words):
        page.keyboard.press("Control+Enter")
        page.keyboard.type(words)
        expect(page.get_by_role("option").first).to_be_visible()
        page.keyboard.press("Enter")

    def test_a_quotation_gets_its_source_and_enter_leaves_both(self):
        self.write(self.walks, document(paragraph("They shut the gates.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            keys = page.keyboard
            sheet.locator(".text").click()
            self.settled(page)
            keys.press("End")
            self.do(page, "this quotation")
            expect(sheet.locator("blockquote")).to_have_text("They shut the gates.")
            keys.press("Enter")
            keys.type("And waited.")
            keys.press("Enter")
            keys.press("Enter")
            keys.type("After.")
            sheet.get_by_text("And waited.").click()
            page.get_by_role("button", name="Add its source").click()
            keys.type("The lock-keeper's diary")
            keys.press("Enter")
            keys.type("Between.")
            self.saved(page)
            self.assertEqual(
                markdown(self.kept()),
                "> They shut the gates.\n>\n> And waited.\n>\n> — The lock-keeper's diary\n\nBetween.\n\nAfter.\n",
            )
            self.axe(page, "a quotation")
            sheet.get_by_text("And waited.").click()
            page.get_by_role("button", name="Make it running text").click()
            expect(sheet.locator(".text > p")).to_have_count(5)
            page.get_by_role("button", name="Undo").click()
            expect(sheet.locator("figcaption")).to_have_text("The lock-keeper's diary")

    def test_backspace_takes_an_empty_source_away_and_unwraps_at_the_start(self):
        self.write(self.walks, document(quotation(paragraph("Slowly."), source="x"), paragraph("After.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator("figcaption").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.press("Backspace")
            page.keyboard.press("Backspace")
            expect(sheet.locator("figcaption")).to_have_count(0)
            page.keyboard.press("Home")
            page.keyboard.press("Backspace")
            expect(sheet.locator("blockquote")).to_have_count(0)
            expect(sheet.locator(".text > p")).to_have_text(["Slowly.", "After."])

    def test_an_aside_changes_its_sort_and_is_left_by_enter(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            self.bring(page, "warning")
            page.keyboard.type("Deep water.")
            expect(sheet.get_by_role("note")).to_have_text("WarningDeep water.")
            page.get_by_role("group", name="Sort").get_by_role("button", name="Tip").click()
            expect(sheet.get_by_role("note")).to_have_text("TipDeep water.")
            self.axe(page, "an aside and its particulars")
            sheet.get_by_text("Deep water.").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.press("Enter")
            page.keyboard.press("Enter")
            page.keyboard.type("After.")
            self.saved(page)
            self.assertEqual(markdown(self.kept()), "> **Tip**\n>\n> Deep water.\n\nAfter.\n\n" + EMPTY)

    def test_a_call_to_action_asks_for_its_destination_and_says_how_it_fits(self):
        self.put_live(self.visit)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            self.bring(page, "call to action")
            page.keyboard.type("Plan your visit")
            expect(page.get_by_text("It leads nowhere yet.")).to_be_visible()
            expect(page.get_by_text("It fits on one line on a small phone")).to_be_visible()
            page.get_by_role("button", name="Publish…").click()
            expect(page.get_by_role("group", name="Publish")).to_contain_text("leads nowhere yet")
            page.get_by_role("button", name="Not yet").click()
            page.get_by_role("button", name="Choose the destination").click()
            page.keyboard.type("visit")
            expect(page.get_by_role("option", name=re.compile("^Visit"))).to_be_visible()
            page.keyboard.press("Enter")
            expect(page.get_by_text("leads to the page “Visit”")).to_be_visible()
            page.get_by_role("group", name="Emphasis").get_by_role("button", name="Quiet").click()
            self.axe(page, "a call to action and its particulars")
            sheet.locator(".call a").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.type(" along the whole of the canal, by boat, on foot or by bicycle")
            expect(page.get_by_text("On a small phone (320 px) it takes 3 lines: shorter is better.")).to_be_visible()
            page.keyboard.press("Enter")
            page.keyboard.type("After.")
            self.saved(page)
            found = storable_html(self.kept())
            self.assertIn(f'<p class="call" data-emphasis="quiet"><a href="page:{self.visit.pk}">Plan', found)
            self.assertIn("</a></p><p>After.</p>", found)

    def test_the_fit_that_is_told_is_that_of_the_live_page(self):
        self.write(self.walks, document(call_to_action("Walk the canal from one end to the other", "tel:100")))
        self.put_live(self.walks)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".call a").click()
            told = page.get_by_text("40 characters")
            expect(told).to_contain_text("it takes 2 lines")
            sheet.locator("body").evaluate("body => body.ownerDocument.fonts.ready")
            width = int(rests(told, "(told) => told.textContent").split(", ")[1].split(" ")[0])
        with self.window(320, 640, user=None) as reader:
            reader.goto(self.address(self.walks))
            reader.evaluate("document.fonts.ready")
            height = reader.locator(".call a").bounding_box()["height"]
            reader.set_viewport_size({"width": 1280, "height": 640})
            box = reader.locator(".call a").bounding_box()
            self.assertAlmostEqual(box["width"], width, delta=1)
            self.assertGreater(height, box["height"] * 1.3)

    def test_preformatted_text_names_its_language(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            self.do(page, "this preformatted")
            page.keyboard.type("rise = 2.1")
            language = page.get_by_label("Language")
            language.fill("py thon")
            expect(page.get_by_text("no spaces")).to_be_visible()
            language.fill("python")
            self.saved(page)
            self.assertEqual(markdown(self.kept()), "```python\nrise = 2.1\n```\n")

    def test_an_equation_is_shown_as_it_is_typed_and_a_fault_is_told_with_its_place(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            self.bring(page, "equation")
            latex = page.get_by_label("LaTeX")
            expect(latex).to_be_focused()
            latex.fill(r"\frac{a}{b")
            # Beside the sheet; as a note it is said a while later, too.
            expect(page.locator("aside").get_by_text("“{” is never closed: “}” is missing.")).to_be_visible()
            expect(page.get_by_text("At character 9.")).to_be_visible()
            expect(page.locator("mark")).to_have_text("{")
            expect(sheet.locator(".equation code")).to_have_text(r"\frac{a}{b")
            latex.fill(r"\frac{a}{b}")
            expect(sheet.locator(".equation mfrac")).to_be_visible()
            expect(page.locator("aside math mfrac")).to_be_visible()
            self.axe(page, "an equation and its particulars")
            latex.press("Escape")
            page.keyboard.press("ArrowDown")
            self.bring(page, "formula")
            page.get_by_label("LaTeX").fill("x^2")
            expect(sheet.locator("p .formula msup")).to_be_visible()
            self.saved(page)
            self.assertEqual(markdown(self.kept()), "$$\n\\frac{a}{b}\n$$\n\n$x^2$\n")

    def test_chromium_hands_the_parts_of_an_equation_to_a_screen_reader(self):
        # MathML Core Accessibility API Mappings: Chromium's tree names mfrac and msqrt as such.
        self.write(self.walks, document(equation(r"\frac{a}{b}"), paragraph("Of ", formula(r"\sqrt{h}"), ".")))
        self.put_live(self.walks)
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            session = reader.context.new_cdp_session(reader)
            nodes = session.send("Accessibility.getFullAXTree")["nodes"]
            roles = {node["role"]["value"] for node in nodes if not node["ignored"]}
            self.assertLessEqual({"MathMLMath", "MathMLFraction", "MathMLSquareRoot", "MathMLIdentifier"}, roles)

    def test_a_sign_is_found_by_name_and_put_at_the_caret(self):
        self.write(self.walks, document(paragraph("Lock 4 the bridge")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            self.settled(page)
            page.keyboard.press("Home")
            for _ in range(7):
                page.keyboard.press("ArrowRight")
            page.keyboard.press("Control+Enter")
            page.keyboard.type("rightwards arrow")
            expect(page.get_by_role("option", name="→")).to_be_visible()
            page.keyboard.press("Enter")
            page.keyboard.type(" ")
            expect(sheet.locator(".text")).to_have_text("Lock 4 → the bridge")

    def test_what_is_typed_while_the_shelf_still_looks_goes_into_the_text(self):
        self.write(self.walks, document(paragraph("Lock 4")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.type_at_end(page, sheet, " ")
            waiting, held = [], [True]
            page.route("**/api/shelf?**", lambda route: waiting.append(route) if held[0] else route.continue_())
            page.keyboard.press("Control+Enter")
            page.keyboard.type("rightwards arrow")
            page.keyboard.press("Enter")
            page.keyboard.type(" the bridge")
            self.settled(page)
            held[0] = False
            for route in waiting:
                with suppress(Error):  # It is asked no longer: more was typed.
                    route.continue_()
            expect(sheet.locator(".text")).to_have_text("Lock 4 → the bridge")
