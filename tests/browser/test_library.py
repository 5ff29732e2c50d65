"""The media library: its own screen, and what the sheet says of it."""

import base64
import shutil
import tempfile
import threading
from pathlib import Path

from django.core.files.uploadedfile import SimpleUploadedFile
from playwright.sync_api import expect

from standins.commons import CommonsServer
from stillpage.library.models import Folder, Item, Tag
from stillpage.library.receiving import receive
from stillpage.people.models import Role

from ..api.base import PASSWORD, a_person, image_bytes, photograph
from ..core.documents import document, paragraph, picture
from ..patience import PATIENT
from .base import BrowserTest
from .waiting import until

DROP = """([selector, files]) => {
  const data = new DataTransfer()
  for (const [name, type, bytes] of files)
    data.items.add(new File([Uint8Array.from(atob(bytes), (each) => each.charCodeAt(0))], name, {type}))
  const target = document.querySelector(selector)
  for (const kind of ['dragover', 'drop'])
    target.dispatchEvent(new DragEvent(kind, {bubbles: true, cancelable: true, dataTransfer: data}))
}"""
DRAG = """([from, to]) => {
  const data = new DataTransfer()
  const send = (target, kind) =>
    target.dispatchEvent(new DragEvent(kind, {bubbles: true, cancelable: true, dataTransfer: data}))
  send(from, 'dragstart')
  send(to, 'dragover')
  send(to, 'drop')
}"""


def a_file(name, data, mime="image/jpeg"):
    return [name, mime, base64.b64encode(data).decode()]


class FromTheSheet(BrowserTest):
    def test_the_particulars_of_a_picture_say_where_else_it_is_used(self):
        self.write(self.walks, document(paragraph("Level."), picture(self.gates.pk)))
        self.write(self.visit, document(picture(self.gates.pk)))
        self.put_live(self.visit)
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator("figure img").click()
            uses = page.get_by_role("region", name="Where else it is used")
            expect(uses).to_contain_text("It is used on 1 other page:")
            uses.get_by_role("link", name="Visit").click()
            expect(page.get_by_role("heading", name="Writing “Visit”")).to_be_attached()
            sheet.locator("figure img").click()
            expect(uses).to_contain_text("Towpath walks, Varrow Canal Trust (not for readers yet)")


class LibraryTest(BrowserTest):
    def library(self, page):
        page.goto(f"{self.live_server_url}/library")
        expect(page.get_by_role("heading", name="Media library")).to_be_visible()
        return page.get_by_role("listbox", name="Items").get_by_role("option")


class TheScreen(LibraryTest):
    def test_items_are_found_described_and_added(self):
        self.write(self.walks, document(picture(self.gates.pk)))
        with self.window() as page:
            options = self.library(page)
            expect(options).to_have_count(2)
            self.axe(page, "the library as pictures")
            page.get_by_role("combobox", name="Show").select_option("Without alt text")
            expect(options).to_have_text(["reedsno alt text"])
            page.get_by_role("textbox", name="Alt text").fill("Reeds at the water's edge")
            page.get_by_label("Credit").fill("Imre Fenn")
            page.get_by_role("button", name="Save").click()
            expect(page.get_by_text("Nothing in the library is like that.")).to_be_visible()
            page.get_by_role("combobox", name="Show").select_option("Everything")
            page.get_by_label("Find").fill("imre")
            expect(options).to_have_count(1)
            page.get_by_label("Find").fill("")
            page.get_by_role("button", name="Lines").click()
            expect(options.filter(has_text="lock gates")).to_contain_text("on 1 page")
            self.axe(page, "the library as lines")
            page.get_by_label("Files to add to the library").set_input_files(
                [
                    {"name": "bad.png", "mimeType": "image/png", "buffer": b"no picture"},
                    {"name": "summer.png", "mimeType": "image/png", "buffer": image_bytes((300, 200), "PNG", "#8c4")},
                ]
            )
            expect(options).to_have_count(3)
            expect(page.get_by_role("alert").filter(has_text="no picture that can be read")).to_be_visible()
            expect(page.get_by_role("heading", name="summer")).to_be_visible()
        reeds = Item.objects.get(title="reeds")
        self.assertEqual((reeds.alt, reeds.credit), ("Reeds at the water's edge", "Imre Fenn"))

    def test_what_is_typed_of_an_item_is_kept_on_going_elsewhere_and_nothing_comes_between(self):
        with self.window() as page:
            options = self.library(page)
            options.filter(has_text="lock gates").click()
            words = page.get_by_label("Description")
            words.fill("Seen from the bridge")
            # What is added meanwhile does not take the place of what is written on.
            page.evaluate(DROP, ["main", [a_file("ice.jpg", photograph((90, 60), seed=3))]])
            expect(options).to_have_count(3)
            expect(words).to_be_focused()
            page.keyboard.type(" in May")
            options.filter(has_text="reeds").click()
            expect(page.get_by_role("heading", name="reeds", exact=True)).to_be_visible()
            expect(page.get_by_role("button", name="Undo")).to_be_visible()
            options.filter(has_text="lock gates").click()
            expect(words).to_have_value("Seen from the bridge in May")
            # With the server away they wait here, and are told as not saved.
            page.route(
                "**/api/items/*", lambda route: route.abort() if route.request.method == "PATCH" else route.continue_()
            )
            words.fill("Seen from the ice")
            options.filter(has_text="reeds").click()
            expect(page.get_by_role("alert").filter(has_text="cannot be reached")).to_be_visible()
            page.unroute("**/api/items/*")
            options.filter(has_text="lock gates").click()
            expect(words).to_have_value("Seen from the ice")
            page.get_by_role("link", name="Contents", exact=True).click()
            expect(page.get_by_role("heading", level=1, name="Contents")).to_be_visible()
            until(lambda: Item.objects.get(title="lock gates").description, lambda found: found == "Seen from the ice")

    def test_arrows_go_through_the_items(self):
        with self.window() as page:
            self.library(page).first.wait_for()
            items = page.get_by_role("listbox", name="Items")
            items.focus()
            particulars = page.get_by_role("complementary", name="Particulars").get_by_role("heading", level=2)
            first = particulars.inner_text()
            page.keyboard.press("ArrowRight")
            expect(particulars).not_to_have_text(first)
            page.keyboard.press("Home")
            expect(particulars).to_have_text(first)

    def test_thirty_files_are_dropped_and_one_of_them_is_bad(self):
        files = [a_file(f"walk-{number}.jpg", photograph((90, 60), seed=number)) for number in range(29)]
        files.insert(11, a_file("torn.jpg", photograph()[:2000]))
        with self.window() as page:
            options = self.library(page)
            options.first.wait_for()
            page.evaluate(DROP, ["main", files])
            expect(page.get_by_text("31 items")).to_be_visible()
            expect(page.get_by_role("alert")).to_have_text(
                "This says it is a JPEG picture, but it cannot be read to its end. It may be damaged."
            )
            files_list = page.get_by_role("list", name="Files being added").get_by_role("listitem")
            expect(files_list).to_have_count(1)
            page.evaluate(DROP, ["main", files[:1]])
            expect(page.get_by_text("The library has this already, as “walk 0”.")).to_be_visible()
        self.assertEqual(Item.objects.count(), 31)

    def test_folders_are_made_filled_by_drag_and_undone(self):
        with self.window() as page:
            options = self.library(page)
            page.get_by_role("button", name="New folder").click()
            page.get_by_label("Name of the new folder").fill("Locks")
            page.keyboard.press("Enter")
            expect(page.get_by_text("Folder “Locks” made.")).to_be_visible()
            folder = page.get_by_role("region", name="Folders").get_by_role("button", name="Locks")
            expect(page.get_by_text("Nothing in the library is like that.")).to_be_visible()
            page.get_by_role("button", name="All folders").click()
            gates = options.filter(has_text="lock gates")
            page.evaluate(DRAG, [gates.element_handle(), folder.element_handle()])
            expect(page.get_by_text("1 item moved to “Locks”.")).to_be_visible()
            expect(folder).to_contain_text("1")
            page.get_by_role("button", name="Undo").click()
            expect(page.get_by_text("Undone: 1 item moved to “Locks”.")).to_be_visible()
            expect(folder).to_contain_text("0")
            folder.click()
            page.get_by_label("Inside the folder").select_option("the top")
            expect(page.get_by_text("Folder “Locks” changed.")).to_be_visible()
            page.get_by_label("Name of the folder").fill("All locks")
            page.get_by_role("button", name="Rename it").click()
            expect(page.get_by_text("Folder “All locks” renamed.")).to_be_visible()
        self.assertEqual(Folder.objects.get().name, "All locks")

    def test_many_are_chosen_by_key_and_acted_on_at_once(self):
        for number in range(4):
            receive(SimpleUploadedFile(f"w{number}.jpg", photograph((90, 60), seed=number)), self.author)
        with self.window() as page:
            options = self.library(page)
            expect(options).to_have_count(6)
            page.get_by_role("listbox", name="Items").focus()
            page.keyboard.press("Shift+ArrowRight")
            page.keyboard.press("Shift+ArrowRight")
            chosen = page.get_by_role("region", name="What is chosen")
            expect(chosen.get_by_role("heading", name="3 items chosen")).to_be_visible()
            page.keyboard.press("Control+a")
            expect(chosen.get_by_role("heading", name="6 items chosen")).to_be_visible()
            chosen.get_by_label("Tags to add").fill("winter, locks")
            chosen.get_by_role("button", name="Add").click()
            expect(page.get_by_text("6 items tagged.")).to_be_visible()
            chosen.get_by_role("button", name="Put into the bin …").click()
            expect(chosen.get_by_text("No page uses it.")).to_be_visible()
            chosen.get_by_role("button", name="Put into the bin", exact=True).click()
            expect(page.get_by_text("The library is empty.")).to_be_visible()
            page.get_by_role("button", name="Undo").click()
            expect(options).to_have_count(6)
        self.assertEqual(Tag.objects.count(), 2)

    def test_words_for_pictures_one_after_another_by_keyboard(self):
        for name, seed in (("snow.jpg", 4), ("ice.jpg", 3)):
            receive(SimpleUploadedFile(name, photograph((90, 60), seed=seed)), self.author)
        with self.window() as page:
            self.library(page)
            page.get_by_role("combobox", name="Show").select_option("Without alt text")
            page.get_by_role("button", name="Go through them, one after another").click()
            expect(page.get_by_role("heading", name="Picture 1 of 3 without alt text")).to_be_visible()
            expect(page.get_by_role("textbox", name="Alt text")).to_be_focused()
            page.keyboard.type("Ice on the canal")
            page.keyboard.press("Enter")
            second = page.get_by_role("heading", name="Picture 2 of 3 without alt text")
            expect(second).to_be_visible()
            expect(page.get_by_role("textbox", name="Alt text")).to_be_focused()
            # Who leaves in the middle finds it saved.
            page.keyboard.type("Snow on the lock")
            page.keyboard.press("Escape")
            expect(second).to_be_hidden()
            page.get_by_role("button", name="Go through them, one after another").click()
            expect(page.get_by_role("heading", name="Picture 1 of 1 without alt text")).to_be_visible()
            page.get_by_role("button", name="It is decorative").click()
            expect(page.get_by_role("heading", name="That was the last")).to_be_visible()
            page.keyboard.press("Enter")
            expect(page.get_by_text("Nothing in the library is like that.")).to_be_visible()
        self.assertEqual(Item.objects.filter(wordless=True).count(), 0)
        self.assertEqual(Item.objects.get(title="ice").alt, "Ice on the canal")
        self.assertEqual(Item.objects.get(title="snow").alt, "Snow on the lock")

    def test_thousands_of_items_are_scrolled_and_only_what_is_seen_is_drawn(self):
        Item.objects.bulk_create(
            (
                Item(
                    kind="document",
                    mime="application/pdf",
                    title=f"Paper {number:04}",
                    added_at="2020-01-01T00:00Z",
                    added_by=self.author,
                )
                for number in range(5_000)
            ),
            batch_size=5000,
        )
        with self.window() as page:
            options = self.library(page)
            expect(page.get_by_text("5,002 items")).to_be_visible()
            page.get_by_label("Order").select_option("by title")
            page.get_by_role("button", name="Lines").click()
            page.get_by_role("listbox", name="Items").focus()
            page.keyboard.press("End")
            expect(options.filter(has_text="reeds")).to_be_visible()
            self.assertLess(options.count(), 60)
            page.keyboard.press("PageUp")
            expect(page.locator("[data-current]")).to_contain_text("Paper 49")
            self.assertEqual(options.first.get_attribute("aria-setsize"), "5002")
            # Looked at in another way, what was looked at stays in view: the current one, or where one has scrolled.
            page.keyboard.press("End")
            expect(options.filter(has_text="reeds")).to_be_visible()
            page.get_by_role("button", name="Pictures", exact=True).click()
            expect(options.filter(has_text="reeds")).to_be_in_viewport()
            page.get_by_role("listbox", name="Items").evaluate("(list) => list.parentElement.scrollTo(0, 188 * 300)")
            expect(options.filter(has_text="Paper 1200")).to_be_in_viewport()
            page.get_by_role("button", name="Lines").click()
            expect(options.filter(has_text="Paper 1200")).to_be_in_viewport()
            # A key that comes before the other way is drawn is not lost.
            both = """() => {
                document.querySelector('[role=listbox]').dispatchEvent(
                    new KeyboardEvent('keydown', { key: 'Home', bubbles: true }))
                const buttons = [...document.querySelectorAll('[role=toolbar] button')]
                const press = (name) => buttons.find((each) => each.textContent === name).click()
                press('Pictures')
                document.querySelector('[role=listbox]').dispatchEvent(
                    new KeyboardEvent('keydown', { key: 'End', bubbles: true }))
                press('Lines')
            }"""
            page.evaluate(both)
            expect(options.filter(has_text="reeds")).to_be_in_viewport()

    def test_a_narrow_screen_shows_everything_one_below_the_other(self):
        with self.window(390, 800) as page:
            self.library(page).first.wait_for()
            self.axe(page, "the library on a narrow screen")
            wide = page.evaluate("document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390)


class Sending(LibraryTest):
    def test_a_file_goes_on_after_the_connection_was_lost(self):
        data = b"%PDF-1.4\n1 0 obj\n<<>>\nendobj\n" + b"% filling\n" * 2_000_000 + b"%%EOF"
        path = self.folder_of_its_own() / "guide.pdf"
        path.write_bytes(data)
        starts = []
        with self.window() as page:
            options = self.library(page)
            options.first.wait_for()
            page.on("request", lambda each: "start=" in each.url and starts.append(int(each.url.rsplit("=", 1)[1])))
            # The first is cut off; the next is held until what is told meanwhile has been seen.
            second = []

            def hold(route):
                second.append(route)

            page.route("**/api/uploads/*?start=8388608", hold, times=1)
            page.route("**/api/uploads/*?start=8388608", lambda route: route.abort("connectionreset"), times=1)
            page.get_by_label("Files to add to the library").set_input_files(path)
            expect(page.get_by_text("The connection is lost; it goes on by itself.")).to_be_visible()
            until(lambda: second, page=page)
            second[0].continue_()
            expect(options.filter(has_text="guide")).to_be_visible()
        piece = 8 * 1024 * 1024
        self.assertEqual(starts, [0, piece, piece, 2 * piece])
        self.assertEqual(Item.objects.get(title="guide").size, len(data))

    def test_a_file_goes_on_after_the_window_was_closed(self):
        data = b"%PDF-1.4\n1 0 obj\n<<>>\nendobj\n" + b"% filling\n" * 1_500_000 + b"%%EOF"
        path = self.folder_of_its_own() / "guide.pdf"
        path.write_bytes(data)
        with self.window() as page:
            self.library(page).first.wait_for()
            page.route("**/api/uploads/*?start=8388608", lambda route: None)
            page.get_by_label("Files to add to the library").set_input_files(path)
            expect(page.get_by_role("progressbar")).to_have_js_property("value", 8 * 1024 * 1024 / len(data))
            page.close()
        starts = []
        with self.window() as page:
            options = self.library(page)
            options.first.wait_for()
            page.on("request", lambda request: "start=" in request.url and starts.append(request.url))
            page.get_by_label("Files to add to the library").set_input_files(path)
            expect(options.filter(has_text="guide")).to_be_visible()
        # What was on its way when the window closed may have arrived, or a part of it; nothing before it is sent again.
        self.assertLessEqual(len(starts), 1)
        for start in starts:
            self.assertGreaterEqual(int(start.rsplit("=", 1)[1]), 8 * 1024 * 1024)
        self.assertEqual(Item.objects.get(title="guide").size, len(data))

    def folder_of_its_own(self):
        folder = tempfile.mkdtemp(prefix="stillpage-files-")
        self.addCleanup(shutil.rmtree, folder)
        return Path(folder)

    def test_sending_is_cancelled(self):
        with self.window() as page:
            self.library(page).first.wait_for()
            page.route("**/api/uploads/*?start=0", lambda route: None)
            page.get_by_label("Files to add to the library").set_input_files(
                {"name": "a.jpg", "mimeType": "image/jpeg", "buffer": photograph()}
            )
            page.get_by_role("button", name="Cancel").click()
            expect(page.get_by_role("list", name="Files being added")).to_have_count(0)
        self.assertEqual(Item.objects.count(), 2)


class Afterwards(LibraryTest):
    def test_a_file_is_replaced_everywhere_after_each_use_was_seen(self):
        self.write(self.walks, document(paragraph("x"), picture(self.gates.pk), picture(self.gates.pk, ratio="1:1")))
        self.write(self.visit, document(paragraph("x"), picture(self.gates.pk)))
        for page in (self.walks, self.visit):
            self.put_live(page)
        with self.window() as page:
            options = self.library(page)
            options.filter(has_text="lock gates").click()
            page.get_by_role("button", name="Replace the file, earlier files").click()
            page.get_by_label("A newer file for lock gates").set_input_files(
                {"name": "newer.jpg", "mimeType": "image/jpeg", "buffer": photograph((1000, 500), seed=8)}
            )
            seen = page.get_by_role("list", name="What will be seen where")
            expect(seen.get_by_role("listitem")).to_have_count(2)
            expect(seen.locator("canvas")).to_have_count(3)
            expect(page.get_by_text("It is smaller than the present one")).to_be_visible()
            page.get_by_role("button", name="Put it in the place of the present file, everywhere").click()
            expect(page.get_by_text("“lock gates” has a newer file. The earlier one is kept.")).to_be_visible()
            versions = page.get_by_role("list", name="Earlier files")
            expect(versions.get_by_role("listitem")).to_have_count(2)
            self.make_files(self.gates)
            with self.window(user=None) as reader:
                for site_page, shape in ((self.walks, (720, 360)), (self.visit, (720, 360))):
                    reader.goto(self.address(site_page))
                    image = reader.locator("figure img").first
                    self.assertEqual(
                        (image.get_attribute("width"), image.get_attribute("height")), tuple(map(str, shape))
                    )
            versions.get_by_role("button", name="Show this one again").click()
            expect(page.get_by_text("“lock gates” has its earlier file again.")).to_be_visible()
        self.gates.refresh_from_db()
        self.assertEqual((self.gates.version, self.gates.width), (1, 1200))

    def test_into_the_bin_with_its_uses_shown_and_removed_for_good_by_a_keeper(self):
        a_person("piet", Role.KEEPER)
        self.write(self.walks, document(paragraph("x"), picture(self.gates.pk)))
        self.put_live(self.walks)
        with self.window(user="piet") as page:
            options = self.library(page)
            options.filter(has_text="lock gates").click()
            page.get_by_role("button", name="Put into the bin …").click()
            before = page.get_by_role("region", name="Before it goes into the bin")
            expect(before).to_contain_text("Towpath walks, Varrow Canal Trust")
            self.axe(page, "before the bin")
            before.get_by_role("button", name="Put into the bin").click()
            expect(options).to_have_count(1)
            page.get_by_role("combobox", name="Show").select_option("The bin")
            expect(options).to_have_count(1)
            page.get_by_role("button", name="Remove for good …").click()
            page.get_by_role("button", name="Remove for good; there is no way back").click()
            expect(page.get_by_role("alert")).to_contain_text("still on a live page")
            page.get_by_role("button", name="Cancel").click()
            page.get_by_role("button", name="Restore from the bin").click()
            expect(page.get_by_text("The bin is empty.")).to_be_visible()

    def test_what_is_for_signed_in_readers_asks_visitors_to_sign_in_and_leads_them_back(self):
        pdf = b"%PDF-1.4\n1 0 obj\n<<>>\nendobj\n%%EOF"
        minutes, _ = receive(SimpleUploadedFile("minutes.pdf", pdf), self.author)
        a_person("piet", Role.KEEPER)
        a_person("fen", Role.READER)
        address = f"{self.site.origin}/media/{minutes.files.get().name}"
        with self.window(user="piet") as page:
            options = self.library(page)
            options.filter(has_text="minutes").click()
            page.get_by_label("For signed-in readers only").click()
            expect(page.get_by_text("“minutes” described.")).to_be_visible()
        with self.settings(AUTHORING_ORIGIN=self.live_server_url), self.window(user=None) as visitor:
            answer = visitor.goto(address)
            self.assertEqual(answer.status, 403)
            self.axe(visitor, "asked to sign in")
            visitor.get_by_role("link", name="Sign in").click()
            visitor.get_by_label("Name").fill("fen")
            visitor.get_by_label("Password").fill(PASSWORD)
            with visitor.expect_response(address) as led_back:
                visitor.get_by_role("button", name="Sign in").click()
            cookies = {cookie["name"] for cookie in visitor.context.cookies(self.site.origin)}
            self.assertIn("reader", cookies)
            self.assertEqual(led_back.value.status, 200)

    def test_a_picture_is_cut_for_every_page_at_once(self):
        self.write(self.walks, document(paragraph("x"), picture(self.gates.pk)))
        self.put_live(self.walks)
        with self.window() as page:
            self.library(page).filter(has_text="lock gates").click()
            page.get_by_role("button", name="Crop, turn, straighten").click()
            page.get_by_role("button", name="16:9").click()
            page.get_by_role("button", name="Save; the page that uses it will show it").click()
            expect(page.get_by_text("“lock gates” described.")).to_be_visible()
        self.gates.refresh_from_db()
        self.assertEqual(self.gates.edits["ratio"], "16:9")
        self.make_files(self.gates)
        with self.window(user=None) as reader:
            reader.goto(self.address(self.walks))
            expect(reader.locator("figure img")).to_have_attribute("height", "405")


class Elsewhere(LibraryTest):
    """The commons and addresses, answered by the stand-in."""

    def setUp(self):
        super().setUp()
        self.commons = CommonsServer(0)
        threading.Thread(target=self.commons.serve_forever, daemon=True).start()
        self.addCleanup(self.commons.server_close)
        self.addCleanup(self.commons.shutdown)
        host = f"127.0.0.1:{self.commons.server_address[1]}"
        self.host = host
        settings = self.settings(COMMONS=f"http://{host}", OUTSIDE_ALLOWED=[host], OUTSIDE_SECONDS=PATIENT)
        settings.enable()
        self.addCleanup(settings.disable)

    def test_from_the_commons_onto_the_page_without_leaving_the_text(self):
        self.write(self.walks, document(paragraph("Before the picture")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.get_by_text("Before the picture").click()
            page.keyboard.press("Control+Enter")
            page.keyboard.type("snowy village")
            option = page.get_by_role("option", name="Snowy village")
            expect(option).to_contain_text("Free to use, by Bram Ollerton")
            option.click()
            expect(sheet.locator("figure img")).to_have_attribute("alt", "A village in snow")
            self.saved(page)
        item = Item.objects.get(title="Snowy village")
        self.assertEqual((item.credit, item.licence), ("Bram Ollerton", "CC BY-SA 4.0"))

    def test_in_the_library_and_what_is_said_when_it_is_away(self):
        with self.window() as page:
            options = self.library(page)
            options.first.wait_for()
            page.get_by_role("button", name="Look in the commons").click()
            commons = page.get_by_role("region", name="The commons")
            commons.get_by_label("Find in the commons").fill("heron")
            expect(commons.get_by_role("listitem")).to_have_count(1)
            commons.get_by_role("button", name="Take Heron water").click()
            expect(options.filter(has_text="Heron water")).to_be_visible()
            self.commons.mode = "refusing"
            commons.get_by_label("Find in the commons").fill("walkers")
            expect(commons.get_by_text("it does not give this out")).to_be_visible()
            self.commons.mode = "well"
            commons.get_by_role("button", name="Try again").click()
            expect(commons.get_by_role("listitem")).to_have_count(1)

    def test_by_address(self):
        with self.window() as page:
            options = self.library(page)
            page.get_by_label("Add from an address").fill(f"http://{self.host}/files/canal-bend.jpg")
            page.keyboard.press("Enter")
            expect(options.filter(has_text="canal bend")).to_be_visible()
            page.get_by_label("Add from an address").fill("http://10.0.0.1/a.jpg")
            page.keyboard.press("Enter")
            expect(page.get_by_role("alert")).to_contain_text("in a private network")
