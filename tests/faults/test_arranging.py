"""A branch of a thousand pages on its way to another place, when whoever moves it is killed: all or nothing."""

from __future__ import annotations

from django.db import connection
from django.utils import timezone

from stillpage.arranging import binning, placing
from stillpage.pages.models import Page, Redirect
from stillpage.pages.tree import Place, add_page
from stillpage.publishing.models import LiveCopy
from stillpage.written.models import Written

from ..api.base import CommittedApiTest, a_document
from .killing import LONG, killed_at

COUNT = 1000


class Killed(CommittedApiTest):
    def setUp(self):
        super().setUp()
        self.boats = add_page(self.site, self.author, "Boats", slug="boats")
        first = Written.objects.order_by("-pk").values_list("pk", flat=True)[0] + 1
        numbers = range(first, first + COUNT)
        Written.objects.bulk_create(Written(id=number) for number in numbers)
        with connection.cursor() as cursor:
            cursor.executemany(
                "INSERT INTO pages_page (id, site_id, parent_id, position, slug, path, in_navigation, hidden, "
                "slug_follows, elsewhere, copied_title) VALUES (%s, %s, %s, %s, %s, %s, 1, 0, 0, '', '')",
                [
                    (number, self.site.pk, self.walks.pk, number, f"p{number}", f"{self.walks.path}/p{number}")
                    for number in numbers
                ],
            )
        said = {"published_at": timezone.now(), "published_by": self.author, "rendered_at": timezone.now()}
        LiveCopy.objects.bulk_create(
            LiveCopy(
                written_id=number,
                site=self.site,
                title="A walk",
                document=a_document("Level."),
                address=f"{self.site.host}{self.walks.path}/p{number}",
                html=b"",
                html_gzip=b"",
                **said,
            )
            for number in numbers
        )

    def moved(self):
        """How many pages stand under the old place and the new; every live copy is where its page is."""
        counts = [
            Page.objects.filter(path__startswith=f"{above}/towpath-walks").count() for above in ("/visit", "/boats")
        ]
        wrong = [
            (address, path)
            for address, path in LiveCopy.objects.values_list("address", "written__page__path")
            if address != f"{self.site.host}{path}"
        ]
        self.assertEqual(wrong, [])
        return counts, Redirect.objects.count()

    def test_moved_all_or_nothing(self):
        line, step, ended = 1, 1 if LONG else 41, 0
        before = ([COUNT + 1, 0], 0)
        while not ended:

            def move():
                pages = list(Page.objects.filter(pk=self.walks.pk).select_related("site", "parent"))
                boats = Page.objects.select_related("site", "parent").get(pk=self.boats.pk)
                placing.place(pages, self.author, Place(boats.site, boats))

            if not killed_at(line, move, "/stillpage/"):
                ended = line
                self.assertEqual(self.moved(), ([0, COUNT + 1], COUNT))
            else:
                found = self.moved()
                if found != before:
                    # Killed after it was done, while what follows is being marked.
                    self.assertEqual(found, ([0, COUNT + 1], COUNT))
                    break
            line += step
        self.assertGreater(line, 60)

    def test_into_the_bin_all_or_nothing(self):
        line, step = 1, 1 if LONG else 41
        while True:

            def put_away():
                pages = list(Page.objects.filter(pk=self.walks.pk).select_related("site", "parent"))
                binning.to_bin(pages, self.author)

            killed = killed_at(line, put_away, "/stillpage/")
            there = Page.objects.filter(path__startswith="/visit/towpath-walks").count()
            live = LiveCopy.objects.count()
            self.assertIn((there, live), ((COUNT + 1, COUNT), (0, 0)), line)
            if not killed or not there:
                self.assertEqual(Page.every.filter(binned_with=self.walks.pk).count(), COUNT + 1)
                break
            line += step
        self.assertGreater(line, 60)
