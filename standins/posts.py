"""A network of short posts: python -m standins.posts PORT.

``GET /by/HANDLE`` is somebody's profile, ``GET /by/HANDLE/ID`` a post (with what follows it, where it is a thread), and
where its oEmbed is and the code to paste; ``GET /oembed?url=…`` answers JSON or XML (oEmbed 1.0, https://oembed.com, a
“rich” answer); ``GET /view/ID`` is the network's own view, to be framed; ``GET /pictures/NAME`` are the pictures.
``GET /`` shows what there is, and how it behaves; ``POST /behave`` with ``as=`` one of `MODES` changes that
(`service`).
"""

from __future__ import annotations

import json
import re
import sys
from functools import cache
from html import escape
from pathlib import Path
from typing import Any
from urllib.parse import parse_qs, urlsplit

from .oembed import REFUSED, Answering
from .service import Server

FOLDER = Path(__file__).parent / "posts"
NAME = "Towpath Talk"
MODES = {
    "well": "answers at once",
    "slow": "lets everybody wait for 30 seconds",
    "refusing": "shows its posts to nobody (403)",
    "gone": "has none of its posts any more (404)",
    "changed": "has given its posts other words",
    "huge": "sends a post of 1 MB",
    "long": "sends a post of 100 kB of words",
    "lying": "says of every author that they are found elsewhere, and wants to be framed from another origin",
    "scripted": "has script and styles in its posts",
    "private": "leads its questions and pictures to a private address",
    "broken": "answers JSON that is none",
    "old": "answers in XML only",
    "untold": "has no endpoint where it should be; its pages say where it is",
    "vanished": "breaks every connection off",
}


@cache
def catalogue() -> list[dict[str, Any]]:
    """Every post, as `posts/catalogue.json` describes it."""
    found: list[dict[str, Any]] = json.loads((FOLDER / "catalogue.json").read_text(encoding="utf-8"))
    return found


class Posts(Answering):
    """One request."""

    NAME = NAME
    MODES = MODES
    TYPE = "rich"
    THING = "post"

    def says(self) -> str:
        posts = "".join(
            f'<li><a href="{self._path(each)}">{escape(each["author"])}</a>: {escape(each["words"][0][:60])}'
            f"{' (private)' if each.get('private') else ''}</li>"
            for each in catalogue()
        )
        return f"<p>An invented network of short posts, for trying things out.</p><ul>{posts}</ul>"

    @staticmethod
    def _path(post: dict[str, Any]) -> str:
        return f"/by/{post['handle']}/{post['id']}"

    def answer(self) -> None:
        mode = self.server.mode
        if not self.behaved():
            return
        parts = urlsplit(self.path)
        query = {key: values[0] for key, values in parse_qs(parts.query).items()}
        kind, *names = parts.path.strip("/").split("/")
        post = next((each for each in catalogue() if names and each["id"] == names[-1]), None)
        if kind in ("oembed", "other-oembed"):
            self._asked(query, kind)
        elif kind == "pictures" and names:
            self._picture(names[-1])
        elif kind == "by" and len(names) == 1:
            self._profile(names[0])
        elif post is None or kind not in ("by", "view"):
            self.send(404, "text/plain", b"There is nothing here.")
        elif mode in REFUSED:
            self.refuse(REFUSED[mode])
        elif kind == "by":
            self._post(post)
        else:
            self.page(post["author"], f"<style>body{{font:18px sans-serif;margin:16px}}</style>{self._quoted(post)}")

    def _asked(self, query: dict[str, str], endpoint: str) -> None:
        match = re.search(r"/(?:by/[a-z]+|view)/([a-z-]+)$", urlsplit(query.get("url", "")).path)
        post = next((each for each in catalogue() if match and each["id"] == match[1]), None)
        self.oembed(post, query, endpoint)

    def described(self, post: dict[str, Any]) -> dict[str, Any]:
        mode = self.server.mode
        view = f"{self.here}/view/{post['id']}"
        author = f"{self.here}/by/{post['handle']}"
        if mode == "lying":
            view, author = view.replace("127.0.0.1", "localhost"), "https://elsewhere.example/perrin"
        frame = f'<iframe src="{view}" width="480" height="260"></iframe>'
        return {
            "type": "rich",
            "version": "1.0",
            "author_name": post["author"],
            "author_url": author,
            "provider_name": NAME,
            "provider_url": f"{self.here}/",
            "cache_age": 3600,
            "html": self._quoted(post) + frame,
            "width": 480,
            "height": 260,
        }

    def _quoted(self, post: dict[str, Any]) -> str:
        mode = self.server.mode
        words = list(post["words"])
        if mode == "changed":
            words = ["These are other words."]
        if mode == "huge":
            words = ["x" * 1_000_000]
        if mode == "long":
            words = ["Word after word. " * 60] * 100
        harm = "<script>alert(1)</script><style>p{color:red}</style>" if mode == "scripted" else ""
        if mode == "scripted":
            words[0] += " "
        pictures = ""
        if "picture" in post:
            address = f"{self.here}/pictures/{post['picture']}"
            pictures = f'<img src="{address}" alt="{escape(post["alt"])}" onerror="alert(2)">'
        first = "".join(f"<p>{harm}{escape(line)}</p>" for line in words)
        thread = "".join(
            f"<blockquote>{''.join(f'<p>{escape(line)}</p>' for line in each)}</blockquote>"
            for each in post.get("thread", [])
        )
        film = f'<video src="{self.here}/films/{post["id"]}.mp4" controls></video>' if post.get("film") else ""
        time = f'<time datetime="{post["at"]}">{post["at"][:10]}</time>'
        where = f'<a href="{self.here}{self._path(post)}">{escape(post["author"])}, {time}</a>'
        cite = f"{self.here}{self._path(post)}"
        return f'<blockquote cite="{cite}">{first}{pictures}{film}</blockquote>{thread}<p>{where}</p>'

    def _post(self, post: dict[str, Any]) -> None:
        address = f"{self.here}{self._path(post)}"
        words = escape(post["words"][0])
        code = f'<blockquote cite="{address}"><p>{words}</p><a href="{address}">There</a></blockquote>'
        code += f'<script async src="{self.here}/posts.js"></script>'
        self.page(
            post["author"],
            f"<h1>{escape(post['author'])}</h1>{self._quoted(post)}"
            f"<p><label>To show it elsewhere: <textarea readonly rows=3 cols=70>{escape(code)}</textarea></label></p>",
            self.links(address, post["author"]),
        )

    def _profile(self, handle: str) -> None:
        posts = [each for each in catalogue() if each["handle"] == handle and not each.get("private")]
        if not posts:
            self.send(404, "text/plain", b"There is nobody by that name.")
            return
        listed = "".join(f'<li><a href="{self._path(each)}">{escape(each["words"][0])}</a></li>' for each in posts)
        self.page(posts[0]["author"], f"<h1>{escape(posts[0]['author'])}</h1><ul>{listed}</ul>")

    def _picture(self, name: str) -> None:
        file = FOLDER / Path(name).name
        if self.server.mode == "private":
            address = f"http://localhost:{self.server.server_port}/pictures/{name}"
            self.send(302, "text/plain", b"", {"Location": address})
        elif file.suffix == ".jpg" and file.exists():
            self.send(200, "image/jpeg", file.read_bytes())
        else:
            self.send(404, "text/plain", b"There is no such picture.")


class PostsServer(Server):
    """The service."""

    def __init__(self, port: int) -> None:
        super().__init__(port, Posts)


if __name__ == "__main__":
    PostsServer(int(sys.argv[1]) if len(sys.argv) > 1 else 8413).serve_forever()
