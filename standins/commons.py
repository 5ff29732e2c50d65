"""A commons of freely licensed pictures: python -m standins.commons PORT.

``GET /search?q=&page=`` and ``GET /pictures/ID`` answer JSON, ``GET /files/NAME`` and ``GET /previews/NAME`` the
pictures. ``GET /`` shows what there is, and how it behaves; ``POST /behave`` with ``as=well``, ``slow``, ``refusing``,
``vanished`` or ``broken`` changes that, so that each way of failing can be seen.
"""

from __future__ import annotations

import io
import json
import sys
import time
from functools import cache
from html import escape
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any
from urllib.parse import parse_qs, unquote, urlsplit

from PIL import Image

FOLDER = Path(__file__).parent / "commons"
NAME = "Fieldgate Commons"
PAGE = 12
MODES = {
    "well": "answers at once",
    "slow": "lets everybody wait for 30 seconds",
    "refusing": "answers 403 to everything",
    "vanished": "breaks every connection off",
    "broken": "sends half of each file, and JSON that is none",
}


@cache
def catalogue() -> list[dict[str, Any]]:
    """Every picture, as `commons/catalogue.json` describes it."""
    found: list[dict[str, Any]] = json.loads((FOLDER / "catalogue.json").read_text(encoding="utf-8"))
    return found


@cache
def small(name: str) -> bytes:
    """A picture 320 pixels wide, as JPEG."""
    with Image.open(FOLDER / name) as picture:
        picture.thumbnail((320, 320))
        out = io.BytesIO()
        picture.convert("RGB").save(out, "JPEG", quality=78)
        return out.getvalue()


class Commons(BaseHTTPRequestHandler):
    """One request. ``mode`` belongs to the server."""

    protocol_version = "HTTP/1.1"
    server: CommonsServer

    def do_GET(self) -> None:
        parts = urlsplit(self.path)
        if parts.path == "/":
            self._send(200, "text/html; charset=utf-8", self._front().encode())
            return
        if not self._behaved():
            return
        names = {each["file"] for each in catalogue()}
        kind, _, rest = parts.path[1:].partition("/")
        name = unquote(rest)
        if kind == "search":
            self._json(self._found(parse_qs(parts.query)))
        elif kind == "pictures" and (one := next((each for each in catalogue() if each["id"] == name), None)):
            self._json(self._with_addresses(one))
        elif kind == "files" and name in names:
            self._send(200, "image/jpeg", (FOLDER / name).read_bytes())
        elif kind == "previews" and name in names:
            self._send(200, "image/jpeg", small(name))
        else:
            self._send(404, "text/plain", b"There is no such picture.")

    def do_POST(self) -> None:
        given = parse_qs(self.rfile.read(int(self.headers.get("Content-Length", "0"))).decode())
        mode = given.get("as", [""])[0]
        if self.path != "/behave" or mode not in MODES:
            self._send(404, "text/plain", b"It can behave as: " + ", ".join(MODES).encode())
            return
        self.server.mode = mode
        self.send_response(303)
        self.send_header("Location", "/")
        self.send_header("Content-Length", "0")
        self.end_headers()

    def _behaved(self) -> bool:
        mode = self.server.mode
        if mode == "slow":
            self.server.asleep(30)
        elif mode == "refusing":
            self._send(403, "text/plain", b"Not for you.")
        elif mode == "vanished":
            self.close_connection = True
            self.connection.close()
        return mode in ("well", "slow", "broken")

    def _found(self, query: dict[str, list[str]]) -> dict[str, Any]:
        words = query.get("q", [""])[0].casefold().split()
        page = int((query.get("page", ["1"])[0] or "1") if query.get("page", ["1"])[0].isdigit() else 1)
        fitting = [
            each
            for each in catalogue()
            if all(word in f"{each['title']} {each['alt']} {each['author']}".casefold() for word in words)
        ]
        start = (page - 1) * PAGE
        shown = [self._with_addresses(each) for each in fitting[start : start + PAGE]]
        return {"pictures": shown, "more": start + PAGE < len(fitting)}

    def _with_addresses(self, each: dict[str, Any]) -> dict[str, Any]:
        here = f"http://{self.headers.get('Host', '')}"
        return {**each, "file": f"{here}/files/{each['file']}", "preview": f"{here}/previews/{each['file']}"}

    def _json(self, value: Any) -> None:
        data = json.dumps(value).encode()
        self._send(
            200, "application/json", data[: len(data) // 2] if self.server.mode == "broken" else data, whole=True
        )

    def _send(self, status: int, kind: str, data: bytes, *, whole: bool = False) -> None:
        self.send_response(status)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(data)))
        self.end_headers()
        half = self.server.mode == "broken" and kind == "image/jpeg" and not whole
        self.wfile.write(data[: len(data) // 2] if half else data)
        if half:
            self.close_connection = True
            self.connection.close()

    def _front(self) -> str:
        modes = "".join(
            f'<p><button name="as" value="{mode}"{" disabled" if mode == self.server.mode else ""}>'
            f"{escape(mode)}</button> {escape(says)}</p>"
            for mode, says in MODES.items()
        )
        return (
            f'<!DOCTYPE html><html lang="en"><title>{NAME}</title><h1>{NAME}</h1><p>An invented commons with '
            f"{len(catalogue())} pictures, for trying things out. It behaves: <b>{self.server.mode}</b>.</p>"
            f'<form method="post" action="/behave">{modes}</form></html>'
        )

    def log_message(self, *_: Any) -> None:
        return


class CommonsServer(ThreadingHTTPServer):
    """The service. ``mode`` is one of `MODES`."""

    daemon_threads = True

    def __init__(self, port: int) -> None:
        super().__init__(("127.0.0.1", port), Commons)
        self.mode = "well"

    def handle_error(self, *_: Any) -> None:
        """Who breaks off is nothing to tell of."""

    def asleep(self, seconds: float) -> None:
        """Wait, but no longer than the mode stays."""
        end = time.monotonic() + seconds
        while self.mode == "slow" and time.monotonic() < end:
            time.sleep(0.05)


if __name__ == "__main__":
    CommonsServer(int(sys.argv[1]) if len(sys.argv) > 1 else 8411).serve_forever()
