"""What a PDF says of itself, against poppler's own tool, which is independent of the library that is used here."""

import json
import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

from stillpage_core.errors import CoreError
from stillpage_core.media.pdf import FEW, PdfFacts, pdf_facts, wanting_of

from ..papers import a_pdf

DEMO = Path(__file__).parents[2] / "demo" / "documents"


def of_poppler(path):
    """What `pdfinfo` says, by its own names."""
    said = subprocess.run(["pdfinfo", path], capture_output=True, text=True, check=True).stdout
    return {name: value.strip() for name, _, value in (line.partition(":") for line in said.splitlines())}


class Facts(TestCase):
    def setUp(self):
        self.folder = TemporaryDirectory()
        self.addCleanup(self.folder.cleanup)

    def path(self, data):
        path = Path(self.folder.name) / "a.pdf"
        path.write_bytes(data)
        return path

    def same(self, path):
        facts, other = pdf_facts(path), of_poppler(path)
        self.assertEqual(facts.pages, int(other["Pages"]))
        self.assertEqual(facts.tagged, other["Tagged"] == "yes")
        self.assertEqual(facts.title, other.get("Title", ""))
        self.assertEqual(facts.encrypted, other["Encrypted"].startswith("yes"))
        self.assertEqual(facts.form, other["Form"] != "none")
        self.assertEqual(facts.script, other["JavaScript"] == "yes")
        return facts

    def test_the_same_as_poppler_says_of_the_documents_of_the_demo(self):
        papers = sorted(DEMO.glob("*.pdf"))
        self.assertGreater(len(papers), 4)
        tagged = {self.same(path).tagged for path in papers}
        self.assertEqual(tagged, {True, False})

    def test_the_same_as_poppler_says_of_each_thing_that_one_may_have(self):
        self.assertEqual(self.same(self.path(a_pdf())), PdfFacts(pages=1))
        self.assertEqual(self.same(self.path(a_pdf(pages=3))).pages, 3)
        self.assertEqual(self.same(self.path(a_pdf(title="Water levels — 2025"))).title, "Water levels — 2025")
        self.assertTrue(self.same(self.path(a_pdf(tagged=True))).tagged)
        self.assertTrue(self.same(self.path(a_pdf(form=True))).form)
        self.assertTrue(self.same(self.path(a_pdf(script=True))).script)
        # Whoever opens it needs no password, and may not change it.
        self.assertTrue(self.same(self.path(a_pdf(owner="secret"))).encrypted)

    def test_the_language_which_poppler_does_not_tell_is_taken_where_it_is_one(self):
        for said, language in (("cy", "cy"), ("en-GB", "en-GB"), ("", ""), ("not a language", ""), ("x" * 90, "")):
            self.assertEqual(pdf_facts(self.path(a_pdf(language=said))).language, language)

    def test_a_title_that_its_metadata_has_alone(self):
        self.assertEqual(pdf_facts(self.path(a_pdf(metadata_title="Hire terms"))).title, "Hire terms")

    def test_one_that_opens_with_a_password_says_no_more(self):
        locked = a_pdf(title="Secret", tagged=True, password="open sesame")
        self.assertEqual(pdf_facts(self.path(locked)), PdfFacts(encrypted=True, locked=True))

    def test_parts_that_are_nothing_like_what_they_should_be_are_left_out(self):
        broken = a_pdf(pages=2, root={"/MarkInfo": 7, "/AcroForm": [], "/Lang": {}, "/Names": 3, "/OpenAction": 5})
        self.assertEqual(pdf_facts(self.path(broken)), PdfFacts(pages=2))

    def test_what_is_no_pdf_is_told_by_the_program_too(self):
        for data in (b"", b"%PDF-1.7\n%%EOF", b"no PDF at all" * 100, a_pdf()[:200]):
            path = self.path(data)
            with self.assertRaises(CoreError):
                pdf_facts(path)
            done = subprocess.run(
                [sys.executable, "-m", "stillpage_core.media.pdf", path], capture_output=True, text=True, check=True
            )
            self.assertIn("cannot be read", json.loads(done.stdout)["problem"])

    def test_the_program_says_the_same_as_json(self):
        path = self.path(a_pdf(title="Plan", language="en"))
        done = subprocess.run(
            [sys.executable, "-m", "stillpage_core.media.pdf", path], capture_output=True, text=True, check=True
        )
        self.assertEqual(PdfFacts.of(json.loads(done.stdout)), pdf_facts(path))


class Wanting(TestCase):
    def wanting(self, **known):
        return wanting_of({"pages": 2, "signs": 900, "tagged": True, "language": "en", "title": "A", **known})

    def test_what_readers_miss_the_worst_first(self):
        self.assertEqual(self.wanting(), ())
        self.assertEqual(self.wanting(tagged=False, title=""), ("tags", "title"))
        self.assertEqual(self.wanting(language=""), ("language",))
        self.assertEqual(self.wanting(locked=True, pages=0), ("password",))

    def test_of_pictures_of_words_nothing_else_is_asked(self):
        self.assertEqual(self.wanting(signs=2 * FEW - 1, tagged=False), ("words",))
        self.assertEqual(self.wanting(signs=2 * FEW), ())

    def test_of_one_with_very_many_pages_enough_words_are_enough(self):
        self.assertEqual(self.wanting(pages=50_000, signs=400_000), ())
        self.assertEqual(self.wanting(pages=50_000, signs=900), ("words",))

    def test_words_that_could_not_be_looked_for_are_not_said_to_be_missing(self):
        self.assertEqual(self.wanting(signs=None), ())
        self.assertEqual(self.wanting(signs=None, tagged=False), ("tags",))

    def test_what_was_not_looked_at_lacks_nothing(self):
        self.assertEqual(wanting_of({}), ())
        self.assertEqual(self.wanting(pages=0, tagged=False), ())
