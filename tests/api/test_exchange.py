"""Texts coming in and pages going out, through the API."""

import json
import re
import zipfile
from base64 import b64encode
from io import BytesIO
from pathlib import Path

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from stillpage.exchange.importing import import_files
from stillpage.library.models import Item
from stillpage.pages.models import Page
from stillpage.people.models import Role
from stillpage_core.document import document_from_json
from stillpage_core.document.walking import blocks_of, text_of, walk
from stillpage_core.formats import FORMATS

from .base import ApiTest, a_document, a_person, a_picture, blocks_in, image_bytes, of_blocks

FIXTURES = Path(__file__).parent.parent / "fixtures"


def zipped(**files):
    out = BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return out.getvalue()


class Paste(ApiTest):
    def paste(self, status=200, **given):
        return self.call("POST", "/paste", given, status)

    def test_structure_comes_back_and_is_told(self):
        out = self.paste(html="<h1>A</h1><p style='color:red'>b <b>c</b></p><p>&nbsp;</p><script>x()</script>")
        kinds = [block["type"] for block in blocks_in(out["document"])]
        self.assertEqual((kinds, out["read_as"]), (["heading", "paragraph"], "html"))
        self.assertEqual(out["told"]["kept"], ["1 paragraph", "1 heading", "1 stressed passage"])
        self.assertEqual(len(out["told"]["mended"]), 2)
        self.assertEqual(
            out["told"]["dropped"], ["A script was left out", "Its look was left out: colours, fonts, sizes"]
        )

    def test_plain_asks_for_the_words_alone(self):
        out = self.paste(html="<h2>A</h2>", text="- one\r\n- two\r\n\r\nthree", plain=True)
        texts = [text_of(block) for _, block in blocks_of(document_from_json(out["document"]))]
        self.assertEqual(texts, ["- one\n- two", "three"])

    def test_markdown_is_known_by_its_signs_also_where_an_editor_colours_it(self):
        text = "## Walks\n\n- [one](https://a.example)\n- two"
        for given in (
            {"text": text},
            {"text": text, "html": "<div style='white-space:pre'><span>## Walks</span></div>"},
        ):
            out = self.paste(**given)
            self.assertEqual(out["read_as"], "md")
            self.assertEqual([each["type"] for each in blocks_in(out["document"])], ["heading", "bulleted_list"])

    def test_pictures_written_into_the_text_become_items(self):
        data = b64encode(image_bytes((64, 48), "PNG")).decode()
        out = self.paste(html=f"<p>a</p><img alt='Gates' src='data:image/png;base64,{data}'>")
        (item,) = out["items"]
        self.assertEqual((item["alt"], item["width"]), ("Gates", 64))
        self.assertEqual(blocks_in(out["document"])[1]["attrs"]["item"], item["id"])

    def test_pictures_elsewhere_are_left_out_with_a_word_unless_they_were_given(self):
        html = "<p>a</p><img alt='Gates' src='file:///C:/clip.png'>"
        self.assertIn("“Gates”", self.paste(html=html)["told"]["dropped"][0])
        given = a_picture(self.author)
        out = self.paste(html=html, pictures=[given.pk])
        self.assertEqual(blocks_in(out["document"])[1]["attrs"]["item"], given.pk)
        self.assertEqual(out["told"]["dropped"], [])

    def test_who_may_not_add_to_the_library_keeps_the_words(self):
        html = f"<p>a</p><img src='data:image/gif;base64,{b64encode(b'GIF89a').decode()}'>"
        out = self.paste(html=html)
        self.assertEqual([each["type"] for each in blocks_in(out["document"])], ["paragraph"])
        self.assertIn("left out", out["told"]["dropped"][0])
        self.assertFalse(Item.objects.exists())

    def test_addresses_of_our_own_pages_become_links_that_hold(self):
        out = self.paste(html=f"<p><a href='{self.site.origin}/visit/towpath-walks#short'>w</a></p>")
        (link,) = blocks_in(out["document"])[0]["content"][0]["marks"]
        self.assertEqual(link["attrs"]["href"], f"page:{self.walks.pk}#short")
        self.assertEqual(out["pages"][0]["id"], self.walks.pk)

    def test_pictures_of_our_own_pages_are_known_again(self):
        item = a_picture(self.author)
        name = item.files.first().name
        out = self.paste(html=f"<img src='{self.site.origin}/media/{name}'>")
        self.assertEqual(blocks_in(out["document"])[0]["attrs"]["item"], item.pk)

    def test_what_comes_back_fits_where_it_is_to_stand(self):
        html = "<h2>a</h2><table><tr><th>b</th><td>c</td></tr></table>"
        for container, kinds in (
            ("list_item", ["paragraph"] * 3),
            ("table_cell", ["paragraph"] * 3),
            ("line", ["paragraph"]),
        ):
            out = self.paste(html=html, container=container)
            self.assertEqual([each["type"] for each in blocks_in(out["document"])], kinds, container)

    def test_anchors_that_the_page_has_are_not_given_twice(self):
        html = "<p>x<a href='#fn1' id='r1'>1</a></p><ol><li id='fn1'>note <a href='#r1'>↩</a></li></ol>"
        first = blocks_in(self.paste(html=html)["document"])[1]["content"][0]["attrs"]["anchor"]
        out = blocks_in(self.paste(html=html, taken=[first])["document"])
        self.assertEqual(out[1]["content"][0]["attrs"]["anchor"], f"{first}-2")
        self.assertEqual(out[0]["content"][1]["marks"][0]["attrs"]["href"], f"#{first}-2")

    def test_more_than_is_taken_is_told(self):
        with self.settings(DATA_UPLOAD_MAX_MEMORY_SIZE=1000):
            self.paste(html="x" * 2000, status=413)

    def test_a_keeper_may_not_paste(self):
        self.as_person(a_person("odile", Role.KEEPER))
        self.paste(text="a", status=403)


class Files(ApiTest):
    def read(self, name, data, status=200, **place):
        file = SimpleUploadedFile(name, data)
        answer = self.client.post("/api/read", {"file": file, **place})
        self.assertEqual(answer.status_code, status, answer.content[:500])
        return answer.json()

    def test_a_word_document_comes_with_its_pictures_captions_and_alt_texts(self):
        out = self.read("guide.docx", (FIXTURES / "towpath-guide.docx").read_bytes(), whole=True)
        self.assertEqual((out["title"], out["read_as"]), ("The Varrow towpath guide", "docx"))
        (item,) = out["items"]
        picture = next(node for _, node in walk(document_from_json(out["document"])) if node.kind == "picture")
        self.assertEqual(picture.attrs["item"], item["id"])
        self.assertEqual(picture.attrs["caption"], "The gates of Lock 4 in winter")
        self.assertEqual(item["alt"], "Closed lock gates, water on one side")

    def test_files_that_cannot_be_read_say_why_and_keep_nothing(self):
        for name, data, words in (
            ("a.md", image_bytes((400, 400)), "no text"),
            ("a.docx", b"PK\x03\x04 cut off", "damaged"),
            ("a.docx", b"plain words", "is none"),
            ("a.pdf", b"%PDF-1.7 %%EOF", "PDF"),
            ("a.txt", b"", "empty"),
            ("a.docx", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"\0" * 600, "password"),
        ):
            self.assertIn(words, self.read(name, data, 422)["detail"], name)
        self.assertFalse(Item.objects.exists())

    def test_a_file_larger_than_is_taken_is_told(self):
        with self.settings(IMPORT_LIMIT=1000):
            self.read("a.txt", b"x" * 5000, 413)


class Import(ApiTest):
    def bring(self, files, status=200, **fields):
        given = [SimpleUploadedFile(name.rsplit("/", 1)[-1], data) for name, data in files]
        body = {"files": given, "paths": [name for name, _ in files], **fields}
        answer = self.client.post(f"/api/sites/{self.site.pk}/import", body)
        self.assertEqual(answer.status_code, status)
        if status != 200:
            return answer.json()
        return [json.loads(line) for line in b"".join(answer.streaming_content).decode().splitlines()]

    def test_a_folder_becomes_pages_that_lead_to_one_another(self):
        *steps, end = self.bring(
            [
                ("guide/index.md", b"# The guide\n\nTo [the locks](locks.md#rises).\n\n![Gates](img/gates.png)"),
                (
                    "guide/locks.md",
                    b"# The locks\n\n## Rises\n\n[back](./index.md), [gone](nowhere.md), [form](form.pdf)",
                ),
                ("guide/img/gates.png", image_bytes((80, 60), "PNG")),
                ("guide/form.pdf", b"%PDF-1.4\n%%EOF"),
                ("guide/bad.docx", b"PK\x03\x04"),
            ],
            parent=self.visit.pk,
        )
        self.assertEqual([(step["done"], step["of"]) for step in steps], [(0, 3), (1, 3), (2, 3), (3, 3)])
        guide, locks = (Page.objects.get(pk=page["id"]) for page in end["pages"])
        self.assertEqual([guide.path, locks.path], ["/visit/the-guide", "/visit/the-guide/the-locks"])
        self.assertEqual([page["title"] for page in end["pages"]], ["The guide", "The locks"])
        links = [mark.attrs["href"] for _, node in walk(guide.working_copy.tree) for mark in node.marks]
        self.assertEqual(links, [f"page:{locks.pk}#rises"])
        back = [mark.attrs["href"] for _, node in walk(locks.working_copy.tree) for mark in node.marks]
        self.assertEqual(back, [f"page:{guide.pk}", f"item:{Item.objects.get(kind='document').pk}"])
        self.assertTrue(any(node.kind == "picture" for _, node in walk(guide.working_copy.tree)))
        self.assertIn("nowhere.md", end["pages"][1]["told"]["dropped"][0])
        self.assertEqual(end["refused"][0]["name"], "guide/bad.docx")

    def test_a_zip_is_taken_as_the_folder_it_is(self):
        data = zipped(
            **{"a/one.txt": "One", "a/two.html": "<h1>Two</h1><p>x", "__MACOSX/a/one.txt": "x", "a/.x.md": "y"}
        )
        *_, end = self.bring([("site.zip", data)])
        self.assertEqual(sorted(page["title"] for page in end["pages"]), ["Two", "one"])

    def test_who_stops_listening_has_made_no_page(self):
        before = Page.objects.count()
        steps = import_files(self.site, self.author, [(f"{name}.txt", b"words") for name in "abc"], None)
        self.assertEqual([next(steps).done, next(steps).done], [0, 1])
        steps.close()
        self.assertEqual(Page.objects.count(), before)

    def test_what_cannot_be_begun_says_why(self):
        for files, words in (
            ([("x.zip", b"PK\x03\x04 nothing")], "cannot be opened"),
            ([("x.png", image_bytes((9, 9), "PNG"))], "no page"),
        ):
            self.assertIn(words, self.bring(files, 422)["detail"])

    def test_a_keeper_may_not(self):
        self.as_person(a_person("odile", Role.KEEPER))
        self.bring([("a.txt", b"x")], 403)


class Export(ApiTest):
    def setUp(self):
        super().setUp()
        item = a_picture(self.author)
        picture = {"type": "picture", "attrs": {"item": item.pk, "caption": "In winter"}}
        words = {
            "type": "text",
            "text": "walks",
            "marks": [{"type": "link", "attrs": {"href": f"page:{self.walks.pk}"}}],
        }
        document = a_document("Before.")
        blocks_in(document).extend([{"type": "paragraph", "content": [words]}, picture])
        self.save(self.visit, document, 1, title="Visit us")

    def get(self, path, status=200):
        answer = self.client.get(f"/api{path}")
        self.assertEqual(answer.status_code, status)
        return answer

    def test_a_page_goes_out_in_every_format_and_comes_back(self):
        for ending in FORMATS:
            answer = self.get(f"/pages/{self.visit.pk}/export/{ending}")
            named = answer["Content-Disposition"]
            self.assertIn("visit-us.", named)
            file = SimpleUploadedFile(named.split('"')[1], answer.content)
            if named.endswith('.zip"'):
                back = self.client.post(f"/api/sites/{self.site.pk}/import", {"files": [file]})
                end = json.loads(b"".join(back.streaming_content).decode().splitlines()[-1])
                document = Page.objects.get(pk=end["pages"][0]["id"]).working_copy.tree
                title = end["pages"][0]["title"]
            else:
                back = self.client.post("/api/read", {"file": file, "whole": True}).json()
                document, title = document_from_json(back["document"]), back["title"]
            if ending == "txt":
                self.assertIn("walks", text_of(document))
                continue
            self.assertEqual(title, "Visit us")
            (picture,) = [node for _, node in walk(document) if node.kind == "picture"]
            self.assertEqual(picture.attrs["caption"], "In winter", ending)
            self.assertEqual(picture.attrs["item"], Item.objects.get().pk, ending)
            links = [mark.attrs["href"] for _, node in walk(document) for mark in node.marks]
            self.assertEqual(links, [f"page:{self.walks.pk}"], ending)

    def test_a_second_cut_never_stands_in_the_place_of_a_picture_that_stays_here(self):
        gates = a_picture(self.author, colour="#357", size=(1200, 800))
        kept = a_picture(self.author, alt="For trustees", colour="#933", size=(640, 480))
        Item.objects.filter(pk=kept.pk).update(restricted=True)
        self.assertEqual(kept.pk, gates.pk + 1)
        uses = ({"item": gates.pk}, {"item": gates.pk, "turn": 1}, {"item": kept.pk, "alt": "For trustees"})
        self.save(self.walks, of_blocks([{"type": "picture", "attrs": each} for each in uses]), 1)
        with zipfile.ZipFile(BytesIO(self.get(f"/pages/{self.walks.pk}/export/html").content)) as archive:
            (page,) = [archive.read(name).decode() for name in archive.namelist() if name.endswith(".html")]
        self.assertEqual(re.findall(r'<img[^>]* alt="([^"]*)"', page), ["Closed gates", "Closed gates"])

    def test_pictures_go_out_as_they_are_cut_where_they_are_used(self):
        number = a_picture(self.author, colour="#357", size=(1200, 800)).pk
        cuts = ({}, {"ratio": "1:1", "width": 300}, {"turn": 1}, {"ratio": "1:1", "caption": "Square again"})
        pictures = [{"type": "picture", "attrs": {"item": number, **cut}} for cut in cuts]
        self.save(self.walks, of_blocks(pictures), 1)
        sizes = [(1200, 800), (800, 800), (800, 1200), (800, 800)]
        for ending, folder in (
            ("docx", "word/media/"),
            ("odt", "Pictures/"),
            ("html", "pictures/"),
            ("md", "pictures/"),
        ):
            data = self.get(f"/pages/{self.walks.pk}/export/{ending}").content
            with zipfile.ZipFile(BytesIO(data)) as archive:
                there = {
                    name.removeprefix(folder): Image.open(BytesIO(archive.read(name))).size
                    for name in archive.namelist()
                    if name.startswith(folder)
                }
                (text,) = [
                    archive.read(name).decode()
                    for name in archive.namelist()
                    if name in ("word/document.xml", "content.xml") or name.endswith((".html", ".md"))
                ]
                if ending == "docx":
                    self.assertIn(f'<wp:extent cx="{300 * 9525}" cy="{300 * 9525}"/>', text)
                    text = archive.read("word/_rels/document.xml.rels").decode()
            self.assertEqual(sorted(there.values()), sorted(sizes[:3]), ending)
            for name in there:
                self.assertIn(name, text)

    def test_a_whole_site_goes_out_as_files_whose_addresses_hold(self):
        for page in (self.home, self.visit, self.walks):
            self.publish(page)
        answer = self.get(f"/sites/{self.site.pk}/export")
        archive = zipfile.ZipFile(BytesIO(b"".join(answer.streaming_content)))
        self.assertIsNone(archive.testzip())
        names = set(archive.namelist())
        self.assertLessEqual({"index.html", "visit/index.html", "visit/towpath-walks/index.html", "404.html"}, names)
        self.assertLessEqual({"sitemap.xml", "feed.atom", "robots.txt"}, names)
        html = archive.read("visit/index.html").decode()
        self.assertIn('href="towpath-walks/index.html"', html)
        self.assertNotIn(' src="/', html)
        self.assertTrue(any(name.startswith("media/") for name in names))
        self.assertTrue(any(name.endswith(".css") for name in names))
        self.assertTrue(any(name.endswith(".woff2") for name in names))

    def test_a_reader_may_not(self):
        self.as_person(a_person("fen", Role.READER))
        self.get(f"/pages/{self.visit.pk}/export/docx", 403)
        self.get(f"/sites/{self.site.pk}/export", 403)


class Source(ApiTest):
    def test_the_source_comes_back_as_the_same_document_with_the_caret(self):
        document = a_document("Before \U0001f9ed", "after")
        out = self.call("POST", "/source", {"document": document, "caret": {"path": [0, 0], "position": 9}})
        self.assertEqual(out["html"], "<p>Before \U0001f9ed</p>\n<p>after</p>\n")
        self.assertEqual(out["caret"], 12)
        back = self.call("POST", "/source/read", {"html": out["html"], "caret": out["caret"]})
        self.assertEqual(document_from_json(back["document"]), document_from_json(document))
        self.assertEqual(back["caret"], {"path": [0, 0], "position": 9})
        self.assertEqual(back["notes"], [])

    def test_what_would_be_removed_is_told_with_its_place(self):
        html = "<p onclick='x()'>a</p><script>1</script>"
        notes = self.call("POST", "/source/read", {"html": html})["notes"]
        self.assertEqual([html[note["start"] : note["end"]] for note in notes], ["onclick", "<script>"])
        self.assertEqual({note["sort"] for note in notes}, {"removed"})
