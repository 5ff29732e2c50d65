"""What readers get, beside nginx itself, and beside a busy authoring side: python -m bench.serving (needs `wrk`).

Two questions, each a ratio of numbers taken by turns, since the speed of a shared machine drifts:

- A live page through the front server, beside the same bytes as a file that an nginx with the same settings serves.
- The rate and p95 of that page while twenty authors save, paste and import, a hundred connections send a byte a second,
  and somebody sprays sign-ins; beside the same without all that. Who makes the load gives way to what is measured, as
  if it stood elsewhere.
"""

from __future__ import annotations

import gzip
import os
import random
import re
import shutil
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path
from uuid import uuid4

from ops.common import Stop, guarded
from ops.install import find
from ops.processes import Child
from ops.trial import Copy, Visitor, a_free_port

from .common import SMALL, a_copy, aim

PATH = "/visit/towpath-walks"
HOST = "canal.localhost"
ROUNDS, SECONDS = (2, 1) if SMALL else (5, 5)
AUTHORS, SLOW = (4, 20) if SMALL else (20, 100)
REPORT = """
done = function(summary, latency, requests)
  io.write(string.format("RATE %f P95 %f BAD %d\\n", summary.requests / summary.duration * 1e6,
    latency:percentile(95) / 1000, summary.errors.status + summary.errors.connect + summary.errors.read))
end
"""
BARE = """
daemon off;
{user}
worker_processes {workers};
pid {folder}/pid;
error_log stderr emerg;
events {{ worker_connections 4096; }}
http {{
  access_log off;
  sendfile on;
  tcp_nopush on;
  keepalive_requests 100000;
  gzip_static on;
  default_type text/html;
  client_body_temp_path {folder}/t; proxy_temp_path {folder}/t; fastcgi_temp_path {folder}/t;
  uwsgi_temp_path {folder}/t; scgi_temp_path {folder}/t;
  server {{ listen 127.0.0.1:{port}; root {folder}/files; location / {{ try_files $uri $uri.html =404; }} }}
}}
"""
WORDS = "canal lock gate water towpath boat bridge morning winter warden paddle beam wharf meadow reed narrow".split()


def measured(port: int, path: str, connections: int, script: Path) -> tuple[float, float]:
    """Requests a second, and p95 in ms, over connections that stay open."""
    # Who measures stands elsewhere in life, and has a processor there.
    command = ["nice", "-n", "-5", "wrk"] if os.geteuid() == 0 else ["wrk"]
    command += ["-t1", f"-c{connections}", f"-d{SECONDS}s", "-s", script]
    command += ["-H", f"Host: {HOST}", "-H", "Accept-Encoding: gzip", f"http://127.0.0.1:{port}{path}"]
    done = subprocess.run([str(each) for each in command], capture_output=True, text=True, check=True)
    found = re.search(r"RATE ([\d.]+) P95 ([\d.]+) BAD (\d+)", done.stdout)
    if found is None or int(found[3]):
        raise Stop(f"The server answered with errors: {done.stdout}")
    return float(found[1]), float(found[2])


def beside_nginx(copy: Copy, folder: Path, script: Path) -> None:
    """The first question."""
    page = copy.visitor(HOST).ask(PATH).body
    port = a_free_port()
    file = folder / "files" / f"{PATH.strip('/')}.html"
    file.parent.mkdir(parents=True)
    file.write_bytes(page)
    file.with_name(file.name + ".gz").write_bytes(gzip.compress(page, 9, mtime=0))
    user = "user root;" if os.geteuid() == 0 else ""
    workers = min(4, os.cpu_count() or 1)
    (folder / "conf").write_text(BARE.format(user=user, workers=workers, folder=folder, port=port))
    server = Child([str(find("nginx")), "-p", f"{folder}/", "-e", "stderr", "-c", folder / "conf"])
    try:
        copy.wait_until(lambda: _answers(port))
        measured(copy.port, PATH, 16, script), measured(port, PATH, 16, script)
        pairs = [(measured(copy.port, PATH, 16, script)[0], measured(port, PATH, 16, script)[0]) for _ in range(ROUNDS)]
    finally:
        server.stop()
    print(f"live page, {len(page)} bytes  {statistics.median(page for page, _ in pairs):9.0f} requests/s (median)")
    print(f"nginx, the same bytes  {statistics.median(file for _, file in pairs):9.0f} requests/s (median)")
    aim("a live page beside the same bytes from nginx", statistics.median(p / f for p, f in pairs), least=0.5)


def _answers(port: int) -> bool:
    try:
        socket.create_connection(("127.0.0.1", port), 1).close()
    except OSError:
        return False
    return True


class Busy:
    """Authors at work, slow connections, and a spray of sign-ins."""

    def __init__(self, copy: Copy) -> None:
        self.copy = copy
        self.over = threading.Event()
        self.done: dict[str, int] = {}
        self.pages: list[int] = []
        self.authors: list[Visitor] = []

    def prepare(self) -> None:
        """A page for each author."""
        wren = self.copy.visitor().sign_in("wren")
        site = wren.ask("/api/sites").json[0]["id"]
        self.site = site
        for number in range(AUTHORS):
            made = wren.ask(f"/api/sites/{site}/pages", "POST", {"title": f"Written at {number}"})
            self.pages.append(made.json["id"])
            self.authors.append(self.copy.visitor().sign_in("wren" if number % 2 else "tobias"))

    def _count(self, what: str, status: int) -> None:
        self.done[f"{what} {status}"] = self.done.get(f"{what} {status}", 0) + 1

    def author(self, number: int) -> None:
        """Writes without a pause: saves, tells where, and has it checked every three seconds, pastes every third time,
        imports every tenth."""
        chance = random.Random(number)
        me = self.authors[number]
        turn = chance.randrange(30)
        window = uuid4()
        base = me.ask(f"/api/pages/{self.pages[number]}").json["working_copy"]["revision"]
        while not self.over.wait(chance.uniform(2, 4)):
            turn += 1
            text = " ".join(chance.choices(WORDS, k=400))
            blocks = [{"type": "paragraph", "content": [{"type": "text", "text": text}]}] * 8
            body = {"title": f"Written at {number}", "description": "", "document": {"type": "doc", "content": blocks}}
            here = f"/api/pages/{self.pages[number]}"
            saved = me.ask(f"{here}/working-copy", "PUT", {**body, "base": base})
            base = saved.json.get("revision", base)
            self._count("saved", saved.status)
            given = {"window": str(window), "block": turn % 8}
            self._count("told where", me.ask(f"{here}/writing", "POST", given).status)
            self._count("checked", me.ask(f"{here}/check", "POST", body).status)
            if turn % 3 == 0:
                html = "".join(f"<h2>Section</h2><p>{text}</p><ul><li>{text}</ul>" for _ in range(10))
                given = {"container": "region", "under": 1, "taken": [], "html": html}
                self._count("pasted", me.ask("/api/paste", "POST", given).status)
            if turn % 10 == 0:
                self._count("imported", _imported(me, self.site, f"# Page {number}\n\n{text}\n\n- a\n- b\n"))

    def slow(self) -> None:
        """A hundred connections that send a byte a second."""
        held = [socket.create_connection(("127.0.0.1", self.copy.port)) for _ in range(SLOW)]
        line = f"GET {PATH} HTTP/1.1\r\nHost: {HOST}\r\nX-Slow: {'a' * 600}".encode()
        place = 0
        while not self.over.wait(1):
            for one in held:
                try:
                    one.sendall(line[place : place + 1])
                except OSError:
                    self._count("slow connection closed", 0)
            place += 1
        for one in held:
            one.close()

    def spray(self) -> None:
        """Twenty sign-ins a second, under ever other names."""
        me = self.copy.visitor()
        me.ask("/api/session")
        number = 0
        while not self.over.wait(0.05):
            number += 1
            body = {"username": f"name{number}", "password": "Summer2026!"}
            self._count("sign-in", me.ask("/api/session", "POST", body).status)


def _imported(me: Visitor, site: int, text: str) -> int:
    import http.client  # noqa: PLC0415 - only here a form is sent

    edge = "----edge"
    parts = f'--{edge}\r\nContent-Disposition: form-data; name="files"; filename="a.md"\r\n\r\n{text}\r\n--{edge}--\r\n'
    connection = http.client.HTTPConnection("127.0.0.1", me.port, timeout=120)
    headers = {
        "Host": "localhost",
        "Content-Type": f"multipart/form-data; boundary={edge}",
        "Cookie": "; ".join(f"{name}={value}" for name, value in me.cookies.items()),
        "X-CSRFToken": me.cookies["csrftoken"],
    }
    connection.request("POST", f"/api/sites/{site}/import", parts.encode(), headers)
    answer = connection.getresponse()
    answer.read()
    connection.close()
    return answer.status


def beside_authors(copy: Copy, script: Path) -> None:
    """The second question. Quiet and busy by turns."""
    busy = Busy(copy)
    busy.prepare()
    quiet: list[tuple[float, float]] = []
    loaded: list[tuple[float, float]] = []
    measured(copy.port, PATH, 8, script)
    for _ in range(ROUNDS):
        quiet.append(measured(copy.port, PATH, 8, script))
        busy.over.clear()
        acts = [lambda number=number: busy.author(number) for number in range(AUTHORS)]
        threads = [threading.Thread(target=_nicely, args=(act,)) for act in [*acts, busy.slow, busy.spray]]
        for each in threads:
            each.start()
        time.sleep(2 if SMALL else 4)
        loaded.append(measured(copy.port, PATH, 8, script))
        busy.over.set()
        for each in threads:
            each.join()
    for name, found in (("quiet", quiet), ("busy", loaded)):
        rate, p95 = (statistics.median(each[place] for each in found) for place in (0, 1))
        print(f"{name:6} {rate:9.0f} requests/s, p95 {p95:6.2f} ms (medians of {ROUNDS} rounds)")
    print(f"meanwhile: {', '.join(f'{count} {what}' for what, count in sorted(busy.done.items()))}")
    pairs = list(zip(quiet, loaded, strict=True))
    aim("rate, busy to quiet", statistics.median(b[0] / q[0] for q, b in pairs), least=0.8)
    aim("p95, busy to quiet", statistics.median(b[1] / q[1] for q, b in pairs), most=1.5)


def _nicely(act: object) -> None:
    assert callable(act)
    os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), 19)
    act()


def main() -> int:
    """Measure and print."""
    if not shutil.which("wrk"):
        raise Stop("The program wrk is missing: apt-get install wrk.")
    with a_copy() as copy, tempfile.TemporaryDirectory(prefix="stillpage-bench-") as made:
        folder = Path(made)
        folder.chmod(0o755)
        script = folder / "report.lua"
        script.write_text(REPORT)
        beside_nginx(copy, folder, script)
        beside_authors(copy, script)
    return 0


if __name__ == "__main__":
    sys.exit(guarded(main))
