"""Lists of downloads on pages: what readers are told of each file, also after it was replaced, and in files."""

import zipfile
from io import BytesIO

from stillpage.library import tasks
from stillpage.library.models import Item
from stillpage.library.receiving import receive, replace
from stillpage_core.document.node import document_of

from ..core.documents import download, downloads, paragraph
from .base import ApiTest


def pdf(size):
    """The bytes of a PDF, about so many."""
    return b"%PDF-1.4\n%" + b"x" * size + b"\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF\n"


class OnPages(ApiTest):
    def setUp(self):
        super().setUp()
        self.form, _ = receive(BytesIO(pdf(100)), self.author, name="Boat licence form.pdf")
        self.guide, _ = receive(BytesIO(pdf(4000)), self.author, name="Guide.pdf")
        Item.objects.filter(pk=self.guide.pk).update(language="cy", length=3)
        made = downloads(
            download(self.form.pk, words="The form", description="For boats & barges."),
            download(self.guide.pk),
            title="To take away",
            new_window=True,
        )
        self.save(self.walks, document_of([paragraph("The way."), made]).to_json(), None)

    def shown(self):
        self.render_all()
        return self.visit_page(self.walks.path).content.decode()

    def test_readers_are_told_what_each_file_is_and_follow_it_when_it_is_replaced(self):
        self.publish(self.walks)
        html = self.shown()
        self.assertIn('<p class="downloads-title">To take away</p>', html)
        self.assertIn("The form <span", html)
        self.assertIn("(PDF, 147 bytes)", html)
        self.assertIn("(PDF, 4 kB, 3 pages, Cymraeg)", html)
        self.assertIn("For boats &amp; barges.", html)
        address = html.split('<li><a href="')[1].split('"')[0]
        self.assertEqual(self.visit_page(address).status_code, 200)
        replace(self.form, BytesIO(pdf(2000)), "newer.pdf")
        tasks.read_words.func(self.form.pk)
        later = self.shown()
        self.assertIn("(PDF, 2 kB)", later)
        self.assertNotIn(address, later)

    def test_its_documents_know_that_they_are_used(self):
        uses = self.call("GET", f"/items/{self.form.pk}/uses")
        self.assertEqual([use["page"]["id"] for use in uses], [self.walks.pk])

    def test_it_goes_along_in_every_format(self):
        for ending in ("docx", "odt", "md", "html", "txt"):
            data = self.client.get(f"/api/pages/{self.walks.pk}/export/{ending}").content
            if data.startswith(b"PK"):
                with zipfile.ZipFile(BytesIO(data)) as archive:
                    data = b"".join(archive.read(name) for name in archive.namelist())
            self.assertIn(b"/media/", data, ending)
            self.assertIn(b"The form", data, ending)
            self.assertIn(b"For boats &", data, ending)
