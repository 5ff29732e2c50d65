"""Public pages and the authoring interface, against axe-core and the Nu HTML checker (vnu-jar)."""

import json
import subprocess
import tempfile
import zipfile
from io import BytesIO
from pathlib import Path

from django.conf import settings
from playwright.sync_api import expect

from demo.people import PASSWORD
from stillpage.exchange.exporting import export_page, export_site
from stillpage.library.models import Item
from stillpage.pages.models import Page
from stillpage.pages.seeing import ALL
from stillpage.people.models import Person
from stillpage.publishing.freshness import bring_all_up
from stillpage.publishing.models import LiveCopy, NotFoundPage
from stillpage.publishing.publish import publish
from stillpage.written import saving

from ..api.test_films import played_items
from ..browser.base import DemoTest
from ..core.documents import every_kind_for

VNU = settings.ROOT / "web" / "node_modules" / "vnu-jar" / "build" / "dist" / "vnu.jar"


def page_in(data):
    """The HTML of a page that was exported together with its pictures."""
    with zipfile.ZipFile(BytesIO(data)) as archive:
        (name,) = (name for name in archive.namelist() if name.endswith(".html"))
        return archive.read(name)


class DemoSites(DemoTest):
    """The demo sites as they are published, with one page more that holds every kind of node."""

    FAULTS = ("heading-order",)
    """What is wrong with the text of “Lock crew”, on purpose."""

    @classmethod
    def change_site(cls):
        cls.author = Person.objects.get(username="wren")
        cls.minutes = Page.objects.get(path="/about/minutes")
        walks, gates = Page.objects.get(path="/visit/towpath-walks"), Item.objects.get(title="lock gates")
        lock = Item.objects.get(kind=Item.Kind.ANIMATION)
        said = Item.objects.filter(kind=Item.Kind.POST).first()
        text = every_kind_for(walks.pk, gates.pk, played_items(cls.author), lock.pk, said.pk)
        draft = saving.Draft(cls.minutes.working_copy.title, "", text)
        saving.save(cls.minutes, cls.author, draft, cls.minutes.working_copy.revision)
        cls.minutes.working_copy.refresh_from_db()
        publish(cls.minutes, cls.author, cls.minutes.working_copy.revision)
        bring_all_up()

    def test_every_published_page_passes_the_nu_checker_and_axe(self):
        rendered = [
            *LiveCopy.objects.exclude(address=None).select_related("written__page__site"),
            *NotFoundPage.objects.all(),
        ]
        self.assertGreater(len(rendered), 18)
        with tempfile.TemporaryDirectory() as folder:
            for index, each in enumerate(rendered):
                (Path(folder) / f"{index}.html").write_bytes(bytes(each.html))
            command = ["java", "-jar", str(VNU), "--format", "json", "--stdout", folder]
            done = subprocess.run(command, capture_output=True, text=True, check=False)
        messages = json.loads(done.stdout)["messages"]
        self.assertEqual([each for each in messages if each["type"] == "error"], [])
        with self.window(user=None) as page:
            page.set_viewport_size({"width": 320, "height": 900})
            for live in LiveCopy.objects.exclude(address=None).select_related("written__page__site"):
                page.goto(self.address(live.written.page))
                self.axe(page, f"{live.address} at 320")
                # WCAG 2.2, 1.4.10 Reflow: no scrolling sideways at 320 CSS pixels.
                wide = page.evaluate("document.documentElement.scrollWidth")
                self.assertLessEqual(wide, 320, live.address)
            page.set_viewport_size({"width": 1280, "height": 900})
            for path in ("/", "/visit/towpath-walks", "/about/minutes"):
                page.goto(self.address(Page.objects.get(path=path, site=self.minutes.site)))
                self.axe(page, f"{path} at 1280")
            page.goto(self.address(self.minutes) + "-none")
            self.axe(page, "not found")

    def test_what_is_exported_passes_the_nu_checker(self):
        with tempfile.TemporaryDirectory() as folder:
            with zipfile.ZipFile(BytesIO(b"".join(export_site(self.minutes.site)))) as archive:
                archive.extractall(folder)
            (Path(folder) / "page.html").write_bytes(page_in(export_page(self.minutes, "html", ALL).data))
            files = sorted(str(path) for path in Path(folder).rglob("*.html"))
            self.assertGreater(len(files), 12)
            command = ["java", "-jar", str(VNU), "--format", "json", "--stdout", *files]
            done = subprocess.run(command, capture_output=True, text=True, check=False)
        messages = json.loads(done.stdout)["messages"]
        self.assertEqual([each for each in messages if each["type"] == "error"], [])

    def test_the_authoring_interface_passes_axe_in_every_state(self):
        for scheme, only in (("light", ""), ("dark", "color-contrast")):
            with self.window(user=None, color_scheme=scheme) as page:
                self.sign_in(page, password="wrong")
                expect(page.get_by_role("alert")).to_contain_text("do not belong")
                self.axe(page, f"sign-in, {scheme}", only=only)
                self.sign_in(page, password=PASSWORD)
                expect(page.get_by_role("tree")).to_be_visible()
                page.get_by_role("button", name="New page at the top").click()
                self.axe(page, f"Contents with a new page, {scheme}", only=only)
                sheet = self.open(page, Page.objects.get(path="/volunteer/lock-crew"))
                page.get_by_role("tab", name="Notes (3)").click()
                self.axe(page, f"writing view with Notes, {scheme}", but=self.FAULTS, only=only)
                page.get_by_role("tab", name="Outline").click()
                page.get_by_label("Bring in or do").fill("lock")
                expect(page.get_by_role("option").first).to_be_visible()
                self.axe(page, f"Shelf with results, {scheme}", but=self.FAULTS, only=only)
                page.keyboard.press("Escape")
                sheet.locator("figure").first.click()
                expect(page.get_by_label("Alt text")).to_be_visible()
                self.axe(page, f"particulars of a picture, {scheme}", but=self.FAULTS, only=only)
                sheet.locator("a", has_text="here").click()
                expect(page.get_by_role("heading", name="This link")).to_be_visible()
                self.axe(page, f"particulars of a link, {scheme}", but=self.FAULTS, only=only)
                self.do(page, "keys")
                expect(page.get_by_role("heading", name="Keys")).to_be_visible()
                page.get_by_role("button", name="Publish…").click()
                self.axe(page, f"keys and publishing, {scheme}", but=self.FAULTS, only=only)
                page.set_viewport_size({"width": 390, "height": 800})
                self.axe(page, f"narrow, {scheme}", but=self.FAULTS, only=only)

    def test_the_particulars_of_every_kind_pass_axe_in_the_dark_too(self):
        with self.window(color_scheme="dark") as page:
            sheet = self.open(page, self.minutes)
            for place, name in (
                ("td", "This table"),
                (".aside-text p", "This aside"),
                ("figcaption", "This quotation"),
                ("pre", "This preformatted text"),
                (".equation", "This equation"),
                (".formula", "This formula"),
                (".call a", "This call to action"),
                ("abbr", "These words"),
            ):
                # The sheet may move below the pointer while what was asked before still arrives; and two presses at
                # one place of the screen within half a second are one double press, whatever was scrolled there.
                page.wait_for_load_state("networkidle")
                page.wait_for_timeout(600)
                sheet.locator(f".text {place}").first.click()
                expect(page.get_by_role("region", name=name)).to_be_visible()
                self.axe(page, name)
            self.do(page, "versions")
            expect(page.get_by_role("button", name="Restore")).to_have_count(2)
            self.axe(page, "versions")
            page.keyboard.press("Escape")
            page.keyboard.press("Control+k")
            page.get_by_role("button", name="Open the tree").click()
            expect(page.get_by_role("option", name="Towpath walks")).to_be_visible()
            self.axe(page, "the tree in the Shelf")
            page.get_by_role("button", name="More: other ways to mark words").click()
            page.set_viewport_size({"width": 390, "height": 800})
            self.axe(page, "all tools, narrow")

    def test_each_note_leads_to_its_place_and_a_repair_works_at_one_press(self):
        with self.window() as page:
            sheet = self.open(page, Page.objects.get(path="/volunteer/lock-crew"))
            tab = page.get_by_role("tab", name="Notes (3)")
            expect(tab).to_be_visible()
            page.keyboard.press("F8")
            expect(tab).to_have_attribute("aria-selected", "true")
            notes = page.get_by_role("tabpanel").get_by_role("listitem")
            expect(notes).to_have_count(3)
            page.get_by_role("button", name="This link says only “here”.").click()
            expect(sheet.locator(".is-shown-finding")).to_have_text("here")
            page.get_by_role("tabpanel").get_by_role("button", name="Let it say “Volunteer”").click()
            expect(notes).to_have_count(2)
            expect(sheet.locator(".text a")).to_have_text("Volunteer")
            page.get_by_role("button", name="Make it a heading of level 2").click()
            expect(sheet.locator(".text h2")).to_have_text("What to bring")
            page.get_by_role("button", name="It is decoration only").click()
            expect(page.get_by_role("tabpanel")).to_contain_text("finds nothing to mend")
            page.get_by_role("button", name="Undo").click()
            expect(notes).to_have_count(1)
            page.get_by_role("button", name="Undo").click(click_count=2, delay=200)
            expect(notes).to_have_count(3)
            self.saved(page)
