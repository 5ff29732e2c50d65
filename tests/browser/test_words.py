"""What is said of words and how paragraphs are set, in the real interface; tones against axe-core's own contrast."""

from pathlib import Path

from playwright.sync_api import expect

from stillpage.sites.themes import palette
from stillpage.written.models import WorkingCopy
from stillpage_core.writing import storable_html

from ..core.documents import TONE, aside, cell, document, heading, paragraph, table, words
from .base import AXE, BrowserTest


class Words(BrowserTest):
    def kept(self):
        return storable_html(WorkingCopy.objects.get(written=self.walks).tree)

    def select_first_word(self, page, sheet, length):
        sheet.locator(".text").click()
        self.settled(page)
        page.keyboard.press("Control+Home")
        for _ in range(length):
            page.keyboard.press("Shift+ArrowRight")
        self.settled(page)

    def test_an_abbreviation_a_language_and_a_tone_are_said_of_selected_words(self):
        self.write(self.walks, document(paragraph("VCT says bonjour.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.select_first_word(page, sheet, 3)
            page.get_by_label("Short for").fill("Varrow Canal Trust")
            expect(sheet.locator("abbr")).to_have_attribute("title", "Varrow Canal Trust")
            page.get_by_role("group", name="Tone, with its contrast").get_by_role("button", name="Rust").click()
            expect(sheet.locator('[data-tone="rust"]')).to_have_text("VCT")
            expect(page.get_by_text("Mist would fall below 4.5:1 on this ground.")).to_be_visible()
            self.axe(page, "the particulars of words")
            page.get_by_role("button", name="Undo").click()
            expect(sheet.locator("[data-tone]")).to_have_count(0)
            page.get_by_role("button", name="Undo").click()
            expect(sheet.locator("abbr")).to_have_count(0)
            page.get_by_role("button", name="Redo").click()
            sheet.locator(".text").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.press("ArrowLeft")
            page.keyboard.press("Control+Shift+ArrowLeft")
            page.get_by_label("Language").select_option(label="French")
            expect(sheet.locator('span[lang="fr"]')).to_have_text("bonjour")
            self.saved(page)
            expected = '<p><abbr title="Varrow Canal Trust">VCT</abbr> says <span lang="fr">bonjour</span>.</p>'
            self.assertIn(expected, self.kept())

    def test_a_paragraph_is_set_in_a_style_of_the_theme_shown_as_it_looks_and_a_heading_in_the_middle(self):
        self.write(self.walks, document(heading(2, "Walks"), paragraph("Level all the way.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text p").click()
            lead = page.get_by_role("group", name="Text style").get_by_role("button", name="Lead")
            offered = lead.evaluate("button => getComputedStyle(button).fontSize")
            lead.click()
            line = sheet.locator('p[data-style="lead"]')
            expect(line).to_have_text("Level all the way.")
            self.assertEqual(line.evaluate("line => getComputedStyle(line).fontSize"), offered)
            sheet.locator("h2").click()
            page.get_by_role("button", name="More: other ways to mark words").click()
            page.get_by_role("button", name="Align centre").click()
            expect(sheet.locator("h2")).to_have_css("text-align", "center")
            page.keyboard.press("Control+a")
            self.do(page, "no formatting")
            self.saved(page)
            self.assertIn("<h2>Walks</h2><p>Level all the way.</p>", self.kept())

    def test_every_tone_has_on_every_ground_the_contrast_that_axe_core_finds(self):
        grounds = {
            "page": paragraph(words("rust", TONE)),
            **{sort: aside(sort, paragraph(words("rust", TONE))) for sort in ("note", "tip", "warning")},
            "header": table([cell(paragraph(words("rust", TONE)), header=True), cell("b", header=True)]),
        }
        self.write(self.walks, document(*grounds.values()))
        self.put_live(self.walks)
        for theme in ("canal", "museum"):
            with self.window(user=None) as reader:
                reader.goto(self.address(self.walks))
                reader.evaluate("theme => { document.documentElement.dataset.theme = theme }", theme)
                reader.evaluate(Path(AXE).read_text())
                for tone in palette(theme).tones:
                    found = reader.evaluate(
                        """tone => [...document.querySelectorAll('[data-tone]')].map((words) => {
                          words.dataset.tone = tone
                          axe.setup(document.body)
                          const { color } = axe.commons
                          const ground = color.getBackgroundColor(words)
                          const ratio = color.getContrast(ground, color.getForegroundColor(words))
                          axe.teardown()
                          return ratio
                        })""",
                        tone.name,
                    )
                    for ground, ratio in zip(grounds, found, strict=True):
                        with self.subTest(theme=theme, tone=tone.name, ground=ground):
                            self.assertEqual(ground in tone.ratios, ratio >= 4.5, ratio)
                            if ground in tone.ratios:
                                self.assertAlmostEqual(tone.ratios[ground], ratio, delta=0.11)
