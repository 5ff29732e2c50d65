"""What the browser tests share: a real server, a real Chromium, a site with a few pages and pictures."""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import contextmanager, suppress
from functools import partial
from typing import Any
from unittest.mock import patch

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.db import OperationalError
from django.test import Client, LiveServerTestCase, override_settings, testcases
from django.test.testcases import LiveServerThread
from playwright.sync_api import Error, FrameLocator, Page, expect

from demo.load import load_demo
from stillpage.library.derived import bring_up_to_date
from stillpage.library.models import Item
from stillpage.library.receiving import receive
from stillpage.pages import tree
from stillpage.pages.models import Page as SitePage
from stillpage.people.models import Person, Role
from stillpage.publishing import page_memory
from stillpage.publishing.publish import publish
from stillpage.written import saving
from stillpage.written.models import WorkingCopy
from stillpage_core.document import Node

from .. import chromium
from ..api.base import PASSWORD, QUICK_HASHERS, MediaFolder, a_person, a_site, image_bytes, media_folder
from .waiting import pause

AXE = settings.ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
AXE_CORE = AXE.read_text() if AXE.exists() else ""


def emptied(empty: Callable[[], Any]) -> None:
    """Empty the database. A request of a window that was closed may still be under way and stand in the way: then a
    moment later."""
    for _ in range(20):
        try:
            empty()
        except CommandError as error:
            if not isinstance(error.__cause__, OperationalError):
                raise
            time.sleep(0.3)
        else:
            return
    empty()


class ServerThread(LiveServerThread):
    """A server that may take the port that the one before it had."""

    def _create_server(self, connections_override: Any = None) -> Any:
        handler = testcases.QuietWSGIRequestHandler
        return self.server_class((self.host, self.port), handler, connections_override=connections_override)


class BrowserTest(MediaFolder, LiveServerTestCase):
    """A site with a home page, “Visit” and “Towpath walks”, two pictures, and an author called Wren."""

    host = "localhost"
    server_thread_class = ServerThread
    _port = 0
    """One port for all the classes of a process: what a window has compiled is known by its address."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.port = BrowserTest._port
        # The library's files come by our own view, which asks who may have them, not by Django's for tests.
        cls.enterClassContext(patch.object(testcases, "_MediaFilesHandler", lambda handler: handler))
        super().setUpClass()
        port = cls.live_server_url.rsplit(":", 1)[1]
        BrowserTest._port = int(port)
        cls.enterClassContext(
            override_settings(PUBLIC_PORT=port, ALLOWED_HOSTS=["localhost"], PASSWORD_HASHERS=QUICK_HASHERS)
        )

    def setUp(self) -> None:
        super().setUp()
        page_memory.changed()
        self.problems: list[str] = []
        self.make_site()

    def _fixture_teardown(self) -> None:
        emptied(super()._fixture_teardown)

    def make_site(self) -> None:
        """What is in the database before each test."""
        self.site = a_site()
        self.author = a_person("wren", Role.AUTHOR)
        self.other = a_person("tobias", Role.AUTHOR)
        self.gates = self.picture("lock-gates.jpg", "Closed lock gates", "#345")
        self.reeds = self.picture("reeds.jpg", "", "#563")
        self.home = tree.add_page(self.site, self.author, "Varrow Canal Trust", slug="home")
        SitePage.objects.filter(pk=self.home.pk).update(slug="", path="/")
        self.home.refresh_from_db()
        self.visit = tree.add_page(self.site, self.author, "Visit", slug="visit")
        self.walks = tree.add_page(self.site, self.author, "Towpath walks", parent=self.visit, slug="towpath-walks")
        for page in (self.home, self.visit, self.walks):
            copy = WorkingCopy.objects.get(written=page)
            copy.description = f"What the page {page.path} is about."
            copy.save()
            page.refresh_from_db()

    def picture(self, name: str, alt: str, colour: str) -> Any:
        data = image_bytes((1200, 800), colour=colour)
        return receive(SimpleUploadedFile(name, data), self.author, alt)[0]

    author: Person

    def write(self, page: SitePage, document: Node, title: str | None = None) -> None:
        """Put a text into a page's working copy, as the author would."""
        page.working_copy.refresh_from_db()
        copy = page.working_copy
        draft = saving.Draft(title or copy.title, copy.description, document)
        saving.save(page, self.author, draft, copy.revision)
        page.working_copy.refresh_from_db()

    def put_live(self, page: SitePage) -> None:
        page.working_copy.refresh_from_db()
        publish(page, self.author, page.working_copy.revision)

    def make_files(self, item: Item) -> None:
        """Do what the worker does for an item."""
        bring_up_to_date(item.pk)
        item.refresh_from_db()

    @contextmanager
    def window(self, width: int = 1280, height: int = 800, *, user: str | None = "wren", **options: Any):
        """A browser window of its own, signed in; errors in its console fail the test."""
        permissions = options.pop("permissions", ())
        borrowed = (
            chromium.new_page(viewport={"width": width, "height": height}, **options)
            if options or not user
            else chromium.window(self.live_server_url, width, height, permissions)
        )
        with borrowed as page:
            if user:
                page.context.add_cookies([self.session_of(user)])
            page.on("pageerror", lambda error: self.problems.append(str(error)))
            page.on("console", self._heard)
            try:
                yield page
                self.assertEqual(self.problems, [])
            except BaseException:
                with suppress(Error):  # The page may be closed already; what went wrong is told all the same.
                    page.screenshot(path=settings.VAR / f"failed-{self._testMethodName}.png")
                raise

    def _heard(self, message: Any) -> None:
        expected = "Failed to load resource" in message.text or "net::ERR" in message.text
        if message.type == "error" and not expected:
            self.problems.append(message.text)

    def session_of(self, user: str) -> Any:
        """The cookie of somebody who has signed in; the form itself has tests of its own."""
        client = Client()
        client.force_login(Person.objects.get(username=user), "django.contrib.auth.backends.ModelBackend")
        name = settings.SESSION_COOKIE_NAME
        return {"name": name, "value": client.cookies[name].value, "url": self.live_server_url, "httpOnly": True}

    def sign_in(self, page: Page, user: str = "wren", password: str = PASSWORD) -> None:
        """By the form, as people do."""
        page.goto(self.live_server_url + "/")
        page.get_by_label("Name").fill(user)
        page.get_by_label("Password").fill(password)
        page.get_by_role("button", name="Sign in").click()

    def open(self, page: Page, site_page: SitePage) -> FrameLocator:
        """Open a page in the writing view; gives the sheet once it can be written in."""
        page.goto(f"{self.live_server_url}/pages/{site_page.pk}")
        sheet = page.frame_locator("iframe")
        expect(sheet.locator(".regions[contenteditable]")).to_be_visible()
        return sheet

    def below_contents(self, page: Page, name: str) -> None:
        """Follow a link below the Contents, once all that stands above it is there."""
        expect(page.get_by_label("Beside the Contents").get_by_role("button").first).to_be_visible()
        page.get_by_role("link", name=name, exact=True).click()

    def do(self, page: Page, words: str) -> None:
        """Do an act by its name, from the text: the first that the Shelf's field finds for these words."""
        page.keyboard.press("Control+Enter")
        expect(page.get_by_label("Bring in or do")).to_be_focused()
        page.keyboard.type(words)
        expect(page.locator("#offer-0").get_by_text("do this")).to_be_visible()
        page.keyboard.press("Enter")

    def settled(self, page: Page) -> None:
        """Let a click be over before the next key, as with anybody who writes: browsers tell of a new caret late."""
        pause(page, 150)

    def type_at_end(self, page: Page, sheet: FrameLocator, words: str) -> None:
        """Type at the end of the last paragraph."""
        sheet.locator(".text > p").last.click()
        self.settled(page)
        page.keyboard.press("End")
        page.keyboard.type(words)

    def come_back(self, page: Page) -> None:
        """Load the page anew. The journal promises what is older than 50 ms; a machine of two cores gets some more."""
        pause(page, 400)
        page.reload()

    def saved(self, page: Page) -> None:
        expect(page.locator("[data-save]")).to_have_attribute("data-save", "saved")

    def caret_at_end(self, page: Page, words: str) -> None:
        page.frame_locator("iframe").get_by_text(words, exact=True).click()
        self.settled(page)
        page.keyboard.press("End")

    def address(self, site_page: SitePage) -> str:
        return f"{site_page.site.origin}{site_page.path}"

    def axe(self, page: Page, where: str, *, but: tuple[str, ...] = (), only: str = "") -> None:
        """axe-core finds no violation, in the page and in its frames. ``but`` are faults of the text being written;
        ``only`` is one rule, where nothing else can differ from what was looked at before."""
        for frame in page.frames:
            if "/sheet/navigation/" in frame.url:
                continue  # A page of the site with no text, made anew whenever the tree changes.
            if not frame.evaluate("Boolean(window.axe)"):
                frame.evaluate(AXE_CORE)
        options = {"resultTypes": ["violations"], "frameWaitTime": 10_000, **({"runOnly": [only]} if only else {})}
        result = page.evaluate("(options) => axe.run(document, options)", options)
        found = [
            f"{each['id']}: {node['target']} {node['failureSummary']}"
            for each in result["violations"]
            for node in each["nodes"]
            if each["id"] not in but
        ]
        self.assertEqual(found, [], f"{where}: " + "; ".join(found))


class DemoTest(BrowserTest):
    """The demo sites, loaded once for all tests of a class: each leaves them as it found them."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.enterClassContext(media_folder())
        cls.addClassCleanup(emptied, partial(call_command, "flush", verbosity=0, interactive=False))
        load_demo()
        cls.change_site()

    @classmethod
    def change_site(cls) -> None:
        """What is changed of the demo for the tests of this class."""

    def setUp(self) -> None:
        page_memory.changed()
        self.problems = []

    def _fixture_teardown(self) -> None:
        """What was loaded stays for the next test."""
