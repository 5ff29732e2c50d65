"""A commons of freely licensed pictures: python -m standins.commons PORT.

``GET /search?q=&page=`` and ``GET /pictures/ID`` answer JSON, ``GET /files/NAME`` and ``GET /previews/NAME`` the
pictures. ``GET /`` shows what there is, and how it behaves; ``POST /behave`` with ``as=well``, ``slow``, ``refusing``,
``vanished`` or ``broken`` changes that, so that each way of failing can be seen.
"""

from __future__ import annotations

import io
import json
import sys
from functools import cache
from pathlib import Path
from typing import Any
from urllib.parse import parse_qs, unquote, urlsplit

from PIL import Image

from .service import Server, Service

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


class Commons(Service):
    """One request."""

    NAME = NAME
    MODES = MODES

    def says(self) -> str:
        return f"<p>An invented commons with {len(catalogue())} pictures, for trying things out.</p>"

    def answer(self) -> None:
        parts = urlsplit(self.path)
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
            self._picture((FOLDER / name).read_bytes())
        elif kind == "previews" and name in names:
            self._picture(small(name))
        else:
            self.send(404, "text/plain", b"There is no such picture.")

    def _behaved(self) -> bool:
        mode = self.server.mode
        if mode == "slow":
            self.server.asleep(30)
        elif mode == "refusing":
            self.send(403, "text/plain", b"Not for you.")
        elif mode == "vanished":
            self.break_off()
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
        name = each["file"]
        return {**each, "file": f"{self.here}/files/{name}", "preview": f"{self.here}/previews/{name}"}

    def _json(self, value: Any) -> None:
        data = json.dumps(value).encode()
        self.send(200, "application/json", data[: len(data) // 2] if self.server.mode == "broken" else data)

    def _picture(self, data: bytes) -> None:
        """A picture, or half of one that was promised whole."""
        if self.server.mode != "broken":
            self.send(200, "image/jpeg", data)
            return
        self.send(200, "image/jpeg", data[: len(data) // 2], {"Content-Length": str(len(data))})
        self.break_off()


class CommonsServer(Server):
    """The service."""

    def __init__(self, port: int) -> None:
        super().__init__(port, Commons)


if __name__ == "__main__":
    CommonsServer(int(sys.argv[1]) if len(sys.argv) > 1 else 8411).serve_forever()
