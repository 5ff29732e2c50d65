"""Posts of networks: what is kept of an answer of oEmbed 1.0 (https://oembed.com, 2.3.4.4, the rich type), and how
posts stand on a page."""

import json
import tempfile
from contextlib import redirect_stderr
from dataclasses import replace
from datetime import UTC, datetime
from io import StringIO
from pathlib import Path
from unittest import TestCase

from selectolax.lexbor import LexborHTMLParser

from stillpage_core.__main__ import main
from stillpage_core.media.hosting import FilmHost, HostError, read_answer, read_post
from stillpage_core.media.hosting.posts import MOST_WORDS
from stillpage_core.reading import read_html
from stillpage_core.reading.source import read_source
from stillpage_core.resolving import PostTarget
from stillpage_core.writing import plain_text, published_html, storable_html
from stillpage_core.writing.policy import policy_of
from stillpage_core.writing.source import source_html

from .checks.base import KNOWN, CheckTest
from .documents import document, paragraph, post

TALK = FilmHost("Talk", ("https://talk.example/by/*",), "https://talk.example/oembed", "https://view.talk.example")
QUOTE = (
    '<blockquote cite="https://talk.example/by/p/1"><p>Gate four is <b>off</b>.<br>Since six.</p>'
    '<img src="https://talk.example/a.jpg" alt="A gate"></blockquote>'
    '<p><a href="https://talk.example/by/p/1"><time datetime="2026-10-03T07:40:00Z">3 Oct</time></a></p>'
)
FRAME = '<iframe src="https://view.talk.example/1" width="480"></iframe>'


def said(html=QUOTE + FRAME, **more):
    answer = {"type": "rich", "version": "1.0", "author_name": "Perrin", "author_url": "https://talk.example/by/p"}
    answer |= {"provider_name": "Talk", "html": html, "width": 480, "height": 260, **more}
    return read_answer(json.dumps(answer).encode(), TALK)


class Kept(TestCase):
    def test_words_author_time_and_pictures_and_the_frame_of_its_own_origin(self):
        found = said()
        self.assertEqual(found.post.words, ("Gate four is off.", "Since six."))
        self.assertEqual(found.post.at, datetime(2026, 10, 3, 7, 40, tzinfo=UTC))
        self.assertEqual(found.post.pictures, (("https://talk.example/a.jpg", "A gate"),))
        self.assertEqual((found.author, found.author_address), ("Perrin", "https://talk.example/by/p"))
        self.assertEqual(found.frame, "https://view.talk.example/1")
        self.assertEqual(found.title, "Perrin: Gate four is off.")

    def test_a_thread_is_kept_in_its_order(self):
        found = said(f"{QUOTE}<blockquote><p>Two</p></blockquote><blockquote><p>Three</p></blockquote>")
        self.assertEqual(found.post.words[-2:], ("Two", "Three"))

    def test_script_styles_and_marks_leave_no_trace(self):
        found = said(
            '<blockquote><p onclick="x()"><script>alert(1)</script><style>p{}</style>Said.\u202e</p></blockquote>'
        )
        self.assertEqual(found.post.words, ("Said.",))

    def test_what_lies_is_not_believed(self):
        found = said(QUOTE + '<iframe src="https://evil.example/1"></iframe>', author_url="https://evil.example/")
        self.assertEqual((found.frame, found.author_address), ("", ""))
        pictures = said('<blockquote><p>x</p><img src="https://evil.example/a.jpg"></blockquote>').post.pictures
        self.assertEqual(pictures, ())

    def test_very_many_words_are_cut_and_that_is_told(self):
        found = said(f"<blockquote>{'<p>' + 'word ' * 300 + '</p>'}{'<p>more</p>' * 60}</blockquote>").post
        self.assertTrue(found.cut)
        long = read_post(f"<blockquote>{'x' * 1_000_000}</blockquote>", TALK)
        self.assertEqual((len(long.words[0]), long.cut), (MOST_WORDS, True))

    def test_an_answer_of_a_megabyte_or_without_words_is_none(self):
        with self.assertRaisesRegex(HostError, "cannot be understood"):
            said(f"<blockquote>{'x' * 1_000_000}</blockquote>")
        for html in ("", "<p>No quotation</p>", None):
            with self.assertRaises(HostError):
                said(html)

    def test_a_time_that_is_none_is_left_out(self):
        for written in ("yesterday", "", "2026-99-99"):
            found = read_post(f'<blockquote><p>x</p></blockquote><time datetime="{written}">x</time>', TALK)
            self.assertIsNone(found.at)


POST = PostTarget(
    9,
    "Perrin: Gate four",
    "https://talk.example/by/p/1",
    provider="Talk",
    host=TALK,
    author="Perrin",
    author_address="https://talk.example/by/p",
    words=("Gate <four> is off.", "Since six."),
    at="2026-10-03T07:40:00+00:00",
    frame="https://view.talk.example/1",
    width=480,
    height=260,
)
RESOLVER = replace(
    KNOWN, posts={9: POST, 10: replace(POST, number=10, gone="Talk has this no more."), 11: replace(POST, host=None)}
)


def tree(*blocks):
    return LexborHTMLParser(published_html(document(*blocks), RESOLVER))


class AsReadersGetThem(TestCase):
    def test_a_quotation_with_its_source_and_a_press_for_the_networks_own_view(self):
        made = tree(post(9, pictures="2", caption="Said"))
        self.assertEqual([each.text() for each in made.css("blockquote p")], ["Gate <four> is off.", "Since six."])
        self.assertEqual(made.css_first("figcaption").text(), "Perrin, 3 October 2026, Talk")
        self.assertEqual(made.css_first("time").attributes["datetime"], POST.at)
        self.assertEqual(made.css_first(".post-pictures img").attributes["alt"], "Four tall arches")
        press = made.css_first("a.press").attributes
        self.assertEqual((press["href"], press["data-frame"]), (POST.address, POST.frame))
        # Nothing is framed before a press.
        self.assertIsNone(made.css_first("iframe"))
        self.assertIn("frame-src https://view.talk.example", policy_of(document(post(9)), RESOLVER))

    def test_one_that_is_gone_keeps_its_words_and_says_so(self):
        made = tree(post(10))
        self.assertEqual(made.css_first("figcaption").text(), "Perrin, 3 October 2026, Talk, where it is gone")
        self.assertIsNone(made.css_first("a.press"))
        self.assertEqual(len(made.css("blockquote p")), 2)

    def test_of_a_network_that_is_not_allowed_any_more_there_are_the_words_and_the_link(self):
        made = tree(post(11))
        self.assertIsNone(made.css_first("a.press"))
        self.assertNotIn("frame-src", policy_of(document(post(11)), RESOLVER))

    def test_it_comes_back_from_every_form_and_says_itself_as_text(self):
        whole = document(post(9, pictures="1 2", caption="Said"), paragraph("x"))
        self.assertEqual(read_html(storable_html(whole)).document, whole)
        self.assertEqual(read_source(source_html(whole)[0]).reading.document, whole)
        words = plain_text(whole, posts={9: POST})
        for each in ("Gate <four> is off.", "— Perrin, 3 October 2026, Talk", POST.address, "Said"):
            self.assertIn(each, words)


class Gone(CheckTest):
    check = "post-gone"
    resolver = RESOLVER

    def test_one_that_its_network_has_no_more_can_become_a_quotation(self):
        finding = self.assertFound(post(10))
        self.assertEqual([each.label for each in finding.repairs], ["Keep it as a quotation", "Take the post away"])
        self.assertFound(post(99))
        self.assertRight(post(9))


class Wordless(CheckTest):
    check = "post-pictures-wordless"
    resolver = RESOLVER

    def test_h37_a_picture_for_which_the_network_had_no_words(self):
        self.assertFound(post(9, pictures="1 2"))
        self.assertRight(post(9, pictures="2 3"))


class FromTheShell(TestCase):
    def test_a_live_page_is_converted_with_the_words_of_its_posts(self):
        with tempfile.TemporaryDirectory() as folder, redirect_stderr(StringIO()) as told:
            page, text = Path(folder) / "page.html", Path(folder) / "page.md"
            page.write_text(
                f'<p>Before.</p><div class="post"><figure>{QUOTE}<figcaption>Perrin</figcaption></figure></div>'
            )
            self.assertEqual(main(["convert", str(page), str(text)]), 0)
            for words in ("Gate four is **off**", "Since six.", "Perrin"):
                self.assertIn(words, text.read_text())
            self.assertNotIn("Gate four", told.getvalue())
