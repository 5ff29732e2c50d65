"""Publishing, and what readers get."""

import gzip
import re
import time
from collections import OrderedDict
from dataclasses import replace
from unittest.mock import patch

from django.conf import settings

from stillpage.library.models import Item
from stillpage.pages.models import Page
from stillpage.pages.tree import add_page
from stillpage.publishing import page_memory
from stillpage.publishing.models import LiveCopy
from stillpage.written.models import Version
from stillpage_core.kinds.ways import ways_of

from .base import ApiTest, a_document, a_picture, a_site, blocks_in


class Publishing(ApiTest):
    def test_a_page_is_seen_by_nobody_before_and_by_everybody_after(self):
        self.publish(self.home)
        self.assertEqual(self.visit_page("/visit/towpath-walks").status_code, 404)
        self.save(self.walks, a_document("Level all the way."), 1)
        live = self.publish(self.walks)
        self.assertEqual((live["address"], live["differs"]), ("http://canal.localhost/visit/towpath-walks", 0))
        self.assertContains(self.visit_page("/visit/towpath-walks"), "Level all the way.")

    def test_later_edits_change_the_working_copy_only(self):
        self.save(self.walks, a_document("first", "second"), 1)
        self.publish(self.walks)
        saved = self.save(self.walks, a_document("first", "changed"), 2, title="Walks")
        self.assertEqual(saved["live"]["differs"], 2)
        page = self.visit_page("/visit/towpath-walks")
        self.assertContains(page, "second")
        self.assertNotContains(page, "changed")

    def test_only_the_text_that_was_seen_is_published(self):
        self.as_person(self.other)
        self.save(self.walks, a_document("unseen"), 1)
        self.call("POST", f"/pages/{self.walks.pk}/publish", {"revision": 1}, 409)
        self.assertFalse(LiveCopy.objects.exists())

    def test_a_finding_that_blocks_is_told_and_nothing_is_published(self):
        item = a_picture(self.author, alt="")
        document = a_document("x")
        blocks_in(document).append({"type": "picture", "attrs": {"item": item.pk}})
        self.save(self.walks, document, 1)
        problem = self.publish(self.walks, 422)
        self.assertIn("one thing has to be mended: The picture “lock gates” has no alt text", problem["detail"])
        self.assertEqual(problem["findings"][0]["path"], [0, 1])
        self.assertEqual(self.visit_page("/visit/towpath-walks").status_code, 404)

    def test_each_published_text_is_kept(self):
        self.publish(self.walks)
        self.save(self.walks, a_document("two"), 1)
        self.publish(self.walks)
        kept = Version.objects.filter(written=self.walks, reason=Version.Reason.PUBLISHED)
        self.assertEqual(next(each.document["content"] for each in kept), a_document("two")["content"])
        self.assertEqual(len(kept), 2)

    def test_unpublishing_takes_the_page_away_and_keeps_the_text(self):
        self.publish(self.home)
        self.publish(self.walks)
        self.call("DELETE", f"/pages/{self.walks.pk}/publish", status=204)
        self.assertEqual(self.visit_page("/visit/towpath-walks").status_code, 404)
        self.assertIsNone(self.call("GET", f"/pages/{self.walks.pk}")["live"])
        self.call("DELETE", f"/pages/{self.walks.pk}/publish", status=204)

    def test_navigation_and_links_follow_what_is_live(self):
        link = {"type": "link", "attrs": {"href": f"page:{self.visit.pk}"}}
        document = a_document("Plan your visit")
        blocks_in(document)[0]["content"][0]["marks"] = [link]
        self.save(self.home, document, 1, title="Varrow Canal Trust")
        self.publish(self.home)
        self.assertContains(self.visit_page("/"), "<p>Plan your visit</p>", html=True)
        self.publish(self.visit)
        home = self.visit_page("/").content.decode()
        self.assertIn('<p><a href="/visit">Plan your visit</a></p>', home)
        self.assertIn('<li><a href="/visit">Visit</a></li>', home)
        self.save(self.visit, a_document(), 1, title="Come and see")
        self.publish(self.visit)
        self.assertIn('<li><a href="/visit">Come and see</a></li>', self.visit_page("/").content.decode())
        self.call("DELETE", f"/pages/{self.visit.pk}/publish", status=204)
        self.assertNotIn('href="/visit"', self.visit_page("/").content.decode())

    def test_a_new_title_is_rendered_where_it_shows_and_nowhere_else(self):
        link = {"type": "link", "attrs": {"href": f"page:{self.walks.pk}"}}
        pointing = a_document("See the walks")
        blocks_in(pointing)[0]["content"][0]["marks"] = [link]
        under = [add_page(self.site, self.author, title, parent=self.walks) for title in ("Long walks", "Short walks")]
        beside = add_page(self.site, self.author, "Boat trips", parent=self.visit)
        elsewhere = add_page(self.site, self.author, "Contact")
        for page in (self.home, self.visit, self.walks, *under, beside):
            self.publish(page)
        self.save(elsewhere, pointing, 1, title="Contact")
        self.publish(elsewhere)
        self.render_all()
        before = dict(LiveCopy.objects.values_list("written_id", "rendered_at"))
        self.save(self.walks, a_document("x"), 1, title="Walks by the water")
        self.publish(self.walks)
        self.render_all()
        after = dict(LiveCopy.objects.values_list("written_id", "rendered_at"))
        shown = {page.pk for page in (self.walks, self.visit, *under)}
        self.assertEqual({pk for pk in after if after[pk] != before[pk]}, shown)
        live = {each.written_id: bytes(each.html) for each in LiveCopy.objects.all()}
        self.render_all(self.site)
        self.assertEqual(live, {each.written_id: bytes(each.html) for each in LiveCopy.objects.all()})
        self.call("DELETE", f"/pages/{self.walks.pk}/publish", status=204)
        self.render_all()
        live = {each.written_id: bytes(each.html) for each in LiveCopy.objects.all()}
        self.render_all(self.site)
        self.assertEqual(live, {each.written_id: bytes(each.html) for each in LiveCopy.objects.all()})

    def test_a_link_from_another_site_follows_too(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        page = add_page(museum, self.author, "Way here")
        document = a_document("along the towpath")
        blocks_in(document)[0]["content"][0]["marks"] = [{"type": "link", "attrs": {"href": f"page:{self.walks.pk}"}}]
        self.save(page, document, 1, title="Way here")
        self.publish(page)
        self.publish(self.walks)
        there = self.visit_page("/way-here", host="museum.localhost").content.decode()
        self.assertIn('<a href="http://canal.localhost/visit/towpath-walks">along the towpath</a>', there)


class Reading(ApiTest):
    def setUp(self):
        super().setUp()
        self.save(self.walks, a_document("Level all the way. " * 20), 1)
        self.publish(self.home)
        self.publish(self.visit)
        self.publish(self.walks)
        self.render_all()

    def test_a_page_has_what_a_page_needs(self):
        html = self.visit_page("/visit/towpath-walks").content.decode()
        self.assertEqual(html.count("<h1"), 1)
        for part in (
            '<html lang="en"',
            "<title>Towpath walks – Varrow Canal Trust</title>",
            '<a class="skip" href="#main">',
            '<main id="main"',
            '<nav class="site-nav" aria-label="Main">',
            '<link rel="canonical" href="http://canal.localhost/visit/towpath-walks">',
            '<a href="/visit" aria-current="true">Visit</a>',
            "<footer",
        ):
            self.assertIn(part, html)
        # What is told to machines is data; nothing is run.
        self.assertEqual(re.findall(r"<script[^>]*>", html), ['<script type="application/ld+json">'])
        self.assertNotIn("style=", html)

    def test_it_costs_one_query_and_sets_no_cookie(self):
        with self.assertNumQueries(1):
            page = self.visit_page("/visit/towpath-walks")
        self.assertEqual(len(page.cookies), 0)
        with self.assertNumQueries(0):
            self.assertEqual(self.visit_page("/visit/towpath-walks").content, page.content)
        with self.assertNumQueries(3):
            self.visit_page("/none")
        # What a site answers where there is nothing is kept in memory.
        with self.assertNumQueries(2):
            self.visit_page("/none")

    def test_what_is_kept_in_memory_is_forgotten_when_it_changes_and_after_a_moment(self):
        before = self.visit_page("/visit/towpath-walks")
        later = patch("stillpage.publishing.page_memory.time.monotonic", return_value=time.monotonic() + 3)
        with later, self.assertNumQueries(1):
            self.visit_page("/visit/towpath-walks")
        self.save(self.walks, a_document("Changed."), 2)
        self.publish(self.walks)
        after = self.visit_page("/visit/towpath-walks")
        self.assertContains(after, "Changed.")
        self.assertNotEqual(after["ETag"], before["ETag"])

    def test_no_more_than_so_many_pages_are_kept_in_memory(self):
        with patch.object(page_memory, "MOST", 2), patch.object(page_memory, "_kept", OrderedDict()) as kept:
            for path in ("/", "/visit", "/visit/towpath-walks"):
                self.visit_page(path)
            self.assertEqual(
                [address for address, _ in kept], [f"canal.localhost/visit{end}" for end in ("", "/towpath-walks")]
            )

    def test_it_is_checked_again_but_not_sent_again(self):
        page = self.visit_page("/visit/towpath-walks")
        self.assertEqual(page["Cache-Control"], "public, max-age=0, must-revalidate")
        self.assertRegex(page["Last-Modified"], r"^\w{3}, \d\d \w{3} \d{4} ")
        for held in (page["ETag"], f"W/{page['ETag']}", f'"other", {page["ETag"]}', "*"):
            again = self.visit_page("/visit/towpath-walks", HTTP_IF_NONE_MATCH=held)
            self.assertEqual((again.status_code, again.content, again["ETag"]), (304, b"", page["ETag"]))
        self.save(self.walks, a_document("new"), 2)
        self.publish(self.walks)
        self.assertEqual(self.visit_page("/visit/towpath-walks", HTTP_IF_NONE_MATCH=page["ETag"]).status_code, 200)

    def test_it_is_sent_compressed_to_those_who_take_it_with_an_etag_of_its_own(self):
        plain = self.visit_page("/visit/towpath-walks")
        packed = self.visit_page("/visit/towpath-walks", HTTP_ACCEPT_ENCODING="gzip, br")
        self.assertEqual(packed["Content-Encoding"], "gzip")
        self.assertEqual(gzip.decompress(packed.content), plain.content)
        self.assertEqual((plain["Vary"], packed["Vary"]), ("Accept-Encoding",) * 2)
        self.assertNotEqual(plain["ETag"], packed["ETag"])

    def test_an_address_that_does_not_exist_gets_the_site_s_own_404_page(self):
        answer = self.visit_page("/visit/nothing")
        self.assertEqual(answer.status_code, 404)
        html = answer.content.decode()
        self.assertIn("<h1", html)
        self.assertIn("There is no such page", html)
        self.assertIn('<a href="/visit">Visit</a>', html)
        self.assertIn('content="noindex"', html)

    def test_a_slash_at_the_end_leads_to_the_address_without(self):
        answer = self.visit_page("/visit/")
        self.assertEqual((answer.status_code, answer["Location"]), (301, "/visit"))
        answer = self.visit_page("/", PATH_INFO="//elsewhere.example/")
        self.assertEqual(answer.status_code, 404)
        answer = self.visit_page("/", PATH_INFO="//visit/")
        self.assertEqual(answer["Location"], "/visit")
        for spelling in ("/Visit", "/visit.html", "/VISIT/", "/visit/index.html"):
            answer = self.visit_page(spelling)
            self.assertEqual((answer.status_code, answer.headers.get("Location")), (301, "/visit"), spelling)

    def test_a_host_that_is_no_site(self):
        self.assertEqual(self.visit_page("/", host="nobody.example").status_code, 404)

    def test_only_reading_is_possible(self):
        answer = self.client_class().post("/visit", HTTP_HOST="canal.localhost")
        self.assertEqual((answer.status_code, answer["Allow"]), (405, "GET, HEAD"))
        head = self.client_class().head("/visit", HTTP_HOST="canal.localhost")
        self.assertEqual((head.status_code, head.content), (200, b""))

    def test_the_policy_allows_no_script_and_nothing_inline(self):
        policy = self.visit_page("/visit")["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertNotIn("script-src", policy)
        self.assertNotIn("unsafe", policy)

    def test_a_page_s_policy_is_made_from_what_is_on_it_and_kept_with_it(self):
        loads = replace(ways_of("divider"), loads=lambda *_: [("frame-src", "https://levels.example")])
        before = self.visit_page("/visit/towpath-walks")["Content-Security-Policy"]
        document = a_document("x")
        blocks_in(document).append({"type": "divider"})
        with patch("stillpage_core.kinds.ways.all_ways", lambda: {"divider": loads}):
            self.save(self.walks, document, None)
            self.publish(self.walks)
        for _ in range(2):  # From the database, and from memory.
            answer = self.visit_page("/visit/towpath-walks")
            self.assertEqual(answer["Content-Security-Policy"], f"{before}; frame-src https://levels.example")
        self.assertEqual(self.visit_page("/visit")["Content-Security-Policy"], before)
        self.render_all(self.site)
        self.assertEqual(self.visit_page("/visit/towpath-walks")["Content-Security-Policy"], before)

    def test_the_authoring_side_s_policy_takes_only_our_own_scripts(self):
        for path in ("/", f"/sheet/{self.walks.pk}"):
            policy = self.client.get(path)["Content-Security-Policy"]
            self.assertRegex(policy, r"script-src 'self'( 'nonce-[^']+')?(;|$)")
            self.assertIn("frame-ancestors 'self'", policy)
            self.assertNotIn("unsafe", policy)

    def test_rendering_anew_changes_nothing_that_has_not_changed(self):
        before = LiveCopy.objects.get(written=self.walks).etag
        self.render_all(self.site)
        self.assertEqual(LiveCopy.objects.get(written=self.walks).etag, before)

    def test_the_sheet_is_the_same_page_with_an_empty_text(self):
        live = self.visit_page("/visit/towpath-walks").content.decode()
        sheet = self.client.get(f"/sheet/{self.walks.pk}").content.decode()

        def around(html):
            return re.sub(r'<div class="text".*?</div>', "", html[html.index("<body>") :], flags=re.DOTALL)

        self.assertEqual(around(sheet), around(live))
        self.assertIn('<div class="regions"></div>', sheet)

    def test_what_the_title_says_cannot_break_out(self):
        self.save(self.walks, a_document(), 2, title="<script>alert(1)</script>")
        self.publish(self.walks)
        html = self.visit_page("/visit/towpath-walks").content.decode()
        self.assertEqual(re.findall(r"<script[^>]*>", html), ['<script type="application/ld+json">'])
        self.assertNotIn("alert(1)</", html)


class Demo(ApiTest):
    def test_the_demo_data_loads_whole(self):
        from demo.load import load_demo
        from stillpage.people.models import Person

        Page.objects.filter(parent__isnull=False).delete()
        Page.objects.all().delete()
        self.site.delete()
        Person.objects.all().delete()
        load_demo()
        self.assertGreaterEqual(Page.objects.filter(site__theme="canal").count(), 15)
        self.assertGreaterEqual(Item.objects.count(), 60)
        self.assertGreaterEqual(Item.objects.filter(wordless=True).count(), 5)
        self.assertEqual(Item.objects.filter(restricted=True).count(), 3)
        self.assertEqual(Item.objects.filter(kind=Item.Kind.DOCUMENT, size__gt=settings.HEAVY).count(), 1)
        self.assertContains(self.visit_page("/visit/towpath-walks"), "Lock 4 to the stone bridge")
        self.assertContains(self.visit_page("/", host="museum.localhost"), "Varrow Lock Museum")
