"""Where addresses lead that no live page has, preview addresses, and sites, through the API and for readers."""

from datetime import timedelta

from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from stillpage.pages.models import Page, Preview, Redirect
from stillpage.pages.tree import add_page
from stillpage.people.models import Role
from stillpage.sites.models import Site

from .base import ApiTest, a_document, a_person, a_picture, a_site


class Redirects(ApiTest):
    def setUp(self):
        super().setUp()
        for page in (self.home, self.visit, self.walks):
            self.publish(page)
        self.render_all()

    def make(self, path, status=201, **to):
        body = {"path": path, "address": "", **to}
        return self.call("POST", f"/sites/{self.site.pk}/redirects", body, status)

    def leads(self, path):
        answer = self.visit_page(path)
        return answer.status_code, answer.headers.get("Location")

    def read(self, data, name="a.csv", status=200):
        with self.committed():
            answer = self.client.post(
                f"/api/sites/{self.site.pk}/redirects.csv", {"file": SimpleUploadedFile(name, data)}
            )
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()

    def test_by_hand_to_a_page_elsewhere_and_to_nothing(self):
        self.make("/Walks.html", page=self.walks.pk)
        self.make("/hire/", address="https://hire.example/boats")
        self.make("/regatta")
        self.make("/same", address="http://canal.localhost/visit")
        self.assertEqual(self.leads("/walks"), (301, "/visit/towpath-walks"))
        self.assertEqual(self.leads("/WALKS/index.html"), (301, "/visit/towpath-walks"))
        self.assertEqual(self.leads("/hire"), (301, "https://hire.example/boats"))
        self.assertEqual(self.visit_page("/regatta").status_code, 410)
        # RFC 9110, 15.5.11: it is likely to be so for good; 15.4.2: what was permanently moved.
        rows = self.call("GET", f"/sites/{self.site.pk}/redirects")["redirects"]
        self.assertEqual([row["path"] for row in rows], ["/hire", "/regatta", "/same", "/walks"])
        self.assertEqual(rows[2]["page"]["title"], "Visit")
        self.assertEqual(rows[3]["used_on"], f"{timezone.now().date()}")
        self.call("PUT", f"/pages/{self.walks.pk}/slug", {"slug": "along"})
        self.render_all()
        self.assertEqual(self.leads("/walks"), (301, "/visit/along"))
        self.call("DELETE", f"/redirects/{rows[0]['id']}", status=204)
        self.assertEqual(self.visit_page("/hire").status_code, 404)

    def test_a_live_page_comes_before_what_leads_on(self):
        self.make("/new", page=self.walks.pk)
        page = add_page(self.site, self.author, "New", slug="new")
        self.assertEqual(self.leads("/new"), (301, "/visit/towpath-walks"))
        self.publish(page)
        self.render_all()
        self.assertEqual(self.visit_page("/new").status_code, 200)

    def test_what_cannot_be(self):
        for path, to, words in (
            ("/visit", {"page": self.walks.pk}, "There is a page at /visit"),
            ("walks", {"page": self.walks.pk}, None),
            ("/", {"page": self.walks.pk}, "no address"),
            ("/a b", {"page": self.walks.pk}, "no address"),
            ("/x" * 300, {"page": self.walks.pk}, "characters long"),
            ("/old", {"address": "javascript:alert(1)"}, "whole address"),
            ("/old", {"address": "http://canal.localhost/nowhere"}, "no page at it"),
        ):
            if words is None:
                self.make(path, **to)
            else:
                self.assertIn(words, self.make(path, 422, **to)["detail"])
        self.make("/old", 404, page=999_999)

    def test_to_a_page_that_may_not_be_seen_nothing_leads_and_nothing_is_told(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        shut = add_page(museum, self.author, "Secret plans", slug="plans")
        self.as_person(a_person("ours", Role.APPROVER, site=self.site))
        self.make("/a", 404, page=shut.pk)
        told = self.make("/b", address="http://museum.localhost/plans")
        self.assertIsNone(told["page"])
        self.assertNotIn("Secret", str(self.call("GET", f"/sites/{self.site.pk}/redirects")))

    def test_out_as_csv_and_in_again(self):
        self.make("/walks", page=self.walks.pk)
        self.make("/hire", address="https://hire.example/?a=1,2")
        self.make("/gone")
        binned = add_page(self.site, self.author, "Old", slug="old")
        self.make("/older", page=binned.pk)
        self.call("POST", "/tree/bin", {"pages": [binned.pk]})
        answer = self.client.get(f"/api/sites/{self.site.pk}/redirects.csv")
        data = b"".join(answer.streaming_content)
        Redirect.objects.all().delete()
        self.assertEqual(self.read(data), {"made": 3, "refused": []})
        self.assertEqual(self.leads("/walks"), (301, "/visit/towpath-walks"))
        self.assertEqual(self.leads("/hire"), (301, "https://hire.example/?a=1,2"))
        self.assertEqual(self.visit_page("/gone").status_code, 410)

    def test_csv_of_others_is_read_as_far_as_it_can_be(self):
        told = self.read("\ufefffrom,to\n/a,/visit\n/b\n\n/c,/nowhere\nx y,/visit\n/d,ftp://x\n/e,gone\n".encode())
        self.assertEqual(told["made"], 2)
        self.assertEqual([line.partition(":")[0] for line in told["refused"]], ["Line 3", "Line 5", "Line 6", "Line 7"])
        for data, words in ((b"\xff\xfe/\x00a", "UTF-8"), (b"/a,\0", "no CSV"), (b"/a,gone\n" * 20_001, "20,001")):
            self.assertIn(words, self.read(data, status=422)["detail"])
        self.assertIn("4 MB", self.read(b"x" * (4 * 1024 * 1024 + 1), status=422)["detail"])

    def test_to_a_page_in_the_bin_nobody_is_led_and_afterwards_again(self):
        self.make("/walks", page=self.walks.pk)
        self.call("POST", "/tree/bin", {"pages": [self.walks.pk]})
        self.assertEqual(self.visit_page("/walks").status_code, 404)
        self.call("POST", "/tree/restore", {"pages": [self.walks.pk]})
        self.assertEqual(self.leads("/walks"), (301, "/visit/towpath-walks"))


class Previews(ApiTest):
    def make(self, until=None, status=201):
        until = until or timezone.now().date() + timedelta(days=3)
        return self.call("POST", f"/pages/{self.walks.pk}/previews", {"until": f"{until}"}, status)

    def look(self, preview):
        return self.visit_page(preview["address"].removeprefix("http://canal.localhost"))

    def test_whoever_has_it_reads_the_working_copy_until_it_ends(self):
        picture = a_picture(self.author)
        document = a_document("Nobody else may read this yet.")
        document["content"][0]["content"].append({"type": "picture", "attrs": {"item": picture.pk}})
        self.save(self.walks, document, None)
        made = self.make()
        page = self.look(made)
        self.assertEqual(page.status_code, 200)
        self.assertContains(page, "Nobody else may read this yet.")
        self.assertEqual((page["Cache-Control"], page["X-Robots-Tag"]), ("no-store", "noindex"))
        self.assertEqual(page["Referrer-Policy"], "no-referrer")
        self.assertContains(page, '<meta name="robots" content="noindex">')
        self.assertNotContains(page, "og:title")
        self.save(self.walks, a_document("Another text."), None)
        self.assertContains(self.look(made), "Another text.")
        [told] = self.call("GET", f"/pages/{self.walks.pk}/previews")
        self.assertEqual((told["visits"], told["ended"]), (2, False))
        self.call("DELETE", f"/previews/{made['id']}", status=204)
        self.assertEqual(self.look(made).status_code, 404)
        self.assertTrue(self.call("GET", f"/pages/{self.walks.pk}/previews")[0]["ended"])

    def test_it_ends_by_itself_and_cannot_be_guessed(self):
        made = self.make()
        Preview.objects.update(until=timezone.now().date() - timedelta(days=1))
        self.assertEqual(self.look(made).status_code, 404)
        self.assertEqual(self.visit_page("/preview/").status_code, 404)
        self.assertEqual(self.visit_page("/preview/" + "a" * 32).status_code, 404)
        token = made["address"].rpartition("/")[2]
        self.assertGreaterEqual(len(token), 32)
        self.assertEqual(self.visit_page(f"/preview/{token.swapcase()}").status_code, 404)

    def test_days_that_cannot_be(self):
        today = timezone.now().date()
        for until in (today - timedelta(days=1), today + timedelta(days=366)):
            self.make(until, 422)

    def test_of_a_page_in_the_bin_there_is_none(self):
        made = self.make()
        self.call("POST", "/tree/bin", {"pages": [self.walks.pk]})
        self.assertEqual(self.look(made).status_code, 404)


class Sites(ApiTest):
    def setUp(self):
        super().setUp()
        self.keeper = a_person("ada", Role.ADMINISTRATOR)
        self.as_person(self.keeper)

    def make(self, status=201, **facts):
        body = {"name": "Aqueduct Day", "host": "day.localhost", "theme": "canal", "language": "en"}
        body |= {"description": "", "footer": "", "picture": None, **facts}
        return self.call("POST", "/all-sites", body, status)

    def test_made_written_on_closed_and_opened(self):
        made = self.make(description="A day at the aqueduct.")
        self.assertEqual((made["pages"], made["live"]), (1, 0))
        page = Page.objects.get(site=made["id"], path="/")
        self.assertEqual(page.working_copy.title, "Aqueduct Day")
        self.publish(page)
        self.render_all()
        self.assertEqual(self.visit_page("/", "day.localhost").status_code, 200)
        self.call("POST", f"/all-sites/{made['id']}/close")
        for path in ("/", "/none", "/sitemap.xml"):
            answer = self.visit_page(path, "day.localhost")
            self.assertEqual(answer.status_code, 404)
            self.assertIn(b"closed", answer.content)
        self.call("POST", f"/all-sites/{made['id']}/open")
        self.assertEqual(self.visit_page("/", "day.localhost").status_code, 200)

    def test_changed_readers_find_it_at_its_new_host(self):
        for page in (self.home, self.visit, self.walks):
            self.publish(page)
        self.render_all()
        picture = a_picture(self.author)
        body = {"name": "The Varrow", "host": "varrow.localhost", "theme": "museum", "picture": picture.pk}
        changed = self.call("PATCH", f"/all-sites/{self.site.pk}", body)
        self.assertEqual((changed["origin"], changed["picture"]), ("http://varrow.localhost", picture.pk))
        self.render_all()
        html = self.visit_page("/visit/towpath-walks", "varrow.localhost").content.decode()
        self.assertIn("The Varrow", html)
        self.assertIn('data-theme="museum"', html)
        self.assertEqual(self.visit_page("/visit/towpath-walks").status_code, 404)

    def test_another_first_page(self):
        boats = add_page(self.site, self.author, "Boats")
        for page in (self.home, self.visit, self.walks, boats):
            self.publish(page)
        self.render_all()
        self.call("PATCH", f"/all-sites/{self.site.pk}", {"first_page": boats.pk})
        self.render_all()
        self.assertIn("Boats", self.visit_page("/").content.decode())
        self.assertEqual(self.visit_page("/boats")["Location"], "/")
        self.assertEqual(self.visit_page("/varrow-canal-trust").status_code, 200)
        self.call("PATCH", f"/all-sites/{self.site.pk}", {"first_page": self.visit.pk}, 422)

    def test_duplicated_as_a_starting_point(self):
        self.save(self.walks, a_document("Level all the way."), None)
        made = self.call(
            "POST", f"/all-sites/{self.site.pk}/duplicate", {"name": "Aqueduct", "host": "aqueduct.localhost"}, 201
        )
        self.assertEqual((made["pages"], made["live"]), (3, 0))
        copy = Page.objects.get(site=made["id"], path="/visit/towpath-walks")
        self.assertIn("Level all the way.", str(copy.working_copy.document))

    def test_facts_that_cannot_be(self):
        for facts, status in (
            ({"name": " "}, 422),
            ({"name": self.site.name}, 409),
            ({"host": "canal.localhost"}, 409),
            ({"host": "https://day.localhost/"}, 422),
            ({"host": "localhost"}, 422),
            ({"theme": "plaid"}, 422),
            ({"language": "English"}, 422),
            ({"picture": 999_999}, 422),
        ):
            self.make(status, **facts)
        self.assertEqual(Site.objects.count(), 1)

    def test_nobody_else_keeps_sites(self):
        for person in (
            self.author,
            a_person("april", Role.APPROVER),
            a_person("ed", Role.ADMINISTRATOR, site=self.site),
        ):
            self.as_person(person)
            self.call("GET", "/all-sites", status=403)
            self.make(403)
            self.call("PATCH", f"/all-sites/{self.site.pk}", {"name": "X"}, 403)
            self.call("POST", f"/all-sites/{self.site.pk}/close", status=403)
