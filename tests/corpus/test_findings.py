"""The findings of the page check in documents that others wrote are what was judged by hand (`findings`)."""

from __future__ import annotations

from collections import defaultdict
from pathlib import Path
from typing import Any
from unittest import TestCase

from stillpage_core.checking.showing import shown

from .findings import Found, found_in, judged, sum_of, table
from .reading import by_name

DOCS = Path(__file__).parents[2] / "docs"
FEWEST = 100
"""So many of the judged findings are in documents that come with what the tests install."""


def offers(each: Found) -> list[list[str]]:
    return [[repair.label, *shown(each.document, repair)] for repair in each.finding.repairs]


class Judged(TestCase):
    entries: list[dict[str, Any]]
    known: dict[str, Found]

    @classmethod
    def setUpClass(cls) -> None:
        files = by_name({(entry["id"].split("#")[0], entry["of"]) for entry in judged()})
        cls.entries = [entry for entry in judged() if entry["id"].split("#")[0] in files]
        cls.known = {each.id: each for file in files.values() for each in found_in(file)}

    def test_there_are_enough(self) -> None:
        self.assertGreater(len(self.entries), FEWEST)
        self.assertGreaterEqual(len(judged()), 300)

    def test_what_was_right_is_found_and_what_was_wrong_is_not(self) -> None:
        for entry in self.entries:
            with self.subTest(entry["id"]):
                now = self.known.get(entry["id"])
                if entry["right"]:
                    self.assertIsNotNone(now, entry["says"])
                elif now is not None:
                    self.assertNotEqual(now.finding.sentence, entry["says"], entry["why"])

    def test_repairs_that_were_right_are_offered_and_others_are_not(self) -> None:
        for entry in self.entries:
            now = self.known.get(entry["id"])
            if now is None or "repair" not in entry:
                continue
            with self.subTest(entry["id"]):
                if entry["repair"]:
                    self.assertIn(entry["repairs"][-1][0], [each[0] for each in offers(now)])
                elif any(len(each) > 1 for each in entry["repairs"]) or not entry.get("mended"):
                    self.assertNotEqual(offers(now), entry["repairs"], entry["why"])

    def test_precision(self) -> None:
        """Of what is found now: findings of each check at least 19 of 20 right, repairs all."""
        right: dict[str, list[bool]] = defaultdict(list)
        for entry in self.entries:
            now = self.known.get(entry["id"])
            if now is not None:
                is_right = entry["right"] or now.finding.sentence != entry["says"]
                right[now.finding.check].append(is_right)
        for check, those in right.items():
            with self.subTest(check):
                self.assertGreaterEqual(sum(those) / len(those), 0.95)

    def test_the_documentation_has_the_table(self) -> None:
        written = (DOCS / "checks.md").read_text()
        self.assertIn(table(), written)
        self.assertIn(sum_of(), written)
