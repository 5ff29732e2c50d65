"""SVG that reaches outside, or paints for minutes. OWASP ASVS 4.0.3, 5.2.7."""

import time
from unittest import TestCase

from stillpage_core.media.drawings import MOST_DRAWN, read_drawing
from stillpage_core.media.pictures import PictureError

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="10" height="10">'


def drawn(body, head=HEAD):
    return read_drawing(f"{head}{body}</svg>".encode())


class Drawings(TestCase):
    def refused(self, body, said, head=HEAD):
        begun = time.process_time()
        with self.assertRaisesRegex(PictureError, said):
            drawn(body, head)
        self.assertLess(time.process_time() - begun, 5)

    def test_a_million_shapes_by_references_within_references(self):
        def laughs(one):
            first = '<rect id="a0" width="1" height="1"/>'
            return first + "".join(f'<g id="a{i}">{one.format(i - 1) * 10}</g>' for i in range(1, 12))

        for one in (
            '<use href="#a{}"/>',
            '<use xlink:href="#a{}"/>',
            '<rect fill="url(#a{})"/>',
            "<g mask='url(\"#a{}\")'/>",
        ):
            self.refused(laughs(one), "again and again by reference")
        self.refused('<path d="M0 0"/>' * (MOST_DRAWN + 1), "more than 100,000 shapes")

    def test_what_refers_to_itself_is_read_and_a_chain_without_end_is_not(self):
        drawn('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>')
        self.refused(
            "".join(f'<use id="c{i}" href="#c{i + 1}"/>' for i in range(20_000)), "by reference|references within"
        )

    def test_what_is_drawn_twice_is_fine(self):
        drawn('<symbol id="a"><path d="M0 0"/></symbol>' + '<use href="#a"/>' * 500)

    def test_functions_that_can_name_a_file(self):
        for css in (
            "background:image-set('http://x.example/a.png' 1x)",
            "mask:-webkit-image-set('http://x.example/a.png' 1x)",
            "mask:image('//x.example/a')",
            "mask:cross-fade('http://x.example/a' 1%)",
            "background:src('http://x.example')",
            "fill:element(#x)",
            "fill:url(http://x.example)",
            "fill:u\\72l(http://x.example)",
        ):
            self.refused(f'<rect style="{css}"/>', "reach(es)? outside")
            self.refused(f"<style>rect{{{css}}}</style>", "reach(es)? outside")

    def test_paint_that_stays_within_is_taken(self):
        style = "fill:rgb(1,2,3);filter:url(#f) drop-shadow(1px 1px red);transform:translate(1px,2px) rotate(3deg)"
        drawn(f'<g transform="matrix(1 0 0 1 0 0)" fill="url(#g)" style="{style}"/>')

    def test_a_base_that_would_have_references_mean_something_elsewhere_goes(self):
        self.assertNotIn(b"example", drawn('<g xml:base="http://x.example/"><use href="#a"/></g>').data)

    def test_sizes_that_are_none(self):
        def head(attributes):
            return f'<svg xmlns="http://www.w3.org/2000/svg" {attributes}>'

        for box in ("0 0 1e400 1e400", "0 0 1e9 10", "0 0 1e-300 10"):
            self.refused("", "no usable one", head(f'viewBox="{box}"'))
        for size in ("9" * 400, "1e400", "-5", "5" * 100_000 + "x"):
            self.assertEqual(drawn("", head(f'width="{size}" height="20"')).height, 20)

    def test_long_values_are_looked_at_once(self):
        begun = time.process_time()
        drawn(f'<path d="{"a" * 3_000_000}"/>')
        drawn(f'<path d="{"(" * 300_000}"/>')
        self.assertLess(time.process_time() - begun, 5)
