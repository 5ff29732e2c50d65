"""An upload of 1 GB beside a plain copy through a server: python -m bench.uploading.

The upload is sent as the interface sends it, in pieces, to a copy of the application of its own, through its front; the
plain copy is sent in pieces of the same size to a few lines of WSGI under the same server program, which write what
comes to a file. By turns. Memory is that of the application's processes before and at their largest meanwhile.
"""

from __future__ import annotations

import http.client
import json
import os
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import urllib.request
from pathlib import Path

from ops.common import PYTHON, Stop, guarded, wait_until
from ops.processes import Child
from ops.trial import Copy, a_free_port

from .common import SMALL, a_copy, aim

SIZE = (32 if SMALL else 1024) * 1024 * 1024
PIECE = 8 * 1024 * 1024
COPY_PORT = a_free_port()
ROUNDS = 1 if SMALL else 3

COPY = """
def application(environ, start_response):
    with open({place!r}, "ab") as file:
        while piece := environ["wsgi.input"].read(1024 * 1024):
            file.write(piece)
    start_response("200 OK", [("Content-Length", "2")])
    return [b"ok"]
"""


def pieces(seed: int) -> list[bytes]:
    """1 GB that is a PDF at both ends, as pieces; never the same bytes twice."""
    block = os.urandom(PIECE)
    count = SIZE // PIECE
    middle = [block] * (count - 2)
    head = b"%PDF-1.4\n% " + str(seed).encode() + os.urandom(16) + b"\n"
    return [head + block[len(head) :], *middle, block[:-6] + b"\n%%EOF"]


class Session:
    """Somebody signed in, over one connection that stays open."""

    def __init__(self, copy: Copy) -> None:
        found = copy.visitor().sign_in("maud").cookies
        self.headers = {
            "Cookie": "; ".join(f"{name}={value}" for name, value in found.items()),
            "X-CSRFToken": found["csrftoken"],
        }
        self.connection = http.client.HTTPConnection("localhost", copy.port, timeout=120)

    def call(self, method: str, path: str, body: bytes | None = None, kind: str = "application/json") -> dict:
        """Ask and read the answer."""
        self.connection.request(method, f"/api{path}", body, {**self.headers, "Content-Type": kind})
        answer = self.connection.getresponse()
        data = answer.read()
        if answer.status >= 300:
            raise Stop(f"{method} {path} answers {answer.status}: {data[:300]!r}")
        return json.loads(data) if data else {}


def upload(session: Session, parts: list[bytes]) -> float:
    """Send a file as the interface does; returns seconds. The item is removed again."""
    begun = time.perf_counter()
    asked = json.dumps({"name": "bench.pdf", "size": SIZE, "stamp": str(time.time_ns())}).encode()
    made = session.call("POST", "/uploads", asked)
    start = 0
    for part in parts:
        session.call("PUT", f"/uploads/{made['id']}?start={start}", part, "application/octet-stream")
        start += len(part)
    item = session.call("POST", f"/uploads/{made['id']}")
    took = time.perf_counter() - begun
    session.call("POST", "/library/act", json.dumps({"act": "bin", "items": [item["id"]]}).encode())
    session.call("POST", "/library/remove", json.dumps({"items": [item["id"]]}).encode())
    return took


def copy(parts: list[bytes], place: Path) -> float:
    """Send the same pieces to the plain copy; returns seconds."""
    place.unlink(missing_ok=True)
    begun = time.perf_counter()
    connection = http.client.HTTPConnection("127.0.0.1", COPY_PORT, timeout=120)
    for part in parts:
        connection.request("PUT", "/", part)
        connection.getresponse().read()
    took = time.perf_counter() - begun
    if place.stat().st_size != SIZE:
        raise Stop("The copy is not whole.")
    place.unlink()
    return took


def memory(running: Copy) -> int:
    """Resident memory of the application's servers together, in MB."""
    assert running.process is not None
    parents = ["pgrep", "-d,", "-P", str(running.process.pid), "-f", "gunicorn"]
    masters = subprocess.run(parents, capture_output=True, text=True, check=False).stdout.strip()
    found = subprocess.run(["pgrep", "-P", masters], capture_output=True, text=True, check=False)
    total = 0
    for number in found.stdout.split():
        status = Path(f"/proc/{number}/status")
        if status.exists() and (
            line := next((each for each in status.read_text().splitlines() if each.startswith("VmRSS")), "")
        ):
            total += int(line.split()[1]) // 1024
    return total


def main() -> int:
    """Measure and print."""
    with a_copy() as running, tempfile.TemporaryDirectory(prefix="stillpage-bench-") as folder:
        session = Session(running)
        place = Path(folder) / "copy"
        (Path(folder) / "plain.py").write_text(COPY.format(place=str(place)))
        options = ["--bind", f"127.0.0.1:{COPY_PORT}", "--workers", "2", "--threads", "4", "--worker-class", "gthread"]
        server = Child(
            [
                PYTHON,
                "-m",
                "gunicorn",
                *options,
                "--keep-alive",
                "30",
                "--chdir",
                folder,
                "--log-level",
                "error",
                "plain",
            ]
        )
        try:
            wait_until(_answers, "the plain server", server.signs)
            place.unlink(missing_ok=True)
            before = memory(running)
            largest = [before]
            done = threading.Event()

            def watch() -> None:
                while not done.wait(0.1):
                    largest.append(memory(running))

            threading.Thread(target=watch, daemon=True).start()
            pairs = []
            for seed in range(ROUNDS):
                parts = pieces(seed)
                pairs.append((upload(session, parts), copy(parts, place)))
            done.set()
        finally:
            server.stop()
    megabytes = SIZE / 1024 / 1024
    for ours, plain in pairs:
        print(f"upload {megabytes / ours:6.0f} MB/s   copy {megabytes / plain:6.0f} MB/s   ratio {plain / ours:.2f}")
    print(f"memory before {before} MB, at most {max(largest)} MB")
    aim("an upload beside a plain copy", statistics.median(plain / ours for ours, plain in pairs), least=0.5)
    aim("memory taken meanwhile, in MB,", max(largest) - before, most=100)
    return 0


def _answers() -> bool:
    try:
        urllib.request.urlopen(f"http://127.0.0.1:{COPY_PORT}/", timeout=2)
    except OSError:
        return False
    return True


if __name__ == "__main__":
    sys.exit(guarded(main))
