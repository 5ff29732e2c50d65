"""The listening view in the real interface: by keyboard, with the sheet following, and said aloud."""

import re

from playwright.sync_api import expect

from ..core.documents import bulleted, document, heading, item, link, paragraph, words
from .base import BrowserTest
from .waiting import becomes

# Chromium without sound has no voices: these stand in for them, and keep what was to be said.
VOICES = """
window.said = []
speechSynthesis.getVoices = () => [{ name: "stand-in", lang: "en" }]
speechSynthesis.speak = (words) => { window.said.push([words.text, words.lang]); window.onward = () => words.onend() }
"""


class Listening(BrowserTest):
    TEXT = document(
        heading(2, "Short walks"),
        paragraph("Level and dry, see ", words("the timetable", link("https://a.example/", new_window=True)), "."),
        bulleted(item(paragraph("To Lock 4")), item(paragraph("To the aqueduct"))),
        heading(2, "Long walks"),
    )

    def lines(self, page):
        return page.get_by_role("list", name="What is heard").get_by_role("button")

    def current(self, page):
        return page.locator('[aria-label="What is heard"] [aria-current="true"]')

    def test_the_page_is_heard_line_by_line_and_the_sheet_follows(self):
        self.write(self.walks, self.TEXT)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.do(page, "listening")
            expect(self.lines(page).first).to_have_text("link, Skip to the text")
            said = self.lines(page).all_inner_texts()
            begin = said.index("heading level 1, Towpath walks")
            self.assertEqual(
                said[begin + 1 : begin + 9],
                [
                    "heading level 2, Short walks",
                    "Level and dry, see",
                    "link, the timetable, opens in a new window",
                    "list, 2 items",
                    "To Lock 4",
                    "To the aqueduct",
                    "end of list",
                    "heading level 2, Long walks",
                ],
            )
            # By heading, as readers jump; the arrow keys go to the next of what was chosen.
            page.get_by_label("Up and down go").select_option("heading")
            self.lines(page).first.click()
            for name in ("heading level 1, Towpath walks", "heading level 2, Short walks"):
                page.keyboard.press("ArrowDown")
                expect(self.current(page)).to_have_text(name)
            expect(sheet.locator(".is-heard")).to_have_text("Short walks")
            page.keyboard.press("ArrowDown")
            expect(sheet.locator(".is-heard")).to_have_text("Long walks")
            page.keyboard.press("ArrowUp")
            page.get_by_label("Up and down go").select_option("link")
            page.get_by_role("button", name="Next").click()
            expect(self.current(page)).to_have_text("link, the timetable, opens in a new window")
            expect(sheet.locator(".is-heard")).to_contain_text("Level and dry")
            page.get_by_label("Up and down go").select_option("landmark")
            page.get_by_role("button", name="Back").click()
            expect(self.current(page)).to_have_text("main")
            expect(page.get_by_role("tabpanel")).to_contain_text("has no voice")
            self.axe(page, "the listening view")

            # What is written is heard a moment later; the mark is no part of the text.
            sheet.locator(".text h2").last.click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.type(" in June")
            expect(self.lines(page).filter(has_text="Long walks in June")).to_be_visible()
            self.saved(page)
            page.get_by_role("button", name="Blurred").click()
            expect(page.locator("iframe").first).to_have_css("filter", re.compile("blur"))
            page.get_by_role("button", name="As it is").click()
            expect(page.locator("iframe").first).to_have_css("filter", "none")

    def test_it_is_said_aloud_line_after_line_by_the_browser_s_voice_and_silenced(self):
        self.write(self.walks, self.TEXT)
        with self.window() as page:
            page.add_init_script(VOICES)
            sheet = self.open(page, self.walks)
            self.do(page, "listening")
            self.lines(page).filter(has_text="heading level 2, Short walks").click()
            page.get_by_role("button", name="Read aloud").click()
            becomes(page.locator("html"), "() => window.said", [["heading level 2, Short walks", "en"]])
            page.evaluate("window.onward()")
            expect(self.current(page)).to_have_text("Level and dry, see")
            expect(sheet.locator(".is-heard")).to_contain_text("Level and dry")
            page.get_by_role("button", name="Stop reading").click()
            page.evaluate("window.onward()")
            self.assertEqual(len(page.evaluate("window.said")), 2)
