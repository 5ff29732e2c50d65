"""What `./start` says when it cannot go on: one sentence, and nothing half done."""

import os
import re
import shutil
import signal
import socket
import subprocess
import tempfile
import threading
import time
import urllib.error
import urllib.request
from pathlib import Path
from unittest import TestCase
from unittest.mock import patch

from django.conf import settings

from ops import common, install
from ops.common import Stamp, Stop, check_room, guarded
from ops.mariadb import Database

HANGS = 120  # Seconds. A bound against hanging, not a measure of speed: other tests run beside these.


def a_free_port():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


class Start(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.var = Path(folder.name) / "var"

    def environment(self, **more):
        names = ("STILLPAGE_PORT", "STILLPAGE_DB_PORT", "STILLPAGE_COMMONS_PORT")
        ports = {name: str(a_free_port()) for name in names}
        kept = {name: value for name, value in os.environ.items() if not name.startswith("STILLPAGE_")}
        return {**kept, **ports, "STILLPAGE_VAR": str(self.var), **more}

    def start(self, **more):
        return subprocess.run(
            ["./start"],
            cwd=settings.ROOT,
            env=self.environment(**more),
            capture_output=True,
            text=True,
            check=False,
            timeout=HANGS,
        )

    def stopped(self, done, said):
        self.assertEqual(done.returncode, 1)
        self.assertEqual(len(done.stderr.strip().splitlines()), 1, done.stderr)
        self.assertIn(said, done.stderr)
        self.assertFalse((self.var / "mariadb").exists())

    def test_a_port_in_use(self):
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = str(taken.getsockname()[1])
            self.stopped(self.start(STILLPAGE_PORT=port), f"Port {port} is in use")
            self.stopped(self.start(STILLPAGE_DB_PORT=port), "Set STILLPAGE_DB_PORT")

    def test_a_port_that_is_none(self):
        self.stopped(self.start(STILLPAGE_PORT="many"), "must be a port number")

    def test_it_comes_up_with_the_demo_data_and_ctrl_c_stops_all_it_started(self):
        environment = self.environment()
        # Gathered for the tests already; it is the same for everybody.
        shutil.copytree(settings.STATIC_ROOT, self.var / "static")
        for again in (False, True):
            with subprocess.Popen(
                ["./start"],
                cwd=settings.ROOT,
                env=environment,
                stdout=subprocess.PIPE,
                stderr=subprocess.STDOUT,
                text=True,
            ) as process:
                lines = []
                for line in process.stdout:
                    lines.append(line)
                    if "Ctrl-C" in line:
                        break
                else:
                    self.fail("".join(lines))
                # What is said from here on must be read too: who writes into a full pipe waits.
                later = []
                reader = threading.Thread(target=lambda said=process.stdout, into=later: into.extend(said))
                reader.start()
                try:
                    if again:
                        self.database_dies(int(environment["STILLPAGE_PORT"]))
                    else:
                        self.worker_dies(process.pid, environment)
                finally:
                    process.send_signal(signal.SIGINT)
                    process.wait(HANGS)
                    reader.join(HANGS)
            said = "".join(lines)
            self.assertRegex(said, r"Authoring +http://localhost:\d+/")
            self.assertRegex(said, r"Varrow Canal Trust +http://canal.localhost:\d+/")
            self.assertRegex(said, r"wren +Wren Halloway, author")
            self.assertEqual("Making a data folder" in said, not again, said)
            self.assertNotIn("Traceback", "".join(later))
            self.assertEqual("The database cannot be reached" in "".join(later), again)
            left = subprocess.run(["pgrep", "-f", str(self.var)], capture_output=True, text=True, check=False)
            self.assertEqual(left.stdout, "")

    def worker_dies(self, parent, environment):
        """A worker that is killed in the middle of its work is brought up again, and the work goes on."""
        self.assertIn("Fieldgate Commons", self.page(f"http://127.0.0.1:{environment['STILLPAGE_COMMONS_PORT']}/"))
        killed = self.worker(parent)
        before = self.made(environment)
        os.kill(killed, signal.SIGKILL)
        self.wait_until(lambda: self.worker(parent) not in (None, killed))
        self.wait_until(lambda: self.made(environment) > before)

    def worker(self, parent):
        command = ["pgrep", "-P", str(parent), "-f", "manage.py work"]
        found = subprocess.run(command, capture_output=True, text=True, check=False)
        return int(found.stdout.split()[0]) if found.stdout else None

    def made(self, environment):
        """How many files there are, as the database has it."""
        code = "from stillpage.library.models import File; print(File.objects.count())"
        given = {
            **environment,
            "STILLPAGE_DB_SOCKET": str(self.var / "mariadb.run" / "socket"),
            "STILLPAGE_SECRET_KEY": "x",
        }
        command = [common.PYTHON, "manage.py", "shell", "-v0", "-c", code]
        done = subprocess.run(command, cwd=settings.ROOT, env=given, capture_output=True, text=True, check=True)
        return int(done.stdout)

    def page(self, address):
        with urllib.request.urlopen(address, timeout=HANGS) as answer:
            return answer.read().decode()

    def wait_until(self, ready):
        for _ in range(5 * HANGS):
            if ready():
                return
            time.sleep(0.2)
        self.fail("it did not come to pass")

    def database_dies(self, port):
        """A database that stops is told with 503 and a sentence, and everything goes on when it is back."""
        os.kill(int((self.var / "mariadb.run" / "pid").read_text()), signal.SIGKILL)
        seen = []
        for _ in range(10 * HANGS):
            request = urllib.request.Request(f"http://127.0.0.1:{port}/none", headers={"Host": "canal.localhost"})
            try:
                urllib.request.urlopen(request, timeout=HANGS)
            except urllib.error.HTTPError as answer:
                seen.append((answer.code, answer.headers.get("Retry-After"), answer.read().decode()))
            if len(seen) > 1 and seen[-1][0] == 404:
                break
            time.sleep(0.1)
        self.assertEqual((seen[0][0], seen[0][1]), (503, "5"))
        self.assertIn("Nothing is lost", seen[0][2])
        self.assertEqual(seen[-1][0], 404)
        self.assertIn("There is no such page", seen[-1][2])


class Guards(TestCase):
    def test_a_full_disk_is_one_sentence(self):
        with tempfile.TemporaryDirectory() as folder:
            with self.assertRaisesRegex(Stop, "The disk is nearly full"):
                check_room(Path(folder), 10**9)
            check_room(Path(folder) / "new", 1)

        def full():
            raise OSError(28, "No space left on device")

        with patch("builtins.print") as said:
            self.assertEqual(guarded(full), 1)
        self.assertIn("The disk is full", said.call_args[0][0])

    def test_a_missing_right_is_one_sentence(self):
        refused = self.assertRaisesRegex(Stop, "You may not write to")
        with tempfile.TemporaryDirectory() as folder, patch("os.access", return_value=False), refused:
            check_room(Path(folder), 1)
        with (
            patch.object(install, "find", return_value=None),
            patch("os.geteuid", return_value=1000),
            patch("shutil.which", side_effect=lambda name, **_: None if name == "sudo" else "/bin/x"),
            self.assertRaisesRegex(Stop, "needs root"),
        ):
            install.packages()

    def test_a_command_that_fails_stops_with_its_name(self):
        with patch("builtins.print"), self.assertRaisesRegex(Stop, "Trying failed"):
            common.run(["false"], "Trying")
        with patch("builtins.print"), self.assertRaisesRegex(Stop, "The disk is full: Trying needs more room"):
            common.run(["sh", "-c", "echo No space left on device; exit 1"], "Trying")

    def test_a_step_is_done_again_only_when_its_inputs_change(self):
        with tempfile.TemporaryDirectory(dir=settings.ROOT / "var") as folder:
            source = Path(folder) / "a.txt"
            source.write_text("one")
            Stamp(Path(folder) / "stamp", [source]).set()
            self.assertTrue(Stamp(Path(folder) / "stamp", [source]).fresh)
            source.write_text("two")
            self.assertFalse(Stamp(Path(folder) / "stamp", [source]).fresh)

    def test_a_long_path_gets_its_socket_in_the_temporary_folder(self):
        short = Database(Path("/tmp/a/mariadb"), 1)
        long = Database(Path("/tmp") / ("a" * 120) / "mariadb", 1)
        self.assertEqual(short.socket, Path("/tmp/a/mariadb.run/socket"))
        self.assertLess(len(str(long.socket)), 100)

    def test_no_secret_stands_in_the_repository(self):
        text = (settings.ROOT / "stillpage" / "settings.py").read_text()
        self.assertIsNone(re.search(r"SECRET_KEY = [\"']", text))
