"""Arranging a tree through the API: placing, naming, showing, copying, the bin, undoing; what is told before; roles."""

from datetime import timedelta

from django.utils import timezone

from stillpage.arranging import undoing
from stillpage.pages.models import Page, Redirect, TreeAct
from stillpage.pages.tree import add_page
from stillpage.people.models import Role
from stillpage.publishing.models import LiveCopy

from .base import ApiTest, a_document, a_person, a_site


def linked(words, page):
    """A document whose words link to a page."""
    document = a_document(words)
    document["content"][0]["content"][0]["content"][0]["marks"] = [
        {"type": "link", "attrs": {"href": f"page:{page.pk}"}}
    ]
    return document


class Arranging(ApiTest):
    def setUp(self):
        super().setUp()
        self.boats = add_page(self.site, self.author, "Boats")
        self.short = add_page(self.site, self.author, "Short walks", parent=self.walks)

    def tree(self, site=None):
        contents = self.call("GET", f"/sites/{(site or self.site).pk}/contents")
        return [page["path"] for page in contents["pages"]]

    def place(self, *pages, status=200, **where):
        numbers = [page.pk for page in pages]
        return self.call("POST", "/tree/place", {"pages": numbers, "site": self.site.pk, **where}, status)

    def undo(self, act, status=200):
        return self.call("POST", f"/tree/acts/{act['id']}/undo", status=status)

    def all_live(self):
        for page in (self.home, self.visit, self.walks, self.boats, self.short):
            self.publish(page)
        self.render_all()

    def titled(self, page, title, base=None):
        return self.save(page, a_document("Level all the way."), base, title=title)


class Placing(Arranging):
    def test_a_branch_goes_under_another_page_and_comes_back(self):
        before = self.tree()
        act = self.place(self.walks, parent=self.boats.pk)
        self.assertEqual(
            self.tree(), ["/", "/visit", "/boats", "/boats/towpath-walks", "/boats/towpath-walks/short-walks"]
        )
        self.assertIn("Towpath walks", act["sentence"])
        self.undo(act)
        self.assertEqual(self.tree(), before)
        self.assertEqual(Redirect.objects.count(), 0)

    def test_beside_another_page_before_and_after(self):
        self.place(self.boats, before=self.visit.pk)
        self.assertEqual(self.tree()[:2], ["/", "/boats"])
        act = self.place(self.boats, after=self.visit.pk)
        self.assertEqual(self.tree()[-1], "/boats")
        self.undo(act)
        self.assertEqual(self.tree()[:2], ["/", "/boats"])
        self.place(self.boats, before=self.home.pk)
        self.assertEqual(self.tree()[0], "/boats")

    def test_what_nobody_will_undo_any_more_is_forgotten(self):
        act = self.place(self.boats, before=self.home.pk)
        undoing.forget_old()
        self.assertTrue(TreeAct.objects.filter(pk=act["id"]).exists())
        TreeAct.objects.update(at=timezone.now() - undoing.KEPT - timedelta(minutes=1))
        undoing.forget_old()
        self.undo(act, 404)
        self.assertEqual(self.tree()[0], "/boats")

    def test_several_keep_their_order_and_go_as_one(self):
        pages = [add_page(self.site, self.author, f"Walk {number}", parent=self.walks) for number in range(3)]
        before = self.tree()
        act = self.place(pages[2], pages[0], self.boats, before=self.short.pk)
        self.assertEqual(
            [path.split("/")[-1] for path in self.tree()[3:]], ["walk-0", "walk-2", "boats", "short-walks", "walk-1"]
        )
        self.undo(act)
        self.assertEqual(self.tree(), before)

    def test_what_stands_under_a_chosen_page_goes_along_once(self):
        self.place(self.walks, self.short, parent=self.boats.pk)
        self.assertEqual(self.tree()[-1], "/boats/towpath-walks/short-walks")

    def test_an_address_that_is_taken_there_gets_a_number(self):
        add_page(self.site, self.author, "Short walks", parent=self.visit)
        self.place(self.short, parent=self.visit.pk)
        self.assertIn("/visit/short-walks-2", self.tree())

    def test_readers_are_led_on_in_one_step_however_often_a_page_moves(self):
        self.all_live()
        self.place(self.walks, parent=self.boats.pk)
        self.place(self.walks, parent=None)
        self.render_all()
        for path, to in (
            ("/visit/towpath-walks", "/towpath-walks"),
            ("/visit/towpath-walks/short-walks", "/towpath-walks/short-walks"),
            ("/boats/towpath-walks/short-walks", "/towpath-walks/short-walks"),
        ):
            answer = self.visit_page(path)
            self.assertEqual((answer.status_code, answer["Location"]), (301, to), path)
            self.assertEqual(self.visit_page(to).status_code, 200)
        html = self.visit_page("/towpath-walks/short-walks").content.decode()
        self.assertIn('<link rel="canonical" href="http://canal.localhost/towpath-walks/short-walks">', html)
        # Back at an earlier address it is there, and what led from it leads nowhere else.
        self.place(self.walks, parent=self.visit.pk)
        self.render_all()
        self.assertEqual(self.visit_page("/visit/towpath-walks").status_code, 200)
        self.assertEqual(self.visit_page("/towpath-walks")["Location"], "/visit/towpath-walks")
        self.assertFalse(Redirect.objects.filter(path="/visit/towpath-walks").exists())

    def test_links_to_it_follow(self):
        self.save(self.boats, linked("See the walks", self.short), None, title="Boats")
        self.all_live()
        self.place(self.walks, parent=self.boats.pk)
        self.render_all()
        self.assertIn('href="/boats/towpath-walks/short-walks"', self.visit_page("/boats").content.decode())

    def test_to_another_site(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        self.all_live()
        act = self.place(self.walks, site=museum.pk)
        self.render_all()
        self.assertEqual(self.tree(museum), ["/towpath-walks", "/towpath-walks/short-walks"])
        answer = self.visit_page("/visit/towpath-walks/short-walks")
        self.assertEqual(answer["Location"], "http://museum.localhost/towpath-walks/short-walks")
        html = self.visit_page("/towpath-walks/short-walks", "museum.localhost").content.decode()
        self.assertIn("Varrow Lock Museum", html)
        self.undo(act)
        self.render_all()
        self.assertEqual(self.visit_page("/visit/towpath-walks/short-walks").status_code, 200)
        answer = self.visit_page("/towpath-walks", "museum.localhost")
        self.assertEqual(answer["Location"], "http://canal.localhost/visit/towpath-walks")

    def test_what_cannot_be_is_told_and_nothing_is_changed(self):
        before = self.tree()
        for pages, where, words in (
            ((self.walks,), {"parent": self.short.pk}, "under itself"),
            ((self.home,), {"parent": self.visit.pk}, "first page"),
            ((self.walks,), {"parent": self.walks.pk}, "under itself"),
        ):
            self.assertIn(words, self.place(*pages, status=422, **where)["detail"])
        self.place(self.walks, parent=999_999, status=404)
        self.call("POST", "/tree/place", {"pages": [999_999], "site": self.site.pk}, 422)
        self.call("POST", "/tree/place", {"pages": [], "site": self.site.pk}, 422)
        self.assertEqual(self.tree(), before)
        long = add_page(self.site, self.author, "x", slug="x" * 80)
        for _ in range(5):
            long = add_page(self.site, self.author, "x", parent=long, slug="x" * 78)
        self.assertIn(
            "longer than", self.place(Page.objects.get(path="/" + "x" * 80), status=422, parent=self.short.pk)["detail"]
        )

    def test_what_follows_is_told_before(self):
        self.save(self.boats, linked("See the walks", self.walks), None, title="Boats")
        self.all_live()
        body = {"pages": [self.walks.pk], "act": "place", "place": {"site": self.site.pk, "parent": self.boats.pk}}
        told = self.call("POST", "/tree/consequences", body)
        self.assertEqual((told["pages"], told["live"], told["links"]), (2, 2, 1))
        self.assertEqual(
            told["addresses"],
            [
                {
                    "before": "http://canal.localhost/visit/towpath-walks",
                    "after": "http://canal.localhost/boats/towpath-walks",
                }
            ],
        )
        self.assertEqual([page["title"] for page in told["linked_from"]], ["Boats"])
        self.assertIn("2 addresses change.", told["sentences"])
        body = {"pages": [self.short.pk], "act": "place", "place": {"site": self.site.pk, "parent": self.walks.pk}}
        self.assertEqual(self.call("POST", "/tree/consequences", body)["sentences"][0], "No address changes.")
        self.assertEqual(self.tree()[2], "/visit/towpath-walks")


class Naming(Arranging):
    def test_the_address_follows_the_title_until_it_is_published_or_set(self):
        self.titled(self.short, "Shorter walks")
        self.assertIn("/visit/towpath-walks/shorter-walks", self.tree())
        self.publish(self.short)
        self.titled(self.short, "Walks with dogs")
        self.assertIn("/visit/towpath-walks/shorter-walks", self.tree())
        self.call("PUT", f"/pages/{self.boats.pk}/slug", {"slug": "hire"})
        self.titled(self.boats, "Boats to hire")
        self.assertIn("/hire", self.tree())
        act = self.call("PUT", f"/pages/{self.boats.pk}/slug", {"slug": None})
        self.assertIn("/boats-to-hire", self.tree())
        self.undo(act)
        self.assertIn("/hire", self.tree())

    def test_another_address_leads_on_from_the_earlier_one(self):
        self.all_live()
        self.call("PUT", f"/pages/{self.visit.pk}/slug", {"slug": "come"})
        self.render_all()
        self.assertEqual(self.visit_page("/visit/towpath-walks")["Location"], "/come/towpath-walks")
        self.assertEqual(Redirect.objects.get(path="/visit").why, "renamed")

    def test_addresses_that_cannot_be(self):
        for slug, status in (("Not This", 422), ("visit", 409), ("search", 422), ("", 422), ("x" * 81, 422)):
            self.call("PUT", f"/pages/{self.boats.pk}/slug", {"slug": slug}, status)
        self.call("PUT", f"/pages/{self.home.pk}/slug", {"slug": "home"}, 422)
        self.assertIn("/boats", self.tree())

    def test_names_for_the_navigation_and_for_search_engines(self):
        facts = self.call("GET", f"/pages/{self.visit.pk}/facts")
        body = {"revision": facts["revision"], "label": "Visit us", "search_title": "Visiting the canal"}
        facts = self.call("PUT", f"/pages/{self.visit.pk}/names", body)
        self.assertEqual(
            (facts["label"], facts["search_title"], facts["title"]), ("Visit us", "Visiting the canal", "Visit")
        )
        self.all_live()
        html = self.visit_page("/visit").content.decode()
        self.assertIn("<title>Visiting the canal – Varrow Canal Trust</title>", html)
        self.assertIn('<a href="/visit" aria-current="true">Visit us</a>', html)
        self.assertIn('<h1 class="title">Visit</h1>', html)
        self.assertIn('<a href="/visit">Visit us</a>', self.visit_page("/visit/towpath-walks").content.decode())
        self.call("PUT", f"/pages/{self.visit.pk}/names", body, 422)
        facts = self.call("PUT", f"/pages/{self.visit.pk}/names", {"revision": facts["revision"], "label": ""})
        self.assertEqual(facts["label"], "")


class Showing(Arranging):
    def show(self, page, in_navigation, hidden, status=200):
        body = {"pages": [page.pk], "in_navigation": in_navigation, "hidden": hidden}
        return self.call("POST", "/tree/show", body, status)

    def test_a_hidden_page_is_live_and_told_to_nobody(self):
        self.all_live()
        act = self.show(self.boats, True, True)
        self.render_all()
        page = self.visit_page("/boats")
        self.assertEqual(page.status_code, 200)
        self.assertIn('<meta name="robots" content="noindex">', page.content.decode())
        for path in ("/", "/visit", "/sitemap.xml", "/feed.atom", "/search?q=boats"):
            answer = self.visit_page(path)
            body = b"".join(answer.streaming_content) if answer.streaming else answer.content
            self.assertNotIn(b"/boats", body, path)
        self.undo(act)
        self.render_all()
        self.assertIn(b"/boats", self.visit_page("/").content)
        self.show(self.home, True, True, 422)

    def test_a_page_out_of_the_navigation_is_found_all_the_same(self):
        self.all_live()
        self.show(self.boats, False, False)
        self.render_all()
        self.assertNotIn(b'href="/boats"', self.visit_page("/visit").content)
        self.assertIn(b'href="/boats"', self.visit_page("/search?q=boat").content)


class Copying(Arranging):
    def test_a_page_with_what_stands_under_it(self):
        self.save(self.walks, linked("See the short ones", self.short), None)
        proposal = self.call("GET", f"/pages/{self.walks.pk}/duplicate")
        self.assertEqual(proposal, {"title": "Towpath walks 2", "label": "", "slug": "towpath-walks-2", "below": 1})
        body = {"title": "Bank walks", "slug": "bank", "deep": True}
        made = self.call("POST", f"/pages/{self.walks.pk}/duplicate", body, 201)
        self.assertEqual(
            self.tree()[2:6],
            ["/visit/towpath-walks", "/visit/towpath-walks/short-walks", "/visit/bank", "/visit/bank/short-walks"],
        )
        copy = Page.objects.get(pk=made["page"])
        below = Page.objects.get(path="/visit/bank/short-walks")
        self.assertIn(f"page:{below.pk}", str(copy.working_copy.document))
        self.assertEqual(copy.working_copy.title, "Bank walks")
        self.assertFalse(LiveCopy.objects.filter(written=copy).exists())
        self.undo(made["act"])
        self.assertEqual(len(self.tree()), 5)

    def test_the_page_check_finds_where_a_copy_says_the_original_name(self):
        self.save(self.walks, a_document("Towpath walks are level."), None)
        made = self.call("POST", f"/pages/{self.walks.pk}/duplicate", {"title": "Bank walks"}, 201)
        copy = Page.objects.get(pk=made["page"])
        found = self.check(copy)
        self.assertIn("copied-name", found)
        self.save(copy, a_document("Bank walks are level."), None, title="Bank walks")
        self.assertNotIn("copied-name", self.check(copy))

    def check(self, page):
        copy = Page.objects.get(pk=page.pk).working_copy
        body = {"title": copy.title, "description": "", "document": copy.document}
        return [finding["check"] for finding in self.call("POST", f"/pages/{page.pk}/check", body)["findings"]]


class Bin(Arranging):
    def bin(self, *pages, status=200):
        return self.call("POST", "/tree/bin", {"pages": [page.pk for page in pages]}, status)

    def test_a_branch_goes_and_comes_back_as_readers_had_it(self):
        self.all_live()
        before = self.tree()
        self.bin(self.walks)
        self.render_all()
        self.assertEqual(self.tree(), ["/", "/visit", "/boats"])
        self.assertEqual(self.visit_page("/visit/towpath-walks/short-walks").status_code, 404)
        self.call("GET", f"/pages/{self.walks.pk}", status=404)
        (binned,) = self.call("GET", f"/sites/{self.site.pk}/bin")["binned"]
        self.assertEqual((binned["title"], binned["pages"], binned["was_live"]), ("Towpath walks", 2, 2))
        told = self.call("POST", "/tree/restore", {"pages": [binned["id"]]})
        self.assertTrue(told["live"])
        self.assertEqual(self.tree(), before)
        self.render_all()
        html = self.visit_page("/visit/towpath-walks/short-walks")
        self.assertEqual(html.status_code, 200)
        self.assertIn(b"Short walks", html.content)
        self.assertEqual(self.call("GET", f"/sites/{self.site.pk}/bin")["binned"], [])

    def test_whoever_comes_to_a_page_in_the_bin_is_told_where_it_is(self):
        self.bin(self.walks)
        path = f"/pages/{self.walks.pk}"
        text = {"title": "Walks", "description": "", "document": a_document("x"), "base": 1}
        for method, where, body in (("GET", path, None), ("PUT", f"{path}/working-copy", text)):
            told = self.call(method, where, body, status=404)
            self.assertEqual(
                told["detail"], "“Towpath walks” is in the bin. It can be put back from there, in the Contents."
            )
        # To others there is no such thing.
        self.as_person(a_person("elsewhere", Role.AUTHOR, site=a_site("Varrow Lock Museum", "museum.localhost")))
        self.assertNotIn("Towpath", self.call("GET", path, status=404)["detail"])

    def test_undo_takes_it_out_of_the_bin(self):
        before = self.tree()
        self.undo(self.bin(self.walks, self.boats))
        self.assertEqual(self.tree(), before)

    def test_its_address_is_free_meanwhile_and_it_comes_back_at_another(self):
        self.bin(self.boats)
        add_page(self.site, self.author, "Boats")
        self.call("POST", "/tree/restore", {"pages": [self.boats.pk]})
        self.assertEqual(sorted(self.tree())[1:3], ["/boats", "/boats-2"])

    def test_under_what_is_gone_it_comes_back_above(self):
        self.bin(self.short)
        self.bin(self.walks)
        self.call("POST", "/tree/restore", {"pages": [self.short.pk]})
        self.assertIn("/visit/short-walks", self.tree())

    def test_it_comes_back_under_its_page_on_the_site_where_that_is_by_now(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        self.all_live()
        self.bin(self.short)
        self.place(self.walks, site=museum.pk)
        self.call("POST", "/tree/restore", {"pages": [self.short.pk]})
        self.render_all()
        self.assertEqual(self.tree(museum), ["/towpath-walks", "/towpath-walks/short-walks"])
        self.assertEqual(self.visit_page("/towpath-walks/short-walks", "museum.localhost").status_code, 200)
        self.assertFalse(Redirect.objects.filter(site=museum).exists())

    def test_links_to_it_are_left_out_and_reported(self):
        self.save(self.boats, linked("See the walks", self.short), None, title="Boats")
        self.all_live()
        told = self.call("POST", "/tree/consequences", {"pages": [self.walks.pk], "act": "bin"})
        self.assertEqual((told["pages"], told["live"], told["links"]), (2, 2, 1))
        self.assertEqual([page["title"] for page in told["linked_from"]], ["Boats"])
        self.bin(self.walks)
        self.render_all()
        self.assertNotIn(b"short-walks", self.visit_page("/boats").content)
        self.undo(self.call("GET", f"/sites/{self.site.pk}/last-act")["act"])
        self.render_all()
        self.assertIn(b"short-walks", self.visit_page("/boats").content)

    def test_for_good_its_addresses_answer_that_it_is_gone(self):
        self.all_live()
        self.place(self.walks, parent=self.boats.pk)
        self.bin(self.walks)
        self.assertEqual(self.call("POST", "/tree/remove", {"pages": [self.walks.pk]})["total"], 2)
        for path in ("/boats/towpath-walks", "/visit/towpath-walks/short-walks", "/Visit/Towpath-walks.html"):
            answer = self.visit_page(path)
            self.assertEqual(answer.status_code, 410, path)
            self.assertIn(b"gone", answer.content)
        self.assertFalse(Page.every.filter(pk__in=[self.walks.pk, self.short.pk]).exists())
        self.call("POST", "/tree/restore", {"pages": [self.walks.pk]}, 422)

    def test_the_first_page_stays(self):
        self.assertIn("first page", self.bin(self.home, status=422)["detail"])
        self.call("POST", "/tree/remove", {"pages": [self.boats.pk]}, 422)
        self.call("POST", "/tree/restore", {"pages": [self.boats.pk]}, 422)


class LinkEntries(Arranging):
    def test_an_entry_that_leads_elsewhere(self):
        body = {"title": "Boat hire", "elsewhere": "https://hire.example/boats", "after": self.visit.pk}
        made = self.call("POST", f"/sites/{self.site.pk}/pages", body, 201)
        page = Page.objects.get(pk=made["id"])
        self.all_live()
        self.publish(page)
        self.render_all()
        html = self.visit_page("/boats").content.decode()
        self.assertIn('<a href="https://hire.example/boats">Boat hire</a>', html)
        answer = self.visit_page("/boat-hire")
        self.assertEqual((answer.status_code, answer["Location"]), (302, "https://hire.example/boats"))
        self.call("PUT", f"/pages/{page.pk}/elsewhere", {"address": "https://hire.example/new"})
        self.render_all()
        self.assertIn("https://hire.example/new", self.visit_page("/boats").content.decode())
        self.place(self.boats, parent=page.pk, status=422)
        for wrong in ("javascript:alert(1)", "/visit", "hire.example", "page:1"):
            self.call("PUT", f"/pages/{page.pk}/elsewhere", {"address": wrong}, 422)
            self.call("POST", f"/sites/{self.site.pk}/pages", {"title": "x", "elsewhere": wrong}, 422)
        sitemap = b"".join(self.visit_page("/sitemap.xml").streaming_content)
        self.assertNotIn(b"boat-hire", sitemap)


class Finding(Arranging):
    def find(self, **asked):
        query = "&".join(f"{name}={value}" for name, value in asked.items())
        return [page["path"] for page in self.call("GET", f"/sites/{self.site.pk}/find?{query}")["pages"]]

    def test_by_words_of_title_and_text_by_address_and_by_state(self):
        self.save(self.short, a_document("Herons stand at the weir."), None, title="Short walks")
        self.publish(self.boats)
        self.assertEqual(self.find(q="herons"), ["/visit/towpath-walks/short-walks"])
        self.assertEqual(self.find(q="walks short"), ["/visit/towpath-walks/short-walks"])
        self.assertEqual(self.find(q="/visit"), ["/visit", "/visit/towpath-walks", "/visit/towpath-walks/short-walks"])
        self.assertEqual(self.find(state="live"), ["/boats"])
        self.assertEqual(len(self.find(state="unpublished")), 4)
        self.assertEqual(self.find(sort="link"), [])
        self.assertEqual(len(self.find(by="wren")), 5)
        self.assertEqual(self.find(by="nobody"), [])
        self.assertEqual(self.find(since="2999-01-01T00:00:00Z"), [])
        (found,) = self.call("GET", f"/sites/{self.site.pk}/find?q=herons")["pages"]
        self.assertEqual([each["title"] for each in found["trail"]], ["Visit", "Towpath walks"])


class Roles(Arranging):
    def test_whoever_may_not_publish_changes_no_live_page(self):
        self.all_live()
        self.site.authors_may_publish = False
        self.site.save()
        draft = add_page(self.site, self.author, "Draft")
        self.place(draft, parent=self.visit.pk)
        for call in (
            ("POST", "/tree/place", {"pages": [self.boats.pk], "site": self.site.pk, "parent": self.visit.pk}),
            ("POST", "/tree/bin", {"pages": [self.visit.pk]}),
            ("POST", "/tree/show", {"pages": [self.boats.pk], "in_navigation": False, "hidden": False}),
            ("PUT", f"/pages/{self.boats.pk}/slug", {"slug": "hire"}),
            ("POST", f"/sites/{self.site.pk}/redirects", {"path": "/old", "page": self.boats.pk}),
        ):
            self.call(*call, status=403)
        self.assertIn("/boats", self.tree())
        self.assertTrue(TreeAct.objects.filter(sort="placed").exists())

    def test_whoever_has_nothing_to_do_with_the_site_may_do_nothing(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        act = self.place(self.boats, parent=self.visit.pk)
        binned = add_page(self.site, self.author, "Old")
        self.call("POST", "/tree/bin", {"pages": [binned.pk]})
        self.as_person(a_person("curator", Role.AUTHOR, site=museum))
        pages = {"pages": [self.walks.pk]}
        for call in (
            ("POST", "/tree/place", {**pages, "site": museum.pk}, 403),
            ("POST", "/tree/bin", pages, 403),
            ("POST", "/tree/restore", {"pages": [binned.pk]}, 403),
            ("POST", "/tree/remove", {"pages": [binned.pk]}, 403),
            ("POST", "/tree/show", {**pages, "in_navigation": False, "hidden": True}, 403),
            ("POST", "/tree/consequences", {**pages, "act": "bin"}, 403),
            ("POST", f"/tree/acts/{act['id']}/undo", None, 404),
            ("GET", f"/sites/{self.site.pk}/find", None, 403),
            ("GET", f"/sites/{self.site.pk}/bin", None, 403),
            ("GET", f"/sites/{self.site.pk}/redirects", None, 403),
            ("GET", f"/pages/{self.walks.pk}/facts", None, 403),
            ("PUT", f"/pages/{self.walks.pk}/names", {"revision": 1, "label": "x"}, 403),
            ("GET", f"/pages/{self.walks.pk}/duplicate", None, 403),
            ("POST", f"/pages/{self.walks.pk}/duplicate", {"title": "x"}, 403),
            ("GET", f"/pages/{self.walks.pk}/previews", None, 403),
            ("POST", f"/pages/{self.walks.pk}/previews", {"until": "2999-01-01"}, 403),
        ):
            self.call(*call[:3], status=call[3])
