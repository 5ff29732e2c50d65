"""Animations: what is let in and what is not, their colours, and what readers get. The demo's file is held against the
JSON Schema of Lottie 1.0; colours are seen in what an independent renderer (rlottie) draws."""

import json
import subprocess
import sys
import tempfile
from dataclasses import replace
from io import BytesIO
from pathlib import Path
from unittest import TestCase, skipUnless

import jsonschema
from PIL import Image
from selectolax.lexbor import LexborHTMLParser

from stillpage_core.media.animations import (
    LARGEST,
    MOST_LAYERS,
    colours_from,
    colours_of,
    cut_for,
    exchanged,
    looks_like_one,
    read_animation,
)
from stillpage_core.media.pictures import FileError
from stillpage_core.reading import read_html
from stillpage_core.reading.source import read_source
from stillpage_core.resolving import AnimationTarget, ImageFile
from stillpage_core.writing import plain_text, published_html, storable_html
from stillpage_core.writing.policy import policy_of
from stillpage_core.writing.source import source_html

from .checks.base import KNOWN, CheckTest
from .documents import animation, document, paragraph

ROOT = Path(__file__).parents[2]
DEMO = ROOT / "demo/animations/a-lock-fills.json"
PACKAGES = ROOT / "web/node_modules"
SCHEMA = PACKAGES / "@lottie-animation-community/lottie-specs/src/data/lottie.schema.json"


def a_square(colour=(1, 0, 0), **more):
    """The smallest animation: a square of one colour that stands there for a second."""
    fill = {"ty": "fl", "c": {"a": 0, "k": [*colour, 1]}, "o": {"a": 0, "k": 100}}
    box = {"ty": "rc", "p": {"a": 0, "k": [50, 50]}, "s": {"a": 0, "k": [100, 100]}, "r": {"a": 0, "k": 0}}
    transform = {"o": {"a": 0, "k": 100}, "r": {"a": 0, "k": 0}, "s": {"a": 0, "k": [100, 100]}} | {
        name: {"a": 0, "k": [0, 0]} for name in ("p", "a")
    }
    group = {"ty": "gr", "it": [box, fill, {"ty": "tr", **transform}]}
    layer = {"ty": 4, "ip": 0, "op": 30, "st": 0, "ks": transform, "shapes": [group]}
    return {"v": "5.7.0", "fr": 30, "ip": 0, "op": 30, "w": 100, "h": 100, "layers": [layer], "assets": [], **more}


def read(whole):
    return read_animation(json.dumps(whole).encode())


def drawn(data):
    """A frame as rlottie draws it, in the program that the library runs."""
    with tempfile.TemporaryDirectory() as folder:
        file, out = Path(folder) / "a.json", Path(folder) / "a.png"
        file.write_bytes(data)
        program = [sys.executable, "-m", "stillpage_core.media.animation_still", file, "0.4", "200", out]
        subprocess.run(program, cwd=ROOT, check=True, timeout=60)
        return Image.open(BytesIO(out.read_bytes())).convert("RGBA")


class ComingIn(TestCase):
    def refused(self, whole, words):
        with self.assertRaisesRegex(FileError, words):
            read_animation(whole if isinstance(whole, bytes) else json.dumps(whole).encode())

    def test_what_it_is_is_read(self):
        found = read(a_square())
        self.assertEqual((found.width, found.height, found.lasts, found.layers), (100, 100, 1000, 1))
        self.assertEqual(found.colours, ("ff0000",))
        self.assertTrue(looks_like_one(b'\xef\xbb\xbf {"v"'))

    def test_an_expression_is_script_and_its_place_is_told(self):
        whole = a_square()
        whole["layers"][0]["ks"]["r"] = {"a": 0, "k": 0, "x": "var $bm_rt = wiggle(2, 9);"}
        self.refused(whole, r"expression.*layers\.0\.ks\.r")

    def test_pictures_and_fonts_from_elsewhere_are_not_asked_for(self):
        for source in ("https://a.example/x.png", "img_0.png", "data:image/svg+xml;base64,AAAA", "//a.example/x"):
            self.refused(
                a_square(assets=[{"id": "a", "u": "", "p": source, "e": 0}]), r"picture from elsewhere.*assets\.0"
            )
        inside = "data:image/png;base64,iVBORw0KGgo="
        self.assertEqual(read(a_square(assets=[{"id": "a", "p": inside, "e": 1}])).layers, 1)
        fonts = {"list": [{"fName": "x", "fPath": "https://a.example/f.woff"}]}
        self.refused(a_square(fonts=fonts), "font from elsewhere")

    def test_sound_is_for_films(self):
        whole = a_square()
        whole["layers"].append({"ty": 6, "ip": 0, "op": 30})
        self.refused(whole, "makes sound")

    def test_ten_thousand_layers_fifty_megabytes_and_what_is_no_json(self):
        whole = a_square()
        whole["layers"] *= 10_000
        data = json.dumps(whole).encode()
        self.refused(data, "10,000 layers" if len(data) <= LARGEST else "larger than")
        small = a_square()
        small["layers"] = [{"ty": 3, "ip": 0, "op": 1}] * (MOST_LAYERS + 1)
        self.refused(small, "2,001 layers")
        self.refused(b"{" + b" " * 50_000_000, "larger than 5 MB")
        for data in (b"{not json", b"{}", b'{"layers": 3}', b"\xff\xfe{", b'{"a": NaN}', b"{" * 100_000):
            self.refused(data, "Lottie JSON|no JSON|no animation")

    def test_what_is_nested_without_end_or_has_no_size_is_refused(self):
        deep: object = 1
        for _ in range(300):
            deep = {"it": [deep]}
        self.refused(a_square(more=deep), "nested deeper|no JSON")
        self.refused(a_square(w=0), "how large")
        self.refused(a_square(op=0), "how large it is or how long")
        self.refused(a_square(op=10**6, fr=1), "longer than 10 minutes")

    @skipUnless(SCHEMA.exists(), "npm ci has not been run")
    def test_the_demo_is_valid_by_the_published_schema_and_stays_so_in_other_colours(self):
        schema = json.loads(SCHEMA.read_text())
        validator = jsonschema.validators.validator_for(schema)(schema)
        known = read_animation(DEMO.read_bytes())
        for data in (DEMO.read_bytes(), known.data, exchanged(known.data, {known.colours[0]: "123456"})):
            self.assertEqual([error.message for error in validator.iter_errors(json.loads(data))][:3], [])


class Colours(TestCase):
    def test_keyframes_gradients_strokes_and_solid_layers_have_theirs(self):
        whole = a_square()
        whole["layers"] += [
            {"ty": 1, "ip": 0, "op": 30, "sc": "#00FF00", "sw": 9, "sh": 9, "ks": {}},
            {
                "ty": 4,
                "ip": 0,
                "op": 30,
                "ks": {},
                "shapes": [
                    {"ty": "st", "c": {"a": 1, "k": [{"t": 0, "s": [0, 0, 1, 1]}, {"t": 9, "s": [1, 1, 0, 1]}]}},
                    {"ty": "gf", "g": {"p": 2, "k": {"a": 0, "k": [0, 0, 0.5, 0, 1, 1, 0, 1]}}},
                ],
            },
        ]
        self.assertEqual(set(colours_of(whole)), {"ff0000", "00ff00", "0000ff", "ffff00", "008000", "ff00ff"})
        other = json.loads(exchanged(json.dumps(whole).encode(), dict.fromkeys(colours_of(whole), "101112")))
        self.assertEqual(colours_of(other), ("101112",))

    def test_what_an_independent_renderer_draws_has_the_wanted_colours(self):
        data = read(a_square()).data
        self.assertEqual(drawn(data).getpixel((100, 100)), (255, 0, 0, 255))
        other = exchanged(data, colours_from("ff0000-1f4a3d"))
        self.assertEqual(drawn(other).getpixel((100, 100)), (0x1F, 0x4A, 0x3D, 255))

    def test_pairs_are_read_and_tell_files_apart(self):
        self.assertEqual(colours_from("ff0000-1f4a3d 000000-ffffff"), {"ff0000": "1f4a3d", "000000": "ffffff"})
        self.assertEqual((cut_for(None), colours_from(None)), ("base", {}))
        self.assertNotEqual(cut_for("ff0000-1f4a3d"), cut_for("ff0000-1f4a3e"))

    @skipUnless(PACKAGES.exists(), "npm ci has not been run")
    def test_the_player_that_is_shipped_is_the_package_and_has_no_eval(self):
        shipped = (ROOT / "theme/player/lottie_light.min.js").read_bytes()
        self.assertEqual(shipped, (PACKAGES / "lottie-web/build/player/lottie_light.min.js").read_bytes())
        for sign in (b"eval(", b"new Function"):
            self.assertFalse(sign in shipped, sign)


FILES = (
    ImageFile("/media/base.json", 480, 300, 6000, "video/lottie+json", "moving-base"),
    ImageFile("/media/base.png", 960, 600, 2000, "image/png", "still-base"),
    ImageFile("/media/other.json", 480, 300, 6000, "video/lottie+json", f"moving-{cut_for('ff0000-00ff00')}"),
)
LOCK = AnimationTarget(8, "A lock fills", "The boat rises", FILES, 480, 300, 8000, ("ff0000",))
RESOLVER = replace(KNOWN, animations={8: LOCK, 9: replace(LOCK, number=9, alt="", files=FILES[:1])})


def tree(*blocks):
    return LexborHTMLParser(published_html(document(*blocks), RESOLVER))


class AsReadersGetIt(TestCase):
    def test_a_still_frame_is_there_with_its_words_and_its_place_does_not_jump(self):
        made = tree(animation(8, caption="In eight seconds", times=3, start="hover", delay=500, speed=50))
        shown = made.css_first(".animation img").attributes
        self.assertEqual((shown["src"], shown["alt"]), ("/media/base.png", "The boat rises"))
        self.assertEqual((shown["width"], shown["height"]), ("480", "300"))
        box = made.css_first(".animation-box").attributes
        said = {name: box[f"data-{name}"] for name in ("src", "times", "start", "delay", "speed")}
        wanted = {"src": "/media/base.json", "times": "3", "start": "hover", "delay": "500", "speed": "50"}
        self.assertEqual(said, wanted)

    def test_in_other_colours_it_is_another_file_and_the_frame_follows(self):
        box = tree(animation(8, colours="ff0000-00ff00")).css_first(".animation-box")
        self.assertEqual(box.attributes["data-src"], "/media/other.json")
        self.assertEqual(box.css_first("img").attributes["src"], "/media/base.png")

    def test_without_a_frame_its_words_are_there_all_the_same(self):
        shown = tree(animation(9, alt="Said here")).css_first("svg").attributes
        self.assertEqual((shown["role"], shown["aria-label"]), ("img", "Said here"))

    def test_it_loads_from_its_own_site_and_nowhere_else(self):
        policy = policy_of(document(animation(8)), RESOLVER)
        self.assertIn("connect-src 'self'", policy)
        self.assertIn("script-src 'self'", policy)
        self.assertNotIn("unsafe", policy)

    def test_it_comes_back_from_every_form(self):
        whole = document(animation(8, alt="x", colours="ff0000-00ff00", times=2, place="wide"), paragraph("y"))
        self.assertEqual(read_html(storable_html(whole)).document, whole)
        self.assertEqual(read_source(source_html(whole)[0]).reading.document, whole)
        self.assertIn("[x]", plain_text(whole))


class Untold(CheckTest):
    check = "animation-untold"
    resolver = RESOLVER

    def test_1_1_1_it_needs_words_or_is_decoration(self):
        finding = self.assertFound(animation(9))
        self.assertEqual(finding.severity, "blocks")
        self.assertRight(animation(8), animation(9, alt="Said"), animation(9, decorative=True))


class WithoutStill(CheckTest):
    check = "animation-without-still"
    resolver = RESOLVER

    def test_one_without_a_frame_is_looked_at(self):
        self.assertFound(animation(9, alt="Said"))
        self.assertRight(animation(8))


class Gone(CheckTest):
    check = "animation-gone"

    def test_it_blocks_and_leaves_its_caption(self):
        finding = self.assertFound(animation(99, caption="Said"))
        self.assertEqual((finding.severity, finding.repairs[0].label), ("blocks", "Take the animation away"))
