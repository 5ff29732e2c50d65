"""What is meant to do harm, or is merely broken: nothing executable is let through, and every file that cannot be read
is refused with a sentence, in bounded memory."""

import resource
import subprocess
import sys
import zipfile
from io import BytesIO
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

import brs_kb
from lxml import html as parser

from stillpage_core.document.walking import text_of
from stillpage_core.errors import ReadingError
from stillpage_core.formats import read_file
from stillpage_core.reading import read_html, read_markdown, read_text, with_pictures
from stillpage_core.reading.source import read_source
from stillpage_core.resolving import FixedResolver
from stillpage_core.writing import published_html

FIXTURES = Path(__file__).parents[1] / "fixtures"
GUIDE = (FIXTURES / "towpath-guide.docx").read_bytes()
ROOT = Path(__file__).parents[2]

ALLOWED = set(
    """div p h2 h3 h4 h5 h6 ul ol li blockquote figure figcaption table caption tbody tr th td pre hr br img a abbr span
    strong em u s sup sub code math semantics annotation mrow mi mn mo msup msub msubsup mfrac msqrt mroot mtext
    mspace mover munder munderover mtable mtr mtd mstyle mpadded mphantom mfenced merror menclose""".split()
)


def vectors():
    """Every vector of the published collection BRS-KB (PyPI: brs-kb 4.0.2)."""
    return [each["payload"] for each in brs_kb.get_all_payloads().values()]


def published(reading):
    gone = dict.fromkeys((picture.number for picture in reading.pictures), None)
    return published_html(with_pictures(reading.document, gone), FixedResolver())


class CrossSiteScripting(TestCase):
    def harmless(self, source, html):
        for element in parser.fragment_fromstring(html, create_parent="div").iter():
            self.assertIn(element.tag, ALLOWED, source)
            for name, value in element.attrib.items():
                self.assertFalse(name.startswith("on"), source)
                self.assertNotIn(name, ("style", "srcdoc", "formaction", "xlink:href", "background"), source)
                if name in ("href", "src"):
                    self.assertRegex(value, r"^(https?:|mailto:|tel:|#|/)", source)

    def test_no_published_vector_leaves_anything_that_runs(self):
        every = vectors()
        self.assertGreater(len(every), 4_800)
        for vector in every:
            for source, reading in (
                (vector, read_html(vector)),
                (f'<p title="{vector}">a{vector}</p>', read_html(f'<p title="{vector}">a{vector}</p>')),
                (vector, read_markdown(vector)),
                (vector, read_text(vector)),
                (vector, read_source(vector).reading),
            ):
                self.harmless(source, published(reading))


def changed(**parts):
    """The guide as DOCX with some parts replaced or added, by their paths with __ for /."""
    out = BytesIO()
    names = {name.replace("__", "/"): data for name, data in parts.items()}
    with zipfile.ZipFile(BytesIO(GUIDE)) as package, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        for entry in package.infolist():
            if entry.filename not in names:
                made.writestr(entry, package.read(entry))
        for name, data in names.items():
            made.writestr(name, data)
    return out.getvalue()


def locked():
    """A ZIP whose entries say that they are encrypted (APPNOTE 4.4.4, bit 0)."""
    data = bytearray(GUIDE)
    for mark, place in ((b"PK\x03\x04", 6), (b"PK\x01\x02", 8)):
        at = data.find(mark)
        while at >= 0:
            data[at + place] |= 1
            at = data.find(mark, at + 4)
    return bytes(data)


BODY = "<w:document xmlns:w='http://schemas.openxmlformats.org/wordprocessingml/2006/main'><w:body>{}</w:body></w:document>"


class Refused(TestCase):
    def refused(self, name, data, words):
        with self.assertRaises(ReadingError) as caught:
            read_file(name, data)
        self.assertIn(words, str(caught.exception))

    def test_a_zip_bomb(self):
        bomb = changed(**{"word__document.xml": b"<a>" + b" " * 400_000_000})
        self.assertLess(len(bomb), 1_000_000)
        self.refused("bomb.docx", bomb, "unpacks to far more than its size")

    def test_an_encrypted_file(self):
        self.refused("locked.docx", bytes.fromhex("d0cf11e0a1b11ae1") + bytes(4000), "locked with a password")
        self.refused("locked.docx", locked(), "locked with a password")

    def test_a_truncated_file(self):
        for length in (20, 400, len(GUIDE) // 2, len(GUIDE) - 30):
            self.refused("cut.docx", GUIDE[:length], "")

    def test_external_entities(self):
        with TemporaryDirectory() as folder:
            secret = Path(folder) / "secret.txt"
            secret.write_text("never to be read")
            entity = f'<!DOCTYPE a [<!ENTITY x SYSTEM "file://{secret}">]>'
            document = BODY.format("<w:p><w:r><w:t>&x;</w:t></w:r></w:p>")
            self.refused("x.docx", changed(**{"word__document.xml": entity + document}), "declares entities")
            laughs = '<!DOCTYPE a [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>'
            self.refused(
                "x.docx", changed(**{"word__document.xml": laughs + document.replace("&x;", "&b;")}), "entities"
            )

    def test_macros(self):
        self.refused("a.docx", changed(**{"word__vbaProject.bin": b"\xd0\xcf"}), "macros")

    def test_parts_that_are_missing_or_no_xml(self):
        self.refused("a.docx", changed(**{"word__document.xml": b"<w:document"}), "not proper XML")
        self.refused("a.docx", changed(**{"word__document.xml": b"\0\0\0"}), "not proper XML")

    def test_fifty_megabytes_of_html(self):
        self.refused("large.html", b"<p>" + b"words " * 8_500_000, "larger than 16 MB")

    def test_a_binary_file_by_the_name_of_a_text(self):
        self.refused("picture.md", (FIXTURES / "towpath-guide.docx").read_bytes()[:2000], "")
        self.refused("picture.md", b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0\x04\xb0\0\0\x03 \x08\x02\0\0\0", "no text")
        self.refused("film.txt", bytes(range(256)) * 40, "no text")

    def test_an_empty_file_and_a_pdf(self):
        self.refused("a.html", b" \n", "empty")
        self.refused("a.md", b"%PDF-1.7\n", "PDF")


class Read(TestCase):
    def test_ten_thousand_nested_elements(self):
        deep = BODY.format(
            "<w:tbl><w:tr><w:tc>" * 10_000 + "<w:p><w:r><w:t>deep</w:t></w:r></w:p>" + "</w:tc></w:tr></w:tbl>" * 10_000
        )
        with self.assertRaises(ReadingError):
            read_file("deep.docx", changed(**{"word__document.xml": deep}))
        for source in (
            "> " * 10_000 + "deep",
            "[" * 10_000 + "deep",
            "- " * 10_000 + "deep",
            "*a **a " * 5_000 + "deep",
        ):
            self.assertIn("deep", text_of(read_markdown(source).document))

    def test_every_encoding_is_told_from_the_others(self):
        words = "Schleusenwärter – écluse, 31 °C, “quay”"
        for encoding in ("utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "utf-32", "cp1252"):
            found = read_file("a.txt", words.encode(encoding)).document
            self.assertEqual(text_of(found), words, encoding)

    def test_an_encoding_that_nothing_names_is_told(self):
        page = "<p>Żółta łódź płynie przez kanał"
        for name in ("a.txt", "a.md", "a.html"):
            reading = read_file(name, page.encode("cp1250"))
            self.assertIn("Żółta łódź płynie przez kanał", text_of(reading.document))
            self.assertIn("was read as cp1250", reading.messages[0].sentence)
            self.assertFalse([each for each in read_file(name, page.encode()).messages if "UTF-8" in each.sentence])

    def test_what_a_page_declares_of_its_encoding_holds(self):
        for encoding, declared in (("koi8-r", "koi8-r"), ("shift_jis", "Shift_JIS"), ("cp1252", "iso-8859-1")):
            words = {"koi8-r": "Шлюз и тропа", "shift_jis": "運河の水門", "cp1252": "“écluse”"}[encoding]
            page = f'<html><meta charset="{declared}"><body><p>{words}</p>'.encode(encoding)
            self.assertEqual(text_of(read_file("a.html", page).document), words)

    def test_wrong_bytes_lose_only_themselves(self):
        found = read_file("a.md", b"Lock 4 is \xff\xfe open, \xc3\xa9t\xc3\xa9 too").document
        self.assertIn("Lock 4 is", text_of(found))
        self.assertIn("open", text_of(found))


class Memory(TestCase):
    """In a process of its own that may hold only so much."""

    MOST = 900 * 1024 * 1024

    def convert(self, name, data):
        with TemporaryDirectory() as folder:
            source = Path(folder) / name
            source.write_bytes(data)
            return subprocess.run(
                [sys.executable, "-m", "stillpage_core", "convert", str(source), str(Path(folder) / "out.txt")],
                cwd=ROOT,
                capture_output=True,
                text=True,
                check=False,
                preexec_fn=lambda: resource.setrlimit(resource.RLIMIT_AS, (self.MOST, self.MOST)),
            )

    def test_what_unpacks_to_gigabytes_is_refused_within_bounds(self):
        done = self.convert("bomb.docx", changed(**{"word__document.xml": b"<a>" + b" " * 800_000_000}))
        self.assertEqual(done.returncode, 2, done.stderr[-400:])
        self.assertIn("unpacks to far more", done.stderr)

    def test_the_largest_page_that_is_taken_is_read_within_bounds(self):
        done = self.convert("large.html", b"<p>words of a page</p>" * 100_000)
        self.assertEqual(done.returncode, 0, done.stderr[-400:])
