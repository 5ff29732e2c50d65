"""Films and sounds in documents: as readers get them, in files, and coming in from other people's pages.

What the elements must say: HTML Living Standard, 4.8.8 to 4.8.11.
"""

import zipfile
from dataclasses import replace
from io import BytesIO
from unittest import TestCase

from selectolax.lexbor import LexborHTMLParser

from stillpage_core.document.naming import named_in
from stillpage_core.document.node import make
from stillpage_core.formats import FORMATS
from stillpage_core.measuring import measure
from stillpage_core.media.playing import length_in_words, sources
from stillpage_core.media.shown import Room
from stillpage_core.reading import Arriving, read_html, with_pictures
from stillpage_core.reading.source import read_source
from stillpage_core.writing import plain_text, policy_of, published_html, storable_html
from stillpage_core.writing.carrying import Carried, PictureFile
from stillpage_core.writing.listening import heard, marked_html, spoken
from stillpage_core.writing.source import source_html

from .checks.base import ENGLISH, KNOWN
from .documents import body, document, film, paragraph, picture, sound

SHOWN = replace(ENGLISH, paragraphs=("Piet: The gate <opens>.", "Then wait."))
RESOLVER = replace(
    KNOWN, films={**KNOWN.films, 21: replace(KNOWN.films[21], tracks=(SHOWN,)), 31: replace(KNOWN.films[31])}
)


def published(*blocks, rooms=None):
    return published_html(document(*blocks), RESOLVER, rooms, lambda name: f"/static/{name}")


def tree(*blocks):
    return LexborHTMLParser(published(*blocks))


class AsReadersGetIt(TestCase):
    def test_a_player_says_its_name_size_cover_files_and_words(self):
        player = tree(film(21)).css_first("video")
        said = player.attributes
        self.assertEqual((said["width"], said["height"], said["poster"]), ("720", "405", "/media/10-1280.jpg"))
        self.assertEqual((said["aria-label"], said["preload"]), ("How to open a sluice", "none"))
        self.assertIn("controls", said)
        self.assertNotIn("autoplay", said)
        files = [(each.attributes["src"], each.attributes.get("media")) for each in player.css("source")]
        self.assertEqual(
            files,
            [("/media/small.mp4", "(max-width: 700px)"), ("/media/film.webm", None), ("/media/film.mp4", None)],
        )
        track = player.css_first("track").attributes
        self.assertEqual(
            (track["kind"], track["srclang"], track["label"], track["src"]),
            ("captions", "en", "English", "/media/en.vtt"),
        )
        self.assertEqual(player.css_first("a").text(), "How to open a sluice (MP4, 6 MB, 1 min 5 s)")

    def test_a_film_stands_as_a_picture_would(self):
        made = tree(film(21, width=320, place="end", space="much", border="frame", caption="Slowly, <slowly>"))
        self.assertEqual(made.css_first("video").attributes["height"], "180")
        held = made.css_first("div.film").attributes
        self.assertEqual((held["data-place"], held["data-space"], held["data-border"]), ("end", "much", "frame"))
        self.assertEqual(made.css_first("figcaption").text(), "Slowly, <slowly>")
        rooms = {"main": Room(500, 900)}
        self.assertIn('width="500"', published(film(21), rooms=rooms))
        self.assertIn('width="900"', published(film(21, place="wide"), rooms=rooms))

    def test_covers_are_stills_of_the_film_or_pictures_of_the_library(self):
        for cover, address in (
            (None, "/media/10-1280.jpg"),
            ("still-50", "/media/50-1280.jpg"),
            ("at-61000", "/media/10-1280.jpg"),
            ("item-2", "/media/b.jpg"),
            ("item-99", "/media/10-1280.jpg"),
        ):
            self.assertEqual(tree(film(21, cover=cover)).css_first("video").attributes["poster"], address)
        self.assertEqual(tree(film(21, width=300)).css_first("video").attributes["poster"], "/media/10-320.jpg")
        self.assertEqual(named_in(document(film(21, cover="item-2"))).pictures, {2})
        self.assertEqual(named_in(document(film(21, cover="item-2"))).items, {21})

    def test_what_begins_by_itself_has_no_sound_and_is_started_by_a_script_alone(self):
        html = published(film(21, autoplay=True), film(20, autoplay=True, loop=True))
        player = LexborHTMLParser(html).css_first("video").attributes
        self.assertIn("muted", player)
        self.assertIn("data-starts", player)
        self.assertNotIn("autoplay", player)
        self.assertEqual(html.count('<script type="module" src="/static/film.js"></script>'), 1)
        self.assertNotIn("script", published(film(21, loop=True)))
        self.assertIn("media-src 'self'", policy_of(document(film(21))))
        self.assertNotIn("script-src", policy_of(document(film(21))))
        self.assertIn("script-src 'self'", policy_of(document(film(21, autoplay=True))))

    def test_the_words_of_it_stand_below_or_behind_a_press(self):
        folded = tree(film(21, transcript="folded")).css_first("details.transcript")
        self.assertEqual(folded.css_first("summary").text(), "Transcript")
        self.assertEqual([each.text() for each in folded.css("p")], ["Piet: The gate <opens>.", "Then wait."])
        self.assertEqual(folded.attributes["lang"], "en")
        self.assertEqual(len(tree(film(21, transcript="below")).css("div.transcript p")), 3)
        self.assertIsNone(tree(film(20, transcript="below")).css_first(".transcript"))

    def test_a_sound_is_named_below_its_player(self):
        made = tree(sound(31))
        self.assertEqual(made.css_first("figcaption").text(), "A warden tells more")
        self.assertEqual(made.css_first("audio").attributes["aria-label"], "A warden tells more")
        self.assertEqual(tree(sound(31, caption="Told in May")).css_first("figcaption").text(), "Told in May")

    def test_what_is_not_there_or_cannot_be_played_is_left_out(self):
        for number in (23, 99):
            self.assertNotIn("video", published(film(number)))

    def test_what_a_reader_loads_before_pressing_play_is_weighed(self):
        empty = measure(document(paragraph()), RESOLVER).weight
        cover = measure(document(film(21)), RESOLVER).weight - empty
        self.assertAlmostEqual(cover, 90_000, delta=1500)
        self.assertGreater(measure(document(film(21, autoplay=True)), RESOLVER).weight, 5_000_000)
        self.assertLess(measure(document(sound(31)), RESOLVER).weight - empty, 1500)

    def test_what_is_heard(self):
        page = f"<body>{marked_html(document(film(21, caption='Slowly', transcript='folded'), sound(31)), RESOLVER)}"
        lines = [line.says for line in spoken(heard(page)) if line.path]
        self.assertEqual(
            lines,
            [
                "film, How to open a sluice",
                "caption, Slowly",
                "Transcript, collapsed",
                "sound, A warden tells more",
                "caption, A warden tells more",
            ],
        )

    def test_lengths_in_words(self):
        for milliseconds, words in (
            (400, "1 s"),
            (40_000, "40 s"),
            (60_000, "1 min"),
            (125_400, "2 min 5 s"),
            (3_600_000, "1 h"),
            (7_500_000, "2 h 5 min"),
        ):
            self.assertEqual(length_in_words(milliseconds), words)

    def test_a_sound_has_its_formats_in_order(self):
        target = KNOWN.films[31]
        newer = replace(target.files[0], address="/media/s.weba", mime="audio/webm")
        found = sources(replace(target, files=(*target.files, newer)))
        self.assertEqual([each.mime for each in found], ["audio/webm", "audio/mp4"])


CARRIED = Carried(
    "Locks",
    {50: PictureFile("lock.jpg", "image/jpeg", b"\xff\xd8\xff", 640, 360, "Through the lock")},
    lambda href: f"https://canal.example/media/{href[5:]}.mp4" if href.startswith("item:") else href,
    films={
        21: replace(
            RESOLVER.films[21],
            files=tuple(
                replace(each, address=f"https://canal.example{each.address}") for each in RESOLVER.films[21].files
            ),
        )
    },
    covers={21: {"": 50}},
)
TEXT = document(film(21, caption="Slowly", transcript="below"), paragraph("After it."))


class InFiles(TestCase):
    def test_a_word_processor_gets_the_cover_a_link_the_caption_and_the_words(self):
        for ending, inside in (("docx", "word/document.xml"), ("odt", "content.xml")):
            with zipfile.ZipFile(BytesIO(FORMATS[ending].write(TEXT, CARRIED))) as archive:
                text = archive.read(inside).decode()
                names = archive.namelist()
                links = text + "".join(archive.read(name).decode() for name in names if name.endswith(".rels"))
            for words in ("How to open a sluice (MP4, 6 MB", "Slowly", "Piet: The gate &lt;opens&gt;.", "After it."):
                self.assertIn(words, text, ending)
            self.assertIn("https://canal.example/media/21.mp4", links, ending)
            self.assertTrue(any(name.endswith(".jpg") for name in names), ending)

    def test_text_has_its_name_its_address_and_its_words(self):
        text = FORMATS["txt"].write(TEXT, CARRIED).decode()
        self.assertIn(
            "[How to open a sluice (MP4, 6 MB, 1 min 5 s)]\nhttps://canal.example/media/film.mp4\nSlowly", text
        )
        self.assertIn("Then wait.", text)
        self.assertEqual(plain_text(TEXT), "Slowly\n\nAfter it.\n")

    def test_html_and_markdown_play_it_from_where_readers_get_it(self):
        html = FORMATS["html"].write(TEXT, CARRIED).decode()
        self.assertIn('src="https://canal.example/media/film.mp4"', html)
        self.assertIn('poster="pictures/50-lock.jpg"', html)
        text = FORMATS["md"].write(TEXT, CARRIED).decode()
        self.assertIn('<video src="https://canal.example/media/21.mp4"', text)

    def test_without_its_item_the_caption_stays(self):
        for ending, form in FORMATS.items():
            data = form.write(TEXT, Carried("Locks"))
            if ending in ("docx", "odt"):
                with zipfile.ZipFile(BytesIO(data)) as archive:
                    data = archive.read("word/document.xml" if ending == "docx" else "content.xml")
            self.assertIn(b"Slowly", data, ending)


class ComingIn(TestCase):
    def read(self, html):
        arriving = Arriving()
        reading = read_html(html, arriving)
        return reading, body(reading.document)

    def test_players_of_other_pages_become_films_and_sounds(self):
        reading, blocks = self.read(
            '<p>Before</p><video src="a/lock%204.mp4" width="400" loop autoplay muted title="Lock"></video>'
            '<figure><audio controls><source src="https://b.example/w.ogg?x"><source src="https://b.example/w.mp3">'
            "<a href='w.mp3'>Take it away</a></audio><figcaption>A warden</figcaption></figure><p>After</p>"
        )
        kinds = [(each.kind, each.address, each.name, each.alt) for each in reading.pictures]
        self.assertEqual(
            kinds,
            [("film", "a/lock%204.mp4", "lock%204.mp4", "Lock"), ("sound", "https://b.example/w.mp3", "w.mp3", "")],
        )
        numbers = [each.number for each in reading.pictures]
        self.assertEqual(
            blocks,
            (
                paragraph("Before"),
                film(numbers[0], width=400, loop=True, autoplay=True),
                sound(numbers[1], caption="A warden"),
                paragraph("After"),
            ),
        )
        settled = with_pictures(reading.document, {numbers[0]: 20, numbers[1]: None})
        self.assertEqual(
            body(settled),
            (
                paragraph("Before"),
                film(20, width=400, loop=True, autoplay=True),
                paragraph("A warden"),
                paragraph("After"),
            ),
        )

    def test_a_page_of_ours_comes_back_with_everything_but_what_is_the_items(self):
        given = (
            film(21, caption="Slowly", place="end", space="much", border="line", transcript="folded", width=300),
            sound(31, transcript="below"),
        )
        html = published(*given)
        reading, blocks = self.read(html)
        numbers = [each.number for each in reading.pictures]
        self.assertEqual(blocks[0], given[0].with_attrs(item=numbers[0]))
        self.assertEqual(blocks[1].kind, "sound")
        self.assertEqual([each.address for each in reading.pictures], ["/media/film.mp4", "/media/s.m4a"])
        self.assertNotIn("gate", plain_text(reading.document))

    def test_a_player_without_a_file_is_told(self):
        reading, blocks = self.read("<p>a</p><video controls></video><p>b</p>")
        self.assertEqual(blocks, (paragraph("a"), paragraph("b")))
        self.assertIn("A video was left out", reading.messages[0].sentence)

    def test_a_film_may_stand_where_a_picture_may(self):
        _, blocks = self.read("<ul><li><p>a</p><video src='item:21'></video></li></ul>")
        self.assertEqual(blocks[0].content[0].content, (paragraph("a"), film(21)))

    def test_the_source_view_writes_reads_and_does_not_complain_of_it(self):
        text = document(
            film(21, caption="Slowly", width=320, cover="at-1500", transcript="below", loop=True, autoplay=True),
            sound(31, loop=True),
            picture(2),
        )
        html, _ = source_html(text)
        self.assertIn('<video src="item:21" loop autoplay></video>', html)
        reading = read_source(html)
        self.assertEqual(reading.reading.document, text)
        self.assertEqual([note.sentence for note in reading.notes], [])
        told = read_source("<p>a</p>\n<video src='https://a.example/x.mp4'></video>\n")
        self.assertIn("a video, will be left out", told.notes[0].sentence)
        self.assertEqual(body(told.reading.document), (paragraph("a"),))

    def test_what_is_not_well_said_is_left_out(self):
        html = storable_html(document(film(21))).replace(
            'class="film"', 'class="film" data-place="nowhere" data-width="99999" data-cover="javascript:x"'
        )
        self.assertEqual(body(read_html(html).document), (make("film", item=21),))
