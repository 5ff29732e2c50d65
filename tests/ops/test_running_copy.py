"""The whole application as `./start` brings it up: its front server, its groups of processes, its database's rights."""

import json
import os
import re
import signal
import socket
import subprocess
import time
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from unittest import TestCase

from ops.front import socket_of
from ops.trial import Copy

PAGE = "/visit/towpath-walks"
SITE = "canal.localhost"
HOP_BY_HOP = {"server", "date", "connection", "transfer-encoding", "content-length", "x-accel-expires"}
"""What belongs to a connection and not to what is sent (RFC 9110, 7.6.1), and what the front takes for itself."""
FILE = "from stillpage.library.models import File; print(File.objects.filter({}).first().name)"


class WithFront(TestCase):
    @classmethod
    def setUpClass(cls):
        cls.copy = Copy()
        cls.addClassCleanup(cls.copy.close)
        cls.copy.start()

    def test_it_comes_up_with_the_demo_and_says_what_is_where(self):
        said = self.copy.said
        self.assertRegex(said, r"Authoring +http://localhost:\d+/")
        self.assertRegex(said, r"Varrow Canal Trust +http://canal.localhost:\d+/")
        self.assertRegex(said, r"wren +Wren Halloway, author")
        self.assertIn("This is for trying out", said)
        self.assertNotIn("Traceback", "".join(self.copy.later))

    def test_readers_get_through_the_front_just_what_the_application_sends(self):
        """Every status, header and byte, as long as nothing of it belongs to the connection alone."""
        front = self.copy.visitor(SITE)
        straight = self.copy.visitor(SITE, socket_of(self.copy.var, "readers"))
        etag = straight.ask(PAGE).headers["ETag"]
        packed = straight.ask(PAGE, Accept_Encoding="gzip").headers["ETag"]
        self.assertNotEqual(etag, packed)
        restricted = self.copy.shell(FILE.format("item__restricted=True, original=True"))
        original = self.copy.shell(FILE.format("item__kind='picture', original=True"))
        for path, method, headers in (
            (PAGE, "GET", {}),
            (PAGE, "GET", {"Accept_Encoding": "gzip, deflate, br"}),
            (PAGE, "GET", {"Accept_Encoding": "br"}),
            (PAGE, "HEAD", {}),
            (PAGE, "GET", {"If_None_Match": etag}),
            (PAGE, "GET", {"If_None_Match": f'"x", W/{etag}'}),
            (PAGE, "GET", {"If_None_Match": packed, "Accept_Encoding": "gzip"}),
            (PAGE, "GET", {"If_Modified_Since": "Fri, 01 Jan 2100 00:00:00 GMT"}),
            (f"{PAGE}?a=b", "GET", {}),
            (f"{PAGE}/", "GET", {}),
            ("/none", "GET", {}),
            ("/none", "GET", {"Accept_Encoding": "gzip"}),
            ("/a/../visit", "GET", {}),
            ("//visit", "GET", {}),
            ("/caf%C3%A9", "GET", {}),
            (PAGE, "POST", {}),
            (f"/media/{restricted}", "GET", {}),
            (f"/media/{restricted}", "GET", {"Accept": "text/html"}),
            (f"/media/{original}", "GET", {}),
            ("/media/none", "GET", {}),
            ("/reader-pass?ticket=x&to=/", "GET", {}),
        ):
            with self.subTest(path=path, method=method, headers=headers):
                one, other = front.ask(path, method, **headers), straight.ask(path, method, **headers)
                again = front.ask(path, method, **headers)
                self.assertEqual((one.status, one.body), (other.status, other.body))
                self.assertEqual(_kept(one), _kept(other))
                self.assertEqual((again.status, again.body, _kept(again)), (one.status, one.body, _kept(one)))

    def test_who_wants_no_gzip_gets_none(self):
        front = self.copy.visitor(SITE)
        for wish, packed in (("gzip", True), ("br, gzip;q=0.5", True), ("gzip;q=0", False), ("x-gzip", False)):
            answer = front.ask(PAGE, Accept_Encoding=wish)
            self.assertEqual(answer.headers["Content-Encoding"], "gzip" if packed else None, wish)

    def test_files_are_sent_by_the_front_as_the_application_says(self):
        picture = self.copy.shell(FILE.format("original=False"))
        front = self.copy.visitor(SITE)
        told = self.copy.visitor(SITE, socket_of(self.copy.var, "readers")).ask(f"/media/{picture}")
        self.assertEqual(told.headers["X-Accel-Redirect"], f"/-/media/{picture}")
        sent = front.ask(f"/media/{picture}")
        self.assertEqual((sent.status, len(sent.body)), (200, int(sent.headers["Content-Length"])))
        self.assertTrue(sent.body)
        added, taken = {("accept-ranges", "bytes")}, {("x-accel-redirect", f"/-/media/{picture}")}
        self.assertEqual(_kept(sent) - added, _kept(told) - taken)
        known = front.ask(f"/media/{picture}", If_None_Match=sent.headers["ETag"])
        self.assertEqual((known.status, known.body), (304, b""))
        part = front.ask(f"/media/{picture}", Range="bytes=0-9")
        self.assertEqual((part.status, part.body), (206, sent.body[:10]))
        self.assertEqual(front.ask(f"/-/media/{picture}").status, 404)

    def test_a_page_is_right_at_once_when_it_was_published_while_readers_ask_for_it(self):
        wren = self.copy.visitor().sign_in("wren")
        where = f"site__host='{SITE}', path='{PAGE}'"
        number = self.copy.shell(f"from stillpage.pages.models import Page; print(Page.objects.get({where}).pk)")
        page = wren.ask(f"/api/pages/{number}").json["working_copy"]
        reader = self.copy.visitor(SITE)
        stop = []

        def read():
            one = self.copy.visitor(SITE)
            count = 0
            while not stop:
                one.ask(PAGE, Accept_Encoding="gzip")
                count += 1
            return count

        late = []
        with ThreadPoolExecutor(2) as pool:
            readers = [pool.submit(read) for _ in range(2)]
            try:
                for turn in range(8):
                    body = {**page, "title": f"Walks {turn}", "base": page["revision"] + turn}
                    saved = wren.ask(f"/api/pages/{number}/working-copy", "PUT", body)
                    published = wren.ask(f"/api/pages/{number}/publish", "POST", {"revision": saved.json["revision"]})
                    self.assertEqual(published.status, 200, published.body)
                    begun = time.monotonic()
                    while f"Walks {turn}".encode() not in reader.ask(PAGE).body:
                        self.assertLess(time.monotonic() - begun, 30)
                    late.append(time.monotonic() - begun)
            finally:
                stop.append(True)
            self.assertTrue(all(each.result() for each in readers))
        # A request under way in that moment may leave the old one there for a second, and no longer; the rest is what
        # a busy machine needs to ask.
        self.assertLess(max(late), 20)

    def test_what_has_changed_is_taken_out_of_the_fronts_keeping(self):
        kept = f"from stillpage.publishing.front import kept_at; print(kept_at('{SITE}{PAGE}', ''))"
        file = Path(self.copy.shell(kept))
        wren = self.copy.visitor().sign_in("wren")
        where = f"site__host='{SITE}', path='{PAGE}'"
        number = self.copy.shell(f"from stillpage.pages.models import Page; print(Page.objects.get({where}).pk)")
        revision = wren.ask(f"/api/pages/{number}").json["working_copy"]["revision"]

        def there():
            self.copy.visitor(SITE).ask(PAGE)
            return file.exists()

        self.copy.wait_until(there)
        self.assertIn(b"<h1", file.read_bytes())
        self.copy.visitor(SITE).ask(PAGE)
        self.assertEqual(wren.ask(f"/api/pages/{number}/publish", "POST", {"revision": revision}).status, 200)
        self.assertFalse(file.exists())

    def test_slow_clients_hold_nothing(self):
        half = b"POST /api/paste HTTP/1.1\r\nHost: localhost\r\nContent-Length: 900\r\n"
        held = []
        try:
            for number in range(300):
                one = socket.create_connection(("127.0.0.1", self.copy.port))
                one.sendall(half if number % 2 else b"GE")
                held.append(one)
            for path, host in ((PAGE, SITE), ("/api/session", "localhost"), ("/none", SITE)):
                begun = time.monotonic()
                self.assertLess(self.copy.visitor(host).ask(path).status, 500)
                self.assertLess(time.monotonic() - begun, 20)
        finally:
            for one in held:
                one.close()

    def test_nobody_chooses_the_address_that_they_come_from(self):
        stranger = self.copy.visitor()
        stranger.ask("/api/session")
        claimed = {"X_Real_IP": "203.0.113.5", "X_Forwarded_For": "203.0.113.6", "Forwarded": "for=203.0.113.7"}
        body = {"username": "nobody-at-all", "password": "x"}
        self.assertEqual(stranger.ask("/api/session", "POST", body, **claimed).status, 401)
        maud = self.copy.visitor().sign_in("maud")
        noted = maud.ask("/api/trail?name=nobody-at-all").json["entries"][0]
        self.assertEqual(noted["address"], "127.0.0.1")
        lines = [json.loads(line) for line in (self.copy.var / "trail.log").read_text().splitlines()]
        self.assertIn(("sign-in failed", "nobody-at-all"), [(each["act"], each["name"]) for each in lines])

    def test_what_opens_something_stands_in_no_log(self):
        site = self.copy.shell(f"from stillpage.sites.models import Site; print(Site.objects.get(host='{SITE}').pk)")
        fen = self.copy.visitor().sign_in("fen")
        sent = fen.ask(f"/reader/{site}?to=/").headers["Location"]
        ticket = re.search(r"ticket=([^&]+)", sent)[1]
        taken = self.copy.visitor(SITE)
        self.assertEqual(taken.ask("/" + sent.split("/", 3)[3]).status, 302)
        said = "".join(self.copy.later)
        for file in self.copy.var.rglob("*"):
            if file.is_file() and file.suffix in (".log", ".txt", ".conf"):
                said += file.read_text(errors="replace")
        for secret in (ticket, "still-water-14", *fen.cookies.values(), *taken.cookies.values()):
            self.assertNotIn(secret, said)

    def test_the_application_may_read_and_write_rows_and_nothing_else(self):
        file = self.copy.var / "database-password"
        self.assertEqual(file.stat().st_mode & 0o777, 0o600)
        may = (
            "SELECT 1 FROM pages_page LIMIT 1",
            "INSERT INTO people_counter VALUES ('x', 1, 1)",
            "DELETE FROM people_counter WHERE name = 'x'",
            "SELECT 1 FROM trail_entry LIMIT 0",
        )
        may_not = (
            "DROP TABLE pages_page",
            "CREATE TABLE x (i INT)",
            "ALTER TABLE pages_page ADD COLUMN x INT",
            "SELECT * FROM mysql.user",
            "UPDATE trail_entry SET name = ''",
            "DELETE FROM trail_entry",
            "SELECT 1 INTO OUTFILE '/tmp/x-stillpage'",
            "CREATE USER x",
            "GRANT ALL ON *.* TO stillpage@localhost",
            "SET GLOBAL general_log = 1",
        )
        code = f"""
import MySQLdb
cursor = MySQLdb.connect(unix_socket={str(self.copy.var / "mariadb.run" / "socket")!r}, user="stillpage",
    password={file.read_text()!r}, database="stillpage").cursor()
for line in {[*may, *may_not]!r}:
    try:
        cursor.execute(line)
        print("may")
    except MySQLdb.Error as error:
        print("may not")
"""
        self.assertEqual(self.copy.shell(code).splitlines(), ["may"] * len(may) + ["may not"] * len(may_not))

    def test_the_database_runs_as_somebody_with_no_other_rights(self):
        if os.geteuid() != 0:
            self.skipTest("it runs as whoever runs this")
        number = (self.copy.var / "mariadb.run" / "pid").read_text().strip()
        status = Path(f"/proc/{number}/status").read_text()
        self.assertNotEqual(re.search(r"Uid:\s+(\d+)", status)[1], "0")

    def test_what_ends_by_itself_is_brought_up_again_and_the_work_goes_on(self):
        killed = self.copy.child("manage.py work$")
        made = "from stillpage.library.models import File; print(File.objects.count())"
        before = int(self.copy.shell(made))
        os.kill(killed, signal.SIGKILL)
        self.copy.wait_until(lambda: self.copy.child("manage.py work$") not in (None, killed))
        front = self.copy.child("nginx")
        workers = _children(front)
        self.assertTrue(workers)
        os.kill(front, signal.SIGKILL)
        # Those of the one that was killed would go on by themselves, and keep the port from the one that comes.
        self.copy.wait_until(lambda: not any(Path(f"/proc/{worker}").exists() for worker in workers))
        self.copy.wait_until(lambda: self.copy.child("nginx") not in (None, front))
        self.copy.wait_until(lambda: _answers(self.copy) and _children(self.copy.child("nginx")))
        self.assertGreaterEqual(int(self.copy.shell(made)), before)

    def test_a_database_that_is_frozen_is_told_like_one_that_is_away_and_readers_do_not_notice(self):
        wren, reader = self.copy.visitor().sign_in("wren"), self.copy.visitor(SITE)
        whole = reader.ask(PAGE).body
        number = int((self.copy.var / "mariadb.run" / "pid").read_text())
        os.kill(number, signal.SIGSTOP)
        try:
            answer = wren.ask("/api/sites")
            self.assertEqual((answer.status, answer.headers["Retry-After"]), (503, "5"))
            page = reader.ask(PAGE)
            self.assertEqual((page.status, page.body), (200, whole))
        finally:
            os.kill(number, signal.SIGCONT)
        self.copy.wait_until(lambda: wren.ask("/api/sites").status == 200)

    def test_what_the_front_says_by_itself_is_said_as_the_application_would(self):
        wren = self.copy.visitor().sign_in("wren")
        long = wren.ask("/api/library?q=" + "a" * 40_000)
        self.assertEqual((long.status, long.headers["Content-Type"]), (414, "application/problem+json"))
        self.assertEqual(long.json["status"], 414)
        sheet = re.search(rb'href="(/static/theme/page[^"]+)"', self.copy.visitor(SITE).ask(PAGE).body)[1].decode()
        for path in ("/api/session", "/static/none", sheet):
            for host in ("localhost", SITE):
                self.assertEqual(self.copy.visitor(host).ask(path).headers["X-Content-Type-Options"], "nosniff", path)


def _kept(answer):
    return {(name.lower(), value) for name, value in answer.headers.items() if name.lower() not in HOP_BY_HOP}


def _children(number: int | None) -> list[int]:
    """The processes that a process has started."""
    asked = ["pgrep", "-P", str(number)]
    return [int(line) for line in subprocess.run(asked, capture_output=True, text=True, check=False).stdout.split()]


def _answers(copy):
    try:
        return copy.visitor(SITE).ask(PAGE).status == 200
    except OSError:
        return False


class WithoutFront(TestCase):
    def test_it_works_without_a_front_goes_on_after_the_database_died_and_ctrl_c_stops_all(self):
        copy = Copy(STILLPAGE_FRONT="none")
        self.addCleanup(copy.close)
        copy.start()
        self.assertIsNone(copy.child("nginx"))
        self.assertEqual(copy.visitor(SITE).ask(PAGE).status, 200)
        copy.visitor().sign_in("wren")
        with urllib.request.urlopen(f"http://127.0.0.1:{copy.env['STILLPAGE_COMMONS_PORT']}/", timeout=60) as commons:
            self.assertIn(b"Fieldgate Commons", commons.read())
        os.kill(int((copy.var / "mariadb.run" / "pid").read_text()), signal.SIGKILL)
        seen = []

        def back():
            answer = copy.visitor(SITE).ask("/none")
            seen.append((answer.status, answer.headers["Retry-After"], answer.body))
            return len(seen) > 1 and answer.status == 404

        copy.wait_until(lambda: back() and any(status == 503 for status, *_ in seen))
        away = next(each for each in seen if each[0] == 503)
        self.assertEqual(away[1], "5")
        self.assertIn(b"Nothing is lost", away[2])
        copy.stop()
        self.assertNotIn("Traceback", "".join(copy.later))
        self.assertIn("The database cannot be reached", "".join(copy.later))
        self.assertEqual(copy.left(), "")
        # Once more over what is there already: nothing is made anew.
        copy.start()
        self.assertNotIn("Making a data folder", copy.said)
        copy.stop()
        self.assertEqual(copy.left(), "")


class Empty(TestCase):
    def test_an_installation_without_the_demo_asks_who_its_administrator_is(self):
        asked = {
            "STILLPAGE_ADMINISTRATOR": "anna",
            "STILLPAGE_ADMINISTRATOR_PASSWORD": "seven herons on a weir",
            "STILLPAGE_SITE_NAME": "The Lower Reach",
            "STILLPAGE_SITE_HOST": "reach.localhost",
        }
        copy = Copy()
        self.addCleanup(copy.close)
        with self.assertRaises(AssertionError) as failed:
            copy.start("--empty")
        self.assertIn("Set STILLPAGE_ADMINISTRATOR", str(failed.exception))
        copy.env |= {**asked, "STILLPAGE_ADMINISTRATOR_PASSWORD": "still-water-14"}
        with self.assertRaises(AssertionError) as failed:
            copy.start("--empty")
        self.assertIn("stands in the demo", str(failed.exception))
        copy.env |= asked
        copy.start("--empty")
        self.assertNotIn("Demo accounts", copy.said)
        anna = copy.visitor().sign_in("anna", asked["STILLPAGE_ADMINISTRATOR_PASSWORD"])
        self.assertFalse(anna.ask("/api/session").json["demo"])
        self.assertEqual([site["name"] for site in anna.ask("/api/sites").json], ["The Lower Reach"])
        self.assertEqual(copy.shell("from stillpage.people.models import Person; print(Person.objects.count())"), "1")
        self.assertEqual(copy.visitor("reach.localhost").ask("/").status, 404)
        stranger = copy.visitor()
        stranger.ask("/api/session")
        body = {"username": "maud", "password": "still-water-14"}
        self.assertEqual(stranger.ask("/api/session", "POST", body).status, 401)
