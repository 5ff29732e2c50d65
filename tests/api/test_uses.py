"""Which page uses which item, kept through saving, publishing and withdrawing."""

from stillpage.pages import tree
from stillpage.people.models import Role
from stillpage.publishing.publish import publish, withdraw
from stillpage.written import saving
from stillpage.written.models import Use

from ..core.documents import document, link, paragraph, picture, words
from .base import ApiTest, a_person, a_picture, a_site


class Uses(ApiTest):
    def setUp(self):
        super().setUp()
        self.gates = a_picture(self.author)

    def write(self, page, *blocks):
        page.working_copy.refresh_from_db()
        saving.save(page, self.author, saving.Draft("T", "", document(*blocks)), page.working_copy.revision)
        page.working_copy.refresh_from_db()

    def uses(self, item=None):
        found = self.call("GET", f"/items/{(item or self.gates).pk}/uses")
        return [(use["page"]["id"], use["working"], use["live"]) for use in found]

    def test_pictures_and_links_count_in_what_is_written_and_in_what_is_live(self):
        self.assertEqual(self.uses(), [])
        self.write(self.visit, paragraph("a"), picture(self.gates.pk), picture(self.gates.pk))
        self.write(self.walks, paragraph(words("the picture", link(f"item:{self.gates.pk}"))))
        self.assertEqual(self.uses(), [(self.visit.pk, True, False), (self.walks.pk, True, False)])
        publish(self.visit, self.author, self.visit.working_copy.revision)
        self.write(self.visit, paragraph("without"))
        self.assertEqual(self.uses(), [(self.visit.pk, False, True), (self.walks.pk, True, False)])
        publish(self.visit, self.author, self.visit.working_copy.revision)
        self.assertEqual(self.uses(), [(self.walks.pk, True, False)])
        publish(self.walks, self.author, self.walks.working_copy.revision)
        withdraw(self.walks)
        self.assertEqual(self.uses(), [(self.walks.pk, True, False)])

    def test_pages_of_every_site_are_told_and_items_that_are_gone_are_not_kept(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        page = tree.add_page(museum, self.author, "Collection")
        self.write(page, picture(self.gates.pk), picture(987_654))
        (use,) = self.call("GET", f"/items/{self.gates.pk}/uses")
        self.assertEqual((use["page"]["title"], use["page"]["site"]), ("T", "Varrow Lock Museum"))
        self.assertEqual(Use.objects.count(), 1)

    def test_a_reader_may_not_ask_and_an_unknown_item_is_not_found(self):
        self.call("GET", "/items/987654/uses", status=404)
        self.as_person(a_person("fen", Role.READER))
        self.call("GET", f"/items/{self.gates.pk}/uses", status=403)
