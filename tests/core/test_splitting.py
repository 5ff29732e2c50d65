"""Text split into words and sentences."""

from unittest import TestCase

from hypothesis import example, given
from hypothesis import strategies as st

from stillpage_core.splitting import WORD, sentences, words_of


def parts_of(text: str) -> list[str]:
    return [text[start:end] for start, end in sentences(text)]


class Words(TestCase):
    def test_words(self):
        self.assertEqual(
            words_of("It’s the lock-keeper’s 2.5 kg, isn't it?"),
            tuple("it's the lock keeper's 2.5 kg isn't it".split()),
        )

    @given(st.text("aBé9٣'’‘“”\"-–…_.,: \u00a0\n\t\U0001f4dc", max_size=40))
    @example("rock ''n'' roll")
    @example("‘don‘t’")
    @example("İstanbul")
    def test_the_quick_way_finds_what_the_pattern_finds(self, text):
        self.assertEqual(words_of(text), tuple(WORD.findall(text.lower().replace("’", "'"))))


class Sentences(TestCase):
    def test_points_that_end_no_sentence(self):
        for text in (
            "Ask Mrs. Osier at no. 4, e.g. on Monday.",
            "It is 2.1 m deep.",
            "J. R. Osier wrote it.",
            "Open 9 a.m. to 5 p.m. daily.",
        ):
            self.assertEqual(parts_of(text), [text])

    def test_what_ends_one(self):
        self.assertEqual(parts_of("One. Two! Three? Four… Five"), ["One.", "Two!", "Three?", "Four…", "Five"])
        self.assertEqual(parts_of("“Shut it.” He did."), ["“Shut it.”", "He did."])
        self.assertEqual(parts_of("It was I. So it was."), ["It was I.", "So it was."])
        self.assertEqual(parts_of("a line\nanother"), ["a line", "another"])
        self.assertEqual(parts_of(" \n "), [])

    @given(st.text("aB1.!?…”) \n\u00a0", max_size=40))
    def test_every_letter_stands_in_one_sentence_and_none_begins_or_ends_with_space(self, text):
        parts = parts_of(text)
        self.assertEqual("".join("".join(parts).split()), "".join(text.split()))
        self.assertEqual(parts, [part.strip() for part in parts if part.strip()])
