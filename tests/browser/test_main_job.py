"""The main job in the real interface, from signing in to the page as a visitor gets it."""

import re

from playwright.sync_api import expect

from stillpage.library.models import Item
from stillpage.written.models import WorkingCopy
from stillpage_core.writing import markdown

from ..api.base import image_bytes
from .base import BrowserTest
from .waiting import becomes, until


class MainJob(BrowserTest):
    def test_from_sign_in_to_the_visitor_s_page(self):
        self.put_live(self.visit)
        with self.window(user=None) as page:
            self.sign_in(page, password="wrong")
            expect(page.get_by_role("alert")).to_contain_text("do not belong together")
            self.sign_in(page)

            # The Contents: fold, unfold, and open by key.
            visit = page.get_by_role("treeitem", name="Visit /visit", exact=False).first
            walks = page.get_by_role("treeitem", name="Towpath walks")
            expect(walks).to_be_visible()
            visit.focus()
            page.keyboard.press("ArrowLeft")
            expect(walks).to_be_hidden()
            page.keyboard.press("ArrowRight")
            page.keyboard.press("ArrowRight")
            expect(walks).to_be_focused()
            page.keyboard.press("Enter")

            sheet = page.frame_locator("iframe")
            text = sheet.locator(".text")
            expect(sheet.locator("h1")).to_have_text("Towpath walks")
            text.click()

            # Paragraphs, headings, lists, emphasis.
            keys = page.keyboard
            keys.type("The path is level.")
            keys.press("Enter")
            keys.type("Before you set out")
            page.get_by_role("button", name="Heading of level 2", exact=True).click()
            keys.press("Enter")
            keys.type("- boots")
            keys.press("Enter")
            keys.type("water")
            keys.press("Enter")
            keys.press("Tab")
            keys.type("a litre each")
            keys.press("Enter")
            keys.press("Enter")
            keys.press("Enter")
            keys.type("Short walks")
            self.do(page, "level 2")
            keys.press("Enter")
            page.get_by_role("button", name="Numbered list").click()
            keys.type("to the bridge")
            keys.press("Enter")
            keys.press("Enter")
            keys.type("It is ")
            keys.press("Control+b")
            keys.type("very")
            keys.press("Control+b")
            keys.type(" ")
            keys.press("Control+i")
            keys.type("short")
            keys.press("Control+i")
            keys.type(". ")

            # A link to a page found by name, with the caret where it was; and one to an outside address.
            keys.press("Control+k")
            expect(page.get_by_label("Link to")).to_be_focused()
            keys.type("visit")
            expect(page.get_by_role("option", name=re.compile("^Visit"))).to_be_visible()
            keys.press("Enter")
            keys.type(" and tides")
            keys.press("Control+Shift+ArrowLeft")
            keys.press("Control+k")
            keys.type("varrow.example/tides")
            expect(page.get_by_role("option", name="Link to this address")).to_be_visible()
            keys.press("Enter")
            keys.press("ArrowRight")
            keys.type(".")
            expect(text.locator("p > a")).to_have_text(["Visit", "tides"])
            keys.press("Enter")

            # A picture from the library: search, Enter puts it at the caret.
            keys.press("Control+Enter")
            keys.type("gates")
            expect(page.get_by_role("option", name="lock gates")).to_be_visible()
            keys.press("Enter")
            expect(text.locator("figure img")).to_have_attribute("alt", "Closed lock gates")
            expect(page.get_by_label("Alt text")).to_have_value("Closed lock gates")

            # A new picture from disk; its alt text is asked for, and set in the Shelf.
            page.get_by_label("Bring in or do").click()
            page.get_by_label("Files from this computer").set_input_files(
                {"name": "lock-cottage.png", "mimeType": "image/png", "buffer": image_bytes((640, 480), "PNG", "#876")}
            )
            expect(text.locator("figure")).to_have_count(2)
            page.get_by_role("tab", name="Notes (").click()
            expect(page.get_by_role("tabpanel")).to_contain_text("The picture “lock cottage” has no alt text.")
            page.get_by_role("button", name="Publish…").click()
            expect(page.get_by_role("group", name="Publish")).to_contain_text("It cannot be published yet")
            expect(page.get_by_role("button", name="Publish now")).to_be_disabled()
            page.get_by_role("button", name="Not yet").click()
            page.get_by_label("Alt text").fill("The lock-keeper's cottage")
            expect(page.get_by_role("tabpanel")).not_to_contain_text("has no alt text")
            self.assertEqual(Item.objects.get(title="lock cottage").alt, "")

            # Saved by itself; undo and redo; a reload shows the same.
            self.saved(page)
            text.locator("h2").first.click()
            page.get_by_role("button", name="Undo").click()
            expect(text.locator("figure img").nth(1)).not_to_have_attribute("alt", "The lock-keeper's cottage")
            page.get_by_role("button", name="Redo").click()
            expect(text.locator("figure img").nth(1)).to_have_attribute("alt", "The lock-keeper's cottage")
            keys.press("Control+s")
            self.saved(page)
            before = text.inner_text()
            page.reload()
            expect(sheet.locator(".text h2").first).to_have_text("Before you set out")
            until(text.inner_text, lambda found: found == before)
            self.assertEqual(
                markdown(WorkingCopy.objects.get(written=self.walks).tree),
                "The path is level.\n\n## Before you set out\n\n- boots\n- water\n  - a litre each\n\n"
                "## Short walks\n\n1. to the bridge\n\nIt is **very** *short*. "
                f"[Visit](page:{self.visit.pk}) and [tides](https://varrow.example/tides).\n\n"
                f"![](item:{self.gates.pk})\n\n![The lock-keeper's cottage](item:{self.gates.pk + 2})\n",
            )

            # The description, then publish; the foot says what will be seen and where.
            page.get_by_label("Description").fill("Walks along the canal.")
            page.get_by_role("button", name="Publish…").click()
            expect(page.get_by_role("group", name="Publish")).to_contain_text(
                f"Readers will see this text at {self.address(self.walks)}."
            )
            page.get_by_role("button", name="Publish now").click()
            expect(page.locator("[data-save]")).to_contain_text("readers see just this")

            # Later edits change the working copy only.
            text.locator("p").first.click()
            self.settled(page)
            keys.press("End")
            keys.type(" Not yet seen.")
            self.saved(page)
            expect(page.locator("[data-save]")).to_contain_text("differs from the live copy in 1 place")

        with self.window(user=None) as visitor:
            answer = visitor.goto(self.address(self.walks))
            self.assertEqual(answer.status, 200)
            expect(visitor).to_have_title("Towpath walks – Varrow Canal Trust")
            expect(visitor.locator("h1")).to_have_text("Towpath walks")
            expect(visitor.locator("main")).not_to_contain_text("Not yet seen")
            expect(visitor.locator('meta[name="description"]')).to_have_attribute("content", "Walks along the canal.")
            expect(visitor.get_by_role("list").get_by_text("a litre each")).to_be_visible()
            picture = visitor.get_by_role("img", name="Closed lock gates")
            becomes(picture, "image => image.naturalWidth > 0")
            self.assertRegex(picture.get_attribute("srcset"), r"480w, .*960w")
            self.assertEqual((picture.get_attribute("width"), picture.get_attribute("height")), ("720", "480"))
            visitor.keyboard.press("Tab")
            expect(visitor.get_by_role("link", name="Skip to the text")).to_be_focused()
            visitor.keyboard.press("Enter")
            expect(visitor.locator("main")).to_be_focused()
            self.assertEqual(visitor.goto(self.address(self.walks) + "-none").status, 404)
            expect(visitor.locator("h1")).to_have_text("There is no such page")

        with self.window() as page:
            self.open(page, self.walks)
            page.get_by_role("button", name="Unpublish…").click()
            page.get_by_role("button", name="Unpublish now").click()
            expect(page.locator("[data-save]")).to_contain_text("not published: readers do not see it")
        with self.window(user=None) as visitor:
            self.assertEqual(visitor.goto(self.address(self.walks)).status, 404)


class AddingAPage(BrowserTest):
    def test_a_page_is_added_below_another_and_opens_for_writing(self):
        with self.window() as page:
            page.goto(self.live_server_url)
            page.get_by_role("treeitem", name="Visit /visit", exact=False).first.focus()
            page.get_by_role("button", name="New page under “Visit”").click()
            page.get_by_label("Title", exact=True).fill("Opening times")
            page.get_by_label("Address, if").fill("towpath-walks")
            page.keyboard.press("Enter")
            expect(page.get_by_role("alert")).to_contain_text("There is a page at /visit/towpath-walks already")
            page.get_by_label("Address, if").fill("")
            page.get_by_role("button", name="Add and write").click()
            expect(page.frame_locator("iframe").locator("h1")).to_have_text("Opening times")
            # The caret is in its text at once.
            expect(page.frame_locator("iframe").locator(".regions")).to_be_focused()
            page.keyboard.type("Every day.")
            expect(page.frame_locator("iframe").locator(".text p")).to_have_text("Every day.")
            page.get_by_role("link", name="Contents of Varrow Canal Trust").click()
            expect(page.get_by_role("treeitem", name=re.compile("Opening times .*Not published"))).to_have_attribute(
                "aria-level", "2"
            )

    def test_a_site_without_pages_says_so(self):
        from ..api.base import a_site

        empty = a_site("Varrow Lock Museum", "museum.localhost")
        with self.window() as page:
            page.goto(self.live_server_url)
            page.get_by_role("link", name="Varrow Lock Museum").click()
            expect(page.get_by_text("This site has no pages yet.")).to_be_visible()
            page.get_by_role("button", name="New page at the top").click()
            page.get_by_label("Title", exact=True).fill("Plan your visit")
            page.get_by_role("button", name="Add and write").click()
            expect(page.frame_locator("iframe").locator(".site-name")).to_have_text(empty.name)
