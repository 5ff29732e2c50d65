"""Prove that `./start` works by itself: python3 -m ops.prove.

In a folder of its own, with nothing but what the repository holds and an environment made from `requirements.txt`
alone: `./start`, signing in, a live page, Ctrl-C. Whatever only the tests have must not be needed for that.
"""

from __future__ import annotations

import contextlib
import http.client
import http.cookies
import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from .common import ROOT, Stop, guarded, say
from .start import PORTS
from .trial import a_free_port

LONGEST = 1800
"""A bound against hanging, in seconds; no measure of speed."""
READY = "Ctrl-C stops everything"


def copy_to(folder: Path) -> None:
    """What the repository holds, as somebody gets it."""
    listed = subprocess.run(
        ["git", "ls-files", "-z", "--cached", "--others", "--exclude-standard"],
        cwd=ROOT,
        capture_output=True,
        check=True,
    ).stdout
    for name in listed.decode().split("\0"):
        if name and (ROOT / name).exists():
            target = folder / name
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / name, target, follow_symlinks=False)


class Visitor:
    """Somebody who asks for things, and carries the cookies that they are given."""

    def __init__(self, port: int, host: str) -> None:
        self.port = port
        self.host = host
        self.cookies: dict[str, str] = {}

    def ask(self, method: str, path: str, body: Any = None) -> tuple[int, bytes]:
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        headers = {"Host": self.host, "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items())}
        if body is not None:
            headers |= {"Content-Type": "application/json", "X-CSRFToken": self.cookies.get("csrftoken", "")}
        try:
            connection.request(method, path, None if body is None else json.dumps(body), headers)
            answer = connection.getresponse()
            for line in answer.headers.get_all("Set-Cookie", []):
                self.cookies |= {name: one.value for name, one in http.cookies.SimpleCookie(line).items()}
            return answer.status, answer.read()
        finally:
            connection.close()


def _try(port: int) -> None:
    wren = Visitor(port, f"localhost:{port}")
    wren.ask("GET", "/api/session")
    status, said = wren.ask("POST", "/api/session", {"username": "wren", "password": "still-water-14"})
    if status != 200 or json.loads(said)["person"]["name"] != "Wren Halloway":
        raise Stop(f"Signing in answered {status}: {said[:300]!r}")
    status, said = wren.ask("GET", "/")
    if status != 200 or b'id="app"' not in said:
        raise Stop(f"The interface answered {status}.")
    status, said = wren.ask("GET", "/api/sites")
    if status != 200 or len(json.loads(said)) != 2:
        raise Stop(f"The sites answered {status}: {said[:300]!r}")
    status, said = Visitor(port, "canal.localhost").ask("GET", "/visit/towpath-walks")
    if status != 200 or b"<h1" not in said:
        raise Stop(f"A live page answered {status}: {said[:300]!r}")


def came_up(command: Sequence[str | Path], folder: Path, env: dict[str, str], port: int) -> None:
    """Start with ``command``, sign in, read a live page, press Ctrl-C. Raises `Stop` for whatever does not work."""
    process = subprocess.Popen(
        [str(part) for part in command],
        cwd=folder,
        env=env,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        errors="replace",
    )
    end = threading.Timer(LONGEST, process.kill)
    end.start()
    try:
        lines: list[str] = []
        assert process.stdout is not None
        for line in process.stdout:
            lines.append(line)
            if READY in line:
                break
        else:
            raise Stop(f"./start ended by itself:\n{''.join(lines[-40:])}")
        threading.Thread(target=lambda said=process.stdout: lines.extend(said), daemon=True).start()
        say("It is up; signing in, and reading a live page")
        _try(port)
        process.send_signal(signal.SIGINT)
        if process.wait(120) not in (0, 1):
            raise Stop(f"./start ended with {process.returncode} on Ctrl-C:\n{''.join(lines[-20:])}")
    finally:
        end.cancel()
        if process.poll() is None:
            process.kill()


def left_over(folder: Path) -> list[str]:
    """The processes whose command names something in a folder."""
    found = []
    for place in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError):
            command = (place / "cmdline").read_bytes().replace(b"\0", b" ").decode(errors="replace")
            if f"{folder}/" in command and int(place.name) != os.getpid():
                found.append(command)
    return found


def main() -> int:
    """Copy, start, try, stop."""
    with tempfile.TemporaryDirectory(prefix="stillpage-prove-", ignore_cleanup_errors=True) as made:
        folder = Path(made) / "stillpage"
        copy_to(folder)
        # Others have a way in, so that the database can run as somebody with no other rights.
        for place in (Path(made), folder):
            place.chmod(0o755)
        ports = {name: str(a_free_port()) for name in PORTS}
        kept = {name: value for name, value in os.environ.items() if not name.startswith("STILLPAGE_")}
        say("Starting in a folder of its own, with the requirements of the application alone")
        came_up([folder / "start"], folder, {**kept, **ports}, int(ports["STILLPAGE_PORT"]))
        if left := left_over(folder):
            raise Stop(f"After Ctrl-C these still run: {'; '.join(left)}")
    say("It works by itself")
    return 0


if __name__ == "__main__":
    sys.exit(guarded(main))
