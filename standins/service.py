"""What the simulated services share: a front page that tells how each behaves and changes it, and how they answer.

``GET /`` shows what there is; ``POST /behave`` with ``as=`` one of the service's moods changes how it behaves, so that
each way of failing can be seen.
"""

from __future__ import annotations

import time
from collections import deque
from collections.abc import Mapping
from html import escape
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import parse_qs


class Service(BaseHTTPRequestHandler):
    """One request. ``NAME`` is what the service is called, ``MODES`` are its moods and what each does."""

    protocol_version = "HTTP/1.1"
    server: Server
    NAME = ""
    MODES: Mapping[str, str] = {}

    @property
    def here(self) -> str:
        """The address under which it was asked."""
        return f"http://{self.headers.get('Host', '')}"

    def do_GET(self) -> None:
        self.server.asked.append(self.path)
        if self.path == "/":
            self._front()
        else:
            self.answer()

    def says(self) -> str:
        """What the front page says of it, as HTML."""
        raise NotImplementedError

    def answer(self) -> None:
        """Answer anything but the front page, as the mood has it."""
        raise NotImplementedError

    def do_POST(self) -> None:
        given = parse_qs(self.rfile.read(int(self.headers.get("Content-Length", "0"))).decode())
        mode = given.get("as", [""])[0]
        if self.path != "/behave" or mode not in self.MODES:
            self.send(404, "text/plain", b"It can behave as: " + ", ".join(self.MODES).encode())
            return
        self.server.mode = mode
        self.send(303, "text/plain", b"", {"Location": "/"})

    def send(self, status: int, kind: str, data: bytes, more: Mapping[str, str] | None = None) -> None:
        """Answer with these bytes."""
        self.send_response(status)
        for name, value in {"Content-Type": kind, "Content-Length": str(len(data)), **(more or {})}.items():
            self.send_header(name, value)
        self.end_headers()
        self.wfile.write(data)

    def page(self, title: str, body: str, head: str = "") -> None:
        """Answer with a page."""
        text = f'<!DOCTYPE html><html lang="en"><meta charset="utf-8"><title>{escape(title)}</title>{head}{body}</html>'
        self.send(200, "text/html; charset=utf-8", text.encode())

    def _front(self) -> None:
        mode = self.server.mode
        modes = "".join(
            f'<p><button name="as" value="{each}"{" disabled" if each == mode else ""}>{escape(each)}</button> '
            f"{escape(does)}</p>"
            for each, does in self.MODES.items()
        )
        form = f'<p>It behaves: <b>{mode}</b>.</p><form method="post" action="/behave">{modes}</form>'
        self.page(self.NAME, f"<h1>{self.NAME}</h1>{self.says()}{form}")

    def break_off(self) -> None:
        """End the connection without another word."""
        self.close_connection = True
        self.connection.close()

    def log_message(self, *_: Any) -> None:
        return


class Server(ThreadingHTTPServer):
    """A service on loopback. ``mode`` is its mood; ``asked`` are the last paths that were asked for."""

    daemon_threads = True

    def __init__(self, port: int, service: type[Service]) -> None:
        super().__init__(("127.0.0.1", port), service)
        self.mode = "well"
        self.asked: deque[str] = deque(maxlen=200)

    def handle_error(self, *_: Any) -> None:
        """Who breaks off is nothing to tell of."""

    def asleep(self, seconds: float) -> None:
        """Wait, but no longer than the mode stays."""
        end = time.monotonic() + seconds
        while self.mode == "slow" and time.monotonic() < end:
            time.sleep(0.05)
