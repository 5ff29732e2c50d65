"""Captions as Chromium's own reader of WebVTT sees them: the same cues, the same words, the same speakers."""

import random
from unittest import TestCase

from stillpage_core.media.captions import Cue, read_captions, write_webvtt
from stillpage_core.media.captions.cues import plain_text

from ..chromium import new_page

READ = """(file) => new Promise((ready, failed) => {
  const track = document.createElement('track')
  track.kind = 'captions'
  track.onload = () => ready([...track.track.cues].map((cue) => {
    const shown = cue.getCueAsHTML()
    const voice = shown.querySelector('[title]')
    return [Math.round(cue.startTime * 1000), Math.round(cue.endTime * 1000), shown.textContent, voice?.title ?? '']
  }))
  track.onerror = () => failed(new Error('not read'))
  track.src = 'data:text/vtt;charset=utf-8,' + encodeURIComponent(file)
  const video = document.createElement('video')
  video.append(track)
  document.body.append(video)
  track.track.mode = 'hidden'
})"""
SIGNS = [*"abcxyz AEé’…“<>&;:/-.", "\n", "&amp;", "<b>", "</v>", "-->", "{\\an8}", "00:01.000"]


class Captions(TestCase):
    def setUp(self) -> None:
        self.page = self.enterContext(new_page())

    def seen(self, file: str) -> list[tuple[int, int, str, str]]:
        return [tuple(each) for each in self.page.evaluate(READ, file)]

    def test_what_is_written_is_what_a_browser_shows(self):
        chance = random.Random(18)
        for _ in range(30):
            cues, moment = [], 0
            for _ in range(chance.randint(1, 12)):
                begin = moment + chance.randint(0, 3_000)
                moment = begin + chance.randint(1, 5_000)
                text = plain_text("".join(chance.choices(SIGNS, k=chance.randint(1, 40)))) or "a"
                speaker = chance.choice(["", "Fern Hollis", "A & B <of> us"])
                cues.append(Cue(begin, moment, text, speaker))
            wanted = [(each.begin, each.end, each.text, each.speaker) for each in cues]
            self.assertEqual(self.seen(write_webvtt(cues)), wanted)

    def test_foreign_files_are_read_as_a_browser_reads_them(self):
        """Where a browser shows a cue, we have the same; what it leaves out, we tell, or keep for somebody to mend."""
        for file in (
            "WEBVTT\n\n1\n00:01.000 --> 00:02.000 align:start\n<v.loud Fern>Stand <i>clear</i>!</v>\n",
            "WEBVTT comment\nKind: captions\n\nNOTE\nnothing\n\n00:00:01.000 --> 00:00:02.500\nA &lt;b&gt; &nbsp;C\n",
            "WEBVTT\n\n00:01.000-->00:02.000\nno blanks around the arrow\n",
            "WEBVTT\r\n\r\n00:01.000 --> 00:02.000\r\nOne\r\nTwo\r\n\r\n99:00:01.000 --> 99:00:02.000\r\nlate\r\n",
            "WEBVTT\n\nNOTE x\n00:01.000 --> 00:02.000\nits name begins like a comment\n",
            "WEBVTT\n\n00:01.000 --> 00:02.000\n<00:01.500>timed <c.a.b>words</c> <lang cy>a</lang> <u><b>b</b></u>\n",
        ):
            with self.subTest(file):
                cues = read_captions(file.encode()).cues
                ours = [(each.begin, each.end, plain_text(each.text)) for each in cues]
                theirs = [
                    (begin, end, plain_text(text.replace("\xa0", " "))) for begin, end, text, _ in self.seen(file)
                ]
                self.assertEqual(ours, theirs)
