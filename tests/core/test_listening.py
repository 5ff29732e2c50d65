"""What is heard of each kind of block. The tree behind it is held to Chromium's in `tests/outside`; the words in which
roles are told are common practice."""

from unittest import TestCase

from stillpage_core.document.node import Mark
from stillpage_core.writing.listening import heard, marked_html, spoken

from .checks.base import KNOWN
from .documents import (
    aside,
    bulleted,
    call_to_action,
    cell,
    divider,
    document,
    equation,
    formula,
    heading,
    item,
    link,
    numbered,
    paragraph,
    picture,
    quotation,
    table,
    words,
)


def lines(*blocks):
    return list(spoken(heard(f'<html lang="en"><body>{marked_html(document(*blocks), KNOWN)}</body></html>')))


def said(*blocks):
    return [line.says for line in lines(*blocks)]


class Said(TestCase):
    def test_headings_with_their_level_and_links_within(self):
        self.assertEqual(
            said(heading(2, "Short ", words("walks", link("page:1")))), ["heading level 2, Short walks", "link, walks"]
        )
        self.assertEqual(said(heading(3)), ["heading level 3, empty"])

    def test_lists_with_their_number_of_items_and_numbers(self):
        nested = bulleted(item(paragraph("one")), item(paragraph("two"), numbered(item(paragraph("a")), start=4)))
        self.assertEqual(
            said(nested), ["list, 2 items", "one", "two", "list, 1 item", "4. a", "end of list", "end of list"]
        )
        self.assertEqual([line.depth for line in lines(nested)], [0, 1, 1, 1, 2, 1, 0])

    def test_links_with_kind_size_and_new_window(self):
        told = words("Boat licence form (PDF, 212 kB)", link("item:7", new_window=True))
        self.assertEqual(
            said(paragraph("See ", told, ".")), ["See", "link, Boat licence form, PDF, 212 kB, opens in a new window"]
        )
        self.assertEqual(said(call_to_action("Apply", "page:1")), ["link, Apply"])
        # A link that readers cannot follow is heard as its words.
        self.assertEqual(said(paragraph(words("gone", link("page:99")))), ["gone"])

    def test_pictures_by_their_alt_text_and_decoration_not_at_all(self):
        self.assertEqual(
            said(picture(2, caption="Built in 1847")), ["graphic, Four tall arches", "caption, Built in 1847"]
        )
        self.assertEqual(said(picture(3)), [])

    def test_cells_with_what_names_them_also_where_cells_are_joined(self):
        grid = table(
            [cell("Lock", header=True), cell("Rise", header=True), cell("Gates", header=True)],
            [cell("Staircase", header=True, down=2), cell("3 m"), cell()],
            [cell("2 m"), cell(bulleted(item(paragraph("new"))))],
            caption="The locks",
        )
        self.assertEqual(
            said(grid),
            [
                "Table: The locks, region",
                "table, The locks, 3 rows, 3 columns",
                "row 1, column header, Lock",
                "column header, Rise",
                "column header, Gates",
                "row 2, row header, Staircase",
                "Staircase, Rise, 3 m",
                "Staircase, Gates, empty",
                "row 3, Staircase, Rise, 2 m",
                "Staircase, Gates, list, 1 item",
                "new",
                "end of list",
                "end of table",
            ],
        )

    def test_two_tables_without_a_caption_are_two_regions(self):
        self.assertEqual(
            [line.says for line in lines(table([cell("a")]), table([cell("b")])) if line.stop == "landmark"],
            ["Table, region", "Table, 2, region"],
        )

    def test_quotations_asides_dividers_and_equations(self):
        self.assertEqual(
            said(quotation(paragraph("Shut it."), source="The diary")),
            ["quotation", "Shut it.", "end of quotation", "caption, The diary"],
        )
        self.assertEqual(
            said(aside("tip", paragraph("Bring a torch."))), ["note, Tip", "Bring a torch.", "end of note"]
        )
        self.assertEqual(said(divider()), ["separator"])
        for latex, spoken_so in (
            ("x^2", "x squared"),
            (r"\frac{a}{b}", "fraction a over b end fraction"),
            (r"\sqrt{2 g h}", "square root of 2 g h end root"),
            (r"\mu \le 3", "mu less than or equal to 3"),
            ("a_1 + a_2", "a sub 1 plus a sub 2"),
        ):
            self.assertEqual(said(equation(latex)), [f"equation, {spoken_so}"])
        self.assertEqual(said(paragraph("of ", formula("x"))), ["of", "equation, x"])

    def test_each_line_knows_its_language_and_its_place(self):
        french = paragraph("A lock is an ", words("écluse", Mark("language", {"code": "fr"})), " there.")
        self.assertEqual(
            [(line.says, line.language, line.path) for line in lines(heading(2, "a"), french)],
            [
                ("heading level 2, a", "en", (0, 0)),
                ("A lock is an", "en", (0, 1)),
                ("écluse", "fr", (0, 1)),
                ("there.", "en", (0, 1)),
            ],
        )
