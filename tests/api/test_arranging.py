"""Folders, tags, the bin, many at once, one way back; who may see and have what."""

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TransactionTestCase

from stillpage.library import acts, search
from stillpage.library.models import Act, File, Folder, Item
from stillpage.library.receiving import Hidden, receive, replace
from stillpage.people.models import Role, RoleGrant
from stillpage.publishing.publish import NotReady, publish
from stillpage.written import saving

from ..core.documents import document, link, paragraph, picture, words
from .base import ApiTest, MediaFolder, a_person, a_picture, a_site, image_bytes

PDF = b"%PDF-1.4\n1 0 obj\n<<>>\nendobj\n%%EOF"


class Arranging(ApiTest):
    def setUp(self):
        super().setUp()
        self.gates = a_picture(self.author, colour="#456")
        self.reeds = a_picture(self.author, alt="", colour="#654")
        self.both = [self.gates.pk, self.reeds.pk]

    def act(self, act, items=None, status=200, **more):
        return self.call("POST", "/library/act", {"act": act, "items": items or self.both, **more}, status)

    def undo(self, act, status=200):
        return self.call("POST", f"/acts/{act['id']}/undo", status=status)

    def item(self, item):
        return self.call("GET", f"/items/{item.pk}")

    def folder(self, name, parent=None, status=201):
        return self.call("POST", "/folders", {"name": name, "parent": parent}, status)

    def test_many_are_moved_and_one_undo_brings_them_back(self):
        folder = self.folder("Locks")["folder"]
        act = self.act("move", folder=folder["id"])
        self.assertEqual((act["changed"], act["sentence"]), (2, "2 items moved to “Locks”"))
        self.assertEqual(self.item(self.gates)["folder"], folder["id"])
        self.assertEqual(len(self.call("GET", f"/library?folder={folder['id']}")["entries"]), 2)
        self.assertEqual(self.call("GET", "/library?folder=0")["entries"], [])
        self.undo(act)
        self.assertIsNone(self.item(self.gates)["folder"])
        self.assertIn("already", self.undo(act, 422)["detail"])

    def test_tags_are_given_and_taken_and_found(self):
        self.act("tag", [self.gates.pk], words=["Locks"])
        act = self.act("tag", words=["winter", "locks"])
        self.assertEqual(self.item(self.gates)["tags"], ["Locks", "winter"])
        self.assertEqual(len(self.call("GET", "/library?tag=winter")["entries"]), 2)
        self.assertEqual(len(self.call("GET", "/library?q=wint")["entries"]), 2)
        self.undo(act)
        self.assertEqual((self.item(self.gates)["tags"], self.item(self.reeds)["tags"]), (["Locks"], []))
        self.act("tag", words=["a,b"], status=422)
        self.act("tag", without=["LOCKS"])
        self.assertEqual(self.item(self.gates)["tags"], [])

    def test_facts_are_said_of_many(self):
        act = self.act("describe", say={"credit": "Ansel Thrupp", "language": "en"})
        self.assertEqual(self.item(self.reeds)["credit"], "Ansel Thrupp")
        self.undo(act)
        self.assertEqual(self.item(self.reeds)["credit"], "")
        self.act("describe", say={"language": "not a language!"}, status=422)

    def test_what_was_changed_since_is_left_as_it_is(self):
        act = self.act("describe", say={"credit": "A"})
        self.call("PATCH", f"/items/{self.gates.pk}", {"credit": "B"})
        self.undo(act)
        self.assertEqual((self.item(self.gates)["credit"], self.item(self.reeds)["credit"]), ("B", ""))
        again = self.act("describe", say={"credit": "C"})
        self.act("describe", say={"credit": "D"})
        self.assertIn("changed again", self.undo(again, 422)["detail"])

    def test_only_who_did_it_or_a_keeper_undoes(self):
        act = self.act("describe", say={"credit": "A"})
        self.as_person(self.other)
        self.undo(act, 403)
        self.as_person(a_person("piet", Role.KEEPER))
        self.undo(act)

    def test_into_the_bin_and_back_with_its_place(self):
        folder = self.folder("Locks")["folder"]
        self.act("move", folder=folder["id"])
        act = self.act("bin", [self.gates.pk])
        self.assertEqual([each["item"]["id"] for each in self.call("GET", "/library")["entries"]], [self.reeds.pk])
        (binned,) = self.call("GET", "/library?show=bin")["entries"]
        self.assertTrue(binned["item"]["binned"])
        self.assertEqual([each["id"] for each in self.call("GET", "/shelf")["pictures"]], [self.reeds.pk])
        self.undo(act)
        self.assertEqual(self.item(self.gates)["folder"], folder["id"])
        self.act("bin")
        self.act("restore")
        self.assertEqual(len(self.call("GET", "/library")["entries"]), 2)

    def write(self, page, *blocks):
        page.working_copy.refresh_from_db()
        saving.save(page, self.author, saving.Draft("T", "", document(*blocks)), page.working_copy.revision)
        page.working_copy.refresh_from_db()

    def test_a_live_page_never_shows_a_hole(self):
        self.write(self.walks, paragraph("x"), picture(self.gates.pk))
        publish(self.walks, self.author, self.walks.working_copy.revision)
        (use,) = self.call("POST", "/library/uses", {"items": self.both})
        self.assertEqual((use["page"]["id"], use["live"]), (self.walks.pk, True))
        self.act("bin", [self.gates.pk])
        self.as_person(a_person("piet", Role.KEEPER))
        problem = self.call("POST", "/library/remove", {"items": [self.gates.pk]}, 422)
        self.assertIn("still on a live page", problem["detail"])
        html = self.visit_page("/visit/towpath-walks").content.decode()
        source = html.split('<img src="')[1].split('"')[0]
        self.assertEqual(self.visit_page(source).status_code, 200)
        check = self.call("POST", "/check", {"document": document(picture(self.gates.pk)).to_json()})
        self.assertIn("waits in the bin", check["findings"][0]["sentence"])
        self.write(self.walks, paragraph("x"))
        publish(self.walks, self.author, self.walks.working_copy.revision)
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.call("POST", "/library/remove", {"items": [self.gates.pk]})["total"], 1)
        self.assertEqual(self.visit_page(source).status_code, 404)
        self.assertFalse(File.objects.filter(item=self.gates.pk).exists())

    def test_only_what_is_in_the_bin_is_removed_and_only_by_a_keeper(self):
        self.call("POST", "/library/remove", {"items": self.both}, 403)
        self.as_person(a_person("piet", Role.KEEPER))
        self.assertIn("not in the bin", self.call("POST", "/library/remove", {"items": self.both}, 422)["detail"])
        self.assertEqual(Item.objects.count(), 2)

    def test_decorative_is_a_choice_of_its_own(self):
        shown = {each["item"]["id"] for each in self.call("GET", "/library?show=without alt text")["entries"]}
        self.assertEqual(shown, {self.reeds.pk})
        self.call("PATCH", f"/items/{self.reeds.pk}", {"decorative": True})
        self.assertEqual(self.call("GET", "/library/count?show=without alt text")["total"], 0)
        check = self.call("POST", "/check", {"document": document(picture(self.reeds.pk)).to_json()})
        self.assertEqual(check["findings"], [])

    def test_numbers_of_all_and_too_many_at_once(self):
        self.assertEqual(self.call("GET", "/library/numbers?order=title"), sorted(self.both))
        self.act("bin", [1] * 5001, status=422)

    def test_names_may_hold_any_sign(self):
        self.call("PATCH", f"/items/{self.gates.pk}", {"title": "Gates {0} {x"})
        self.call("PATCH", f"/items/{self.gates.pk}", {"credit": "A"})
        folder = self.folder("{}{y}")["folder"]
        self.assertEqual(self.act("move", folder=folder["id"])["sentence"], "2 items moved to “{}{y}”")

    def test_words_in_a_folder_that_is_gone_find_nothing(self):
        self.assertEqual(self.call("GET", "/library?folder=9999&q=lock")["entries"], [])
        self.assertEqual(self.call("GET", "/library/count?folder=9999&q=lock")["total"], 0)

    def test_an_unknown_act_a_folder_that_is_gone(self):
        self.act("burn", status=422)
        self.act("move", folder=99, status=404)


class Folders(ApiTest):
    def make(self, name, parent=None, status=201):
        return self.call("POST", "/folders", {"name": name, "parent": parent}, status)

    def change(self, folder, status=200, **values):
        return self.call("PATCH", f"/folders/{folder['id']}", values, status)

    def names(self):
        return [folder["name"] for folder in self.call("GET", "/folders")]

    def test_the_tree_stands_in_order_and_is_changed_and_undone(self):
        places = self.make("Places")["folder"]
        locks = self.make("Locks", places["id"])["folder"]
        self.make("Boats")
        self.assertEqual(self.names(), ["Boats", "Places", "Locks"])
        act = self.change(locks, parent=0, name="All locks")
        self.assertEqual(self.names(), ["All locks", "Boats", "Places"])
        self.call("POST", f"/acts/{act['id']}/undo")
        self.assertEqual(self.names(), ["Boats", "Places", "Locks"])

    def test_two_changes_at_the_same_moment_both_hold(self):
        number = self.make("Locks")["folder"]["id"]
        one, other = (Folder.objects.get(pk=number) for _ in range(2))
        acts.change_folder(self.author, one, {"name": "All locks"})
        acts.change_folder(self.author, other, {"sites": [self.site.pk]})
        found = Folder.objects.get(pk=number)
        self.assertEqual((found.name, list(found.sites.all())), ("All locks", [self.site]))

    def test_what_cannot_be(self):
        places = self.make("Places")["folder"]
        inner = self.make("Inner", places["id"])["folder"]
        self.assertIn("within itself", self.change(places, 422, parent=inner["id"])["detail"])
        self.assertIn("already", self.make("places", status=422)["detail"])
        self.assertIn("at most 120", self.make(" ", status=422)["detail"])
        self.assertIn("gone", self.make("x", 999, 422)["detail"])
        deepest = inner
        for number in range(6):
            deepest = self.make(f"f{number}", deepest["id"])["folder"]
        self.assertIn("8 deep", self.make("too deep", deepest["id"], 422)["detail"])

    def test_taking_a_folder_away_loses_nothing_and_can_be_undone(self):
        places = self.make("Places")["folder"]
        locks = self.make("Locks", places["id"])["folder"]
        inner = self.make("Gates", locks["id"])["folder"]
        item = a_picture(self.author)
        self.call("POST", "/library/act", {"act": "move", "items": [item.pk], "folder": locks["id"]})
        act = self.call("DELETE", f"/folders/{locks['id']}")
        self.assertEqual(self.names(), ["Places", "Gates"])
        self.assertEqual(self.call("GET", f"/items/{item.pk}")["folder"], places["id"])
        self.call("POST", f"/acts/{act['id']}/undo")
        self.assertEqual(self.names(), ["Places", "Locks", "Gates"])
        self.assertEqual(self.call("GET", f"/items/{item.pk}")["folder"], locks["id"])
        self.assertEqual(Folder.objects.get(pk=inner["id"]).parent_id, locks["id"])

    def test_what_a_folder_is_kept_from_is_not_offered_not_seen_and_not_published(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        places = self.make("Museum")["folder"]
        inner = self.make("Windlasses", places["id"])["folder"]
        item = a_picture(self.author)
        self.call("POST", "/library/act", {"act": "move", "items": [item.pk], "folder": inner["id"]})
        self.change(places, 403, sites=[museum.pk])
        self.as_person(a_person("piet", Role.KEEPER))
        self.change(places, sites=[museum.pk])
        self.as_person(self.author)
        self.assertEqual(self.call("GET", f"/shelf?site={self.site.pk}")["pictures"], [])
        self.assertEqual(len(self.call("GET", f"/shelf?site={museum.pk}")["pictures"]), 1)
        self.assertEqual(self.call("GET", "/folders")[1]["kept_to"], [museum.pk])
        saving.save(self.walks, self.author, saving.Draft("T", "", document(picture(item.pk))), 1)
        self.walks.working_copy.refresh_from_db()
        with self.assertRaises(NotReady) as caught:
            publish(self.walks, self.author, 2)
        self.assertIn("kept to other sites", str(caught.exception))
        self.as_person(a_person("guide", Role.AUTHOR, site=self.site))
        self.call("GET", f"/items/{item.pk}", status=404)
        self.assertEqual(self.call("GET", "/library")["entries"], [])
        self.assertEqual(self.call("GET", "/folders"), [])
        self.assertEqual(self.call("POST", "/library/act", {"act": "bin", "items": [item.pk]})["changed"], 0)

    def test_what_somebody_may_not_see_they_can_neither_fill_nor_replace_nor_learn_of(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        theirs = self.make("Museum")["folder"]["id"]
        mine = self.make("Walks")["folder"]["id"]
        item = a_picture(self.author, colour="#987")
        acts.move(self.author, [item], Folder.objects.get(pk=theirs))
        acts.to_bin(self.author, [item])
        Folder.objects.get(pk=theirs).sites.set([museum])
        guide = a_person("guide", Role.AUTHOR, site=self.site)
        self.as_person(guide)
        upload = {"name": "a.jpg", "size": 9, "stamp": "1"}
        other = a_picture(self.author, colour="#345")
        for method, path, body, *status in (
            ("POST", "/uploads", {**upload, "folder": theirs}),
            ("POST", "/uploads", {**upload, "replaces": item.pk}),
            ("POST", "/library/fetch", {"address": "https://locks.example/a.jpg", "folder": theirs}),
            ("POST", "/library/act", {"act": "move", "items": [other.pk], "folder": theirs}),
            ("POST", "/folders", {"name": "Below", "parent": theirs}, 422),
            ("PATCH", f"/folders/{mine}", {"parent": theirs}, 422),
            ("PATCH", f"/folders/{theirs}", {"name": "Ours"}),
            ("DELETE", f"/folders/{theirs}", None),
        ):
            with self.subTest(path=path, body=body):
                self.call(method, path, body, *(status or [404]))
        sent = {"file": SimpleUploadedFile("again.jpg", image_bytes(colour="#987"))}
        answer = self.client.post("/api/items", sent)
        self.assertContains(answer, "kept to other sites", status_code=422)
        self.assertNotIn(item.title, answer.content.decode())
        item.refresh_from_db()
        self.assertIsNotNone(item.binned_at)
        with self.assertRaises(Hidden):
            replace(other, SimpleUploadedFile("again.jpg", image_bytes(colour="#987")), "again.jpg", guide)
        read = {"file": SimpleUploadedFile("a.md", b"One line.", "text/markdown"), "folder": str(theirs)}
        self.assertEqual(self.client.post("/api/items", read).status_code, 404)

    def test_a_role_for_one_site_gives_no_right_in_what_is_kept_to_another(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        theirs = Folder.objects.create(name="Museum")
        inner = Folder.objects.create(name="Windlasses", parent=theirs)
        theirs.sites.set([museum])
        shared = Folder.objects.create(name="Walks")
        shared.sites.set([museum, self.site])
        item, open_item = a_picture(self.author, colour="#987"), a_picture(self.author, colour="#345")
        Item.objects.filter(pk=item.pk).update(folder=inner)
        # They read at the museum, so they see what it has; they write, and keep the library, for the other site.
        guide = a_person("guide", Role.READER, site=museum)
        for role in (Role.AUTHOR, Role.KEEPER):
            RoleGrant.objects.create(person=guide, role=role, site=self.site)
        self.as_person(guide)
        self.call("GET", f"/items/{item.pk}")
        before = (Item.objects.values().get(pk=item.pk), list(Folder.objects.values()))
        upload = {"name": "a.jpg", "size": 9, "stamp": "1"}
        both = [item.pk, open_item.pk]
        for method, path, body in (
            ("POST", "/uploads", {**upload, "folder": inner.pk}),
            ("POST", "/uploads", {**upload, "replaces": item.pk}),
            ("PATCH", f"/items/{item.pk}", {"title": "Ours"}),
            ("POST", f"/items/{item.pk}/versions/1", None),
            ("POST", "/library/act", {"act": "move", "items": [open_item.pk], "folder": inner.pk}),
            ("POST", "/library/act", {"act": "move", "items": both}),
            ("POST", "/library/act", {"act": "tag", "items": both, "words": ["ours"]}),
            ("POST", "/library/act", {"act": "describe", "items": both, "say": {"restricted": True}}),
            ("POST", "/library/act", {"act": "bin", "items": both}),
            ("POST", "/library/remove", {"items": both}),
            ("POST", "/folders", {"name": "Below", "parent": theirs.pk}),
            ("PATCH", f"/folders/{shared.pk}", {"parent": theirs.pk}),
            ("PATCH", f"/folders/{inner.pk}", {"name": "Ours"}),
            ("PATCH", f"/folders/{theirs.pk}", {"sites": []}),
            ("DELETE", f"/folders/{inner.pk}", None),
        ):
            with self.subTest(path=path, body=body):
                self.assertIn("You may not", self.call(method, path, body, 403)["detail"])
        self.assertEqual(before, (Item.objects.values().get(pk=item.pk), list(Folder.objects.values())))
        self.assertEqual(self.call("POST", "/library/act", {"act": "bin", "items": [open_item.pk]})["changed"], 1)
        self.change({"id": shared.pk}, name="Ways")
        described = acts.tag(self.author, [item], ["old"], [])
        self.call("POST", f"/acts/{described.pk}/undo", status=422)
        self.assertEqual(list(item.tags.values_list("name", flat=True)), ["old"])


class Restricted(ApiTest):
    def setUp(self):
        super().setUp()
        self.minutes, _ = receive(SimpleUploadedFile("minutes.pdf", PDF), self.author)
        self.keeper = a_person("piet", Role.KEEPER)
        self.as_person(self.keeper)
        self.call("PATCH", f"/items/{self.minutes.pk}", {"restricted": True})
        self.address = f"/media/{self.minutes.files.get().name}"
        self.fen = a_person("fen", Role.READER)

    def test_every_file_answers_403_to_visitors_on_both_sides(self):
        picture, _ = receive(SimpleUploadedFile("a.jpg", image_bytes((1000, 700))), self.author)
        self.call("PATCH", f"/items/{picture.pk}", {"restricted": True})
        self.client.logout()
        for file in File.objects.all():
            for answer in (self.visit_page(f"/media/{file.name}"), self.client.get(f"/media/{file.name}")):
                self.assertEqual(answer.status_code, 403, file.name)
                self.assertEqual(answer["Cache-Control"], "no-store")

    def test_a_reader_who_is_signed_in_gets_it_and_nobody_keeps_it_for_others(self):
        self.as_person(self.fen)
        answer = self.client.get(self.address)
        self.assertEqual((answer.status_code, answer["Cache-Control"]), (200, "private, no-store"))

    def test_on_the_public_site_the_way_leads_through_signing_in(self):
        asked = self.visit_page(self.address, HTTP_ACCEPT="text/html")
        self.assertEqual(asked.status_code, 403)
        self.assertContains(asked, f"/reader/{self.site.pk}?to=", status_code=403)
        self.as_person(self.fen)
        sent = self.client.get(f"/reader/{self.site.pk}", {"to": self.address})
        self.assertEqual(sent.status_code, 302)
        self.assertTrue(sent["Location"].startswith(f"{self.site.origin}/reader-pass?ticket="))
        taken = self.visit_page(sent["Location"].removeprefix(self.site.origin))
        self.assertEqual(taken["Location"], self.address)
        cookie = taken.cookies["reader"]
        self.assertTrue(cookie["httponly"])
        answer = self.visit_page(self.address, HTTP_COOKIE=f"reader={cookie.value}")
        self.assertEqual(answer.status_code, 200)
        self.fen.is_active = False
        self.fen.save()
        self.assertEqual(self.visit_page(self.address, HTTP_COOKIE=f"reader={cookie.value}").status_code, 403)

    def test_tickets_of_other_sites_forged_and_old_ones_are_worth_nothing(self):
        a_site("Varrow Lock Museum", "museum.localhost")
        self.as_person(self.fen)
        sent = self.client.get(f"/reader/{self.site.pk}")["Location"].removeprefix(self.site.origin)
        self.assertNotIn("reader", self.visit_page(sent, host="museum.localhost").cookies)
        self.assertNotIn("reader", self.visit_page("/reader-pass?ticket=1@canal.localhost:x:y&to=/").cookies)
        away = self.visit_page("/reader-pass?to=//example.invalid/")
        self.assertEqual(away["Location"], "/")
        self.assertEqual(self.visit_page(self.address, HTTP_COOKIE="reader=1@canal.localhost:x:y").status_code, 403)

    def test_whoever_is_not_signed_in_is_asked_to_and_no_author_may_lift_it(self):
        self.client.logout()
        self.assertContains(self.client.get(f"/reader/{self.site.pk}"), "<div id")
        self.as_person(self.author)
        self.call("PATCH", f"/items/{self.minutes.pk}", {"restricted": False}, 403)
        check = self.call(
            "POST",
            "/check",
            {"document": document(paragraph(words("Minutes", link(f"item:{self.minutes.pk}")))).to_json()},
        )
        self.assertIn("item-signed-in", [each["check"] for each in check["findings"]])

    def test_originals_of_pictures_are_not_given_out(self):
        picture, _ = receive(SimpleUploadedFile("b.jpg", image_bytes((900, 700))), self.author)
        name = picture.files.get(original=True).name
        self.assertEqual(self.visit_page(f"/media/{name}").status_code, 403)
        self.as_person(self.fen)
        self.assertEqual(self.client.get(f"/media/{name}").status_code, 403)
        self.as_person(self.author)
        self.assertEqual(self.client.get(f"/media/{name}").status_code, 200)


class Searching(MediaFolder, TransactionTestCase):
    """With rows that are committed, as the full-text index wants them."""

    def test_the_index_and_the_head_of_the_list_find_the_same(self):
        author = a_person("wren", Role.AUTHOR)
        titles = [
            "Lock gates, closed",
            "Lock-keeper's cottage",
            "The flight",
            "Schleuse mit Toren",
            "Écluse 4",
            "gates",
        ]
        items = [
            Item.objects.create(kind="picture", title=title, added_at="2026-01-01T00:00Z", added_by=author)
            for title in titles
        ]
        for item in items:
            search.note_words(item, "paddle gear sluice" if item.title == "The flight" else None)
        everything = Item.objects.order_by("pk")
        for q in (
            "lock",
            "LOCK gat",
            "sluice",
            "ecluse",
            "écluse 4",
            "4",
            "keeper",
            "a",
            "the",
            "x",
            '-+*()"~<>@',
            "gates closed",
            "%",
            "_",
        ):
            head = search.first_of(everything, q, 0, 10)
            index = list(search.holding(everything, q).values_list("pk", flat=True))
            self.assertEqual(head, index, q)
            self.assertEqual(search.counted(everything, q), len(index), q)
        self.assertEqual([items[2].pk], search.first_of(everything, "paddle", 0, 10))
        self.assertEqual(Act.objects.count(), 0)
