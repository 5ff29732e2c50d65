"""How wide a title is in a search result, against text as Chromium measures it, in a font with the metrics of Arial."""

import base64
import random
from unittest import TestCase

from django.conf import settings

from stillpage_core.sites.search_result import TITLE_SIZE, TITLE_WIDTH, shown_title, title_width

from ..chromium import new_page

FONT = settings.ROOT / "web" / "node_modules" / "@fontsource" / "arimo" / "files"
SUBSETS = ("latin", "latin-ext", "greek", "cyrillic")
TITLES = [
    "Towpath walks – Varrow Canal Trust",
    "How to work a lock",
    "AVAST! Tawny Wharf, To Yew Tree Way: P. 7–11",
    "“Up the Fourteen”, an evening’s talk (with slides)",
    "Wasserstraßen und Schleusen für Anfänger",
    "Écluses à l’ancienne, où l’eau s’élève",
    "Śluzy na kanale: żółw i łódź",
    "Διώρυγα και πύλες",
    "Канал и шлюзы",
    "iiiiiiiiii WWWWWWWWWW",
]


class TitleWidth(TestCase):
    def test_titles_are_as_wide_as_chromium_sets_them_within_one_per_cent(self):
        chance = random.Random(1)
        letters = "".join(map(chr, range(0x20, 0x7F)))
        titles = [*TITLES, *("".join(chance.choices(letters, k=chance.randint(10, 70))).strip() for _ in range(200))]
        faces = "".join(
            f"@font-face {{ font-family: Arimo; unicode-range: {span}; "
            f"src: url(data:font/woff2;base64,{self.data(subset)}) }}"
            for subset, span in zip(SUBSETS, ("U+0-FF,U+2000-206F", "U+100-2AF", "U+370-3FF", "U+400-45F"), strict=True)
        )
        with new_page() as page:
            page.set_content(f"<style>{faces} span {{ font: {TITLE_SIZE}px Arimo; white-space: pre }}</style>")
            measured = page.evaluate(
                """async (titles) => {
                  const spans = titles.map((title) => {
                    const span = document.createElement("span")
                    span.textContent = title
                    document.body.append(span, document.createElement("br"))
                    return span
                  })
                  await Promise.all(["a", "ś", "ω", "ж"].map((sign) => document.fonts.load("20px Arimo", sign)))
                  await document.fonts.ready
                  return spans.map((span) => span.getBoundingClientRect().width)
                }""",
                titles,
            )
        for title, width in zip(titles, measured, strict=True):
            self.assertLess(abs(title_width(title) - width), 0.01 * width, f"{title}: {title_width(title)}, {width}")

    def data(self, subset):
        return base64.b64encode((FONT / f"arimo-{subset}-400-normal.woff2").read_bytes()).decode()

    def test_the_name_of_the_site_stands_behind_the_title(self):
        self.assertEqual(shown_title(" Visit ", "Varrow Canal Trust"), "Visit – Varrow Canal Trust")
        self.assertEqual(shown_title("Varrow Canal Trust", "Varrow Canal Trust", home=True), "Varrow Canal Trust")
        self.assertGreater(title_width("W" * 40), TITLE_WIDTH)
