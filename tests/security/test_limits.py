"""Asking too often for what costs much. OWASP ASVS 4.0.3, 11.1.4, 13.1.4."""

from unittest.mock import patch

from django.test import SimpleTestCase, override_settings

from stillpage.api.interface import api
from stillpage.api.limits import LIMITS, PEOPLE
from stillpage.people.limiting import CountersInDatabase, forget_ended, limiter
from stillpage.people.models import Counter

from ..api.base import ApiTest

COSTLY = {
    "/api/sites/{site_id}/results",
    "/api/paste",
    "/api/read",
    "/api/source/read",
    "/api/sites/{site_id}/import",
    "/api/sites/{site_id}/export",
    "/api/pages/{page_id}/export/{ending}",
    "/api/uploads",
    "/api/items",
    "/api/library/fetch",
    "/api/commons/take",
    "/api/commons",
    "/api/library",
    "/api/library/count",
    "/api/library/numbers",
    "/api/shelf",
    "/api/signs",
    "/api/trail",
    "/api/cues/read",
    "/api/items/{item_id}/stills",
    "/api/cues/transcript",
    "/api/captions/{captions_id}/check",
    "/api/captions/{captions_id}/mend",
    "/api/captions/{captions_id}/draft",
    "/api/hosts/try",
    "/api/pages/{page_id}/blocks",
    "/api/items/{item_id}/ask",
    "/api/sites/{site_id}/find",
    "/api/sites/{site_id}/redirects",
    "/api/sites/{site_id}/redirects.csv",
}


class Counting(ApiTest):
    def test_one_more_than_may_be_is_told_when_to_come_back(self):
        few = {**LIMITS, "search": "3/minute"}
        throttle = self.throttle("/shelf")
        with patch.object(throttle, "limit", limiter_item(few["search"])):
            for _ in range(3):
                self.call("GET", "/shelf")
            said = self.call("GET", "/shelf", None, 429)
            answer = self.client.get("/api/shelf")
            self.as_person(self.other)
            self.call("GET", "/shelf")
        self.assertIn("asked for too often", said["detail"])
        self.assertTrue(0 < int(answer["Retry-After"]) <= 60)

    def test_from_one_address_come_ten_times_as_many_whoever_they_are(self):
        throttle = self.throttle("/shelf")
        with patch.object(throttle, "limit", limiter_item("1/minute")):
            answers = []
            for number in range(PEOPLE + 2):
                self.as_person(self.author if number % 2 else self.other)
                Counter.objects.filter(name__contains="person").delete()
                answers.append(self.client.get("/api/shelf").status_code)
        self.assertEqual(answers, [200] * PEOPLE + [429] * 2)

    def throttle(self, path):
        for bound in api._get_bound_routers():
            for known, view in bound.path_operations.items():
                if known == path:
                    return view.operations[0].throttle_objects[0]
        raise AssertionError(path)

    @override_settings(LIMITS=False)
    def test_an_installation_may_do_without(self):
        with patch.object(self.throttle("/shelf"), "limit", limiter_item("1/minute")):
            for _ in range(4):
                self.call("GET", "/shelf")

    def test_all_processes_count_together_and_a_window_that_has_ended_begins_anew(self):
        one, other = CountersInDatabase(), CountersInDatabase()
        counts = [storage.incr("k", 60) for storage in (one, other, one)]
        self.assertEqual(counts, [1, 2, 3])
        self.assertEqual((one.get("k"), other.get("none")), (3, 0))
        Counter.objects.update(ends=1.0)
        self.assertEqual((one.get("k"), one.incr("k", 60, 5)), (0, 5))
        Counter.objects.update(ends=1.0)
        forget_ended()
        self.assertFalse(Counter.objects.exists())
        self.assertTrue(limiter.test(limiter_item("1/minute"), "x"))


def limiter_item(words):
    from limits import parse

    return parse(words)


class Described(SimpleTestCase):
    def test_just_these_operations_are_counted_and_say_so(self):
        paths = api.get_openapi_schema(path_prefix="/api/")["paths"]
        counted = {path for path, each in paths.items() for one in each.values() if "429" in one["responses"]}
        self.assertEqual(counted - {"/api/session", "/api/account/password"}, COSTLY)
