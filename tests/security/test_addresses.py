"""Addresses that are none (RFC 3986, and the hosts that Unicode's normal forms make of others): whichever way they come
in, there is an answer, and no word is lost."""

import json

from stillpage.outside.models import Address
from stillpage_core.references import web_parts

from ..api.base import ApiTest
from ..core.documents import document, link, paragraph, words

NONE = (
    "http://[",
    "https://[::1",
    "http://[x]/",
    "http://\u2100.example/",
    "http://a.example:port/",
    "http://a:99999/",
)
"""From memory: what Python's own `urllib.parse` raises `ValueError` for."""


class Addresses(ApiTest):
    def test_they_have_no_parts(self):
        self.assertEqual({web_parts(each) for each in NONE}, {None})
        self.assertEqual(web_parts("https://a.example:81/x").port, 81)

    def test_in_what_is_pasted_the_words_stay(self):
        for each in NONE:
            for html in (
                f'<p>Words <a href="{each}">lead</a> on.</p>',
                f'<p>Words lead on.</p><img src="{each}" alt="x">',
                f'<p>Words lead on.</p><iframe src="{each}"></iframe>',
                f'<p>Words lead on.</p><video src="{each}"></video>',
                f'<p>Words lead on.</p><blockquote cite="{each}">x</blockquote><script></script>',
            ):
                with self.subTest(html):
                    found = self.call("POST", "/paste", {"html": html, "text": "", "container": "region"})
                    told = json.dumps(found["document"])
                    self.assertTrue("Words lead on." in told or '"lead"' in told)

    def test_in_a_text_they_are_saved_and_tested_as_any_other(self):
        for each in NONE[:3]:
            with self.subTest(each):
                text = document(paragraph("Words ", words("lead", link(each)), " on.")).to_json()
                self.save(self.walks, text, None)
                self.publish(self.walks)
                self.assertEqual(Address.objects.get(address=each).host, "")

    def test_fetched_redirected_and_led_to_they_are_refused_with_a_sentence(self):
        site = self.site.pk
        for each in NONE:
            with self.subTest(each):
                answer = self.client.post("/api/library/fetch", {"address": each}, content_type="application/json")
                self.assertLess(answer.status_code, 500)
                if answer.status_code == 200:
                    self.assertIn("problem", json.loads(b"".join(answer.streaming_content).splitlines()[-1]))
                for given in ({"path": each, "page": self.walks.pk}, {"path": "/old", "address": each}):
                    answer = self.client.post(f"/api/sites/{site}/redirects", given, content_type="application/json")
                    self.assertLess(answer.status_code, 500, answer.content)
                self.call("POST", f"/sites/{site}/pages", {"title": "Elsewhere", "elsewhere": each}, status=422)
        self.publish(self.home)
        self.assertEqual(self.visit_page("/old").status_code, 404)
