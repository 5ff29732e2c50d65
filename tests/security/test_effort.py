"""Small things that would take long: every way in holds to its budget, and says so. OWASP ASVS 4.0.3, 12.1, 13.1."""

import json
import sys
import time
import zipfile
from contextlib import suppress
from io import BytesIO
from unittest import TestCase

from django.test import override_settings
from hypothesis import given, settings
from hypothesis import strategies as st

from stillpage import computing as watching
from stillpage.computing import computing, resting
from stillpage_core.budget import Budget, TooMuch, limited, spend
from stillpage_core.comparing import merge
from stillpage_core.document import document_from_json
from stillpage_core.document.node import document_of, make
from stillpage_core.document.tables import WIDEST, grid_of, squared
from stillpage_core.document.walking import text_of
from stillpage_core.errors import CoreError, ReadingError
from stillpage_core.formats import read_file
from stillpage_core.reading import read_html, read_markdown, read_text
from stillpage_core.writing.html import REGION

from ..api.base import ApiTest, a_document

K = 1000


def a_docx(body):
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("[Content_Types].xml", "<Types/>")
        archive.writestr(
            "word/document.xml",
            '<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>'
            f"{body}</w:body></w:document>",
        )
    return out.getvalue()


SHAPES = {
    "elements within each other": lambda n: read_html("<div>" * n),
    "lists within each other": lambda n: read_html("<ul><li>a" * n),
    "quotations within each other": lambda n: read_html("<blockquote>" * n + "x"),
    "tables within each other": lambda n: read_html("<table><tr><td>" * n),
    "formatting made anew for each block": lambda n: read_html(
        "".join(f"<b id={i}>" for i in range(n // 20)) + "<p>x" * n
    ),
    "a row of many cells": lambda n: read_html("<table><tr>" + "<td>x" * n + "</table>"),
    "cells that reach far": lambda n: read_html("<table>" + "<tr><td colspan=1000 rowspan=1000>x" * (n // 8)),
    "a table in Markdown": lambda n: read_markdown("|a|b|\n|-|-|\n" + "|x|y|\n" * n),
    "a wide table in Markdown": lambda n: read_markdown("|a" * n + "|\n" + "|-" * n + "|\n"),
    "quotations in Markdown": lambda n: read_markdown(">" * n + "x"),
    "brackets in Markdown": lambda n: read_markdown("[" * n),
    "stars in Markdown": lambda n: read_markdown("*a_" * n),
    "a typed list": lambda n: read_text("- a\n" * n),
    "a typed list that goes deeper": lambda n: read_text("\n".join(" " * (i % 60) + "1. a" for i in range(n))),
    "regions": lambda n: read_html("".join(f'<div {REGION}="a{i}">x</div>' for i in range(n // 2))),
    "links to notes": lambda n: read_html("".join(f'<p id="a{i}">W<a href="#a{i}">1</a></p>' for i in range(n // 8))),
    "paragraphs of a DOCX": lambda n: read_file("a.docx", a_docx("<w:p><w:r><w:t>x</w:t></w:r></w:p>" * n)),
}


def lines_run(act, size):
    """How many lines of Python are run: the same on every machine, however busy it is."""
    count = 0

    def line(frame, event, _):
        nonlocal count
        count += event == "line"
        return line

    before = sys.gettrace()
    sys.settrace(line)
    try:
        with suppress(ReadingError):
            act(size)
    finally:
        sys.settrace(before)
    return count


class Linear(TestCase):
    def test_four_times_the_size_takes_about_four_times_the_work(self):
        """Every one of these took with the square of its size: sixteen times."""
        for name, act in SHAPES.items():
            with self.subTest(name):
                lines_run(act, 100)
                small, large = lines_run(act, 300), lines_run(act, 1200)
                self.assertLess(large, 6 * small + 2000)

    def test_a_document_of_thousands_of_regions_is_read_and_merged_at_once(self):
        """Each of these looked at every region for every region: minutes for what takes a second."""
        whole = document_of([make("paragraph")], [(f"a{number}", [_paragraph("b")]) for number in range(40 * K)])
        self.assertEqual(document_from_json(whole.to_json()), whole)
        mine = whole.with_content([*whole.content[:-1], whole.content[-1].with_content([_paragraph("mine")])])
        self.assertEqual(merge(whole, mine, whole).document, mine)

    def test_what_nests_by_the_thousand_is_refused_with_a_sentence(self):
        for html in ("<div>" * 40 * K, "<ul><li>a" * 20 * K, "".join(f"<b id={i}>" for i in range(2 * K)) + "<p>" * K):
            with self.assertRaisesRegex(ReadingError, "thousands deep.*Nothing was read"):
                read_html(html)

    def test_what_people_write_is_not(self):
        html = "<div>" * 200 + "<ul><li>" * 12 + "<p><b>Words</b> and <i>more</i>.</p>" * 3 * K
        self.assertIn("Words and more", text_of(read_html(html).document))

    def test_cells_that_reach_beyond_all_others_lose_no_word(self):
        rows = [
            make("table_row", [make("table_cell", [make("paragraph")], colspan=WIDEST, rowspan=3)]),
            make("table_row", [make("table_cell", [_paragraph("below")])]),
            make("table_row", [make("table_cell", [_paragraph("last")]), make("table_cell", [_paragraph("beside")])]),
        ]
        fitted = squared(rows)
        self.assertIsNone(grid_of(fitted).problem)
        self.assertEqual("".join(text_of(row) for row in fitted).split(), ["below", "last", "beside"])

    def test_a_document_of_cells_that_reach_far_is_judged_at_once(self):
        cell = {"type": "table_cell", "attrs": {"colspan": 200, "rowspan": 200}, "content": [{"type": "paragraph"}]}
        row = {"type": "table_row", "content": [cell] * 20}
        table = {"type": "table", "content": [{"type": "table_grid", "content": [row] * 200}]}
        document = {"type": "doc", "content": [table]}

        def judged(_):
            with self.assertRaises(CoreError):
                document_from_json(document)

        # Four thousand cells; each of them alone reaches over forty thousand places.
        self.assertLess(lines_run(judged, 0), 4_000_000)


def _paragraph(words):
    from stillpage_core.document.node import text_node

    return make("paragraph", [text_node(words)])


class Steps(TestCase):
    @settings(deadline=None)
    @given(
        st.lists(
            st.sampled_from(
                ["<p>", "<li>", "<ul>", "<td>", "<table>", "<b>", "</b>", "x ", "|", "\n", "- ", "> ", "#", "*", "1. "]
            ),
            max_size=400,
        ),
        st.integers(0, 3000),
    )
    def test_whatever_is_read_ends_within_its_steps_or_says_that_it_does_not(self, pieces, steps):
        text = "".join(pieces)
        for read in (read_html, read_markdown, read_text):
            budget = Budget(steps)
            try:
                with limited(budget):
                    read(text)
            except (TooMuch, ReadingError):
                continue
            self.assertGreaterEqual(budget.left, 0)

    @settings(deadline=None)
    @given(st.integers(1, 40))
    def test_steps_grow_with_the_size_and_no_faster(self, times):
        piece = "<h2>A</h2><p>b <b>c</b></p><ul><li>d<li>e</ul><table><tr><td>f<td>g</table>"

        def spent(html):
            budget = Budget(10**9)
            with limited(budget):
                read_html(html)
            return 10**9 - budget.left

        self.assertLess(spent(piece * times), 1.2 * times * spent(piece) + 200)

    def test_the_clock_is_looked_at_now_and_then(self):
        looks = []
        with self.assertRaises(TooMuch), limited(Budget(10**6, lambda: looks.append(1) or len(looks) > 3)):
            for _ in range(10**6):
                spend()
        self.assertEqual(len(looks), 4)

    def test_without_a_budget_nothing_is_counted(self):
        spend(10**12)


class Watched(TestCase):
    def forever(self):
        while True:
            pass

    def test_computation_that_counts_no_steps_is_broken_off_all_the_same(self):
        with override_settings(COMPUTING_SECONDS=0.3), self.assertRaises(TooMuch), computing():
            self.forever()

    def test_what_must_not_be_broken_off_is_not(self):
        done = []
        with override_settings(COMPUTING_SECONDS=0.05):
            try:
                with computing():
                    with resting():
                        end = time.process_time() + 0.8
                        while time.process_time() < end:
                            pass
                        done.append(True)
                    self.forever()
            except TooMuch:
                pass
        self.assertEqual(done, [True])

    def test_nothing_comes_after_the_work_is_done(self):
        with override_settings(COMPUTING_SECONDS=0.2):
            for _ in range(30):
                try:
                    with computing():
                        end = time.process_time() + 0.39
                        while time.process_time() < end:
                            pass
                except TooMuch:
                    pass
                for _ in range(1000):
                    pass
        self.assertEqual(watching._watch.watched, set())

    def test_many_threads_have_a_time_of_their_own(self):
        from concurrent.futures import ThreadPoolExecutor

        def quick(_):
            with computing():
                return read_html("<p>x</p>").document is not None

        def slow():
            with computing():
                self.forever()

        with override_settings(COMPUTING_SECONDS=0.3), ThreadPoolExecutor(4) as pool:
            late = pool.submit(slow)
            self.assertTrue(all(pool.map(quick, range(50))))
            with self.assertRaises(TooMuch):
                late.result()


class Told(ApiTest):
    """Each way in says that it was too much, and loses nothing."""

    def test_pasting_reading_checking_and_saving(self):
        long = a_document(*["x"] * 2000)
        before = self.walks.working_copy.revision
        place = {"container": "region", "under": 1, "taken": []}
        text = {"title": "T", "description": "", "document": long}
        here = f"/pages/{self.walks.pk}"
        with override_settings(COMPUTING_STEPS=300):
            for method, path, body in (
                ("POST", "/paste", {**place, "html": "<p>x" * 1000}),
                ("POST", "/paste", {**place, "text": "- x\n" * 1000}),
                ("POST", "/source/read", {"html": "<p>x" * 1000}),
                ("POST", "/source", {"document": long}),
                ("POST", "/check", {"document": long}),
                ("PUT", f"{here}/working-copy", {**text, "base": before}),
                ("POST", f"{here}/check", text),
                ("POST", f"{here}/listen", text),
            ):
                said = self.call(method, path, body, 422)
                self.assertEqual(said["title"], "This takes too long", path)
                self.assertIn("Nothing was changed", said["detail"])
            answer = self.client.post("/api/read", {**place, "file": _named(b"# A\n\n" + b"x\n\n" * 1000)})
            self.assertEqual((answer.status_code, answer.json()["title"]), (422, "This takes too long"))
        self.walks.working_copy.refresh_from_db()
        self.assertEqual(self.walks.working_copy.revision, before)

    def test_of_an_import_the_one_file_is_told_and_the_others_become_pages(self):
        files = [_named(b"x\n\n" * 2000, "long.md"), _named(b"# Short\n\nWords.", "short.md")]
        with override_settings(COMPUTING_STEPS=2000):
            answer = self.client.post(f"/api/sites/{self.site.pk}/import", {"files": files})
            last = json.loads(b"".join(answer.streaming_content).splitlines()[-1])
        self.assertEqual([page["title"] for page in last["pages"]], ["Short"])
        self.assertEqual(last["refused"][0]["name"], "long.md")
        self.assertIn("more computing", last["refused"][0]["why"])


def _named(data, name="a.md"):
    file = BytesIO(data)
    file.name = name
    return file
