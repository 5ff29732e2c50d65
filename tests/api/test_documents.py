"""What is found out of documents on their way in: said to the keeper, and checked on pages."""

import shutil
from io import BytesIO
from pathlib import Path
from unittest import skipUnless
from unittest.mock import patch

from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from stillpage.library import documents
from stillpage.library.documents import LONG_SIDE, office, read_document
from stillpage.library.files import address_of
from stillpage.library.keeping import FIRST_PAGE
from stillpage.library.models import Item
from stillpage.library.receiving import receive, replace
from stillpage.library.search import first_of
from stillpage.library.sweeping import sweep
from stillpage_core.errors import CoreError
from stillpage_core.reading import read_markdown
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.docx import docx

from ..papers import a_pdf
from .base import ApiTest, a_document, blocks_in

FIXTURES = Path(__file__).parents[1] / "fixtures"
WORDS = "The windlass fits every sluice of the canal and its branches."


class DocumentsTest(ApiTest):
    def paper(self, data, name="paper.pdf"):
        item, _ = receive(SimpleUploadedFile(name, data), self.author)
        read_document(item.pk)
        item.refresh_from_db()
        return item

    def pictures(self, item):
        return list(item.files.filter(cut=FIRST_PAGE, version=item.version).order_by("width"))

    def told(self, item):
        return self.call("GET", f"/items/{item.pk}")

    def lacks(self, item):
        return [each["says"].split(":")[0] for each in self.told(item)["document"]["wanting"]]


class Found(DocumentsTest):
    def test_a_pdf_says_what_it_is_and_its_first_page_stands_for_it(self):
        item = self.paper(a_pdf(WORDS, pages=3, title="Sluices", language="cy", tagged=True))
        told = self.told(item)
        self.assertEqual(told["length"], 3)
        self.assertEqual(told["language"], "cy")
        pdf = told["document"]["pdf"]
        self.assertEqual((pdf["title"], pdf["tagged"], pdf["locked"]), ("Sluices", True, False))
        self.assertEqual(told["document"]["wanting"], [])
        small, large = self.pictures(item)
        self.assertEqual((small.width, large.height), (320, LONG_SIDE))
        self.assertAlmostEqual(large.width / large.height, 595 / 842, places=2)
        self.assertTrue(told["thumbnail"].endswith(small.name))
        with default_storage.open(large.name) as stored, Image.open(BytesIO(stored.read())) as page:
            self.assertEqual(page.size, (large.width, large.height))
            self.assertLess(min(page.convert("L").getdata()), 100)
        answer = self.client.get(told["thumbnail"])
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/webp"))
        # A link gives readers the document itself.
        self.assertEqual(told["link_format"], "PDF")

    def test_a_language_that_somebody_has_said_stays(self):
        item, _ = receive(SimpleUploadedFile("a.pdf", a_pdf(WORDS, language="cy")), self.author)
        Item.objects.filter(pk=item.pk).update(language="en")
        read_document(item.pk)
        self.assertEqual(self.told(item)["language"], "en")

    def test_what_readers_miss_is_told_with_what_to_do(self):
        self.assertEqual(len(self.lacks(self.paper(a_pdf(WORDS)))), 3)
        self.assertEqual(self.lacks(self.paper(a_pdf())), ["It holds no text"])
        told = self.told(self.paper(a_pdf(WORDS, title="A", language="en")))["document"]
        self.assertIn("tags", told["wanting"][0]["says"])
        self.assertIn("PDF/UA", told["wanting"][0]["remedy"])

    def test_a_version_that_takes_its_place_is_looked_at_anew(self):
        item = self.paper(a_pdf(WORDS, pages=2))
        old = self.pictures(item)
        replace(item, SimpleUploadedFile("b.pdf", a_pdf(WORDS, title="A", language="en", tagged=True)))
        item.refresh_from_db()
        read_document(item.pk)
        self.assertEqual(self.lacks(item), [])
        item.refresh_from_db()
        self.assertEqual((item.length, item.thumbnail), (1, self.pictures(item)[0].name))
        # What was to be seen of the first is not given out any more to whoever does not work here.
        self.client.logout()
        self.assertEqual(self.client.get(address_of(old[1])).status_code, 410)

    def test_one_that_was_replaced_while_it_was_read_leaves_no_trace_of_what_was_read(self):
        item, _ = receive(SimpleUploadedFile("a.pdf", a_pdf(WORDS, pages=2)), self.author)
        words = documents._words

        def meanwhile(path):
            replace(Item.objects.get(pk=item.pk), SimpleUploadedFile("b.pdf", a_pdf(WORDS, pages=5)))
            return words(path)

        with patch.object(documents, "_words", meanwhile):
            self.assertEqual(read_document(item.pk), 0)
        item.refresh_from_db()
        self.assertLess(item.made, item.wanted)
        self.assertEqual(item.length, 0)
        read_document(item.pk)
        self.assertEqual(self.told(item)["length"], 5)

    def test_a_picture_of_a_first_page_that_is_lost_is_made_again(self):
        item = self.paper(a_pdf(WORDS))
        default_storage.delete(self.pictures(item)[0].name)
        self.assertEqual(sweep(mend=True).lost, [self.pictures(item)[0].name])
        item.refresh_from_db()
        self.assertLess(item.made, item.wanted)
        read_document(item.pk)
        self.assertTrue(default_storage.exists(self.pictures(item)[0].name))

    def test_without_libreoffice_a_text_has_no_picture_and_it_is_said_why(self):
        data = docx(read_markdown(WORDS).document, Carried(title="Guide"))
        with patch.object(documents, "office", return_value=""), patch("stillpage.api.shapes.office", return_value=""):
            item = self.paper(data, "guide.docx")
            self.assertIn("LibreOffice", self.told(item)["document"]["without_picture"])
        self.assertEqual((self.pictures(item), item.problem, item.made), ([], "", item.wanted))

    @skipUnless(office(), "LibreOffice is not installed")
    def test_with_it_a_text_has_one(self):
        item = self.paper(docx(read_markdown(WORDS).document, Carried(title="Guide")), "guide.docx")
        self.assertEqual(len(self.pictures(item)), 2)
        self.assertEqual(self.told(item)["document"]["without_picture"], "")

    @skipUnless(shutil.which("localc"), "LibreOffice's spreadsheets are not installed")
    def test_with_its_spreadsheets_tables_have_one(self):
        for name in ("stoppages.xlsx", "stoppages.ods"):
            with self.subTest(name):
                item = self.paper((FIXTURES / name).read_bytes(), name)
                self.assertEqual((item.problem, len(self.pictures(item))), ("", 2))
                self.assertEqual(self.told(item)["document"]["without_picture"], "")
                with default_storage.open(self.pictures(item)[1].name) as stored, Image.open(stored) as page:
                    # Dark signs stand on light paper.
                    darkest, lightest = page.convert("L").getextrema()
                self.assertLess(darkest, 80)
                self.assertGreater(lightest, 240)


class Bad(DocumentsTest):
    def test_one_that_opens_with_a_password_is_kept_and_told(self):
        item = self.paper(a_pdf(WORDS, password="open sesame"))
        self.assertIn("password", item.problem)
        self.assertEqual((self.pictures(item), item.thumbnail, item.made), ([], "", item.wanted))
        self.assertIn("password", self.told(item)["document"]["wanting"][0]["says"])

    def test_one_that_is_broken_is_kept_and_told(self):
        item = self.paper(b"%PDF-1.7\n1 0 obj\n<<>>\nendobj\n%%EOF")
        self.assertIn("cannot be read", item.problem)
        self.assertEqual(self.told(item)["document"]["wanting"], [])

    def test_five_thousand_pages_are_counted_and_the_first_is_shown(self):
        item = self.paper(a_pdf(WORDS, pages=5000))
        self.assertEqual((item.length, item.problem, len(self.pictures(item))), (5000, "", 2))

    def test_a_page_of_a_hundred_metres_takes_no_more_than_any_other(self):
        # 100 m are 283,465 points; ISO 32000-1, annex C, has 14,400 for the most that readers need to show.
        for size in ((595, 283_465), (283_465, 595), (283_465, 283_465)):
            item = self.paper(a_pdf(WORDS, size=size))
            self.assertEqual(item.problem, "")
            for file in self.pictures(item):
                self.assertLessEqual(max(file.width, file.height), LONG_SIDE)

    def test_one_whose_words_take_too_long_is_not_called_a_scan(self):
        with patch.object(documents, "_words", return_value=None):
            item = self.paper(a_pdf(title="A", language="en", tagged=True))
        self.assertEqual((self.lacks(item), item.length), ([], 1))

    def test_one_that_only_the_other_program_can_read_keeps_its_words(self):
        with patch.object(documents, "_facts", side_effect=CoreError("This PDF cannot be read.")):
            item = self.paper(a_pdf(WORDS))
        self.assertEqual((item.problem, first_of(Item.objects.all(), "windlass fits", 0, 9)), ("", [item.pk]))
        self.assertEqual(len(self.pictures(item)), 2)

    def test_script_in_one_is_told_and_not_run(self):
        told = self.told(self.paper(a_pdf(WORDS, script=True)))
        self.assertTrue(told["document"]["pdf"]["script"])

    def test_programs_that_are_missing_or_do_not_end_leave_a_document_as_it_is(self):
        tricks = {"is not there": [], "fails": ["false"], "does not end": ["sleep", "60"], "says nothing": ["true"]}
        for trick, instead in tricks.items():
            with (
                patch.object(documents, "limited", lambda *_, instead=instead: instead or ["/nowhere"]),
                patch.object(documents, "SECONDS", 0.2),
            ):
                item = self.paper(a_pdf(f"{WORDS} {trick}"))
            self.assertEqual((item.length, item.thumbnail, item.made), (0, "", item.wanted), trick)
            self.assertEqual(self.told(item)["document"]["pdf"], None)


class OnPages(DocumentsTest):
    def found(self, item):
        document = a_document("See ")
        mark = {"type": "link", "attrs": {"href": f"item:{item.pk}", "title": None, "new_window": False}}
        blocks_in(document)[0]["content"].append({"type": "text", "text": "the paper", "marks": [mark]})
        body = {"document": document, "title": "Towpath walks", "description": ""}
        found = self.call("POST", f"/pages/{self.walks.pk}/check", body)["findings"]
        return {each["check"]: each["sentence"] for each in found if each["check"].startswith("document-")}

    def test_the_page_check_tells_what_a_document_lacks(self):
        self.assertEqual(list(self.found(self.paper(a_pdf()))), ["document-unread"])
        self.assertIn("a language and a title", self.found(self.paper(a_pdf(WORDS)))["document-untagged"])
        whole = a_pdf(WORDS, title="A", language="en", tagged=True)
        self.assertEqual(self.found(self.paper(whole)), {})
