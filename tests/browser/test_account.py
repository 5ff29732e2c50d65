"""One's own account and the audit trail, by keyboard where that is how people do it."""

from django.conf import settings
from django.test import Client
from playwright.sync_api import expect

from stillpage.people.models import Person, Role, Session
from stillpage.trail.noting import note

from ..api.base import PASSWORD, a_person
from .base import BrowserTest


class Account(BrowserTest):
    def test_the_password_is_changed_other_sessions_are_ended_and_administrators_read_the_trail(self):
        a_person("maud", Role.ADMINISTRATOR)
        for number in range(120):
            note("published", f"Wren published page {number}.", person=self.author, site=self.site)
        with self.window(user=None) as page:
            self.sign_in(page, "maud")
            expect(page.get_by_role("heading", name="Contents")).to_be_visible()
            elsewhere = Client(headers={"user-agent": "Mozilla/5.0 (X11; Linux x86_64) Firefox/140.0"})
            body = {"username": "maud", "password": PASSWORD}
            elsewhere.post("/api/session", body, "application/json", HTTP_HOST="localhost")
            page.get_by_role("link", name="Maud Osier").click()
            expect(page.get_by_role("heading", name="Your account")).to_be_visible()
            expect(page.get_by_text("Firefox on Linux")).to_be_visible()
            self.axe(page, "the account")
            page.get_by_label("The present one").fill(PASSWORD)
            page.get_by_label("The new one").fill("password1234")
            page.keyboard.press("Enter")
            expect(page.get_by_text("too common")).to_be_visible()
            page.get_by_label("The new one").fill("four otters in a boat")
            page.keyboard.press("Enter")
            expect(page.get_by_text("Your password is changed.")).to_be_visible()
            expect(page.get_by_text("Firefox on Linux")).to_have_count(0)
            self.assertEqual(Session.objects.filter(person__username="maud").count(), 1)
            self.assertTrue(Person.objects.get(username="maud").check_password("four otters in a boat"))
            page.get_by_role("link", name="The audit trail").click()
            lines = page.get_by_role("list", name="What was done, the latest first").get_by_role("listitem")
            expect(lines).to_have_count(100)
            expect(lines.first).to_contain_text("Maud Osier changed their password")
            self.axe(page, "the audit trail")
            page.get_by_role("button", name="Show earlier ones").click()
            expect(lines).to_have_count(123)
            page.get_by_role("combobox", name="What was done").select_option("published")
            expect(lines.first).to_contain_text("page 119")
            page.get_by_label("By whom").fill("nobody")
            expect(page.get_by_text("Nothing of this sort is noted.")).to_be_visible()
            page.set_viewport_size({"width": 390, "height": 800})
            page.goto(self.live_server_url + "/account")
            expect(page.get_by_role("heading", name="Where you are signed in")).to_be_visible()
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
            self.assertIn(settings.SESSION_COOKIE_NAME, {each["name"] for each in page.context.cookies()})
