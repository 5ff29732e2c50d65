"""A host of films: python -m standins.films PORT.

``GET /watch/ID`` is the page of a film, with where its oEmbed is and the code to paste; ``GET /oembed?url=…`` answers
JSON or XML (oEmbed 1.0, https://oembed.com); ``GET /play/ID`` is its player, to be framed, which honours ``t`` (from
which second on), ``cc=1``, ``m=1``, ``loop=1`` and ``begin=1``; ``GET /covers/ID.jpg`` and ``GET /files/ID.mp4`` are
what it says. ``GET /`` shows what there is, and how it behaves; ``POST /behave`` with ``as=`` one of `MODES` changes
that (`service`).
"""

from __future__ import annotations

import json
import re
import sys
from functools import cache
from html import escape
from pathlib import Path
from typing import Any
from urllib.parse import parse_qs, quote, urlsplit

from .oembed import REFUSED, Answering
from .service import Server

FOLDER = Path(__file__).parent / "films"
NAME = "Headgate Films"
MODES = {
    "well": "answers at once",
    "slow": "lets everybody wait for 30 seconds",
    "refusing": "shows its films to nobody (403)",
    "gone": "has none of its films any more (404)",
    "changed": "has given its films other titles, covers and players",
    "huge": "sends 5 MB where a few hundred bytes would do, and covers of 20 MB",
    "lying": "wants to be framed from another origin",
    "scripted": "wants to run a script of its own instead of a frame",
    "private": "leads its questions and covers to a private address",
    "broken": "answers JSON that is none",
    "old": "answers in XML only",
    "untold": "has no endpoint where it should be; its pages say where it is",
    "vanished": "breaks every connection off",
}


@cache
def catalogue() -> list[dict[str, Any]]:
    """Every film, as `films/catalogue.json` describes it."""
    found: list[dict[str, Any]] = json.loads((FOLDER / "catalogue.json").read_text(encoding="utf-8"))
    return found


class Films(Answering):
    """One request."""

    NAME = NAME
    MODES = MODES
    TYPE = "video"
    THING = "film"

    def says(self) -> str:
        films = "".join(
            f'<li><a href="/watch/{each["id"]}">{escape(each["title"])}</a>, {each["lasts"]} s'
            f"{' (private)' if each.get('private') else ''}</li>"
            for each in catalogue()
        )
        return f"<p>An invented host of films, for trying things out.</p><ul>{films}</ul>"

    def answer(self) -> None:
        parts = urlsplit(self.path)
        if not self.behaved():
            return
        kind, _, name = parts.path[1:].partition("/")
        query = {key: values[0] for key, values in parse_qs(parts.query).items()}
        stem = re.sub(r"^2-|\.\w+$", "", name)
        film = next((each for each in catalogue() if each["id"] == stem), None)
        if kind in ("oembed", "other-oembed"):
            self._asked(query, kind)
        elif film is None:
            self.send(404, "text/plain", b"There is no such film.")
        elif kind == "watch":
            self._watch(film)
        elif kind == "play":
            self._play(film, query)
        elif kind == "covers":
            self._cover(film)
        elif kind == "files":
            self._file((FOLDER / f"{film['id']}.mp4").read_bytes())
        else:
            self.send(404, "text/plain", b"There is nothing here.")

    def _asked(self, query: dict[str, str], endpoint: str) -> None:
        film = self._film_at(query.get("url", ""))
        if self.server.mode == "huge" and film is not None:
            self.send(200, "application/json", b'{"title": "' + b"x" * 5_000_000 + b'"}')
        else:
            self.oembed(film, query, endpoint)

    def _film_at(self, address: str) -> dict[str, Any] | None:
        match = re.search(r"/(?:watch|play)/(?:2-)?([a-z-]+)$", urlsplit(address).path)
        return next((each for each in catalogue() if match and each["id"] == match[1]), None)

    def described(self, film: dict[str, Any]) -> dict[str, Any]:
        mode = self.server.mode
        changed = "2-" if mode == "changed" else ""
        player = f"{self.here}/play/{changed}{film['id']}"
        if mode == "lying":
            player = player.replace("127.0.0.1", "localhost")
        html = f'<iframe src="{player}" width="640" height="360" title="{escape(film["title"])}"></iframe>'
        if mode == "scripted":
            html = f'<div data-film="{film["id"]}"></div><script src="{self.here}/play.js"></script>'
        return {
            "type": "video",
            "version": "1.0",
            "title": film["title"] + (" (made anew)" if changed else ""),
            "author_name": film["author"],
            "author_url": f"{self.here}/",
            "provider_name": NAME,
            "provider_url": f"{self.here}/",
            "cache_age": 3600,
            "duration": film["lasts"],
            "thumbnail_url": f"{self.here}/covers/{changed}{film['id']}.jpg",
            "thumbnail_width": 640,
            "thumbnail_height": 360,
            "html": html,
            "width": 640,
            "height": 360,
        }

    def _watch(self, film: dict[str, Any]) -> None:
        if self.server.mode in REFUSED:
            self.refuse(REFUSED[self.server.mode])
            return
        address = f"{self.here}/watch/{film['id']}"
        code = f'<iframe src="{self.here}/play/{film["id"]}" width="640" height="360" allowfullscreen></iframe>'
        self.page(
            film["title"],
            f'<h1>{escape(film["title"])}</h1><iframe src="/play/{film["id"]}?cc=1" width="640" height="360" '
            f'title="{escape(film["title"])}"></iframe><p>{escape(film["author"])}, {film["lasts"]} s</p>'
            f"<p><label>To show it elsewhere: <textarea readonly rows=3 cols=70>{escape(code)}</textarea></label></p>",
            self.links(address, film["title"]),
        )

    def _play(self, film: dict[str, Any], query: dict[str, str]) -> None:
        start = int(query["t"]) if query.get("t", "").isdigit() else 0
        options = {"m": "muted", "loop": "loop", "begin": "autoplay"}
        said = [name for key, name in options.items() if query.get(key) == "1"]
        cues = [f"00:{at:02}.000 --> 00:{at + 2:02}.500\n{words}" for at, words in film["said"]]
        track = "data:text/vtt," + quote("\n\n".join(["WEBVTT", *cues]))
        chosen = " default" if query.get("cc") == "1" else ""
        self.page(
            film["title"],
            "<style>body{margin:0;background:#111}video{width:100vw;height:100vh}</style>"
            f'<video controls {" ".join(said)} src="/files/{film["id"]}.mp4#t={start}">'
            f'<track kind="captions" srclang="en" label="English" src="{escape(track)}"{chosen}></video>',
        )

    def _cover(self, film: dict[str, Any]) -> None:
        mode = self.server.mode
        if mode == "private":
            self.led(f"http://localhost:{self.server.server_port}/covers/{film['id']}.jpg")
        elif mode == "huge":
            self.send(200, "image/jpeg", b"\xff\xd8\xff" + b"x" * 20_000_000)
        elif mode == "scripted":
            self.send(200, "image/jpeg", b"<script>alert(1)</script>")
        else:
            other = next(each for each in catalogue() if each is not film) if mode == "changed" else film
            self.send(200, "image/jpeg", (FOLDER / f"{other['id']}.jpg").read_bytes())

    def _file(self, data: bytes) -> None:
        """A film, or the piece of it that is asked for (RFC 9110, 14.2)."""
        match = re.fullmatch(r"bytes=(\d+)-(\d*)", self.headers.get("Range", ""))
        start = min(int(match[1]), len(data) - 1) if match else 0
        end = min(int(match[2] or len(data) - 1), len(data) - 1) if match else len(data) - 1
        more = {"Accept-Ranges": "bytes"} | ({"Content-Range": f"bytes {start}-{end}/{len(data)}"} if match else {})
        self.send(206 if match else 200, "video/mp4", data[start : end + 1], more)


class FilmsServer(Server):
    """The service."""

    def __init__(self, port: int) -> None:
        super().__init__(port, Films)


if __name__ == "__main__":
    FilmsServer(int(sys.argv[1]) if len(sys.argv) > 1 else 8412).serve_forever()
