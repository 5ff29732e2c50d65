"""A copy of the whole application as `./start` brings it up, on ports and over a folder of its own: for tests and
benchmarks that need the real processes. It goes without a trace."""

from __future__ import annotations

import fcntl
import http.client
import http.cookies
import json
import os
import random
import shutil
import signal
import socket
import subprocess
import tempfile
import threading
import time
from contextlib import suppress
from pathlib import Path
from typing import Any

from .common import PYTHON, ROOT, var
from .start import PORTS

HANGS = 180  # Seconds. A bound against hanging, not a measure of speed: other tests run beside these.
READY = "Ctrl-C"
DEMO = "still-water-14"
LAID_BY = "STILLPAGE_TRIAL_DATA"
"""Names a folder in which the first copy lays by the data that the demo begins with, for the others of one run of the
tests. Where there is none, each makes its own."""


_given: set[int] = set()


def a_free_port() -> int:
    """A port of loopback on which nobody listens, another each time: below those that Linux gives to whoever calls out
    (32768 to 60999), who might have it by the time that it is needed."""
    while True:
        port = random.SystemRandom().randrange(20_000, 32_000)
        with socket.socket() as probe, suppress(OSError):
            if port not in _given:
                probe.bind(("127.0.0.1", port))
                _given.add(port)
                return port


def _copied(data: Path, to: Path) -> None:
    """What one copy keeps, but for what is of its processes, for another; everything belongs to whom it did."""
    to.mkdir(exist_ok=True)
    names = [each for each in data.iterdir() if each.name not in ("front", "run", "mariadb.run", "mariadb.log")]
    subprocess.run(["cp", "-a", *names, to], check=True)


class Copy:
    """The application, running over a folder of its own. ``lines`` is what it said until it was up, ``later`` what it
    has said since."""

    def __init__(self, **env: str) -> None:
        self.folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        Path(self.folder.name).chmod(0o755)
        self.var = Path(self.folder.name) / "var"
        self.port = a_free_port()
        ports = {"STILLPAGE_PORT": self.port}
        ports |= {name: a_free_port() for name in PORTS[1:]}
        kept = {name: value for name, value in os.environ.items() if not name.startswith("STILLPAGE_")}
        self.env = {**kept, **{name: str(port) for name, port in ports.items()}, "STILLPAGE_VAR": str(self.var)}
        # Nothing is made in the background unless that is what is tried: it takes most of the machine.
        self.env |= {"STILLPAGE_TASKS": "django_tasks.backends.dummy.DummyBackend", **env}
        # Gathered for the tests already; it is the same for everybody.
        if (var() / "static").exists():
            shutil.copytree(var() / "static", self.var / "static")
        self.lines: list[str] = []
        self.later: list[str] = []
        self.process: subprocess.Popen[str] | None = None

    @classmethod
    def there(cls, port: int) -> Copy:
        """A handle on a copy that somebody else has started and will stop; it can be asked, and nothing else."""
        copy = cls.__new__(cls)
        copy.port, copy.process, copy.lines, copy.later = port, None, [], []
        return copy

    def start(self, *arguments: str) -> Copy:
        """`./start`, until it says that it is up."""
        if not arguments and not (self.var / "mariadb").exists() and (kept := os.environ.get(LAID_BY)):
            self._take(Path(kept))
            self._begin()
            # Pages tell their own address, which has another port here.
            self.shell("from stillpage.publishing import freshness; freshness.bring_all_up()")
            return self
        return self._begin(*arguments)

    def _take(self, kept: Path) -> None:
        """Begin with the data that the demo has at first, as another copy has laid it by, or lay it by for the next."""
        kept.mkdir(exist_ok=True)
        data = kept / "var"
        with (kept / "lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            if not data.exists():
                first = Copy()
                try:
                    first._begin().stop()
                    _copied(first.var, kept / "half")
                    (kept / "half").rename(data)
                finally:
                    first.close()
        _copied(data, self.var)

    def _begin(self, *arguments: str) -> Copy:
        self.lines, self.later = [], []
        self.process = subprocess.Popen(
            ["./start", *arguments],
            cwd=ROOT,
            env=self.env,
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
        )
        assert self.process.stdout is not None
        for line in self.process.stdout:
            self.lines.append(line)
            if READY in line:
                break
        else:
            self.process.wait(HANGS)
            self.process = None
            raise AssertionError("".join(self.lines))
        # What is said from here on must be read too: who writes into a full pipe waits.
        said, later = self.process.stdout or (), self.later
        self.reader = threading.Thread(target=lambda: later.extend(said), daemon=True)
        self.reader.start()
        return self

    def stop(self) -> None:
        """Press Ctrl-C."""
        if self.process is not None:
            self.process.send_signal(signal.SIGINT)
            self.process.wait(HANGS)
            self.reader.join(HANGS)
            self.process = None

    def close(self) -> None:
        """Stop it, and remove what it kept."""
        self.stop()
        self.folder.cleanup()

    def __enter__(self) -> Copy:
        return self.start()

    def __exit__(self, *_: object) -> None:
        self.close()

    @property
    def said(self) -> str:
        """What it said until it was up."""
        return "".join(self.lines)

    def left(self) -> str:
        """What still runs that was started here."""
        return subprocess.run(["pgrep", "-f", f"{self.var}"], capture_output=True, text=True, check=False).stdout

    def child(self, command: str) -> int | None:
        """The process that was started with a command."""
        assert self.process is not None
        asked = ["pgrep", "-P", str(self.process.pid), "-f", command]
        found = subprocess.run(asked, capture_output=True, text=True, check=False)
        return int(found.stdout.split()[0]) if found.stdout else None

    def shell(self, code: str) -> str:
        """What Django says to some code, asked as the owner of the database."""
        given = {
            **self.env,
            "STILLPAGE_DB_SOCKET": str(self.var / "mariadb.run" / "socket"),
            "STILLPAGE_SECRET_KEY": "x",
        }
        command = [str(PYTHON), "manage.py", "shell", "-v0", "-c", code]
        done = subprocess.run(command, cwd=ROOT, env=given, capture_output=True, text=True, check=False)
        assert done.returncode == 0, done.stderr
        return str(done.stdout).strip()

    def visitor(self, host: str = "localhost", door: Path | None = None) -> Visitor:
        """Somebody who asks it for things."""
        return Visitor(self, host, door)

    @staticmethod
    def wait_until(ready: Any) -> None:
        """Wait for something that has to come to pass."""
        end = time.monotonic() + HANGS
        while not ready():
            assert time.monotonic() < end, "it did not come to pass"
            time.sleep(0.1)


class Answer:
    """What was answered."""

    def __init__(self, status: int, headers: Any, body: bytes) -> None:
        self.status = status
        self.headers = headers
        self.body = body

    @property
    def json(self) -> Any:
        """What the body says, as JSON."""
        return json.loads(self.body)


class Visitor:
    """Somebody who asks a copy for things, and carries the cookies that they are given. With a ``door`` they ask one
    group of its processes, past the front; with another ``port`` they come by what stands between. A body of bytes
    goes as it is, any other as JSON."""

    def __init__(self, copy: Copy, host: str, door: Path | None) -> None:
        self.port = copy.port
        self.host = host
        self.door = door
        self.cookies: dict[str, str] = {}

    def ask(self, path: str, method: str = "GET", body: Any = None, **headers: str) -> Answer:
        if self.door is None:
            connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=HANGS)
        else:
            connection = http.client.HTTPConnection("localhost", timeout=HANGS)
            connection.sock = socket.socket(socket.AF_UNIX)
            connection.sock.connect(str(self.door))
        given = {"Host": self.host, **{name.replace("_", "-"): value for name, value in headers.items()}}
        if self.cookies:
            given["Cookie"] = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        data = None
        if body is not None:
            raw = isinstance(body, bytes)
            data = body if raw else json.dumps(body).encode()
            given["Content-Type"] = "application/octet-stream" if raw else "application/json"
            given["X-CSRFToken"] = self.cookies.get("csrftoken", "")
        try:
            connection.request(method, path, data, given)
            found = connection.getresponse()
            answer = Answer(found.status, found.headers, found.read())
        finally:
            connection.close()
        for line in answer.headers.get_all("Set-Cookie", []):
            self.cookies |= {name: one.value for name, one in http.cookies.SimpleCookie(line).items()}
        return answer

    def sign_in(self, name: str, password: str = DEMO) -> Visitor:
        """By default with the password of the demo."""
        self.ask("/api/session")
        answer = self.ask("/api/session", "POST", {"username": name, "password": password})
        assert answer.status == 200, answer.body
        return self
