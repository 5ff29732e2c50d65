"""Checks of the page as a whole."""

from dataclasses import replace

from stillpage_core.document.changes import SetFact

from ..documents import paragraph
from .base import FULL, CheckTest

TEXT = paragraph("Three walks begin at the wharf. The longest takes half a day.")


class ThePage(CheckTest):
    def test_2_4_2_technique_g88_and_failure_f25_a_title_that_says_what_the_page_is(self):
        self.check = "title-missing"
        # F25's examples: "Untitled Document", "No title", "Page"; common practice: the rest.
        for title in ("", " ", "Untitled Document", "No title", "New page", "Page 2", "Copy of Visit", "Visit copy"):
            self.assertFound(TEXT, around=replace(FULL, title=title))
        for title in ("Towpath walks", "Home for old boats", "Copying old plans", "The title deeds"):
            self.assertRight(TEXT, around=replace(FULL, title=title))

    def test_technique_g88_a_title_of_its_own(self):
        self.check = "title-double"
        doubled = replace(FULL, titles={"towpath walks": "/visit/walks-2", "visit": "/visit"})
        self.assertIn("/visit/walks-2", self.assertFound(TEXT, around=doubled).sentence)
        self.assertRight(TEXT, around=replace(FULL, titles={"visit": "/visit"}))

    def test_a_title_is_cut_off_by_its_width_not_by_its_letters(self):
        self.check = "title-wide"
        self.assertFound(TEXT, around=replace(FULL, title="W" * 40))
        self.assertRight(TEXT, around=replace(FULL, title="il" * 40))
        long_name = replace(
            FULL, site="The Varrow Canal Trust for the Restoration of all its Locks and Bridges and Banks"
        )
        self.assertIn("Title and site name", self.assertFound(TEXT, around=long_name).sentence)

    def test_a_description(self):
        self.check = "description-missing"
        finding = self.assertFound(TEXT, around=replace(FULL, description=""))
        [change] = finding.repairs[0].changes
        self.assertEqual(
            change, SetFact("description", "Three walks begin at the wharf. The longest takes half a day.")
        )
        self.assertRight(TEXT)
        self.check = "description-double"
        self.assertFound(TEXT, around=replace(FULL, descriptions={FULL.description.casefold(): "/other"}))
        self.assertRight(TEXT)
        self.check = "description-cut"
        self.assertFound(TEXT, around=replace(FULL, description="x" * 161))
        self.assertRight(TEXT, around=replace(FULL, description="x" * 160))

    def test_an_address(self):
        self.check = "address-unfit"
        for path in ("/visit/new-page-2", "/7", "/walks-copy", "/" + "very-long-" * 8):
            self.assertFound(TEXT, around=replace(FULL, path=path))
        for path in ("/", "/visit/towpath-walks", "/locks-4-to-6"):
            self.assertRight(TEXT, around=replace(FULL, path=path))

    def test_a_budget(self):
        self.check = "page-heavy"
        self.assertIn("1 MB", self.assertFound(TEXT, around=replace(FULL, weight=1_400_000)).sentence)
        self.assertRight(TEXT)
