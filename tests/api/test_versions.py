"""Versions, equations, signs, headings and documents over HTTP, with bad input of each sort."""

import zipfile
from io import BytesIO
from urllib.parse import unquote

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile

from stillpage.library.models import File, Item
from stillpage.people.models import Role
from stillpage.sites.themes import palette
from stillpage.written.models import Version
from stillpage_core.document.node import make

from ..core.documents import document, heading, link, paragraph, words
from .base import ApiTest, a_document, a_person, a_picture

PDF = b"%PDF-1.7\n" + b"0" * 500 + b"\n%%EOF\n"


def office(part, mimetype=None, extra=()):
    """A ZIP with the parts by which an office document is known."""
    out = BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        if mimetype:
            archive.writestr("mimetype", mimetype)
        for name in (part, *extra):
            archive.writestr(name, "<x/>")
    return out.getvalue()


class Versions(ApiTest):
    def test_a_version_is_kept_by_name_listed_and_read(self):
        path = f"/pages/{self.walks.pk}/versions"
        self.save(self.walks, a_document("one"), 1)
        body = {"title": "Towpath walks", "description": "", "document": a_document("one"), "note": "  Before\n it "}
        kept = self.call("POST", path, body, status=201)
        self.assertEqual((kept["note"], kept["reason"], kept["by"]), ("Before it", "named", "Wren Osier"))
        self.publish(self.walks)
        listed = self.call("GET", path)
        self.assertEqual([each["reason"] for each in listed], ["published", "named"])
        text = self.call("GET", f"{path}/{kept['id']}")
        self.assertEqual(text["document"]["content"], a_document("one")["content"])

    def test_a_version_without_a_name_or_with_a_bad_text_is_refused_and_nothing_is_kept(self):
        path = f"/pages/{self.walks.pk}/versions"
        good = {"title": "T", "description": "", "document": a_document("x"), "note": "name"}
        for change in ({"note": "  "}, {"note": "x" * 201}, {"title": ""}, {"document": {"type": "doc"}}):
            self.call("POST", path, {**good, **change}, status=422)
        self.assertFalse(Version.objects.exists())

    def test_a_version_of_another_page_is_not_found(self):
        body = {"title": "T", "description": "", "document": a_document("x"), "note": "name"}
        kept = self.call("POST", f"/pages/{self.walks.pk}/versions", body, status=201)
        self.call("GET", f"/pages/{self.visit.pk}/versions/{kept['id']}", status=404)
        self.assertEqual(self.client.get(f"/version/{self.visit.pk}/{kept['id']}").status_code, 404)
        answer = self.client.get(f"/version/{self.walks.pk}/{kept['id']}")
        self.assertContains(answer, '<div class="text" data-region="main"><p>x</p></div>')
        self.assertContains(answer, '<meta name="robots" content="noindex">')

    def test_the_live_text_is_read_where_there_is_one(self):
        self.call("GET", f"/pages/{self.walks.pk}/live", status=404)
        self.save(self.walks, a_document("live"), 1)
        self.publish(self.walks)
        self.save(self.walks, a_document("later"), 2)
        text = self.call("GET", f"/pages/{self.walks.pk}/live")
        self.assertEqual(text["document"]["content"], a_document("live")["content"])

    def test_a_reader_gets_nothing_of_all_this(self):
        body = {"title": "T", "description": "", "document": a_document("x"), "note": "name"}
        path = f"/pages/{self.walks.pk}"
        kept = self.call("POST", f"{path}/versions", body, status=201)
        self.as_person(a_person("fen", Role.READER))
        for method, route, given in (
            ("GET", f"{path}/versions", None),
            ("GET", f"{path}/versions/{kept['id']}", None),
            ("POST", f"{path}/versions", body),
            ("GET", f"{path}/live", None),
            ("GET", f"{path}/headings", None),
            ("POST", "/equation", {"latex": "x"}),
            ("GET", "/signs?q=euro", None),
        ):
            with self.subTest(route=route):
                self.call(method, route, given, status=403)
        self.assertEqual(self.client.get(f"/version/{self.walks.pk}/{kept['id']}").status_code, 403)
        keeper = a_person("keeper", Role.KEEPER)
        self.as_person(keeper)
        self.call("GET", f"{path}/versions")
        self.call("POST", f"{path}/versions", body, status=403)

    def test_saving_what_was_kept_before_the_format_grew_changes_nothing(self):
        old = {"type": "doc", "attrs": {"version": 1}, "content": [{"type": "paragraph"}]}
        copy = self.walks.working_copy
        copy.document = old
        copy.save()
        saved = self.save(self.walks, a_document(), copy.revision)
        self.assertEqual(saved["revision"], copy.revision)


class Aids(ApiTest):
    def test_an_equation_becomes_mathml_or_the_place_of_its_fault_is_told(self):
        found = self.call("POST", "/equation", {"latex": r"\frac{a}{b}", "display": True})
        self.assertTrue(found["mathml"].startswith('<math display="block">'))
        problem = self.call("POST", "/equation", {"latex": "x + }"}, status=422)
        self.assertEqual((problem["place"], problem["detail"]), (4, "This brace closes nothing."))
        self.call("POST", "/equation", {"latex": "x" * 6000}, status=422)

    def test_signs_are_found_by_name(self):
        self.assertEqual(self.call("GET", "/signs?q=euro%20sign")[0], {"text": "€", "name": "euro sign"})
        self.assertEqual(self.call("GET", "/signs?q="), [])

    def test_headings_have_the_addresses_that_readers_have(self):
        node = document(heading(2, "By train"), heading(3, "By train"), heading(2), paragraph("x"))
        self.save(self.visit, node.to_json(), 1, title="Visit")
        found = self.call("GET", f"/pages/{self.visit.pk}/headings")
        self.assertEqual([(each["level"], each["anchor"]) for each in found], [(2, "by-train"), (3, "by-train-2")])
        self.publish(self.visit)
        self.save(self.visit, document(heading(2, "Later")).to_json(), 2, title="Visit")
        self.assertEqual(len(self.call("GET", f"/pages/{self.visit.pk}/headings")), 2)
        html = self.visit_page("/visit").content.decode()
        self.assertIn('<h3 id="by-train-2">', html)

    def test_a_page_comes_with_the_palette_of_its_theme_and_the_weight_of_its_frame(self):
        found = self.call("GET", f"/pages/{self.walks.pk}")
        self.assertIn("lead", found["palette"]["styles"])
        tones = {tone["name"]: tone["ratios"] for tone in found["palette"]["tones"]}
        self.assertGreaterEqual(tones["reed"]["page"], 4.5)
        self.assertEqual(tones["mist"], {})
        self.assertGreater(found["frame_weight"], 20_000)


class Documents(ApiTest):
    def add(self, data, name, status=201):
        answer = self.client.post("/api/items", {"file": SimpleUploadedFile(name, data)})
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()

    def test_documents_are_told_by_their_bytes(self):
        opendocument = "application/vnd.oasis.opendocument"
        for data, form in (
            (PDF, "PDF"),
            (office("word/document.xml"), "DOCX"),
            (office("xl/workbook.xml"), "XLSX"),
            (office("content.xml", f"{opendocument}.text"), "ODT"),
            (office("content.xml", f"{opendocument}.spreadsheet"), "ODS"),
        ):
            item = self.add(data, "Lock_plan.bin")
            self.assertEqual((item["kind"], item["format"], item["title"]), ("document", form, "Lock plan"))
            self.assertEqual((item["files"], item["size"]), ([], len(data)))

    def test_a_pdf_is_shown_and_everything_else_is_handed_over_under_its_title(self):
        pdf = self.client.get(self.add(PDF, "Ünder.pdf")["address"])
        self.assertEqual((pdf.status_code, pdf["Content-Type"]), (200, "application/pdf"))
        self.assertIn("Ünder.pdf", unquote(pdf["Content-Disposition"]))
        self.assertNotIn("sandbox", pdf["Content-Security-Policy"])
        other = self.client.get(self.add(office("word/document.xml"), "Plan.docx")["address"])
        self.assertTrue(other["Content-Disposition"].startswith('attachment; filename="Plan.docx"'))
        self.assertIn("sandbox", other["Content-Security-Policy"])

    def test_documents_that_cannot_be_used_say_why_and_nothing_is_kept(self):
        whole = office("word/document.xml")
        for data, said in (
            (PDF[:300], "ends before its end"),
            (office("word/document.xml", extra=("word/vbaProject.bin",)), "macros"),
            (whole[: len(whole) // 2], "cannot be opened"),
            (office("anything.txt"), "no picture that can be read"),
        ):
            self.assertIn(said, self.add(data, "a.docx", 415)["detail"])
        self.assertEqual((Item.objects.count(), File.objects.count()), (0, 0))

    def test_the_shelf_finds_documents_and_a_published_link_leads_to_the_file(self):
        item = self.add(PDF, "boat licence form.pdf")
        self.assertEqual([each["id"] for each in self.call("GET", "/shelf?q=licence")["documents"]], [item["id"]])
        node = document(paragraph(words("the form", link(f"item:{item['id']}"))), make("paragraph"))
        self.save(self.walks, node.to_json(), 1)
        self.publish(self.walks)
        self.assertIn(
            f'<a href="{item["address"]}">the form</a>', self.visit_page("/visit/towpath-walks").content.decode()
        )


class Measuring(ApiTest):
    def test_checking_a_document_measures_it_with_the_pictures_it_shows(self):
        item = a_picture(self.author, size=(1500, 1000))
        shown = document(paragraph("Level all the way."), make("picture", item=item.pk, alt=None, decorative=False))
        bare = self.call("POST", "/check", {"document": a_document("Level all the way.")})["measure"]
        found = self.call("POST", "/check", {"document": shown.to_json()})["measure"]
        self.assertEqual((found["words"], found["seconds"]), (4, 1))
        largest = File.objects.filter(item=item, original=False).latest("width").size
        self.assertAlmostEqual(found["weight"] - bare["weight"], largest, delta=400)


class Themes(ApiTest):
    def test_each_theme_offers_what_its_stylesheet_says_and_nothing_else(self):
        css = (settings.ROOT / "theme" / "page.css").read_text()
        for theme in ("canal", "museum"):
            offered = palette(theme)
            for tone in offered.tones:
                self.assertIn(f'.text [data-tone="{tone.name}"]', css)
                self.assertTrue(all(ratio >= 4.5 for ratio in tone.ratios.values()), tone)
            self.assertEqual(offered.styles, ("lead", "small-print", "verse"))
        self.assertNotEqual(palette("canal").tones[0].colour, palette("museum").tones[0].colour)

    def test_a_theme_without_colours_of_its_own_has_those_of_the_root(self):
        self.assertEqual(palette("plain"), palette("canal"))


class Links(ApiTest):
    """Links hold when what they lead to moves, and go when it goes."""

    def html(self):
        return self.visit_page("/visit/towpath-walks").content.decode()

    def test_a_link_to_a_heading_is_published_with_the_address_of_its_page(self):
        self.save(self.visit, document(heading(2, "By bus")).to_json(), 1, title="Visit")
        self.publish(self.visit)
        node = document(paragraph(words("the bus", link(f"page:{self.visit.pk}#by-bus"))))
        self.save(self.walks, node.to_json(), 1)
        self.publish(self.walks)
        self.assertIn('<a href="/visit#by-bus">the bus</a>', self.html())
        self.call("DELETE", f"/pages/{self.visit.pk}/publish", status=204)
        self.assertIn("<p>the bus</p>", self.html())

    def test_a_call_to_action_follows_its_page_too(self):
        self.publish(self.visit)
        node = document(make("call_to_action", [words("Come")], href=f"page:{self.visit.pk}", emphasis="main"))
        self.save(self.walks, node.to_json(), 1)
        self.publish(self.walks)
        self.assertIn('<p class="call" data-emphasis="main"><a href="/visit">Come</a></p>', self.html())
        self.call("DELETE", f"/pages/{self.visit.pk}/publish", status=204)
        self.assertIn("<a>Come</a>", self.html())

    def test_a_page_whose_call_leads_nowhere_is_not_published(self):
        node = document(make("call_to_action", [words("Come")], href=None, emphasis="main"))
        self.save(self.walks, node.to_json(), 1)
        problem = self.publish(self.walks, status=422)
        self.assertEqual([each["check"] for each in problem["findings"]], ["call-without-destination"])

    def test_a_table_that_does_not_fit_together_is_refused_with_its_place(self):
        row = make("table_row", [make("table_cell", [make("paragraph")], colspan=1, rowspan=5)])
        node = document(paragraph("x"), make("table", [make("table_grid", [row])]))
        problem = self.save(self.walks, node.to_json(), 1, status=422)
        self.assertEqual(problem["pointer"], "/content/0/content/1/content/0")
        self.assertIn("below the last row", problem["detail"])
