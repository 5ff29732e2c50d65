"""The commands that bring an installation up."""

import io

from django.core.management import call_command
from django.test import override_settings

from stillpage.operations.models import Installation
from stillpage.publishing import freshness
from stillpage.publishing.models import LiveCopy
from stillpage.publishing.rendering import maker

from .base import ApiTest


class Prepare(ApiTest):
    def prepare(self):
        call_command("prepare")

    def test_pages_are_rendered_anew_when_the_program_has_changed_and_left_alone_when_not(self):
        self.publish(self.walks)
        self.prepare()
        self.render_all()
        before = LiveCopy.objects.get(written=self.walks)
        self.prepare()
        self.assertEqual(LiveCopy.objects.get(written=self.walks).rendered_at, before.rendered_at)
        older = bytes(before.html).replace(b"page.", b"older.")
        LiveCopy.objects.update(html=older)
        self.prepare()
        self.render_all()
        self.assertEqual(bytes(LiveCopy.objects.get(written=self.walks).html), older)
        Installation.objects.update(rendered_by="an older program")
        self.prepare()
        self.assertEqual(freshness.waiting(self.site), 1)
        self.render_all()
        self.assertEqual(bytes(LiveCopy.objects.get(written=self.walks).html), bytes(before.html))
        self.assertContains(self.visit_page("/none"), "There is no such page", status_code=404)

    def test_pages_are_others_where_their_addresses_are(self):
        made = maker.__wrapped__
        here = made()
        for change in ({"PUBLIC_PORT": "8600"}, {"PUBLIC_SCHEME": "https"}):
            with override_settings(**change):
                self.assertNotEqual(made(), here)
        self.assertEqual(made(), here)

    def test_a_site_that_has_data_gets_no_demo_data(self):
        self.prepare()
        self.assertEqual(self.call("GET", f"/sites/{self.site.pk}/contents")["site"]["name"], "Varrow Canal Trust")
        self.assertEqual(len(self.call("GET", "/sites")), 1)

    def test_addresses_name_each_site_and_accounts_of_the_demo_alone(self):
        out = io.StringIO()
        call_command("addresses", stdout=out)
        self.assertIn("Varrow Canal Trust   http://canal.localhost/", out.getvalue())
        self.assertNotIn("wren", out.getvalue())
        Installation.objects.create(demo=True)
        call_command("addresses", stdout=out)
        self.assertIn("wren", out.getvalue())

    def test_a_site_without_live_pages_has_its_404_page_all_the_same(self):
        answer = self.visit_page("/")
        self.assertContains(answer, "There is no such page", status_code=404)
