"""Somebody who writes on a page of a running copy and trusts no answer: what was acknowledged must be there."""

from __future__ import annotations

import http.client
import random
import re
import threading
import time
from typing import Any
from uuid import uuid4

from ops.trial import Copy, Visitor


def paragraph(words: str) -> dict[str, Any]:
    return {"type": "paragraph", "content": [{"type": "text", "text": words}]}


class Writer(threading.Thread):
    """Adds a word at a time to a paragraph of their own, in a save that goes out again until it is answered. Now and
    then an answer is lost on purpose. ``acknowledged`` counts the words that the server has said it has."""

    def __init__(self, visitor: Visitor, page: int, name: str, seed: int) -> None:
        super().__init__(daemon=True)
        self.visitor, self.page, self.name_ = visitor, page, name
        self.dice = random.Random(seed)
        self.ended = threading.Event()
        self.acknowledged = 0
        self.lost = 0
        self.problems: list[str] = []

    def run(self) -> None:
        text = self._ask("GET", f"/api/pages/{self.page}")["working_copy"]
        base = text["revision"]
        began = {name: text[name] for name in ("title", "description", "document")}
        count = 0
        while not self.ended.is_set():
            count += 1
            draft = self._with(began, f"{self.name_}{count}")
            body = {**draft, "base": base, "mark": str(uuid4()), "began": began}
            answer = self._ask("PUT", f"/api/pages/{self.page}/working-copy", body)
            self.acknowledged = count
            merged = answer["merged"]
            began = {name: merged[name] for name in began} if merged else draft
            base = answer["revision"]

    def _with(self, text: dict[str, Any], word: str) -> dict[str, Any]:
        """The text with one more word in the paragraph of this writer, or with that paragraph."""
        blocks = list(text["document"]["content"])
        for index, block in enumerate(blocks):
            words = "".join(part.get("text", "") for part in block.get("content", []))
            if block["type"] == "paragraph" and words.startswith(f"{self.name_}1"):
                blocks[index] = paragraph(f"{words} {word}")
                break
        else:
            blocks.append(paragraph(word))
        return {**text, "document": {**text["document"], "content": blocks}}

    def _ask(self, method: str, path: str, body: Any = None) -> Any:
        """Ask until there is an answer; now and then do not wait for it, or ask twice."""
        while True:
            try:
                if body is not None and self.dice.random() < 0.1:
                    self.lost += 1
                    self.visitor.ask(path, method, body)
                answer = self.visitor.ask(path, method, body)
            except (OSError, http.client.HTTPException):
                time.sleep(0.2)
                continue
            if answer.status == 200:
                return answer.json
            if answer.status not in (502, 503, 504, 507):
                self.problems.append(f"{answer.status}: {answer.body[:200]!r}")
                time.sleep(1)
            time.sleep(0.2)
            if self.ended.is_set() and body is None:
                return None

    def end(self) -> None:
        """Let what is under way come to its end."""
        self.ended.set()
        self.join(120)


def words_on(copy: Copy, page: int, name: str) -> set[int]:
    """The numbers of a writer's words that are on a page."""
    code = f"from stillpage.pages.models import WorkingCopy as W; print(W.objects.get(page={page}).document)"
    return {int(number) for number in re.findall(rf"\b{name}(\d+)\b", copy.shell(code))}
