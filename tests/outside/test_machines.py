"""What a site tells machines, read by programs that others wrote: the sitemap by the schema of sitemaps.org (from the
npm package “sitemap”), the feed by feedparser (RFC 4287), robots.txt by Python's parser and by protego (RFC 9309), the
head of pages by extruct (Open Graph, JSON-LD)."""

import io
import urllib.robotparser
from unittest.mock import patch

import extruct
import feedparser
from django.conf import settings
from lxml import etree
from protego import Protego

from stillpage.arranging import placing
from stillpage.pages.models import Page
from stillpage.publishing import machines
from stillpage.publishing.models import LiveCopy
from stillpage_core.sites.machines import IMAGES, SITEMAP

from ..api.base import ApiTest, a_document, a_picture

SCHEMA = settings.ROOT / "web" / "node_modules" / "sitemap" / "schema" / "sitemap.xsd"
NAMES = {"s": SITEMAP, "i": IMAGES}


class Machines(ApiTest):
    def setUp(self):
        super().setUp()
        self.picture = a_picture(self.author, "Closed gates")
        document = a_document("Level <all> the way & back.")
        document["content"][0]["content"].append({"type": "picture", "attrs": {"item": self.picture.pk}})
        document["attrs"] |= {"share": self.picture.pk, "search_title": "Walks & <towpaths>", "share_focus": "100,9000"}
        self.save(self.walks, document, None, title="Towpath walks")
        for page in (self.home, self.visit, self.walks):
            self.publish(page)
        self.render_all()

    def got(self, path):
        answer = self.visit_page(path)
        self.assertEqual(answer.status_code, 200, path)
        return b"".join(answer.streaming_content) if answer.streaming else answer.content

    def valid(self, data):
        tree = etree.parse(io.BytesIO(data))
        for image in tree.iterfind(".//i:image", NAMES):
            self.assertEqual([each.tag for each in image], [f"{{{IMAGES}}}loc"])
            image.getparent().remove(image)
        etree.XMLSchema(etree.parse(str(SCHEMA))).assertValid(tree)
        return [each.text for each in tree.iterfind(".//s:loc", NAMES)]

    def test_the_sitemap_by_the_schema_of_sitemaps_org(self):
        data = self.got("/sitemap.xml")
        images = [each.text for each in etree.fromstring(data).iterfind(".//i:loc", NAMES)]
        self.assertEqual(len(images), 1)
        self.assertTrue(images[0].startswith("http://canal.localhost/media/"), images)
        self.assertEqual(self.visit_page(images[0].removeprefix("http://canal.localhost")).status_code, 200)
        self.assertEqual(
            sorted(self.valid(data)),
            [f"http://canal.localhost{path}" for path in ("/", "/visit", "/visit/towpath-walks")],
        )

    def test_a_large_site_has_several_sitemaps_and_a_list_of_them(self):
        with patch.object(machines, "MOST", 2):
            index = etree.fromstring(self.got("/sitemap.xml"))
            parts = [each.text.removeprefix("http://canal.localhost") for each in index.iterfind(".//s:loc", NAMES)]
            self.assertEqual(parts, ["/sitemap-1.xml", "/sitemap-2.xml"])
            addresses = [address for part in parts for address in self.valid(self.got(part))]
            self.assertEqual(len(set(addresses)), 3)
            self.assertEqual(self.visit_page("/sitemap-3.xml").status_code, 404)

    def test_the_feed_by_an_independent_parser(self):
        data = self.got("/feed.atom")
        feed = feedparser.parse(data)
        self.assertEqual((feed.bozo, feed.version), (False, "atom10"))
        self.assertEqual(feed.feed.title, "Varrow Canal Trust")
        self.assertEqual({entry.title for entry in feed.entries}, {"Visit", "Towpath walks"})
        walks = next(entry for entry in feed.entries if entry.title == "Towpath walks")
        self.assertEqual(walks.link, "http://canal.localhost/visit/towpath-walks")
        # RFC 4287, 4.2.6: the identity stays when the address changes.
        placing.set_slug(Page.objects.get(pk=self.walks.pk), self.author, "along-the-water")
        with self.committed():
            self.render_all()
        moved = next(e for e in feedparser.parse(self.got("/feed.atom")).entries if e.title == "Towpath walks")
        self.assertEqual((moved.id, moved.published), (walks.id, walks.published))
        self.assertEqual(moved.link, "http://canal.localhost/visit/along-the-water")

    def test_robots_txt_by_two_parsers(self):
        text = self.got("/robots.txt").decode()
        of_python = urllib.robotparser.RobotFileParser()
        of_python.parse(text.splitlines())
        other = Protego.parse(text)
        for path, may in (("/", True), ("/visit/towpath-walks", True), ("/preview/abc", False), ("/search?q=x", False)):
            address = f"http://canal.localhost{path}"
            self.assertEqual(of_python.can_fetch("*", address), may, path)
            self.assertEqual(other.can_fetch(address, "any"), may, path)
        self.assertEqual(list(other.sitemaps), ["http://canal.localhost/sitemap.xml"])

    def test_the_head_of_a_page_by_an_independent_extractor(self):
        html = self.got("/visit/towpath-walks").decode()
        found = extruct.extract(html, base_url="http://canal.localhost/", syntaxes=["opengraph", "json-ld"])
        card = dict(found["opengraph"][0]["properties"])
        self.assertEqual(card["og:title"], "Walks & <towpaths>")
        self.assertEqual(card["og:url"], "http://canal.localhost/visit/towpath-walks")
        self.assertEqual((card["og:image:alt"], card["og:type"]), ("Closed gates", "article"))
        across, down = int(card["og:image:width"]), int(card["og:image:height"])
        self.assertAlmostEqual(across / down, 1200 / 630, delta=0.02)
        self.assertEqual(self.visit_page(card["og:image"].removeprefix("http://canal.localhost")).status_code, 200)
        [crumbs] = found["json-ld"]
        self.assertEqual(crumbs["@type"], "BreadcrumbList")
        self.assertEqual(
            [(each["position"], each["name"], each["item"]) for each in crumbs["itemListElement"]],
            [
                (1, "Varrow Canal Trust", "http://canal.localhost/"),
                (2, "Visit", "http://canal.localhost/visit"),
                (3, "Towpath walks", "http://canal.localhost/visit/towpath-walks"),
            ],
        )

    def test_nothing_of_that_is_rendered_for_it(self):
        LiveCopy.objects.update(html=b"", html_gzip=b"")
        for path in ("/sitemap.xml", "/feed.atom", "/robots.txt"):
            self.assertTrue(self.got(path))
        self.assertEqual(bytes(LiveCopy.objects.get(written=self.walks).html), b"")
