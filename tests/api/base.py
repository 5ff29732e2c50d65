"""What the API tests share: a site, a person of each role, a few pages, and JSON in and out."""

from __future__ import annotations

import json
import random
import tempfile
from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager, nullcontext
from io import BytesIO
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase, TransactionTestCase, override_settings
from PIL import Image

from stillpage.library.models import Item
from stillpage.library.receiving import receive
from stillpage.pages.models import Page
from stillpage.pages.tree import add_page
from stillpage.people.models import Person, Role, RoleGrant
from stillpage.publishing import freshness, page_memory
from stillpage.sites.models import Site
from stillpage.written.models import WorkingCopy
from stillpage_core.document import VERSION

PASSWORD = "eel-under-the-bridge"


def a_document(*texts: str) -> dict[str, Any]:
    paragraph = {"type": "paragraph", "attrs": {"style": None, "align": None}}
    content = [{**paragraph, "content": [{"type": "text", "text": text}]} for text in texts]
    return of_blocks(content or [paragraph])


def of_blocks(blocks: list[dict[str, Any]]) -> dict[str, Any]:
    """A document with these blocks in its main region, as JSON."""
    main = {"type": "region", "attrs": {"name": "main"}, "content": blocks}
    return {"type": "doc", "attrs": {"version": VERSION}, "content": [main]}


def blocks_in(document: dict[str, Any]) -> list[dict[str, Any]]:
    """The blocks of the main region of a document as JSON."""
    blocks: list[dict[str, Any]] = document["content"][0]["content"]
    return blocks


def image_bytes(size: tuple[int, int] = (1200, 800), form: str = "JPEG", colour: str = "#456", **options: Any) -> bytes:
    out = BytesIO()
    Image.new("RGB", size, colour).save(out, form, **options)
    return out.getvalue()


def photograph(size: tuple[int, int] = (1200, 800), form: str = "JPEG", seed: int = 1, **options: Any) -> bytes:
    """A picture with the texture of a photograph, the same for the same seed."""
    grain = random.Random(seed).randbytes(60 * 40 * 3)
    image = Image.frombytes("RGB", (60, 40), grain).resize(size, Image.Resampling.BICUBIC)
    out = BytesIO()
    image.save(out, form, **options)
    return out.getvalue()


def a_site(name: str = "Varrow Canal Trust", host: str = "canal.localhost") -> Site:
    return Site.objects.create(name=name, host=host, theme="canal", footer="A footer.")


def a_person(username: str, *roles: Role, site: Site | None = None) -> Person:
    person = Person.objects.create_user(username, password=PASSWORD, first_name=username.title(), last_name="Osier")
    RoleGrant.objects.bulk_create(RoleGrant(person=person, role=role, site=site) for role in roles)
    return person


def a_picture(person: Person, alt: str = "Closed gates", **options: Any) -> Item:
    item, _ = receive(SimpleUploadedFile("lock-gates.jpg", image_bytes(**options)), person, alt)
    return item


@contextmanager
def media_folder() -> Iterator[None]:
    """A new folder for the library's files."""
    with tempfile.TemporaryDirectory(prefix="stillpage-media-", ignore_cleanup_errors=True) as folder:
        # The stamp of what readers get, too: another process of the tests must not touch this one.
        places = {"MEDIA_ROOT": "media", "UPLOAD_FOLDER": "uploads", "LIVE_STAMP": "live.stamp"}
        with override_settings(**{name: Path(folder, place) for name, place in places.items()}):
            yield


class MediaFolder:
    """A folder for the library's files, anew for each test."""

    def setUp(self) -> None:
        super().setUp()
        self.enterContext(media_folder())


QUICK_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
"""Passwords are hashed slowly on purpose; hundreds of tests need not wait for that."""


def _with_pages(to: Any) -> None:
    """A site, two authors, and three pages one below the other."""
    to.site = a_site()
    to.author = a_person("wren", Role.AUTHOR)
    to.other = a_person("tobias", Role.AUTHOR)
    to.home = add_page(to.site, to.author, "Varrow Canal Trust", slug="home")
    Page.objects.filter(pk=to.home.pk).update(slug="", path="/")
    to.home.refresh_from_db()
    to.visit = add_page(to.site, to.author, "Visit", slug="visit")
    to.walks = add_page(to.site, to.author, "Towpath walks", parent=to.visit, slug="towpath-walks")


class _Calls(MediaFolder):
    """JSON in and out, signed in as an author; `as_person` changes that."""

    def setUp(self) -> None:
        super().setUp()
        page_memory._kept.clear()
        self.client.defaults["HTTP_HOST"] = "localhost"
        self.client.force_login(self.author, "django.contrib.auth.backends.ModelBackend")

    def as_person(self, person: Person) -> None:
        self.client.force_login(person, "django.contrib.auth.backends.ModelBackend")

    def call(self, method: str, path: str, body: Any = None, status: int = 200) -> Any:
        with self.committed():
            answer = self.client.generic(
                method, f"/api{path}", b"" if body is None else json.dumps(body), "application/json"
            )
        self.assertEqual(answer.status_code, status, answer.content[:500])
        if status >= 400:
            self.assertEqual(answer["Content-Type"], "application/problem+json")
            self.assertEqual(answer.json()["status"], status)
            self.assertTrue(answer.json()["detail"].strip())
        return answer.json() if answer.content else None

    def save(self, page: Page, document: Any, base: int | None, status: int = 200, title: str = "Towpath walks") -> Any:
        """Save a working copy that was made of a revision; of None, of the present one."""
        if base is None:
            base = WorkingCopy.objects.get(written=page).revision
        body = {"title": title, "description": "", "document": document, "base": base}
        return self.call("PUT", f"/pages/{page.pk}/working-copy", body, status)

    def publish(self, page: Page, status: int = 200) -> Any:
        page.working_copy.refresh_from_db()
        return self.call("POST", f"/pages/{page.pk}/publish", {"revision": page.working_copy.revision}, status)

    def render_all(self, site: Site | None = None) -> None:
        """Have done what the worker would do; of a site, render every page from its text."""
        if site is not None:
            freshness.renew(site)
        freshness.bring_all_up()

    def visit_page(self, path: str, host: str = "canal.localhost", **headers: str) -> Any:
        return self.client_class().get(path, HTTP_HOST=host, **headers)


_settings = override_settings(
    ALLOWED_HOSTS=["localhost"], AUTHORING_HOSTS=["localhost"], PASSWORD_HASHERS=QUICK_HASHERS
)


@_settings
class ApiTest(_Calls, TestCase):
    """In one transaction that is never committed. What a request does once its own is done is done all the same."""

    @classmethod
    def committed(cls) -> AbstractContextManager[Any]:
        """What is to be done after a transaction, done at the end of this."""
        return cls.captureOnCommitCallbacks(execute=True)

    @classmethod
    def setUpTestData(cls) -> None:
        _with_pages(cls)


@_settings
class CommittedApiTest(_Calls, TransactionTestCase):
    """With rows that another connection sees."""

    def committed(self) -> AbstractContextManager[Any]:
        return nullcontext()

    def setUp(self) -> None:
        _with_pages(self)
        super().setUp()
