"""Pictures on the page: brought in, sized, placed, cut; the same on the sheet and for readers."""

import re

from django.core.files.uploadedfile import SimpleUploadedFile
from playwright.sync_api import expect

from stillpage.library.receiving import receive

from ..api.base import photograph
from ..core.documents import document, heading, paragraph, picture
from .base import BrowserTest


class PictureTest(BrowserTest):
    def setUp(self):
        super().setUp()
        self.bridge, _ = receive(SimpleUploadedFile("bridge.jpg", photograph((1600, 1000))), self.author, "A bridge")

    def opened(self, page, *blocks):
        self.write(self.walks, document(*blocks))
        sheet = self.open(page, self.walks)
        sheet.locator("figure img").first.click()
        return sheet

    def attrs(self, page, index=1):
        self.saved(page)
        self.walks.working_copy.refresh_from_db()
        return self.walks.working_copy.tree.content[0].content[index].attrs


class In(PictureTest):
    def test_from_the_sheet_in_three_acts_with_the_caret_where_it_was(self):
        self.write(self.walks, document(paragraph("One sentence."), paragraph("Another.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("One sentence.").click()
            self.settled(page)
            page.keyboard.press("End")
            page.keyboard.press("Control+Enter")
            page.keyboard.type("bridge")
            page.keyboard.press("Enter")
            expect(sheet.locator("figure img")).to_have_attribute("alt", "A bridge")
            kinds = sheet.locator(".text > *").evaluate_all("all => all.map((each) => each.tagName)")
            self.assertEqual(kinds, ["P", "FIGURE", "P"])
            self.saved(page)


class Standing(PictureTest):
    def test_size_by_preset_number_percent_and_never_above_the_original(self):
        small, _ = receive(SimpleUploadedFile("small.jpg", photograph((300, 200), seed=4)), self.author, "Small")
        with self.window() as page:
            sheet = self.opened(page, paragraph("x"), picture(self.bridge.pk), picture(small.pk))
            image = sheet.locator("figure img").first
            expect(image).to_have_attribute("width", "720")
            page.get_by_role("button", name="a third").click()
            expect(image).to_have_attribute("width", "240")
            expect(image).to_have_attribute("height", "150")
            page.get_by_label("Width in px").fill("500")
            expect(image).to_have_attribute("width", "500")
            page.get_by_label("% of the original").fill("25")
            expect(image).to_have_attribute("width", "400")
            self.assertEqual(self.attrs(page)["width"], 400)
            sheet.locator("figure img").nth(1).click()
            page.get_by_label("Width in px").fill("600")
            expect(page.get_by_text("It is 300 px wide itself; larger it would only be blurred.")).to_be_visible()
            expect(sheet.locator("figure img").nth(1)).to_have_attribute("width", "300")
            page.keyboard.press("Control+z")

    def test_size_by_the_handle_is_one_step_of_undo(self):
        with self.window() as page:
            sheet = self.opened(page, paragraph("x"), picture(self.bridge.pk))
            handle = sheet.locator(".size-handle")
            box = handle.bounding_box()
            page.mouse.move(box["x"] + 10, box["y"] + 10)
            page.mouse.down()
            page.mouse.move(box["x"] - 90, box["y"] - 40, steps=4)
            page.mouse.move(box["x"] - 190, box["y"] - 90, steps=4)
            page.mouse.up()
            image = sheet.locator("figure img")
            expect(image).to_have_attribute("width", "520")
            self.assertEqual(self.attrs(page)["width"], 520)
            sheet.locator(".text > p").first.click()
            page.keyboard.press("Control+z")
            expect(image).to_have_attribute("width", "720")

    def test_beside_the_text_and_the_next_heading_is_clear_of_it(self):
        with self.window() as page:
            sheet = self.opened(
                page, picture(self.bridge.pk, width=300), paragraph("Beside it."), heading(2, "Below it")
            )
            page.get_by_role("button", name="right", exact=True).click()
            figure, words, below = (sheet.locator(each) for each in ("figure", ".text > p", "h2"))
            expect(figure).to_have_attribute("data-place", "end")
            boxes = [each.bounding_box() for each in (figure, words, below)]
            self.assertLess(boxes[1]["y"], boxes[0]["y"] + 20)
            self.assertGreaterEqual(boxes[2]["y"], boxes[0]["y"] + boxes[0]["height"])
            # Common practice: about 12 px of space on every side.
            edge = words.evaluate(
                """(each) => {
                  const range = document.createRange()
                  range.selectNodeContents(each)
                  return range.getBoundingClientRect().right
                }"""
            )
            self.assertGreaterEqual(boxes[0]["x"] - edge, 12)
            page.get_by_role("button", name="Show at the width of: Phone").click()
            expect(figure).to_have_css("float", "none")

    def test_the_last_choices_are_offered_for_the_next_picture(self):
        with self.window() as page:
            sheet = self.opened(page, paragraph("x"), picture(self.bridge.pk), picture(self.gates.pk))
            page.get_by_role("button", name="left", exact=True).click()
            page.get_by_label("Width in px").fill("260")
            page.get_by_role("button", name="a frame").click()
            # Not where the first was clicked: within half a second that would be a double click.
            sheet.locator("figure img").nth(1).click(position={"x": 20, "y": 20})
            page.get_by_role("button", name="As the last one: 260 px, left, a frame").click()
            second = sheet.locator("figure").nth(1)
            expect(second).to_have_attribute("data-border", "frame")
            found = self.attrs(page, 2)
            self.assertEqual((found["width"], found["place"], found["border"]), (260, "start", "frame"))


class Cutting(PictureTest):
    def test_a_ratio_and_a_focal_point_by_keyboard_reach_the_live_page(self):
        with self.window() as page:
            sheet = self.opened(page, paragraph("x"), picture(self.bridge.pk))
            page.get_by_role("button", name="Crop, turn, straighten").click()
            page.get_by_role("button", name="square").click()
            image = sheet.locator("figure img")
            expect(image).to_have_attribute("height", "720")
            page.get_by_role("slider", name="The focal point").focus()
            for _ in range(12):
                page.keyboard.press("ArrowLeft")
            point = page.get_by_role("slider", name="The focal point")
            expect(point).to_be_focused()
            expect(point).to_have_attribute("aria-valuetext", re.compile("^26 percent across"))
            self.axe(page, "cutting a picture")
            self.assertEqual((self.attrs(page)["ratio"], self.attrs(page)["focus"]), ("1:1", "2600,5000"))
            shown = image.get_attribute("src")
            self.assertIn("/cut/0.0.0.0.6250.10000", shown)
            page.get_by_role("button", name="Publish…").click()
            page.get_by_role("button", name="Publish now").click()
            expect(page.get_by_text("readers see just this")).to_be_visible()
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            live = reader.locator("figure img")
            expect(live).to_have_attribute("width", "720")
            natural = live.evaluate("each => each.decode().then(() => [each.naturalWidth, each.naturalHeight])")
            self.assertEqual(natural[0], natural[1])

    def test_the_frame_is_dragged_sized_by_keys_and_undone(self):
        with self.window() as page:
            sheet = self.opened(page, paragraph("x"), picture(self.bridge.pk))
            page.get_by_role("button", name="Crop, turn, straighten").click()
            page.get_by_role("button", name="free", exact=True).click()
            frame = page.get_by_role("slider", name="The frame")
            frame.focus()
            page.keyboard.press("ArrowLeft")
            page.keyboard.press("Shift+ArrowUp")
            self.assertEqual(self.attrs(page)["crop"], "300,500,9000,8800")
            frame.scroll_into_view_if_needed()
            box = frame.bounding_box()
            page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
            page.mouse.down()
            page.mouse.move(box["x"] + box["width"] / 2 + 60, box["y"] + box["height"] / 2 + 60, steps=5)
            page.mouse.up()
            self.assertEqual(self.attrs(page)["crop"], "1000,1200,9000,8800")
            sheet.locator(".text > p").first.click()
            for _ in range(4):
                page.keyboard.press("Control+z")
            self.assertIsNone(self.attrs(page)["crop"])

    def test_turned_straightened_and_put_back(self):
        with self.window() as page:
            sheet = self.opened(page, paragraph("x"), picture(self.bridge.pk, width=400))
            page.get_by_role("button", name="Crop, turn, straighten").click()
            page.get_by_role("button", name="Turn right").click()
            image = sheet.locator("figure img")
            expect(image).to_have_attribute("height", "640")
            slider = page.get_by_role("slider", name="Straighten")
            slider.focus()
            for _ in range(4):
                page.keyboard.press("ArrowRight")
            expect(page.get_by_text("Straighten by 2.0°")).to_be_visible()
            found = self.attrs(page)
            self.assertEqual((found["turn"], found["straighten"]), (1, 20))
            page.get_by_role("button", name="Reset").click()
            expect(image).to_have_attribute("height", "250")

    def test_kept_for_every_page(self):
        with self.window() as page:
            self.opened(page, paragraph("x"), picture(self.bridge.pk))
            page.get_by_role("button", name="Crop, turn, straighten").click()
            page.get_by_role("button", name="16:9").click()
            page.get_by_role("button", name="Use this crop wherever the picture is used").click()
            expect(page.get_by_text("Saved in the media library")).to_be_visible()
            self.assertIsNone(self.attrs(page)["ratio"])
        self.bridge.refresh_from_db()
        self.assertEqual(self.bridge.edits["ratio"], "16:9")
