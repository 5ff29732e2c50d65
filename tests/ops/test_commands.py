"""What `./start` says when it cannot go on: one sentence, and nothing half done."""

import ast
import os
import re
import shutil
import socket
import subprocess
import sys
import tempfile
import time
from importlib import metadata
from pathlib import Path
from unittest import TestCase
from unittest.mock import patch

from django.conf import settings

from ops import common, front, gunicorn_conf, install
from ops.common import Stamp, Stop, check_room, guarded
from ops.mariadb import Database
from ops.processes import Child
from ops.start import PORTS
from ops.trial import a_free_port
from stillpage.api.interface import api

HANGS = 120  # Seconds. A bound against hanging, not a measure of speed: other tests run beside these.


class Start(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.var = Path(folder.name) / "var"

    def environment(self, **more):
        ports = {name: str(a_free_port()) for name in PORTS}
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


class Waiting(TestCase):
    def test_what_moves_is_waited_for_however_long_it_takes_and_said(self):
        looks = iter(range(10**6))
        end = time.monotonic() + 1
        with patch.object(common, "STILL", 0.2), patch("builtins.print"):
            common.wait_until(lambda: time.monotonic() > end, "it", lambda: next(looks))

    def test_what_does_not_move_is_given_up(self):
        with patch.object(common, "STILL", 0.2), self.assertRaisesRegex(Stop, "Waited for the moon, and nothing has"):
            common.wait_until(lambda: False, "the moon", lambda: 1)

    def test_what_has_ended_is_told_at_once(self):
        child = Child(["sh", "-c", "exit 3"])

        def ready():
            if not child.running:
                raise Stop("It ended.")
            return False

        begun = time.monotonic()
        with self.assertRaisesRegex(Stop, "It ended"):
            common.wait_until(ready, "it", child.signs)
        self.assertLess(time.monotonic() - begun, 30)

    def test_a_process_shows_that_it_moves_by_what_it_and_its_children_compute_and_read(self):
        child = Child(["sh", "-c", "(while :; do :; done) & sleep 100"])
        try:
            before = child.signs()
            end = time.monotonic() + HANGS
            while child.signs()[0] <= before[0] + 3:
                self.assertLess(time.monotonic(), end)
                time.sleep(0.05)
        finally:
            os.killpg(child.process.pid, 9)

    def test_each_operation_that_has_a_group_of_its_own_is_one_of_the_api(self):
        paths = set(api.get_openapi_schema(path_prefix="/api/")["paths"])
        self.assertEqual({*front.HEAVY, *front.TRANSFERS, front.PIECES} - paths, set())

    def test_the_front_takes_no_name_that_means_something_to_it(self):
        with tempfile.TemporaryDirectory() as folder:
            given = front.Settings(Path(folder), 1, ('a" b',), "/s", "/m", 1)
            with self.assertRaisesRegex(Stop, "has a meaning of its own"):
                front.configuration(given)
            tls = front.Settings(Path(folder), 443, ("a",), "/s", "/m", 1, certificate="/c", key="/k")
            self.assertIn("ssl_protocols TLSv1.2 TLSv1.3", front.configuration(tls))

    def test_the_front_lets_go_of_a_connection_before_the_application_does(self):
        with tempfile.TemporaryDirectory() as folder:
            conf = front.configuration(front.Settings(Path(folder), 1, ("a",), "/s", "/m", 1))
        upstreams = re.findall(r"upstream \w+ \{(.*?)\n  \}", conf, re.DOTALL)
        self.assertEqual(len(upstreams), len(front.groups()))
        for each in upstreams:
            (kept,) = re.findall(r"keepalive_timeout (\d+)s;", each)
            self.assertLess(int(kept), gunicorn_conf.keepalive)


class Repository(TestCase):
    def test_the_root_holds_only_what_the_readme_names(self):
        found: set[str] = set()
        if shutil.which("git"):  # A bare machine has none, nor anything but what was copied there.
            command = ["git", "ls-files", "--cached", "--others", "--exclude-standard"]
            listed = subprocess.run(command, cwd=settings.ROOT, capture_output=True, text=True, check=False)
            found = {line.split("/", 1)[0] for line in listed.stdout.splitlines()}
        found = found or {each.name for each in Path(settings.ROOT).iterdir()} - {"var", ".venv", ".git"}
        readme = (Path(settings.ROOT) / "README.md").read_text()
        tree = readme.split("## Where things live", 1)[1]
        unnamed = [name for name in sorted(found) if name not in tree and f"{name}/" not in tree]
        self.assertEqual(unnamed, ["README.md"])

    def test_what_runs_imports_only_what_the_requirements_name(self):
        """What is needed to draw the demo, to test, or to measure is not needed to run."""
        own = {"stillpage", "stillpage_core", "standins", "demo", "ops", "bench"}
        folders = ("stillpage", "stillpage_core", "standins", "demo")
        files = [file for folder in folders for file in (settings.ROOT / folder).rglob("*.py")]
        files = [file for file in files if "drawing" not in file.parts]
        ops = ("start", "install", "mariadb", "processes", "common", "front", "gunicorn_conf", "prove", "bare", "test")
        files += [settings.ROOT / "ops" / f"{name}.py" for name in ops]
        allowed = self.provided() | own | set(sys.stdlib_module_names)
        unknown = {
            f"{file.relative_to(settings.ROOT)}: {name}"
            for file in files
            for name in imported(file)
            if name not in allowed
        }
        self.assertEqual(unknown, set())

    def provided(self):
        """The modules of the packages in requirements.txt, and of those that they need."""
        waiting = [
            re.split(r"[=<>\[; ]", line)[0]
            for line in (settings.ROOT / "requirements.txt").read_text().splitlines()
            if line and line[0] not in "#-"
        ]
        packages = set()
        while waiting:
            name = re.sub(r"[-_.]+", "-", waiting.pop()).lower()
            if name in packages:
                continue
            packages.add(name)
            try:
                needs = metadata.requires(name) or []
            except metadata.PackageNotFoundError:
                continue
            waiting += [re.split(r"[=<>!~\[;( ]", each)[0] for each in needs if "extra ==" not in each]
        found = metadata.packages_distributions()
        return {
            module
            for module, owners in found.items()
            if any(re.sub(r"[-_.]+", "-", owner).lower() in packages for owner in owners)
        }


def imported(file):
    """The first names of all modules that a file imports, wherever in it."""
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            yield from (alias.name.split(".")[0] for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.level == 0 and node.module:
            yield node.module.split(".")[0]
