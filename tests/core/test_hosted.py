"""Films at other hosts in documents: as readers get them, in files, and coming in from other people's pages.

What may be loaded: Content Security Policy Level 3, 6.1.7 (frame-src). What a link's name is: WCAG 2.2, 2.4.4.
"""

import zipfile
from dataclasses import replace
from io import BytesIO
from unittest import TestCase

from selectolax.lexbor import LexborHTMLParser

from stillpage_core.document.naming import named_in
from stillpage_core.formats import FORMATS
from stillpage_core.measuring import measure
from stillpage_core.reading import read_html
from stillpage_core.reading.source import read_source
from stillpage_core.writing import plain_text, policy_of, published_html, storable_html
from stillpage_core.writing.carrying import Carried, PictureFile
from stillpage_core.writing.listening import heard, marked_html, spoken
from stillpage_core.writing.source import source_html

from .checks.base import HEADGATE, KNOWN
from .documents import body, document, hosted, paragraph


def published(*blocks, known=KNOWN):
    return published_html(document(*blocks), known, None, lambda name: f"/static/{name}")


def tree(*blocks, known=KNOWN):
    return LexborHTMLParser(published(*blocks, known=known))


class AsReadersGetIt(TestCase):
    def test_a_link_to_the_host_with_cover_title_and_length_and_nothing_of_the_host_itself(self):
        html = published(hosted(40, caption="Seen <from> below"))
        link = LexborHTMLParser(html).css_first("a.press")
        self.assertEqual(link.attributes["href"], "https://films.example/watch/40")
        self.assertEqual(" ".join(link.text().split()), "Over the aqueduct Headgate Films, 2 min 5 s")
        cover = link.css_first("img").attributes
        self.assertEqual((cover["src"], cover["alt"], cover["loading"]), ("/media/b.jpg", "", "lazy"))
        self.assertEqual((cover["width"], cover["height"]), ("720", "405"))
        self.assertNotIn("<iframe", html)
        self.assertIn("<figcaption>Seen &lt;from&gt; below</figcaption>", html)
        self.assertIn('<script type="module" src="/static/hosted.js"></script>', html)

    def test_the_player_is_told_what_it_honours_and_nothing_else(self):
        frame = tree(hosted(40, start=90, captions=True, muted=True, loop=True)).css_first("a").attributes["data-frame"]
        self.assertEqual(frame, "https://play.films.example/40?key=a%26b&t=90&cc=1&begin=1")
        plain = tree(hosted(40)).css_first("a").attributes["data-frame"]
        self.assertEqual(plain, "https://play.films.example/40?key=a%26b&begin=1")

    def test_one_without_a_cover_has_its_proportions_all_the_same(self):
        empty = tree(hosted(41, width=320)).css_first("a svg").attributes
        self.assertEqual((empty["width"], empty["height"], empty["aria-hidden"]), ("320", "180", "true"))

    def test_a_cover_of_the_library_takes_the_place_of_the_hosts(self):
        other = replace(KNOWN.pictures[2], files=(replace(KNOWN.pictures[2].files[1], address="/media/own.jpg"),))
        known = replace(KNOWN, pictures={**KNOWN.pictures, 2: other})
        self.assertEqual(
            tree(hosted(40, cover="item-2"), known=known).css_first("img").attributes["src"], "/media/own.jpg"
        )
        self.assertEqual(tree(hosted(40, cover="item-99")).css_first("img").attributes["src"], "/media/b.jpg")
        self.assertEqual(named_in(document(hosted(40, cover="item-2"))).pictures, {2})

    def test_a_page_may_load_frames_from_just_that_origin(self):
        policy = policy_of(document(hosted(40)), KNOWN)
        self.assertIn("; frame-src https://play.films.example; script-src 'self'", policy)
        for number in (43, 99):
            self.assertEqual(policy_of(document(hosted(number)), KNOWN), policy_of())

    def test_nothing_is_framed_from_where_the_host_has_no_frames(self):
        for facts in (
            {"host": None},
            {"frame": ""},
            {"frame": "https://evil.example/40"},
            {"frame": "javascript:alert(1)"},
            {"host": replace(HEADGATE, frames="https://elsewhere.example")},
        ):
            known = replace(KNOWN, elsewhere={40: replace(KNOWN.elsewhere[40], **facts)})
            html = published(hosted(40), known=known)
            self.assertNotIn("data-frame", html)
            self.assertNotIn("<script", html)
            self.assertIn('href="https://films.example/watch/40"', html)
            self.assertEqual(policy_of(document(hosted(40)), known), policy_of())

    def test_one_that_the_library_does_not_have_leaves_no_hole(self):
        self.assertEqual(published(hosted(99), paragraph("x")), '<div class="text" data-region="main"><p>x</p></div>')

    def test_the_weight_before_a_press_is_the_cover(self):
        self.assertGreater(
            measure(document(hosted(40)), KNOWN).weight - measure(document(hosted(41)), KNOWN).weight, 250_000
        )

    def test_it_is_heard_as_what_a_press_plays(self):
        lines = [line.says for line in spoken(heard(f"<html><body>{marked_html(document(hosted(40)), KNOWN)}"))]
        self.assertEqual(lines, ["button, Over the aqueduct Headgate Films, 2 min 5 s"])
        lines = [line.says for line in spoken(heard(f"<html><body>{marked_html(document(hosted(43)), KNOWN)}"))]
        self.assertEqual(lines, ["link, From a host that is not allowed Headgate, 2 min 5 s"])


NODES = (
    hosted(40, caption="How <they> see it", start=90, captions=True, loop=True),
    hosted(40, place="end", width=300, border="frame", space="much", cover="item-2", muted=True),
)


class OutAndIn(TestCase):
    def test_the_storable_form_and_the_source_give_the_same_node(self):
        for node in NODES:
            self.assertEqual(body(read_html(storable_html(document(node))).document), (node,))
            written, _ = source_html(document(node))
            read = read_source(written)
            self.assertEqual((body(read.reading.document), read.notes), ((node,), ()))

    def test_source_with_a_frame_of_somebody_else_says_that_it_will_be_left_out(self):
        read = read_source('<p>x</p>\n<iframe src="https://films.example/watch/40"></iframe>')
        self.assertEqual([note.sort for note in read.notes], ["removed"])
        self.assertIn("framed page", read.notes[0].sentence)

    def test_frames_of_other_pages_come_in_with_their_addresses(self):
        html = (
            "<p>Before</p><figure><iframe src='//play.films.example/7?k=1' title='Over &amp; under'></iframe>"
            "<figcaption>The crossing</figcaption></figure>"
            '<p>In <iframe data-src="https://maps.example/embed">a map</iframe> words</p>'
            '<iframe srcdoc="&lt;script&gt;"></iframe><iframe src="javascript:alert(1)"></iframe>'
        )
        reading = read_html(html)
        found = [(picture.kind, picture.address, picture.alt) for picture in reading.pictures]
        self.assertEqual(
            found,
            [
                ("hosted", "https://play.films.example/7?k=1", "Over & under"),
                ("hosted", "https://maps.example/embed", ""),
            ],
        )
        self.assertEqual([node.kind for node in body(reading.document)][:2], ["paragraph", "hosted"])
        self.assertEqual(body(reading.document)[1].attrs["caption"], "The crossing")
        self.assertIn("2 framed pages were left out", [message.sentence for message in reading.messages])

    def test_what_a_live_page_shows_comes_in_by_its_address_at_the_host(self):
        reading = read_html(published(*NODES))
        self.assertEqual({picture.address for picture in reading.pictures}, {"https://films.example/watch/40"})
        pressed = published(*NODES).replace('<a class="press', '<button class="press').replace("</a>", "</button>")
        self.assertEqual(body(read_html(pressed.replace(" href=", " data-address=")).document), body(reading.document))
        first, second = body(reading.document)
        self.assertEqual((first.attrs["caption"], second.attrs["place"]), ("How <they> see it", "end"))

    def test_formats_that_play_nothing_have_cover_and_link(self):
        target = KNOWN.elsewhere[40]
        cover = PictureFile("cover.jpg", "image/jpeg", b"\xff\xd8\xff\xd9", 400, 300, target.title)
        leads = {"item:40": target.address}.get
        carried = Carried("Films", {41: cover}, leads, films={40: target}, covers={40: {"": 41}})
        node = document(hosted(40, caption="Slowly"))
        words = "Over the aqueduct (Headgate Films, 2 min 5 s)"
        for ending, part in (("docx", "word/document.xml"), ("odt", "content.xml")):
            with zipfile.ZipFile(BytesIO(FORMATS[ending].write(node, carried))) as archive:
                written = archive.read(part).decode()
                names = " ".join(archive.namelist())
                links = "".join(
                    archive.read(name).decode() for name in archive.namelist() if name.endswith((".xml", ".rels"))
                )
            self.assertIn(words, written, ending)
            self.assertIn("Slowly", written)
            self.assertIn("films.example/watch/40", links)
            self.assertIn(".jpg", names)
        html = FORMATS["html"].write(node, carried).decode()
        self.assertIn(f'<a href="{target.address}">{words}</a>', html)
        self.assertNotIn("iframe", html)
        self.assertIn(f'<iframe src="{target.address}">', FORMATS["md"].write(node, carried).decode())
        text = plain_text(node, films={40: target})
        self.assertEqual(text, f"[{words}]\n{target.address}\nSlowly\n")
