"""Films at hosts: which addresses are theirs, what they say of a film, and whose frames are shown.

oEmbed 1.0 (https://oembed.com), from memory: 2.1 configuration, 2.2 request, 2.3 response, 4 discovery; origins as in
RFC 6454.
"""

import json
import re
from unittest import TestCase
from urllib.parse import parse_qs, urlsplit

from hypothesis import given
from hypothesis import strategies as st

from stillpage_core.media.hosting import (
    FilmHost,
    HostError,
    address_in,
    endpoints_in,
    frame_address,
    host_of,
    question_for,
    read_answer,
)

REEL = FilmHost(
    "Millrace",
    ("https://*.millrace.example/watch/*", "https://millrace.example/f/*/play"),
    "https://millrace.example/oembed",
    "https://play.millrace.example",
    {"start": "t={}", "captions": "cc=1", "muted": "m={}"},
)
FRAME = '<iframe src="https://play.millrace.example/7?k=1" width="640" height="360" allowfullscreen></iframe>'
VIDEO = {
    "type": "video",
    "version": "1.0",
    "title": "Through the staircase",
    "author_name": "Lock crew",
    "author_url": "https://millrace.example/crew",
    "provider_name": "Millrace",
    "provider_url": "https://millrace.example/",
    "cache_age": 3600,
    "thumbnail_url": "https://millrace.example/7.jpg",
    "thumbnail_width": 480,
    "thumbnail_height": 270,
    "html": FRAME,
    "width": 640,
    "height": 360,
}


def answer(**said):
    return json.dumps({**VIDEO, **said}).encode()


class Addresses(TestCase):
    def test_2_1_asterisks_stand_in_subdomains_and_in_paths(self):
        for address in (
            "https://millrace.example/watch/7",
            "https://www.millrace.example/watch/a/b?x=1#t",
            "https://a.b.millrace.example/watch/",
            "HTTPS://MILLRACE.example/watch/7",
            "https://millrace.example/f/7/play",
            "https://play.millrace.example/7",
        ):
            self.assertIs(host_of(address, [REEL]), REEL, address)

    def test_what_only_looks_like_it_is_none(self):
        for address in (
            "http://millrace.example/watch/7",
            "https://millrace.example.evil.example/watch/7",
            "https://evilmillrace.example/watch/7",
            "https://evil.example/?https://millrace.example/watch/7",
            "https://millrace.example:444/watch/7",
            "https://name@millrace.example/watch/7",
            "https://millrace.example/f/7",
            "https://millrace.example/f//",
            "https://play.millrace.example.evil.example/7",
            "https://millrace.example\\@evil.example/watch/7",
            "https://millrace.example/watch/ 7",
            "javascript:alert(1)",
            "https://",
            "https://[::1",
            "https://millrace.example/watch/" + "x" * 3000,
        ):
            self.assertIsNone(host_of(address, [REEL]), address)

    @given(st.text("/ab*", max_size=12), st.text("/ab", max_size=14))
    def test_a_scheme_means_what_a_regular_expression_of_it_means(self, scheme, path):
        host = FilmHost("x", (f"https://a.example/{scheme}",), "https://a.example/o", "https://b.example")
        wanted = re.fullmatch("[^?#]*".join(map(re.escape, re.split(r"\*+", f"/{scheme}"))), f"/{path}")
        self.assertEqual(host_of(f"https://a.example/{path}", [host]) is not None, wanted is not None)

    def test_2_2_the_question_has_the_address_encoded(self):
        asked = urlsplit(question_for(REEL, "https://millrace.example/watch/7?a=b&c=d"))
        self.assertEqual(asked.netloc + asked.path, "millrace.example/oembed")
        query = parse_qs(asked.query)
        self.assertEqual(query["url"], ["https://millrace.example/watch/7?a=b&c=d"])
        self.assertEqual(query["format"], ["json"])
        self.assertTrue(query["maxwidth"][0].isdigit())

    def test_a_host_is_looked_at_before_it_is_kept(self):
        self.assertIsNone(REEL.problem())
        for part in (
            {"name": " "},
            {"addresses": ()},
            {"addresses": ("millrace.example",)},
            {"addresses": ("https://*/watch",)},
            {"endpoint": "ftp://millrace.example"},
            {"frames": "https://play.millrace.example/embed"},
            {"options": {"start": "<t>"}},
            {"options": {"colour": "c=1"}},
        ):
            self.assertTrue(FilmHost(**{**vars(REEL), **part}).problem(), part)


class Codes(TestCase):
    def test_an_address_or_a_code_end_in_the_same(self):
        for code in (
            "https://millrace.example/watch/7",
            "  https://millrace.example/watch/7\n",
            '<a href="https://millrace.example/watch/7">Film</a><script src="https://millrace.example/x.js"></script>',
            '<blockquote cite="https://millrace.example/watch/7"><p>Film</p></blockquote>',
            '<p>See <a href="https://other.example/">this</a> <a href="https://millrace.example/watch/7">film</a>',
        ):
            self.assertEqual(address_in(code, [REEL]), "https://millrace.example/watch/7")
        self.assertEqual(address_in(FRAME, [REEL]), "https://play.millrace.example/7?k=1")
        self.assertEqual(
            address_in("<iframe src='//play.millrace.example/7'></iframe>", [REEL]), "https://play.millrace.example/7"
        )

    def test_a_code_from_elsewhere_is_refused_by_name_and_what_would_do_is_said(self):
        for code in ("<iframe src='https://elsewhere.example/7'></iframe>", "https://elsewhere.example/7"):
            with self.assertRaisesRegex(HostError, r"elsewhere\.example are not shown here; allowed are: Millrace"):
                address_in(code, [REEL])
        for code in ("", "a film", "<script>x()</script>", "<iframe srcdoc='<p>'></iframe>", "x" * 30_000):
            with self.assertRaises(HostError):
                address_in(code, [REEL])

    @given(st.text())
    def test_whatever_is_pasted_gives_an_address_of_a_host_or_a_sentence(self, code):
        try:
            self.assertTrue(host_of(address_in(code, [REEL]), [REEL]))
        except HostError as error:
            self.assertTrue(str(error).endswith("."))


class Answers(TestCase):
    def test_2_3_4_2_a_video_has_what_the_standard_names(self):
        film = read_answer(answer(duration=65), REEL)
        self.assertEqual((film.title, film.author, film.provider), ("Through the staircase", "Lock crew", "Millrace"))
        self.assertEqual((film.width, film.height, film.lasts, film.cache_age), (640, 360, 65, 3600))
        self.assertEqual(film.frame, "https://play.millrace.example/7?k=1")
        self.assertEqual((film.cover, film.cover_width), ("https://millrace.example/7.jpg", 480))
        self.assertEqual(film.author_address, "https://millrace.example/crew")

    def test_2_3_2_the_same_as_xml(self):
        items = "".join(
            f"<{name}>{str(value).replace('&', '&amp;').replace('<', '&lt;')}</{name}>" for name, value in VIDEO.items()
        )
        xml = f'<?xml version="1.0" encoding="utf-8" standalone="yes"?>\n<oembed>{items}</oembed>'
        self.assertEqual(read_answer(xml.encode(), REEL), read_answer(answer(), REEL))

    def test_what_the_standard_asks_of_a_video_must_be_there(self):
        for part in ("type", "version", "html", "width", "height"):
            with self.assertRaises(HostError, msg=part):
                read_answer(json.dumps({**VIDEO, part: None}).encode(), REEL)
        for part in ("title", "author_name", "author_url", "provider_name", "thumbnail_url", "cache_age"):
            read_answer(json.dumps({**VIDEO, part: None}).encode(), REEL)

    def test_other_types_are_told(self):
        for kind in ("photo", "link", "rich"):
            with self.assertRaisesRegex(HostError, f"“{kind}”"):
                read_answer(answer(type=kind), REEL)

    def test_2_3_3_errors_are_told_as_what_they_mean(self):
        for status, said in ((404, "no such film"), (401, "does not show"), (501, "form"), (500, "answers 500")):
            with self.assertRaisesRegex(HostError, said):
                read_answer(b"", REEL, status=status)

    def test_a_lying_answer_is_not_believed(self):
        for html in (
            "<iframe src='https://evil.example/7'></iframe>",
            "<iframe src='https://play.millrace.example.evil.example/7'></iframe>",
            "<iframe src='http://play.millrace.example/7'></iframe>",
            "<iframe src='https://play.millrace.example:8443/7'></iframe>",
            "<iframe src='https://x@play.millrace.example/7'></iframe>",
            "<iframe src='javascript:alert(1)'></iframe>",
            "<iframe srcdoc='<script>x()</script>'></iframe>",
            "<script src='https://millrace.example/play.js'></script>",
            "<img src=x onerror=alert(1)>",
            "",
        ):
            with self.assertRaises(HostError, msg=html):
                read_answer(answer(html=html), REEL)
        film = read_answer(answer(html=f"<script>x()</script>{FRAME}", thumbnail_url="javascript:x()"), REEL)
        self.assertEqual((film.frame, film.cover), ("https://play.millrace.example/7?k=1", ""))

    def test_broken_huge_and_wrong_answers_are_refused_with_a_sentence(self):
        bomb = b'<!DOCTYPE o [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><oembed><title>&b;</title></oembed>'
        outside = b'<!DOCTYPE o [<!ENTITY a SYSTEM "file:///etc/passwd">]><oembed><title>&a;</title></oembed>'
        for data in (
            b"",
            b"null",
            b"[]",
            b"{",
            b"\xff\xfe",
            b"[" * 100_000,
            b"<html><body>Not found</body></html>",
            b"<oembed>",
            bomb,
            outside,
            b" " * 300_000,
            answer(width="wide"),
            answer(width=-1),
            answer(width=True),
            answer(width=10**9),
            answer(version="2.0"),
        ):
            with self.assertRaises(HostError, msg=data[:60]):
                read_answer(data, REEL)

    def test_words_are_words(self):
        film = read_answer(answer(title="A\u0000 <b>film</b>\n&amp; more" + "x" * 500, author_name=["no"]), REEL)
        self.assertTrue(film.title.startswith("A <b>film</b> & more"))
        self.assertEqual((len(film.title), film.author), (200, ""))
        self.assertEqual(read_answer(answer(width="640", height=360.0), REEL).width, 640)

    def test_4_discovery_leads_to_the_hosts_own_endpoint_alone(self):
        page = b"""<html><head>
          <link rel="alternate" type="text/xml+oembed" href="https://millrace.example/oembed?format=xml&amp;url=7">
          <link rel="alternate" type="application/json+oembed" href="https://millrace.example/oembed?url=7" title="x">
          <link rel="alternate" type="application/json+oembed" href="https://evil.example/oembed?url=7">
          <link rel="alternate" type="application/rss+xml" href="https://millrace.example/feed"></head>"""
        self.assertEqual(
            endpoints_in(page, REEL),
            ["https://millrace.example/oembed?url=7", "https://millrace.example/oembed?format=xml&url=7"],
        )
        self.assertEqual(endpoints_in(b"\x00<<<", REEL), [])


class Frames(TestCase):
    def test_only_what_a_host_honours_is_written(self):
        frame = "https://play.millrace.example/7?k=1#x"
        chosen = {"start": 90, "captions": True, "muted": False, "loop": True, "autoplay": True}
        made = frame_address(frame, REEL, chosen)
        self.assertEqual(made, "https://play.millrace.example/7?k=1&t=90&cc=1")
        self.assertEqual(frame_address(frame, REEL, {}), "https://play.millrace.example/7?k=1")

    def test_a_frame_that_is_not_the_hosts_any_more_is_not_written(self):
        with self.assertRaises(HostError):
            frame_address("https://old.millrace.example/7", REEL, {})
