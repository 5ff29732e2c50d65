"""Headings, items, cells, links and pictures of documents that others wrote are what other libraries find, but for what
is explained (`structure`): all of the corpus with `STILLPAGE_LONG_TESTS`, every sixth document otherwise."""

from __future__ import annotations

from collections.abc import Callable
from unittest import TestCase

from .reading import files, read
from .structure import KINDS, Independent, between, of_docx, of_html, of_markdown, of_odt, of_reading


class Structure(TestCase):
    def hold(self, ending: str, independent: Callable[[bytes], Independent]) -> None:
        for file in files(ending):
            reading = read(file)
            data = file.read_bytes()
            if reading is None or b"{%" in data:
                continue  # Some are made to be refused; each says why. A template is no document.
            other, ours = independent(data), of_reading(reading)
            for kind in KINDS:
                with self.subTest(f"{kind} of {file.name}"):
                    least, most = between(kind, other, reading)
                    self.assertGreaterEqual(ours[kind], least)
                    self.assertLessEqual(ours[kind], most)

    def test_markdown(self) -> None:
        self.hold("md", lambda data: of_markdown(data.decode(errors="replace")))

    def test_html(self) -> None:
        self.hold("html", lambda data: of_html(data.decode(errors="replace")))

    def test_word_documents(self) -> None:
        self.hold("docx", of_docx)

    def test_opendocument_texts(self) -> None:
        self.hold("odt", of_odt)
