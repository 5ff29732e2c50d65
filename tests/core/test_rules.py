"""The core's own borders, its command line, and the smaller rules: addresses, anchors, pictures, comparing."""

import ast
import io
import json
import re
import sys
import zipfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

import stillpage_core
from stillpage_core.__main__ import main
from stillpage_core.comparing import places_that_differ
from stillpage_core.media.pictures import PictureError, check_size, sniff
from stillpage_core.media.shown import EDGE, USUAL
from stillpage_core.rules import shared
from stillpage_core.sites import AddressError, check_slug, page_path, slug_from_title
from stillpage_core.sites.addresses import free_number
from stillpage_core.writing.anchors import anchors_of, slug

from .documents import document, heading, paragraph

CORE = Path(stillpage_core.__file__).parent


class Borders(TestCase):
    MAY = {
        "selectolax",
        "langcodes",
        "lxml",
        "charset_normalizer",
        "markdown_it",
        "mdit_py_plugins",
        "latex2mathml",
        "pikepdf",
        "PIL",
        "rlottie_python",
    } | set(sys.stdlib_module_names)
    MAY_NOT = {"socket", "urllib.request", "http", "time", "sqlite3", "asyncio", "subprocess"}

    def test_the_core_imports_nothing_of_the_web_framework_nor_of_the_application(self):
        for file in CORE.rglob("*.py"):
            for node in ast.walk(ast.parse(file.read_text())):
                names = [alias.name for alias in node.names] if isinstance(node, ast.Import) else []
                if isinstance(node, ast.ImportFrom) and node.level == 0:
                    names = [node.module or ""]
                for name in names:
                    self.assertIn(name.split(".")[0], self.MAY, f"{file} imports {name}")
                    self.assertNotIn(name, self.MAY_NOT, f"{file} imports {name}")


class WhatBothSidesKnow(TestCase):
    def test_the_theme_has_the_widths_that_pictures_are_made_for(self):
        theme = (CORE.parent / "theme" / "page.css").read_text()
        self.assertIn(f"--measure: {USUAL.column}px;", theme)
        self.assertIn(f"--wide: {USUAL.wide}px;", theme)
        self.assertIn(f"--edge: {EDGE}px;", theme)

    def test_what_is_written_out_is_what_the_core_says(self):
        rules = shared()
        self.assertEqual(rules["anchors"]["folded"]["ß"], "ss")
        self.assertEqual(rules["pictures"]["edge"], EDGE)
        self.assertIn(".mkd", rules["files"]["texts"])
        self.assertIn("image/avif", rules["files"]["pictures"])

    def test_keys_of_answers_are_made_in_one_module_of_the_interface(self):
        sources = (CORE.parent / "web" / "src").rglob("*.ts*")
        makers = [
            file.name for file in sources if re.search(r"queryKey: \[|Queries\(\{ queryKey: \[", file.read_text())
        ]
        self.assertEqual(makers, [])

    def test_nobody_but_one_module_of_the_interface_reads_what_is_written_out(self):
        sources = (CORE.parent / "web" / "src").rglob("*.ts*")
        readers = [file.name for file in sources if "rules.generated" in file.read_text()]
        self.assertEqual(readers, ["rules.ts"])


class CommandLine(TestCase):
    def setUp(self):
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def run_it(self, *arguments):
        out, err = io.StringIO(), io.StringIO()
        with redirect_stdout(out), redirect_stderr(err):
            status = main([str(argument) for argument in arguments])
        return status, out.getvalue(), err.getvalue()

    def write(self, name, text):
        path = self.folder / name
        path.write_text(text, encoding="utf-8")
        return path

    def test_every_format_converts_to_every_other_and_keeps_the_words(self):
        source = self.write("a.md", "## Walks\n\nA *level* path.\n\n- one\n- two\n")
        every = ("json", "html", "md", "txt", "docx", "odt")
        for ending in every:
            first = self.folder / f"b.{ending}"
            told = "Kept: 1 paragraph, 1 heading, 1 list, 1 stressed passage\n"
            self.assertEqual(self.run_it("convert", source, first), (0, "", told))
            for other in every:
                second = self.folder / f"c.{other}"
                self.assertEqual(self.run_it("convert", first, second)[0], 0)
                third = self.folder / "d.txt"
                self.assertEqual(self.run_it("convert", second, third)[0], 0)
                self.assertEqual(third.read_text().split(), ["Walks", "A", "level", "path.", "-", "one", "-", "two"])

    def test_pictures_come_along_into_a_folder_and_out_of_it_again(self):
        docx = self.folder / "again.docx"
        guide = Path(__file__).parent.parent / "fixtures" / "towpath-guide.odt"
        status, _, told = self.run_it("convert", guide, self.folder / "guide.md")
        self.assertEqual(status, 0)
        self.assertIn("Kept: 5 paragraphs, 3 headings", told)
        self.assertIn("Mended: ", told)
        self.assertIn("Left out: ", told)
        (file,) = (each for each in self.folder.rglob("*") if each.suffix == ".png")
        self.assertIn(file.name, (self.folder / "guide.md").read_text())
        self.assertEqual(self.run_it("convert", self.folder / "guide.md", docx)[0], 0)
        with zipfile.ZipFile(docx) as package:
            pictures = [name for name in package.namelist() if name.startswith("word/media/")]
            self.assertEqual([package.read(name) for name in pictures], [file.read_bytes()])

    def test_check_is_1_only_when_a_finding_blocks(self):
        mild = self.write("mild.md", "#### Deep\n\n[here](https://a.example/)")
        status, out, _ = self.run_it("check", mild)
        self.assertEqual((status, out.count("\n")), (0, 2))
        side = '- one\n\n<div data-stillpage-region="side">\n\na\n\n- two\n\n</div>\n'
        _, out, _ = self.run_it("check", self.write("regions.md", side))
        self.assertEqual([line.split(":")[0] for line in out.splitlines()], ["1", "side 2"])
        status, out, _ = self.run_it("check", self.write("bad.md", "![](item:1)"), "--json")
        self.assertEqual((status, json.loads(out)[0]["check"]), (1, "picture-without-alt"))

    def test_outline(self):
        status, out, _ = self.run_it("outline", self.write("a.md", "## A\n\n### B\n"))
        self.assertEqual((status, out), (0, "2 A\n  3 B\n"))

    def test_bad_input_is_status_2_with_a_sentence(self):
        binary = self.folder / "x.md"
        binary.write_bytes(b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0\x04\xb0\0\0\x03 \x08\x02\0\0\0")
        old = self.folder / "a.doc"
        old.write_bytes(bytes.fromhex("d0cf11e0a1b11ae1") + bytes(504))
        for arguments, said in (
            (("convert", self.folder / "none.md", self.folder / "b.md"), "cannot be read"),
            (("convert", binary, self.folder / "b.md"), "no text, whatever its name says"),
            (("convert", self.write("empty.md", ""), self.folder / "b.md"), "This file is empty"),
            (("convert", self.write("a.md", "x"), self.folder / "b.doc"), "must end in one of"),
            (("convert", old, self.folder / "b.md"), "of the old binary form"),
            (("check", self.write("a.json", "{")), "not JSON"),
            (("check", self.write("b.json", '{"type":"doc"}')), "must hold block+"),
            (("check", self.write("c.json", "[" * 100_000)), "not JSON"),
        ):
            status, out, err = self.run_it(*arguments)
            self.assertEqual((status, out), (2, ""), arguments)
            self.assertIn(said, err)


class Addresses(TestCase):
    def test_parts_are_made_from_titles(self):
        for title, part in (
            ("Towpath walks", "towpath-walks"),
            ("  Før & after: Lock 4! ", "før-after-lock-4"),
            ("Écluse n° 4", "ecluse-n-4"),
            ("…", "page"),
            ("水路", "水路"),
        ):
            self.assertEqual(slug_from_title(title), part)
            check_slug(part)

    def test_reserved_parts_get_a_number(self):
        self.assertEqual(slug_from_title("Static"), "static-2")

    def test_a_free_number_is_found_without_asking_for_all_that_are_taken(self):
        for many in (0, 1, 5, 8, 9, 100, 12_345):
            asked = []
            found = free_number(lambda number, many=many, asked=asked: asked.append(number) or number < 2 + many)
            self.assertEqual(found, 2 + many)
            self.assertLessEqual(len(asked), 40)
        # Where some between were given back, any that is free will do.
        self.assertNotIn(free_number({*range(2, 500), *range(600, 5000)}.__contains__), range(2, 500))

    def test_wrong_parts_are_refused_with_a_sentence(self):
        for part in ("", "Upper", "a b", "a--b", "-a", "a/b", "..", "a" * 81, "a%20", "a_b"):
            with self.assertRaises(AddressError):
                check_slug(part)

    def test_paths(self):
        self.assertEqual(page_path("/visit", "walks"), "/visit/walks")
        self.assertEqual(page_path(None, "visit"), "/visit")
        with self.assertRaises(AddressError):
            page_path(None, "media")
        with self.assertRaises(AddressError):
            page_path("/" + "a" * 495, "walks")

    def test_anchors_are_one_of_a_kind(self):
        headings = [heading(2, text) if text else heading(2) for text in ("A", "a!", "", "top")]
        self.assertEqual(list(anchors_of(document(*headings)).values()), ["a", "a-2", "section", "top-2"])
        kept = document(heading(2, "Walks"), heading(2, "Renamed", anchor="walks"), heading(3, "Copy", anchor="walks"))
        self.assertEqual(list(anchors_of(kept).values()), ["walks-2", "walks", "walks-3"])
        self.assertLessEqual(len(slug("word " * 60)), 80)


class Pictures(TestCase):
    def test_the_bytes_decide(self):
        # Signatures of the WHATWG MIME Sniffing Standard, 6.1.
        for start, name in (
            (b"\xff\xd8\xff\xe0", "JPEG"),
            (b"\x89PNG\r\n\x1a\n", "PNG"),
            (b"RIFF\0\0\0\0WEBPVP8 ", "WebP"),
            (b"GIF89a", "GIF"),
            (b"\0\0\0\x1cftypavif", "AVIF"),
            (b"<?xml version='1.0'?>\n<svg xmlns='http://www.w3.org/2000/svg'>", "SVG"),
        ):
            self.assertEqual(sniff(start).name, name)

    def test_what_is_no_picture_is_refused_with_what_it_is(self):
        for start, said in (
            (b"", "empty"),
            (b"%PDF-1.7", "PDF"),
            (b"MZ\x90", "no picture that can be read"),
        ):
            with self.assertRaises(PictureError) as caught:
                sniff(start)
            self.assertIn(said, str(caught.exception))
            self.assertIn("JPEG, PNG, WebP, AVIF, GIF or SVG", str(caught.exception))

    def test_too_many_pixels_are_refused(self):
        check_size(9000, 6000)
        for size in ((20_000, 20_000), (0, 5), (100_000, 1_000)):
            with self.assertRaises(PictureError):
                check_size(*size)


class Comparing(TestCase):
    def test_places_are_runs_of_changed_blocks(self):
        one = document(heading(2, "a"), paragraph("b"), paragraph("c"), paragraph("d"))
        other = document(heading(2, "A"), paragraph("b"), paragraph("C"), paragraph("D"), paragraph("d"))
        self.assertEqual(places_that_differ(one, one), 0)
        self.assertEqual(places_that_differ(one, other), 2)
