"""Checks of films and sounds, by the success criteria and techniques that are named."""

from dataclasses import replace

from ..documents import film, paragraph, sound
from .base import FULL, CheckTest


class Films(CheckTest):
    def test_1_2_2_and_technique_g87_a_film_with_sound_has_captions(self):
        self.check = "film-without-captions"
        self.assertIn("no captions", self.assertFound(film(20)).sentence)
        self.assertIn("not been given", self.assertFound(film(26)).sentence)
        # 1.2.2 asks for captions of what is heard: a silent film needs none, nor does one that is not there yet.
        self.assertRight(film(21), film(22), film(23), sound(30))

    def test_1_2_1_and_technique_g158_the_words_of_a_sound(self):
        self.check = "sound-without-transcript"
        self.assertIn("no captions", self.assertFound(sound(30)).sentence)
        self.assertMended(sound(31), into=(sound(31, transcript="folded"),))
        self.assertMended(film(21), into=(film(21, transcript="folded"),))
        self.assertRight(film(20), film(22), sound(31, transcript="below"))

    def test_captions_that_were_drafted_are_checked_by_somebody(self):
        self.check = "captions-unchecked"
        self.assertIn("were drafted", self.assertFound(film(25)).sentence)
        self.assertRight(film(21))

    def test_what_the_rules_of_captions_find_is_told_with_its_number(self):
        self.check = "captions-wanting"
        said = self.assertFound(film(25)).sentence
        self.assertIn("2 places where something is heard and none stands, 1 with something else", said)
        self.assertRight(film(21))

    def test_a_film_that_is_gone_or_is_none_blocks_and_leaves_its_caption(self):
        self.check = "film-gone"
        self.assertEqual(self.assertFound(film(99)).severity, "blocks")
        self.assertMended(film(99, caption="The lock"), into=(paragraph("The lock"),))
        self.assertMended(sound(20), into=(paragraph(),))
        self.assertRight(film(20), sound(30))

    def test_a_film_that_nobody_can_play_yet_blocks(self):
        self.check = "film-not-ready"
        finding = self.assertFound(film(23))
        self.assertEqual(finding.severity, "blocks")
        self.assertIn("40 %", finding.sentence)
        self.assertIn("It breaks off.", self.assertFound(film(24)).sentence)
        self.assertRight(film(20))

    def test_2_2_2_a_film_that_begins_by_itself_is_told(self):
        self.check = "film-starts"
        self.assertIn("65 seconds", self.assertFound(film(20, autoplay=True)).sentence)
        self.assertMended(film(20, autoplay=True, loop=True), into=(film(20, loop=True),))
        self.assertRight(film(20, loop=True))

    def test_a_film_that_everybody_loads_is_weighed(self):
        self.check = "film-heavy"
        self.assertIn("5 MB", self.assertFound(film(20, autoplay=True)).sentence)
        self.assertMended(film(20, autoplay=True), into=(film(20),))
        self.assertRight(film(20), sound(30))

    def test_a_film_that_is_large_for_a_page_is_told_where_a_limit_is_set(self):
        self.check = "film-large"
        few = replace(FULL, film_limit=4_000_000)
        self.assertIn("5 MB", self.assertFound(film(20), around=few).sentence)
        self.assertRight(film(20), sound(30), around=replace(FULL, film_limit=10_000_000))
        self.assertRight(film(20))

    def test_4_1_2_a_player_is_named_by_what_is_seen(self):
        self.check = "film-untitled"
        self.assertIn("MVI_0042", self.assertFound(film(22)).sentence)
        self.assertRight(film(20), sound(30))

    def test_an_item_in_the_bin_is_told_of_films_too(self):
        self.check = "item-binned"
        self.assertFound(film(27))
        self.assertRight(film(20))
