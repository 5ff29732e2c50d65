"""What is fetched from elsewhere: by address, from the commons; and everything that can go wrong there."""

import json
import socket
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from unittest.mock import patch

from django.test import override_settings

from standins.commons import CommonsServer
from stillpage.library.models import Item
from stillpage.outside.fetching import _is_public
from stillpage.people.models import Role

from ..patience import PATIENT, waiting
from .base import ApiTest, a_person, photograph

DATA = photograph((300, 200))


class Odd(BaseHTTPRequestHandler):
    """A server that does whatever the path says."""

    def do_GET(self):
        answers = {
            "/gates.jpg": (200, {}, DATA),
            "/large": (200, {"Content-Length": str(900 * 1024 * 1024)}, b"x"),
            "/endless": (200, {}, b"x" * 3_000_000),
            "/around": (302, {"Location": "/around"}, b""),
            "/inside": (302, {"Location": "http://127.0.0.1:1/secret"}, b""),
            "/there": (301, {"Location": "gates.jpg"}, b""),
            "/nowhere": (302, {"Location": "//["}, b""),
            "/file": (302, {"Location": "file:///etc/passwd"}, b""),
            "/words": (200, {}, b"<html>no picture</html>"),
            "/half": (200, {"Content-Length": str(len(DATA))}, DATA[:2000]),
        }
        status, headers, body = answers.get(self.path, (404, {}, b""))
        self.send_response(status)
        for name, value in headers.items():
            self.send_header(name, value)
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, *_):
        return


class Outside(ApiTest):
    server_class = staticmethod(lambda: ThreadingHTTPServer(("127.0.0.1", 0), Odd))

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.server = cls.server_class()
        cls.addClassCleanup(cls.server.server_close)
        cls.addClassCleanup(cls.server.shutdown)
        threading.Thread(target=cls.server.serve_forever, daemon=True).start()
        cls.host = f"127.0.0.1:{cls.server.server_address[1]}"

    def setUp(self):
        super().setUp()
        settings = override_settings(
            OUTSIDE_ALLOWED=[self.host],
            COMMONS=f"http://{self.host}",
            OUTSIDE_SECONDS=PATIENT,
            UPLOAD_LIMIT=2 * 1024 * 1024,
        )
        settings.enable()
        self.addCleanup(settings.disable)

    def lines(self, path, body):
        answer = self.client.generic("POST", f"/api{path}", json.dumps(body), "application/json")
        self.assertEqual(answer.status_code, 200, answer.content if not answer.streaming else "")
        return [json.loads(line) for line in b"".join(answer.streaming_content).splitlines()]

    def fetch(self, address):
        return self.lines("/library/fetch", {"address": address})

    def refused(self, address, said):
        self.assertIn(said, self.fetch(address)[-1]["problem"])
        self.assertEqual(Item.objects.count(), 0)


class ByAddress(Outside):
    def test_a_picture_is_fetched_with_progress_and_by_way_of_redirects(self):
        *steps, last = self.fetch(f"http://{self.host}/there")
        self.assertEqual((steps[-1]["received"], last["item"]["title"]), (len(DATA), "gates"))
        again = self.fetch(f"http://{self.host}/gates.jpg")[-1]["item"]
        self.assertEqual((again["is_new"], Item.objects.count()), (False, 1))

    def test_private_networks_are_not_asked_by_name_number_or_redirect(self):
        with override_settings(OUTSIDE_ALLOWED=[]):
            for host in (
                self.host,
                "localhost:80",
                "[::1]:80",
                "10.0.0.1",
                "169.254.169.254",
                "0.0.0.0",
                "2130706433",
                "[::ffff:127.0.0.1]",
                "[64:ff9b::7f00:1]",
                "[::127.0.0.1]",
            ):
                self.refused(f"http://{host}/gates.jpg", "private network")
        self.refused(f"http://{self.host}/inside", "private network")

    def test_a_name_is_judged_by_what_it_is_just_then(self):
        answers = [
            (socket.AF_INET, socket.SOCK_STREAM, 6, "", ("8.8.8.8", 80)),
            (socket.AF_INET, socket.SOCK_STREAM, 6, "", ("10.1.1.1", 80)),
        ]
        with patch("stillpage.outside.fetching.socket.getaddrinfo", return_value=answers):
            self.refused("http://example.invalid/a.jpg", "private network")

    def test_which_addresses_are_public(self):
        # IANA special-purpose address registries (RFC 6890).
        for address in (
            "127.0.0.1",
            "192.168.1.1",
            "100.64.0.1",
            "fe80::1",
            "fd00::1",
            "224.0.0.1",
            "::ffff:10.0.0.1",
            "::ffff:8.8.8.8",
            "192.0.2.1",
            "64:ff9b::7f00:1",
            "64:ff9b::808:808",
            "64:ff9b:1::1",
            "::127.0.0.1",
            "::8.8.8.8",
            "::ffff:0:127.0.0.1",
            "2002:7f00:1::1",
            "2002:a00:1::1",
            "2001:0:7f00:1::1",
            "fec0::1",
        ):
            self.assertFalse(_is_public(address), address)
        for address in ("8.8.8.8", "2001:4860:4860::8888", "2002:808:808::1"):
            self.assertTrue(_is_public(address), address)

    def test_what_is_no_address(self):
        for address, said in (
            ("ftp://example.invalid/a", "should begin with https"),
            ("file:///etc/passwd", "should begin with https"),
            ("https://", "should begin with https"),
            ("http://a:b@example.invalid/", "a password in it"),
            ("http://example.invalid:99999/", "should begin with https"),
            (f"http://{self.host}/nowhere", "leads on to one that is none"),
            (f"http://{self.host}/file", "should begin with https"),
        ):
            self.refused(address, said)

    def test_what_goes_wrong_there(self):
        self.refused(f"http://{self.host}/none", "answers 404: there is nothing")
        self.refused(f"http://{self.host}/large", "larger than 2 MB")
        self.refused(f"http://{self.host}/endless", "larger than 2 MB")
        self.refused(f"http://{self.host}/around", "on and on")
        self.refused(f"http://{self.host}/half", "broke off")
        self.refused(f"http://{self.host}/words", "is a page, and no file")
        with override_settings(OUTSIDE_ALLOWED=["127.0.0.1:1"]):
            self.refused("http://127.0.0.1:1/a", "cannot be reached")
        with override_settings(OUTSIDE_LONGEST=-1):
            self.refused(f"http://{self.host}/gates.jpg", "took too long")

    def test_a_server_that_says_nothing_is_not_waited_for(self):
        silent = socket.socket()
        self.addCleanup(silent.close)
        silent.bind(("127.0.0.1", 0))
        silent.listen()
        with waiting("slow"), override_settings(OUTSIDE_ALLOWED=[f"127.0.0.1:{silent.getsockname()[1]}"]):
            self.refused(f"http://127.0.0.1:{silent.getsockname()[1]}/", "did not answer")

    def test_readers_may_not(self):
        self.as_person(a_person("fen", Role.READER))
        self.call("POST", "/library/fetch", {"address": "http://example.invalid"}, 403)
        self.call("GET", "/commons", status=403)


class TheCommons(Outside):
    server_class = staticmethod(lambda: CommonsServer(0))

    def setUp(self):
        super().setUp()
        self.server.mode = "well"

    def test_a_picture_is_found_seen_and_taken_with_licence_and_credit(self):
        found = self.call("GET", "/commons?q=old bridge")["pictures"]
        self.assertEqual([each["title"] for each in found], ["Old bridge", "Old bridge winter"])
        preview = self.client.get(found[0]["preview"])
        self.assertEqual((preview.status_code, preview["Content-Type"]), (200, "image/jpeg"))
        item = self.lines("/commons/take", {"id": found[0]["id"]})[-1]["item"]
        self.assertEqual((item["credit"], item["licence"]), (found[0]["author"], found[0]["licence"]))
        self.assertEqual((item["alt"], item["title"]), ("An old brick bridge", "Old bridge"))

    def test_a_page_at_a_time(self):
        first, second = self.call("GET", "/commons"), self.call("GET", "/commons?page=2")
        self.assertEqual((len(first["pictures"]), first["more"], second["more"]), (12, True, False))

    def test_every_way_in_which_it_can_fail(self):
        number = self.call("GET", "/commons?q=bridge")["pictures"][0]["id"]
        for mode, said in (
            ("slow", "did not answer within"),
            ("refusing", "does not give this out"),
            ("vanished", "cannot be reached"),
            ("broken", "cannot be understood"),
        ):
            self.server.mode = mode
            with waiting(mode):
                self.assertIn(said, self.call("GET", "/commons?q=bridge", status=422)["detail"], mode)
                self.call("POST", "/commons/take", {"id": number}, 422)
        self.assertEqual(Item.objects.count(), 0)
        self.server.mode = "well"
        self.assertIn("nothing at this address", self.call("POST", "/commons/take", {"id": "none"}, 422)["detail"])

    def test_without_a_commons_none_is_offered(self):
        self.assertTrue(self.call("GET", "/session")["commons"])
        with override_settings(COMMONS=""):
            self.assertFalse(self.call("GET", "/session")["commons"])
            self.call("GET", "/commons", status=404)

    def test_it_behaves_as_it_is_told(self):
        import urllib.request

        request = urllib.request.Request(f"http://{self.host}/behave", b"as=refusing", method="POST")
        with urllib.request.urlopen(request) as answer:
            self.assertIn(b"It behaves: <b>refusing</b>", answer.read())
