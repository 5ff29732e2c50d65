"""What a repair is said to make of the words, before it is done."""

from stillpage_core.checking import Repair
from stillpage_core.checking.showing import AROUND, LONGEST, shown
from stillpage_core.document.changes import MarkWords, ReplaceNodes, ReplaceText, SetAttributes, SetFact, apply
from stillpage_core.document.walking import text_of

from ..documents import bulleted, cell, document, item, paragraph, picture, words
from .base import CheckTest


class Showing(CheckTest):
    def of(self, node, *changes):
        return shown(node, Repair("So", changes))

    def test_replaced_words_stand_between_those_around_them(self):
        text = (
            "The gate is is shut from Monday to Friday, every week of the winter, as it has been since the cut was dug."
        )
        at = text.index(" is shut")
        (line,) = self.of(document(paragraph(text)), ReplaceText((0, 0), at, at + 3, ""))
        self.assertEqual(line, "The gate is shut from Monday to Fri…")
        far = text.index("winter")
        (line,) = self.of(document(paragraph(text)), ReplaceText((0, 0), far, far + 6, "summer"))
        self.assertTrue(line.startswith("…") and line.endswith("…"))
        self.assertIn("every week of the summer, as it", line)
        self.assertLessEqual(len(line), 2 * AROUND + len("summer") + 2)

    def test_several_changes_of_one_block_are_shown_at_once_as_they_will_be(self):
        before = document(paragraph("A \U0001f6a4 BOAT AND ", words("A LOCK"), " ARE HERE"))
        changes = (
            ReplaceText((0, 0), 5, 9, "boat"),
            ReplaceText((0, 0), 10, 13, "and"),
            ReplaceText((0, 0), 14, 20, "a lock"),
        )
        (line,) = self.of(before, *changes)
        self.assertEqual(line, "A \U0001f6a4 boat and a lock ARE HERE")
        self.assertEqual(text_of(apply(before, changes)), line)

    def test_new_blocks_facts_and_alt_texts_are_shown_and_marks_are_not(self):
        text = document(paragraph("- one"), paragraph("- two"), picture(1))
        made = bulleted(item(paragraph("one")), item(paragraph("two")))
        lines = self.of(text, ReplaceNodes((0, 0), 2, (made,)))
        self.assertEqual([line.strip("• -") for line in lines], ["one", "two"])
        self.assertEqual(self.of(text, ReplaceNodes((0, 0), 1, ())), [])
        self.assertEqual(self.of(text, ReplaceNodes((0, 0), 1, (cell("x"),))), [])
        self.assertEqual(self.of(text, SetFact("title", "Towpath walks")), ["Towpath walks"])
        self.assertEqual(self.of(text, SetAttributes((0, 2), {"alt": "Closed gates"})), ["Closed gates"])
        self.assertEqual(self.of(text, SetAttributes((0, 2), {"width": 300})), [])
        self.assertEqual(self.of(text, MarkWords((0, 0), 0, 2, "strong", {})), [])

    def test_much_is_cut_short(self):
        (line,) = self.of(document(paragraph("x")), ReplaceNodes((0, 0), 1, (paragraph("long " * 200),)))
        self.assertEqual((len(line), line[-1]), (LONGEST, "…"))
        many = tuple(paragraph(f"{number}") for number in range(30))
        self.assertEqual(len(self.of(document(paragraph("x")), ReplaceNodes((0, 0), 1, many))), 8)
