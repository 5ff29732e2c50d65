"""What the page check found last on each page of a site, and what the writing view is told beside it."""

from django.db import connection
from django.test.utils import CaptureQueriesContext

from stillpage.pages import tree
from stillpage.people.models import Role
from stillpage.publishing.models import LastCheck
from stillpage.written.models import WorkingCopy
from stillpage_core.checking import RULES

from ..core.documents import document, heading, paragraph
from .base import ApiTest, a_person, a_site
from .test_page_check import PageCheckTest


class Results(PageCheckTest):
    def results(self, status=200, start=0):
        return self.call("GET", f"/sites/{self.site.pk}/results?start={start}", status=status)

    def renew(self, after=0, status=200):
        return self.call("POST", f"/sites/{self.site.pk}/results", {"after": after}, status)

    def renew_all(self):
        """As the interface does: one request does what there is time for."""
        after, left = 0, 1
        while left:
            done = self.renew(after)
            self.assertGreater(done["after"], after)
            after, left = done["after"], done["left"]

    def test_a_page_keeps_what_was_found_whenever_it_is_checked(self):
        self.assertEqual(self.results()["checked"], 0)
        self.checked(paragraph("Shut the the gate."), heading(4, "Too deep"))
        found = self.results()
        self.assertEqual((found["checked"], found["pages"]), (1, self.site.pages.count()))
        [row] = found["results"]
        self.assertEqual(row["page"]["path"], self.walks.path)
        self.assertEqual((row["blocks"], row["mend"], row["look"]), (0, 1, 1))
        self.assertTrue(row["changed"], "it was checked before it was saved")
        self.checked(paragraph("Shut the gate."))
        self.assertEqual(self.results()["results"][0]["mend"], 0)

    def test_what_is_held_to_be_right_is_not_counted(self):
        blocks = [paragraph("Shut the the gate.")]
        [finding] = self.checked(*blocks)["findings"]
        self.allow(finding, *blocks)
        self.checked(*blocks)
        self.assertEqual(self.results()["results"][0]["mend"], 0)

    def test_every_page_is_checked_some_at_a_time_and_those_with_most_to_do_come_first(self):
        self.save(self.walks, document(paragraph("Shut the the gate.")).to_json(), 1)
        self.renew_all()
        found = self.results()
        self.assertEqual(found["checked"], found["pages"])
        ranks = [(row["blocks"], row["mend"], row["look"]) for row in found["results"]]
        self.assertEqual(ranks, sorted(ranks, reverse=True))
        self.assertFalse(any(row["changed"] for row in found["results"]))
        self.save(self.walks, document(paragraph("Shut the gate.")).to_json(), 2)
        changed = [row["page"]["path"] for row in self.results()["results"] if row["changed"]]
        self.assertEqual(changed, [self.walks.path])

    def test_the_table_is_read_with_as_many_queries_whatever_the_site(self):
        self.renew_all()
        self.results()
        with CaptureQueriesContext(connection) as few:
            self.results()
        for number in range(30):
            tree.add_page(self.site, self.author, f"Reach {number}")
        self.renew_all()
        with CaptureQueriesContext(connection) as many:
            found = self.results()
        self.assertEqual(len(found["results"]), self.site.pages.count())
        self.assertEqual(len(few), len(many))

    def test_who_may_not_see_the_pages_sees_no_results(self):
        self.as_person(a_person("elsewhere", Role.AUTHOR, site=a_site("Varrow Lock Museum", "museum.localhost")))
        self.results(403)
        self.renew(status=403)
        self.client.logout()
        self.results(401)
        self.renew(status=401)

    def test_who_only_reads_leaves_no_result(self):
        self.as_person(a_person("designer", Role.DESIGNER))
        self.checked(paragraph("Shut the the gate."))
        self.assertFalse(LastCheck.objects.exists())


class Told(ApiTest):
    def test_the_title_is_told_as_search_results_show_it(self):
        body = {"description": "", "document": document(paragraph("x")).to_json()}
        told = self.call("POST", f"/pages/{self.walks.pk}/check", {"title": "Walks", **body})["shown_title"]
        self.assertEqual(told, "Walks – Varrow Canal Trust")
        copy = WorkingCopy.objects.get(written=self.walks)
        self.publish(self.walks)
        self.render_all()
        self.assertContains(self.visit_page(self.walks.path), f"<title>{copy.title} – Varrow Canal Trust</title>")

    def test_who_publishes_is_told_where_one_may_not(self):
        self.assertEqual(self.call("GET", f"/pages/{self.walks.pk}")["publishers"], [])
        self.site.authors_may_publish = False
        self.site.save()
        a_person("piet", Role.APPROVER)
        a_person("maud", Role.ADMINISTRATOR)
        a_person("far", Role.APPROVER, site=a_site("Varrow Lock Museum", "museum.localhost"))
        gone = a_person("gone", Role.APPROVER)
        gone.is_active = False
        gone.save()
        found = self.call("GET", f"/pages/{self.walks.pk}")
        self.assertFalse(found["site"]["may_publish"])
        self.assertEqual(found["publishers"], sorted(found["publishers"]))
        self.assertEqual(len(found["publishers"]), 2)

    def test_checks_that_guard_access_are_told_from_those_that_do_not(self):
        told = {each["id"]: each["guards_access"] for each in self.call("GET", "/checks")}
        self.assertEqual(told, {name: "WCAG" in rule.source for name, rule in RULES.items()})
        self.assertTrue(told["contrast-too-low"])
        self.assertFalse(told["title-wide"])
