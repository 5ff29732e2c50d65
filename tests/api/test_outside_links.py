"""Outside addresses that pages lead to: tested in the background, politely, and told where they stand."""

import threading
from datetime import timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from unittest.mock import patch

from django.db import connection
from django.test import override_settings
from django.utils import timezone

from stillpage.outside import testing, turns
from stillpage.outside.models import Address
from stillpage.people.models import Role

from ..core.documents import call_to_action, document, link, paragraph, words
from ..patience import PATIENT
from .base import ApiTest, a_person


class Shop(BaseHTTPRequestHandler):
    """Answers as the path says, and keeps what it was asked."""

    asked: list[tuple[str, str]] = []
    moods: dict[str, int] = {}

    def _answer(self):
        Shop.asked.append((self.command, self.path))
        status = {"/gone": 410, "/missing": 404, "/private": 403, "/broken": 500, "/moved": 301, "/aside": 302}.get(
            self.path, 200
        )
        if self.path == "/no-head":
            status = 405 if self.command == "HEAD" else 200
        if self.path == "/tired":
            status = Shop.moods.get("/tired", 503)
        self.send_response(status)
        if status in (301, 302):
            self.send_header("Location", "/there")
        if self.path == "/heavy":
            self.send_header("Content-Length", str(10**12))
        self.end_headers()

    do_GET = do_HEAD = _answer  # noqa: N815 - so the server of the standard library calls them

    def log_message(self, *_):
        return


class OutsideLinks(ApiTest):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.server = ThreadingHTTPServer(("127.0.0.1", 0), Shop)
        cls.addClassCleanup(cls.server.server_close)
        cls.addClassCleanup(cls.server.shutdown)
        threading.Thread(target=cls.server.serve_forever, daemon=True).start()
        cls.host = f"127.0.0.1:{cls.server.server_address[1]}"

    def setUp(self):
        super().setUp()
        Shop.asked.clear()
        Shop.moods.clear()
        self.enterContext(override_settings(OUTSIDE_ALLOWED=[self.host], OUTSIDE_SECONDS=PATIENT))
        self.enterContext(patch.object(turns, "APART", 0))

    def at(self, path):
        return f"http://{self.host}{path}"

    def lead_to(self, *addresses):
        blocks = [paragraph(words(f"Place {index}", link(each))) for index, each in enumerate(addresses)]
        self.save(self.walks, document(*blocks).to_json(), None)
        return blocks

    def ask_all(self):
        self.assertTrue(testing.is_due())
        return testing.test_due.call()

    def state(self, path):
        row = Address.objects.get(address=self.at(path))
        return row.state, row.failed

    def test_two_workers_do_not_test_at_once(self):
        self.lead_to(self.at("/right"))
        other = connection.copy()
        try:
            with other.cursor() as cursor:
                cursor.execute("SELECT GET_LOCK(CONCAT(DATABASE(), '.outside'), 0)")
                self.assertEqual(testing.test_due.call(), 0)
                self.assertTrue(testing.is_due())
        finally:
            other.close()  # As when the other worker dies: the lock goes with its connection.
        self.assertEqual(self.ask_all(), 1)

    def test_each_answer_has_its_state(self):
        paths = ("/right", "/gone", "/missing", "/private", "/broken", "/moved", "/aside", "/no-head", "/heavy")
        self.lead_to(*map(self.at, paths))
        self.assertEqual(self.ask_all(), len(paths))
        self.assertEqual(
            {path: self.state(path) for path in paths},
            {
                "/right": ("right", False),
                "/gone": ("gone", True),
                "/missing": ("gone", True),
                "/private": ("unsure", False),
                "/broken": ("silent", False),
                "/moved": ("right", False),
                "/aside": ("right", False),
                "/no-head": ("right", False),
                "/heavy": ("right", False),
            },
        )
        moved = {row.address: row.moved_to for row in Address.objects.exclude(moved_to="")}
        self.assertEqual(moved, {self.at("/moved"): self.at("/there")})
        # HEAD first, and nothing is asked twice that has answered.
        self.assertIn(("HEAD", "/right"), Shop.asked)
        self.assertNotIn(("GET", "/right"), Shop.asked)
        self.assertFalse(testing.is_due())

    def test_a_server_that_rests_is_told_only_after_several_times_and_forgiven_at_once(self):
        blocks = self.lead_to(self.at("/tired"))
        for number in (1, 2, 3):
            self.ask_all()
            self.assertEqual(self.state("/tired"), ("silent", number == 3))
            self.assertEqual(bool(self.notes(blocks)), number == 3)
            Address.objects.update(next_test_at=timezone.now())
        self.assertIn("answers 503: it is busy", self.notes(blocks)[0])
        Shop.moods["/tired"] = 200
        self.ask_all()
        self.assertEqual(self.state("/tired"), ("right", False))
        self.assertEqual(self.notes(blocks), [])

    def notes(self, blocks):
        body = {"title": "Towpath walks", "description": "x", "document": document(*blocks).to_json()}
        findings = self.call("POST", f"/pages/{self.walks.pk}/check", body)["findings"]
        return [each["sentence"] for each in findings if each["check"] == "link-failed-outside"]

    def test_the_times_between_two_tests(self):
        self.lead_to(self.at("/right"), self.at("/gone"), self.at("/broken"))
        self.ask_all()
        waits = {row.address: row.next_test_at - row.tested_at for row in Address.objects.all()}
        self.assertEqual(waits[self.at("/right")], timedelta(days=7))
        self.assertEqual(waits[self.at("/gone")], timedelta(days=1))
        self.assertEqual(waits[self.at("/broken")], timedelta(hours=1))

    def test_the_same_host_is_given_time(self):
        self.lead_to(self.at("/a"), self.at("/b"))
        slept = []
        with patch.object(turns, "APART", 0.5), patch.object(turns, "sleep", slept.append):
            self.ask_all()
        self.assertEqual(len(slept), 1)
        self.assertLessEqual(slept[0], 0.5)

    def test_private_networks_are_not_asked_and_say_so(self):
        self.lead_to("http://127.0.0.1:1/secret", "http://nowhere.invalid/")
        self.ask_all()
        faults = {row.host: row.fault for row in Address.objects.all()}
        self.assertIn("private network", faults["127.0.0.1"])
        self.assertIn("cannot be reached", faults["nowhere.invalid"])

    def test_only_what_a_page_leads_to_is_tested_and_once_for_all_pages(self):
        self.lead_to(self.at("/right"))
        self.save(self.visit, document(call_to_action("Go", self.at("/right"))).to_json(), None, title="Visit")
        self.assertEqual(self.ask_all(), 1)
        self.lead_to(self.at("/other"))
        self.save(self.visit, document(paragraph("x")).to_json(), None, title="Visit")
        Address.objects.update(next_test_at=timezone.now())
        Shop.asked.clear()
        self.ask_all()
        self.assertEqual(Shop.asked, [("HEAD", "/other")])

    def test_the_report_has_what_failed_first_and_where_it_stands(self):
        self.lead_to(self.at("/right"), self.at("/gone"))
        self.ask_all()
        path = f"/sites/{self.site.pk}/outside-links"
        told = self.call("GET", path)
        self.assertEqual([each["state"] for each in told], ["gone", "right"])
        self.assertEqual([page["title"] for page in told[0]["pages"]], ["Towpath walks"])
        self.call("POST", f"{path}/test", status=202)
        due = Address.objects.filter(next_test_at__lte=timezone.now())
        self.assertEqual([row.address for row in due], [self.at("/gone")])  # The other was right within the hour.
        Address.objects.update(tested_at=timezone.now() - timedelta(hours=2))
        self.call("POST", f"{path}/test", status=202)
        self.assertEqual(Address.objects.filter(next_test_at__lte=timezone.now()).count(), 2)
        self.as_person(a_person("reader", Role.READER))
        self.call("GET", path, status=403)
        self.call("POST", f"{path}/test", status=403)
