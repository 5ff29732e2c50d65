"""The API answers what its description says, whoever asks for whatever: every operation, every role, by schemathesis.

OpenAPI 3.1; RFC 9457; OWASP ASVS 4.0.3, 13.1, 13.2. With `STILLPAGE_LONG_TESTS=1` many times as many examples.
"""

from __future__ import annotations

import os
from contextlib import suppress

import schemathesis
from django.conf import settings
from django.test import Client, LiveServerTestCase, override_settings
from hypothesis import HealthCheck, Phase, given
from hypothesis import settings as how
from hypothesis.errors import Unsatisfiable
from schemathesis import checks

from stillpage.api.interface import api
from stillpage.people.models import Role

from ..api.base import QUICK_HASHERS, MediaFolder, a_person
from .two_sites import make_two_sites

LONG = bool(os.environ.get("STILLPAGE_LONG_TESTS"))
EXAMPLES = 60 if LONG else 2
LEFT_OUT = {("/api/session", "post"), ("/api/session", "delete")}
"""Signing in and out would end what the others are asked with; they have tests of their own."""
LOOKED_AT = [
    checks.not_a_server_error,
    checks.status_code_conformance,
    checks.content_type_conformance,
    checks.response_headers_conformance,
    checks.response_schema_conformance,
]


@override_settings(PASSWORD_HASHERS=QUICK_HASHERS, LIMITS=False)
class Described(MediaFolder, LiveServerTestCase):
    host = "localhost"

    def setUp(self):
        super().setUp()
        make_two_sites(self)
        self.enterContext(override_settings(ALLOWED_HOSTS=["localhost"], AUTHORING_HOSTS=["localhost"]))

    def signed_in(self, person):
        client = Client(HTTP_HOST="localhost")
        if person is not None:
            client.force_login(person, "django.contrib.auth.backends.ModelBackend")
        client.get("/api/session")
        return {name: morsel.value for name, morsel in client.cookies.items()}

    def operations(self):
        """Every operation, with the numbers that name something put in for some of its examples."""
        description = api.get_openapi_schema(path_prefix="/api/")
        # Who asks is said by the cookie that every request here carries.
        description["components"].pop("securitySchemes", None)
        numbers = {
            "site_id": self.ours.pk,
            "page_id": self.page.pk,
            "item_id": self.mine.pk,
            "folder_id": self.folder.pk,
            "act_id": self.act.pk,
            "version_id": self.version.pk,
        }
        for path, operations in description["paths"].items():
            for method, operation in list(operations.items()):
                operation.pop("security", None)
                for parameter in operation.get("parameters", ()):
                    if parameter["name"] in numbers:
                        known = {"const": numbers[parameter["name"]]}
                        parameter["schema"] = {"anyOf": [known, known, parameter["schema"]]}
                if (path, method) in LEFT_OUT:
                    del operations[method]
        schema = schemathesis.openapi.from_dict(description)
        return [result.ok() for result in schema.get_all_operations()]

    def test_every_answer_to_everybody_is_described(self):
        people = [a_person(f"a-{role.value}", role) for role in Role] + [a_person("nobody"), None]
        self.sessions = {person and person.username: self.signed_in(person) for person in people}
        operations = self.operations()
        self.assertGreater(len(operations), 60)
        for operation in operations:
            with self.subTest(f"{operation.method} {operation.path}"):
                self.drive(operation)

    def drive(self, operation):
        @how(
            max_examples=EXAMPLES,
            deadline=None,
            database=None,
            derandomize=not LONG,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy())
        def asked(case):
            for name, cookies in self.sessions.items():
                headers = {"X-CSRFToken": cookies.get(settings.CSRF_COOKIE_NAME, ""), "Host": "localhost"}
                headers["User-Agent"] = f"as {name}"
                case.call_and_validate(
                    base_url=self.live_server_url, headers=headers, cookies=cookies, checks=LOOKED_AT, timeout=60
                )

        with suppress(Unsatisfiable):
            asked()
