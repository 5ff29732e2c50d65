"""Films at other hosts: the table of hosts, films by address and by code, what comes of every way in which a host may
behave, and pages that show them. What a host answers: oEmbed 1.0 (https://oembed.com)."""

import json
import threading
import zipfile
from datetime import timedelta
from io import BytesIO
from unittest.mock import patch

from django.test import override_settings
from django.utils import timezone

from standins.films import FOLDER, FilmsServer
from stillpage.hosts import keeping
from stillpage.hosts.models import Host, Hosting
from stillpage.library import tasks
from stillpage.library.files import hosted_target
from stillpage.library.models import Item
from stillpage.outside import turns
from stillpage.people.models import Role
from stillpage.trail.models import Entry
from stillpage_core.document.node import document_of

from ..core.documents import hosted, paragraph
from ..patience import PATIENT, waiting
from .base import ApiTest, a_person, blocks_in


class HostsTest(ApiTest):
    """``server`` is the stand-in for a host of films, ``host`` its row."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.server = FilmsServer(0)
        cls.addClassCleanup(cls.server.server_close)
        cls.addClassCleanup(cls.server.shutdown)
        threading.Thread(target=cls.server.serve_forever, daemon=True).start()
        cls.there = f"127.0.0.1:{cls.server.server_port}"
        cls.at = f"http://{cls.there}"

    def setUp(self):
        super().setUp()
        self.server.mode = "well"
        self.server.asked.clear()
        self.enterContext(override_settings(OUTSIDE_ALLOWED=[self.there], OUTSIDE_SECONDS=PATIENT))
        self.enterContext(patch.object(turns, "APART", 0))
        self.admin = a_person("maud", Role.ADMINISTRATOR)
        self.host = Host.objects.create(added_by=self.admin, **self.said())

    def said(self, **more):
        return {
            "name": "Headgate Films",
            "addresses": [f"{self.at}/watch/*"],
            "endpoint": f"{self.at}/oembed",
            "frames": self.at,
            "options": {"start": "t={}", "captions": "cc=1", "autoplay": "begin=1"},
            **more,
        }

    def add(self, what="/watch/over-the-aqueduct", **more):
        """What comes of adding by address or code: the last line of the answer."""
        address = what if what.startswith("<") else self.at + what
        answer = self.client.post("/api/library/fetch", {"address": address, **more}, content_type="application/json")
        self.assertEqual(answer.status_code, 200)
        return json.loads(b"".join(answer.streaming_content).splitlines()[-1])

    def added(self, what="/watch/over-the-aqueduct"):
        found = self.add(what)
        self.assertIn("item", found, found)
        return Item.objects.get(pk=found["item"]["id"])

    def live(self, *blocks):
        document = document_of([paragraph("The way."), *blocks]).to_json()
        self.save(self.walks, document, self.walks.working_copy.revision or None)
        self.publish(self.walks)
        return self.shown()

    def shown(self):
        self.render_all()
        answer = self.visit_page(self.walks.path)
        self.assertEqual(answer.status_code, 200)
        return answer


class Bringing(HostsTest):
    def test_an_address_becomes_an_item_with_title_author_length_proportions_and_cover(self):
        said = self.add()["item"]
        self.assertEqual((said["kind"], said["title"]), ("hosted", "Over the aqueduct, in one go"))
        self.assertEqual((said["credit"], said["lasts"]), ("Tamsin Reedmace", 14_000))
        self.assertEqual((said["hosted"]["width"], said["hosted"]["height"]), (1280, 720))
        self.assertEqual(said["hosted"]["options"], ["start", "captions"])
        self.assertTrue(said["hosted"]["plays"] and said["thumbnail"] and said["files"])
        self.assertFalse(any("iframe" in json.dumps(row) for row in Hosting.objects.values("frame", "author")))

    def test_the_code_that_the_host_gives_and_the_address_are_the_same_film(self):
        code = f'<iframe src="{self.at}/play/over-the-aqueduct" width="640" height="360"></iframe><script>x</script>'
        item = self.added(code)
        again = self.add("/watch/over-the-aqueduct#t=3")["item"]
        self.assertEqual((again["id"], again["is_new"]), (item.pk, False))
        self.assertEqual(Item.objects.filter(kind="hosted").count(), 1)

    def test_it_comes_back_from_the_bin_when_it_is_added_again(self):
        item = self.added()
        Item.objects.filter(pk=item.pk).update(binned_at=timezone.now(), binned_by=self.author)
        self.assertEqual(self.added().pk, item.pk)
        item.refresh_from_db()
        self.assertIsNone(item.binned_at)

    def test_what_is_refused_says_why_and_what_would_do(self):
        for what, words in (
            (
                '<iframe src="https://evil.example/7"></iframe>',
                "evil.example are not shown here; allowed are: Headgate",
            ),
            ("<script>alert(1)</script>", "no address of a film"),
            ("/watch/there-is-none", "has no such film"),
            ("/watch/before-the-opening", "does not show this film to others"),
        ):
            self.assertIn(words, self.add(what)["problem"], what)
        self.assertFalse(Item.objects.filter(kind="hosted").exists())

    def test_a_page_at_a_host_whose_films_stand_elsewhere_is_told_with_the_hosts_that_there_are(self):
        Host.objects.update(frames="https://play.films.example")
        said = self.add("/")["problem"]
        self.assertIn("is a page, and no file", said)
        self.assertIn("Headgate Films", said)

    def test_every_way_of_misbehaving_ends_in_a_sentence_and_leaves_nothing(self):
        for mode, words in (
            ("refusing", "does not show this film"),
            ("gone", "has no such film, or no more"),
            ("huge", "larger than"),
            ("lying", "in a frame from localhost"),
            ("scripted", "script of its own"),
            ("private", "private network"),
            ("broken", "cannot be understood"),
            ("vanished", "broke off"),
            ("slow", "did not answer within 1 seconds"),
        ):
            self.server.mode = mode
            with waiting(mode):
                self.assertIn(words, self.add()["problem"], mode)
        self.assertFalse(Item.objects.filter(kind="hosted").exists())

    def test_a_host_that_speaks_xml_only_or_whose_pages_say_where_it_speaks_is_understood(self):
        for mode, what in (("old", "/watch/over-the-aqueduct"), ("untold", "/watch/the-last-pair-of-gates")):
            self.server.mode = mode
            self.assertTrue(self.added(what).lasts, mode)

    def test_a_cover_that_cannot_be_had_is_told_and_the_film_is_there(self):
        real = keeping.cover_of

        def misbehaving(mode):
            def cover(said):
                self.server.mode = mode
                return real(said)

            return patch.object(keeping, "cover_of", cover)

        for mode in ("huge", "private", "scripted", "vanished"):
            self.server.mode = "well"
            with misbehaving(mode):
                found = self.add()
            self.assertIn("It has no cover", found["told"], mode)
            item = Item.objects.get(pk=found["item"]["id"])
            self.assertFalse(item.files.exists())
            self.assertIsNone(hosted_target(item).cover)
            self.assertEqual(item.made, item.wanted)
            item.delete()

    def test_a_cover_with_the_bytes_of_a_picture_of_the_library_is_no_second_use_of_it(self):
        item = self.added()
        data = BytesIO((FOLDER / "over-the-aqueduct.jpg").read_bytes())
        data.name = "mine.jpg"
        picture = self.client.post("/api/items", {"file": data, "alt": "An aqueduct"}).json()
        self.assertEqual(picture["kind"], "picture")
        self.assertNotEqual(picture["id"], item.pk)

    def test_who_may_not_add_adds_nothing(self):
        self.as_person(a_person("ghost"))
        answer = self.client.post(
            "/api/library/fetch", {"address": f"{self.at}/watch/x"}, content_type="application/json"
        )
        self.assertEqual(answer.status_code, 403)


class Table(HostsTest):
    def test_only_an_administrator_keeps_the_table_and_what_is_done_is_in_the_trail(self):
        self.call("POST", "/hosts", self.said(name="Another"), 403)
        self.call("PUT", f"/hosts/{self.host.pk}", self.said(), 403)
        self.call("DELETE", f"/hosts/{self.host.pk}", None, 403)
        self.call("POST", "/hosts/try", {"host": self.said(), "address": f"{self.at}/watch/x"}, 403)
        self.assertEqual([each["name"] for each in self.call("GET", "/hosts")], ["Headgate Films"])
        # The hosts are those of all sites: who keeps one site only does not keep them.
        self.as_person(a_person("moss", Role.ADMINISTRATOR, site=self.site))
        self.call("POST", "/hosts", self.said(name="Another"), 403)
        self.assertFalse(self.call("GET", "/session")["may_keep_hosts"])
        self.as_person(self.admin)
        made = self.call("POST", "/hosts", self.said(name=" Another "), 201)
        self.assertEqual(made["name"], "Another")
        self.call("DELETE", f"/hosts/{made['id']}", None, 204)
        self.assertEqual([each["name"] for each in self.call("GET", "/hosts") if each["removed"]], ["Another"])
        self.call("POST", f"/hosts/{made['id']}/back")
        self.assertEqual([each["removed"] for each in self.call("GET", "/hosts")], [False, False])
        told = [entry.sentence for entry in Entry.objects.filter(act="hosts changed").order_by("pk")]
        self.assertEqual(
            [words.rsplit(" the host", 1)[0].rsplit(" has ", 1)[1] for words in told],
            ["added", "taken away", "brought back"],
        )

    def test_what_is_wrong_with_a_host_is_said(self):
        self.as_person(self.admin)
        for part, words in (
            ({"name": " "}, "needs a name"),
            ({"name": "Headgate Films"}, "already"),
            ({"addresses": [" "]}, "which addresses"),
            ({"addresses": ["*"]}, "no address of films"),
            ({"frames": "https://play.example/x"}, "origin"),
            ({"frames": "http://localhost"}, "this installation itself"),
            ({"frames": "http://canal.localhost"}, "this installation itself"),
            ({"endpoint": "file:///etc/passwd"}, "endpoint needs"),
            ({"options": {"start": "javascript:"}}, "should be written"),
        ):
            said = self.call("POST", "/hosts", self.said(**{"name": "Another", **part}), 422)
            self.assertIn(words, said["detail"], part)
        self.assertEqual(Host.objects.count(), 1)

    def test_a_host_is_tried_as_it_is_typed_and_nothing_is_kept(self):
        self.as_person(self.admin)
        given = {"host": self.said(name="New"), "address": f"{self.at}/watch/over-the-aqueduct"}
        tried = self.call("POST", "/hosts/try", given)
        self.assertEqual((tried["title"], tried["lasts"]), ("Over the aqueduct, in one go", 14))
        self.assertEqual(tried["with_options"], f"{self.at}/play/over-the-aqueduct?t=30&cc=1&begin=1")
        self.assertFalse(Item.objects.filter(kind="hosted").exists())
        self.server.mode = "lying"
        self.assertIn("localhost", self.call("POST", "/hosts/try", given, 422)["detail"])

    def test_pages_follow_when_a_host_is_changed_taken_away_and_brought_back(self):
        item = self.added()
        self.assertIn("begin=1", self.live(hosted(item.pk)).content.decode())
        self.as_person(self.admin)
        self.call("PUT", f"/hosts/{self.host.pk}", self.said(options={"loop": "again=1"}))
        self.assertNotIn("begin=1", self.shown().content.decode())
        self.call("DELETE", f"/hosts/{self.host.pk}", None, 204)
        answer = self.shown()
        self.assertNotIn("data-frame", answer.content.decode())
        self.assertIn(f'href="{self.at}/watch/over-the-aqueduct"', answer.content.decode())
        self.assertNotIn("frame-src", answer["Content-Security-Policy"])
        self.assertIn("not asked", self.call("POST", f"/items/{item.pk}/ask", None, 422)["detail"])
        self.call("POST", f"/hosts/{self.host.pk}/back")
        self.assertIn("data-frame", self.shown().content.decode())


class OnPages(HostsTest):
    def test_readers_get_a_link_and_a_cover_of_ours_and_the_page_may_frame_just_that_host(self):
        item = self.added()
        answer = self.live(hosted(item.pk, start=5, captions=True, muted=True))
        html = answer.content.decode()
        self.assertIn(f'href="{self.at}/watch/over-the-aqueduct"', html)
        self.assertIn(f'data-frame="{self.at}/play/over-the-aqueduct?t=5&amp;cc=1&amp;begin=1"', html)
        self.assertNotIn("<iframe", html)
        policy = answer["Content-Security-Policy"]
        self.assertIn(f"frame-src {self.at};", policy + ";")
        self.assertIn("script-src 'self'", policy)
        cover = html.split('<img src="')[1].split('"')[0]
        self.assertEqual(self.visit_page(cover).status_code, 200)
        self.assertEqual(self.call("GET", f"/items/{item.pk}/uses")[0]["page"]["id"], self.walks.pk)

    def test_the_files_of_a_cover_are_made_like_those_of_a_picture(self):
        item = self.added()
        tasks.make_files.func(item.pk)
        item.refresh_from_db()
        self.assertEqual(item.made, item.wanted)
        self.assertIn("image/avif", {file.mime for file in item.files.all()})

    def test_a_film_that_is_gone_is_told_on_the_page_and_comes_back(self):
        item = self.added()
        self.live(hosted(item.pk))
        self.server.mode = "gone"
        self.due()
        self.assertEqual(keeping.ask_due.func(), 1)
        found = self.call("GET", f"/items/{item.pk}")["hosted"]
        self.assertIn("has no such film", found["gone"])
        checks = self.call(
            "POST",
            f"/pages/{self.walks.pk}/check",
            {"title": "Towpath walks", "description": "", "document": self.text_of(item)},
        )
        self.assertIn("hosted-gone", [finding["check"] for finding in checks["findings"]])
        self.server.mode = "well"
        self.due()
        keeping.ask_due.func()
        self.assertEqual(self.call("GET", f"/items/{item.pk}")["hosted"]["gone"], "")

    def text_of(self, item):
        return document_of([paragraph("The way."), hosted(item.pk)]).to_json()

    def due(self):
        Hosting.objects.update(next_at=timezone.now() - timedelta(seconds=1))

    def test_one_that_is_silent_is_told_after_three_times_only_and_its_others_are_not_asked_meanwhile(self):
        item = self.added()
        self.added("/watch/the-last-pair-of-gates")
        self.server.mode = "vanished"
        for silent in ("", "", "broke off"):
            self.due()
            self.server.asked.clear()
            keeping.ask_due.func()
            self.assertEqual(len(self.server.asked), 1)
            Hosting.objects.exclude(failures__gt=0).update(next_at=timezone.now() + timedelta(days=9))
            gone = [each.gone for each in Hosting.objects.filter(failures__gt=0)]
            self.assertTrue(all(silent in words and bool(words) == bool(silent) for words in gone), gone)
        self.assertTrue(Hosting.objects.filter(pk=item.pk).exists())

    def test_a_film_that_was_changed_there_is_changed_here_and_keeps_the_name_it_was_given(self):
        item = self.added()
        Item.objects.filter(pk=item.pk).update(title="Our crossing")
        before = item.thumbnail
        self.live(hosted(item.pk))
        self.server.mode = "changed"
        self.call("POST", f"/items/{item.pk}/ask")
        item.refresh_from_db()
        self.assertEqual(item.title, "Our crossing")
        self.assertNotEqual(item.thumbnail, before)
        html = self.shown().content.decode()
        self.assertIn("/play/2-over-the-aqueduct", html)
        self.assertIn(f"hosted/{item.pk}/2/", html)
        # The same cover is not fetched a second time.
        self.server.asked.clear()
        self.call("POST", f"/items/{item.pk}/ask")
        self.assertFalse([path for path in self.server.asked if "covers" in path])

    def test_one_that_was_removed_for_good_while_its_host_was_asked_is_nothing_to_stumble_over(self):
        item = self.added()
        real = keeping.ask

        def removed(host, address):
            Item.objects.filter(pk=item.pk).delete()
            return real(host, address)

        with patch.object(keeping, "ask", removed):
            keeping.ask_again(item)
        self.assertFalse(Hosting.objects.exists())

    def test_somebody_says_that_it_has_captions_and_it_can_be_undone(self):
        item = self.added()
        self.call("PATCH", f"/items/{item.pk}", {"captioned": True})
        self.assertTrue(self.call("GET", f"/items/{item.pk}")["captioned"])
        last = self.call("GET", "/acts/last")
        self.call("POST", f"/acts/{last['id']}/undo")
        self.assertFalse(self.call("GET", f"/items/{item.pk}")["captioned"])

    def test_a_file_does_not_take_its_place(self):
        item = self.added()
        self.as_person(self.admin)
        begun = {"name": "x.jpg", "size": 10, "stamp": "", "replaces": item.pk}
        upload = self.call("POST", "/uploads", begun, 201)
        self.client.put(f"/api/uploads/{upload['id']}?start=0", b"\xff\xd8\xff" + b"x" * 7, "application/octet-stream")
        answer = self.client.post(f"/api/uploads/{upload['id']}")
        self.assertIn("stands at another host", answer.json()["detail"])


class ComingAndGoing(HostsTest):
    def test_a_frame_of_a_host_that_is_allowed_becomes_a_film_and_others_are_told_with_their_address(self):
        html = (
            f'<p>Look:</p><iframe src="{self.at}/play/over-the-aqueduct" title="Our crossing"></iframe>'
            '<iframe src="https://maps.example/embed?at=lock"></iframe>'
        )
        self.server.mode = "slow"
        said = self.call("POST", "/paste", {"html": html})
        item = Item.objects.get(kind="hosted")
        self.assertEqual(item.title, "Our crossing")
        self.assertEqual([block["type"] for block in blocks_in(said["document"])], ["paragraph", "hosted"])
        told = " ".join([*said["told"]["mended"], *said["told"]["dropped"]])
        self.assertIn("maps.example was left out: https://maps.example/embed?at=lock", told)
        # Nobody waited for the host; it is asked in the background.
        self.assertFalse(self.server.asked)
        self.server.mode = "well"
        self.assertTrue(keeping.is_due())
        keeping.ask_due.func()
        item.refresh_from_db()
        self.assertEqual((item.title, item.lasts), ("Our crossing", 14_000))
        self.assertTrue(item.thumbnail)

    def test_it_goes_along_in_every_format_with_cover_and_link(self):
        item = self.added()
        self.save(self.walks, document_of([paragraph("The way."), hosted(item.pk)]).to_json(), None)
        for ending in ("docx", "odt", "md", "html", "txt"):
            data = self.client.get(f"/api/pages/{self.walks.pk}/export/{ending}").content
            if data.startswith(b"PK"):
                with zipfile.ZipFile(BytesIO(data)) as archive:
                    self.assertTrue(any(name.endswith(".jpg") for name in archive.namelist()), ending)
                    data = b"".join(archive.read(name) for name in archive.namelist())
            self.assertIn(f"{self.at}/watch/over-the-aqueduct".encode(), data, ending)

    def test_a_site_taken_away_as_files_has_the_cover_and_still_leads_to_the_host(self):
        item = self.added()
        self.live(hosted(item.pk))
        answer = self.client.get(f"/api/sites/{self.site.pk}/export")
        with zipfile.ZipFile(BytesIO(b"".join(answer.streaming_content))) as archive:
            names = archive.namelist()
            page = archive.read("visit/towpath-walks/index.html").decode()
        self.assertTrue(any("hosted" in name and name.endswith(".jpg") for name in names), names)
        self.assertIn(f'href="{self.at}/watch/over-the-aqueduct"', page)
        self.assertTrue(any("hosted" in name and name.endswith(".js") for name in names), names)
