"""Captions: WebVTT and SRT in and out, what is wrong with them, repairs, drafts and transcripts."""

import contextlib
import io
import itertools
import tempfile
from pathlib import Path
from unittest import TestCase

import webvtt
from hypothesis import given
from hypothesis import strategies as st

from stillpage_core.__main__ import main
from stillpage_core.media.captions import (
    CaptionError,
    Cue,
    check_captions,
    draft,
    loud_stretches,
    read_captions,
    transcript,
    write_srt,
    write_webvtt,
)
from stillpage_core.media.captions.checking import RULES, mend_all
from stillpage_core.media.captions.cues import one_line, plain_text
from stillpage_core.media.captions.notes import Film
from stillpage_core.media.captions.times import FASTEST, seconds
from stillpage_core.media.captions.wording import LONGEST_LINE, balanced
from stillpage_core.media.captions.writing import clock

# The same text as a reader would put it down: signs that mean something in one of the formats are frequent.
LETTERS = st.one_of(st.sampled_from(list("<>&-;:{}\\/ \n.aA1é’…→“")), st.characters(codec="utf-8"))
TEXT = st.text(LETTERS, min_size=1, max_size=60).map(plain_text).filter(bool)
NAME = st.text(LETTERS, max_size=20).map(one_line)
SETTINGS = st.sampled_from(["", "line:0", "position:10%,line-left align:left size:35%", "vertical:rl"])


@st.composite
def cues(draw, *, least=1, settings=SETTINGS, speaker=NAME):
    made, moment = [], 0
    for _ in range(draw(st.integers(least, 12))):
        begin = moment + draw(st.integers(0, 4_000))
        moment = begin + draw(st.integers(1, 9_000))
        made.append(Cue(begin, moment, draw(TEXT), draw(speaker), "", draw(settings)))
    return tuple(made)


def told(data: str) -> list[str]:
    return list(read_captions(data.encode()).told)


class ThereAndBack(TestCase):
    @given(cues())
    def test_any_cues_survive_webvtt(self, given_cues):
        read = read_captions(write_webvtt(given_cues, language="cy").encode())
        self.assertEqual(read.cues, given_cues)
        self.assertEqual((read.language, read.told), ("cy", ()))

    @given(cues(settings=st.just(""), speaker=st.just("")))
    def test_any_cues_survive_srt(self, given_cues):
        read = read_captions(write_srt(given_cues).encode())
        self.assertEqual(read.cues, given_cues)
        self.assertEqual(read.told, ())

    @given(cues(speaker=st.just(""), settings=st.just("")))
    def test_an_independent_parser_finds_the_same_cues(self, given_cues):
        """webvtt-py, which reads WebVTT and SRT."""
        plain = [Cue(each.begin, each.end, f"x{''.join(c for c in each.words if c.isalnum())}") for each in given_cues]
        with tempfile.TemporaryDirectory() as folder:
            for ending, text, read in (
                ("vtt", write_webvtt(plain), webvtt.read),
                ("srt", write_srt(plain), webvtt.from_srt),
            ):
                path = Path(folder, f"cues.{ending}")
                path.write_text(text, encoding="utf-8")
                found = [(each.start, each.end, each.text) for each in read(str(path))]
                wanted = [(clock(each.begin, "."), clock(each.end, "."), each.text) for each in plain]
                self.assertEqual(found, wanted)

    @given(cues())
    def test_srt_keeps_who_speaks_in_the_words(self, given_cues):
        read = read_captions(write_srt(given_cues).encode())
        spoken = [plain_text(each.spoken) for each in given_cues]
        self.assertEqual([each.text for each in read.cues], spoken)


class WebVTT(TestCase):
    """Examples and rules of https://www.w3.org/TR/webvtt1/, by section; given from memory."""

    def read(self, text):
        return read_captions(text.encode())

    def test_head_names_settings_and_comments(self):
        """Sections 1.1 to 1.5 and 4.1."""
        read = self.read(
            "WEBVTT - Lock 4 by hand\nKind: captions\nLanguage: en-GB\n\nSTYLE\n::cue(b) { color: red }\n\n"
            "NOTE for whoever corrects this\n\nopening\n00:11.000 --> 00:13.000 align:left size:50%\n"
            "<v Fern Hollis>We are at lock 4.\n\n01:00:16.000 --> 01:00:18.250\nThe gate, the paddle,\nthe beam.\n"
        )
        self.assertEqual(
            read.cues,
            (
                Cue(11_000, 13_000, "We are at lock 4.", "Fern Hollis", "opening", "align:left size:50%"),
                Cue(3_616_000, 3_618_250, "The gate, the paddle,\nthe beam."),
            ),
        )
        self.assertEqual(read.language, "en-GB")
        self.assertEqual(
            read.told, ("Of the file, styles (1) are not kept.", "Of the file, comments (1) are not kept.")
        )

    def test_entities_tags_and_stamps(self):
        """Section 4.2.2: cue text is b, i, u, c, lang, ruby, v, time stamps and entities."""
        read = self.read(
            "WEBVTT\n\n00:00.000 --> 00:05.000\n<00:00.000><c.loud>Mind</c> <i>the</i> <lang cy>gât</lang> &lt;4&gt; "
            "&amp; &nbsp;<ruby>lock<rt>loc</rt></ruby>\n"
        )
        self.assertEqual(read.cues[0].text, "Mind the gât <4> & lock (loc)")

    def test_two_voices_in_a_cue_keep_both_names(self):
        read = self.read("WEBVTT\n\n00:00.000 --> 00:05.000\n<v Fern>Is it full?</v>\n<v.near Wren>Nearly.</v>\n")
        self.assertEqual(read.cues[0].text, "Fern: Is it full?\nWren: Nearly.")
        self.assertEqual(read.cues[0].speaker, "")

    def test_a_cue_needs_no_empty_line_before_it_and_any_line_end_will_do(self):
        """Section 6.1, steps of collecting a block: an arrow ends a cue; CR, LF and CRLF end lines."""
        read = self.read("\ufeffWEBVTT\r\r00:01.000 --> 00:02.000\rOne\r00:02.000 --> 00:03.000\rTwo\r")
        self.assertEqual([each.text for each in read.cues], ["One", "Two"])

    def test_words_that_a_browser_would_drop_are_kept_or_told(self):
        said = told("WEBVTT\n\n00:01.000 --> soon\nKept\n\nwords alone\n\n00:09.000 --> 00:08.000\nBackwards\n")
        self.assertIn("Line 3", said[0])
        self.assertIn("“words alone”", said[1])
        self.assertIn("ends before it begins", said[2])
        said = told("WEBVTT\n\n00:01.000 --> 00:02.000\n<Wren> Ask for <the #4 key>\n")
        self.assertIn("“<Wren>” (1) was left out", said[0])
        self.assertIn("“<the #4 key>” (1) was left out", said[1])

    def test_minutes_beyond_59_are_no_time(self):
        self.assertIn("no times", told("WEBVTT\n\n00:61.000 --> 00:62.000\nA\n")[0])

    def test_no_signature_no_webvtt(self):
        with self.assertRaisesRegex(CaptionError, "no captions"):
            self.read("WEBVTTX\n\nwords\n")


class SRT(TestCase):
    def read(self, text):
        return read_captions(text if isinstance(text, bytes) else text.encode())

    def test_common_forms(self):
        read = self.read(
            "1\n00:00:01,5 --> 00:00:03,000 X1:10 X2:20\n<font color=red><i>Stand</i></font> clear!\n\n"
            "2\n00:00:04.000-->00:00:06.000\n{\\an8}4\n\n\nstill the same cue\n3\n00:00:07,000 --> 00:00:08,000\nEnd\n"
        )
        self.assertEqual(
            read.cues,
            (
                Cue(1_500, 3_000, "Stand clear!"),
                Cue(4_000, 6_000, "4\nstill the same cue", settings="line:0"),
                Cue(7_000, 8_000, "End"),
            ),
        )
        self.assertEqual(len(read.told), 1)

    def test_other_encodings_are_read_and_told(self):
        self.assertEqual(self.read("1\n00:00:01,000 --> 00:00:02,000\ncaffè\n".encode("utf-16")).cues[0].text, "caffè")
        read = self.read("1\n00:00:01,000 --> 00:00:02,000\ncaffè\n".encode("cp1252"))
        self.assertEqual(read.cues[0].text, "caffè")
        self.assertIn("Windows-1252", read.told[0])
        for words, encoding in (
            ("Żółta łódź płynie przez kanał", "cp1250"),
            ("宇宙守护神 保护我们远离邪恶", "gb18030"),
        ):
            read = self.read(f"1\n00:00:01,000 --> 00:00:02,000\n{words}\n".encode(encoding))
            self.assertEqual(read.cues[0].text, words)
            self.assertIn(encoding, read.told[0])
        with_mark = "1\n00:00:01,000 --> 00:00:02,000\ncaffè\n".encode("utf-32")
        self.assertEqual((self.read(with_mark).cues[0].text, self.read(with_mark).told), ("caffè", ()))

    def test_a_colon_before_the_thousandths_is_the_point_that_was_meant(self):
        self.assertEqual(self.read("1\n00:00:07,000 --> 00:00:11:890\nOpen\n").cues, (Cue(7_000, 11_890, "Open"),))


class Hostile(TestCase):
    def test_too_large_too_many_too_long(self):
        cue = "00:00:01,000 --> 00:00:02,000\nA\n\n"
        for data, why in (
            (b"WEBVTT\n" + b"x" * (5 << 20), "bytes"),
            ((cue * 30_000).encode(), "more than 20,000 cues"),
            (("WEBVTT\n\n" + cue * 30_000).encode(), "more than 20,000 cues"),
            (f"{cue.strip()}{'A' * 9_000}\n".encode(), "9,001 characters"),
            (b"", "no captions"),
            (b"\x7fELF\x01\x00" * 4000, "no captions"),
        ):
            with self.subTest(why), self.assertRaisesRegex(CaptionError, why):
                read_captions(data)

    @given(st.binary(max_size=400), st.booleans())
    def test_any_bytes_are_read_or_refused(self, data, webvtt_head):
        with contextlib.suppress(CaptionError):
            read_captions((b"WEBVTT\n\n00:01.000 --> 00:02.000\n" if webvtt_head else b"") + data)


def rules(cues_, **film):
    return [note.rule for note in check_captions(cues_, **film)]


class Rules(TestCase):
    def test_what_is_right_has_no_note(self):
        good = (
            Cue(0, 2_500, "Wind the paddle down."),
            Cue(2_500, 6_000, "Then wait until the water\nstands level on both sides."),
            Cue(7_000, 9_000, "[Water rushes]"),
        )
        self.assertEqual(rules(good, length=10_000, loud=[(0, 6_000), (7_200, 8_800)]), [])

    def test_speed_is_told_from_the_published_figure_on(self):
        """180 words a minute: three words a second."""
        words = "one two three four five six."
        self.assertEqual(rules([Cue(0, 2_000, words)]), [])
        note = check_captions([Cue(0, 1_500, words)], length=1_800)[0]
        self.assertEqual((note.rule, note.repair), ("fast", None))
        self.assertIn("240 words", note.sentence)
        note = check_captions([Cue(0, 1_500, words)], length=2_000)[0]
        self.assertEqual(note.repair.applied([Cue(0, 1_500, words)])[0].lasts, 6 * 60_000 // FASTEST)

    def test_each_rule_finds_its_fault_and_its_repair_mends_it(self):
        long = "This line is much longer than any line of a caption should ever be, is it not."
        for rule, given_cues in {
            "order": (Cue(5_000, 7_000, "B."), Cue(1_000, 3_000, "A.")),
            "no-time": (Cue(5_000, 5_000, "Nobody sees this."),),
            "overlap": (Cue(0, 3_000, "A."), Cue(2_000, 5_000, "B.")),
            "flicker": (Cue(0, 2_960, "A."), Cue(3_000, 5_000, "B.")),
            "after-end": (Cue(18_000, 21_000, "The end."),),
            "short": (Cue(0, 500, "Ah."), Cue(9_000, 11_000, "B.")),
            "lines": (Cue(0, 9_000, long),),
            "punctuation": (Cue(0, 2_000, "It is full"), Cue(2_000, 4_000, "Open the gate.")),
            "capitals": (Cue(0, 4_000, "MIND THE OPEN GATE."),),
        }.items():
            with self.subTest(rule):
                notes = [note for note in check_captions(given_cues, length=20_000) if note.rule == rule]
                self.assertEqual(len(notes), 1)
                mended = notes[0].repair.applied(given_cues)
                self.assertNotIn(rule, rules(mended, length=20_000))

    def test_what_only_somebody_who_listens_can_mend(self):
        self.assertEqual(rules([Cue(0, 3_000, "– Is it full?\n– Nearly.")]), ["speaker"])
        self.assertEqual(rules([Cue(0, 3_000, "– Fern: Is it full?")]), [])
        notes = check_captions([Cue(0, 2_000, "A."), Cue(8_000, 9_000, "B.")], loud=[(500, 6_000), (8_000, 12_000)])
        self.assertEqual(
            [(note.rule, note.cue, note.at) for note in notes], [("uncovered", 1, 2_000), ("uncovered", 2, 9_000)]
        )

    def test_a_sound_needs_no_full_stop_and_a_sentence_may_go_on(self):
        self.assertEqual(rules([Cue(0, 2_000, "[Water rushes]"), Cue(2_000, 4_000, "Open it.")]), [])
        self.assertEqual(rules([Cue(0, 2_000, "because"), Cue(2_000, 4_000, "I know it.")]), [])

    @given(cues())
    def test_repairs_keep_all_words_in_order_and_all_times(self, given_cues):
        every = lambda them: "".join("".join(each.words.split()) for each in them).casefold().replace(".", "")  # noqa: E731
        mended = mend_all(given_cues, length=10_000_000)
        self.assertEqual(every(mended), every(given_cues))
        self.assertTrue(all(one.begin <= two.begin for one, two in itertools.pairwise(mended)))
        self.assertTrue(all(each.end > each.begin for each in mended))
        for note in check_captions(given_cues, length=10_000_000):
            if note.repair:
                self.assertEqual(every(note.repair.applied(given_cues)), every(given_cues))

    @given(st.text(st.sampled_from(list("abc ,.")), max_size=300))
    def test_broken_lines_have_the_same_words_and_fit(self, text):
        lines = balanced(text)
        self.assertEqual(" ".join(lines).split(), text.split())
        self.assertTrue(all(len(line) <= LONGEST_LINE or " " not in line for line in lines))

    def test_the_work_grows_with_the_number_of_cues(self):
        """Every rule looks at each cue and its neighbours alone: counted, not timed."""

        class Counted(list):
            looks = 0

            def __getitem__(self, index):
                Counted.looks += 1
                return super().__getitem__(index)

            def __iter__(self):
                for each in super().__iter__():
                    Counted.looks += 1
                    yield each

        def looks(number):
            Counted.looks = 0
            made = Counted(Cue(i * 3_000, i * 3_000 + 2_000, "It is full") for i in range(number))
            loud = [(i * 1_000, i * 1_000 + 900) for i in range(number * 3)]
            for rule in RULES:
                list(rule(made, Film(number * 3_000, loud)))
            return Counted.looks

        self.assertLess(looks(2_000), 2.2 * looks(1_000))


class Drafts(TestCase):
    WORDS = (
        "Fern Hollis: We are at lock 4. Before you open anything, look whether a boat is coming; it has the right of "
        "way, and the warden will tell you so.\n\nWren: And then?\nFern Hollis: Wind the paddle up."
    )

    def test_words_are_spread_over_what_is_loud(self):
        made = draft(self.WORDS, length=60_000, loud=[(2_000, 12_000), (30_000, 40_000)])
        self.assertEqual(made[0].begin, 2_000)
        self.assertEqual(made[-1].end, 40_000)
        self.assertEqual([each.speaker for each in made][-2:], ["Wren", "Fern Hollis"])
        self.assertFalse({"lines", "overlap", "order", "no-time"} & set(rules(made, length=60_000)))

    def test_a_transcript_of_a_draft_is_the_words_again(self):
        made = draft(self.WORDS, length=60_000)
        self.assertEqual("\n".join(transcript(made)).split(), self.WORDS.split())

    @given(
        st.text(st.sampled_from(list("abcd .,\n")), min_size=1, max_size=500).filter(str.strip),
        st.integers(600, 90_000),
    )
    def test_any_words_become_cues_in_order_and_none_is_lost(self, text, length):
        made = draft(text, length=length, loud=[(100, 300), (400, 550)])
        self.assertEqual(" ".join(each.words for each in made).split(), text.split())
        self.assertTrue(all(0 <= each.begin < each.end <= length for each in made))
        self.assertTrue(all(one.end <= two.begin for one, two in itertools.pairwise(made)))

    def test_no_words_and_no_room_are_refused(self):
        for text, length in (("  \n", 5_000), ("A. " * 9, 0)):
            with self.assertRaises(CaptionError):
                draft(text, length=length)

    def test_speech_stands_out_from_the_ground(self):
        levels = [-62.0] * 40 + [-24.0] * 30 + [-60.0] * 4 + [-28.0] * 30 + [-61.0] * 60 + [-20.0] * 3 + [-62.0] * 20
        self.assertEqual(loud_stretches(levels), [(2_000, 5_200)])
        self.assertEqual(loud_stretches([-90.0] * 200), [])
        self.assertEqual(loud_stretches([-20.0] * 200), [(0, 10_000)])
        self.assertEqual(seconds(1_300), "1.3 s")


class FromAShell(TestCase):
    def test_a_transcript_becomes_captions_and_these_another_format(self):
        with tempfile.TemporaryDirectory() as folder, contextlib.redirect_stderr(io.StringIO()) as said:
            words, vtt, srt, text = (Path(folder, name) for name in ("in.txt", "a.vtt", "b.srt", "c.txt"))
            words.write_text(Drafts.WORDS, encoding="utf-8")
            self.assertEqual(main(["captions", str(words), str(vtt), "--lasts", "30"]), 0)
            self.assertEqual(main(["captions", str(vtt), str(srt)]), 0)
            self.assertEqual(main(["captions", str(vtt), str(text)]), 0)
            self.assertEqual(text.read_text(encoding="utf-8").split(), Drafts.WORDS.split())
            self.assertEqual(len(read_captions(srt.read_bytes()).cues), len(read_captions(vtt.read_bytes()).cues))
            self.assertEqual(main(["captions", str(words), str(vtt)]), 2)
            self.assertEqual(main(["captions", str(vtt), str(Path(folder, "d.doc"))]), 2)
            self.assertEqual(main(["captions", str(Path(folder, "none.vtt"))]), 2)
        self.assertIn("--lasts", said.getvalue())
