"""The library as a whole: found, narrowed, sorted, described."""

from base64 import b64encode

from django.core.files.uploadedfile import SimpleUploadedFile

from stillpage.library.models import Item
from stillpage.library.receiving import receive
from stillpage.library.search import note_words
from stillpage.people.models import Role
from stillpage.written.uses import count_pages

from .base import ApiTest, a_person, image_bytes


class Listing(ApiTest):
    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        for number, (name, alt) in enumerate((("Gates", "Closed gates"), ("reeds", ""), ("Bridge", "A stone bridge"))):
            added_at = f"2026-01-0{number + 1}T00:00Z"
            Item.objects.create(kind="picture", title=name, alt=alt, added_at=added_at, added_by=cls.author)

    def setUp(self):
        super().setUp()
        for number, item in enumerate(Item.objects.order_by("added_at")):
            self.files(item, (number % 2 + 1) * 1000 + number)
            note_words(item)

    def files(self, item, size):
        """An original of some size in bytes, and a file made from it."""
        shape = {"mime": "image/jpeg", "width": 480, "height": 320, "size": size, "sha256": str(item.pk)}
        for original in (True, False):
            item.files.create(name=f"{item.pk}-{original}", original=original, **shape)
        Item.objects.filter(pk=item.pk).update(size=size)

    def titles(self, **query):
        asked = "&".join(f"{name}={value}" for name, value in query.items())
        found = self.call("GET", f"/library?{asked}")
        total = self.call("GET", f"/library/count?{asked}")["total"]
        self.assertEqual(len(found["entries"]), total)
        return [entry["item"]["title"] for entry in found["entries"]]

    def test_every_order(self):
        self.assertEqual(self.titles(), ["Bridge", "reeds", "Gates"])
        self.assertEqual(self.titles(order="title"), ["Bridge", "Gates", "reeds"])
        self.assertEqual(self.titles(order="largest"), ["reeds", "Bridge", "Gates"])

    def test_every_way_of_narrowing(self):
        document, _ = receive(SimpleUploadedFile("form.pdf", b"%PDF-1.4\n1 0 obj\n<<>>\nendobj\n%%EOF"), self.other)
        gates = Item.objects.get(title="Gates")
        self.visit.uses.create(item=gates, live=False)
        self.visit.uses.create(item=gates, live=True)
        count_pages({gates.pk})
        self.assertEqual(self.titles(show="documents"), [document.title])
        self.assertEqual(self.titles(show="pictures"), ["Bridge", "reeds", "Gates"])
        self.assertEqual(self.titles(show="without alt text"), ["reeds"])
        self.assertEqual(self.titles(show="used nowhere"), [document.title, "Bridge", "reeds"])
        self.assertEqual(self.titles(show="mine"), ["Bridge", "reeds", "Gates"])
        uses = {entry["item"]["title"]: entry["uses"] for entry in self.call("GET", "/library")["entries"]}
        self.assertEqual((uses["Gates"], uses["reeds"]), (1, 0))

    def test_words_are_found_in_everything_that_is_known(self):
        gates = Item.objects.get(title="Gates")
        change = {"description": "From the archive", "credit": "Imre Fenn", "licence": "CC BY 4.0"}
        out = self.call("PATCH", f"/items/{gates.pk}", change)
        self.assertEqual({name: out[name] for name in change}, change)
        for words in ("closed", "archive gates", "imre", "cc by"):
            self.assertEqual(self.titles(q=words), ["Gates"], words)
        self.assertEqual(self.titles(q="archive stone"), [])

    def test_a_part_at_a_time(self):
        Item.objects.bulk_create(
            Item(kind="picture", title=f"n{number}", added_at="2025-01-01T00:00Z", added_by=self.author)
            for number in range(100)
        )
        for item in Item.objects.filter(title__startswith="n"):
            self.files(item, 1)
        first, second = self.call("GET", "/library"), self.call("GET", "/library?skip=60")
        self.assertEqual((len(first["entries"]), len(second["entries"])), (60, 43))
        self.assertEqual(
            (first["more"], second["more"], self.call("GET", "/library/count")["total"]), (True, False, 103)
        )
        numbers = [entry["item"]["id"] for part in (first, second) for entry in part["entries"]]
        self.assertEqual(len(set(numbers)), 103)

    def test_what_is_not_offered_is_refused_and_a_reader_may_not_look(self):
        self.call("GET", "/library?show=secrets", status=422)
        self.call("GET", "/library?skip=-1", status=422)
        self.call("PATCH", f"/items/{Item.objects.first().pk}", {"credit": "x" * 201}, status=422)
        self.as_person(a_person("fen", Role.READER))
        self.call("GET", "/library", status=403)

    def test_a_pasted_picture_is_named_by_what_it_shows(self):
        data = b64encode(image_bytes((64, 48), "PNG")).decode()
        self.call("POST", "/paste", {"html": f"<p>a</p><img alt='Gates in ice' src='data:image/png;base64,{data}'>"})
        self.assertTrue(Item.objects.filter(title="Gates in ice").exists())
