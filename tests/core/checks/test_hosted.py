"""Checks of films at other hosts."""

from ..documents import hosted, paragraph
from .base import CheckTest


class Hosted(CheckTest):
    def test_a_film_that_its_host_does_not_show_is_told_with_what_the_host_said(self):
        self.check = "hosted-gone"
        self.assertIn("has this film no more", self.assertFound(hosted(42)).sentence)
        self.assertIn("Readers get a link", self.assertFound(hosted(43)).sentence)
        self.assertMended(hosted(42, caption="Over the gates"), into=(paragraph("Over the gates"),))
        self.assertRight(hosted(40), hosted(41), hosted(99))

    def test_1_2_2_somebody_has_seen_that_it_has_captions(self):
        self.check = "hosted-uncaptioned"
        self.assertEqual(self.assertFound(hosted(40)).severity, "look")
        # Of what nobody can see any more, nothing is asked.
        self.assertRight(hosted(41), hosted(42), hosted(43))

    def test_one_that_the_library_no_longer_has_blocks(self):
        self.check = "film-gone"
        self.assertEqual(self.assertFound(hosted(99)).severity, "blocks")
        # A film of the library is none that stands elsewhere.
        self.assertFound(hosted(20))
        self.assertRight(hosted(40), hosted(42), hosted(43))

    def test_one_in_the_bin_is_told(self):
        self.check = "item-binned"
        self.assertFound(hosted(44))
