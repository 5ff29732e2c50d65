"""Cuts, plans, sizes and drawings, as numbers and text."""

from __future__ import annotations

import itertools
import random
import zipfile
from io import BytesIO
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from stillpage_core.media.documents import sniff_document
from stillpage_core.media.drawings import read_drawing
from stillpage_core.media.editing import EDITS, UNIT, Cut, cut_of, framed_by, straightened_share
from stillpage_core.media.pictures import (
    GIF,
    JPEG,
    PNG,
    WEBP,
    FileError,
    PictureError,
    check_frames,
    size_of,
    sniff,
)
from stillpage_core.media.plan import LADDER, is_drawing, plan
from stillpage_core.media.shown import DENSEST, USUAL, shown, shown_size, taken_by_most
from stillpage_core.resolving import ImageFile, PictureTarget

from .documents import SETTINGS

NOTHING = dict.fromkeys(EDITS)
UNSAID = {**NOTHING, "width": None, "place": None, "space": None, "border": None}
SIDES = st.integers(1, 9000)


class Cuts(TestCase):
    @given(SETTINGS, SIDES, SIDES)
    def test_whatever_is_said_the_cut_lies_within_the_picture_and_has_a_name(self, setting, width, height):
        cut = cut_of({**NOTHING, **{name: setting.get(name) for name in EDITS}}, NOTHING, width, height)
        x, y, wide, high = cut.crop
        self.assertTrue(x >= 0 and y >= 0 and wide > 0 and high > 0 and x + wide <= UNIT and y + high <= UNIT)
        self.assertEqual(Cut.from_key(cut.key), cut)
        across, down = cut.size(width, height)
        turned = (height, width) if cut.turn % 2 else (width, height)
        self.assertTrue(1 <= across <= turned[0] and 1 <= down <= turned[1])

    def test_names_that_no_cut_has_are_refused(self):
        for key in (
            "x",
            "0.0",
            "4.0.0.0.1.1",
            "0.0.0.0.10001.1",
            "0.0.9000.0.2000.10",
            "0.999.0.0.1.1",
            "0.0.0.0.10000.10000",
        ):
            with self.assertRaises(ValueError, msg=key):
                Cut.from_key(key)

    def test_a_use_comes_before_the_item_one_thing_at_a_time(self):
        own = {**NOTHING, "turn": 1, "straighten": 20, "crop": "0,0,5000,5000"}
        self.assertEqual(cut_of(NOTHING, own, 100, 100), Cut(1, 20, (0, 0, 5000, 5000)))
        self.assertEqual(cut_of({**NOTHING, "turn": 0}, own, 100, 100), Cut(0, 20, (0, 0, 5000, 5000)))
        square = cut_of({**NOTHING, "ratio": "1:1"}, own, 300, 100)
        self.assertEqual(square.size(300, 100)[0], square.size(300, 100)[1])
        self.assertEqual(cut_of({**NOTHING, "crop": f"0,0,{UNIT},{UNIT}"}, own, 9, 9).crop, Cut().crop)

    def test_the_focal_point_stays_in_the_middle_as_far_as_the_edges_allow(self):
        self.assertEqual(framed_by(1, (5000, 5000), 300, 100), (3334, 0, 3333, 10000))
        self.assertEqual(framed_by(1, (0, 5000), 300, 100)[0], 0)
        self.assertEqual(framed_by(1, (10000, 5000), 300, 100)[0], 10000 - 3333)

    @given(SIDES, SIDES, st.integers(-150, 150))
    def test_what_is_left_after_straightening_shows_no_empty_corner(self, width, height, tenths):
        import math

        share = straightened_share(width, height, tenths)
        angle = math.radians(tenths / 10)
        for sx, sy in ((1, 1), (1, -1)):
            # A corner of what is left, turned back, lies within the original.
            x, y = sx * width * share / 2, sy * height * share / 2
            back = (x * math.cos(-angle) - y * math.sin(-angle), x * math.sin(-angle) + y * math.cos(-angle))
            self.assertLessEqual(abs(back[0]), width / 2 + 1e-6)
            self.assertLessEqual(abs(back[1]), height / 2 + 1e-6)


class Plans(TestCase):
    @given(SIDES, SIDES, st.booleans(), st.booleans())
    def test_no_file_is_larger_than_the_picture_and_each_keeps_its_proportions(self, width, height, drawing, moving):
        files = plan(width, height, drawing=drawing, moving=moving)
        self.assertEqual(len(files), len({(each.width, each.form.name) for each in files}))
        for each in files:
            self.assertLessEqual(each.width, width)
            self.assertAlmostEqual(each.height, max(1, height * each.width / width), delta=0.51)

    def test_no_step_is_more_than_half_as_wide_again(self):
        for one, other in itertools.pairwise(LADDER):
            self.assertLessEqual(other / one, 1.5)

    def test_formats_fit_what_the_picture_is(self):
        self.assertEqual({each.form.name for each in plan(4000, 3000)}, {"JPEG", "AVIF", "WebP"})
        self.assertEqual({each.form.name for each in plan(4000, 3000, drawing=True)}, {"PNG", "WebP"})
        self.assertEqual({each.form.name for each in plan(400, 300, moving=True)}, {"GIF", "WebP"})

    def test_what_every_browser_shows_is_made_first(self):
        self.assertEqual(
            [(each.width, each.form.name) for each in plan(4000, 3000)[:2]], [(960, "JPEG"), (480, "JPEG")]
        )

    def test_photographs_and_drawings_are_told_apart(self):
        noise = random.Random(4)
        photograph = noise.randbytes(64 * 64 * 4)
        lines = (b"\xff\xff\xff\xff" * 60 + b"\x20\x30\x40\xff" * 4) * 64
        self.assertFalse(is_drawing([(photograph, 64)]))
        self.assertTrue(is_drawing([(lines, 64)]))
        self.assertFalse(is_drawing([]))


def target(width=4000, height=3000, **more):
    files = tuple(
        ImageFile(f"/{each.width}.{each.form.ending}", each.width, each.height, each.width, each.form.mime)
        for each in plan(width, height)
    )
    return PictureTarget(1, "Lock", "", files, width=width, height=height, **more)


class Shows(TestCase):
    @given(SETTINGS, SIDES, SIDES)
    def test_never_larger_than_the_original_or_its_place(self, setting, width, height):
        at = shown(target(width, height), {**UNSAID, **setting}, USUAL)
        most = {"start": 480, "end": 480, "wide": 1120}.get(setting.get("place", ""), 720)
        self.assertLessEqual(at.width, min(most, max(width, height)))
        self.assertGreaterEqual(at.height, 1)

    @given(st.integers(16, 1120), st.sampled_from((1, 1.5, 2, 3)))
    def test_some_file_is_at_most_half_as_wide_again_as_needed_and_never_too_small(self, width, density):
        at = shown(target(), {**UNSAID, "width": width, "place": "wide"}, USUAL)
        offered = [int(each.split()[1][:-1]) for each in at.sources[0].srcset.split(", ")]
        enough = [each for each in offered if each >= width * density]
        if width * density <= LADDER[-2]:
            self.assertTrue(enough)
            self.assertTrue(min(enough) <= 1.5 * width * density or min(enough) == LADDER[0])
        self.assertLessEqual(min(enough, default=0), width * DENSEST * 1.5 + LADDER[0])

    def test_a_drawing_of_lines_may_be_larger_than_it_says_it_is(self):
        self.assertEqual(shown_size({**UNSAID, "width": 600}, (120, 60), USUAL, drawn=True), (600, 300))
        self.assertEqual(shown_size(UNSAID, (120, 60), USUAL, drawn=True), (120, 60))
        self.assertEqual(shown_size({**UNSAID, "width": 600}, (120, 60), USUAL), (120, 60))

    def test_a_cut_that_is_not_made_yet_is_shown_from_the_whole(self):
        at = shown(target(), {**UNSAID, "ratio": "1:1"}, USUAL)
        self.assertEqual((at.width, at.height), (720, 720))
        self.assertTrue(at.src)

    def test_a_page_is_weighed_by_the_newest_format_for_a_dense_screen(self):
        self.assertEqual(taken_by_most(target(), UNSAID, USUAL).address, "/1440.avif")


SVG = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 40 30">{}</svg>'


class Drawings(TestCase):
    def taken(self, inside, head=""):
        return read_drawing((head + SVG.format(inside)).encode())

    def refused(self, inside, said, head=""):
        with self.assertRaises(PictureError) as caught:
            self.taken(inside, head)
        self.assertIn(said, str(caught.exception))

    def test_shapes_text_paint_and_pictures_within_stay(self):
        for inside in (
            "<path d='M0 0h9'/>",
            "<style>.a{fill:url(#g)}</style><g class='a'/>",
            "<use href='#a'/>",
            "<image href='data:image/png;base64,AAAA'/>",
            "<text x='1'>words <tspan>more</tspan></text>",
        ):
            drawing = self.taken(inside)
            self.assertEqual((drawing.width, drawing.height), (40, 30))
            self.assertIn(inside.split()[0].strip("<>").encode(), drawing.data)

    def test_what_runs_is_refused_with_the_reason(self):
        self.refused("<script>1</script>", "a script")
        self.refused("<g onload='x()'/>", "a script (“onload”)")
        self.refused("<a href='javascript:x()'><path/></a>", "a link")
        self.refused("<foreignObject><p xmlns='http://www.w3.org/1999/xhtml'>x</p></foreignObject>", "another page")
        self.refused("<set attributeName='href' to='javascript:x()'/>", "an animation")

    def test_what_reaches_outside_is_refused_with_the_reason(self):
        self.refused("<image href='https://example.invalid/a.png'/>", "something outside it")
        self.refused("<use xlink:href='//example.invalid/a#b'/>", "something outside it")
        self.refused("<image href='data:image/svg+xml;base64,AAAA'/>", "something outside it")
        self.refused("<style>@import 'https://example.invalid'</style>", "reaches outside")
        self.refused("<path fill='url(https://example.invalid/#a)'/>", "reaches outside")
        self.refused("<path style='fill:\\75rl(//example.invalid)'/>", "reaches outside")
        self.refused("<path/>", "declared entities", '<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]>')

    def test_notes_of_the_program_that_made_it_go(self):
        data = self.taken("<metadata>who</metadata><x:y xmlns:x='urn:x'>z</x:y><g x:k='1' xmlns:x='urn:x'/>").data
        for gone in (b"who", b"urn:x", b"metadata"):
            self.assertNotIn(gone, data)

    def test_sizes_as_css_has_them(self):
        def size(attributes):
            drawing = read_drawing(f'<svg xmlns="http://www.w3.org/2000/svg" {attributes}/>'.encode())
            return drawing.width, drawing.height

        self.assertEqual(size('width="1in" height="2.54cm"'), (96, 96))
        self.assertEqual(size('width="100%" height="100%" viewBox="0 0 12 8"'), (12, 8))
        self.assertEqual(size('width="24" viewBox="0 0 12 8"'), (24, 16))
        self.assertEqual(size(""), (300, 150))

    def test_what_is_no_drawing(self):
        for data, said in (
            (b"<svg", "no proper XML"),
            (b"<html><svg/></html>", "something else"),
            (b"<svg/>" + b" " * 5_000_000, "larger than"),
        ):
            with self.assertRaises(PictureError) as caught:
                read_drawing(data)
            self.assertIn(said, str(caught.exception))


class Bombs(TestCase):
    def test_a_moving_picture_of_too_many_pixels(self):
        check_frames(500, 400, 100)
        with self.assertRaises(PictureError) as caught:
            check_frames(5000, 4000, 100)
        self.assertIn("100 frames", str(caught.exception))

    def test_a_document_that_unpacks_to_gigabytes_is_refused_without_unpacking(self):
        file = BytesIO()
        with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("word/document.xml", b" " * 120_000_000)
        with self.assertRaises(FileError) as caught:
            sniff_document(file)
        self.assertIn("unpacks to far more", str(caught.exception))

    def test_a_zip_within_a_zip_is_no_document(self):
        inner, outer = BytesIO(), BytesIO()
        with zipfile.ZipFile(inner, "w") as archive:
            archive.writestr("a", b"x")
        with zipfile.ZipFile(outer, "w") as archive:
            archive.writestr("inner.zip", inner.getvalue())
        self.assertIsNone(sniff_document(outer))


class Headers(TestCase):
    """Sizes as a header declares them, against Pillow, which wrote it."""

    def test_every_format_and_its_kinds(self):
        noise = Image.effect_noise((301, 77), 80)
        written = (
            (JPEG, "JPEG", "L", {}),
            (JPEG, "JPEG", "RGB", {"progressive": True}),
            (JPEG, "JPEG", "CMYK", {"exif": b"Exif\0\0" + b"x" * 300, "comment": b"with a comment"}),
            (PNG, "PNG", "RGBA", {}),
            (GIF, "GIF", "P", {}),
            (WEBP, "WEBP", "RGB", {"quality": 40}),
            (WEBP, "WEBP", "RGB", {"lossless": True}),
            (WEBP, "WEBP", "RGBA", {"quality": 40, "exif": b"Exif\0\0" + b"x" * 30}),
        )
        for form, name, mode, options in written:
            with self.subTest(name=name, mode=mode, options=options):
                out = BytesIO()
                noise.convert(mode).save(out, name, **options)
                self.assertEqual(size_of(out.getvalue(), form), (301, 77))
                self.assertEqual(sniff(out.getvalue()), form)

    @given(st.binary(max_size=60))
    def test_headers_that_are_none_have_no_size_and_do_no_harm(self, rest):
        for form, start in ((JPEG, b"\xff\xd8"), (PNG, b"\x89PNG\r\n"), (GIF, b"GIF89a"), (WEBP, b"RIFF....WEBP")):
            width, height = size_of(start + rest, form)
            self.assertTrue(0 <= width < 2**32 and 0 <= height < 2**32)
        self.assertEqual(size_of(b"\xff\xd8\x00" + rest, JPEG), (0, 0))
