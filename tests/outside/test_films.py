"""Films and sounds of many sorts, made ready by ffmpeg: probed by ffprobe, measured, and played by Chromium."""

from __future__ import annotations

import base64
import io
import json
import struct
import subprocess
import tempfile
import time
from pathlib import Path
from typing import Any
from unittest import TestCase

from django.test import override_settings
from PIL import Image

from stillpage.library.converting import Cancelled, _explain, convert, levels, probe, still
from stillpage_core.media import films
from stillpage_core.media.films import FilmError, facts_of, plan_of, sniff_film, still_moments
from stillpage_core.media.loudness import loud_stretches

from ..chromium import new_page

PICTURES = "testsrc2=size={size}:rate=25:duration={seconds}"
# Two seconds of sound, one of silence, and again.
HEARD = "aevalsrc='0.2*sin(880*t)*lt(mod(t,3),2)':s=48000:d={seconds}"


def made(
    folder: Path, name: str, *arguments: str, seconds: float = 3, size: str = "640x360", sound: str = HEARD
) -> Path:
    """A film out of ffmpeg's own test pictures."""
    path = folder / name
    inputs = ["-f", "lavfi", "-i", PICTURES.format(size=size, seconds=seconds)] if size else []
    inputs += ["-f", "lavfi", "-i", sound.format(seconds=seconds)] if sound else []
    subprocess.run(["ffmpeg", "-v", "error", *inputs, *arguments, "-y", path], check=True, capture_output=True)
    return path


def probed(path: Path) -> dict[str, Any]:
    command = ["ffprobe", "-v", "error", "-show_streams", "-show_format", "-of", "json", path]
    return dict(json.loads(subprocess.run(command, check=True, capture_output=True).stdout))


def block_times(webm: bytes) -> list[tuple[int, int]]:
    """Where the times of the blocks of a WebM file stand, and what they are: milliseconds after that of their cluster
    (RFC 9559, 10.2)."""

    def number(at: int, *, marked: bool) -> tuple[int, int]:
        length = 9 - webm[at].bit_length()
        value = int.from_bytes(webm[at : at + length], "big")
        return value if marked else value & ((1 << 7 * length) - 1), at + length

    at, found = 0, []
    while at < len(webm):
        name, at = number(at, marked=True)
        size, at = number(at, marked=False)
        if name in (0x18538067, 0x1F43B675):
            continue  # A segment and a cluster: what they hold is gone through.
        if name == 0xA3:
            found.append((at + 1, struct.unpack(">h", webm[at + 1 : at + 3])[0]))
        at += size
    return found


def loudness(path: Path) -> float:
    """Integrated loudness by EBU R 128, in LUFS."""
    command = ["ffmpeg", "-nostdin", "-i", path, "-map", "0:a:0", "-af", "ebur128=framelog=verbose", "-f", "null", "-"]
    said = subprocess.run(command, check=True, capture_output=True, text=True).stderr
    return float(next(line.split()[1] for line in said.splitlines() if line.strip().startswith("I:")))


def looked_at(path: Path) -> films.Facts:
    form = sniff_film(path.read_bytes()[:4096])
    assert form is not None
    return probe(path, form)


class Films(TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def all_made(self, path: Path, most: int = 9) -> tuple[films.Facts, list[tuple[films.Making, Path]]]:
        facts = looked_at(path)
        out = []
        for number, each in enumerate(plan_of(facts)[:most]):
            target = self.folder / f"out-{number}.{each.form.ending}"
            convert(path, facts, each, target)
            out.append((each, target))
        return facts, out

    def test_films_of_many_sorts_become_films_that_every_browser_plays(self):
        turned = made(self.folder, "plain.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p", "-c:a", "aac", seconds=0.5)
        # What a telephone writes that was held upright, and where.
        said = ("-metadata:s:v", "rotate=90", "-metadata", "location=+54.0-002.0/")
        command = ["ffmpeg", "-v", "error", "-i", turned, "-c", "copy", *said, "-y", self.folder / "turned.mov"]
        subprocess.run(command, check=True)
        vp9 = ("-c:v", "libvpx-vp9", "-deadline", "realtime", "-cpu-used", "8", "-c:a", "libopus")
        sorts = {
            "turned": (self.folder / "turned.mov", (360, 640)),
            "webm": (made(self.folder, "a.webm", *vp9), (640, 360)),
            "silent": (made(self.folder, "b.webm", "-c:v", "libvpx", sound="", seconds=1), (640, 360)),
            "ogg": (made(self.folder, "c.ogv", "-c:v", "libtheora", "-c:a", "libvorbis", seconds=1), (640, 360)),
            "surround": (
                made(self.folder, "d.mp4", "-c:v", "mpeg4", "-c:a", "aac", "-ac", "6", seconds=1),
                (640, 360),
            ),
            "wide pixels": (
                made(
                    self.folder,
                    "e.mp4",
                    "-vf",
                    "setsar=16/11",
                    "-c:v",
                    "libx264",
                    "-pix_fmt",
                    "yuv420p",
                    size="704x576",
                    seconds=1,
                ),
                (1024, 576),
            ),
            "ten bits, HDR": (
                made(
                    self.folder,
                    "f.mp4",
                    "-c:v",
                    "libx264",
                    "-pix_fmt",
                    "yuv420p10le",
                    "-color_trc",
                    "smpte2084",
                    "-color_primaries",
                    "bt2020",
                    "-colorspace",
                    "bt2020nc",
                    seconds=0.5,
                ),
                (640, 360),
            ),
            "uneven times": (
                made(
                    self.folder,
                    "g.mp4",
                    "-vf",
                    "select='not(mod(n,5)*lt(n,40))'",
                    "-fps_mode",
                    "vfr",
                    "-c:v",
                    "libx264",
                    "-pix_fmt",
                    "yuv444p",
                ),
                (640, 360),
            ),
            "large": (
                made(self.folder, "h.mp4", "-c:v", "mpeg4", size="2560x1440", seconds=0.2, sound=""),
                (2560, 1440),
            ),
        }
        for sort, (path, size) in sorts.items():
            with self.subTest(sort):
                facts, out = self.all_made(path, 9 if sort in ("turned", "large") else 1)
                self.assertEqual((facts.width, facts.height), size)
                for each, target in out:
                    found = probed(target)
                    picture = next(stream for stream in found["streams"] if stream["codec_type"] == "video")
                    self.assertEqual((picture["width"], picture["height"]), (each.width, each.height))
                    self.assertLessEqual(min(each.width, each.height), films.MOST_LINES)
                    self.assertEqual(picture["codec_name"], "h264" if each.form is films.MP4 else "vp9")
                    self.assertEqual(picture["pix_fmt"], "yuv420p")
                    self.assertNotEqual(picture.get("color_transfer"), "smpte2084")
                    self.assertNotIn("side_data_list", picture)
                    self.assertNotIn("+54", json.dumps(found))
                    self.assertAlmostEqual(float(found["format"]["duration"]), facts.lasts / 1000, delta=0.05)
                    sounds = [stream for stream in found["streams"] if stream["codec_type"] == "audio"]
                    self.assertEqual(len(sounds), 1 if facts.channels else 0)
                    self.assertTrue(all(stream["channels"] <= 2 for stream in sounds))
                    if each.form is films.MP4:
                        data = target.read_bytes()
                        self.assertLess(data.index(b"moov"), data.index(b"mdat"), "the index stands in front")

    def test_a_film_that_is_fit_is_put_in_order_and_not_coded_anew(self):
        fit = made(self.folder, "fit.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p", "-c:a", "aac", "-b:v", "1M")
        facts = looked_at(fit)
        self.assertTrue(films.is_fit(facts))
        target = self.folder / "out.mp4"
        convert(fit, facts, plan_of(facts)[0], target)
        frames = ["ffmpeg", "-v", "error", "-i", "FILE", "-map", "0:v", "-f", "framemd5", "-"]
        told = [
            subprocess.run(
                [str(each) if part == "FILE" else part for part in frames], capture_output=True, check=True
            ).stdout
            for each in (fit, target)
        ]
        self.assertEqual(*told)

    def test_sounds_keep_their_loudness_and_their_length(self):
        for name, arguments in {
            "a.wav": (),
            "b.mp3": ("-c:a", "libmp3lame"),
            "c.flac": ("-ac", "2"),
            "d.m4a": ("-c:a", "aac"),
            "e.oga": ("-c:a", "libvorbis", "-ac", "2"),
        }.items():
            with self.subTest(name):
                path = made(self.folder, name, *arguments, size="", seconds=6)
                facts, out = self.all_made(path)
                self.assertEqual((facts.width, facts.form in films.SOUNDS), (0, True))
                self.assertEqual([each.form for each, _ in out], [films.M4A, films.OGA])
                for _, target in out:
                    self.assertAlmostEqual(loudness(target), loudness(path), delta=1)
                    self.assertAlmostEqual(float(probed(target)["format"]["duration"]), facts.lasts / 1000, delta=0.05)

    def test_stills_and_the_loud_stretches(self):
        path = made(self.folder, "a.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p", seconds=6)
        facts = looked_at(path)
        pictures = [
            Image.open(io.BytesIO(still(path, facts, moment))).convert("RGB") for moment in still_moments(facts)
        ]
        self.assertEqual({each.size for each in pictures}, {(640, 360)})
        self.assertEqual(len({each.tobytes() for each in pictures}), 3)
        found = loud_stretches(levels(path, facts))
        self.assertEqual(len(found), 2)
        for (begin, end), (wanted, until) in zip(found, [(0, 2000), (3000, 5000)], strict=True):
            self.assertAlmostEqual(begin, wanted, delta=100)
            self.assertAlmostEqual(end, until, delta=150)

    def test_a_sound_that_begins_late_is_loud_where_it_is_heard(self):
        seen = made(self.folder, "seen.mov", "-c:v", "mpeg4", size="64x64", sound="", seconds=9)
        heard = made(self.folder, "heard.wav", size="", seconds=6)
        late = self.folder / "late.mov"
        inputs = ("-i", seen, "-itsoffset", "2", "-i", heard)
        subprocess.run(["ffmpeg", "-v", "error", *inputs, "-c", "copy", late], check=True)
        facts = looked_at(late)
        starts = [begin for begin, _ in loud_stretches(levels(late, facts))]
        for begin, wanted in zip(starts, [2000, 5000], strict=True):
            self.assertAlmostEqual(begin, wanted, delta=100)

    def test_chromium_plays_what_is_made(self):
        path = made(self.folder, "a.mov", "-c:v", "mpeg4", "-c:a", "pcm_s16le", seconds=2)
        _, out = self.all_made(path)
        with new_page() as page:
            for each, target in out:
                data = base64.b64encode(target.read_bytes()).decode()
                page.set_content(f"<video muted src='data:{each.form.mime};base64,{data}'></video>")
                film = page.locator("video")
                film.evaluate("(video) => video.play()")
                page.wait_for_function("document.querySelector('video').currentTime > 0.4")
                first = film.screenshot()
                page.wait_for_function("document.querySelector('video').currentTime > 1.2")
                self.assertNotEqual(first, film.screenshot(), each)
                self.assertAlmostEqual(film.evaluate("(video) => video.duration"), 2, delta=0.05)

    def test_who_ends_the_program_does_not_make_the_film_a_wrong_one(self):
        path = made(self.folder, "a.mp4", "-c:v", "mpeg4", size="1920x1080", seconds=6)
        facts = looked_at(path)
        target = self.folder / "out.mp4"

        def end(share: float) -> bool:
            subprocess.run(["pkill", "-TERM", "-f", str(target)], check=False)
            return True

        with self.assertRaises(Cancelled):
            convert(path, facts, plan_of(facts)[0], target, end)
        self.assertFalse(target.exists())

    def test_what_is_no_film_is_refused_with_a_sentence(self):
        film = made(self.folder, "a.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p")
        whole = film.read_bytes()
        # A list of parts that hides behind the first bytes of an MP4; whatever reads it must ask for nothing.
        secret = self.folder / "secret.txt"
        secret.write_text("secret")
        playlist = f"#EXTM3U\n#EXTINF:1,\nfile://{secret}\nhttp://127.0.0.1:9/\n".encode()
        huge = made(self.folder, "wide.mov", "-c:v", "mjpeg", size="9000x32", sound="", seconds=0.2)
        tiny = made(self.folder, "tiny.mov", "-vf", "scale=1:1", "-c:v", "png", size="64x64", sound="", seconds=400)
        for name, data, why in (
            ("truncated", whole[: len(whole) // 3], "cut off|damaged"),
            ("playlist", playlist, "list that names other files"),
            ("polyglot", b"\0\0\0\x18ftypisom\0\0\0\0isommp42" + playlist, "cannot be read"),
            ("noise", b"\0\0\0\x18ftypisom" + bytes(range(256)) * 40, "cannot be read"),
            ("huge", huge.read_bytes(), "9,000 × 32"),
            ("tiny", tiny.read_bytes(), "1 × 1"),
            ("matroska", b"\x1aE\xdf\xa3\x93B\x82\x88matroska" + bytes(64), "Matroska"),
            ("avi", b"RIFF\0\0\0\0AVI LIST", "AVI"),
        ):
            with self.subTest(name):
                path = self.folder / f"{name}.mp4"
                path.write_bytes(data)
                with self.assertRaisesRegex(FilmError, why):
                    form = sniff_film(data[:4096])
                    assert form is not None, name
                    facts = probe(path, form)
                    convert(path, facts, plan_of(facts)[0], self.folder / "out.mp4")
                self.assertFalse((self.folder / "out.mp4").exists())
        for data in (b"MZ\x90\0" + bytes(600), b"#!/bin/sh\n", b"", b"%PDF-1.7", b"\x89PNG\r\n\x1a\n"):
            self.assertIsNone(sniff_film(data))

    def test_what_is_cut_off_is_told_however_it_is_kept(self):
        pictures = ("-c:v", "libx264", "-pix_fmt", "yuv420p")
        first = ("-movflags", "+faststart")
        sorts = {
            "fit.mp4": (*pictures, "-c:a", "aac", *first),
            "unfit.mov": ("-c:v", "mpeg4", "-c:a", "pcm_s16le", *first),
            "seeks.webm": ("-c:v", "libvpx", "-c:a", "libopus"),
            "long.mp3": ("-c:a", "libmp3lame"),
            "long.flac": (),
            "long.m4a": ("-c:a", "aac", *first),
        }
        for name, arguments in sorts.items():
            with self.subTest(name):
                seen = "320x180" if arguments[:1] == ("-c:v",) else ""
                path = made(self.folder, name, *arguments, seconds=12, size=seen)
                self.all_made(path, 1)
                for share in (0.4, 0.7):
                    path.write_bytes(path.read_bytes()[: int(path.stat().st_size * share)])
                    with self.assertRaisesRegex(FilmError, r"lasts 0:12, and ends after 0:0\d"):
                        self.all_made(path, 1)
                    self.assertFalse((self.folder / f"out-0.{'m4a' if not seen else 'mp4'}").exists())

    def test_a_last_picture_may_stand_for_long(self):
        stands = ("-vf", "select='lt(t,1)+gt(t,9.9)'", "-fps_mode", "vfr", "-c:v", "mpeg4")
        path = made(self.folder, "stands.mov", *stands, sound="", seconds=10)
        facts, _ = self.all_made(path, 1)
        self.assertAlmostEqual(facts.lasts, 10_000, delta=100)
        self.assertEqual(len([still(path, facts, moment) for moment in still_moments(facts)]), 3)
        last = ("-vf", "select='lt(t,1)'", "-fps_mode", "vfr", "-c:v", "mpeg4", "-t", "10")
        path = made(self.folder, "last.mov", *last, sound="anullsrc=d={seconds}", seconds=10)
        facts, _ = self.all_made(path, 1)
        self.assertEqual(len([still(path, facts, moment) for moment in still_moments(facts)]), 3)

    def test_an_mp3_without_a_head_is_as_long_as_it_is(self):
        # Quiet for long and then loud, at a bit rate that follows: its size tells nothing of how long it lasts.
        path = made(
            self.folder,
            "bare.mp3",
            *("-c:a", "libmp3lame", "-q:a", "0", "-write_xing", "0"),
            sound="aevalsrc='if(lt(t,2),random(0)-0.5,0)':s=48000:d={seconds}",
            size="",
            seconds=20,
        )
        facts, _ = self.all_made(path, 1)
        self.assertAlmostEqual(facts.lasts, 20_000, delta=100)

    def test_a_recording_whose_times_go_back_is_taken(self):
        path = made(self.folder, "a.webm", "-c:a", "libopus", "-frame_duration", "60", size="", seconds=6)
        whole = path.read_bytes()
        times = block_times(whole)
        for name, change, seconds in (
            ("the same time twice", {40: -60}, 6),
            ("late for a while", dict.fromkeys(range(40, 50), -45), 6),
            ("far back", {40: -300}, 6),
            ("a gap", dict.fromkeys(range(40, len(times)), 400), 6.4),
        ):
            with self.subTest(name):
                data = bytearray(whole)
                for number, by in change.items():
                    place, time_of = times[number]
                    data[place : place + 2] = struct.pack(">h", time_of + by)
                path.write_bytes(data)
                _, out = self.all_made(path)
                for _, target in out:
                    self.assertAlmostEqual(float(probed(target)["format"]["duration"]), seconds, delta=0.05)

    def test_a_film_that_breaks_off_in_the_middle_leaves_nothing(self):
        path = made(self.folder, "a.webm", "-c:v", "libvpx", "-b:v", "2M", seconds=4)
        data = path.read_bytes()
        path.write_bytes(data[: len(data) // 2] + b"\xff" * 4000 + data[len(data) // 2 + 4000 :])
        facts = looked_at(path)
        target = self.folder / "out.mp4"
        try:
            convert(path, facts, plan_of(facts)[0], target)
        except FilmError:
            self.assertFalse(target.exists())
        else:
            self.assertGreater(float(probed(target)["format"]["duration"]), 1)

    def test_time_memory_and_size_have_limits_and_it_can_be_cancelled(self):
        path = made(self.folder, "a.mp4", "-c:v", "mpeg4", "-q:v", "3", size="1920x1080", seconds=12)
        facts = looked_at(path)
        target = self.folder / "out.mp4"
        each = plan_of(facts)[0]
        for limit, why in (
            ({"FILM_SECONDS": 1}, "longer than is allowed"),
            ({"FILM_MEMORY": 120 << 20}, "memory"),
            ({"FILM_LIMIT": 20_000}, "larger than is allowed"),
        ):
            with self.subTest(limit), override_settings(**limit), self.assertRaisesRegex(FilmError, why):
                convert(path, facts, each, target)
            self.assertFalse(target.exists())
        shares: list[float] = []

        def two(share: float) -> bool:
            shares.append(share)
            return len(shares) < 3

        began = time.monotonic()
        with self.assertRaises(Cancelled):
            convert(path, facts, each, target, two)
        self.assertEqual(shares, sorted(shares))
        self.assertFalse(target.exists())
        self.assertLess(time.monotonic() - began, 30)
        self.assertEqual(subprocess.run(["pgrep", "-f", str(target)], check=False, capture_output=True).stdout, b"")
        # A device on which there never is any room, as Linux has one: what ffmpeg says of it is taken for what it is.
        target.symlink_to("/dev/full")
        with self.assertRaises(OSError) as full:
            convert(path, facts, each, target)
        self.assertEqual(full.exception.errno, 28)
        self.assertFalse(target.is_symlink())
        with self.assertRaises(OSError) as full:
            _explain("av_interleaved_write_frame(): No space left on device", 1)
        self.assertEqual(full.exception.errno, 28)


class Told(TestCase):
    def test_what_ffprobe_says_is_not_trusted(self):
        for said, why in (
            ({}, "Nothing in this file"),
            ({"streams": [{"codec_type": "video", "width": 64, "height": 64, "codec_name": "h264"}]}, "how long it is"),
            ({"streams": [{"codec_type": "audio", "codec_name": "aac"}], "format": {"duration": "1e9"}}, "hours"),
            (
                {"streams": [{"codec_type": "audio", "codec_name": "aac"}], "format": {"duration": "-3"}},
                "how long it is",
            ),
            (
                {"streams": [{"codec_type": "video", "width": 16384, "height": 16384, "codec_name": "h264"}]}
                | {"format": {"duration": "2"}},
                "16,384 × 16,384",
            ),
        ):
            with self.subTest(why), self.assertRaisesRegex(FilmError, why):
                facts_of(films.MP4, said)

    def test_a_cover_within_a_sound_makes_no_film_of_it(self):
        cover = {
            "codec_type": "video",
            "width": 500,
            "height": 500,
            "codec_name": "png",
            "disposition": {"attached_pic": 1},
        }
        sound = {"codec_type": "audio", "codec_name": "mp3", "channels": 2}
        facts = facts_of(films.MP3, {"streams": [cover, sound], "format": {"duration": "61.5"}})
        self.assertEqual((facts.is_film, facts.lasts, facts.channels), (False, 61_500, 2))
