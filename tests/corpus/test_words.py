"""No word of documents made by others is lost in silence, held against what other libraries find in them.

The files are those that came with the packages of the front end and of Python, and what `fetching` has fetched: all of
them with `STILLPAGE_LONG_TESTS`, every sixth otherwise.
"""

from __future__ import annotations

import re
from collections import Counter
from pathlib import Path
from unittest import TestCase

from stillpage_core.checking import check_page
from stillpage_core.checking.subject import Subject
from stillpage_core.document import document_from_json
from stillpage_core.document.walking import text_of, walk
from stillpage_core.errors import ReadingError
from stillpage_core.reading import Arriving, Reading, read_html, read_markdown
from stillpage_core.reading.docx import read_docx
from stillpage_core.reading.front_matter import split_front_matter
from stillpage_core.reading.odt import read_odt
from stillpage_core.resolving import FixedResolver
from stillpage_core.writing import markdown

from .fetching import FOLDER
from .independent import WORD, words_of_docx, words_of_html, words_of_markdown, words_of_odt
from .reading import files


def words_of(reading: Reading) -> Counter[str]:
    """The words of a reading, those in attributes and the title among them."""
    found = Counter(WORD.findall(f"{text_of(reading.document)} {reading.title or ''} {reading.description or ''}"))
    for _, node in walk(reading.document):
        for name in ("alt", "caption", "latex", "anchor"):
            found.update(WORD.findall(str(node.attrs.get(name) or "")))
    return found


_NUMBERS = re.compile("typed list|numbers before lines")


class Words(TestCase):
    def hold(self, file: Path, expected: Counter[str], reading: Reading) -> None:
        document_from_json(reading.document.to_json())
        lost = expected - words_of(reading)
        for message in reading.messages:
            if message.sort == "dropped":
                lost -= Counter(WORD.findall(message.sentence))
        noted = any(str(node.attrs.get("anchor", "")).startswith("note-") for _, node in walk(reading.document))
        if noted or any(_NUMBERS.search(message.sentence) for message in reading.messages):
            # Notes and items are numbered by their order; the numbers that were typed are gone.
            lost = Counter({word: count for word, count in lost.items() if not word.isdigit()})
        self.assertEqual(dict(lost), {}, file)

    def test_markdown(self) -> None:
        self.assertGreater(len(files("md")), 40)
        for file in files("md"):
            with self.subTest(file.name):
                text = file.read_text(errors="replace")
                _, body = split_front_matter(text)
                self.hold(file, words_of_markdown(body), read_markdown(text, Arriving(whole=True)))

    def test_html(self) -> None:
        self.assertGreater(len(files("html")), 5)
        for file in files("html"):
            with self.subTest(file.name):
                text = file.read_text(errors="replace")
                self.hold(file, words_of_html(text), read_html(text, Arriving(whole=True)))

    def test_office_documents(self) -> None:
        readers = {"docx": (words_of_docx, read_docx), "odt": (words_of_odt, read_odt)}
        found = [(ending, file) for ending in readers for file in sorted(FOLDER.rglob(f"*.{ending}"))]
        if not found:
            self.skipTest("python -m tests.corpus.fetching fetches them")
        for ending, file in found:
            with self.subTest(file.name):
                data = file.read_bytes()
                words, read = readers[ending]
                try:
                    reading = read(data, Arriving(whole=True))
                except ReadingError:
                    continue  # Some are made to be refused; each says why.
                # A table of contents is left out, and told; its words are those of the headings.
                contents = any("table of contents" in message.sentence for message in reading.messages)
                if not contents:
                    self.hold(file, words(data), reading)

    def test_markdown_goes_out_and_comes_back_the_same(self) -> None:
        for file in files("md"):
            with self.subTest(file.name):
                document = read_markdown(file.read_text(errors="replace")).document
                self.assertEqual(read_markdown(markdown(document)).document, document)

    def test_every_check_comes_to_an_end(self) -> None:
        for file in files("md")[::2]:
            with self.subTest(file.name):
                check_page(Subject(read_markdown(file.read_text(errors="replace")).document, FixedResolver()))
