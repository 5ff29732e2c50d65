"""Tables in the real interface: every act by keyboard and by the Shelf, and what a screen reader is told."""

from playwright.sync_api import expect

from stillpage.written.models import WorkingCopy
from stillpage_core.writing import plain_text

from ..core.documents import cell, document, paragraph, table
from .base import BrowserTest


def rows(*lines):
    """A table of one-letter cells, the first row headers."""
    return table(*([cell(letter, header=index == 0) for letter in line] for index, line in enumerate(lines)))


class Tables(BrowserTest):
    def kept(self):
        return WorkingCopy.objects.get(written=self.walks).tree

    def lines(self, sheet):
        return sheet.locator("tr").evaluate_all(
            "rows => rows.map(row => [...row.cells].map(cell => cell.textContent).join(' '))"
        )

    def act(self, page, group, name):
        shelf = page.get_by_role("region", name="This table")
        shelf.get_by_role("group", name=group).get_by_role("button", name=name, exact=True).click()

    def test_a_table_is_brought_in_and_filled_by_keyboard_alone(self):
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            keys = page.keyboard
            keys.press("Control+Enter")
            keys.type("table")
            expect(page.get_by_role("option", name="Table rows and columns")).to_be_visible()
            keys.press("Enter")
            expect(sheet.locator("th")).to_have_count(3)
            for words in ("Walk", "Kilometres", "Hours", "Stone bridge", "2", "1"):
                keys.type(words)
                keys.press("Tab")
            for words in ("Reed beds", "7.5", "3", "Long Pound"):
                keys.type(words)
                keys.press("Tab")
            expect(sheet.locator("tr")).to_have_count(4)
            keys.press("Shift+Tab")
            keys.press("Shift+Tab")
            keys.type("4")
            self.assertEqual(
                self.lines(sheet), ["Walk Kilometres Hours", "Stone bridge 2 1", "Reed beds 7.5 4", "Long Pound  "]
            )
            # To the particulars by key; the first act there makes the first column headers.
            keys.press("F2")
            expect(page.get_by_role("button", name="First row")).to_be_focused()
            keys.press("Tab")
            keys.press("Enter")
            expect(page.get_by_role("button", name="First column")).to_have_attribute("aria-pressed", "true")
            keys.press("Escape")
            self.do(page, "row below")
            expect(sheet.locator("tr")).to_have_count(5)
            keys.press("Control+z")
            expect(sheet.locator("tr")).to_have_count(4)
            self.saved(page)
            self.assertIn("Walk\tKilometres\tHours\nStone bridge\t2\t1\n", plain_text(self.kept()))

    def test_rows_and_columns_are_added_moved_and_removed(self):
        self.write(self.walks, document(rows("abc", "def", "ghi"), paragraph("After.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("e", exact=True).click()
            expect(page.get_by_text("The caret is in row 2, column 2.")).to_be_visible()
            self.act(page, "Row", "Move the row down")
            self.assertEqual(self.lines(sheet), ["a b c", "g h i", "d e f"])
            self.act(page, "Column", "Move the column left")
            self.assertEqual(self.lines(sheet), ["b a c", "h g i", "e d f"])
            self.act(page, "Row", "Add a row above")
            self.act(page, "Column", "Add a column after")
            self.assertEqual(self.lines(sheet), ["b  a c", "h  g i", "   ", "e  d f"])
            # The header row stays the first: nothing is moved before it.
            sheet.get_by_text("h", exact=True).click()
            group = page.get_by_role("group", name="Row")
            expect(group.get_by_role("button", name="Move the row up")).to_be_disabled()
            self.act(page, "Row", "Remove the row")
            sheet.get_by_text("a", exact=True).click()
            self.act(page, "Column", "Remove the column")
            self.assertEqual(self.lines(sheet), ["b  c", "  ", "e  f"])
            for _ in range(6):
                page.get_by_role("button", name="Undo").click()
            self.assertEqual(self.lines(sheet), ["a b c", "d e f", "g h i"])

    def test_cells_are_joined_and_parted_by_keyboard_and_the_table_has_a_caption_and_goes_with_one_undo(self):
        self.write(self.walks, document(rows("abc", "def"), paragraph("After.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("d", exact=True).click()
            self.settled(page)
            page.keyboard.press("Home")
            page.keyboard.press("Shift+ArrowRight")
            page.keyboard.press("Shift+ArrowRight")
            expect(page.get_by_text("1 × 2 cells are selected, from row 2, column 1.")).to_be_visible()
            self.act(page, "Cells", "Merge cells")
            expect(sheet.locator('td[colspan="2"]')).to_have_text("de")
            self.act(page, "Cells", "Split cells")
            expect(sheet.locator("td")).to_have_count(3)
            page.get_by_role("button", name="Add a caption").click()
            page.keyboard.type("Rise of the locks")
            page.keyboard.press("Enter")
            page.keyboard.type("x")
            expect(sheet.locator("caption")).to_have_text("Rise of the locks")
            expect(sheet.locator("th").first).to_have_text("xa")
            page.get_by_role("button", name="Remove the table").click()
            expect(sheet.locator("table")).to_have_count(0)
            page.get_by_role("button", name="Undo").click()
            expect(sheet.locator("caption")).to_have_text("Rise of the locks")
            self.axe(page, "a table and its particulars")

    def test_a_wide_table_scrolls_on_a_phone_and_the_page_does_not(self):
        wide = table([cell(f"Column {n}", header=True) for n in range(9)], [cell("value") for _ in range(9)])
        self.write(self.walks, document(paragraph("Before."), wide))
        self.put_live(self.walks)
        with self.window(320, 640, user=None) as reader:
            reader.goto(self.address(self.walks))
            sizes = reader.evaluate(
                """() => { const box = document.querySelector('.table')
                  return [box.scrollWidth > box.clientWidth, document.documentElement.scrollWidth] }"""
            )
            self.assertEqual(sizes, [True, 320])
            reader.locator(".table").focus()
            reader.keyboard.press("ArrowRight")
            expect(reader.locator(".table")).not_to_have_js_property("scrollLeft", 0)
            self.axe(reader, "a wide table on a phone")

    def test_chromium_tells_a_screen_reader_which_cells_are_headers(self):
        # Chromium's accessibility tree is the reference for HTML-AAM's mapping of th and caption.
        node = table(
            [cell("Lock", header=True), cell("Rise", header=True)],
            [cell("Lock 4", header=True), cell("2 m")],
            caption="Locks",
        )
        self.write(self.walks, document(node))
        self.put_live(self.walks)
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            expect(reader.get_by_role("table", name="Locks")).to_be_visible()
            expect(reader.get_by_role("columnheader")).to_have_text(["Lock", "Rise"])
            expect(reader.get_by_role("rowheader")).to_have_text(["Lock 4"])
            expect(reader.get_by_role("cell")).to_have_text(["2 m"])
