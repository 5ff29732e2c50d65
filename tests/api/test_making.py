"""The files that are made of pictures: all that are planned, whole or not at all, for every use, of every version."""

import zipfile
from io import BytesIO
from unittest.mock import patch

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image, ImageCms

from stillpage.library import derived
from stillpage.library.derived import bring_up_to_date, cuts_of, missing
from stillpage.library.documents import read_document
from stillpage.library.models import File, Item
from stillpage.library.receiving import receive
from stillpage.library.search import first_of
from stillpage.library.tasks import make_files, take_up_again
from stillpage.publishing.publish import publish
from stillpage.written import saving
from stillpage_core.media.editing import Cut
from stillpage_core.media.plan import plan
from stillpage_core.reading import read_markdown
from stillpage_core.writing.carrying import Carried
from stillpage_core.writing.docx import docx

from ..core.documents import document, paragraph, picture
from .base import ApiTest, image_bytes, photograph


class MakingTest(ApiTest):
    def item(self, data, name="a.jpg"):
        return receive(SimpleUploadedFile(name, data), self.author, "Gates")[0]

    def opened(self, file):
        with default_storage.open(file.name) as stored:
            picture = Image.open(BytesIO(stored.read()))
        picture.load()
        return picture

    def write(self, page, *blocks):
        page.working_copy.refresh_from_db()
        saving.save(page, self.author, saving.Draft("T", "", document(*blocks)), page.working_copy.revision)
        page.working_copy.refresh_from_db()

    def put_live(self, page, *blocks):
        self.write(page, *blocks)
        with self.committed():
            publish(page, self.author, page.working_copy.revision)


class Made(MakingTest):
    def test_everything_that_is_planned_is_made_at_its_size_and_in_its_format(self):
        item = self.item(photograph((1700, 1100)))
        bring_up_to_date(item.pk)
        wanted = {(each.width, each.height, each.form.mime) for each in plan(1700, 1100)}
        made = item.files.filter(original=False)
        self.assertEqual({(file.width, file.height, file.mime) for file in made}, wanted)
        for file in made:
            opened = self.opened(file)
            self.assertEqual((opened.size, Image.MIME[opened.format]), ((file.width, file.height), file.mime))
            self.assertEqual(default_storage.size(file.name), file.size)
        item.refresh_from_db()
        self.assertEqual(item.made, item.wanted)
        self.assertTrue(self.call("GET", f"/items/{item.pk}")["ready"])
        self.assertEqual(bring_up_to_date(item.pk), 0)

    def test_small_pictures_are_never_made_larger(self):
        item = self.item(photograph((90, 70)))
        bring_up_to_date(item.pk)
        self.assertEqual({file.width for file in item.files.all()}, {90})

    def test_metadata_goes_save_the_profile_and_whose_it_is(self):
        exif = Image.Exif()
        exif[0x013B], exif[0x8298], exif[0x010F] = "Ansel Thrupp", "Varrow Canal Trust", "A camera"
        exif.get_ifd(0x8825)[1] = "N"
        profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        item = self.item(photograph((700, 500), exif=exif.tobytes(), icc_profile=profile))
        self.assertEqual(item.credit, "Ansel Thrupp")
        bring_up_to_date(item.pk)
        for file in item.files.filter(original=False):
            opened = self.opened(file)
            found = opened.getexif()
            self.assertEqual(found.get(0x013B), "Ansel Thrupp", file.name)
            self.assertEqual((found.get(0x010F), dict(found.get_ifd(0x8825))), (None, {}), file.name)
            self.assertEqual(opened.info.get("icc_profile"), profile, file.name)

    def test_every_sort_of_pixels_is_read(self):
        base = Image.open(BytesIO(photograph((300, 200))))
        for number, mode in enumerate(("L", "LA", "P", "RGBA", "CMYK", "1", "I;16")):
            form = "JPEG" if mode == "CMYK" else "PNG"
            picture = base.convert("I").convert("I;16") if mode == "I;16" else base.convert(mode)
            picture = picture.resize((300 + number, 200))
            out = BytesIO()
            picture.save(out, form)
            item = self.item(out.getvalue(), f"{number}.x")
            self.assertGreater(bring_up_to_date(item.pk), 0, mode)

    def test_what_shows_through_stays_so_but_in_jpeg(self):
        clear = Image.open(BytesIO(photograph((400, 300)))).convert("RGBA")
        clear.putalpha(Image.linear_gradient("L").resize((400, 300)))
        out = BytesIO()
        clear.save(out, "PNG")
        item = self.item(out.getvalue())
        bring_up_to_date(item.pk)
        for file in item.files.filter(original=False):
            self.assertEqual(self.opened(file).mode == "RGBA", file.mime != "image/jpeg", file.name)

    def test_moving_pictures_go_on_moving(self):
        frames = [Image.new("RGB", (640, 400), colour) for colour in ("#400", "#040", "#004", "#444")]
        for form in ("GIF", "WEBP"):
            out = BytesIO()
            frames[0].save(out, form, save_all=True, append_images=frames[1:], duration=[80, 120, 80, 400], loop=0)
            item = self.item(out.getvalue(), f"a.{form}")
            self.assertEqual(item.nature, "moving")
            bring_up_to_date(item.pk)
            files = item.files.filter(original=False)
            self.assertEqual({file.mime for file in files}, {"image/gif", "image/webp"})
            for file in files:
                opened = self.opened(file)
                self.assertEqual((opened.n_frames, opened.info["loop"]), (4, 0), file.name)
                durations = []
                for frame in range(4):
                    opened.seek(frame)
                    opened.load()
                    durations.append(opened.info["duration"])
                self.assertEqual(durations, [80, 120, 80, 400], file.name)

    def test_drawings_keep_their_edges(self):
        item = self.item(image_bytes((900, 600), "PNG"), "plan.png")
        bring_up_to_date(item.pk)
        for file in item.files.filter(original=False):
            self.assertEqual(self.opened(file).convert("RGB").getpixel((5, 5)), (0x44, 0x55, 0x66), file.name)

    def test_svg_is_given_out_as_it_was_judged(self):
        inside = b"<metadata>me</metadata><path d='M0 0h40'/>"
        svg = b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 40 30'>%b</svg>" % inside
        item = self.item(svg, "lock.svg")
        self.assertEqual((item.nature, item.width, item.made), ("lines", 40, item.wanted))
        name = item.files.get(original=False).name
        answer = self.visit_page(f"/media/{name}")
        body = b"".join(answer.streaming_content)
        self.assertEqual(answer["Content-Type"], "image/svg+xml")
        self.assertIn("sandbox", answer["Content-Security-Policy"])
        self.assertNotIn(b"metadata", body)

    def test_a_moving_picture_of_too_many_pixels_is_refused_unread(self):
        frames = [Image.new("P", (6000, 5000), number) for number in range(12)]
        out = BytesIO()
        frames[0].save(out, "GIF", save_all=True, append_images=frames[1:])
        answer = self.client.post("/api/items", {"file": SimpleUploadedFile("bomb.gif", out.getvalue())})
        self.assertEqual(answer.status_code, 415)
        self.assertIn("12 frames", answer.json()["detail"])


class BrokenOff(MakingTest):
    def test_a_worker_killed_in_the_middle_leaves_no_half_file_and_the_next_goes_on(self):
        item = self.item(photograph((600, 400)))
        before = set(item.files.values_list("name", flat=True))
        real, count = derived.store, []

        def killed(name, content):
            count.append(name)
            if len(count) == 4:
                default_storage.save(name, ContentFile(b"half a fi"))
                raise SystemExit
            real(name, content)

        with patch.object(derived, "store", killed), self.assertRaises(SystemExit):
            make_files.func(item.pk)
        self.assertEqual(set(item.files.values_list("name", flat=True)) - before, set(count[:3]))
        self.assertEqual(self.visit_page(f"/media/{count[3]}").status_code, 404)
        item.refresh_from_db()
        self.assertLess(item.made, item.wanted)
        self.assertEqual(take_up_again(), 1)
        make_files.func(item.pk)
        self.assertEqual(missing(Item.objects.get(pk=item.pk), [Cut()]), [])
        whole = File.objects.get(name=count[3])
        self.assertEqual(self.opened(whole).size, (whole.width, whole.height))
        self.assertEqual(take_up_again(), 0)

    def test_a_full_disk_leaves_the_work_for_later(self):
        item = self.item(photograph((600, 400)))
        with (
            patch.object(derived, "store", side_effect=OSError(28, "No space left on device")),
            self.assertRaises(OSError),
        ):
            make_files.func(item.pk)
        item.refresh_from_db()
        self.assertLess(item.made, item.wanted)
        self.assertGreater(bring_up_to_date(item.pk), 0)

    def test_an_original_that_is_damaged_later_is_told_and_not_tried_for_ever(self):
        item = self.item(photograph((600, 400)))
        original = item.files.get(original=True)
        default_storage.delete(original.name)
        default_storage.save(original.name, ContentFile(photograph((600, 400))[:9000]))
        bring_up_to_date(item.pk)
        item.refresh_from_db()
        self.assertIn("cannot be read to its end", item.problem)
        self.assertEqual(take_up_again(), 0)


class ForEachUse(MakingTest):
    def test_a_page_that_is_published_shows_its_own_cut_at_once(self):
        item = self.item(photograph((1000, 750)))
        self.put_live(self.walks, paragraph("x"), picture(item.pk, ratio="1:1", focus="0,5000", width=400))
        html = self.visit_page("/visit/towpath-walks").content.decode()
        self.assertIn('width="400" height="400"', html)
        source = html.split('<img src="')[1].split('"')[0]
        self.assertEqual(Image.open(BytesIO(b"".join(self.visit_page(source).streaming_content))).size, (480, 480))
        with self.committed():
            bring_up_to_date(item.pk)
        later = self.visit_page("/visit/towpath-walks").content.decode()
        self.assertEqual(later.count("<source"), 2)
        self.assertIn("image/avif", later)

    def test_cuts_are_kept_for_every_use_and_the_item(self):
        item = self.item(photograph((1000, 750)))
        self.assertEqual(cuts_of(item), [Cut()])
        self.write(self.walks, picture(item.pk, turn=1), picture(item.pk, crop="0,0,5000,5000"))
        self.call("PATCH", f"/items/{item.pk}", {"edits": {"straighten": 20}})
        item.refresh_from_db()
        cuts = cuts_of(item)
        self.assertEqual(len(cuts), 4)
        self.assertIn(Cut(1, 20), cuts)
        uses = self.call("GET", f"/items/{item.pk}/uses")
        self.assertEqual(len(uses[0]["framings"]), 2)

    def test_what_the_item_is_made_to_look_like_reaches_live_pages(self):
        item = self.item(photograph((1000, 750)))
        self.put_live(self.walks, paragraph("x"), picture(item.pk))
        act = self.call("PATCH", f"/items/{item.pk}", {"edits": {"ratio": "2:1"}})
        self.assertEqual(act["edits"]["ratio"], "2:1")
        with self.committed():
            bring_up_to_date(item.pk)
        self.assertIn('width="720" height="360"', self.visit_page("/visit/towpath-walks").content.decode())
        last = self.call("GET", "/acts/last")
        self.call("POST", f"/acts/{last['id']}/undo")
        with self.committed():
            bring_up_to_date(item.pk)
        self.assertIn('width="720" height="540"', self.visit_page("/visit/towpath-walks").content.decode())

    def test_the_cut_takes_what_it_says_of_the_picture(self):
        quarters = Image.new("RGB", (400, 200), "#c00")
        quarters.paste("#0c0", (200, 0, 400, 100))
        quarters.paste("#00c", (0, 100, 200, 200))
        quarters.paste("#cc0", (200, 100, 400, 200))
        out = BytesIO()
        quarters.save(out, "PNG")
        item = self.item(out.getvalue(), "q.png")
        for cut, size, colour in (
            (Cut(0, 0, (5000, 0, 5000, 5000)), (200, 100), (0, 0xCC, 0)),
            (Cut(1, 0, (0, 0, 5000, 5000)), (100, 200), (0, 0, 0xCC)),
            (Cut(2, 0, (0, 0, 5000, 5000)), (200, 100), (0xCC, 0xCC, 0)),
            (Cut(3, 0, (0, 0, 5000, 5000)), (100, 200), (0, 0xCC, 0)),
        ):
            derived.make(item, [(cut, plan(*cut.size(400, 200), drawing=True))])
            file = item.files.filter(cut=cut.key, mime="image/png").order_by("-width").first()
            opened = self.opened(file).convert("RGB")
            self.assertEqual((opened.size, opened.getpixel((size[0] // 2, size[1] // 2))), (size, colour), cut)

    def test_a_preview_is_there_before_the_files(self):
        item = self.item(photograph((1000, 750)))
        answer = self.client.get(f"/api/items/{item.pk}/cut/1.30.0.0.5000.5000?width=200")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/jpeg"))
        self.assertEqual(Image.open(BytesIO(answer.content)).size[0], 200)
        for bad in ("9.0.0.0.1.1", "x", "0.0.0.0.0.0"):
            self.assertEqual(self.client.get(f"/api/items/{item.pk}/cut/{bad}").status_code, 422)
        self.assertEqual(self.client.get(f"/api/items/{item.pk}/cut/whole?width=9999").status_code, 422)


class Versions(MakingTest):
    def replaced(self, item, data, status=201):
        made = self.call("POST", "/uploads", {"name": "newer.jpg", "size": len(data), "replaces": item.pk}, 201)
        self.client.generic("PUT", f"/api/uploads/{made['id']}?start=0", data, "application/octet-stream")
        return self.call("POST", f"/uploads/{made['id']}", status=status)

    def test_a_newer_file_is_shown_everywhere_and_the_earlier_one_can_be_again(self):
        item = self.item(photograph((1000, 750)))
        self.put_live(self.walks, paragraph("x"), picture(item.pk))
        before = self.visit_page("/visit/towpath-walks").content.decode()
        out = self.replaced(item, photograph((900, 300), seed=5))
        self.assertEqual((out["id"], out["version"], out["width"], out["alt"]), (item.pk, 2, 900, "Gates"))
        with self.committed():
            bring_up_to_date(item.pk)
        after = self.visit_page("/visit/towpath-walks").content.decode()
        self.assertIn('width="720" height="240"', after)
        self.assertNotEqual(before, after)
        # A reader who has the earlier page still finds the earlier file.
        self.assertEqual(self.visit_page(before.split('<img src="')[1].split('"')[0]).status_code, 200)
        versions = self.call("GET", f"/items/{item.pk}/versions")
        self.assertEqual([(each["version"], each["present"]) for each in versions], [(2, True), (1, False)])
        self.call("POST", f"/items/{item.pk}/versions/1")
        with self.committed():
            bring_up_to_date(item.pk)
        self.assertIn('width="720" height="540"', self.visit_page("/visit/towpath-walks").content.decode())
        self.assertIn("no such version", self.call("POST", f"/items/{item.pk}/versions/9", status=422)["detail"])

    def test_what_cannot_take_its_place(self):
        item = self.item(photograph((1000, 750)))
        other = self.item(photograph((1000, 750), seed=9))
        pdf = b"%PDF-1.4\n1 0 obj\n<<>>\nendobj\n%%EOF"
        self.assertIn("own", self.replaced(item, pdf, 422)["detail"])
        self.assertIn(f"“{other.title}”", self.replaced(item, photograph((1000, 750), seed=9), 422)["detail"])
        self.replaced(item, b"no picture", 415)
        item.refresh_from_db()
        self.assertEqual((item.version, item.files.filter(original=True).count()), (1, 1))


class Reading(MakingTest):
    def test_words_within_documents_are_found(self):
        data = docx(read_markdown("The windlass fits every sluice.").document, Carried(title="Guide"))
        word, _ = receive(SimpleUploadedFile("guide.docx", data), self.author)
        read_document(word.pk)
        pdf = Image.new("RGB", (200, 200))
        out = BytesIO()
        pdf.save(out, "PDF")
        paper, _ = receive(SimpleUploadedFile("scan.pdf", out.getvalue()), self.author)
        read_document(paper.pk)
        self.assertEqual(first_of(Item.objects.all(), "windlass fits", 0, 9), [word.pk])
        paper.refresh_from_db()
        self.assertEqual((paper.length, paper.made), (1, paper.wanted))

    def test_the_demo_form_is_read_by_its_words(self):
        from django.conf import settings

        data = (settings.ROOT / "demo" / "documents" / "minutes-of-may.pdf").read_bytes()
        paper, _ = receive(SimpleUploadedFile("minutes.pdf", data), self.author)
        read_document(paper.pk)
        self.assertEqual(first_of(Item.objects.all(), "certificate renewed", 0, 9), [paper.pk])

    def test_a_document_that_cannot_be_read_is_kept_and_told(self):
        data = docx(read_markdown("x").document, Carried(title="Guide"))
        item, _ = receive(SimpleUploadedFile("guide.docx", data), self.author)
        original = item.files.get()
        default_storage.delete(original.name)
        default_storage.save(original.name, ContentFile(data[: len(data) // 2]))
        read_document(item.pk)
        item.refresh_from_db()
        self.assertTrue(item.problem)


class GoingOut(MakingTest):
    def test_a_page_takes_the_present_file_along_in_a_form_that_every_program_shows(self):
        item = self.item(photograph((700, 500), "WEBP"), "gates.webp")
        self.write(self.walks, picture(item.pk))
        with default_storage.open(item.files.get(mime="image/jpeg").name) as made:
            wanted = made.read()
        answer = self.client.get(f"/api/pages/{self.walks.pk}/export/md")
        with zipfile.ZipFile(BytesIO(answer.content)) as archive:
            (name,) = (each for each in archive.namelist() if each.endswith(".jpg"))
            self.assertEqual(archive.read(name), wanted)
