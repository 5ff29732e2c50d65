"""People who work on a running copy and trust no answer: what was acknowledged must be there."""

from __future__ import annotations

import hashlib
import http.client
import re
import threading
import time
from collections.abc import Sequence
from typing import Any
from uuid import uuid4

from ops.trial import Answer, Copy, Visitor

from ..api.base import photograph

AWAY = (502, 503, 504, 507)


def paragraph(words: str) -> dict[str, Any]:
    return {"type": "paragraph", "content": [{"type": "text", "text": words}]}


class Author(threading.Thread):
    """Somebody who does one thing after the other, and asks again until there is an answer. ``acknowledged`` counts
    what the server has said it has; ``problems`` are answers that nobody should get."""

    def __init__(self, visitor: Visitor, name: str) -> None:
        super().__init__(daemon=True)
        self.visitor, self.name_ = visitor, name
        self.ended = threading.Event()
        self.acknowledged = 0
        self.problems: list[str] = []

    def run(self) -> None:
        try:
            self.begin()
            while not self.ended.is_set():
                self.do(self.acknowledged + 1)
        except Exception as error:  # Told by who waits for the end; a thread has nobody else to tell.
            self.problems.append(repr(error))

    def begin(self) -> None:
        """What comes before the first."""

    def do(self, number: int) -> None:
        """One thing."""
        raise NotImplementedError

    def ask(self, method: str, path: str, body: Any = None, *, good: tuple[int, ...] = (200,)) -> Answer:
        """Ask until there is an answer that tells something."""
        while True:
            try:
                answer = self.visitor.ask(path, method, body)
            except (OSError, http.client.HTTPException):
                time.sleep(0.2)
                continue
            if answer.status in good:
                return answer
            if answer.status not in AWAY:
                self.problems.append(f"{method} {path}: {answer.status}: {answer.body[:200]!r}")
                time.sleep(1)
            time.sleep(0.2)

    def end(self) -> None:
        """Let what is under way come to its end."""
        self.ended.set()
        self.join(120)


class Writer(Author):
    """Adds a word at a time to a paragraph of their own."""

    def __init__(self, visitor: Visitor, name: str, page: int) -> None:
        super().__init__(visitor, name)
        self.page = page

    def begin(self) -> None:
        text = self.ask("GET", f"/api/pages/{self.page}").json["working_copy"]
        self.base = text["revision"]
        self.began = {name: text[name] for name in ("title", "description", "document")}

    def do(self, number: int) -> None:
        draft = self._with(f"{self.name_}{number}")
        body = {**draft, "base": self.base, "mark": str(uuid4()), "began": self.began}
        answer = self.ask("PUT", f"/api/pages/{self.page}/working-copy", body).json
        self.acknowledged = number
        merged = answer["merged"]
        self.began = {name: merged[name] for name in self.began} if merged else draft
        self.base = answer["revision"]

    def _with(self, word: str) -> dict[str, Any]:
        """The text with one more word in the paragraph of this writer, or with that paragraph."""
        main, *others = self.began["document"]["content"]
        blocks = list(main["content"])
        for index, block in enumerate(blocks):
            words = "".join(part.get("text", "") for part in block.get("content", []))
            if block["type"] == "paragraph" and words.startswith(f"{self.name_}1"):
                blocks[index] = paragraph(f"{words} {word}")
                break
        else:
            blocks.append(paragraph(word))
        return {**self.began, "document": {**self.began["document"], "content": [{**main, "content": blocks}, *others]}}


class Publisher(Writer):
    """Puts the number into a paragraph of a page, and publishes it."""

    def do(self, number: int) -> None:
        super().do(number)
        self.acknowledged = number - 1
        # Asked twice by a bad line, or again after a kill, it is published once more.
        self.ask("POST", f"/api/pages/{self.page}/publish", {"revision": self.base})
        self.acknowledged = number

    def _with(self, word: str) -> dict[str, Any]:
        main, *others = self.began["document"]["content"]
        blocks = main["content"][:-1] if self.acknowledged else main["content"]
        main = {**main, "content": [*blocks, paragraph(f"Published {word}.")]}
        document = {**self.began["document"], "content": [main, *others]}
        return {**self.began, "document": document}


class Renamer(Publisher):
    """Publishes a page under one title after the other; the navigation names it, so every page of the site shows it."""

    def _with(self, word: str) -> dict[str, Any]:
        return {**self.began, "title": f"Visit {word}"}


class Mover(Author):
    """Moves a page with all that stands under it to one of two places and back."""

    def __init__(self, visitor: Visitor, name: str, page: int, places: Sequence[int]) -> None:
        super().__init__(visitor, name)
        self.page, self.places = page, places

    def do(self, number: int) -> None:
        parent = self.places[number % 2]
        site = self.ask("GET", f"/api/pages/{parent}").json["site"]["id"]
        # Asked again after an answer was lost, it stands there already.
        self.ask("POST", "/api/tree/place", {"pages": [self.page], "site": site, "parent": parent})
        self.acknowledged = number


class Sender(Author):
    """Sends pictures into the library, in two pieces each. ``sent`` are the items and the digests of their bytes."""

    def __init__(self, visitor: Visitor, name: str) -> None:
        super().__init__(visitor, name)
        self.sent: dict[int, str] = {}

    def do(self, number: int) -> None:
        data = photograph((400, 300), seed=number)
        while True:
            begun = self.ask(
                "POST", "/api/uploads", {"name": f"{number}.jpg", "size": len(data), "stamp": f"{number}"}, good=(201,)
            ).json
            path = f"/api/uploads/{begun['id']}"
            if self._send(path, data, begun["received"]):
                break
        answer = self.ask("POST", path, {}, good=(200, 201)).json
        self.sent[answer["id"]] = hashlib.sha256(data).hexdigest()
        self.acknowledged = number

    def _send(self, path: str, data: bytes, received: int) -> bool:
        """Whether all of it came; an upload that was begun twice may be gone."""
        while received < len(data):
            piece = data[received : received + len(data) // 2 + 1]
            answer = self.ask("PUT", f"{path}?start={received}", piece, good=(200, 404, 409))
            if answer.status == 404:
                return False
            received = answer.json["received"]
        return True


def words_on(copy: Copy, page: int, name: str) -> set[int]:
    """The numbers of a writer's words that are on a page."""
    code = f"from stillpage.written.models import WorkingCopy as W; print(W.objects.get(written={page}).document)"
    return {int(number) for number in re.findall(rf"\b{name}(\d+)\b", copy.shell(code))}
