"""Arranging pages in the Contents, by mouse and by keyboard, to the public site."""

import re
from datetime import timedelta

from django.utils import timezone
from playwright.sync_api import expect

from stillpage.pages.models import Page, Preview
from stillpage.pages.tree import add_page
from stillpage.people.models import Role, RoleGrant
from stillpage.publishing import freshness

from .base import BrowserTest


class Arranging(BrowserTest):
    def setUp(self):
        super().setUp()
        self.boats = add_page(self.site, self.author, "Boats", slug="boats")
        for each in (self.home, self.visit, self.walks, self.boats):
            self.put_live(each)

    def public(self, path):
        return self.site.origin + path

    def bring_up(self):
        freshness.bring_all_up()

    def row(self, page, name):
        return page.get_by_role("treeitem", name=re.compile(f"^{name}"))

    def names(self, page):
        return [
            row.get_attribute("data-page") and row.locator(".name").inner_text()
            for row in page.get_by_role("treeitem").all()
        ]

    def beside(self, page):
        return page.get_by_role("complementary", name="Beside the Contents")

    def test_by_keyboard_alone(self):
        with self.window() as page:
            page.goto(self.live_server_url)
            keys = page.keyboard
            self.row(page, "Towpath walks").focus()
            expect(self.beside(page).get_by_role("heading", name="Towpath walks")).to_be_visible()
            # Moved: the line goes from place to place, what follows is told, Enter puts it there, Ctrl+Z takes it back.
            self.beside(page).get_by_role("button", name="Move", exact=True).press("Enter")
            expect(self.row(page, "Towpath walks")).to_be_focused()
            for _ in range(10):
                keys.press("ArrowDown")
                if self.beside(page).get_by_text("To: under “Boats”").is_visible():
                    break
            expect(page.locator("[data-place]")).to_be_visible()
            expect(self.beside(page)).to_contain_text("One address changes.")
            expect(self.beside(page)).to_contain_text("/boats/towpath-walks")
            keys.press("Enter")
            expect(page.get_by_text("“Towpath walks” moved to “Boats”.")).to_be_visible()
            expect(self.row(page, "Towpath walks")).to_be_focused()
            self.bring_up()
            page.goto(self.public("/visit/towpath-walks"))
            expect(page).to_have_url(re.compile("/boats/towpath-walks$"))
            page.goto(self.live_server_url)
            self.row(page, "Towpath walks").focus()
            keys.press("Control+z")
            expect(page.get_by_text("Undone: “Towpath walks” moved to “Boats”.")).to_be_visible()
            self.assertEqual(Page.objects.get(pk=self.walks.pk).path, "/visit/towpath-walks")
            # Many: chosen by Space, into the bin by Delete, and back.
            self.row(page, "Visit").focus()
            keys.press("Space")
            self.row(page, "Boats").focus()
            keys.press("Space")
            expect(self.beside(page).get_by_role("heading", name="2 pages chosen")).to_be_visible()
            keys.press("Delete")
            expect(self.beside(page)).to_contain_text("3 pages go into the bin")
            expect(self.beside(page).get_by_role("button", name="Put into the bin")).to_be_focused()
            keys.press("Enter")
            expect(page.get_by_role("treeitem")).to_have_count(1)
            keys.press("Control+z")
            expect(page.get_by_role("treeitem")).to_have_count(4)
            # A new page after this one, its place shown before it is made.
            self.row(page, "Visit").focus()
            self.beside(page).get_by_role("button", name="New page after this").press("Enter")
            expect(page.locator("[data-place]")).to_be_visible()
            keys.type("Moorings")
            keys.press("Enter")
            expect(page.frame_locator("iframe").locator("h1")).to_have_text("Moorings")
            moorings = Page.objects.get(path="/moorings")
            self.assertEqual((moorings.parent_id, moorings.position), (None, 2))

    def test_by_mouse_to_the_public_site(self):
        with self.window() as page:
            page.goto(self.live_server_url)
            beside = self.beside(page)
            # Dragged: nothing happens before what follows has been read.
            self.row(page, "Boats").drag_to(self.row(page, "Visit"), target_position={"x": 300, "y": 3})
            expect(beside).to_contain_text("No address changes.")
            beside.get_by_role("button", name="Put it there").click()
            expect(page.get_by_text("“Boats” moved to the top.")).to_be_visible()
            expect(page.get_by_role("treeitem").nth(1)).to_contain_text("Boats")
            self.assertEqual(self.names(page), ["Varrow Canal Trust", "Boats", "Visit", "Towpath walks"])
            # Names, each following the title until it is set.
            self.row(page, "Boats").locator("[data-tick]").evaluate("each => each.parentElement.focus()")
            beside.get_by_role("button", name="What it is called").click()
            expect(beside.get_by_text("Follows the title.")).to_have_count(2)
            beside.get_by_label("Name in the navigation").fill("Hire a boat")
            beside.get_by_role("button", name="Keep these names").click()
            expect(page.get_by_text("The names are kept")).to_be_visible()
            beside.get_by_role("button", name="Publish the changes").click()
            expect(page.get_by_text("“Boats” is published.")).to_be_visible()
            # Another address, its consequences told.
            beside.get_by_role("button", name="Its address").click()
            beside.get_by_label("Last part of the address").fill("hire")
            expect(beside).to_contain_text("Its readers are led on")
            beside.get_by_role("button", name="Give it this address").click()
            expect(page.get_by_text("is /hire now")).to_be_visible()
            # How the navigation looks.
            page.get_by_role("button", name="How the navigation looks").click()
            phone = page.frame_locator("iframe[title='The navigation, 390 px wide']")
            expect(phone.get_by_role("link", name="Hire a boat")).to_be_visible()
            expect(page.get_by_text("fits on one line").first).to_be_visible()
            page.get_by_role("button", name="How the navigation looks").click()
            # Duplicated: what would be the same is asked for.
            beside.get_by_role("button", name="Duplicate", exact=True).click()
            expect(beside.get_by_label("Title of the copy")).to_have_value("Boats 2")
            beside.get_by_label("Title of the copy").fill("Canoes")
            beside.get_by_role("button", name="Duplicate and write").click()
            expect(page.frame_locator("iframe").locator("h1")).to_have_text("Canoes")
            self.bring_up()
            page.goto(self.public("/boats"))
            expect(page).to_have_url(re.compile("/hire$"))
            expect(page.get_by_role("navigation", name="Main").get_by_role("link", name="Hire a boat")).to_be_visible()
            # A preview address: for whoever has it, until it is ended.
            page.goto(self.live_server_url)
            self.row(page, "Canoes").focus()
            beside.get_by_role("button", name="Preview addresses").click()
            beside.get_by_role("button", name="Make a preview address").click()
            expect(beside.get_by_label("Preview address", exact=True)).to_be_visible()
            preview = Preview.objects.get()
            self.assertEqual(preview.until, (timezone.now() + timedelta(days=14)).date())
            with self.window(user=None) as reader:
                reader.goto(self.public(f"/preview/{preview.token}"))
                expect(reader.get_by_role("heading", level=1)).to_have_text("Canoes")
                page.reload()
                self.row(page, "Canoes").focus()
                beside.get_by_role("button", name="Preview addresses").click()
                expect(beside).to_contain_text("1 visit")
                beside.get_by_role("button", name="End it now").click()
                expect(page.get_by_text("The preview address is ended.")).to_be_visible()
                reader.reload()
                expect(reader.get_by_role("heading", level=1)).to_have_text("There is no such page")
            # Hidden: in no navigation.
            self.row(page, "Boats").focus()
            beside.get_by_role("button", name="Hidden").click()
            expect(beside).to_contain_text("Only who has its address finds it")
            self.bring_up()
            page.goto(self.public("/"))
            expect(page.get_by_role("link", name="Hire a boat")).to_have_count(0)
            # An entry that leads elsewhere.
            page.goto(self.live_server_url)
            page.get_by_role("button", name="New page at the top").click()
            beside.get_by_role("button", name="A link elsewhere").click()
            beside.get_by_label("Title", exact=True).fill("Water levels")
            beside.get_by_label("Address elsewhere").fill("https://levels.example/")
            beside.get_by_role("button", name="Add the link").click()
            self.row(page, "Water levels").focus()
            beside.get_by_role("button", name="Publish", exact=True).click()
            expect(page.get_by_text("“Water levels” is published.")).to_be_visible()
            # Found by its words; the bin gives back what was put there.
            page.get_by_label("Find pages by words or address").fill("canoes")
            expect(page.get_by_role("region", name="Pages found").get_by_role("listitem")).to_have_count(1)
            page.get_by_role("button", name="Canoes").click()
            beside.get_by_role("button", name="Put into the bin").click()
            beside.get_by_role("button", name="Put into the bin").click()
            page.get_by_role("button", name="Show the Contents").click()
            expect(self.row(page, "Canoes")).to_have_count(0)
            page.get_by_role("button", name="The bin", exact=True).click()
            beside.get_by_role("button", name="Take “Canoes” back").click()
            expect(self.row(page, "Canoes")).to_be_visible()
            # Redirects: the one that was made by itself, and one by hand.
            self.below_contents(page, "Redirects")
            made = page.get_by_role("row").filter(has_text="/boats").filter(has_text="address was changed")
            expect(made).to_be_visible()
            page.get_by_label("From this address of the site").fill("/regatta")
            page.get_by_role("button", name="Is gone for good").click()
            page.get_by_role("button", name="Keep", exact=True).click()
            expect(page.get_by_text("/regatta answers that it is gone for good.")).to_be_visible()
            self.assertEqual(page.goto(self.public("/regatta")).status, 410)
            page.get_by_label("Look for").fill("walks")
            page.get_by_role("button", name="Search").click()
            expect(page.get_by_role("link", name="Towpath walks")).to_be_visible()

    def test_a_site_is_made_by_an_administrator(self):
        RoleGrant.objects.create(person=self.author, role=Role.ADMINISTRATOR)
        with self.window() as page:
            page.goto(self.live_server_url)
            self.below_contents(page, "Sites")
            page.get_by_role("button", name="Make a new site").click()
            form = page.get_by_role("form", name="A new site")
            form.get_by_label("Name", exact=True).fill("Aqueduct Day")
            form.get_by_label("Host").fill("canal.localhost")
            form.get_by_role("button", name="Make the site").click()
            expect(page.get_by_role("alert")).to_contain_text("There is a site at the host")
            # What is typed stays while it is hidden, and whoever leaves is asked.
            page.get_by_role("button", name="Make a new site").click()
            expect(form).to_be_hidden()
            page.go_back()
            page.get_by_role("button", name="Stay here").click()
            page.get_by_role("button", name="Make a new site").click()
            form.get_by_label("Host").fill("day.localhost")
            form.get_by_role("button", name="Make the site").click()
            section = page.get_by_role("region", name="Aqueduct Day")
            expect(section).to_contain_text("1 page, 0 live")
            section.get_by_role("button", name="Close this site …").click()
            section.get_by_role("button", name="Really close it").click()
            expect(section).to_contain_text("Closed: readers get nothing of it")
            section.get_by_role("button", name="Open it again").click()
            # A copy that is begun and not made is asked after, too.
            section.get_by_role("button", name="Duplicate as a starting point").click()
            section.get_by_label("Name", exact=True).fill("Aqueduct Day, once more")
            section.get_by_role("link", name="Contents").click()
            page.get_by_role("button", name="Leave all the same").click()
            expect(self.row(page, "Aqueduct Day")).to_be_visible()
