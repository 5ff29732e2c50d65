"""Signs by name, contrast, words and weight, and two texts laid side by side."""

import unicodedata
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from stillpage_core.colour import ColourError, contrast, parse_colour
from stillpage_core.measuring import count_words, measure
from stillpage_core.resolving import FixedResolver, ImageFile, PictureTarget
from stillpage_core.signs import find_signs

from .documents import document, heading, paragraph, picture


class Signs(TestCase):
    def found(self, words):
        return [sign.text.removesuffix("\ufe0f") for sign in find_signs(words)]

    def test_signs_are_found_by_what_people_call_them(self):
        for words, sign in (
            ("euro", "€"),
            ("arrow right", "→"),
            ("degree", "°"),
            ("tick", "✓"),
            ("half", "½"),
            ("hard space", "\u00a0"),
            ("dog", "🐕"),
            ("anchor", "⚓"),
        ):
            self.assertIn(sign, self.found(words)[:3], words)

    def test_names_are_those_of_the_unicode_character_database(self):
        for sign in find_signs("arrow", most=50):
            self.assertEqual(unicodedata.lookup(sign.name.upper()), sign.text[0])

    def test_a_sign_finds_itself_and_nonsense_finds_nothing(self):
        self.assertEqual(self.found("§")[0], "§")
        self.assertEqual(self.found("zzzz"), [])
        self.assertEqual(self.found("  "), [])

    @given(st.text(max_size=20))
    def test_any_words_may_be_asked_for(self, words):
        self.assertLessEqual(len(find_signs(words)), 12)


class Contrast(TestCase):
    def test_the_ratios_that_wcag_names(self):
        # WCAG 2.2, “contrast ratio”: from 1 (no contrast) to 21 (black on white).
        self.assertAlmostEqual(contrast(parse_colour("#000000"), parse_colour("#fff")), 21)
        self.assertAlmostEqual(contrast(parse_colour("#abcdef"), parse_colour("#abcdef")), 1)
        # #767676 is the lightest grey that reaches 4.5:1 on white (from memory; common in WCAG's techniques).
        self.assertGreaterEqual(contrast(parse_colour("#767676"), parse_colour("#ffffff")), 4.5)
        self.assertLess(contrast(parse_colour("#777777"), parse_colour("#ffffff")), 4.5)

    def test_what_is_no_colour_is_refused(self):
        for text in ("", "red", "#12", "#12345g"):
            with self.assertRaises(ColourError):
                parse_colour(text)


class Measuring(TestCase):
    def test_words_are_counted_as_people_count_them(self):
        self.assertEqual(count_words("It’s a 3.5-mile walk, isn’t it? At 10:30 – or later."), 10)
        self.assertEqual(count_words(" … — "), 0)

    def test_time_and_weight(self):
        files = (
            ImageFile("/a", 480, 320, 10_000),
            ImageFile("/b", 1440, 960, 90_000),
            ImageFile("/c", 2000, 1300, 200_000),
        )
        known = FixedResolver(pictures={1: PictureTarget(1, "Lock", "", files, width=3000, height=1950)})
        text = document(heading(2, "Two words"), paragraph("lock " * 236), picture(1), picture(1))
        found = measure(text, known)
        self.assertEqual((found.words, found.seconds), (238, 60))
        # The picture counts once, as the file that a dense screen takes; the rest is the page itself.
        self.assertGreater(found.weight, 90_000)
        self.assertLess(found.weight, 91_000)
        self.assertLess(measure(document(paragraph("a")), known).weight, 200)
