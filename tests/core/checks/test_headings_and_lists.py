"""Checks of headings, lists and tables. Examples come from the techniques and failures that each test names."""

from stillpage_core.document.node import Node, make

from ..documents import (
    EMPHASIS,
    STRONG,
    bulleted,
    cell,
    formula,
    heading,
    item,
    numbered,
    paragraph,
    picture,
    table,
    words,
)
from .base import CheckTest, findings


def lines(*texts: str) -> Node:
    content = []
    for index, text in enumerate(texts):
        content += [make("line_break")] if index else []
        content += [words(text)] if text else []
    return paragraph(*content)


class HeadingSkipped(CheckTest):
    check = "heading-skipped"

    def test_the_order_of_technique_g141_is_right(self):
        # G141: headings nested by level; going back up by more than one level is right too.
        self.assertRight(heading(2, "a"), heading(3, "b"), heading(4, "c"), heading(2, "d"))

    def test_a_level_left_out_is_found_where_it_stands_and_mended(self):
        finding = self.assertFound(heading(2, "a"), paragraph("x"), heading(4, "b"))
        self.assertEqual(finding.path, (0, 2))
        self.assertIn("“b” is of level 4, but stands below a heading of level 2", finding.sentence)
        self.assertMended(heading(2, "a"), heading(4, "b"), into=(heading(2, "a"), heading(3, "b")))

    def test_the_title_is_level_1_so_a_text_may_not_begin_with_level_3(self):
        self.assertIn("the page's title", self.assertFound(heading(3, "a")).sentence)

    def test_what_stands_below_moves_along(self):
        before = tuple(heading(level, str(level)) for level in (4, 5, 4, 2))
        levels = zip((2, 3, 2, 2), before, strict=True)
        self.assertMended(*before, into=tuple(each.with_attrs(level=level) for level, each in levels))

    def test_each_skip_is_one_finding(self):
        self.assertFound(heading(4, "a"), heading(6, "b"), times=2)


class HeadingsAsSuch(CheckTest):
    def test_h69_and_2_4_10_a_long_text_needs_headings(self):
        self.check = "heading-missing"
        long = paragraph("The towpath is wide here. " * 70)
        self.assertFound(long)
        self.assertRight(long, heading(2, "Parking"))
        self.assertRight(paragraph("The towpath is wide here. " * 20))

    def test_h42_and_failure_f43_a_heading_without_words(self):
        self.check = "heading-empty"
        self.assertMended(paragraph("a"), heading(2), into=(paragraph("a"),))
        self.assertMended(heading(3), into=(paragraph(),))
        self.assertFound(heading(2, "   "))
        # An equation gives no name: neither axe-core nor Chromium takes MathML for one.
        self.assertEqual(self.assertFound(heading(2, formula("x^2"))).repairs, ())
        self.assertRight(heading(2, "Parking"))
        # Taken away, it would leave the one below without the level above: nothing is offered then.
        [finding] = [
            each for each in findings(heading(2, "a"), heading(3), heading(4, "b")) if each.check == "heading-empty"
        ]
        self.assertEqual(finding.repairs, ())

    def test_a_sentence_is_no_heading(self):
        self.check = "heading-long"
        self.assertFound(
            heading(2, "What you should know of the state of the towpath before you set out on a walk in winter")
        )
        self.assertRight(heading(2, "The towpath in winter"))

    def test_failure_f2_and_technique_h42_a_bold_line_that_acts_as_a_heading(self):
        self.check = "heading-painted"
        # F2's example: a paragraph whose words are only made to look like a heading.
        self.assertMended(
            heading(2, "Walks"),
            paragraph(words("What to bring", STRONG)),
            paragraph("Boots."),
            into=(heading(2, "Walks"), heading(3, "What to bring"), paragraph("Boots.")),
        )
        self.assertMended(
            paragraph(words("BEFORE YOU ", STRONG), words("GO", STRONG, EMPHASIS)),
            paragraph("Boots."),
            into=(heading(2, "Before you ", words("go", EMPHASIS)), paragraph("Boots.")),
        )
        for right in (
            (paragraph(words("Keep off the ice.", STRONG)), paragraph("It is thin.")),  # A sentence.
            (paragraph(words("Bring", STRONG), " boots"), paragraph("x")),
            (paragraph(words("At the end", STRONG)),),
            (heading(2, words("Strong", STRONG)), paragraph("x")),
        ):
            self.assertRight(*right)

    def test_a_heading_all_in_capitals(self):
        self.check = "heading-capitals"
        self.assertMended(
            heading(2, "HOW TO ", words("APPLY", EMPHASIS), "! THEN WAIT"),
            into=(heading(2, "How to ", words("apply", EMPHASIS), "! Then wait"),),
        )
        for right in ("How to apply", "VCT", "Lock 4", "DIN A4", "運河の歩き方"):
            self.assertRight(heading(2, right))

    def test_technique_g130_the_same_heading_twice_in_one_part(self):
        self.check = "heading-same-words"
        finding = self.assertFound(heading(2, "Walks"), heading(3, "Parking"), heading(3, "parking."))
        self.assertEqual(finding.path, (0, 2))
        self.assertRight(heading(2, "Walks"), heading(3, "Parking"), heading(2, "Boats"), heading(3, "Parking"))

    def test_headings_side_by_side_have_one_form(self):
        # Common practice: items of the same sort on one page have headings of the same form.
        self.check = "heading-forms"
        finding = self.assertFound(heading(2, "Lock 4"), heading(2, "Lock 5"), heading(2, "The sixth lock"))
        self.assertEqual(finding.path, (0, 2))
        self.assertFound(heading(2, "Where is it?"), heading(2, "When is it open?"), heading(2, "Prices"))
        self.assertFound(heading(2, "1. Apply"), heading(2, "2. Pay"), heading(2, "Wait"))
        self.assertRight(heading(2, "Lock 4"), heading(2, "Lock 5"), heading(2, "Lock 6"))
        self.assertRight(heading(2, "Lock 4"), heading(2, "Lock 5"), heading(2, "The aqueduct"))
        self.assertRight(heading(2, "Where is it?"), heading(2, "Prices"))
        bold = [heading(2, words(name, STRONG)) for name in ("Gates", "Sluices")]
        self.assertEqual(self.assertFound(*bold, heading(2, "Bridges")).path, (0, 2))
        self.assertEqual(
            self.assertFound(heading(2, "A"), heading(2, "B", align="centre"), heading(2, "C")).path, (0, 1)
        )
        self.assertRight(*bold)
        # Of one part each, so not side by side.
        self.assertRight(heading(2, "Lock 4"), heading(3, "The sixth lock"), heading(2, "Lock 5"), heading(2, "Lock 6"))


class Lists(CheckTest):
    def test_technique_h48_and_failure_f2_typed_markers_are_no_list(self):
        self.check = "list-typed"
        made = (bulleted(item(paragraph("gloves")), item(paragraph("boots"))),)
        self.assertMended(paragraph("- gloves"), paragraph("- boots"), into=made)
        self.assertMended(lines("• gloves", "• boots"), into=made)
        self.assertMended(
            paragraph("3. Shut the gates"),
            paragraph("4. Open the paddles"),
            into=(numbered(item(paragraph("Shut the gates")), item(paragraph("Open the paddles")), start=3),),
        )
        self.assertFound(table([cell(paragraph("* a"), paragraph("* b"))]))
        for right in ("- one dash alone", "1. January was cold", "2.1 m deep", "-5 degrees", "gloves - boots"):
            self.assertRight(paragraph(right))
        self.assertRight(*made)

    def test_a_list_of_one(self):
        self.check = "list-of-one"
        self.assertMended(bulleted(item(paragraph("gloves"))), into=(paragraph("gloves"),))
        self.assertRight(bulleted(item(paragraph("a")), item(paragraph("b"))))
        self.assertRight(numbered(item(paragraph("A note."), anchor="a-note")))
        self.assertRight(numbered(item(paragraph("goes on")), start=3))

    def test_technique_h48_a_list_broken_in_two(self):
        self.check = "list-broken"
        a, b, c = (item(paragraph(each)) for each in "abc")
        self.assertMended(bulleted(a, b), paragraph(), paragraph(" "), bulleted(c), into=(bulleted(a, b, c),))
        self.assertMended(numbered(a, b), numbered(c, start=3), into=(numbered(a, b, c),))
        for right in (
            (numbered(a, b), paragraph(), numbered(c)),
            (bulleted(a, b), paragraph("and"), bulleted(c)),
            (bulleted(a, b), numbered(c)),
        ):
            self.assertRight(*right)

    def test_technique_h48_short_lines_with_breaks_may_be_a_list(self):
        self.check = "list-as-breaks"
        made = bulleted(*(item(paragraph(each)) for each in ("gloves", "boots", "a hat")))
        bring = paragraph("Bring:")
        self.assertMended(bring, lines("gloves", "boots", "a hat"), into=(bring, made))
        self.assertMended(lines("Bring:", "gloves", "boots", "a hat"), into=(bring, made))
        for right in (
            lines("gloves", "boots"),
            lines("Varrow Canal Trust", "The Old Toll House", "Lockside"),
            lines("The gates are shut,", "and nobody waits.", "So it is."),
            lines("- gloves", "- boots", "- a hat"),  # Found as a typed list.
        ):
            self.assertRight(right)


class Tables(CheckTest):
    def test_techniques_h51_and_h63_and_failure_f91_a_table_without_headers(self):
        self.check = "table-without-header"
        rows = [["Lock", "Rise"], ["Lock 4", "2.1 m"]]
        plain = table(*([cell(each) for each in row] for row in rows))
        first_row = table([cell("Lock", header=True), cell("Rise", header=True)], [cell("Lock 4"), cell("2.1 m")])
        self.assertMended(plain, into=(first_row,))
        first_column = table([cell("Lock", header=True), cell("Rise")], [cell("Lock 4", header=True), cell("2.1 m")])
        self.assertMended(plain, into=(first_column,), repair=1)
        self.assertRight(first_row)

    def test_technique_h63_every_cell_of_a_larger_table_is_named(self):
        self.check = "table-cell-unnamed"
        head, plain = [cell(each, header=True) for each in "abc"], [cell(each) for each in "xyz"]
        self.assertRight(table(head, plain, plain))
        self.assertRight(table(*([cell(each, header=True), cell("x"), cell("y")] for each in "abc")))
        finding = self.assertFound(table(plain, [cell("a", header=True), cell("x"), cell("y")], plain))
        self.assertIn("6 cells", finding.sentence)
        self.assertRight(table(plain[:2], [cell("a", header=True), cell("x")]))  # Small enough to be seen through.

    def test_technique_h51_a_header_cell_names_something(self):
        self.check = "table-header-empty"
        headed = table([cell(header=True), cell("Rise", header=True)], [cell("Lock 4", header=True), cell("2.1 m")])
        plain = table([cell(), cell("Rise", header=True)], [cell("Lock 4", header=True), cell("2.1 m")])
        self.assertMended(headed, into=(plain,))
        self.assertRight(table([cell(picture(2), header=True), cell("b", header=True)], [cell("c"), cell("d")]))
        self.assertFound(table([cell(picture(3), header=True), cell("b", header=True)], [cell("c"), cell("d")]))

    def test_failures_f46_and_f49_a_table_for_layout(self):
        self.check = "table-for-layout"
        self.assertMended(
            table([cell(picture(2)), cell(paragraph("Beside the picture."))]),
            into=(picture(2), paragraph("Beside the picture.")),
        )
        self.assertFound(table([cell("one")], [cell("two")]))
        pieces = [cell(picture(2), paragraph("a")), cell(paragraph("b"), paragraph("c"))]
        self.assertFound(table(pieces, pieces))
        self.assertRight(table([cell("Lock"), cell("Rise")], [cell("4"), cell("2.1 m")]))
        self.assertRight(table([cell("Lock 4", header=True), cell("2.1 m")]))

    def test_technique_h39_captions_where_there_are_several_tables(self):
        self.check = "table-without-caption"
        rows = ([cell("Lock", header=True), cell("Rise", header=True)], [cell("4"), cell("2.1 m")])
        self.assertRight(table(*rows))
        self.assertFound(table(*rows, caption="Rise of the locks"), table(*rows))
        self.assertRight(table(*rows, caption="Rise of the locks"), table(*rows, caption="Depth of the pounds"))
