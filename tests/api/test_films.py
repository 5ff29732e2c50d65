"""Films and sounds in the library: how they come in, what is made of them, and who gets which file."""

import json
import subprocess
import tempfile
from functools import cache
from io import BytesIO
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings

from stillpage.hosts import keeping
from stillpage.hosts.models import Host
from stillpage.library import captions, films, tasks
from stillpage.library.models import File, Item
from stillpage.library.receiving import receive, replace, show_version
from stillpage.library.sweeping import sweep
from stillpage_core.errors import CoreError
from stillpage_core.media.captions import Cue
from stillpage_core.media.hosting import Hosted

from .base import ApiTest, of_blocks, photograph


@cache
def film_bytes(seconds: int = 2, size: str = "1024x640") -> bytes:
    """A film that no browser plays as it is, with a sound and the place where it was filmed."""
    pictures = f"testsrc2=size={size}:rate=10:duration={seconds}"
    return _made("film.mov", seconds, "-f", "lavfi", "-i", pictures, "-c:v", "mjpeg")


@cache
def sound_bytes(seconds: int = 2) -> bytes:
    return _made("sound.wav", seconds)


def _made(name: str, seconds: int, *pictures: str) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        sound = ("-f", "lavfi", "-i", f"sine=frequency=440:duration={seconds}")
        said = ("-metadata", "location=+54.0-002.0/", "-y", f"{folder}/{name}")
        order = (*pictures[:4], *sound, *pictures[4:], *said)
        subprocess.run(["ffmpeg", "-v", "error", *order], check=True)
        return Path(folder, name).read_bytes()


def played_items(person):
    """The numbers of a film with captions that readers have, of a sound, and of a film elsewhere; all made ready."""
    film, _ = receive(BytesIO(film_bytes()), person, name="Through the lock.mov")
    sound, _ = receive(BytesIO(sound_bytes()), person, name="A warden.wav")
    for item in (film, sound):
        films.make_film(item.pk)
        made = captions.begin(item, person, "captions", "en", [Cue(0, 1900, "The gate opens.\nNow wait.", "Piet")])
        captions.give(made)
    return film.pk, sound.pk, hosted_item(person).pk


def hosted_item(person, at="https://films.example"):
    """A film elsewhere, as it is when its host has told of it."""
    host = Host.objects.create(
        name="Headgate Films",
        addresses=[f"{at}/watch/*"],
        endpoint=f"{at}/oembed",
        frames=at,
        options={"start": "t={}", "captions": "cc=1", "muted": "m=1", "loop": "loop=1", "autoplay": "begin=1"},
        added_by=person,
    )
    said = Hosted(
        "Over the aqueduct, in one go", "T. Reedmace", "", host.name, 640, 360, f"{at}/play/over-the-aqueduct", 14
    )
    item = keeping.keep(host, f"{at}/watch/over-the-aqueduct", said, person)
    keeping.covered(item, photograph((640, 480)), "")
    tasks.make_files.func(item.pk)
    return item


class Films(ApiTest):
    def add(self, data: bytes, name: str = "Lock by hand.mov", status: int = 201):
        answer = self.client.post("/api/items", {"file": SimpleUploadedFile(name, data)})
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()

    def test_a_film_is_taken_made_ready_and_found(self):
        item = self.add(film_bytes())
        self.assertEqual((item["kind"], item["format"], item["title"]), ("film", "MOV", "Lock by hand"))
        self.assertEqual((item["width"], item["height"], item["lasts"], item["ready"]), (1024, 640, 2000, False))
        self.assertEqual(item["link_format"], "")
        self.assertTrue(tasks.make_a_film())
        self.assertFalse(tasks.make_a_film())
        item = self.call("GET", f"/items/{item['id']}")
        self.assertEqual((item["ready"], item["problem"], item["progress"]), (True, "", 0))
        self.assertIn("still-10", item["thumbnail"])
        self.assertEqual((item["link_format"], item["link_size"] > 1000), ("MP4", True))
        made = {(file["cut"], file["mime"], file["width"]) for file in item["files"]}
        self.assertLessEqual(
            {("film", "video/mp4", 1024), ("small", "video/mp4", 768), ("still-50", "image/jpeg", 1024)}, made
        )
        sizes = {file["cut"]: file["size"] for file in item["files"] if file["mime"] == "video/mp4"}
        for file in item["files"]:
            if file["mime"] == "video/webm":
                self.assertLess(file["size"], sizes["film"])
        levels = File.objects.get(item=item["id"], cut="levels")
        with default_storage.open(levels.name) as stored:
            self.assertAlmostEqual(len(json.load(stored)), 40, delta=1)
        self.assertEqual(len(self.call("GET", "/library?show=films+and+sounds")["entries"]), 1)
        self.assertEqual(self.call("GET", "/library?show=pictures")["entries"], [])

    def test_a_sound_is_taken_and_made_ready(self):
        item = self.add(sound_bytes(), "warden.mp3")
        self.assertEqual((item["kind"], item["format"], item["lasts"]), ("sound", "WAV", 2000))
        tasks.make_a_film()
        item = self.call("GET", f"/items/{item['id']}")
        self.assertEqual(item["problem"], "")
        self.assertIn(("sound", "audio/mp4"), {(file["cut"], file["mime"]) for file in item["files"]})

    def test_what_a_browser_records_says_nowhere_how_long_it_is_and_is_taken_all_the_same(self):
        with tempfile.TemporaryDirectory() as folder:
            sound = ("-f", "lavfi", "-i", "sine=frequency=440:duration=2")
            pictures = ("-f", "lavfi", "-i", "testsrc2=size=320x240:rate=10:duration=2", "-c:v", "libvpx")
            for name, order in (("film", pictures), ("sound", ())):
                # Written into a pipe there is no way back to the head of the file, as in a browser.
                piped = [*order[:4], *sound, *order[4:], "-c:a", "libopus", "-f", "webm", "pipe:1"]
                with Path(folder, f"{name}.webm").open("wb") as out:
                    subprocess.run(["ffmpeg", "-v", "error", *piped], check=True, stdout=out)
                item = self.add(Path(folder, f"{name}.webm").read_bytes(), f"{name}.webm")
                self.assertEqual(item["kind"], name)
                self.assertAlmostEqual(item["lasts"], 2000, delta=100)
                tasks.make_a_film()
                made = self.call("GET", f"/items/{item['id']}")
                self.assertEqual((made["ready"], made["problem"]), (True, ""))

    def test_readers_get_what_was_made_and_never_the_original(self):
        item, _ = receive(BytesIO(film_bytes()), self.author, name="a.mov")
        tasks.make_a_film()
        original = item.files.get(original=True)
        self.assertEqual(self.visit_page(f"/media/{original.name}").status_code, 403)
        self.assertEqual(self.client.get(f"/media/{original.name}").status_code, 200)
        link = {"type": "link", "attrs": {"href": f"item:{item.pk}", "new_window": False}}
        words = {"type": "text", "text": "See the film", "marks": [link]}
        paragraph = {"type": "paragraph", "attrs": {"style": None, "align": None}, "content": [words]}
        self.save(self.walks, of_blocks([paragraph]), None)
        self.publish(self.walks)
        page = self.visit_page(self.walks.path).content.decode()
        self.assertNotIn(original.name, page)
        address = next(part for part in page.split('"') if part.startswith("/media/") and part.endswith(".mp4"))
        part = self.visit_page(address, HTTP_RANGE="bytes=4-7")
        self.assertEqual((part.status_code, b"".join(part.streaming_content)), (206, b"ftyp"))
        self.assertEqual(part["Content-Type"], "video/mp4")

    def test_what_breaks_off_goes_on_with_the_file_that_was_being_made(self):
        item, _ = receive(BytesIO(film_bytes()), self.author, name="a.mov")
        made, convert = [], films.convert

        def once(path, facts, each, target, progress):
            if len(made) == 1:
                raise KeyboardInterrupt
            made.append(each.name)
            convert(path, facts, each, target, progress)

        with mock.patch.object(films, "convert", once), self.assertRaises(KeyboardInterrupt):
            tasks.make_a_film()
        first = item.files.get(cut="film", mime="video/mp4")
        left = Path(settings.UPLOAD_FOLDER, "making", "film.mp4")
        left.write_bytes(b"half")
        with mock.patch.object(films, "convert", wraps=convert) as again:
            tasks.make_a_film()
        self.assertEqual([call.args[2].name for call in again.call_args_list], ["small", "film"])
        self.assertEqual(item.files.get(cut="film", mime="video/mp4").pk, first.pk)
        self.assertEqual(list(left.parent.iterdir()), [])
        item.refresh_from_db()
        self.assertEqual((item.made, item.tries), (item.wanted, 0))

    def test_a_film_in_the_bin_is_no_longer_made_and_comes_back(self):
        item = self.add(film_bytes())
        with (
            mock.patch.object(films, "TOLD_EVERY", -1.0),
            mock.patch.object(films, "convert", wraps=films.convert) as made,
        ):
            binned = {"act": "bin", "items": [item["id"]]}
            made.side_effect = lambda *args: self.call("POST", "/library/act", binned) and mock.DEFAULT
            tasks.make_a_film()
        self.assertFalse(File.objects.filter(item=item["id"], cut="film").exists())
        self.assertFalse(tasks.make_a_film())
        self.call("POST", "/library/act", {"act": "restore", "items": [item["id"]]})
        self.assertTrue(tasks.make_a_film())
        self.assertTrue(File.objects.filter(item=item["id"], cut="film").exists())

    def test_a_newer_file_takes_the_place_of_a_film_and_a_picture_does_not(self):
        item = Item.objects.get(pk=self.add(film_bytes())["id"])
        tasks.make_a_film()
        with self.assertRaisesRegex(CoreError, "This is a picture"):
            replace(item, BytesIO(photograph()), "a.jpg", self.author)
        replace(item, BytesIO(film_bytes(1, "320x240")), "b.mov", self.author)
        tasks.make_a_film()
        item.refresh_from_db()
        self.assertEqual((item.width, item.lasts, item.problem, item.version), (320, 1000, "", 2))
        self.assertTrue(item.files.filter(version=2, cut="film").exists())
        versions = self.call("GET", f"/items/{item.pk}/versions")
        self.assertEqual([(each["format"], each["present"]) for each in versions], [("MOV", True), ("MOV", False)])
        show_version(item, 1)
        tasks.make_a_film()
        item.refresh_from_db()
        self.assertEqual((item.width, item.lasts, item.problem), (1024, 2000, ""))
        self.assertIn("still-10", item.thumbnail)

    def test_what_is_refused_leaves_nothing_and_says_why(self):
        data = film_bytes()
        for sent, name, said, status in (
            (data[: len(data) // 3], "cut.mov", "damaged", 415),
            (b"#EXTM3U\nfile:///etc/passwd\n", "list.mp4", "list that names other files", 415),
            (b"\x1aE\xdf\xa3" + b"matroska" * 9, "a.webm", "Matroska", 415),
            (b"MZ\x90\0" + bytes(300), "film.mp4", "no picture", 415),
        ):
            with self.subTest(name):
                self.assertIn(said, self.add(sent, name, status)["detail"])
        with override_settings(FILM_LIMIT=1024):
            self.assertIn("larger than", self.add(data, status=413)["detail"])
        self.assertEqual((Item.objects.count(), File.objects.count()), (0, 0))

    def test_a_film_that_takes_too_long_says_so_where_it_stands(self):
        item = self.add(film_bytes())
        with mock.patch.object(films, "convert", side_effect=films.FilmError("It took longer than is allowed.")):
            tasks.make_a_film()
        self.assertEqual(self.call("GET", f"/items/{item['id']}")["problem"], "It took longer than is allowed.")
        self.assertFalse(tasks.make_a_film())

    def test_a_film_that_is_cut_off_says_where_it_ends(self):
        with tempfile.TemporaryDirectory() as folder:
            pictures = ("-f", "lavfi", "-i", "testsrc2=size=160x90:rate=10:duration=12")
            coded = ("-c:v", "libx264", "-pix_fmt", "yuv420p", "-movflags", "+faststart", "-y", f"{folder}/a.mp4")
            subprocess.run(["ffmpeg", "-v", "error", *pictures, *coded], check=True)
            data = Path(folder, "a.mp4").read_bytes()
        item = self.add(data[: len(data) * 6 // 10], "Half of it.mp4")
        tasks.make_a_film()
        item = self.call("GET", f"/items/{item['id']}")
        self.assertRegex(item["problem"], r"lasts 0:12, and ends after 0:0\d\. It may be cut off")
        self.assertIn("still-", item["thumbnail"])

    def test_what_is_gone_from_the_disk_is_made_again(self):
        item, _ = receive(BytesIO(film_bytes()), self.author, name="a.mov")
        tasks.make_a_film()
        for cut in ("film", "still-50"):
            default_storage.delete(item.files.filter(cut=cut).first().name)
        with self.committed():
            sweep(mend=True)
        self.assertTrue(tasks.make_a_film())
        self.assertEqual(sweep(mend=False).lost, [])
