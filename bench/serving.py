"""Requests per second of a published page beside the same bytes served as a static file by the same server.

    ./start                      (in another terminal)
    python -m bench.serving      needs `wrk` (Debian's package of that name)

A second application server is started on a port of its own over the same database. The two addresses are loaded in
turn, A B A B …; the ratio is taken pair by pair, since the speed of a shared machine drifts.
"""

from __future__ import annotations

import gzip
import os
import re
import shutil
import statistics
import subprocess
import sys
import urllib.request

from ops.common import PYTHON, ROOT, Stop, guarded, var, wait_until
from ops.processes import Child

PORT = 8490
PATH = "/visit/towpath-walks"
HOST = "canal.localhost"
ROUNDS = 7
SECONDS = 3


def get(path: str, host: str, **headers: str) -> bytes:
    """The bytes of one answer, as they are sent."""
    request = urllib.request.Request(f"http://127.0.0.1:{PORT}{path}", headers={"Host": host, **headers})
    with urllib.request.urlopen(request, timeout=5) as answer:
        return bytes(answer.read())


def rate(path: str, host: str) -> float:
    """Requests per second over some seconds, with 4 connections that stay open."""
    command = ["wrk", "-t1", "-c4", f"-d{SECONDS}s", "-H", f"Host: {host}", "-H", "Accept-Encoding: gzip"]
    done = subprocess.run([*command, f"http://127.0.0.1:{PORT}{path}"], capture_output=True, text=True, check=True)
    if "Non-2xx" in done.stdout:
        raise Stop(f"The server answered with errors: {done.stdout}")
    return float(re.search(r"Requests/sec:\s+([\d.]+)", done.stdout)[1])  # type: ignore[index]


def main() -> int:
    """Measure and print."""
    if not shutil.which("wrk"):
        raise Stop("The program wrk is missing: apt-get install wrk.")
    folder = var()
    socket = folder / "mariadb.sock"
    if not socket.exists():
        raise Stop("Start ./start first: the benchmark uses its database.")
    environment = {"STILLPAGE_PORT": str(PORT), "STILLPAGE_VAR": str(folder), "STILLPAGE_DB_SOCKET": str(socket)}
    os.environ |= environment
    place = folder / "static" / "bench" / "page.html"
    server: Child | None = None
    try:
        page = subprocess.run(
            [PYTHON, "manage.py", "shell", "-v0", "-c", _PRINT_PAGE], cwd=ROOT, capture_output=True, check=True
        ).stdout
        place.parent.mkdir(exist_ok=True)
        place.write_bytes(page)
        place.with_suffix(".html.gz").write_bytes(gzip.compress(page, 9, mtime=0))
        server = Child([PYTHON, "-m", "gunicorn", "--config", ROOT / "ops" / "gunicorn_conf.py", "stillpage.wsgi"])
        wait_until(_answers, 20, "The server did not start.")
        if get(PATH, HOST) != get("/static/bench/page.html", HOST):
            raise Stop("The two addresses do not give the same bytes.")
        rate(PATH, HOST), rate("/static/bench/page.html", HOST)
        pairs = [(rate(PATH, HOST), rate("/static/bench/page.html", HOST)) for _ in range(ROUNDS)]
    finally:
        if server:
            server.stop()
        shutil.rmtree(place.parent, ignore_errors=True)
    ratios = sorted(page / static for page, static in pairs)
    print(f"{len(page)} bytes, {ROUNDS} rounds of {SECONDS} s, {os.cpu_count()} processors")
    print(f"page          {statistics.median(page for page, _ in pairs):8.0f} requests/s (median)")
    print(f"static file   {statistics.median(static for _, static in pairs):8.0f} requests/s (median)")
    print(f"ratio         {statistics.median(ratios):8.2f} median, {ratios[0]:.2f} to {ratios[-1]:.2f}")
    return 0


_PRINT_PAGE = f"""
import sys
from stillpage.publishing.models import LiveCopy
sys.stdout.buffer.write(bytes(LiveCopy.objects.get(address="{HOST}{PATH}").html))
"""


def _answers() -> bool:
    try:
        return bool(get(PATH, HOST))
    except OSError:
        return False


if __name__ == "__main__":
    sys.exit(guarded(main))
