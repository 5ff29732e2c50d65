"""A page of several regions from saving to reading, and what themes say of them."""

from io import BytesIO

from django.core.files.uploadedfile import SimpleUploadedFile

from stillpage.publishing.models import LiveCopy
from stillpage.sites.models import Site
from stillpage.sites.themes import regions_of, theme_of
from stillpage.written.models import WorkingCopy
from stillpage_core.document import document_from_json
from stillpage_core.document.walking import text_of
from stillpage_core.media.shown import Room

from ..core.documents import document, heading, link, paragraph, picture, region, words
from .base import ApiTest, a_document, a_picture, blocks_in


def texts(page):
    return {each.attrs["name"]: text_of(each) for each in page.content}


class Regions(ApiTest):
    def setUp(self):
        super().setUp()
        self.item = a_picture(self.author, alt="Closed gates", size=(1600, 900))
        self.page = document(
            heading(2, "Walks"),
            paragraph("See ", words("the side", link("#dogs")), "."),
            region("side", heading(2, "Dogs"), paragraph("On a lead."), picture(self.item.pk, place="wide")),
            region("foot", paragraph("Ask a warden.")),
        )

    def html(self):
        return self.visit_page("/visit/towpath-walks").content.decode()

    def test_readers_get_each_in_its_place_and_pictures_as_wide_as_it_is(self):
        self.save(self.walks, self.page.to_json(), 1)
        with self.committed():
            self.publish(self.walks)
        html = self.html()
        places = [html.index(f'<div class="text" data-region="{name}">') for name in ("main", "side", "foot")]
        self.assertEqual(places, sorted(places))
        self.assertIn('<h2 id="dogs">Dogs</h2>', html)
        # The theme of this site has no such region: it stands below main, and is as wide.
        self.assertIn('width="1120"', html)
        Site.objects.filter(pk=self.site.pk).update(theme="basin")
        self.site.refresh_from_db()
        self.render_all(self.site)
        self.assertIn('width="340"', self.html())

    def test_a_text_from_before_there_were_regions_is_the_same_text(self):
        self.save(self.walks, a_document("One.", "Two."), 1)
        copy = self.walks.working_copy
        copy.refresh_from_db()
        digest = copy.digest
        first = {"type": "doc", "attrs": {"version": 1}, "content": blocks_in(copy.document)}
        WorkingCopy.objects.filter(pk=copy.pk).update(document=first)
        with self.committed():
            self.publish(self.walks)
        LiveCopy.objects.filter(written=self.walks).update(document=first)
        copy.refresh_from_db()
        copy.save()
        self.assertEqual(copy.digest, digest)
        for out in (
            self.call("GET", f"/pages/{self.walks.pk}")["working_copy"],
            self.call("GET", f"/pages/{self.walks.pk}/live"),
        ):
            self.assertEqual(out["document"]["attrs"]["version"], 2)
            self.assertEqual(texts(document_from_json(out["document"])), {"main": "One.\nTwo."})
        self.assertEqual(self.save(self.walks, first, copy.revision)["revision"], copy.revision)
        # A browser that has been open since then sends what it knows; it is merged with what others saved meanwhile.
        began = {"title": "Towpath walks", "description": "", "document": first}
        self.save(self.walks, a_document("One.", "Two by Tobias."), copy.revision)
        mine = {
            **first,
            "content": [*first["content"], {"type": "paragraph", "content": [{"type": "text", "text": "3"}]}],
        }
        body = {"title": "Towpath walks", "description": "", "document": mine, "base": copy.revision, "began": began}
        self.call("PUT", f"/pages/{self.walks.pk}/working-copy", body)
        copy.refresh_from_db()
        self.assertEqual(texts(copy.tree), {"main": "One.\nTwo by Tobias.\n3"})

    def test_one_that_was_written_by_a_newer_program_is_left_as_it_is(self):
        newer = {"type": "doc", "attrs": {"version": 99}, "content": [{"type": "unheard_of"}]}
        WorkingCopy.objects.filter(written=self.walks).update(document=newer)
        self.assertEqual(WorkingCopy.objects.get(written=self.walks).document, newer)
        self.call("GET", f"/sites/{self.site.pk}/contents")

    def test_a_file_that_is_a_whole_page_brings_its_regions_and_a_part_of_one_its_words(self):
        html = b'<p>a</p><div data-stillpage-region="side"><p>b</p></div>'
        for whole, expected in ((True, {"main": "a", "side": "b"}), (False, {"main": "a\nb"})):
            given = SimpleUploadedFile("a.html", html)
            answer = self.client.post("/api/read", {"file": given, "whole": whole})
            self.assertEqual(texts(document_from_json(answer.json()["document"])), expected)
        out = self.call("POST", "/paste", {"html": html.decode()})
        self.assertEqual(texts(document_from_json(out["document"])), {"main": "a\nb"})

    def test_each_export_brings_them_back_as_a_new_page(self):
        self.save(self.walks, self.page.to_json(), 1)
        for ending in ("docx", "odt"):
            data = self.client.get(f"/api/pages/{self.walks.pk}/export/{ending}").content
            given = SimpleUploadedFile(f"a.{ending}", BytesIO(data).read())
            answer = self.client.post("/api/read", {"file": given, "whole": True})
            found = texts(document_from_json(answer.json()["document"]))
            self.assertEqual(
                found, {"main": "Walks\nSee the side.", "side": "Dogs\nOn a lead.\n", "foot": "Ask a warden."}
            )

    def test_the_source_and_the_listening_view_tell_their_places(self):
        out = self.call("POST", "/source", {"document": self.page.to_json(), "caret": {"path": [2, 0], "position": 3}})
        back = self.call("POST", "/source/read", {"html": out["html"], "caret": out["caret"]})
        self.assertEqual(document_from_json(back["document"]), self.page)
        self.assertEqual((back["caret"], back["notes"]), ({"path": [2, 0], "position": 3}, []))
        text = {"title": "Walks", "description": "", "document": self.page.to_json()}
        lines = self.call("POST", f"/pages/{self.walks.pk}/listen", text)
        self.assertEqual([each["path"] for each in lines if each["says"].startswith(("Ask", "On a"))], [[1, 1], [2, 0]])


class Themes(ApiTest):
    def test_a_theme_says_once_what_regions_it_has(self):
        self.assertEqual([each.name for each in regions_of("canal")], ["main"])
        self.assertEqual(theme_of("canal").rooms, {"main": Room(720, 1120)})
        self.assertEqual(
            [(each.name, each.label, each.column, each.wide) for each in regions_of("basin")],
            [("main", "The text", 720, 720), ("side", "At the side", 340, 340), ("foot", "At the foot", 1120, 1120)],
        )
        told = self.call("GET", f"/pages/{self.walks.pk}")["palette"]["regions"]
        self.assertEqual(told, [{"name": "main", "label": "The text", "column": 720, "wide": 1120}])
