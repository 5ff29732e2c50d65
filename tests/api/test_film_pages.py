"""Films and sounds on pages: published, shown to readers, taken away with a page or a site, and brought in."""

import re
import zipfile
from io import BytesIO

from stillpage.library import acts, tasks
from stillpage.library.models import File, Item
from stillpage.library.receiving import receive, replace
from stillpage_core.document.node import document_of
from stillpage_core.document.walking import walk

from ..core.documents import film, paragraph, picture, sound
from .base import ApiTest, a_picture, blocks_in
from .test_captions import WORDS
from .test_films import film_bytes, sound_bytes


def text(*blocks):
    return document_of(blocks).to_json()


class Pages(ApiTest):
    def setUp(self):
        super().setUp()
        self.film, _ = receive(BytesIO(film_bytes()), self.author, name="Lock by hand.mov")

    def made(self):
        tasks.make_a_film()
        self.film.refresh_from_db()

    def live(self, *blocks):
        """What readers get of a page with these blocks."""
        self.save(self.walks, text(paragraph("The way."), *blocks), None)
        self.publish(self.walks)
        self.render_all()
        answer = self.visit_page(self.walks.path)
        self.assertEqual(answer.status_code, 200)
        return answer

    def test_a_page_waits_for_a_film_that_nobody_can_play_yet(self):
        self.save(self.walks, text(film(self.film.pk)), None)
        self.film.progress = 30
        self.film.save(update_fields=["progress"])
        said = self.publish(self.walks, 422)
        self.assertIn("still being made ready (30 % so far)", said["detail"])
        self.made()
        self.publish(self.walks)
        self.assertEqual(
            [use["page"]["id"] for use in self.call("GET", f"/items/{self.film.pk}/uses")], [self.walks.pk]
        )

    def test_readers_get_a_player_with_files_that_they_may_have_and_a_policy_that_lets_them(self):
        self.made()
        answer = self.live(film(self.film.pk, caption="By hand", width=320))
        html = answer.content.decode()
        self.assertIn('<video controls preload="none" aria-label="Lock by hand"', html)
        self.assertIn("media-src 'self'", answer["Content-Security-Policy"])
        self.assertNotIn("script", answer["Content-Security-Policy"])
        addresses = set()
        for part in html.split('"'):
            if part.startswith("/media/"):
                addresses.add(part)
        self.assertGreaterEqual(len(addresses), 3)
        for address in addresses:
            self.assertEqual(self.visit_page(address).status_code, 200, address)

    def test_a_film_that_begins_by_itself_brings_its_script_and_no_other_page_does(self):
        self.made()
        answer = self.live(film(self.film.pk, autoplay=True))
        self.assertRegex(answer.content.decode(), r'<script type="module" src="/static/theme/film[^"]*\.js"></script>')
        self.assertIn("script-src 'self'", answer["Content-Security-Policy"])
        self.assertNotIn(b'<script type="module"', self.live(film(self.film.pk)).content)

    def test_captions_reach_live_pages_when_they_are_given_and_leave_when_they_are_taken(self):
        self.made()
        self.live(film(self.film.pk, transcript="below"))
        begun = self.call("POST", f"/items/{self.film.pk}/captions", {"language": "en", "cues": WORDS}, 201)
        self.render_all()
        self.assertNotIn(b"<track", self.visit_page(self.walks.path).content)
        given = self.call("POST", f"/captions/{begun['id']}/readers")["given"]
        self.render_all()
        html = self.visit_page(self.walks.path).content.decode()
        self.assertIn(f'<track kind="captions" srclang="en" label="English" src="{given}">', html)
        self.assertIn("<p>Piet: The gate opens. Now wait.</p>", html)
        self.call("DELETE", f"/captions/{begun['id']}/readers")
        self.render_all()
        self.assertNotIn(b"<track", self.visit_page(self.walks.path).content)

    def test_words_in_the_language_of_the_site_come_first(self):
        self.made()
        for language, words in (("cy", "Mae’r giât yn agor."), ("en", "The gate opens.")):
            cues = [{"begin": 0, "end": 900, "text": words}]
            begun = self.call("POST", f"/items/{self.film.pk}/captions", {"language": language, "cues": cues}, 201)
            self.call("POST", f"/captions/{begun['id']}/readers")
        html = self.live(film(self.film.pk, transcript="folded")).content.decode()
        self.assertIn("<summary>Transcript</summary><p>The gate opens.</p>", html)
        self.assertLess(html.index('srclang="en"'), html.index('srclang="cy"'))
        welsh = self.call("GET", f"/items/{self.film.pk}/transcript?language=cy")
        self.assertEqual((welsh["name"], welsh["paragraphs"]), ("Trawsgrifiad", ["Mae’r giât yn agor."]))
        self.site.language = "cy"
        self.site.save()
        self.render_all(self.site)
        self.assertIn("<summary>Trawsgrifiad</summary>", self.visit_page(self.walks.path).content.decode())

    def test_another_file_takes_the_place_of_the_first_on_live_pages(self):
        self.made()
        before = self.live(film(self.film.pk)).content
        replace(self.film, BytesIO(film_bytes(3)), "Lock again.mov")
        tasks.make_a_film()
        self.render_all()
        after = self.visit_page(self.walks.path).content
        self.assertNotEqual(before, after)
        self.assertIn(b"3 s)", after)

    def test_a_cover_of_any_moment_outlives_another_file(self):
        self.made()
        item = self.call("POST", f"/items/{self.film.pk}/stills", {"at": 1500})
        self.assertIn("at-1500", {file["cut"] for file in item["files"]})
        html = self.live(film(self.film.pk, cover="at-1500")).content.decode()
        self.assertIn("/at-1500-", html)
        self.call("POST", f"/items/{self.film.pk}/stills", {"at": 90_000}, 415)
        replace(self.film, BytesIO(film_bytes(3)), "Lock again.mov")
        tasks.make_a_film()
        self.render_all()
        self.assertIn("/at-1500-", self.visit_page(self.walks.path).content.decode())
        sounds, _ = receive(BytesIO(sound_bytes()), self.author, name="warden.wav")
        self.call("POST", f"/items/{sounds.pk}/stills", {"at": 0}, 415)

    def test_the_page_check_tells_what_is_missing(self):
        self.made()
        self.save(self.walks, text(film(self.film.pk)), None)
        found = self.call("POST", "/check", {"document": text(film(self.film.pk)), "site": self.site.pk})
        checks = {finding["check"] for finding in found["findings"]}
        self.assertIn("film-without-captions", checks)
        acts.to_bin(self.author, [Item.objects.get(pk=self.film.pk)])
        found = self.call("POST", "/check", {"document": text(film(self.film.pk)), "site": self.site.pk})
        self.assertIn("item-binned", {finding["check"] for finding in found["findings"]})

    def test_a_site_goes_out_with_films_covers_and_captions(self):
        self.made()
        begun = self.call("POST", f"/items/{self.film.pk}/captions", {"language": "en", "cues": WORDS}, 201)
        self.call("POST", f"/captions/{begun['id']}/readers")
        self.live(film(self.film.pk, autoplay=True))
        answer = self.client.get(f"/api/sites/{self.site.pk}/export")
        archive = zipfile.ZipFile(BytesIO(b"".join(answer.streaming_content)))
        self.assertIsNone(archive.testzip())
        names = archive.namelist()
        page = archive.read(f"{self.walks.path.strip('/')}/index.html").decode()
        for ending in (".mp4", ".vtt", ".jpg", ".js"):
            (name, *_) = [each for each in names if each.endswith(ending)]
            self.assertIn(f'"{"../" * self.walks.path.count("/")}{name}"', page)
        film_file = File.objects.get(item=self.film, cut="film", mime="video/mp4")
        self.assertEqual(archive.getinfo(f"media/{film_file.name}").file_size, film_file.size)

    def test_a_page_goes_out_with_its_film_as_each_format_can_say_it(self):
        self.made()
        self.save(self.walks, text(film(self.film.pk, caption="By hand"), sound(self.film.pk)), None)
        for ending in ("docx", "odt", "md", "html", "txt"):
            answer = self.client.get(f"/api/pages/{self.walks.pk}/export/{ending}")
            self.assertEqual(answer.status_code, 200)
            data = answer.content
            if data.startswith(b"PK"):
                with zipfile.ZipFile(BytesIO(data)) as archive:
                    data = b"".join(archive.read(name) for name in archive.namelist())
            self.assertIn(b"By hand", data, ending)
            self.assertIn(b"canal.localhost", data, ending)

    def test_each_use_goes_out_with_the_cover_that_was_chosen_for_it(self):
        self.made()
        gates = a_picture(self.author)
        self.call("POST", f"/items/{self.film.pk}/stills", {"at": 1500})
        cut = picture(gates.pk, decorative=True, crop="1000,1000,5000,5000")
        uses = [film(self.film.pk, cover=cover) for cover in (None, "still-90", "at-1500", f"item-{gates.pk}")]
        self.save(self.walks, text(cut, *uses, film(self.film.pk, cover="still-90")), None)
        archive = self.exported("html")
        page = next(archive.read(name).decode() for name in archive.namelist() if name.endswith(".html"))
        posters = re.findall(r'poster="([^"]+)"', page)
        self.assertEqual(len(posters), 5)
        self.assertEqual(posters[1], posters[4])
        (shown,) = re.findall(r'<img src="([^"]+)"', page)
        self.assertEqual(len({archive.read(name) for name in [*posters, shown]}), 5)
        for ending, folder in (("docx", "word/media/"), ("odt", "Pictures/")):
            found = [name for name in self.exported(ending).namelist() if name.startswith(folder)]
            self.assertEqual(len(found), 5, ending)

    def exported(self, ending):
        answer = self.client.get(f"/api/pages/{self.walks.pk}/export/{ending}")
        self.assertEqual(answer.status_code, 200)
        return zipfile.ZipFile(BytesIO(answer.content))

    def paste(self, html):
        return self.call("POST", "/paste", {"html": html, "text": "", "container": "region"})

    def test_a_player_copied_from_a_page_of_ours_is_the_same_film_again(self):
        self.made()
        html = self.live(film(self.film.pk, caption="By hand", loop=True)).content.decode()
        start = html.index('<div class="film"')
        pasted = self.paste(html[start : html.index("</figure>", start) + 15])
        (block,) = blocks_in(pasted["document"])
        self.assertEqual((block["type"], block["attrs"]["item"], block["attrs"]["loop"]), ("film", self.film.pk, True))
        self.assertEqual(block["attrs"]["caption"], "By hand")

    def test_a_player_of_another_site_is_told_with_its_address(self):
        pasted = self.paste("<p>a</p><video src='https://elsewhere.example/lock.mp4'></video>")
        self.assertEqual([block["type"] for block in blocks_in(pasted["document"])], ["paragraph"])
        self.assertIn("https://elsewhere.example/lock.mp4", pasted["told"]["dropped"][0])

    def test_a_site_of_html_files_brings_its_films_along(self):
        files = {
            "index.html": b"<h1>Locks</h1><p>See:</p><video src='lock.mov'></video><audio src='w.wav'></audio>",
            "lock.mov": film_bytes(1),
            "w.wav": sound_bytes(1),
        }
        out = BytesIO()
        with zipfile.ZipFile(out, "w") as archive:
            for name, data in files.items():
                archive.writestr(name, data)
        out.seek(0)
        out.name = "site.zip"
        answer = self.client.post(f"/api/sites/{self.site.pk}/import", {"files": out})
        self.assertEqual(answer.status_code, 200)
        b"".join(answer.streaming_content)
        page = self.site.pages.order_by("-pk").first()
        kinds = {
            node.kind: node.attrs["item"] for _, node in walk(page.working_copy.tree) if node.kind in ("film", "sound")
        }
        self.assertEqual(
            {kind: Item.objects.get(pk=number).kind for kind, number in kinds.items()},
            {"film": "film", "sound": "sound"},
        )

    def test_a_picture_as_cover_is_a_use_of_that_picture(self):
        self.made()
        gates = a_picture(self.author)
        html = self.live(
            film(self.film.pk, cover=f"item-{gates.pk}"), picture(gates.pk, decorative=True)
        ).content.decode()
        self.assertRegex(html, r'poster="/media/[^"]+"')
        self.assertEqual(self.call("GET", f"/items/{gates.pk}/entry")["uses"], 1)
