"""Files made of pictures, opened by another decoder than wrote them: Chromium's."""

import base64
import itertools
import json
from io import BytesIO

import numpy as np
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from stillpage.library.derived import bring_up_to_date
from stillpage.library.models import Item
from stillpage.library.receiving import receive

from ..api.base import photograph
from ..browser.base import BrowserTest
from ..core.documents import document, heading, paragraph, picture

DECODE = """async (given) => {
  const bytes = Uint8Array.from(atob(given.data), (letter) => letter.charCodeAt(0))
  const bitmap = await createImageBitmap(new Blob([bytes], {type: given.mime}), {imageOrientation: 'from-image'})
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
  const pen = canvas.getContext('2d')
  pen.drawImage(bitmap, 0, 0)
  const at = ([x, y]) => [...pen.getImageData(Math.floor(x * bitmap.width), Math.floor(y * bitmap.height), 1, 1).data]
  return {width: bitmap.width, height: bitmap.height, pixels: given.places.map(at)}
}"""


def lab(colours):
    """CIE L*a*b* (D65) of sRGB colours from 0 to 255: IEC 61966-2-1 and CIE 15, from memory."""
    rgb = np.asarray(colours, float) / 255
    linear = np.where(rgb <= 0.04045, rgb / 12.92, ((rgb + 0.055) / 1.055) ** 2.4)
    matrix = [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]
    xyz = linear @ np.array(matrix).T / [0.95047, 1, 1.08883]
    f = np.where(xyz > (6 / 29) ** 3, np.cbrt(xyz), xyz / (3 * (6 / 29) ** 2) + 4 / 29)
    return np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], -1)


def chart():
    """A test chart of six by four patches over most of what sRGB holds, with the grain of a photograph."""
    steps = list(itertools.product((30, 120, 220), (40, 200), (20, 90, 160, 235)))
    grain = np.random.default_rng(3).integers(-2, 3, (800, 1200, 3))
    pixels = np.zeros((800, 1200, 3))
    for index, colour in enumerate(steps):
        x, y = index % 6 * 200, index // 6 * 200
        pixels[y : y + 200, x : x + 200] = colour
    return Image.fromarray(np.clip(pixels + grain, 0, 255).astype(np.uint8)), steps


PLACES = [((index % 6 + 0.5) / 6, (index // 6 + 0.5) / 4) for index in range(24)]


class Decoded(BrowserTest):
    def decode(self, page, file, places):
        with default_storage.open(file.name) as stored:
            data = base64.b64encode(stored.read()).decode()
        return page.evaluate(DECODE, {"data": data, "mime": file.mime, "places": places})

    def made(self, data, name="chart"):
        item, _ = receive(SimpleUploadedFile(name, data), self.author)
        bring_up_to_date(item.pk)
        return Item.objects.get(pk=item.pk)

    def test_size_and_colour_of_every_file(self):
        image, colours = chart()
        for form, options in (("PNG", {}), ("JPEG", {"quality": 97, "subsampling": 0})):
            out = BytesIO()
            image.save(out, form, **options)
            item = self.made(out.getvalue(), f"chart.{form}")
            with self.window(user=None) as page:
                page.goto("about:blank")
                for file in item.files.filter(original=False):
                    found = self.decode(page, file, PLACES)
                    self.assertEqual((found["width"], found["height"]), (file.width, file.height), file.name)
                    if file.width < 240:
                        continue
                    seen = lab([pixel[:3] for pixel in found["pixels"]])
                    # The grain is part of the original: a patch is as it was within the grain's two steps.
                    difference = np.sqrt(((seen - lab(colours)) ** 2).sum(-1))
                    self.assertLess(np.median(difference), 1.2, (file.name, difference))
                    self.assertLess(np.sort(difference)[:-2].max(), 2.0, (file.name, difference))

    def test_all_eight_orientations_stand_upright(self):
        # Exif 2.32, 4.6.4 A, tag 274: which side of the scene row 0 and column 0 are.
        upright = Image.open(BytesIO(photograph((320, 200)))).convert("RGB")
        for box, colour in (
            ((0, 0, 160, 100), "#c01010"),
            ((160, 0, 320, 100), "#10a010"),
            ((0, 100, 160, 200), "#1010c0"),
        ):
            upright.paste(colour, box)
        wanted = {(0.25, 0.25): "r", (0.75, 0.25): "g", (0.25, 0.75): "b"}
        methods = Image.Transpose
        stored_as = {
            1: None,
            2: methods.FLIP_LEFT_RIGHT,
            3: methods.ROTATE_180,
            4: methods.FLIP_TOP_BOTTOM,
            5: methods.TRANSPOSE,
            6: methods.ROTATE_90,
            7: methods.TRANSVERSE,
            8: methods.ROTATE_270,
        }
        with self.window(user=None) as page:
            page.goto("about:blank")
            for value, method in stored_as.items():
                exif = Image.Exif()
                exif[0x0112] = value
                out = BytesIO()
                turned = upright.transpose(method) if method is not None else upright
                turned.save(out, "JPEG", quality=95, exif=exif.tobytes())
                item = self.made(out.getvalue(), f"{value}.jpg")
                self.assertEqual((item.width, item.height), (320, 200), value)
                for file in item.files.filter(original=False):
                    found = self.decode(page, file, list(wanted))
                    self.assertGreater(found["width"], found["height"], (value, file.name))
                    seen = ["rgb"[int(np.argmax(pixel[:3]))] for pixel in found["pixels"]]
                    self.assertEqual(seen, list(wanted.values()), (value, file.name))


class Chosen(BrowserTest):
    def test_screens_load_no_more_than_half_as_much_again_as_they_show(self):
        item, _ = receive(SimpleUploadedFile("large.jpg", photograph((1700, 1100))), self.author, "Noise")
        blocks = []
        for setting in (
            {},
            {"width": 330, "place": "end"},
            {"width": 200, "place": "centre"},
            {"place": "wide"},
            {"place": "start", "ratio": "1:1"},
        ):
            blocks += [heading(2, "x"), picture(item.pk, **setting), paragraph("Words beside it. " * 30)]
        self.write(self.walks, document(*blocks))
        self.put_live(self.walks)
        bring_up_to_date(item.pk)
        told = []
        for width in (390, 820, 1280):
            for density in (1, 2, 3):
                with self.window(width, 900, user=None, device_scale_factor=density) as page:
                    page.goto(self.address(self.walks))
                    page.evaluate(
                        """() => Promise.all([...document.images].map(async (image) => {
                          image.loading = 'eager'; await image.decode() }))"""
                    )
                    loaded = page.evaluate(
                        """() => [...document.images].map((image) => [
                          image.currentSrc, image.getBoundingClientRect().width,
                          performance.getEntriesByName(image.currentSrc).length ])"""
                    )
                for source, across, _ in loaded:
                    file = int(source.rsplit("-", 1)[1].split(".")[0])
                    needed = across * density
                    told.append((width, density, round(across), file))
                    self.assertTrue(source.endswith(".avif"), source)
                    # A file that another picture of the page needs is there already, and serves a smaller one too.
                    most = max(each[1] for each in loaded if each[0] == source) * density
                    self.assertLessEqual(file, max(160, 1.5 * most), told[-1])
                    self.assertGreaterEqual(file, min(0.7 * needed, 1700), told[-1])
        self.assertEqual(len(told), 45, json.dumps(told))
