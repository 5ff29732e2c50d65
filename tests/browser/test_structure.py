"""Structure in the real interface: sections in the Outline, marks, preformatted text, dividers, and lists by habit."""

import re

from playwright.sync_api import expect

from stillpage.written.models import WorkingCopy
from stillpage_core.document.outline import outline
from stillpage_core.writing import markdown, storable_html

from ..core.documents import document, heading, item, numbered, paragraph
from .base import BrowserTest


class Sections(BrowserTest):
    def setUp(self):
        super().setUp()
        self.write(
            self.walks,
            document(
                paragraph("Before."),
                heading(2, "First"),
                paragraph("Of the first."),
                heading(3, "Below first"),
                paragraph("Deep."),
                heading(2, "Second"),
                paragraph("Of the second."),
            ),
        )

    def headings(self):
        return [(entry.level, entry.text) for entry in outline(WorkingCopy.objects.get(written=self.walks).tree)]

    def test_a_section_moves_with_all_under_it_by_keys_and_it_is_told(self):
        with self.window() as page:
            self.open(page, self.walks)
            lines = page.locator("[data-line]")
            expect(lines).to_have_count(3)
            lines.first.focus()
            page.keyboard.press("Control+ArrowDown")
            expect(page.get_by_text("“First” moved down, with all that stands under it")).to_be_visible()
            expect(lines).to_have_text(["Level 2Second", "Level 2First", "Level 3Below first"])
            self.saved(page)
            self.assertEqual(self.headings(), [(2, "Second"), (2, "First"), (3, "Below first")])
            page.get_by_role("button", name="Undo").click()
            expect(lines.first).to_have_text("Level 2First")

    def test_a_section_is_duplicated_and_named_at_once(self):
        with self.window() as page:
            self.open(page, self.walks)
            lines = page.locator("[data-line]")
            expect(lines).to_have_count(3)
            lines.first.focus()
            page.get_by_role("button", name="Duplicate the section “First”").press("Enter")
            expect(lines).to_have_count(5)
            page.keyboard.type("Third")
            self.saved(page)
            self.assertEqual(
                self.headings(),
                [(2, "First"), (3, "Below first"), (2, "Third"), (3, "Below first"), (2, "Second")],
            )

    def test_a_section_is_lowered_and_raised_with_its_subsections_as_one_step(self):
        with self.window() as page:
            self.open(page, self.walks)
            lines = page.locator("[data-line]")
            expect(lines).to_have_count(3)
            lines.nth(1).focus()
            page.get_by_role("button", name="Raise a level").click()
            expect(lines.nth(1)).to_have_text("Level 2Below first")
            lines.nth(1).focus()
            page.keyboard.press("Control+ArrowLeft")
            expect(page.get_by_text("“Below first” cannot be raised any further")).to_be_visible()
            page.get_by_role("button", name="Undo").click()
            expect(lines.nth(1)).to_have_text("Level 3Below first")
            lines.first.focus()
            page.keyboard.press("Control+ArrowRight")
            # Below the title, level 3 skips one: the note of it may come before we look.
            first = re.compile(r"Level 3First(1 note)?")
            expect(lines).to_have_text([first, "Level 4Below first", "Level 2Second"])
            self.saved(page)
            self.assertEqual(self.headings(), [(3, "First"), (4, "Below first"), (2, "Second")])

    def test_a_section_is_dragged_before_another(self):
        with self.window() as page:
            self.open(page, self.walks)
            items = page.get_by_role("tabpanel").get_by_role("listitem")
            expect(items).to_have_count(3)
            items.nth(2).drag_to(items.nth(0))
            expect(items.first).to_contain_text("Second")
            self.saved(page)
            self.assertEqual(self.headings(), [(2, "Second"), (2, "First"), (3, "Below first")])

    def test_a_level_that_would_skip_one_is_drawn_open_and_says_why_but_can_be_pressed(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Of the first.").click()
            skipping = page.get_by_role(
                "button", name="Heading of level 5: would skip a level, since level 2 stands above"
            )
            skipping.click()
            expect(sheet.locator("h5")).to_have_text("Of the first.")
            expect(page.get_by_role("tab", name="Notes (1)")).to_be_visible()


class Words(BrowserTest):
    def test_marks_beyond_strong_and_emphasis_and_no_formatting(self):
        self.write(self.walks, document(paragraph("H2O")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            text = sheet.locator(".text")
            text.click()
            self.settled(page)
            page.keyboard.press("Home")
            page.keyboard.press("ArrowRight")
            page.keyboard.press("Shift+ArrowRight")
            page.get_by_role("button", name="More: other ways to mark words").click()
            page.get_by_role("button", name="Superscript").click()
            expect(text.locator("sup")).to_have_text("2")
            page.get_by_role("button", name="Subscript").click()
            expect(text.locator("sub")).to_have_text("2")
            expect(text.locator("sup")).to_have_count(0)
            page.keyboard.press("Control+u")
            expect(text.locator("u")).to_have_text("2")
            self.axe(page, "the rule with more tools")
            page.get_by_role("button", name="No formatting").click()
            expect(text.locator("sub, u")).to_have_count(0)
            expect(text).to_have_text("H2O")

    def test_preformatted_text_takes_lines_and_is_left_by_enter_on_an_empty_last_line(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            self.do(page, "this preformatted")
            for line in ("open gates", "  boat in", ""):
                page.keyboard.type(line)
                page.keyboard.press("Enter")
            page.keyboard.type("After.")
            expect(sheet.locator("pre")).to_have_count(1)
            self.saved(page)
            kept = markdown(WorkingCopy.objects.get(written=self.walks).tree)
            self.assertEqual(kept, "```\nopen gates\n  boat in\n```\n\nAfter.\n")

    def test_a_divider_comes_from_the_shelf(self):
        self.write(self.walks, document(paragraph("Before.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text p").click()
            page.keyboard.press("Control+Enter")
            page.keyboard.type("divi")
            page.keyboard.press("Enter")
            page.keyboard.type("After.")
            self.saved(page)
            kept = storable_html(WorkingCopy.objects.get(written=self.walks).tree)
            self.assertIn("<p>Before.</p><hr><p>After.</p>", kept)


class Caret(BrowserTest):
    def test_enter_breaks_the_line_where_the_caret_was_just_moved_to(self):
        self.write(self.walks, document(paragraph("One two three four five."), paragraph("Next.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            for _ in range(5):
                sheet.locator(".text p").first.click()
                self.settled(page)
                page.keyboard.press("End")
                page.keyboard.press("Enter")
                expect(sheet.locator(".text p").first).to_have_text("One two three four five.")
                page.keyboard.press("Control+z")
                expect(sheet.locator(".text p")).to_have_count(2)


class Lists(BrowserTest):
    def test_typed_markers_become_a_list_at_once_and_undo_gives_the_marker_back(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            page.keyboard.type("4. ")
            expect(sheet.locator("ol")).to_have_attribute("start", "4")
            page.keyboard.press("Backspace")
            expect(sheet.locator("ol")).to_have_count(0)
            self.assertEqual(sheet.locator(".text").inner_text().strip(), "4.")

    def test_paragraphs_become_a_list_of_either_sort_and_back(self):
        self.write(self.walks, document(paragraph("one"), paragraph("two")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            self.settled(page)
            page.keyboard.press("Control+a")
            self.do(page, "bulleted")
            expect(sheet.locator("ul > li")).to_have_text(["one", "two"])
            self.do(page, "numbered")
            expect(sheet.locator("ol > li")).to_have_text(["one", "two"])
            self.do(page, "numbered")
            expect(sheet.locator(".text > p")).to_have_text(["one", "two"])

    def test_a_list_begins_with_another_number_and_a_spreadsheets_cells_are_pasted_as_a_table(self):
        self.write(self.walks, document(numbered(item(paragraph("one"))), paragraph("")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator("li p").click()
            begins = page.get_by_label("Begins with")
            begins.fill("seven")
            expect(page.get_by_text("A whole number of up to six digits.")).to_be_visible()
            begins.fill("7")
            expect(sheet.locator("ol")).to_have_attribute("start", "7")
            page.get_by_role("button", name="Undo").click()
            expect(sheet.locator("ol")).not_to_have_attribute("start", "7")
            sheet.locator(".text > p").click()
            # As spreadsheets put cells on the clipboard: a table, and the same words parted by tabs.
            sheet.locator(".text").evaluate(
                """(text) => {
                  const data = new DataTransfer()
                  data.setData('text/plain', 'Lock\\tRise\\n4\\t2.1')
                  data.setData('text/html', `<meta charset="utf-8"><table><colgroup>
                    <col width="64"></colgroup><tr height="20"><td>Lock</td><td>Rise</td></tr>
                    <tr><td>4</td><td align="right">2.1</td></tr></table>`)
                  text.dispatchEvent(
                    new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
                  )
                }"""
            )
            expect(sheet.locator("td")).to_have_text(["Lock", "Rise", "4", "2.1"])
            self.saved(page)
            self.assertIn("<tr><td><p>Lock</p></td>", storable_html(WorkingCopy.objects.get(written=self.walks).tree))
