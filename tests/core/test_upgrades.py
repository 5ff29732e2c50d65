"""What was kept under any version of the format is read for good."""

import json
from pathlib import Path
from unittest import TestCase
from unittest.mock import patch

from stillpage_core.document import VERSION, document_from_json
from stillpage_core.document import upgrades as upgrading
from stillpage_core.document.upgrades import NewerFormat, upgraded
from stillpage_core.errors import DocumentError
from stillpage_core.reading import read_html, read_markdown
from stillpage_core.writing import plain_text, storable_html

FORMATS = Path(__file__).parent.parent / "fixtures" / "formats"


class EveryVersion(TestCase):
    def test_there_are_fixtures_of_each_and_a_step_from_each_to_the_next(self):
        self.assertEqual({int(each.name) for each in FORMATS.iterdir()}, set(range(1, VERSION + 1)))
        self.assertEqual(set(upgrading.UPGRADES), set(range(1, VERSION)))

    def test_each_is_read_whole_from_json_html_and_markdown(self):
        for folder in FORMATS.iterdir():
            with self.subTest(folder.name):
                document = document_from_json(json.loads((folder / "document.json").read_text()))
                self.assertEqual(document.attrs["version"], VERSION)
                made = json.loads((folder / "of-the-present.json").read_text())
                self.assertEqual(upgraded(json.loads((folder / "document.json").read_text())), made)
                self.assertEqual(plain_text(document), (folder / "words.txt").read_text())
                self.assertEqual(read_html((folder / "document.html").read_text()).document, document)
                self.assertEqual(read_markdown((folder / "document.md").read_text()).document, document)


class Newer(TestCase):
    def test_it_is_refused_with_a_sentence(self):
        newer = {"type": "doc", "attrs": {"version": VERSION + 1, "more": 1}, "content": [{"type": "unheard of"}]}
        with self.assertRaisesRegex(NewerFormat, f"version {VERSION + 1} of the format.* up to version {VERSION}"):
            document_from_json(newer)

    def test_so_is_a_file_of_it(self):
        html = storable_html(document_from_json({"type": "doc", "content": [{"type": "paragraph"}]}))
        newer = html.replace(f'document="{VERSION}"', f'document="{VERSION + 1}"')
        self.assertNotEqual(newer, html)
        with self.assertRaises(NewerFormat):
            read_html(newer)


class Steps(TestCase):
    """With a format of three versions: the second put a word into every text, the third another."""

    def setUp(self):
        def adding(word):
            def step(value):
                return {**value, "content": [*value["content"], {"type": "paragraph", "words": word}]}

            return step

        self.enterContext(patch.object(upgrading, "UPGRADES", {1: adding("two"), 2: adding("three")}))
        self.enterContext(patch.object(upgrading, "VERSION", 3))

    def words(self, attrs):
        found = upgraded({"type": "doc", **attrs, "content": []})
        return found["attrs"]["version"], [each["words"] for each in found["content"]]

    def test_one_after_the_other_from_whichever_it_is(self):
        for attrs in ({}, {"attrs": {}}, {"attrs": {"version": 1}}):
            self.assertEqual(self.words(attrs), (3, ["two", "three"]))
        self.assertEqual(self.words({"attrs": {"version": 2}}), (3, ["three"]))
        self.assertEqual(self.words({"attrs": {"version": 3}}), (3, []))
        with self.assertRaises(NewerFormat):
            self.words({"attrs": {"version": 4}})

    def test_what_is_no_document_is_left_to_whoever_reads_it(self):
        for value in (
            {"type": "paragraph"},
            {"type": "doc", "attrs": 3},
            {"type": "doc", "attrs": {"version": "1"}},
            {"type": "doc", "attrs": {"version": True}},
            {"type": "doc", "attrs": {"version": 0}},
        ):
            self.assertEqual(upgraded(value), value)
            with self.assertRaises(DocumentError):
                document_from_json(value)
