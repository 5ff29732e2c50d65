"""Asking many others' servers: several at a time, each for one thing after another."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from concurrent.futures import ThreadPoolExecutor
from queue import SimpleQueue
from time import sleep
from typing import Protocol, TypeVar

HOSTS = 8
"""How many hosts are asked at the same time. Whoever does not answer keeps only itself waiting."""
APART = 1.0
"""Seconds between two questions to one host."""


class Answered(Protocol):
    """An answer, or that there was none."""

    @property
    def silent(self) -> bool: ...


Row = TypeVar("Row")
Got = TypeVar("Got", bound=Answered)


def in_turns(hosts: Mapping[Row, str], ask: Callable[[Row], Got], note: Callable[[Row, Got | None], None]) -> int:
    """Have ``ask`` called for each row, the rows of one host one after another, and ``note`` with what came; with None
    for those that were not asked, since their host did not answer for the one before. Returns how many rows there were.

    ``ask`` runs in threads and must not touch the database, ``note`` in the one that calls this.
    """
    by_host: dict[str, list[Row]] = {}
    for row, host in hosts.items():
        by_host.setdefault(host, []).append(row)
    answers: SimpleQueue[tuple[Row, Got | None]] = SimpleQueue()

    def ask_all(rows: list[Row]) -> None:
        silent = False
        for number, row in enumerate(rows):
            if silent:
                # Who does not answer at all would not answer for the others either, and hold us for each of them.
                answers.put((row, None))
                continue
            if number:
                sleep(APART)
            answer = ask(row)
            silent = answer.silent
            answers.put((row, answer))

    with ThreadPoolExecutor(HOSTS, "outside") as pool:
        for rows in by_host.values():
            pool.submit(ask_all, rows)
        for _ in hosts:
            note(*answers.get())
    return len(hosts)
