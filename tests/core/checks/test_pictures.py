"""Checks of pictures and of the items of the library. Examples come from the techniques and failures that are named."""

from ..documents import heading, item, numbered, paragraph, picture
from .base import CheckTest


class AltText(CheckTest):
    def test_failure_f65_no_alt_text_at_all(self):
        self.check = "picture-without-alt"
        self.assertEqual(self.assertFound(picture(1)).severity, "blocks")
        self.assertMended(picture(1), into=(picture(1, decorative=True),))
        self.assertFound(picture(1, "  "))
        self.assertEqual(self.assertFound(numbered(item(paragraph("a"), picture(1)))).path, (0, 0, 0, 1))

    def test_techniques_h37_and_h67_alt_text_of_the_item_or_of_the_page_or_decoration(self):
        self.check = "picture-without-alt"
        self.assertRight(picture(2), picture(1, "Closed gates"), picture(1, decorative=True), picture(3))

    def test_a_picture_that_is_gone_blocks_and_leaves_its_caption(self):
        self.check = "picture-gone"
        self.assertMended(paragraph("a"), picture(99), into=(paragraph("a"),))
        self.assertMended(picture(99, caption="The gates"), into=(paragraph("The gates"),))
        self.assertRight(picture(1))

    def test_failure_f30_the_name_of_a_file(self):
        self.check = "picture-alt-file-name"
        # F30's examples: "picture1.jpg", "spacer", "picture", "0001".
        for alt in ("picture1.jpg", "spacer", "picture", "0001", "IMG_20260412_0081.jpg", "DSC00412", "Photo 12"):
            self.assertFound(picture(1, alt))
        for alt in ("Lock 4", "The picture gallery of the museum", "Gates, 1847", "a"):
            self.assertRight(picture(1, alt))
        self.assertMended(picture(2, "IMG_0412.png"), into=(picture(2),))

    def test_picture_of(self):
        self.check = "picture-alt-opening"
        self.assertMended(picture(1, "A picture of closed gates"), into=(picture(1, "Closed gates"),))
        self.assertFound(picture(1, "photo showing the aqueduct"))
        for alt in ("Pictures of the aqueduct hang on a wall", "Imagery", "A map of the canal"):
            self.assertRight(picture(1, alt))

    def test_too_long_for_one_breath(self):
        self.check = "picture-alt-long"
        self.assertFound(picture(1, "The gates are shut, and the water stands high behind them. " * 5))
        self.assertRight(picture(1, "The gates are shut, and the water stands high behind them."))

    def test_technique_h2_the_same_words_twice(self):
        self.check = "picture-alt-twice"
        self.assertMended(
            picture(2, caption="Four tall arches."), into=(picture(2, caption="Four tall arches.", decorative=True),)
        )
        self.assertFound(heading(2, "Four tall arches"), picture(2))
        self.assertFound(picture(2), paragraph("Four tall arches!"))
        self.assertRight(picture(2, caption="Built in 1847"), paragraph("It has four tall arches."))

    def test_failure_f39_a_decoration_with_words(self):
        self.check = "picture-decorative-worded"
        self.assertMended(picture(1, "Closed gates", decorative=True), into=(picture(1, decorative=True),))
        self.assertRight(picture(1, decorative=True), picture(1, "Closed gates"))


class Files(CheckTest):
    def test_a_picture_is_never_larger_than_its_original(self):
        self.check = "picture-enlarged"
        self.assertMended(picture(2, width=1600), into=(picture(2),))
        self.assertFound(picture(2, width=700, crop="0,0,5000,5000"))
        self.assertRight(picture(2, width=1200), picture(2))

    def test_a_heavy_picture(self):
        self.check = "picture-heavy"
        self.assertIn("900 kB", self.assertFound(picture(6)).sentence)
        self.assertRight(picture(2))

    def test_1_4_5_and_technique_g140_words_in_a_picture(self):
        self.check = "picture-of-words"
        self.assertFound(picture(4))
        self.assertRight(picture(2), picture(4, decorative=True))

    def test_2_2_2_and_technique_g152_what_moves_longer_than_five_seconds(self):
        self.check = "moves-by-itself"
        self.assertIn("for ever", self.assertFound(picture(5)).sentence)
        self.assertRight(picture(2))

    def test_an_item_in_the_bin(self):
        self.check = "item-binned"
        self.assertFound(picture(17))
        self.assertRight(picture(2))
