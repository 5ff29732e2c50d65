"""The main job by keyboard alone, from sign-in to the live page, and what assistive technology meets on the sheet."""

import re

from playwright.sync_api import expect

from stillpage.written.models import WorkingCopy
from stillpage_core.writing import markdown

from ..api.base import PASSWORD
from ..core.documents import body, document, every_kind, heading, item, numbered, paragraph
from .base import BrowserTest


class Counted:
    """A keyboard that counts its stops (Tab, arrows on the way) and its chords."""

    def __init__(self, page):
        self.keyboard, self.stops, self.chords = page.keyboard, 0, 0

    def press(self, key):
        self.stops += key in ("Tab", "Shift+Tab", "ArrowDown", "F6")
        self.chords += "+" in key or key in ("F2", "F8")
        self.keyboard.press(key)

    def type(self, words):
        self.keyboard.type(words)


class ByKeyboard(BrowserTest):
    def test_the_main_job_needs_no_mouse(self):
        self.put_live(self.visit)
        with self.window(user=None) as page:
            keys = Counted(page)
            page.goto(self.live_server_url + "/")
            expect(page.get_by_label("Name")).to_be_focused()
            keys.type("wren")
            keys.press("Tab")
            keys.type(PASSWORD)
            keys.press("Enter")
            walks = page.get_by_role("treeitem", name="Towpath walks")
            expect(page.get_by_role("treeitem").first).to_be_focused()
            keys.press("ArrowDown")
            keys.press("ArrowDown")
            expect(walks).to_be_focused()
            keys.press("Enter")
            sheet = page.frame_locator("iframe")
            text = sheet.locator(".regions")

            # The caret is in the text: levels, list, quotation, table, link, picture, sign.
            expect(text).to_be_focused()
            keys.type("The path is level.")
            keys.press("Enter")
            self.do(page, "level 2")
            keys.type("Before you set out")
            keys.press("Enter")
            keys.type("- boots")
            keys.press("Enter")
            keys.type("water")
            keys.press("Enter")
            keys.press("Enter")
            keys.type("Nobody hurries.")
            self.do(page, "this quotation")
            keys.press("Enter")
            keys.press("Enter")
            keys.type("See ")
            keys.press("Control+k")
            keys.type("visit")
            expect(page.get_by_role("option", name=re.compile("^Visit"))).to_be_visible()
            keys.press("Enter")
            keys.type(" and bring a map ")
            keys.press("Control+Enter")
            keys.type("rightwards arrow")
            expect(page.get_by_role("option", name="→")).to_be_visible()
            keys.press("Enter")
            expect(text).to_contain_text("a map →")
            self.settled(page)
            keys.press("Enter")
            keys.press("Control+Enter")
            expect(page.get_by_label("Bring in or do")).to_be_focused()
            keys.type("gates")
            expect(page.get_by_role("option", name="lock gates")).to_be_visible()
            keys.press("Enter")
            expect(text.locator("figure img")).to_be_visible()

            # Its alt text, by way of the particulars; the section up in the Outline; then publish.
            keys.press("F2")
            expect(page.get_by_label("Alt text")).to_be_focused()
            keys.press("End")
            keys.type(", seen from below")
            keys.press("Escape")
            keys.press("Control+s")
            self.saved(page)
            self.assertEqual(
                markdown(WorkingCopy.objects.get(written=self.walks).tree),
                "The path is level.\n\n## Before you set out\n\n- boots\n- water\n\n> Nobody hurries.\n\n"
                f"See [Visit](page:{self.visit.pk}) and bring a map →\n\n"
                f"![Closed lock gates, seen from below](item:{self.gates.pk})\n",
            )
            self.do(page, "publish")
            expect(page.get_by_role("button", name="Publish now")).to_be_focused()
            keys.press("Enter")
            expect(page.locator("[data-save]")).to_contain_text("readers see just this")
            # Three more chords lead to acts by their names.
            self.assertEqual((keys.stops, keys.chords), (3, 5))
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            expect(reader.get_by_role("heading", level=2)).to_have_text("Before you set out")
            expect(reader.get_by_role("img", name="Closed lock gates, seen from below")).to_be_visible()


class Sheet(BrowserTest):
    def test_a_heading_is_a_heading_on_the_sheet_too(self):
        # ATAG 2.0, A.2.2 and A.3.4; the reference is Chromium's accessibility tree, as Playwright reads it.
        self.write(
            self.walks,
            document(
                heading(2, "Short walks"),
                paragraph("Level."),
                heading(3, "Lock 4"),
                numbered(item(paragraph("a")), item(paragraph("b"))),
                *[node for node in body(every_kind()) if node.kind in ("table", "aside", "quotation")],
            ),
        )
        with self.window() as page:
            sheet = self.open(page, self.walks)
            expect(sheet.get_by_role("textbox", name="The text of the page")).to_be_visible()
            expect(sheet.get_by_role("heading", level=1)).to_have_text("Towpath walks")
            expect(sheet.get_by_role("heading", level=2, name="Short walks")).to_be_visible()
            expect(sheet.get_by_role("heading", level=3, name="Lock 4")).to_be_visible()
            tree = self.tree(page)
            for role in ("heading", "list", "listitem", "table", "columnheader", "rowheader", "cell", "note", "figure"):
                self.assertIn(role, tree)
            self.assertIn(("heading", "Short walks"), tree)

    def tree(self, page):
        """Roles, and pairs of role and name, that Chromium gives for the frame of the sheet."""
        session = page.context.new_cdp_session(page)
        frames = session.send("Page.getFrameTree")["frameTree"]["childFrames"]
        nodes = session.send("Accessibility.getFullAXTree", {"frameId": frames[0]["frame"]["id"]})["nodes"]
        shown = [node for node in nodes if not node["ignored"]]
        roles = {node["role"]["value"] for node in shown}
        return roles | {(node["role"]["value"], node.get("name", {}).get("value")) for node in shown}
