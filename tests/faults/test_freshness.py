"""Live pages while several people publish at once, and when whoever publishes or renders is killed."""

from __future__ import annotations

import random
import threading
from contextlib import closing

from django.db import connection

from stillpage.pages.models import Page
from stillpage.pages.tree import add_page
from stillpage.publishing import freshness, page_memory
from stillpage.publishing.models import Change, LiveCopy, OutOfDate
from stillpage.publishing.publish import publish, withdraw
from stillpage.written import saving
from stillpage_core.document import document_from_json

from ..api.base import CommittedApiTest, a_site
from ..api.test_freshness import naming
from ..api.whole import is_kept, should_be
from .killing import LONG, killed_at

ROUNDS = 1000 if LONG else 100


class TwoSites(CommittedApiTest):
    def setUp(self):
        super().setUp()
        self.museum = a_site("Varrow Lock Museum", "museum.localhost")
        self.there = add_page(self.museum, self.author, "Way here")
        for page in (self.home, self.visit, self.walks, self.there):
            self.put_live(page, "At first")
        freshness.bring_all_up()

    def put_live(self, page, title):
        """Publish a page of this title that links to the one on the other site."""
        page = Page.objects.get(pk=page.pk)
        to = self.walks if page.site_id == self.museum.pk else self.there
        draft = saving.Draft(title, "", document_from_json(naming([to.pk], words=title)))
        saved = saving.save(page, self.author, draft, page.working_copy.revision).copy
        publish(page, self.author, saved.revision)

    def test_published_and_withdrawn_at_once_a_hundred_times(self):
        failed = []
        together = threading.Barrier(3)

        def work(page, number):
            chance = random.Random(number)
            with closing(connection):
                for turn in range(ROUNDS):
                    together.wait(60)
                    try:
                        if chance.random() < 0.3:
                            withdraw(page)
                        else:
                            self.put_live(page, f"Turn {turn} of {number}")
                    except Exception as error:
                        failed.append((turn, error))
                    together.wait(60)

        threads = [
            threading.Thread(target=work, args=(page, number)) for number, page in enumerate((self.walks, self.there))
        ]
        for thread in threads:
            thread.start()
        chance, old = random.Random(2), 0
        for _ in range(ROUNDS):
            together.wait(60)
            # Readers ask in the midst of it.
            self.visit_page("/visit/towpath-walks")
            self.visit_page("/way-here", "museum.localhost")
            together.wait(60)
            old += OutOfDate.objects.exists()
            if chance.random() < 0.5:
                freshness.bring_all_up()
                self.assertEqual(is_kept(), should_be())
            else:
                for live in LiveCopy.objects.select_related("written__page__site"):
                    answer = self.visit_page(live.written.page.path, live.written.page.site.host)
                    self.assertEqual(answer.content.decode(), should_be(live.address)[live.address])
        for thread in threads:
            thread.join(60)
        self.assertEqual(failed, [])
        self.assertGreater(old, 0, "something was left to readers and the worker")

    def test_killed_at_any_line_nothing_is_half_and_nothing_forgotten(self):
        line, step, ended = 1, 1 if LONG else 7, 0
        while not ended:
            before = is_kept()
            title = f"Killed at {line}"
            if not killed_at(line, lambda title=title: self.put_live(self.visit, title), "/stillpage/publishing/"):
                ended = line
            kept = is_kept()
            self.assertEqual([address for address, html in kept.items() if "</html>\n" not in html[-9:]], [])
            changed = {address for address in kept if kept[address] != before[address]}
            self.assertLessEqual(changed, {"canal.localhost/visit"})
            live = LiveCopy.objects.get(written=self.visit)
            self.assertEqual(live.kept.title, live.title)
            page_memory._kept.clear()  # It is asked for again after two seconds, whoever was killed before telling it.
            self.assertIn(live.title, self.visit_page("/visit").content.decode())
            self.assertTrue(freshness.bring_all_up())
            self.assertEqual(is_kept(), should_be())
            self.assertFalse(Change.objects.exists() or OutOfDate.objects.exists())
            line += step
        self.assertGreater(ended, 100)

    def test_a_worker_killed_at_any_line_leaves_the_rest_to_the_next(self):
        line, step, ended = 1, 1 if LONG else 11, 0
        while not ended:
            freshness.renew(self.site)
            freshness.renew(self.museum)
            if not killed_at(line, freshness.bring_all_up, "/stillpage/publishing/"):
                ended = line
                self.assertFalse(OutOfDate.objects.exists())
            self.assertTrue(freshness.bring_all_up())
            self.assertEqual(is_kept(), should_be())
            line += step
        self.assertGreater(ended, 100)
