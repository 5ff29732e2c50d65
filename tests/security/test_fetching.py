"""Outside servers that answer a byte at a time, and hold up whoever asked. OWASP ASVS 4.0.3, 5.2.6, 12.6.1."""

import socket
import threading
import time

from django.test import TransactionTestCase, override_settings
from django.utils import timezone

from stillpage.outside import testing, turns
from stillpage.outside.fetching import FetchError, fetch, probe
from stillpage.outside.models import Address
from stillpage.written.models import Use

from ..api.base import MediaFolder, _with_pages
from ..patience import PATIENT


class Dripping:
    """A server that sends one byte of ``what`` now and then, for ever."""

    def __init__(self, test, head=b""):
        self.head = head
        self.listener = socket.create_server(("127.0.0.1", 0))
        self.host = f"127.0.0.1:{self.listener.getsockname()[1]}"
        self.over = threading.Event()
        self.asked = 0
        threading.Thread(target=self.serve, daemon=True).start()
        test.addCleanup(self.listener.close)
        test.addCleanup(self.over.set)

    def serve(self):
        while not self.over.is_set():
            try:
                asker, _ = self.listener.accept()
            except OSError:
                return
            self.asked += 1
            threading.Thread(target=self.drip, args=(asker,), daemon=True).start()

    def drip(self, asker):
        with asker:
            try:
                asker.sendall(self.head)
                while not self.over.wait(0.05):
                    asker.sendall(b"x")
            except OSError:
                return


class Prompt(Dripping):
    """A server that answers at once."""

    def drip(self, asker):
        with asker:
            asker.recv(4000)
            asker.sendall(b"HTTP/1.1 204 Fine\r\nConnection: close\r\n\r\n")


class Slow(MediaFolder, TransactionTestCase):
    def setUp(self):
        super().setUp()
        _with_pages(self)

    def servers(self):
        headers = Dripping(self, b"HTTP/1.1 200 OK\r\nX-Long: ")
        body = Dripping(self, b"HTTP/1.1 200 OK\r\nContent-Type: image/png\r\n\r\n")
        return headers, body, Prompt(self)

    def allowed(self, *servers, longest=1.0):
        hosts = [each.host for each in servers]
        return override_settings(OUTSIDE_ALLOWED=hosts, OUTSIDE_SECONDS=PATIENT, OUTSIDE_LONGEST=longest)

    def test_the_longest_time_holds_for_headers_as_for_what_follows(self):
        headers, body, prompt = self.servers()
        with self.allowed(headers, body):
            for server in (headers, body):
                begun = time.monotonic()
                with self.assertRaisesRegex(FetchError, "took too long"):
                    list(fetch(f"http://{server.host}/a.png", 10**9))
                self.assertLess(time.monotonic() - begun, 20)
            with self.assertRaisesRegex(FetchError, "took too long"):
                probe(f"http://{headers.host}/")
        with self.allowed(prompt, longest=30):
            self.assertEqual(probe(f"http://{prompt.host}/").status, 204)

    def test_one_bad_host_keeps_no_other_waiting_and_is_asked_once(self):
        headers, _, prompt = self.servers()
        rows = []
        for server in (headers, prompt):
            for number in range(4):
                address = f"http://{server.host}/{number}"
                digest = testing.digest_of(address)
                rows.append(
                    Address.objects.create(
                        digest=digest, address=address, host=server.host, next_test_at=timezone.now()
                    )
                )
                Use.objects.create(written=self.walks, address=rows[-1], live=True)
        noted = []
        with self.allowed(headers, prompt, longest=30):
            worker = threading.Thread(target=lambda: noted.append(testing._test_due()))
            apart, turns.APART = turns.APART, 0
            self.addCleanup(setattr, turns, "APART", apart)
            worker.start()
            end = time.monotonic() + 60
            while time.monotonic() < end and Address.objects.filter(host=prompt.host, state="right").count() < 4:
                time.sleep(0.05)
            self.assertTrue(worker.is_alive(), "the others have been answered before the bad host was given up")
            self.assertEqual(headers.asked, 1)
            headers.over.set()
            worker.join(60)
        self.assertEqual(noted, [8])
        bad = Address.objects.filter(host=headers.host).order_by("pk")
        self.assertEqual([row.failures for row in bad], [1, 0, 0, 0])
        self.assertFalse(bad.filter(next_test_at__lte=timezone.now()).exists())
