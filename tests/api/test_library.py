"""Pictures coming in and going out, the bad ones above all."""

import struct
import zlib
from io import BytesIO
from pathlib import Path
from unittest.mock import patch

from django.conf import settings
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import override_settings
from django.test.utils import CaptureQueriesContext
from PIL import Image

from stillpage.library.models import File, Item
from stillpage.library.ranges import Unsatisfiable, asked_for
from stillpage.library.receiving import receive, title_from_name

from .base import ApiTest, a_picture, image_bytes, photograph


def declared_png(width, height):
    """A PNG of a few bytes that declares any size (PNG specification, 11.2.2 IHDR)."""

    def chunk(kind, data):
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(b"\0" * 99)) + chunk(b"IEND", b"")
    )


class Adding(ApiTest):
    def add(self, data, name="a.jpg", status=201, **fields):
        answer = self.client.post("/api/items", {"file": SimpleUploadedFile(name, data), **fields})
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()

    def refused(self, data, said, status=415, name="a.jpg"):
        problem = self.add(data, name, status)
        self.assertIn(said, problem["detail"])
        self.assertEqual((Item.objects.count(), File.objects.count()), (0, 0))
        self.assertEqual([path for path in Path(settings.MEDIA_ROOT).rglob("*") if path.is_file()], [])

    def test_a_picture_becomes_an_item_with_two_files_for_every_browser(self):
        item = self.add(photograph((1500, 1000)), "Lock_gates-at  noon.JPG", alt="Gates")
        self.assertEqual((item["title"], item["alt"], item["width"]), ("Lock gates at noon", "Gates", 1500))
        sizes = [(file["width"], file["height"], file["mime"]) for file in item["files"]]
        self.assertEqual(sizes, [(480, 320, "image/jpeg"), (960, 640, "image/jpeg")])
        self.assertEqual((item["nature"], item["ready"]), ("photograph", False))
        for file in File.objects.filter(original=False):
            with default_storage.open(file.name) as stored:
                self.assertEqual(Image.open(stored).size, (file.width, file.height))

    def test_every_format_gets_a_file_for_every_browser(self):
        for seed, form in enumerate(("JPEG", "PNG", "WEBP", "GIF", "AVIF")):
            item = self.add(photograph((700, 500), form, seed), f"x.{form}")
            self.assertEqual((item["format"].upper(), item["files"][0]["mime"]), (form, "image/jpeg"))
        drawing = self.add(image_bytes((700, 500), "PNG"), "plan.png")
        self.assertEqual((drawing["nature"], drawing["files"][0]["mime"]), ("drawing", "image/png"))

    def test_the_bytes_decide_and_not_the_name(self):
        self.assertEqual(self.add(image_bytes(form="PNG"), "photo.jpg")["format"], "PNG")

    def test_the_same_bytes_again_give_the_item_that_has_them(self):
        first = self.add(image_bytes(), "a.jpg")
        again = self.add(image_bytes(), "b.jpg", status=200)
        self.assertEqual((again["id"], again["is_new"], Item.objects.count()), (first["id"], False, 1))

    def test_a_picture_turned_by_its_camera_stands_upright_and_loses_its_place(self):
        exif = Image.Exif()
        exif[0x0112] = 6  # Orientation: turn by 90 degrees (Exif 2.32, table 4)
        exif.get_ifd(0x8825)[1] = "N"  # GPS
        item = self.add(image_bytes((900, 600), exif=exif.tobytes()))
        self.assertEqual((item["width"], item["height"]), (600, 900))
        for file in File.objects.filter(original=False):
            with default_storage.open(file.name) as stored:
                self.assertEqual(dict(Image.open(stored).getexif()), {})

    def test_a_file_that_is_no_picture(self):
        self.refused(b"just words", "no picture that can be read")
        self.refused(b"%PDF-1.7 ...", "ends before its end", name="photo.png")
        self.refused(b"", "no bytes at all")

    def test_an_svg_with_a_script(self):
        self.refused(
            b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
            "holds a script",
            name="a.svg",
        )

    def test_a_tiny_file_that_declares_20000_by_20000_pixels(self):
        self.refused(declared_png(20_000, 20_000), "20,000 × 20,000 pixels", name="a.png")

    def test_a_truncated_picture(self):
        self.refused(image_bytes()[:2000], "cannot be read to its end")
        self.refused(declared_png(50, 50), "cannot be read to its end")

    @override_settings(UPLOAD_LIMIT=1024 * 1024)
    def test_too_many_bytes(self):
        self.refused(b"\xff\xd8\xff" + b"\0" * (3 * 1024 * 1024), "larger than 1 MB", status=413)

    def test_100_megabytes_are_refused_and_not_kept(self):
        self.refused(b"\xff\xd8\xff" + b"\0" * (100 * 1024 * 1024), "larger than 64 MB", status=413)

    def test_no_file_at_all(self):
        self.assertIn("Choose a file", self.client.post("/api/items", {}).json()["detail"])

    def test_a_disk_that_is_full_while_writing_leaves_nothing_half_done(self):
        real = default_storage.save
        saves = []

        def failing(name, content):
            saves.append(name)
            if len(saves) == 2:
                raise OSError(28, "No space left on device")
            return real(name, content)

        with patch.object(default_storage, "save", failing):
            problem = self.add(image_bytes(), status=507)
        self.assertIn("nearly full", problem["detail"])
        self.assertEqual((Item.objects.count(), len(saves)), (0, 2))
        self.assertEqual([path for path in Path(settings.MEDIA_ROOT).rglob("*") if path.is_file()], [])

    def test_names_are_made_harmless(self):
        for name, title in (
            ("../../etc/passwd.jpg", "passwd"),
            ("C:\\a\\b c.png", "b c"),
            ("\u202egnp.exe.jpg", "gnp.exe"),
            ("x" * 300 + ".jpg", "x" * 200),
            (".jpg", ".jpg"),
        ):
            self.assertEqual(title_from_name(name), title)


class Describing(ApiTest):
    def test_alt_text_and_title_are_changed_one_by_one(self):
        item = a_picture(self.author, alt="")
        self.assertEqual(self.call("PATCH", f"/items/{item.pk}", {"alt": "Gates"})["title"], item.title)
        self.assertEqual(self.call("PATCH", f"/items/{item.pk}", {"title": "Gates of Lock 4"})["alt"], "Gates")
        self.call("PATCH", f"/items/{item.pk}", {"title": " "}, 422)
        self.call("PATCH", f"/items/{item.pk}", {"alt": "x" * 1001}, 422)
        self.call("PATCH", "/items/999999", {"alt": "x"}, 404)


class Several(ApiTest):
    def test_many_items_are_had_at_once_in_the_order_asked_each_once(self):
        gates, reeds = a_picture(self.author, "Gates"), a_picture(self.author, "Reeds", colour="#123")
        asked = "&".join(f"number={each}" for each in (reeds.pk, 999999, gates.pk, reeds.pk))
        found = self.call("GET", f"/library/items?{asked}")
        self.assertEqual([each["alt"] for each in found], ["Reeds", "Gates"])
        self.assertEqual(found[1], self.call("GET", f"/items/{gates.pk}"))
        for wrong in ("", "?number=", "?number=x", "?" + "&".join(["number=1"] * 101)):
            self.call("GET", f"/library/items{wrong}", status=422)

    def test_a_hundred_items_take_as_many_queries_as_two(self):
        items = [a_picture(self.author, f"Lock {number}", colour=f"#{100 + number}") for number in range(100)]
        counts = []
        for some in (items[:2], items):
            asked = "&".join(f"number={each.pk}" for each in some)
            with CaptureQueriesContext(connection) as queries:
                self.assertEqual(len(self.call("GET", f"/library/items?{asked}")), len(some))
            counts.append(len(queries))
        self.assertEqual(counts[1], counts[0])


class Finding(ApiTest):
    def test_all_words_are_looked_for_in_titles_and_alt_texts(self):
        a_picture(self.author, "Closed gates with white beams")
        a_picture(self.author, "Reeds", colour="#123")

        def find(words):
            return [item["alt"] for item in self.call("GET", f"/shelf?q={words}")["pictures"]]

        self.assertEqual(find("beams+closed"), ["Closed gates with white beams"])
        self.assertEqual(find("beams+reeds"), [])
        self.assertEqual(len(find("")), 2)
        self.assertEqual(find("100%25"), [])

    def test_pages_are_found_by_title_and_address(self):
        pages = self.call("GET", "/shelf?q=TOWPATH")["pages"]
        self.assertEqual([(page["id"], page["site"]) for page in pages], [(self.walks.pk, "Varrow Canal Trust")])


class Serving(ApiTest):
    def test_a_file_is_served_for_ever_under_its_hash_on_both_sides(self):
        item, _ = receive(BytesIO(photograph()), self.author, name="a.jpg")
        name = item.files.filter(original=False).first().name
        for answer in (self.visit_page(f"/media/{name}"), self.client.get(f"/media/{name}")):
            self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/jpeg"))
            self.assertIn("immutable", answer["Cache-Control"])
            self.assertEqual(answer["X-Content-Type-Options"], "nosniff")
            self.assertEqual(Image.open(BytesIO(b"".join(answer.streaming_content))).width, 480)
        again = self.visit_page(f"/media/{name}", HTTP_IF_NONE_MATCH=answer["ETag"])
        self.assertEqual(again.status_code, 304)

    def test_parts_are_served_to_who_asks_for_one(self):
        """The examples of RFC 9110, 14.1.2, for a file of 10,000 bytes."""
        for header, wanted in (
            ("bytes=0-499", (0, 499)),
            ("bytes=500-999", (500, 999)),
            ("bytes=-500", (9500, 9999)),
            ("bytes=9500-", (9500, 9999)),
            ("bytes=0-0", (0, 0)),
            ("bytes=9990-12000", (9990, 9999)),
            ("bytes=-20000", (0, 9999)),
            ("bytes=0-0,-1", None),
            ("bytes=500-200", None),
            ("lines=1-2", None),
            ("bytes=-", None),
        ):
            span = asked_for(header, None, '"a"', 10_000)
            self.assertEqual(None if span is None else (span.first, span.last), wanted, header)
        for header in ("bytes=10000-", "bytes=-0"):
            with self.assertRaises(Unsatisfiable):
                asked_for(header, None, '"a"', 10_000)
        self.assertIsNone(asked_for("bytes=0-1", '"b"', '"a"', 10_000))

    def test_a_part_of_a_file_is_just_these_bytes(self):
        item, _ = receive(BytesIO(photograph()), self.author, name="a.jpg")
        address = f"/media/{item.files.filter(original=False).first().name}"
        whole = b"".join(self.visit_page(address).streaming_content)
        part = self.visit_page(address, HTTP_RANGE="bytes=100-299")
        self.assertEqual((part.status_code, part["Content-Range"]), (206, f"bytes 100-299/{len(whole)}"))
        self.assertEqual((b"".join(part.streaming_content), part["Content-Length"]), (whole[100:300], "200"))
        self.assertEqual((part["ETag"], part["Accept-Ranges"]), (self.visit_page(address)["ETag"], "bytes"))
        beyond = self.visit_page(address, HTTP_RANGE=f"bytes={len(whole)}-")
        self.assertEqual((beyond.status_code, beyond["Content-Range"]), (416, f"bytes */{len(whole)}"))
        changed = self.visit_page(address, HTTP_RANGE="bytes=0-9", HTTP_IF_RANGE='"another"')
        self.assertEqual((changed.status_code, b"".join(changed.streaming_content)), (200, whole))

    def test_nothing_outside_the_library_can_be_reached(self):
        for name in ("../secret-key", "..%2Fsecret-key", "/etc/passwd", "none.jpg"):
            self.assertEqual(self.visit_page(f"/media/{name}").status_code, 404)
