"""The audit trail: what is noted, for whom, and that nobody changes it. OWASP ASVS 4.0.3, 7.1, 7.2, 7.3."""

import json
import logging
from unittest import TestCase

from stillpage.library import acts
from stillpage.people.models import Role, RoleGrant
from stillpage.trail.models import Entry, Unchangeable
from stillpage.trail.noting import ACTS, line_of, note

from ..api.base import PASSWORD, ApiTest, CommittedApiTest, a_person, a_picture, a_site


class Noted(CommittedApiTest):
    def noted(self):
        return list(Entry.objects.order_by("id").values_list("act", flat=True))

    def test_who_did_what_when_and_from_where(self):
        keeper = a_person("piet", Role.KEEPER, Role.ADMINISTRATOR)
        Entry.objects.all()._raw_delete("default")
        self.client.logout()
        sign_in = {"username": "piet", "password": "nonsense"}
        self.client.post("/api/session", sign_in, "application/json", HTTP_USER_AGENT="Firefox")
        self.client.post("/api/session", {**sign_in, "password": PASSWORD}, "application/json")
        self.publish(self.walks)
        self.call("DELETE", f"/pages/{self.walks.pk}/publish", None, 204)
        self.client.get(f"/api/pages/{self.walks.pk}/export/md")
        b"".join(self.client.get(f"/api/sites/{self.site.pk}/export").streaming_content)
        self.call("PUT", f"/sites/{self.site.pk}/checks", {"severities": {}, "page_budget": 900, "hardest_grade": 9})
        item = a_picture(keeper)
        self.call("PATCH", f"/items/{item.pk}", {"restricted": True})
        item.refresh_from_db()
        acts.to_bin(keeper, [item])
        self.call("POST", "/library/remove", {"items": [item.pk]})
        grant = RoleGrant.objects.create(person=self.other, role=Role.APPROVER, site=self.site)
        grant.delete()
        self.client.delete("/api/session")
        self.assertEqual(
            self.noted(),
            [
                "sign-in failed",
                "signed in",
                "published",
                "withdrawn",
                "exported",
                "exported",
                "checks changed",
                "reach changed",
                "removed for good",
                "role given",
                "role taken",
                "signed out",
            ],
        )
        failed, done = Entry.objects.order_by("id")[:2]
        self.assertEqual(
            (failed.person, failed.name, failed.agent, failed.address), (None, "piet", "Firefox", "127.0.0.1")
        )
        self.assertEqual((done.person, done.name), (keeper.pk, "piet"))

    def test_whoever_goes_on_guessing_does_not_fill_the_trail(self):
        self.client.logout()
        for _ in range(40):
            self.client.post("/api/session", {"username": "wren", "password": "x"}, "application/json")
        self.assertEqual(self.noted().count("sign-in failed"), 5)
        self.assertEqual(self.noted().count("sign-in paused"), 1)

    def test_what_did_not_come_to_pass_is_not_noted(self):
        self.call("POST", f"/pages/{self.walks.pk}/publish", {"revision": 99}, 409)
        self.assertNotIn("published", self.noted())


class Kept(ApiTest):
    def test_an_entry_is_never_changed_nor_taken_away(self):
        entry = note("begun", "x")
        for act in (entry.save, entry.delete):
            with self.assertRaises(Unchangeable):
                act()

    def test_administrators_read_it_each_of_their_sites(self):
        other = a_site("Varrow Lock Museum", "museum.localhost")
        note("published", "ours", site=self.site)
        note("published", "theirs", site=other)
        note("signed in", "nowhere")
        for roles, site, seen in (
            ((Role.ADMINISTRATOR,), None, {"ours", "theirs", "nowhere"}),
            ((Role.ADMINISTRATOR,), self.site, {"ours"}),
        ):
            self.as_person(a_person(f"maud-{site}", *roles, site=site))
            said = {each["sentence"] for each in self.call("GET", "/trail")["entries"]}
            self.assertLessEqual(seen, said)
            self.assertFalse({"ours", "theirs", "nowhere"} - seen & said)
        for role in set(Role) - {Role.ADMINISTRATOR}:
            self.as_person(a_person(f"a-{role}", role))
            self.call("GET", "/trail", None, 403)

    def test_it_is_gone_through_by_parts_by_act_and_by_name(self):
        for number in range(150):
            note("signed in" if number % 3 else "exported", str(number), name=f"n{number % 2}")
        self.as_person(a_person("maud", Role.ADMINISTRATOR))
        first = self.call("GET", "/trail?act=signed+in&name=n1")
        self.assertEqual((len(first["entries"]), first["more"], first["acts"]), (50, False, list(ACTS)))
        whole = self.call("GET", "/trail")
        self.assertEqual((len(whole["entries"]), whole["more"]), (100, True))
        rest = self.call("GET", f"/trail?before={whole['entries'][-1]['id']}")
        self.assertLess(rest["entries"][0]["id"], whole["entries"][-1]["id"])


class Logged(TestCase):
    def test_a_line_of_the_log_is_json_and_cannot_be_made_two(self):
        entry = Entry(act="sign-in failed", sentence="x", name='a\n{"act": "signed in"}\u2028\x1b[2J')
        from django.utils import timezone

        entry.at = timezone.now()
        line = line_of(entry)
        self.assertEqual(len(line.splitlines()), 1)
        self.assertTrue(line.isascii())
        self.assertEqual(json.loads(line)["name"], entry.name)
        handler = logging.getLogger("stillpage.trail").handlers[0]
        self.assertEqual(handler.formatter.format(logging.makeLogRecord({"msg": line})), line)
