"""A bad line between somebody and a running copy: it loses answers, doubles requests, delays them, cuts them."""

from __future__ import annotations

import contextlib
import http.client
import random
import threading
import time
from collections import Counter
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

FATES = {
    "through": 12,
    "never arrived": 1,
    "answer lost": 1,
    "answer cut": 1,
    "request cut": 1,
    "late": 1,
    "doubled": 1,
    "doubled late": 1,
}
"""What becomes of a request, and how often for each that goes through in peace."""
LATE = 2.0
"""Seconds that a request may be late, at most."""
PASSED_ON = ("connection", "keep-alive", "transfer-encoding", "content-length", "date", "server")


class BadLine:
    """A proxy before a port of loopback; ``told`` counts what became of the requests. It can be ``good`` for a time."""

    def __init__(self, port: int, seed: int = 0) -> None:
        self.to = port
        self.good = False
        self.told: Counter[str] = Counter()
        self._dice = random.Random(seed)
        self._lock = threading.Lock()
        self.server = ThreadingHTTPServer(("127.0.0.1", 0), type("Handler", (_Handler,), {"line": self}))
        self.server.daemon_threads = True
        self.port = self.server.server_address[1]

    def __enter__(self) -> BadLine:
        threading.Thread(target=self.server.serve_forever, daemon=True).start()
        return self

    def __exit__(self, *_: object) -> None:
        self.server.shutdown()
        self.server.server_close()

    def fate(self, method: str) -> tuple[str, float]:
        """What becomes of the next request, and by how much of the whole. Only what changes something is doubled or
        lost: the rest is asked for again by everybody."""
        with self._lock:
            fate = self._dice.choices([*FATES], [*FATES.values()])[0]
            if self.good or method in ("GET", "HEAD"):
                fate = "through"
            self.told[fate] += 1
            return fate, self._dice.random()

    def forward(self, asked: BaseHTTPRequestHandler, body: bytes) -> tuple[http.client.HTTPResponse, bytes]:
        """The answer of who stands behind."""
        behind = http.client.HTTPConnection("127.0.0.1", self.to, timeout=120)
        try:
            kept = {name: value for name, value in asked.headers.items() if name.lower() not in PASSED_ON}
            behind.request(asked.command, asked.path, body or None, kept)
            answer = behind.getresponse()
            return answer, answer.read()
        finally:
            behind.close()

    def cut_off(self, asked: BaseHTTPRequestHandler, body: bytes, part: float) -> None:
        """Send a part of a request, and hang up."""
        behind = http.client.HTTPConnection("127.0.0.1", self.to, timeout=120)
        with contextlib.closing(behind):
            behind.putrequest(asked.command, asked.path, skip_host=True, skip_accept_encoding=True)
            for name, value in asked.headers.items():
                if name.lower() not in PASSED_ON:
                    behind.putheader(name, value)
            behind.putheader("Content-Length", str(len(body)))
            behind.endheaders(body[: int(len(body) * part)])


class _Handler(BaseHTTPRequestHandler):
    """One request and what becomes of it."""

    protocol_version = "HTTP/1.1"
    server_version = "line"

    line: BadLine

    def handle_any(self) -> None:
        body = self.rfile.read(int(self.headers.get("Content-Length") or 0))
        fate, part = self.line.fate(self.command)
        with contextlib.suppress(OSError, http.client.HTTPException):
            if self._meet(fate, part, body):
                return
        self.close_connection = True

    do_GET = do_HEAD = do_POST = do_PUT = do_PATCH = do_DELETE = handle_any  # noqa: N815 - the names of the library

    def _meet(self, fate: str, part: float, body: bytes) -> bool:
        """Do to the request what is its fate; whether it was answered."""
        if fate == "never arrived":
            return False
        if fate == "request cut":
            self.line.cut_off(self, body, part)
            return False
        if fate == "late":
            time.sleep(LATE * part)
        if fate == "doubled":
            self.line.forward(self, body)
        answer, data = self.line.forward(self, body)
        if fate == "doubled late":
            threading.Timer(LATE * part, self._again, (body,)).start()
        if fate == "answer lost":
            return False
        self.send_response(answer.status)
        for name, value in answer.getheaders():
            if name.lower() not in PASSED_ON:
                self.send_header(name, value)
        self.send_header("Content-Length", answer.headers.get("Content-Length", str(len(data))))
        self.end_headers()
        self.wfile.write(data[: int(len(data) * part)] if fate == "answer cut" else data)
        return fate != "answer cut"

    def _again(self, body: bytes) -> None:
        with contextlib.suppress(OSError, http.client.HTTPException):
            self.line.forward(self, body)

    def log_message(self, *_: Any) -> None:
        pass
