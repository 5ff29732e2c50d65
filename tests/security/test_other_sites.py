"""Things of another site by their numbers: every operation of the API, as everybody who has nothing to do with it.

OWASP ASVS 4.0.3, 4.1.3, 4.2.1 (insecure direct object references).
"""

import json
import re
from datetime import date, timedelta
from io import BytesIO

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase, override_settings

from stillpage.api.interface import api
from stillpage.library.files import address_of
from stillpage.people.models import Role
from stillpage.publishing import page_memory

from ..api.base import QUICK_HASHERS, MediaFolder, a_document, a_person, blocks_in
from .two_sites import SECRET, make_two_sites, state_of

WITHOUT_NUMBERS = {
    ("/api/session", "get"),
    ("/api/session", "post"),
    ("/api/session", "delete"),
    ("/api/account/password", "put"),
    ("/api/signs", "get"),
    ("/api/checks", "get"),
    ("/api/equation", "post"),
    ("/api/commons", "get"),
    ("/api/commons/take", "post"),
    ("/api/commons/{number}/preview", "get"),
    ("/api/library/fetch", "post"),
}
"""Operations that name nothing of any site."""


@override_settings(
    ALLOWED_HOSTS=["localhost"], AUTHORING_HOSTS=["localhost"], PASSWORD_HASHERS=QUICK_HASHERS, LIMITS=False
)
class OtherSites(MediaFolder, TestCase):
    def setUp(self):
        super().setUp()
        page_memory.changed()
        self.client.defaults["HTTP_HOST"] = "localhost"
        make_two_sites(self)
        self.people = [a_person(f"our-{role.value}", role, site=self.ours) for role in Role]
        self.people += [a_person("nobody"), a_person("both", Role.AUTHOR, Role.KEEPER, site=self.ours), None]

    def naming(self):
        """A document that names everything of the other site."""

        def link(href, words):
            attrs = {"href": href, "title": None, "new_window": False}
            return {"type": "text", "text": words, "marks": [{"type": "link", "attrs": attrs}]}

        links = [
            link(f"page:{self.shut.pk}", "one"),
            link(f"page:{self.open.pk}", "two"),
            link(f"item:{self.minutes.pk}", "three"),
        ]
        document = a_document("Words.")
        blocks_in(document)[0]["content"] += links
        blocks_in(document).append({"type": "picture", "attrs": {"item": self.picture.pk}})
        blocks_in(document).append({"type": "picture", "attrs": {"item": self.binned.pk}})
        return document

    def numbers(self, page, path):
        return {
            "site_id": self.theirs.pk,
            "page_id": page.pk,
            "item_id": self.picture.pk,
            "folder_id": self.folder.pk,
            "version_id": self.version.pk,
            "version": 1,
            "act_id": self.tree_act.pk if "tree" in path else self.act.pk,
            "upload_id": self.upload.pk,
            "allowance_id": self.allowance.pk,
            "session_id": "a" * 24,
            "clash_id": self.clash.pk,
            "window": self.writing.pk,
            "key": "whole",
            "captions_id": self.captions.pk,
            "host_id": 1,
            "redirect_id": self.redirect.pk,
            "preview_id": self.preview.pk,
            "ending": "vtt" if "captions" in path else "md",
        }

    def bodies(self):
        text = {"title": "Ours", "description": "", "document": self.naming()}
        items = [self.picture.pk, self.minutes.pk, self.binned.pk]
        place = {"container": "region", "under": 1, "taken": []}
        html = f'<p><a href="page:{self.shut.pk}">a</a> <a href="item:{self.minutes.pk}">b</a></p>'
        html += f'<img src="{address_of(self.picture.files.last())}"><img src="item:{self.picture.pk}">'
        html += f'<a href="{self.theirs.origin}{self.shut.path}">c</a>'
        html += f'<a href="{self.theirs.origin}{address_of(self.minutes.files.first())}">d</a>'
        numbers = [self.shut.pk, self.open.pk]
        there = {"site": self.theirs.pk, "parent": self.open.pk}
        address = "https://films.example"
        host = {"name": "X", "addresses": [f"{address}/watch/*"], "endpoint": f"{address}/oembed", "frames": address}
        return {
            ("/api/check", "post"): [
                {"document": self.naming()},
                {"document": a_document("x"), "site": self.theirs.pk},
            ],
            ("/api/source", "post"): [{"document": self.naming()}],
            ("/api/source/read", "post"): [{"html": html}, {"html": f"<main>{html}</main>"}],
            ("/api/paste", "post"): [{**place, "html": html, "text": "", "pictures": items}],
            ("/api/folders", "post"): [{"name": "New", "parent": self.folder.pk}],
            ("/api/folders/{folder_id}", "patch"): [{"name": "X"}, {"parent": 0}, {"sites": []}],
            ("/api/items/{item_id}", "patch"): [{"title": "X"}, {"restricted": False}, {"leads_on": False}],
            ("/api/library/act", "post"): [
                {"act": "move", "items": items, "folder": None},
                {"act": "move", "items": [self.mine.pk], "folder": self.folder.pk},
                {"act": "tag", "items": items, "words": ["x"]},
                {"act": "describe", "items": items, "say": {"alt": "X"}},
                {"act": "bin", "items": items},
                {"act": "restore", "items": items},
            ],
            ("/api/library/remove", "post"): [{"items": [self.binned.pk]}],
            ("/api/library/uses", "post"): [{"items": items}],
            ("/api/uploads", "post"): [
                {"name": "a.pdf", "size": 9, "replaces": self.minutes.pk},
                {"name": "a.pdf", "size": 9, "folder": self.folder.pk},
                {"name": f"{SECRET}.pdf", "size": 100, "stamp": ""},
            ],
            ("/api/pages/{page_id}/working-copy", "put"): [
                {**text, "base": 1},
                {**text, "base": 1, "began": {**text, "document": a_document("y")}},
            ],
            ("/api/pages/{page_id}/writing", "post"): [{"window": str(self.writing.pk), "block": 0}],
            ("/api/pages/{page_id}/check", "post"): [text],
            ("/api/pages/{page_id}/listen", "post"): [text],
            ("/api/pages/{page_id}/blocks", "post"): [{"document": text["document"]}],
            ("/api/pages/{page_id}/versions", "post"): [{**text, "note": "n"}],
            ("/api/pages/{page_id}/allowances", "post"): [{**text, "key": "k", "reason": "r"}],
            ("/api/pages/{page_id}/publish", "post"): [{"revision": 1}, {"revision": 3}],
            ("/api/sites/{site_id}/pages", "post"): [{"title": "X"}, {"title": "X", "parent": self.shut.pk}],
            ("/api/sites/{site_id}/checks", "put"): [{"severities": {}, "page_budget": 50, "hardest_grade": 4}],
            ("/api/sites/{site_id}/outside-links/test", "post"): [{}],
            ("/api/sites/{site_id}/results", "post"): [{"after": 0}],
            ("/api/account/choices", "patch"): [{"width": "390"}],
            ("/api/items/{item_id}/captions", "post"): [{"language": "en"}],
            ("/api/captions/{captions_id}", "put"): [{"revision": 1, "cues": []}],
            ("/api/captions/{captions_id}/back", "post"): [{}],
            ("/api/captions/{captions_id}/readers", "post"): [{}],
            ("/api/captions/{captions_id}/check", "post"): [{"cues": []}],
            ("/api/captions/{captions_id}/mend", "post"): [{"cues": []}],
            ("/api/captions/{captions_id}/draft", "post"): [{"words": "x"}],
            ("/api/items/{item_id}/stills", "post"): [{"at": 0}],
            ("/api/cues/transcript", "post"): [{"cues": []}],
            ("/api/hosts", "post"): [host],
            ("/api/hosts/{host_id}", "put"): [host],
            ("/api/hosts/{host_id}/back", "post"): [{}],
            ("/api/hosts/try", "post"): [{"host": host, "address": "https://films.example/watch/1"}],
            ("/api/items/{item_id}/ask", "post"): [{}],
            ("/api/items/{item_id}/versions/{version}", "post"): [{}],
            ("/api/acts/{act_id}/undo", "post"): [{}],
            ("/api/pages/{page_id}/names", "put"): [{"revision": 1, "title": "Ours"}],
            ("/api/pages/{page_id}/slug", "put"): [{"slug": "ours"}, {"slug": None}],
            ("/api/pages/{page_id}/elsewhere", "put"): [{"address": "https://films.example/"}],
            ("/api/pages/{page_id}/duplicate", "post"): [{"title": "Ours"}, {"title": "Ours", "deep": True}],
            ("/api/pages/{page_id}/previews", "post"): [{"until": f"{date.today() + timedelta(days=2)}"}],
            ("/api/tree/consequences", "post"): [
                {"pages": numbers, "act": act, "place": there} for act in ("place", "slug", "bin", "withdraw")
            ],
            ("/api/tree/place", "post"): [
                {"pages": numbers, **there},
                {"pages": [self.page.pk], **there},
                {"pages": numbers, "site": self.ours.pk, "parent": self.page.pk},
            ],
            ("/api/tree/show", "post"): [{"pages": numbers, "in_navigation": False, "hidden": True}],
            ("/api/tree/bin", "post"): [{"pages": numbers}],
            ("/api/tree/restore", "post"): [{"pages": numbers}],
            ("/api/tree/remove", "post"): [{"pages": numbers}],
            ("/api/tree/acts/{act_id}/undo", "post"): [{}],
            ("/api/sites/{site_id}/redirects", "post"): [
                {"path": "/old", "page": self.open.pk},
                {"path": "/old", "address": "https://films.example/"},
                {"path": "/old"},
            ],
            ("/api/all-sites", "post"): [{"name": "Ours", "host": "ours.example", "theme": "canal"}],
            ("/api/all-sites/{site_id}", "patch"): [{"name": "Ours"}, {"first_page": self.open.pk}],
            ("/api/all-sites/{site_id}/duplicate", "post"): [{"name": "Ours", "host": "ours.example"}],
            ("/api/all-sites/{site_id}/close", "post"): [{}],
            ("/api/all-sites/{site_id}/open", "post"): [{}],
            ("/api/uploads/{upload_id}", "post"): [{}],
            ("/api/uploads/{upload_id}", "put"): [{}],
        }

    queries = {
        "/api/library": [
            "",
            "?q={word}",
            "?folder={folder}",
            "?show=bin",
            "?site={site}",
            "?show=for+signed-in+readers",
        ],
        "/api/library/items": ["?number={picture}&number={minutes}&number={binned}"],
        "/api/library/count": ["?q={word}", "?folder={folder}&q={word}"],
        "/api/library/numbers": ["", "?folder={folder}", "?show=bin"],
        "/api/shelf": ["?q={word}", "?q=hours&site={site}", "?q={word}&site={site}"],
        "/api/sites/{site_id}/find": ["", "?q={word}", "?q=hours", "?q=/"],
        "/api/sites/{site_id}/redirects": ["", "?q=o"],
        "/api/trail": ["", "?name=piet"],
        "/api/uploads/{upload_id}": ["?start=0"],
    }

    def ask(self, method, path, body, person):
        if path == "/api/cues/read":
            return self.client.post(
                path, {"file": SimpleUploadedFile("a.vtt", b"WEBVTT\n\n00:01.000 --> 00:02.000\nx\n")}
            )
        if path == f"/api/sites/{self.theirs.pk}/redirects.csv" and method == "post":
            return self.client.post(path, {"file": SimpleUploadedFile("a.csv", b"/old,gone\n")})
        if path in ("/api/read", f"/api/sites/{self.theirs.pk}/import", "/api/items"):
            given = BytesIO(b"## A page\n\nWords.\n")
            given.name = "a.md"
            form = {
                "container": "region",
                "file": given,
                "files": given,
                "folder": self.folder.pk,
                "parent": self.shut.pk,
            }
            return self.client.post(path, form)
        return self.client.generic(
            method.upper(), path, json.dumps(body) if body is not None else b"", "application/json"
        )

    def tried(self, path, method):
        """Every way in which an operation is asked for something of the other site."""
        ways = []
        bodies = self.bodies().get((path, method), [None])
        if method in ("post", "put", "patch") and path not in (
            "/api/read",
            "/api/items",
            "/api/cues/read",
            "/api/sites/{site_id}/import",
            "/api/sites/{site_id}/redirects.csv",
        ):
            self.assertIn((path, method), self.bodies(), "say here what is to be sent to this operation")
        word = {"word": SECRET, "folder": self.folder.pk, "site": self.theirs.pk}
        word |= {name: getattr(self, name).pk for name in ("picture", "minutes", "binned")}
        for page in (self.shut, self.open) if "page_id" in path else (self.shut,):
            filled = re.sub(r"\{(\w+)\}", lambda match, page=page: str(self.numbers(page, path)[match[1]]), path)
            for query in self.queries.get(path, [""]):
                ways += [(filled + query.format(**word), body) for body in bodies]
        return ways

    def test_no_operation_tells_or_changes_anything_of_a_site_that_one_has_nothing_to_do_with(self):
        before = state_of(self.theirs)
        asked = 0
        for person in self.people:
            if person is None:
                self.client.logout()
            else:
                self.client.force_login(person, "django.contrib.auth.backends.ModelBackend")
            for path, operations in api.get_openapi_schema(path_prefix="/api/")["paths"].items():
                for method in operations:
                    if (path, method) in WITHOUT_NUMBERS:
                        continue
                    for filled, body in self.tried(path, method):
                        answer = self.ask(method, filled, body, person)
                        asked += 1
                        said = b"".join(answer.streaming_content) if answer.streaming else answer.content
                        where = (person and person.username, method, filled, answer.status_code, said[:300])
                        self.assertLess(answer.status_code, 500, where)
                        self.assertNotIn(SECRET.lower(), said.decode("utf-8", "replace").lower(), where)
                        if person is None:
                            self.assertIn(answer.status_code, (401, 403), where)
        self.assertEqual(state_of(self.theirs), before)
        self.assertGreater(asked, 700)

    def test_a_page_of_ones_own_that_names_things_of_another_site_tells_nothing_of_them(self):
        """Documents hold numbers, and anybody can write any number."""
        self.client.force_login(self.author, "django.contrib.auth.backends.ModelBackend")
        here = f"/api/pages/{self.page.pk}"
        text = {"title": "Ours", "description": "", "document": self.naming()}
        saved = self.client.put(f"{here}/working-copy", {**text, "base": 2}, "application/json")
        self.assertEqual(saved.status_code, 200, saved.content)
        for method, path, body in (
            ("get", here, None),
            ("post", f"{here}/check", text),
            ("post", f"{here}/listen", text),
            ("post", f"{here}/blocks", {"document": text["document"]}),
            ("post", f"{here}/publish", {"revision": saved.json()["revision"]}),
            *(("get", f"{here}/export/{ending}", None) for ending in ("md", "html", "txt", "docx", "odt")),
            ("get", f"{here}/headings", None),
        ):
            answer = self.ask(method, path, body, self.author)
            said = answer.content
            if path.endswith(("docx", "odt")):
                import zipfile

                with zipfile.ZipFile(BytesIO(said)) as archive:
                    said = b"".join(archive.read(name) for name in archive.namelist())
            self.assertNotIn(SECRET.lower(), said.decode("utf-8", "replace").lower(), (method, path))
        known = self.client.get(here).json()
        self.assertEqual([each["title"] for each in known["pages"]], ["Opening hours"])
        self.assertEqual((known["items"], known["pages"][0]["state"]), ([], "live"))

    def test_those_who_work_there_see_and_do_all_that(self):
        """The same questions are answered to those who may ask them: the test above cannot pass by refusing all."""
        self.client.force_login(self.keeper, "django.contrib.auth.backends.ModelBackend")
        for path in (f"/api/items/{self.picture.pk}", "/api/library", f"/api/shelf?q={SECRET}", "/api/folders"):
            self.assertContains(self.client.get(path), SECRET)
        self.client.force_login(self.curator, "django.contrib.auth.backends.ModelBackend")
        for path in (f"/api/pages/{self.shut.pk}", f"/api/sites/{self.theirs.pk}/contents"):
            self.assertContains(self.client.get(path), SECRET)
