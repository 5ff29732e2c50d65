"""Posts of networks: brought in by address and by code from the stand-in, kept as text, told when they are gone, and
what comes of every way in which a network may behave. What it answers: oEmbed 1.0 (https://oembed.com)."""

import json
import threading
from base64 import b64encode
from unittest.mock import patch

from django.test import override_settings

from standins.posts import MODES, PostsServer
from stillpage.hosts import keeping
from stillpage.hosts.models import Host
from stillpage.library.models import Item
from stillpage.outside import turns
from stillpage.people.models import Role

from ..core.documents import document, paragraph, post
from ..patience import PATIENT, waiting
from .base import ApiTest, a_person, image_bytes

FIRST = "/by/perrin/gate-four"


class PostsTest(ApiTest):
    """``server`` is the stand-in for a network, ``host`` its row."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.server = PostsServer(0)
        cls.addClassCleanup(cls.server.server_close)
        cls.addClassCleanup(cls.server.shutdown)
        threading.Thread(target=cls.server.serve_forever, daemon=True).start()
        cls.there = f"127.0.0.1:{cls.server.server_port}"
        cls.at = f"http://{cls.there}"

    def setUp(self):
        super().setUp()
        self.server.mode = "well"
        self.enterContext(override_settings(OUTSIDE_ALLOWED=[self.there], OUTSIDE_SECONDS=PATIENT))
        self.enterContext(patch.object(turns, "APART", 0))
        self.host = Host.objects.create(
            name="Towpath Talk",
            addresses=[f"{self.at}/by/*"],
            endpoint=f"{self.at}/oembed",
            frames=self.at,
            added_by=a_person("maud", Role.ADMINISTRATOR),
        )

    def add(self, what=FIRST):
        address = what if what.startswith("<") else self.at + what
        answer = self.client.post("/api/library/fetch", {"address": address}, content_type="application/json")
        self.assertEqual(answer.status_code, 200)
        return json.loads(b"".join(answer.streaming_content).splitlines()[-1])

    def added(self, what=FIRST):
        found = self.add(what)
        self.assertIn("item", found, found)
        return Item.objects.select_related("hosting").get(pk=found["item"]["id"])

    def live(self, *blocks):
        for page in (self.home, self.visit):
            self.publish(page)
        self.save(self.walks, document(*blocks).to_json(), None)
        self.publish(self.walks)
        self.render_all()
        return self.visit_page(self.walks.path)


class Bringing(PostsTest):
    def test_by_its_address_it_is_text_with_author_time_and_its_pictures_in_the_library(self):
        told = self.add()["item"]
        self.assertEqual((told["kind"], told["format"], told["credit"]), ("post", "Post", "Perrin Sedge"))
        self.assertEqual(told["post"]["words"][0], "Gate four is off its hinges since six this morning.")
        self.assertEqual(told["post"]["told"], "Perrin Sedge, 3 October 2026, Towpath Talk")
        (number,) = told["post"]["pictures"]
        picture = Item.objects.get(pk=number)
        self.assertEqual(picture.alt, "Three people in orange jackets in an empty lock chamber, its gate behind them")
        # It is found by its words, and the same post again is the same item.
        found = self.call("GET", "/shelf?q=hinges")["documents"]
        self.assertEqual([each["id"] for each in found], [told["id"]])
        self.assertFalse(self.add()["item"]["is_new"])

    def test_by_the_code_that_the_network_gives_it_is_the_same(self):
        item = self.added()
        address = self.at + FIRST
        code = f'<blockquote cite="{address}"><p>Gate</p><a href="{address}">There</a></blockquote><script></script>'
        self.assertEqual(self.add(code)["item"]["id"], item.pk)

    def test_a_thread_is_kept_whole_and_a_film_of_a_post_stays_there(self):
        self.assertEqual(len(self.added("/by/perrin/stoppage-thread").hosting.words.split("\n")), 3)
        self.assertEqual(self.add("/by/perrin/film-of-the-crane")["item"]["post"]["pictures"], [])

    def test_what_cannot_be_had_says_why(self):
        self.assertIn("does not show", self.add("/by/isolde/for-friends")["problem"])
        self.assertIn("no such", self.add("/by/isolde/none")["problem"])
        self.assertIn("problem", self.add("/by/isolde"))

    def test_however_a_network_behaves_there_is_an_answer_and_nothing_of_its_html(self):
        for mode in MODES:
            with self.subTest(mode):
                Item.objects.filter(kind=Item.Kind.POST).delete()
                self.server.mode = mode
                with waiting(mode):
                    found = self.add()
                if mode in ("well", "changed", "lying", "scripted", "old", "untold", "long"):
                    item = Item.objects.select_related("hosting").get(pk=found["item"]["id"])
                    for harm in ("<", "alert", "elsewhere.example", "localhost"):
                        self.assertNotIn(harm, item.hosting.words + item.hosting.author_address + item.hosting.frame)
                else:
                    self.assertTrue(found["problem"].strip())
                    self.assertFalse(Item.objects.filter(kind=Item.Kind.POST).exists())
        self.server.mode = "well"

    def test_a_very_long_one_is_cut_and_that_is_told(self):
        self.server.mode = "long"
        self.assertIn("more words", self.add()["told"])


class Shown(PostsTest):
    def test_readers_get_the_words_and_nothing_is_asked_of_the_network_before_a_press(self):
        item = self.added()
        pictures = " ".join(map(str, item.hosting.pictures))
        answer = self.live(paragraph("Before."), post(item.pk, pictures=pictures))
        html = answer.content.decode()
        self.assertIn("<p>Gate four is off its hinges since six this morning.</p>", html)
        self.assertIn("3 October 2026", html)
        self.assertNotIn("<iframe", html)
        self.assertIn(f"frame-src {self.at}", answer["Content-Security-Policy"])
        self.assertNotIn(f'src="{self.at}', html)
        # Its picture is used by the page like any other.
        self.assertEqual(Item.objects.get(pk=item.hosting.pictures[0]).used_on, 1)

    def test_one_that_is_gone_keeps_its_words_and_readers_and_authors_are_told(self):
        item = self.added()
        self.live(post(item.pk))
        self.server.mode = "gone"
        keeping.ask_again(item)
        self.render_all()
        html = self.visit_page(self.walks.path).content.decode()
        self.assertIn("Gate four is off its hinges", html)
        self.assertIn("where it is gone", html)
        found = self.call("POST", "/check", {"document": document(post(item.pk)).to_json(), "site": self.site.pk})
        self.assertIn("post-gone", {each["check"] for each in found["findings"]})
        self.assertTrue(self.call("GET", f"/items/{item.pk}")["post"]["gone"])

    def test_other_words_at_the_network_do_not_change_what_was_quoted(self):
        item = self.added()
        self.server.mode = "changed"
        keeping.ask_again(item)
        item.hosting.refresh_from_db()
        self.assertIn("Gate four", item.hosting.words)

    def test_a_picture_without_words_is_asked_for(self):
        item = self.added("/by/isolde/heron")
        text = document(post(item.pk, pictures=str(item.hosting.pictures[0]))).to_json()
        found = self.call("POST", "/check", {"document": text, "site": self.site.pk})
        self.assertIn("post-pictures-wordless", {each["check"] for each in found["findings"]})

    def test_it_goes_out_as_text_and_comes_back_by_paste(self):
        item = self.added()
        html = self.live(post(item.pk)).content.decode()
        for ending in ("html", "txt"):
            data = self.client.get(f"/api/pages/{self.walks.pk}/export/{ending}").content.decode()
            self.assertIn("Gate four is off", data)
        start = html.index('<div class="post"')
        pasted = self.call("POST", "/paste", {"html": html[start:], "text": "", "container": "region"})
        found = [each for each in pasted["document"]["content"][0]["content"] if each["type"] == "post"]
        self.assertEqual([each["attrs"]["item"] for each in found], [item.pk])


class Quoted(PostsTest):
    """Posts in the HTML of other pages: codes that networks give, and pages of ours."""

    CODE = (
        '<blockquote class="of-a-network"><p>Gate four is <em>off</em>.</p>— Perrin <a href="{}">3 October</a>'
        '</blockquote>\n<script async src="https://elsewhere.example/posts.js"></script>'
    )

    def paste(self, html, person=None):
        return self.call("POST", "/paste", {"html": html, "text": "", "container": "region"})["document"]

    def blocks(self, html):
        return self.paste(html)["content"][0]["content"]

    def code(self, at=None):
        return self.CODE.format(at or self.at + FIRST)

    def test_a_code_is_the_post_with_the_words_it_came_with_until_its_network_is_asked(self):
        before, found, after = self.blocks(f"<p>Before.</p>{self.code()}<p>After.</p>")
        self.assertEqual((before["type"], found["type"], after["type"]), ("paragraph", "post", "paragraph"))
        item = Item.objects.select_related("hosting").get(pk=found["attrs"]["item"])
        self.assertEqual(item.title, "Towpath Talk: Gate four is off.")
        self.assertEqual(item.hosting.words.split("\n"), ["Gate four is off.", "— Perrin 3 October"])
        html = self.live(post(item.pk)).content.decode()
        self.assertIn("<p>Gate four is off.</p>", html)
        self.assertEqual(keeping.ask_due.func(), 1)
        item = Item.objects.select_related("hosting").get(pk=item.pk)
        self.assertEqual(item.title, "Perrin Sedge: Gate four is off its hinges since six this morning.")
        self.assertEqual((item.credit, item.hosting.state), ("Perrin Sedge", "right"))
        self.assertEqual(item.hosting.words.split("\n")[0], "Gate four is off its hinges since six this morning.")
        self.assertEqual(len(item.hosting.pictures), 1)
        self.assertEqual([each["id"] for each in self.call("GET", "/shelf?q=hinges")["documents"]], [item.pk])
        self.render_all()
        self.assertIn("off its hinges", self.visit_page(self.walks.path).content.decode())

    def test_one_that_its_network_does_not_have_keeps_the_words_it_came_with(self):
        self.server.mode = "gone"
        (found,) = self.blocks(self.code())
        keeping.ask_due.func()
        item = Item.objects.select_related("hosting").get(pk=found["attrs"]["item"])
        self.assertTrue(item.hosting.gone)
        self.assertIn("Gate four is off.", item.hosting.words)

    def test_the_same_post_twice_is_one_item(self):
        first, second = self.blocks(self.code() + self.code())
        self.assertEqual(first["attrs"]["item"], second["attrs"]["item"])

    def test_what_is_no_code_of_a_network_that_is_allowed_stays_a_quotation(self):
        address = self.at + FIRST
        for html in (
            self.code("https://elsewhere.example/by/perrin/1"),
            f'<blockquote cite="{address}"><p>Gate four.</p></blockquote>',
            f'<blockquote><p>Gate four, <a href="{address}">he said</a>.</p></blockquote>',
            self.code("javascript:alert(1)"),
            self.code("http://["),
        ):
            with self.subTest(html):
                self.assertEqual([each["type"] for each in self.blocks(html)], ["quotation"])
        self.assertFalse(Item.objects.filter(kind=Item.Kind.POST).exists())

    def test_a_quotation_from_a_post_of_the_library_is_that_post(self):
        item = self.added()
        (found,) = self.blocks(f'<blockquote cite="{self.at}{FIRST}"><p>Gate four.</p></blockquote>')
        self.assertEqual((found["type"], found["attrs"]["item"]), ("post", item.pk))

    def test_within_a_list_a_cell_or_another_quotation_no_word_is_lost(self):
        for around in ("<ul><li>One<div>{}</div></li></ul>", "<table><tr><td>{}</td></tr></table>"):
            with self.subTest(around):
                self.assertIn('"post"', json.dumps(self.paste(around.format(self.code()))))
        twice = self.paste(f"<blockquote><p>Said:</p>{self.code()}</blockquote>")
        words = json.dumps(twice, ensure_ascii=False)
        self.assertIn("Said:", words)
        self.assertTrue('"post"' in words or "Gate four" in words)

    def test_who_may_not_add_to_the_library_gets_the_quotation_whole_with_its_picture(self):
        png = f"data:image/png;base64,{b64encode(image_bytes()).decode()}"
        shown = self.code().replace("</p>", f'</p><img src="{png}" alt="A gate">', 1)
        with patch("stillpage.exchange.arriving.may", return_value=False):
            found = self.paste(shown)
        self.assertEqual([each["type"] for each in found["content"][0]["content"]], ["quotation"])
        self.assertIn("Gate four is ", json.dumps(found))
        with self.subTest("and who may, its picture too where it is no post"):
            found = self.paste(shown.replace(self.at, "https://elsewhere.example"))
            self.assertIn('"picture"', json.dumps(found))

    def test_a_page_of_another_installation_brings_the_words_of_its_posts(self):
        there = "https://elsewhere.example/by/perrin/1"
        html = (
            f'<div class="post"><figure><blockquote cite="{there}"><p>The gate hangs again.</p></blockquote>'
            f'<figcaption>Perrin, <a href="{there}">Elsewhere</a></figcaption></figure></div>'
        )
        (found,) = self.blocks(html)
        self.assertEqual(found["type"], "quotation")
        self.assertIn("The gate hangs again.", json.dumps(found))
        self.assertIn("Perrin", json.dumps(found))

    def test_a_post_goes_out_as_a_file_and_comes_in_again_as_the_post(self):
        item = self.added()
        self.live(post(item.pk, caption="From the lock."))
        html = self.client.get(f"/api/pages/{self.walks.pk}/export/html").content.decode()
        found = [each for each in self.blocks(html) if each["type"] == "post"]
        self.assertEqual([each["attrs"]["item"] for each in found], [item.pk])

    def test_a_frame_of_a_network_is_shown_in_its_frame(self):
        (found,) = self.blocks(f'<iframe src="{self.at}/view/gate-four"></iframe>')
        self.assertEqual(found["type"], "hosted")
        keeping.ask_due.func()
        item = Item.objects.select_related("hosting").get(pk=found["attrs"]["item"])
        self.assertEqual((item.kind, item.hosting.state), ("hosted", "right"))
        self.assertIn("Gate four", item.title)

    def test_many_codes_are_read_in_proportion(self):
        html = "".join(self.code(f"{self.at}/by/perrin/{number}") for number in range(300))
        self.assertEqual({each["type"] for each in self.blocks(html)}, {"post"})
