"""Pages through the API: the Contents, new pages, saving, checking."""

from unittest.mock import patch

from django.db import OperationalError, connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from stillpage.pages import tree
from stillpage.pages.models import Page
from stillpage.pages.tree import add_page
from stillpage.publishing.models import LiveCopy
from stillpage.written.models import WorkingCopy

from .base import ApiTest, a_document, a_picture, blocks_in


class Contents(ApiTest):
    def test_pages_stand_in_reading_order_each_before_those_below_it(self):
        contents = self.call("GET", f"/sites/{self.site.pk}/contents")
        self.assertEqual(
            [(page["path"], page["parent"], page["state"]) for page in contents["pages"]],
            [
                ("/", None, "unpublished"),
                ("/visit", None, "unpublished"),
                ("/visit/towpath-walks", self.visit.pk, "unpublished"),
            ],
        )

    def test_the_number_of_queries_does_not_grow_with_the_pages(self):
        def queries():
            with CaptureQueriesContext(connection) as asked:
                self.call("GET", f"/sites/{self.site.pk}/contents")
            return len(asked)

        before = queries()
        for number in range(20):
            add_page(self.site, self.author, f"Page {number}", parent=self.visit)
        self.assertEqual(queries(), before)

    def test_of_very_many_pages_the_uppermost_come_first_and_the_others_by_branch(self):
        for number in range(7):
            add_page(self.site, self.author, f"Walk {number}", parent=self.walks)

        def asked(query=""):
            answer = self.call("GET", f"/sites/{self.site.pk}/contents{query}")
            return [(page["path"], page["below"]) for page in answer["pages"]], answer["among"], answer["all"]

        whole = asked()
        self.assertEqual(len(whole[0]), 10)
        self.assertEqual(whole[0][2], ("/visit/towpath-walks", 7))
        with patch.object(tree, "AT_ONCE", 3):
            self.assertEqual(asked(), ([("/", 0), ("/visit", 1), ("/visit/towpath-walks", 7)], 2, 10))
            under = f"?below={self.walks.pk}"
            self.assertEqual(asked(under)[:2], ([(f"/visit/towpath-walks/walk-{n}", 0) for n in range(3)], 7))
            self.assertEqual([path[-1] for path, _ in asked(f"{under}&start=6")[0]], ["6"])
            self.assertEqual(asked(f"{under}&start=7")[0], [])
        with patch.object(tree, "AT_ONCE", 2):
            self.assertEqual(asked()[0], [("/", 0), ("/visit", 1)])
        self.assertEqual(asked("?below=999999"), ([], 0, 10))

    def test_a_text_of_a_newer_format_is_refused_and_nothing_changes(self):
        newer = {"type": "doc", "attrs": {"version": 99}, "content": [{"type": "unheard of"}]}
        problem = self.save(self.walks, newer, 1, 422)
        self.assertTrue(problem["type"].endswith("newer-format"), problem)
        self.assertIn("version 99", problem["detail"])
        self.assertEqual(WorkingCopy.objects.get(written=self.walks).revision, 1)

    def test_states_follow_what_is_live(self):
        self.publish(self.walks)

        def states():
            return [page["state"] for page in self.call("GET", f"/sites/{self.site.pk}/contents")["pages"]]

        self.assertEqual(states(), ["unpublished", "unpublished", "live"])
        self.save(self.walks, a_document("new"), 1)
        self.assertEqual(states(), ["unpublished", "unpublished", "changed"])
        before = LiveCopy.objects.get(written=self.walks)
        self.save(self.walks, before.document, 2)
        self.assertEqual(states(), ["unpublished", "unpublished", "live"])
        # A text whose digest is not there yet is looked at itself.
        WorkingCopy.objects.filter(written=self.walks).update(digest="")
        self.assertEqual(states(), ["unpublished", "unpublished", "live"])
        WorkingCopy.objects.filter(written=self.walks).update(title="Another")
        self.assertEqual(states(), ["unpublished", "unpublished", "changed"])

    def test_states_are_told_without_loading_what_is_written(self):
        self.publish(self.walks)
        with CaptureQueriesContext(connection) as asked:
            self.call("GET", f"/sites/{self.site.pk}/contents")
        said = " ".join(query["sql"] for query in asked)
        self.assertNotIn("`document`", said)
        self.assertNotIn("`html`", said)


class NewPage(ApiTest):
    def add(self, status=201, **body):
        return self.call("POST", f"/sites/{self.site.pk}/pages", body, status)

    def test_a_page_stands_last_below_its_parent_and_its_address_follows_its_title(self):
        page = self.add(title="  Boats &  locks ", parent=self.visit.pk)
        self.assertEqual((page["path"], page["working_copy"]["title"]), ("/visit/boats-locks", "Boats & locks"))
        self.assertEqual([entry["title"] for entry in page["trail"]], ["Visit"])

    def test_a_page_can_stand_right_after_another(self):
        self.add(title="Second", after=self.home.pk)
        paths = [page["path"] for page in self.call("GET", f"/sites/{self.site.pk}/contents")["pages"]]
        self.assertEqual(paths, ["/", "/second", "/visit", "/visit/towpath-walks"])

    def test_the_same_title_twice_gets_another_address(self):
        self.assertEqual(self.add(title="Visit")["path"], "/visit-2")

    def test_an_address_that_exists_already_is_refused(self):
        problem = self.add(title="Walks", parent=self.visit.pk, slug="towpath-walks", status=409)
        self.assertIn("There is a page at /visit/towpath-walks already", problem["detail"])
        self.assertEqual(Page.objects.count(), 3)

    def test_what_cannot_be_a_title_or_an_address_is_refused_with_a_sentence(self):
        for body, said in (
            ({"title": "  "}, "needs a title"),
            ({"title": "x" * 201}, "at most 200"),
            ({"title": "A", "slug": "A b"}, "cannot be part of an address"),
            ({"title": "A", "slug": "static"}, "used by the server"),
            ({}, "title"),
        ):
            self.assertIn(said, self.add(status=422, **body)["detail"])
        self.add(title="A", parent=99_999, status=404)


class Saving(ApiTest):
    def test_what_was_saved_is_read_again(self):
        saved = self.save(self.walks, a_document("one", "two"), 1, title="Walks")
        self.assertEqual((saved["revision"], saved["saved_by"]), (2, "Wren Osier"))
        copy = self.call("GET", f"/pages/{self.walks.pk}")["working_copy"]
        self.assertEqual((copy["title"], copy["document"]["content"]), ("Walks", a_document("one", "two")["content"]))

    def test_the_same_text_again_is_no_new_revision(self):
        self.save(self.walks, a_document("one"), 1)
        self.assertEqual(self.save(self.walks, a_document("one"), 1)["revision"], 2)

    def test_an_invalid_document_is_refused_with_its_place_and_nothing_changes(self):
        unknown = {"type": "doc", "content": [{"type": "paragraph"}, {"type": "marquee"}]}
        problem = self.save(self.walks, unknown, 1, status=422)
        self.assertEqual(problem["pointer"], "/content/0/content/1")
        self.assertIn("no kind of node called “marquee”", problem["detail"])
        text = {"type": "text", "text": "x", "marks": [{"type": "link", "attrs": {"href": "javascript:alert(1)"}}]}
        problem = self.save(
            self.walks, {"type": "doc", "content": [{"type": "paragraph", "content": [text]}]}, 1, status=422
        )
        self.assertEqual(problem["pointer"], "/content/0/content/0/content/0")
        for bad in (None, [], "x", {"type": "doc"}):
            self.save(self.walks, bad, 1, status=422)
        self.assertEqual(WorkingCopy.objects.get(written=self.walks).revision, 1)

    def test_a_title_is_needed_and_a_description_has_its_limit(self):
        self.save(self.walks, a_document(), 1, status=422, title=" ")
        body = {"title": "T", "description": "x" * 501, "document": a_document(), "base": 1}
        self.assertIn("at most 500", self.call("PUT", f"/pages/{self.walks.pk}/working-copy", body, 422)["detail"])

    def test_json_that_is_none_is_refused(self):
        answer = self.client.put(f"/api/pages/{self.walks.pk}/working-copy", b"{nonsense", "application/json")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (400, "application/problem+json"))

    def test_a_database_that_is_away_is_a_problem_document_with_503(self):
        with patch(
            "stillpage.written.saving.WorkingCopy.objects.select_for_update", side_effect=OperationalError(2006)
        ):
            problem = self.save(self.walks, a_document("kept?"), 1, status=503)
        self.assertIn("Nothing is lost", problem["detail"])
        with patch("django.contrib.sessions.backends.db.SessionStore.load", side_effect=OperationalError(2002)):
            self.call("GET", "/session", status=503)

    def test_the_page_comes_with_everything_that_it_names(self):
        item = a_picture(self.author)
        link = {"type": "link", "attrs": {"href": f"page:{self.visit.pk}"}}
        document = a_document("x")
        blocks_in(document)[0]["content"][0]["marks"] = [link]
        blocks_in(document).append({"type": "picture", "attrs": {"item": item.pk}})
        self.save(self.walks, document, 1)
        page = self.call("GET", f"/pages/{self.walks.pk}")
        self.assertEqual([found["id"] for found in page["items"]], [item.pk])
        self.assertEqual([(found["id"], found["state"]) for found in page["pages"]], [(self.visit.pk, "unpublished")])


class Failing(ApiTest):
    def test_an_error_that_nobody_foresaw_is_a_problem_document_without_particulars(self):
        self.client.raise_request_exception = False
        with patch("stillpage.api.checking.checking.check_text", side_effect=RuntimeError("inner words")):
            problem = self.call("POST", "/check", {"document": a_document()}, 500)
        self.assertNotIn("inner words", str(problem))
        with patch("stillpage.publishing.serving._row", side_effect=RuntimeError("inner words")):
            client = Client(HTTP_HOST="canal.localhost", raise_request_exception=False)
            self.assertContains(client.get("/"), "Something went wrong", status_code=500)
        with patch("stillpage.publishing.serving._row", side_effect=OperationalError(2006)):
            self.assertContains(client.get("/"), "The database cannot be reached", status_code=503)

    def test_a_query_that_is_wrong_is_no_outage(self):
        self.client.raise_request_exception = False
        wrong = OperationalError(1054, "Unknown column 'x' in 'SELECT'")
        with patch("stillpage.written.saving.WorkingCopy.objects.select_for_update", side_effect=wrong):
            problem = self.save(self.walks, a_document(), 1, status=500)
        self.assertNotIn("column", str(problem))
        with patch("stillpage.publishing.serving._row", side_effect=wrong):
            client = Client(HTTP_HOST="canal.localhost", raise_request_exception=False)
            self.assertContains(client.get("/"), "Something went wrong", status_code=500)


class Checking(ApiTest):
    def test_findings_come_with_place_source_and_repair(self):
        item = a_picture(self.author, alt="")
        document = a_document()
        blocks_in(document)[:] = [
            {"type": "heading", "attrs": {"level": 4}, "content": [{"type": "text", "text": "Deep"}]},
            {"type": "picture", "attrs": {"item": item.pk}},
        ]
        findings = self.call("POST", "/check", {"document": document})["findings"]
        self.assertEqual(
            [(each["check"], each["path"]) for each in findings],
            [("heading-skipped", [0, 0]), ("picture-without-alt", [0, 1])],
        )
        self.assertEqual(findings[0]["repairs"][0]["changes"][0]["attrs"], {"level": 2})

    def test_an_invalid_document_is_refused(self):
        self.call("POST", "/check", {"document": {"type": "doc"}}, 422)


class Forged(ApiTest):
    def test_a_change_without_the_token_is_refused(self):
        client = Client(enforce_csrf_checks=True, HTTP_HOST="localhost")
        client.force_login(self.author, "django.contrib.auth.backends.ModelBackend")
        answer = client.post("/api/check", {"document": a_document()}, content_type="application/json")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (403, "application/problem+json"))
        answer = client.post("/api/session", {"username": "wren", "password": "x"}, content_type="application/json")
        self.assertEqual(answer.status_code, 403)
        token = client.get("/api/session").json()["csrf_token"]
        answer = client.post(
            "/api/check", {"document": a_document()}, content_type="application/json", HTTP_X_CSRFTOKEN=token
        )
        self.assertEqual(answer.status_code, 200)
