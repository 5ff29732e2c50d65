"""Files that come in pieces: whole, broken off and gone on with, cancelled, too large, the same again."""

import hashlib
import subprocess
from datetime import timedelta
from io import BytesIO
from pathlib import Path
from unittest.mock import patch

from django.conf import settings
from django.core.files.storage import default_storage
from django.test import override_settings
from django.utils import timezone

from stillpage.library import receiving, uploads
from stillpage.library.derived import bring_up_to_date
from stillpage.library.models import File, Item, Upload
from stillpage.library.receiving import replace, show_version
from stillpage.library.tasks import clear_away

from .base import ApiTest, a_picture, image_bytes, photograph

PDF = b"%PDF-1.4\n1 0 obj\n<<>>\nendobj\n" + b"% filling\n" * 30_000 + b"%%EOF"


class InPieces(ApiTest):
    def begin(self, data, name="a.jpg", status=201, **more):
        return self.call("POST", "/uploads", {"name": name, "size": len(data), "stamp": "7", **more}, status)

    def put(self, upload, start, data, status=200):
        address = f"/api/uploads/{upload['id']}?start={start}"
        answer = self.client.generic("PUT", address, data, "application/octet-stream")
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()

    def finish(self, upload, status=201):
        return self.call("POST", f"/uploads/{upload['id']}", status=status)

    def nothing_is_kept(self):
        self.assertEqual((Item.objects.count(), File.objects.count(), Upload.objects.count()), (0, 0, 0))
        for folder in (settings.MEDIA_ROOT, settings.UPLOAD_FOLDER):
            self.assertEqual([path for path in Path(folder).rglob("*") if path.is_file()], [])

    def test_a_file_in_three_pieces_is_the_file_that_was_sent(self):
        upload = self.begin(PDF, "plan.pdf")
        third = len(PDF) // 3
        for start in (0, third, 2 * third):
            piece = PDF[start : start + third] if start < 2 * third else PDF[start:]
            self.assertEqual(self.put(upload, start, piece)["received"], start + len(piece))
        item = self.finish(upload)
        self.assertEqual((item["title"], item["kind"], item["size"]), ("plan", "document", len(PDF)))
        original = File.objects.get(original=True)
        with default_storage.open(original.name) as stored:
            self.assertEqual(hashlib.sha256(stored.read()).hexdigest(), hashlib.sha256(PDF).hexdigest())
        self.assertEqual((original.came_as, Upload.objects.filter(item=None).count()), ("plan.pdf", 0))
        self.assertEqual(list(Path(settings.UPLOAD_FOLDER).iterdir()), [])

    def test_the_same_file_chosen_again_goes_on_where_it_broke_off(self):
        upload = self.begin(PDF, "plan.pdf")
        self.put(upload, 0, PDF[:100_000])
        again = self.begin(PDF, "plan.pdf")
        self.assertEqual((again["id"], again["received"]), (upload["id"], 100_000))
        self.assertEqual(self.call("GET", f"/uploads/{upload['id']}")["received"], 100_000)
        self.put(again, 100_000, PDF[100_000:])
        self.finish(again)
        other = self.call("POST", "/uploads", {"name": "plan.pdf", "size": len(PDF), "stamp": "8"}, 201)
        self.assertEqual(other["received"], 0)

    def test_a_piece_that_breaks_off_keeps_what_arrived(self):
        upload = Upload.objects.get(pk=self.begin(PDF)["id"])

        class Broken:
            def __init__(self):
                self.pieces = [PDF[:5000], PDF[5000:9000]]

            def read(self, _):
                if not self.pieces:
                    raise OSError("the connection is gone")
                return self.pieces.pop(0)

        with self.assertRaises(OSError):
            uploads.add_piece(upload, 0, Broken())
        upload.refresh_from_db()
        self.assertEqual(upload.received, 9000)

    def test_a_piece_sent_twice_does_no_harm_and_one_that_is_missing_is_asked_for(self):
        data = photograph()
        upload = self.begin(data)
        self.put(upload, 0, data[:1000])
        self.assertEqual(self.put(upload, 0, data[:500])["received"], 1000)
        problem = self.put(upload, 5000, data[5000:], status=409)
        self.assertEqual(problem["received"], 1000)
        self.assertEqual(self.finish(upload, 409)["received"], 1000)
        self.put(upload, 1000, data[1000:])
        self.assertEqual(self.finish(upload)["kind"], "picture")

    def test_more_than_was_said_is_refused(self):
        upload = self.begin(b"x" * 10)
        self.assertIn("more of this file", self.put(upload, 0, b"x" * 11, status=409)["detail"])

    @override_settings(
        FILM_LIMIT=2 << 20, DOCUMENT_LIMIT=2 * 1024 * 1024, UPLOAD_LIMIT=1024 * 1024, UPLOAD_PIECE=4 * 1024 * 1024
    )
    def test_sizes_are_refused_before_and_after(self):
        self.assertIn("larger than 2 MB", self.begin(b"x" * 3_000_000, status=413)["detail"])
        self.assertIn("no bytes", self.begin(b"", status=415)["detail"])
        picture = b"\xff\xd8\xff" + b"\0" * 1_500_000
        upload = self.begin(picture)
        self.put(upload, 0, b"x" * 4_200_000, status=413)
        self.put(upload, 0, picture)
        self.assertIn("larger than 1 MB", self.finish(upload, 413)["detail"])
        self.nothing_is_kept()

    def test_what_is_nothing_that_is_taken_leaves_nothing(self):
        for data, said in (
            (b"just words", "no picture"),
            (photograph()[:3000], "to its end"),
            (PDF[:2000], "before its end"),
        ):
            upload = self.begin(data)
            self.put(upload, 0, data)
            self.assertIn(said, self.finish(upload, 415)["detail"])
            self.nothing_is_kept()

    def test_cancelling_leaves_nothing(self):
        upload = self.begin(PDF)
        self.put(upload, 0, PDF[:1000])
        self.call("DELETE", f"/uploads/{upload['id']}", status=204)
        self.nothing_is_kept()
        self.call("GET", f"/uploads/{upload['id']}", status=404)
        self.call("GET", "/uploads/none", status=404)

    def test_another_persons_upload_is_not_there(self):
        upload = self.begin(PDF)
        self.as_person(self.other)
        self.call("GET", f"/uploads/{upload['id']}", status=404)
        self.assertNotEqual(self.begin(PDF)["id"], upload["id"])

    def test_the_same_bytes_again_give_the_item_that_has_them_from_the_bin_too(self):
        item = a_picture(self.author)
        data = image_bytes()
        upload = self.begin(data)
        self.put(upload, 0, data)
        found = self.finish(upload, 200)
        self.assertEqual((found["id"], found["is_new"]), (item.pk, False))
        self.call("POST", "/library/act", {"act": "bin", "items": [item.pk]})
        upload = self.begin(data)
        self.put(upload, 0, data)
        self.assertFalse(self.finish(upload, 200)["binned"])

    def test_a_disk_that_is_full_while_a_piece_is_written(self):
        upload = self.begin(PDF)
        with patch("pathlib.Path.open", side_effect=OSError(28, "No space left on device")):
            answer = self.put(upload, 0, PDF[:100], status=507)
        self.assertIn("nearly full", answer["detail"])
        self.assertEqual(self.call("GET", f"/uploads/{upload['id']}")["received"], 0)

    def test_what_was_made_of_a_replaced_file_stays_for_a_day(self):
        item = a_picture(self.author)
        File.objects.filter(item=item).update(made_at=timezone.now() - timedelta(days=30))
        replace(item, BytesIO(image_bytes(colour="#765")), "newer.jpg")
        bring_up_to_date(item.pk)
        before = set(item.files.filter(version=1, original=False).values_list("name", flat=True))
        clear_away()
        self.assertTrue(before)
        self.assertTrue(all(default_storage.exists(name) for name in before))
        Item.objects.update(shown_since=timezone.now() - timedelta(days=2))
        clear_away()
        self.assertFalse(any(default_storage.exists(name) for name in before))
        self.assertEqual(item.files.filter(version=1).get().original, True)
        self.assertTrue(item.files.filter(version=2, original=False).exists())
        show_version(item, 1)
        bring_up_to_date(item.pk)
        self.assertLessEqual(before, set(item.files.filter(version=1).values_list("name", flat=True)))

    def test_what_was_broken_off_long_ago_is_cleared_away(self):
        upload = self.begin(PDF)
        clear_away()
        self.assertEqual(Upload.objects.count(), 1)
        Upload.objects.filter(pk=upload["id"]).update(touched_at=timezone.now() - timedelta(days=8))
        clear_away()
        self.nothing_is_kept()

    def test_names_with_paths_quotes_and_other_directions_are_harmless(self):
        for number, name in enumerate(("../../a.pdf", "a\"b'c.pdf", "\u202efdp.exe", "x" * 300 + ".pdf", "Ü/ß.pdf")):
            data = PDF + bytes([65 + number]) + b"\n%%EOF"
            upload = self.begin(data, name)
            self.put(upload, 0, data)
            item = self.finish(upload)
            self.assertTrue(item["address"].startswith("/media/"))
            self.assertNotIn("\u202e", item["title"])
            served = self.client.get(item["address"])
            self.assertEqual(served.status_code, 200)
            self.assertNotIn("\n", served["Content-Disposition"])


class AtOnce(ApiTest):
    def test_the_same_bytes_at_the_same_moment_take_nothing_from_whoever_was_first(self):
        first = a_picture(self.author)
        real = receiving._known
        with patch.object(receiving, "_known", side_effect=[None, first]):
            again, is_new = receiving.receive(BytesIO(image_bytes()), self.author, name="b.jpg")
        self.assertEqual((again.pk, is_new, Item.objects.count()), (first.pk, False, 1))
        self.assertTrue(all(default_storage.exists(file.name) for file in first.files.all()))
        self.assertEqual(real(first.files.get(original=True).sha256, self.author), first)


class Polyglots(ApiTest):
    """Files that are two things at once: what is given out is only ever what was made of the picture."""

    def test_a_picture_with_a_page_behind_it_gives_out_no_page(self):
        data = photograph() + b"<script>alert(document.domain)</script>"
        answer = self.client.post("/api/items", {"file": BytesIO(data)})
        item = answer.json()
        self.assertEqual(answer.status_code, 201)
        for file in item["files"]:
            served = self.visit_page(file["address"])
            self.assertNotIn(b"<script>", b"".join(served.streaming_content))
        self.assertEqual(self.visit_page(item["address"]).status_code, 403)
        own = self.client.get(item["address"])
        self.assertEqual((own["X-Content-Type-Options"], own["Content-Type"]), ("nosniff", "image/jpeg"))
        self.assertIn("sandbox", own["Content-Security-Policy"])

    def test_a_gif_that_is_a_script_too_is_no_picture(self):
        answer = self.client.post("/api/items", {"file": BytesIO(b"GIF89a/*\x00\x00*/=1;alert(1)")})
        self.assertEqual(answer.status_code, 415)


class Tools(ApiTest):
    def test_the_program_that_reads_pdfs_is_there(self):
        self.assertEqual(subprocess.run(["pdftotext", "-v"], capture_output=True, check=False).returncode, 0)
