"""Guessing passwords, keeping others out by it, and sessions that last too long or too little.

OWASP ASVS 4.0.3: 2.1, 2.2.1, 3.2, 3.3, 3.4.
"""

import io
import json
import os
import subprocess
import sys
from datetime import timedelta
from unittest.mock import patch

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management import CommandError, call_command
from django.test import Client, SimpleTestCase, override_settings
from django.utils import timezone
from hypothesis import given
from hypothesis import strategies as st

from demo.people import PASSWORD as DEMO_PASSWORD
from stillpage.operations.models import Installation
from stillpage.people import attempts, sessions
from stillpage.people.models import Attempts, Person, Role, RoleGrant, Session
from stillpage.people.passwords import SHIPPED
from stillpage.sites.models import Site

from ..api.base import PASSWORD, ApiTest, a_person


class SigningIn(ApiTest):
    def setUp(self):
        super().setUp()
        Session.objects.all().delete()
        self.client = Client(HTTP_HOST="localhost")

    def attempt(self, username="wren", password="nonsense", address="203.0.113.9", client=None):
        body = json.dumps({"username": username, "password": password})
        return (client or self.client).post("/api/session", body, "application/json", REMOTE_ADDR=address)

    def status(self, *given, **more):
        return self.attempt(*given, **more).status_code


class Guessing(SigningIn):
    def test_pauses_grow_and_an_attempt_within_one_does_not_make_it_longer(self):
        waits = []
        now = timezone.now()
        for _ in range(9):
            with patch.object(timezone, "now", return_value=now):
                answer = self.attempt()
                while answer.status_code == 429:
                    left = int(answer["Retry-After"])
                    self.assertEqual(int(self.attempt()["Retry-After"]), left)
                    waits.append(left)
                    now += timedelta(seconds=left)
                    with patch.object(timezone, "now", return_value=now):
                        answer = self.attempt()
            self.assertEqual(answer.status_code, 401)
        self.assertEqual(waits, [30, 60, 120, 240])

    def test_a_stranger_who_guesses_keeps_nobody_out(self):
        for number in range(40):
            self.attempt(address=f"198.51.100.{number % 4}")
        self.assertEqual(self.status(password=PASSWORD), 200)

    def test_who_has_signed_in_from_a_browser_before_gets_in_although_a_neighbour_guesses(self):
        known = Client(HTTP_HOST="localhost")
        self.assertEqual(self.status(password=PASSWORD, client=known), 200)
        known.delete("/api/session")
        for _ in range(8):
            self.attempt()
        self.assertEqual(self.status(password=PASSWORD), 429)
        self.assertEqual(self.status(password=PASSWORD, client=known), 200)

    def test_what_a_known_browser_carries_serves_for_that_name_alone_and_cannot_be_forged(self):
        known = Client(HTTP_HOST="localhost")
        self.attempt(password=PASSWORD, client=known)
        carried = known.cookies[settings.DEVICE_COOKIE_NAME].value
        self.assertTrue(attempts.Attempt("WREN ", "203.0.113.9", carried).known)
        for name, cookie in (("tobias", carried), ("wren", carried[:-1] + "x"), ("wren", "a:b"), ("wren", "")):
            self.assertEqual(attempts.Attempt(name, "203.0.113.9", cookie).known, "")

    def test_trying_one_password_with_many_names_is_slowed(self):
        answers = [self.status(f"name{number}") for number in range(40)]
        self.assertEqual(answers, [401] * 30 + [429] * 10)
        self.assertEqual(self.status("name1", address="203.0.113.10"), 401)

    def test_from_everywhere_at_once_a_name_has_a_hundred_attempts_an_hour(self):
        answers = [self.status(address=f"198.51.100.{number}") for number in range(105)]
        self.assertEqual(answers, [401] * 100 + [429] * 5)

    def test_of_an_ipv6_network_all_addresses_are_one(self):
        for number in range(5):
            self.attempt(address=f"2001:db8:1:2::{number}")
        self.assertEqual(self.status(address="2001:db8:1:2:ffff::1"), 429)
        self.assertEqual(self.status(address="2001:db8:1:3::1"), 401)
        self.assertEqual(attempts.network("::ffff:203.0.113.9"), "203.0.113.9")

    @override_settings(FRONT=False)
    def test_without_a_front_server_nobody_chooses_where_they_come_from(self):
        for number in range(5):
            self.client.defaults["HTTP_X_REAL_IP"] = f"198.51.100.{number}"
            self.client.defaults["HTTP_X_FORWARDED_FOR"] = f"198.51.100.{number}"
            self.attempt()
        self.assertEqual(self.status(), 429)

    @override_settings(FRONT=True)
    def test_behind_our_own_its_word_is_taken(self):
        for number in range(5):
            self.client.defaults["HTTP_X_REAL_IP"] = f"198.51.100.{number}"
            self.assertEqual(self.status(), 401)
        self.assertEqual(self.status(), 401)

    def test_old_failures_are_forgotten_and_success_forgets_them(self):
        for _ in range(3):
            self.attempt()
        self.assertEqual(self.status(password=PASSWORD), 200)
        self.assertFalse(Attempts.objects.exists())
        self.attempt()
        Attempts.objects.update(last_at=timezone.now() - timedelta(days=2))
        attempts.forget_old()
        self.assertFalse(Attempts.objects.exists())


class Counting(SimpleTestCase):
    @given(st.text(max_size=60), st.text(max_size=60), st.text(max_size=120))
    def test_whatever_is_given_an_attempt_can_be_counted(self, name, address, device):
        attempt = attempts.Attempt(name, address, device)
        self.assertEqual(len(attempt.key), 40)
        self.assertEqual(attempt.known, "")


class Sessions(SigningIn):
    def setUp(self):
        super().setUp()
        self.attempt(password=PASSWORD)

    @property
    def name(self):
        return self.client.get("/api/session").json()["person"]

    def later(self, **time):
        return patch.object(timezone, "now", return_value=timezone.now() + timedelta(**time))

    def test_each_sign_in_gets_a_number_of_its_own_that_was_not_known_before(self):
        cookie = settings.SESSION_COOKIE_NAME
        first = self.client.cookies[cookie].value
        self.attempt(password=PASSWORD)
        second = self.client.cookies[cookie].value
        self.assertNotEqual(first, second)
        self.assertFalse(Session.objects.filter(session_key=first).exists())
        planted = Client(HTTP_HOST="localhost")
        planted.cookies[cookie] = "a" * 32
        self.attempt(password=PASSWORD, client=planted)
        self.assertNotEqual(planted.cookies[cookie].value, "a" * 32)

    def test_a_session_ends_when_it_is_not_used_and_when_its_time_is_up(self):
        with self.later(minutes=119):
            self.assertIsNotNone(self.name)
        with self.later(minutes=119 + 119):
            self.assertIsNotNone(self.name)
        with self.later(minutes=119 + 119 + 121):
            self.assertIsNone(self.name)
        self.attempt(password=PASSWORD)
        for hour in range(1, 12):
            with self.later(hours=hour):
                self.assertIsNotNone(self.name)
        with self.later(hours=12, seconds=1):
            self.assertIsNone(self.name)
            sessions.forget_ended()
        self.assertFalse(Session.objects.filter(person=self.author).exists())

    def test_ones_own_sessions_are_listed_and_ended_and_nobody_elses(self):
        other = Client(HTTP_HOST="localhost", headers={"user-agent": "Firefox"})
        self.attempt(password=PASSWORD, client=other, address="198.51.100.7")
        self.attempt("tobias", PASSWORD, client=Client(HTTP_HOST="localhost"))
        listed = self.client.get("/api/account/sessions").json()
        self.assertEqual([each["present"] for each in listed].count(True), 1)
        elsewhere = next(each for each in listed if not each["present"])
        self.assertEqual((len(listed), elsewhere["agent"], elsewhere["address"]), (2, "Firefox", "198.51.100.7"))
        for key in Session.objects.values_list("session_key", flat=True):
            self.assertNotIn(key, json.dumps(listed))
            self.assertEqual(self.client.delete(f"/api/account/sessions/{key}").status_code, 404)
        self.assertEqual(self.client.delete(f"/api/account/sessions/{elsewhere['id']}").status_code, 204)
        self.assertIsNone(other.get("/api/session").json()["person"])
        self.assertIsNotNone(self.name)

    def change(self, present, new):
        body = json.dumps({"present": present, "new": new})
        return self.client.put("/api/account/password", body, "application/json")

    def test_a_changed_password_ends_all_other_sessions_and_asks_for_the_present_one(self):
        other = Client(HTTP_HOST="localhost")
        self.attempt(password=PASSWORD, client=other)
        self.assertIn("present password", self.change("nonsense", "four-otters-in-a-boat").json()["detail"])
        self.assertEqual(self.change(PASSWORD, "four-otters-in-a-boat").status_code, 204)
        self.assertIsNotNone(self.name)
        self.assertIsNone(other.get("/api/session").json()["person"])
        self.assertEqual(self.status(password=PASSWORD, client=other), 401)
        self.assertEqual(self.status(password="four-otters-in-a-boat", client=other), 200)

    def test_who_sits_down_at_an_open_session_cannot_guess_the_password_there(self):
        answers = [self.change("nonsense", "four-otters-in-a-boat").status_code for _ in range(7)]
        self.assertEqual(answers, [422] * 5 + [429] * 2)

    def test_passwords_that_are_guessed_soon_are_refused_and_say_why(self):
        for new, said in (
            ("short", "at least 12"),
            ("password1234", "common"),
            ("111111111111", "numeric|guess|Repeat"),
            ("abcabcabcabc", "guess|Repeat"),
            ("wren12345678", "guess|Names|sequence"),
            (DEMO_PASSWORD, "demo"),
            ("x" * 129, "128 characters at most"),
        ):
            answer = self.change(PASSWORD, new)
            self.assertEqual(answer.status_code, 422, new)
            self.assertRegex(answer.json()["detail"], said)
        validate_password("eels under seven bridges")

    def test_whatever_the_api_answers_is_kept_by_no_cache(self):
        for path in ("/api/session", "/api/sites", "/api/none", "/api/signs?q=arrow", f"/api/pages/{self.walks.pk}"):
            self.assertEqual(self.client.get(path)["Cache-Control"], "no-store", path)


class Https(SigningIn):
    """Behind TLS: what Django's settings make of it is made for public sites as well."""

    def test_cookies_are_for_just_this_host_and_come_over_tls_alone(self):
        code = "from django.conf import settings as s; print(s.SESSION_COOKIE_NAME, s.CSRF_COOKIE_NAME, "
        code += "s.READER_COOKIE_NAME, s.SESSION_COOKIE_SECURE, s.CSRF_COOKIE_SECURE, s.SECURE_SSL_REDIRECT)"
        env = {**os.environ, "STILLPAGE_HTTPS": "1", "DJANGO_SETTINGS_MODULE": "stillpage.settings"}
        said = subprocess.run([sys.executable, "-c", code], env=env, capture_output=True, text=True, check=True).stdout
        self.assertEqual(said.split(), ["__Host-session", "__Host-csrftoken", "__Host-reader", "True", "True", "True"])

    def test_public_sites_lead_to_https_and_say_to_stay_there(self):
        self.publish_one()
        secure = {"SECURE_PROXY_SSL_HEADER": ("HTTP_X_FORWARDED_PROTO", "https"), "SECURE_HSTS_SECONDS": 31_536_000}
        with override_settings(HTTPS=True, **secure):
            plain = self.visit_page(f"{self.walks.path}?a=b")
            self.assertEqual(
                (plain.status_code, plain["Location"]), (301, f"https://canal.localhost{self.walks.path}?a=b")
            )
            self.assertEqual(self.visit_page("/", host="elsewhere.example").status_code, 404)
            for path in (self.walks.path, "/none"):
                answer = self.visit_page(path, HTTP_X_FORWARDED_PROTO="https")
                self.assertEqual(answer["Strict-Transport-Security"], "max-age=31536000", path)

    def publish_one(self):
        self.as_person(self.author)
        self.publish(self.walks)


class Beginning(SigningIn):
    """A real installation begins without people whose passwords everybody can read."""

    def begin(self, **given):
        names = {"ADMINISTRATOR": "anna", "ADMINISTRATOR_PASSWORD": "seven herons on a weir", **given}
        env = {f"STILLPAGE_{name}": value for name, value in names.items()}
        with patch.dict("os.environ", env):
            call_command("begin", verbosity=0, stdout=io.StringIO())

    def test_the_first_administrator_is_named_and_signs_in(self):
        self.begin()
        self.assertEqual(self.status("anna", "seven herons on a weir"), 200)
        self.assertTrue(self.client.get("/api/trail").json()["entries"])
        self.begin(ADMINISTRATOR="second")
        self.assertFalse(Person.objects.filter(username="second").exists())

    def test_the_passwords_of_the_demo_are_refused(self):
        self.assertEqual({DEMO_PASSWORD}, SHIPPED)
        with self.assertRaisesRegex(CommandError, "stands in the demo"):
            self.begin(ADMINISTRATOR_PASSWORD=DEMO_PASSWORD)
        with self.assertRaisesRegex(CommandError, "at least 12"):
            self.begin(ADMINISTRATOR_PASSWORD="short")
        self.assertFalse(RoleGrant.objects.filter(role=Role.ADMINISTRATOR).exists())

    def test_without_a_terminal_or_variables_it_says_which_are_missing(self):
        with self.assertRaisesRegex(CommandError, "STILLPAGE_ADMINISTRATOR"):
            call_command("begin")

    def test_an_empty_database_gets_no_accounts_and_no_pages_by_itself(self):
        before = (Person.objects.count(), Site.objects.count())
        call_command("prepare")
        self.assertEqual((Person.objects.count(), Site.objects.count()), before)
        self.assertFalse(self.client.get("/api/session").json()["demo"])

    def test_a_password_of_the_demo_opens_nothing_outside_it(self):
        maud = a_person("maud", Role.ADMINISTRATOR)
        maud.set_password(DEMO_PASSWORD)
        maud.save()
        self.assertEqual(self.status("maud", DEMO_PASSWORD), 401)
        Installation.objects.create(demo=True)
        self.assertEqual(self.status("maud", DEMO_PASSWORD), 200)
        self.assertTrue(self.client.get("/api/session").json()["demo"])
        with self.assertRaisesRegex(CommandError, "holds the demo"):
            call_command("begin")

    def test_a_database_from_before_there_was_a_mark_is_known_by_its_people(self):
        Person.objects.filter(pk=self.author.pk).update(email="wren@example.invalid")
        call_command("prepare")
        self.assertTrue(Installation.objects.get().demo)

    def test_the_validators_hold_for_whoever_sets_a_password(self):
        with self.assertRaises(ValidationError):
            validate_password(DEMO_PASSWORD)
