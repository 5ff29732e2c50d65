"""Signing in, and who may do what: every act with every role."""

import json

from stillpage.people.models import Person, Role
from stillpage.rights import ROLES, Right, may

from .base import PASSWORD, ApiTest, a_document, a_person, a_picture, a_site, image_bytes

STAFF = {Role.AUTHOR, Role.APPROVER, Role.KEEPER, Role.DESIGNER, Role.ADMINISTRATOR}
WRITERS = {Role.AUTHOR, Role.APPROVER, Role.ADMINISTRATOR}


NONE_CHOSEN = dict.fromkeys(("width", "left", "left_shut", "shelf_shut", "more_marks", "library", "keys"))


class Choices(ApiTest):
    """How somebody likes the interface."""

    def choices(self):
        return self.call("GET", "/session")["person"]["choices"]

    def test_they_are_kept_for_the_person_and_for_nobody_else(self):
        self.call("PATCH", "/account/choices", {"width": "390", "keys": {"level-2": "Ctrl+Shift+2"}})
        self.call("PATCH", "/account/choices", {"library": "lines"})
        kept = {**NONE_CHOSEN, "width": "390", "keys": {"level-2": "Ctrl+Shift+2"}, "library": "lines"}
        self.assertEqual(self.choices(), kept)
        self.call("PATCH", "/account/choices", {"width": None})
        self.assertEqual(self.choices(), {**kept, "width": None})
        self.as_person(a_person("somebody-else", Role.AUTHOR))
        self.assertEqual(self.choices(), NONE_CHOSEN)

    def test_what_there_is_no_choice_of_is_refused_and_changes_nothing(self):
        for wrong in ({"width": "400"}, {"colour": "red"}, {"keys": {"a" * 61: "F8"}}, {"keys": {"link": "x" * 41}}):
            self.call("PATCH", "/account/choices", wrong, 422)
        self.assertEqual(self.choices(), NONE_CHOSEN)

    def test_what_an_earlier_release_kept_is_no_hindrance(self):
        Person.objects.filter(username="wren").update(choices={"width": "huge", "shade": 1, "library": "lines"})
        self.assertEqual(self.choices(), {**NONE_CHOSEN, "library": "lines"})
        self.call("PATCH", "/account/choices", {"left": "notes"})
        self.assertEqual(self.choices(), {**NONE_CHOSEN, "library": "lines", "left": "notes"})

    def test_nobody_has_none(self):
        self.client.logout()
        self.call("PATCH", "/account/choices", {"width": "390"}, 401)


class SigningIn(ApiTest):
    def setUp(self):
        super().setUp()
        self.client.logout()

    def sign_in(self, password=PASSWORD, status=200, username="wren"):
        return self.call("POST", "/session", {"username": username, "password": password}, status)

    def test_nobody_is_signed_in_at_first(self):
        self.assertIsNone(self.call("GET", "/session")["person"])
        self.call("GET", "/sites", status=401)

    def test_the_right_password_signs_in_and_signing_out_ends_it(self):
        self.assertEqual(self.sign_in()["person"], {"username": "wren", "name": "Wren Osier", "choices": NONE_CHOSEN})
        self.call("GET", "/sites")
        self.assertIsNone(self.call("DELETE", "/session")["person"])
        self.call("GET", "/sites", status=401)

    def test_a_wrong_password_is_a_sentence_that_does_not_say_which_was_wrong(self):
        wrong = self.sign_in("nonsense", 401)["detail"]
        self.assertEqual(wrong, self.sign_in("nonsense", 401, username="nobody")["detail"])

    def test_after_several_wrong_passwords_even_the_right_one_has_to_wait(self):
        for _ in range(5):
            self.sign_in("nonsense", 401)
        self.assertIn("Wait 30 seconds", self.sign_in(status=429)["detail"])
        self.assertEqual(self.sign_in(username="tobias")["person"]["username"], "tobias")


class Roles(ApiTest):
    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        cls.people = {role: a_person(f"the-{role.value}", role) for role in Role}
        cls.nobody = a_person("nobody")
        cls.item = None

    def allowed(self, method, path, roles, body=None, good=(200, 201, 204)):
        """Exactly these roles get through; all others are told that they may not, and why."""
        for person, role in [*((self.people[role], role) for role in Role), (self.nobody, None)]:
            self.as_person(person)
            answer = self.client.generic(method, f"/api{path}", json.dumps(body or {}), "application/json")
            if role in roles:
                self.assertIn(answer.status_code, good, (role, answer.content[:200]))
            else:
                self.assertEqual(answer.status_code, 403, (role, path))
                self.assertIn("You may not", answer.json()["detail"])
        self.client.logout()
        answer = self.client.generic(method, f"/api{path}", json.dumps(body or {}), "application/json")
        self.assertEqual(answer.status_code, 401)

    def test_reading_the_authoring_side_takes_any_role_but_reader(self):
        for path in ("/sites", f"/sites/{self.site.pk}/contents", f"/pages/{self.walks.pk}", "/shelf?q=walks"):
            self.allowed("GET", path, STAFF)
        self.allowed("POST", "/check", STAFF, {"document": a_document()})

    def test_writing(self):
        body = {"title": "T", "description": "", "document": a_document("x"), "base": 1}
        self.allowed("PUT", f"/pages/{self.walks.pk}/working-copy", WRITERS, body)
        self.allowed("POST", f"/sites/{self.site.pk}/pages", WRITERS, {"title": "New"})

    def test_publishing_where_authors_may(self):
        self.allowed("POST", f"/pages/{self.walks.pk}/publish", WRITERS, {"revision": 1})
        self.allowed("DELETE", f"/pages/{self.walks.pk}/publish", WRITERS)

    def test_publishing_where_only_approvers_do(self):
        self.site.authors_may_publish = False
        self.site.save()
        roles = {Role.APPROVER, Role.ADMINISTRATOR}
        self.allowed("POST", f"/pages/{self.walks.pk}/publish", roles, {"revision": 1})
        self.allowed("DELETE", f"/pages/{self.walks.pk}/publish", roles)

    def test_the_library(self):
        item = a_picture(self.author)
        self.allowed("GET", f"/items/{item.pk}", STAFF)
        self.allowed("PATCH", f"/items/{item.pk}", WRITERS | {Role.KEEPER}, {"alt": "x"})
        self.allowed("POST", "/items", WRITERS | {Role.KEEPER}, good=(422,))

    def test_the_sheet_is_for_those_who_may_see_the_contents(self):
        for role, person in self.people.items():
            self.as_person(person)
            self.assertEqual(self.client.get(f"/sheet/{self.walks.pk}").status_code, 200 if role in STAFF else 403)

    def test_every_act_is_covered_by_the_table(self):
        self.assertEqual(set(ROLES), set(Right))

    def test_a_role_for_one_site_is_none_for_another(self):
        museum = a_site("Varrow Lock Museum", "museum.localhost")
        person = a_person("guide", Role.AUTHOR, site=museum)
        self.assertTrue(may(person, Right.WRITE, museum))
        self.assertFalse(may(person, Right.WRITE, self.site))
        self.as_person(person)
        self.assertEqual([site["name"] for site in self.call("GET", "/sites")], ["Varrow Lock Museum"])
        self.call("GET", f"/pages/{self.walks.pk}", status=403)
        self.assertEqual(self.call("GET", "/shelf?q=walks")["pages"], [])

    def test_a_person_put_out_of_use_may_nothing(self):
        self.author.is_active = False
        self.assertFalse(may(self.author, Right.SEE_CONTENTS, self.site))


class Upload(ApiTest):
    def test_a_reader_may_not_add_even_a_good_picture(self):
        from django.core.files.uploadedfile import SimpleUploadedFile

        self.as_person(a_person("fen", Role.READER))
        answer = self.client.post("/api/items", {"file": SimpleUploadedFile("a.jpg", image_bytes())})
        self.assertEqual(answer.status_code, 403)
