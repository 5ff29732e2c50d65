"""Animations, documents shown in a page, galleries and slideshows over the API: coming in, made in the background,
shown to authors as readers get them, published, and going out."""

import json
import re
import zipfile
from datetime import timedelta
from io import BytesIO
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone
from PIL import Image

from stillpage.hosts.keeping import digest_of
from stillpage.hosts.models import Host, Hosting
from stillpage.library import acts, animations
from stillpage.library.animations import draw_animation
from stillpage.library.derived import bring_up_to_date
from stillpage.library.documents import read_document
from stillpage.library.models import DocumentPage, Item
from stillpage.library.receiving import receive, replace
from stillpage.library.tasks import clear_away
from stillpage.pages.seeing import sight_of
from stillpage.people.models import Role
from stillpage.publishing import publish as publishing
from stillpage.publishing.blocks import blocks_of
from stillpage_core.formats import FORMATS
from stillpage_core.media.animations import colours_of, cut_for
from stillpage_core.media.pictures import FileError

from ..core.documents import (
    animation,
    document,
    download,
    downloads,
    film,
    gallery,
    hosted,
    paper,
    paragraph,
    picture,
    post,
    slide,
    slideshow,
    sound,
)
from ..core.test_animations import a_square
from ..papers import a_pdf
from .base import ApiTest, a_person, a_picture, image_bytes
from .test_films import film_bytes, sound_bytes

RED_TO_GREEN = "ff0000-00ff00"


def as_json(*blocks):
    return document(*blocks).to_json()


class EmbedsTest(ApiTest):
    def lottie(self, whole=None, name="a lock fills.json"):
        data = json.dumps(whole or a_square()).encode()
        item, _ = receive(SimpleUploadedFile(name, data), self.author, "A square, red")
        return item

    def live(self, *blocks):
        for page in (self.home, self.visit):
            self.publish(page)
        self.save(self.walks, as_json(*blocks), None)
        self.publish(self.walks)
        self.render_all()
        return self.visit_page(self.walks.path)

    def blocks(self, *blocks, status=200):
        return self.call("POST", f"/pages/{self.walks.pk}/blocks", {"document": as_json(*blocks)}, status)


class OfAnotherKind(EmbedsTest):
    """Whoever writes by the API may name any item anywhere."""

    def test_whatever_item_a_node_names_the_page_is_saved_shown_checked_and_exported(self):
        with self.committed():
            without_files = (Item.Kind.HOSTED, Item.Kind.POST)
            facts = {"added_at": timezone.now(), "added_by": self.author}
            items = [
                a_picture(self.author).pk,
                self.lottie().pk,
                receive(SimpleUploadedFile("form.pdf", a_pdf("Name")), self.author)[0].pk,
                receive(BytesIO(film_bytes(1)), self.author, name="Lock.mov")[0].pk,
                receive(BytesIO(sound_bytes(1)), self.author, name="Warden.mp3")[0].pk,
                *(Item.objects.create(kind=kind, title=f"A {kind.label}", **facts).pk for kind in without_files),
            ]
            host = Host.objects.create(name="Gone", frames="https://gone.example", added_by=self.author)
            for number, item in enumerate(Item.objects.filter(kind__in=(Item.Kind.HOSTED, Item.Kind.POST))):
                address = f"https://gone.example/{number}"
                said = {"address": address, "digest": digest_of(address), "next_at": timezone.now()}
                Hosting.objects.create(item=item, host=host, **said)
            self.assertEqual({item.kind for item in Item.objects.filter(pk__in=items)}, set(Item.Kind))
            blocks = [
                *(make(each) for make in (picture, film, sound, hosted, paper, animation, post) for each in items),
                *(picture(each, crop="0,0,500,500") for each in items),
                film(items[0], cover=f"item-{items[-1]}"),
                post(items[-1], pictures=" ".join(map(str, items[:4]))),
                downloads(*map(download, items)),
                gallery(*map(picture, items)),
                slideshow(*(slide(picture(each)) for each in items)),
            ]
            self.save(self.walks, as_json(*blocks), None)
            self.blocks(*blocks)
            path = f"/pages/{self.walks.pk}"
            self.call("POST", f"{path}/check", {"title": "Walks", "description": "", "document": as_json(*blocks)})
            self.call("POST", f"{path}/listen", {"title": "Walks", "description": "", "document": as_json(*blocks)})
            for ending in FORMATS:
                self.assertEqual(self.client.get(f"/api{path}/export/{ending}").status_code, 200, ending)
            found = self.publish(self.walks, status=422)
            self.assertIn("This picture is no longer in the media library.", found["detail"])


class Cuts(EmbedsTest):
    def test_a_gallery_stands_on_the_sheet_as_it_will_before_anything_is_cut_for_it(self):
        number = a_picture(self.author, size=(480, 320)).pk
        tiles = gallery(picture(number), form="tiles", size="medium", ratio="1:1")
        for made in (False, True):
            [block] = self.blocks(tiles)
            shown = re.search(r"<img[^>]*>", block["html"])[0]
            self.assertIn('width="232" height="232"', shown)
            address = re.search(r'src="([^"]*)"', shown)[1]
            self.assertEqual(address.startswith(f"/api/items/{number}/cut/"), not made, address)
            answer = self.client.get(address)
            data = b"".join(answer.streaming_content) if answer.streaming else answer.content
            with Image.open(BytesIO(data)) as image:
                self.assertEqual(image.size, (320, 320))
            # Whoever looks at it large gets it whole.
            self.assertIn("/whole-480", re.search(r'<a href="([^"]*)"', block["html"])[1])
            self.save(self.walks, as_json(tiles), None if not made else 2)
            bring_up_to_date(number)


class Waiting(EmbedsTest):
    """What is still to be made is told, so that the sheet asks again for it, and for nothing else."""

    def test_a_document_waits_for_the_pages_that_are_asked_for_and_no_longer(self):
        number = receive(SimpleUploadedFile("plan.pdf", a_pdf("Gates", pages=3)), self.author)[0].pk
        read_document(number)

        def told(**said):
            [block] = self.blocks(paper(number, **said))
            return block["waits"], block["html"].count("<img")

        self.assertEqual(told(first=1, last=2), (True, 0))
        self.save(self.walks, as_json(paper(number, first=1, last=2)), None)
        self.assertEqual(told(first=1, last=2), (True, 0))
        read_document(number)
        self.assertEqual(told(first=1, last=2), (False, 2))
        self.assertEqual(told(first=1, last=3), (True, 2))
        self.assertEqual(told(first=2, last=2), (False, 1))
        # It has no more pages than three, and what cannot be read has none to wait for.
        self.save(self.walks, as_json(paper(number, first=1, last=9)), 2)
        read_document(number)
        self.assertEqual(told(first=1, last=9), (False, 3))
        Item.objects.filter(pk=number).update(problem="It is locked.")
        self.assertFalse(self.blocks(paper(number, first=8))[0]["waits"])

    def test_an_animation_waits_for_its_colours_where_they_are_not_made_at_once_and_text_for_nothing(self):
        number = self.lottie().pk
        whole = document(animation(number), animation(number, colours=RED_TO_GREEN), paragraph("x"), gallery())
        sight = sight_of(self.author)
        told = [
            [block.waits for block in blocks_of(whole, self.site, sight=sight, makes=makes)] for makes in (False, True)
        ]
        self.assertEqual(told, [[False, True, False, False], [False] * 4])


class Animations(EmbedsTest):
    def test_one_comes_in_by_its_bytes_and_a_frame_of_it_is_drawn(self):
        answer = self.client.post(
            "/api/items", {"file": SimpleUploadedFile("lock.json", json.dumps(a_square()).encode())}
        )
        self.assertEqual(answer.status_code, 201, answer.content)
        told = answer.json()
        self.assertEqual((told["kind"], told["format"], told["colours"]), ("animation", "Lottie", ["ff0000"]))
        self.assertEqual((told["width"], told["height"], told["lasts"]), (100, 100, 1000))
        draw_animation(told["id"])
        told = self.call("GET", f"/items/{told['id']}")
        self.assertEqual({each["cut"] for each in told["files"]}, {"moving-base", "still-base"})
        self.assertTrue(told["ready"])
        self.assertIn("still-base", told["thumbnail"])
        again = self.lottie()
        self.assertEqual(again.pk, told["id"])

    def test_what_is_none_or_would_do_harm_is_refused_with_its_place_and_nothing_is_kept(self):
        with_script = a_square()
        with_script["layers"][0]["ks"] = {"r": {"a": 0, "k": 0, "x": "wiggle(1, 2)"}}
        for data, words in (
            (json.dumps(with_script).encode(), "layers.0.ks.r"),
            (b'{"a": 1}', "no layers"),
            (b"{" + b"x" * 6_000_000, "larger than 5 MB"),
        ):
            answer = self.client.post("/api/items", {"file": SimpleUploadedFile("a.json", data)})
            self.assertEqual(answer.status_code, 415)
            self.assertIn(words, answer.json()["detail"])
        self.assertFalse(Item.objects.filter(kind=Item.Kind.ANIMATION).exists())

    def test_other_colours_are_seen_at_once_and_drawn_by_and_by(self):
        item = self.lottie()
        draw_animation(item.pk)
        (block,) = self.blocks(animation(item.pk, colours=RED_TO_GREEN))
        cut = cut_for(RED_TO_GREEN)
        self.assertIn(f"moving-{cut}", block["html"])
        self.assertIn("still-base", block["html"])
        self.assertTrue(block["scripts"][0].startswith("/static/theme/animation"))
        moving = item.files.get(cut=f"moving-{cut}")
        answer = self.client.get(f"/media/{moving.name}")
        self.assertEqual(colours_of(json.loads(b"".join(answer.streaming_content))), ("00ff00",))
        # Saved, the use asks for a frame in these colours.
        self.save(self.walks, as_json(animation(item.pk, colours=RED_TO_GREEN)), None)
        draw_animation(item.pk)
        self.assertTrue(item.files.filter(cut=f"still-{cut}").exists())
        (block,) = self.blocks(animation(item.pk, colours=RED_TO_GREEN))
        self.assertIn(f"still-{cut}", block["html"])

    def test_what_goes_out_has_the_colours_of_each_use(self):
        item = self.lottie()
        self.save(self.walks, as_json(animation(item.pk), animation(item.pk, colours=RED_TO_GREEN)), None)
        draw_animation(item.pk)
        archive = zipfile.ZipFile(BytesIO(self.client.get(f"/api/pages/{self.walks.pk}/export/html").content))
        stills = [archive.read(name) for name in archive.namelist() if name.endswith(".png")]
        middle = [Image.open(BytesIO(still)).convert("RGBA") for still in stills]
        colours = {each.getpixel((each.width // 2, each.height // 2))[:3] for each in middle}
        self.assertEqual(colours, {(255, 0, 0), (0, 255, 0)})

    def test_colours_that_were_only_tried_are_cleared_away_after_a_day(self):
        item = self.lottie()
        draw_animation(item.pk)
        self.save(self.walks, as_json(animation(item.pk, colours=RED_TO_GREEN)), None)
        draw_animation(item.pk)
        self.blocks(animation(item.pk, colours="ff0000-0000ff"))
        tried, kept = (f"moving-{cut_for(colours)}" for colours in ("ff0000-0000ff", RED_TO_GREEN))
        clear_away()
        self.assertTrue(item.files.filter(cut=tried).exists())
        item.files.update(made_at=timezone.now() - timedelta(days=2))
        clear_away()
        self.assertFalse(item.files.filter(cut=tried).exists())
        self.assertEqual(item.files.filter(cut__in=(kept, "moving-base", "still-base")).count(), 3)

    def test_who_may_only_read_the_page_has_nothing_made(self):
        item = self.lottie()
        self.as_person(a_person("piet", Role.KEEPER))
        self.blocks(animation(item.pk, colours=RED_TO_GREEN))
        self.assertFalse(item.files.filter(cut=f"moving-{cut_for(RED_TO_GREEN)}").exists())

    def test_readers_get_it_with_what_it_needs_from_their_own_site_alone(self):
        item = self.lottie()
        draw_animation(item.pk)
        answer = self.live(animation(item.pk, caption="Red"))
        html = answer.content.decode()
        self.assertIn("connect-src 'self'", answer["Content-Security-Policy"])
        self.assertIn('alt="A square, red"', html)
        self.assertIn("player/lottie_light.min", html)
        self.client.logout()
        moving = item.files.get(cut="moving-base")
        self.assertEqual(self.visit_page(f"/media/{moving.name}").status_code, 200)
        original = item.files.get(original=True)
        self.assertEqual(self.visit_page(f"/media/{original.name}").status_code, 403)

    def test_a_newer_file_takes_its_place_everywhere(self):
        item = self.lottie()
        draw_animation(item.pk)
        self.live(animation(item.pk))
        replace(item, SimpleUploadedFile("b.json", json.dumps(a_square((0, 0, 1))).encode()))
        draw_animation(item.pk)
        self.render_all()
        item.refresh_from_db()
        html = self.visit_page(self.walks.path).content.decode()
        moving = item.files.get(cut="moving-base", version=item.version)
        self.assertIn(moving.name, html)
        self.assertEqual(self.call("GET", f"/items/{item.pk}")["colours"], ["0000ff"])

    def test_one_of_which_no_frame_can_be_drawn_plays_all_the_same_and_says_so(self):
        item = self.lottie()
        with patch.object(animations, "run_apart", return_value=None):
            draw_animation(item.pk)
        told = self.call("GET", f"/items/{item.pk}")
        self.assertIn("No frame", told["problem"])
        found = self.call("POST", "/check", {"document": as_json(animation(item.pk)), "site": self.site.pk})
        self.assertIn("animation-without-still", {each["check"] for each in found["findings"]})
        self.assertIn('role="img"', self.blocks(animation(item.pk))[0]["html"])

    def test_it_goes_out_with_a_page_and_with_a_site(self):
        item = self.lottie()
        draw_animation(item.pk)
        html = self.live(animation(item.pk, caption="Red")).content.decode()
        for ending in ("docx", "odt", "md", "html", "txt"):
            data = self.client.get(f"/api/pages/{self.walks.pk}/export/{ending}").content
            if data.startswith(b"PK"):
                with zipfile.ZipFile(BytesIO(data)) as archive:
                    data = b"".join(archive.read(name) for name in archive.namelist())
            self.assertIn(b"Red", data, ending)
        answer = self.client.get(f"/api/sites/{self.site.pk}/export")
        archive = zipfile.ZipFile(BytesIO(b"".join(answer.streaming_content)))
        names = archive.namelist()
        self.assertTrue(any("moving-base" in name for name in names))
        self.assertTrue(any("lottie_light" in name for name in names))
        # Pasted from the live page it is the same item again.
        start = html.index('<div class="film animation"')
        pasted = self.call("POST", "/paste", {"html": html[start:], "text": "", "container": "region"})
        found = [each for each in pasted["document"]["content"][0]["content"] if each["type"] == "animation"]
        self.assertEqual([each["attrs"]["item"] for each in found], [item.pk])


class Papers(EmbedsTest):
    def made(self, pages=3):
        item, _ = receive(SimpleUploadedFile("form.pdf", a_pdf("The windlass fits.", pages=pages)), self.author)
        read_document(item.pk)
        return item

    def test_its_pages_are_drawn_once_a_text_shows_them_and_only_those(self):
        item = self.made(5)
        self.assertFalse(item.files.filter(cut__startswith="shown-").exists())
        self.save(self.walks, as_json(paper(item.pk, first=2, last=3)), None)
        item.refresh_from_db()
        self.assertLess(item.made, item.wanted)
        read_document(item.pk)
        cuts = set(item.files.filter(cut__startswith="shown-").values_list("cut", flat=True))
        self.assertEqual(cuts, {"shown-2", "shown-3"})
        (block,) = self.blocks(paper(item.pk, first=2, last=3))
        self.assertEqual(block["html"].count("<img"), 2)
        self.assertIn("The windlass fits.", block["html"])
        self.assertIn("Page 2 of 5", block["html"])

    def test_readers_have_the_pages_of_the_file_that_is_shown_now(self):
        item = self.made()
        self.live(paper(item.pk))
        read_document(item.pk)
        self.render_all()
        self.assertEqual(self.visit_page(self.walks.path).content.decode().count('class="paper-number"'), 3)
        replace(item, SimpleUploadedFile("b.pdf", a_pdf("Otherwise.", pages=1)))
        read_document(item.pk)
        self.render_all()
        html = self.visit_page(self.walks.path).content.decode()
        self.assertEqual(html.count('class="paper-number"'), 1)
        self.assertIn("Otherwise.", html)

    def test_one_of_five_thousand_pages_is_shown_as_far_as_is_sensible(self):
        item, _ = receive(SimpleUploadedFile("long.pdf", a_pdf("x", pages=60)), self.author)
        self.save(self.walks, as_json(paper(item.pk)), None)
        with patch("stillpage.library.documents._drawn", return_value=b"") as drawn:
            read_document(item.pk)
        self.assertLess(drawn.call_count, 3)
        self.assertEqual(DocumentPage.objects.count(), 0)
        found = self.call("POST", "/check", {"document": as_json(paper(item.pk)), "site": self.site.pk})
        self.assertIn("paper-undrawn", {each["check"] for each in found["findings"]})

    def test_one_in_the_bin_and_one_that_is_kept_to_readers_who_are_signed_in_are_told(self):
        item = self.made()
        acts.to_bin(self.author, [item])
        found = self.call("POST", "/check", {"document": as_json(paper(item.pk)), "site": self.site.pk})
        self.assertIn("item-binned", {each["check"] for each in found["findings"]})


class GalleriesAndSlideshows(EmbedsTest):
    def pictures(self, count):
        made = []
        for number in range(count):
            data = image_bytes((640, 480), colour=f"#{number * 20:02x}{255 - number * 20:02x}80")
            made.append(receive(SimpleUploadedFile(f"{number}.jpg", data), self.author, "x")[0])
        return made

    def test_forty_pictures_are_published_and_each_is_used(self):
        items = self.pictures(12)
        html = self.live(gallery(*(picture(item.pk) for item in items))).content.decode()
        self.assertEqual(html.count("<li><figure>"), 12)
        self.assertEqual(Item.objects.filter(used_on=1).count(), 12)
        # The cut of each tile was there when the page went live.
        self.assertEqual(html.count("0.0.1250.0.7500.10000") > 0, True)

    def test_publishing_does_not_wait_for_very_many_cuts(self):
        items = self.pictures(6)
        self.save(self.walks, as_json(gallery(*(picture(item.pk) for item in items))), None)
        with (
            patch.object(publishing, "AT_ONCE", -1.0),
            patch.object(publishing, "make_at_once", side_effect=AssertionError),
        ):
            self.publish(self.walks)

    def test_a_block_is_drawn_as_readers_get_it_for_who_may_see_the_page(self):
        (one, other) = self.pictures(2)
        shows = slideshow(slide(picture(one.pk), heading="Go", href=f"page:{self.visit.pk}"), slide(picture(other.pk)))
        made = self.blocks(paragraph("x"), gallery(picture(one.pk)), shows)
        self.assertEqual([bool(each["scripts"]) for each in made], [False, True, True])
        self.assertIn('aria-roledescription="carousel"', made[2]["html"])
        self.client.logout()
        self.blocks(gallery(picture(one.pk)), status=401)

    def test_what_cannot_be_a_block_is_refused_with_its_place(self):
        wrong = as_json(gallery(picture(1)))
        wrong["content"][0]["content"][0]["content"] = [{"type": "paragraph"}]
        detail = self.call("POST", f"/pages/{self.walks.pk}/blocks", {"document": wrong}, 422)["detail"]
        self.assertTrue(detail)

    def test_a_picture_that_goes_for_good_is_told_of_the_gallery(self):
        (one,) = self.pictures(1)
        self.save(self.walks, as_json(gallery(picture(one.pk), picture(999_999))), None)
        found = self.call("POST", "/check", {"document": as_json(gallery(picture(999_999))), "site": self.site.pk})
        self.assertIn("picture-gone", {each["check"] for each in found["findings"]})
        self.publish(self.walks, 422)


class Sniffing(EmbedsTest):
    def test_text_that_begins_like_json_is_no_other_file(self):
        for data in (b"{\\rtf1 Hello}", b"{}", b"{"):
            with self.assertRaises(FileError):
                receive(SimpleUploadedFile("a.rtf", data), self.author)
