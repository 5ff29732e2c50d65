"""Galleries and slideshows: as readers get them, in files, coming in, and weighed. Roles and names of a slideshow are
those of the carousel of the ARIA Authoring Practices; that words over a picture keep 4.5:1 is WCAG 2.2, 1.4.3."""

import re
import time
from dataclasses import replace
from pathlib import Path
from unittest import TestCase

from selectolax.lexbor import LexborHTMLParser

from stillpage_core.colour import contrast
from stillpage_core.document import document_from_json
from stillpage_core.document.fitting import fitted
from stillpage_core.document.naming import framings_in, named_in
from stillpage_core.measuring import measure
from stillpage_core.reading import Arriving, read_html
from stillpage_core.reading.reading import with_pages, with_pictures
from stillpage_core.reading.source import read_source
from stillpage_core.resolving import ImageFile, PictureTarget
from stillpage_core.writing import plain_text, published_html, storable_html
from stillpage_core.writing.html import published_blocks
from stillpage_core.writing.policy import policy_of
from stillpage_core.writing.source import source_html

from .checks.base import KNOWN, CheckTest
from .documents import (
    bare_slide,
    body,
    bulleted,
    document,
    download,
    downloads,
    gallery,
    item,
    paragraph,
    picture,
    slide,
    slideshow,
)

SQUARE = "0.0.1250.0.7500.10000"


def wide(number, **facts):
    files = [
        ImageFile(f"/media/{number}-{width}.jpg", width, width * 3 // 4, width * 100, "image/jpeg")
        for width in (320, 640, 1280)
    ]
    cut = [ImageFile(f"/media/{number}-{SQUARE}.jpg", 240, 240, 9000, "image/jpeg", SQUARE)]
    return PictureTarget(
        number, f"Picture {number}", f"Words {number}", (*files, *cut), **{"width": 1280, "height": 960, **facts}
    )


RESOLVER = replace(KNOWN, pictures={number: wide(number) for number in range(1, 300)})
GALLERY = gallery(picture(1, caption="The <gates>"), picture(2, decorative=True), picture(999), title="Ten & more")
SHOW = slideshow(
    slide(picture(1), heading="Walk <with> us", words="Every Sunday.", href="page:1"),
    slide(picture(2, "Worded here"), words="Alone"),
    slide(picture(3)),
    name="News",
)


def tree(*blocks):
    return LexborHTMLParser(published_html(document(*blocks), RESOLVER))


class AGallery(TestCase):
    def test_each_tile_leads_to_its_picture_as_large_as_it_is_and_has_a_name(self):
        made = tree(GALLERY)
        links = made.css(".gallery li a")
        self.assertEqual([link.attributes["href"] for link in links], ["/media/1-1280.jpg", "/media/2-1280.jpg"])
        self.assertEqual(links[0].css_first("img").attributes["alt"], "Words 1")
        # The second is no more than decoration; a link needs a name all the same (WCAG 2.2, 2.4.4).
        self.assertEqual(
            (links[1].css_first("img").attributes["alt"], links[1].attributes["aria-label"]), ("", "Picture 2")
        )
        self.assertEqual(made.css_first(".gallery ul").attributes["aria-label"], "Ten & more")
        self.assertEqual(made.css_first("figcaption").text(), "The <gates>")

    def test_tiles_are_of_one_proportion_and_a_wall_keeps_each_its_own(self):
        shown = tree(gallery(picture(1), ratio="1:1")).css_first("img").attributes
        self.assertEqual((shown["width"], shown["height"]), ("232", "232"))
        self.assertIn(SQUARE, shown["src"])
        wall = tree(gallery(picture(1), form="wall")).css_first("img").attributes
        self.assertEqual((wall["width"], wall["height"]), ("240", "180"))

    def test_what_is_to_be_made_of_pictures_is_told_by_the_gallery_too(self):
        made = framings_in(document(gallery(picture(1, focus="100,200"))))[1]
        self.assertIn({"turn": None, "straighten": None, "ratio": "1:1", "crop": None, "focus": "100,200"}, made)
        self.assertEqual(named_in(document(GALLERY)).pictures, {1, 2, 999})

    def test_only_the_first_picture_of_a_page_is_loaded_at_once(self):
        images = tree(paragraph("x"), gallery(*(picture(number) for number in range(1, 9)))).css("img")
        self.assertEqual([("loading" in image.attributes) for image in images], [False, *[True] * 7])

    def test_a_gallery_of_nothing_is_none_and_asks_for_no_script(self):
        self.assertIsNone(tree(gallery(picture(999))).css_first(".gallery"))
        self.assertNotIn("script", policy_of(document(gallery()), RESOLVER))
        self.assertIn("script-src 'self'", policy_of(document(GALLERY), RESOLVER))

    def test_it_is_weighed_by_its_tiles_not_by_what_they_lead_to(self):
        one = measure(document(gallery(picture(1))), RESOLVER).weight
        whole = measure(document(picture(1)), RESOLVER).weight
        self.assertLess(one + 100_000, whole)

    def test_two_thousand_pictures_take_time_in_proportion(self):
        def seconds(count):
            many = document(gallery(*(picture(1 + number % 299) for number in range(count))))
            begun = time.perf_counter()
            html = storable_html(many)
            published_html(many, RESOLVER)
            self.assertEqual(len(body(read_html(html).document)[0].content), count)
            return time.perf_counter() - begun

        seconds(100)
        self.assertLess(min(seconds(2000) for _ in range(3)) / min(seconds(200) for _ in range(3)), 25)


class ASlideshow(TestCase):
    def test_roles_and_names_are_those_of_a_carousel(self):
        made = tree(SHOW)
        show = made.css_first("section.slideshow").attributes
        self.assertEqual((show["aria-roledescription"], show["aria-label"]), ("carousel", "News"))
        slides = [each.attributes for each in made.css(".slide")]
        self.assertEqual([each["aria-label"] for each in slides], ["1 of 3", "2 of 3", "3 of 3"])
        self.assertEqual({(each["role"], each["aria-roledescription"]) for each in slides}, {("group", "slide")})
        # Without script the strip scrolls, by keys too.
        self.assertEqual(made.css_first(".slides").attributes["tabindex"], "0")

    def test_the_first_line_leads_where_the_slide_does(self):
        made = tree(SHOW)
        link = made.css_first(".slide-heading a")
        self.assertEqual((link.attributes["href"], link.text()), ("/boating/boat-licence", "Walk <with> us"))
        self.assertIsNone(made.css(".slide")[1].css_first("a"))

    def test_slides_are_of_one_proportion(self):
        shown = [(each.attributes["width"], each.attributes["height"]) for each in tree(SHOW).css("img")]
        self.assertEqual(set(shown), {("720", "480")})

    def test_one_slide_stands_still_and_none_is_nothing(self):
        made = tree(slideshow(slide(picture(1))))
        self.assertNotIn("tabindex", made.css_first(".slides").attributes)
        self.assertIsNone(made.css_first("script"))
        self.assertIsNone(tree(slideshow()).css_first(".slideshow"))
        self.assertIsNone(tree(slideshow(slide(picture(999)))).css_first(".slideshow"))

    def test_words_stay_where_a_picture_is_gone_or_there_never_was_one(self):
        made = tree(slideshow(slide(picture(999), heading="Still said"), bare_slide(words="Words alone")))
        self.assertEqual(len(made.css(".slide")), 2)
        self.assertEqual(made.css_first(".slide-heading").text(), "Still said")

    def test_words_over_a_picture_can_be_read_whatever_is_under_them(self):
        css = (Path(__file__).parents[2] / "theme/page.css").read_text()
        over = css[css.index('[data-words="over"] .slide-lines') :]
        share = float(re.search(r"background: rgb\(0 0 0 / ([\d.]+)\)", over)[1])
        self.assertIn("color: #fff", over)
        # White words, and the lightest there can be under the ground that they stand on.
        lightest = round(255 * (1 - share))
        self.assertGreaterEqual(contrast((255, 255, 255), (lightest,) * 3), 4.5)

    def test_blocks_by_themselves_tell_their_scripts(self):
        made = published_blocks(document(GALLERY, SHOW, paragraph("x")), RESOLVER)
        self.assertEqual([block.scripts for block in made], [("gallery.js",), ("slideshow.js",), ()])
        self.assertTrue(made[1].html.startswith('<section class="slideshow"'))


class ComingInAndGoingOut(TestCase):
    def test_storable_source_and_markdown_bring_them_back(self):
        for block in (GALLERY, SHOW, slideshow(bare_slide(heading="x"), place="wide", moves=False, words="over")):
            whole = document(block)
            self.assertEqual(read_html(storable_html(whole)).document, whole)
            self.assertEqual(read_source(source_html(whole)[0]).reading.document, whole)

    def test_what_readers_get_is_read_again(self):
        html = published_html(document(gallery(picture(1, caption="A lock")), SHOW), RESOLVER)
        blocks = body(read_html(html, arriving=Arriving()).document)
        self.assertEqual([each.kind for each in blocks], ["gallery", "slideshow"])
        self.assertEqual(blocks[0].content[0].attrs["caption"], "A lock")
        said = [(each.attrs["heading"], each.attrs["words"]) for each in blocks[1].content]
        self.assertEqual(said, [("Walk <with> us", "Every Sunday."), (None, "Alone"), (None, None)])

    def test_a_gallery_of_others_is_one_and_with_more_in_it_is_what_it_is(self):
        figure = '<figure><img src="https://a.example/{}.jpg" alt="x"><figcaption>C</figcaption></figure>'
        html = f'<div class="gallery">{figure.format(1)}{figure.format(2)}</div>'
        self.assertEqual([each.kind for each in body(read_html(html).document)], ["gallery"])
        with_more = html.replace("</div>", "<p>And some words.</p></div>")
        self.assertEqual(
            [each.kind for each in body(read_html(with_more).document)], ["picture", "picture", "paragraph"]
        )

    def test_no_word_is_lost_where_they_may_not_stand(self):
        blocks = fitted("list_item", [GALLERY, SHOW, downloads(download(7, words="A", description="B"), title="T")])
        said = " ".join(plain_text(document(bulleted(item(paragraph("x"), *blocks[1:])))).split())
        for words in ("Ten & more", "The <gates>", "Walk <with> us", "Every Sunday.", "Alone", "T", "A", "B"):
            self.assertIn(words, f"{said} {plain_text(document(blocks[0]))}")

    def test_pictures_that_did_not_come_leave_their_captions_and_slides_their_words(self):
        left = with_pictures(document(gallery(picture(1, caption="One"), picture(2)), SHOW), {1: None})
        document_from_json(left.to_json())
        self.assertEqual([each.kind for each in body(left)], ["gallery", "paragraph", "slideshow"])
        self.assertIn("Walk <with> us", plain_text(left))

    def test_a_slide_leads_to_the_page_that_was_made(self):
        made = with_pages(document(SHOW), {1: 77})
        self.assertEqual(body(made)[0].content[0].attrs["href"], "page:77")

    def test_plain_text_says_all_of_it(self):
        said = plain_text(document(GALLERY, SHOW))
        for words in ("Ten & more", "The <gates>", "News", "Walk <with> us", "Alone"):
            self.assertIn(words, said)


class Empty(CheckTest):
    check = "gallery-empty"

    def test_one_without_pictures_is_told_and_can_be_taken_away(self):
        finding = self.assertFound(gallery(title="Pictures"))
        self.assertEqual(finding.repairs[0].label, "Take the gallery away")
        self.assertFound(slideshow())
        self.assertRight(gallery(picture(2)), slideshow(slide(picture(2))))


class Single(CheckTest):
    check = "slideshow-single"

    def test_one_slide_is_a_picture(self):
        self.assertFound(slideshow(slide(picture(2), heading="x")))
        self.assertRight(slideshow(slide(picture(2)), slide(picture(2))))
        # One that leads somewhere is not undone by a press: its link would be lost.
        self.assertEqual(self.assertFound(slideshow(slide(picture(2), href="page:1"))).repairs, ())


class Cut(CheckTest):
    check = "slide-cut"

    def test_what_is_lost_is_told_and_the_proportion_of_most_is_offered(self):
        # The pictures of these tests are 4:3; of 2:1 a third is lost.
        finding = self.assertFound(slideshow(slide(picture(2)), slide(picture(2)), ratio="2:1"))
        self.assertIn("“aqueduct” by 33%", finding.sentence)
        self.assertIn("4:3", finding.repairs[0].label)
        self.assertRight(slideshow(slide(picture(2)), ratio="4:3"), slideshow(slide(picture(2)), ratio="3:2"))


class Long(CheckTest):
    check = "slide-words-long"

    def test_words_beyond_two_lines_of_a_phone(self):
        self.assertFound(slideshow(slide(picture(2), heading="x" * 61)))
        self.assertFound(slideshow(slide(picture(2), words="word " * 20)))
        self.assertRight(slideshow(slide(picture(2), heading="x" * 60, words="y" * 90)))


class Leading(CheckTest):
    check = "link-dead"

    def test_a_slide_that_leads_to_what_is_gone_is_told(self):
        finding = self.assertFound(slideshow(slide(picture(2), heading="Go", href="page:99")))
        self.assertEqual(finding.path, (0, 0, 0))
        self.assertRight(slideshow(slide(picture(2), heading="Go", href="page:1")))


class Gone(CheckTest):
    check = "picture-gone"

    def test_a_picture_goes_with_its_place_and_its_words_stay(self):
        self.assertFound(gallery(picture(2), picture(99, caption="Said")))
        self.assertFound(slideshow(slide(picture(2)), slide(picture(99), heading="Said")))


class WithoutAlt(CheckTest):
    check = "picture-without-alt"

    def test_pictures_of_galleries_and_slides_need_words_too(self):
        self.assertFound(gallery(picture(2), picture(1)))
        self.assertFound(slideshow(slide(picture(1))))
        self.assertRight(gallery(picture(1, "Said here"), picture(3)))
