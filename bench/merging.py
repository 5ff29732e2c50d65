"""How long it takes to merge what two people wrote, and what a save costs while somebody else writes.

    .venv/bin/python -m bench.merging [--small]

The reference is Python's `difflib` over the same words of the base and one side, in the same run; for saves it is the
same save of a page on which nobody else writes.
"""

from __future__ import annotations

import random
import statistics
import sys
import time
from collections.abc import Callable
from difflib import SequenceMatcher
from typing import Any
from uuid import uuid4

from ops.common import guarded
from ops.trial import Visitor
from stillpage_core.comparing import changes_between, merge
from stillpage_core.document import Node
from stillpage_core.document.node import document_of, make, text_node
from stillpage_core.document.walking import text_of

from .common import SMALL, a_copy, aim

WORDS = "canal lock gate towpath water bridge boat spring summer quiet the a of and in keeper winds slowly".split()
TURNS = 3 if SMALL else 15


def texts(words: int) -> tuple[Node, Node, Node]:
    """A text of so many words, and what two have made of it: each in every third paragraph, and new ones."""
    dice = random.Random(words)
    base = [" ".join(dice.choices(WORDS, k=60)) for _ in range(words // 60)]
    mine = [f"{each} Mine." if index % 3 == 0 else each for index, each in enumerate(base)]
    theirs = [f"Theirs. {each}" if index % 3 == 1 else each for index, each in enumerate(base)]
    mine.insert(len(mine) // 2, "A paragraph that is new in mine.")
    theirs.insert(len(theirs) // 3, "And one that is new in theirs.")
    return _document(base), _document(mine), _document(theirs)


def _document(paragraphs: list[str]) -> Node:
    return document_of(make("paragraph", [text_node(each)]) for each in paragraphs)


def best(work: Callable[[], object]) -> float:
    """Seconds that it takes, the least of some turns."""
    times = []
    for _ in range(TURNS):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return min(times)


def merging() -> None:
    """The core alone: 5,000 words, and ten times as many."""
    taken: dict[int, float] = {}
    for words in (500, 1_000) if SMALL else (5_000, 50_000):
        base, mine, theirs = texts(words)
        merged = merge(base, mine, theirs).document
        taken[words] = best(lambda base=base, mine=mine, theirs=theirs: merge(base, mine, theirs))
        told = best(lambda mine=mine, merged=merged: changes_between(mine, merged))
        print(f"{words:6} words: merged in {taken[words] * 1000:.1f} ms, told as changes in {told * 1000:.1f} ms")
    few, many = sorted(taken)
    base, mine, _ = texts(few)
    reference = best(lambda: SequenceMatcher(None, text_of(base).split(), text_of(mine).split(), False).get_opcodes())
    print(f"the reference, difflib over {few} words of two of the three: {reference * 1000:.1f} ms")
    aim("merging in times of difflib over two of the texts", taken[few] / reference, most=1)
    aim(f"merging {few} words, in milliseconds", taken[few] * 1000, most=50)
    aim(f"{many // few} times the words, in times of the time", taken[many] / taken[few], most=2 * many / few)


def saving() -> None:
    """Saves through the whole application, alone and while another author saves as often."""
    with a_copy() as copy:
        one, other = copy.visitor().sign_in("wren"), copy.visitor().sign_in("tobias")
        site = one.ask("/api/sites").json[0]["id"]
        number = one.ask(f"/api/sites/{site}/pages", "POST", {"title": "Written by two"}).json["id"]
        base, _, _ = texts(500 if SMALL else 5_000)
        page = Page(number, one, base)
        page.save("begun")
        alone = statistics.median(page.save(f"alone {turn}") for turn in range(TURNS))
        theirs = Page(number, other, base)
        beside = []
        for turn in range(TURNS):
            theirs.save(f"theirs {turn}")
            beside.append(page.save(f"beside {turn}"))
        told = f"a save alone: {alone * 1000:.0f} ms, while somebody else writes: "
        print(f"{told}{statistics.median(beside) * 1000:.0f} ms")
        aim("a save while somebody else writes, in times of one alone", statistics.median(beside) / alone, most=4)


class Page:
    """A page in somebody's window."""

    def __init__(self, number: int, visitor: Visitor, text: Node) -> None:
        self.path = f"/api/pages/{number}"
        self.visitor = visitor
        copy = visitor.ask(self.path).json["working_copy"]
        self.began: dict[str, Any] = {name: copy[name] for name in ("title", "description", "document")}
        self.base = copy["revision"]
        if self.base == 1:
            self.began["document"] = text.to_json()

    def save(self, words: str) -> float:
        """Save with a paragraph more; returns the seconds it took."""
        (main,) = self.began["document"]["content"]
        main = {**main, "content": [*main["content"], make("paragraph", [text_node(words)]).to_json()]}
        draft = {**self.began, "document": {**self.began["document"], "content": [main]}}
        body = {**draft, "base": self.base, "mark": str(uuid4()), "began": self.began}
        begun = time.perf_counter()
        answer = self.visitor.ask(f"{self.path}/working-copy", "PUT", body)
        taken = time.perf_counter() - begun
        if answer.status != 200:
            raise RuntimeError(answer.body[:300])
        merged = answer.json["merged"]
        self.began = {name: merged[name] for name in draft} if merged else draft
        self.base = answer.json["revision"]
        return taken


def main() -> int:
    """Both."""
    merging()
    saving()
    return 0


if __name__ == "__main__":
    sys.exit(guarded(main))
