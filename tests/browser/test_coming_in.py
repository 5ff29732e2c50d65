"""Pasting, bringing in files, taking pages along, and the source view, in the real interface with a real clipboard."""

import json
import zipfile
from base64 import b64encode
from io import BytesIO
from pathlib import Path

from playwright.sync_api import expect

from stillpage.library.models import Item
from stillpage.pages.models import Page as SitePage
from stillpage.written.models import WorkingCopy
from stillpage_core.document.walking import text_of
from stillpage_core.formats import read_file

from ..api.base import image_bytes
from ..core.documents import bulleted, cell, document, heading, item, paragraph, quotation, table
from .base import BrowserTest

FIXTURES = Path(__file__).parents[1] / "fixtures"
CLIPBOARD = ["clipboard-read", "clipboard-write"]
COPY = """([html, text]) => {
    const put = (event) => {
        event.preventDefault()
        event.stopImmediatePropagation()
        if (html) event.clipboardData.setData("text/html", html)
        if (text) event.clipboardData.setData("text/plain", text)
    }
    document.addEventListener("copy", put, { capture: true, once: true })
    if (!document.execCommand("copy")) throw new Error("nothing was copied")
}"""


PICTURE = b64encode(image_bytes((90, 60), "PNG", "#563")).decode()


class ComingIn(BrowserTest):
    def copy(self, page, html="", text=""):
        """Put something on the clipboard, as a program puts it there."""
        page.evaluate(COPY, [html, text])

    def paste(self, page, state="here"):
        page.keyboard.press("Control+V")
        expect(page.locator(f"[data-arrival={state}]")).to_be_visible()

    def line(self, page):
        return page.locator("[data-arrival]")

    def begin(self, page, *blocks):
        """Open “Towpath walks” with these blocks, the caret at its end."""
        if blocks:
            self.write(self.walks, document(*blocks))
        sheet = self.open(page, self.walks)
        sheet.locator(".text").click()
        self.settled(page)
        page.keyboard.press("Control+End")
        self.settled(page)
        return sheet

    def kinds(self, sheet):
        return sheet.locator(".text").evaluate(
            "text => [...text.children].map((each) => each.localName + ':' + each.textContent)"
        )


class Pasting(ComingIn):
    def test_a_word_processors_document_keeps_its_structure_in_one_step_and_is_told(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page)
            self.copy(page, (FIXTURES / "towpath-guide.html").read_text(), "words")
            self.paste(page)
            expect(sheet.locator(".text > h2")).to_have_text("Before you set out")
            expect(sheet.locator(".text ul ol ul li")).to_have_text("with a hood")
            expect(sheet.locator(".text th")).to_have_text(["Lock", "Rise", "Keeper"])
            expect(sheet.locator(".text figure.picture img")).to_be_visible()
            expect(self.line(page)).to_contain_text("3 headings, 5 lists, 1 table, 6 links, 1 picture")
            expect(self.line(page)).to_contain_text("left out 2 sorts of things")
            self.assertEqual(Item.objects.count(), 3)
            page.get_by_role("button", name="See what was done").click()
            details = page.get_by_role("region", name="What was done")
            expect(details).to_contain_text("Headings were lowered by one level")
            expect(details).to_contain_text("Hidden text was left out")
            self.axe(page, "after a paste")
            page.keyboard.press("Escape")
            page.keyboard.press("Control+Z")
            expect(sheet.locator(".text h2")).to_have_count(0)
            expect(sheet.locator(".text")).to_have_text("")
            page.keyboard.press("Control+Y")
            expect(sheet.locator(".text th")).to_have_count(3)
            self.saved(page)

    def test_lists_of_declared_paragraphs_and_a_picture_that_lies_beside_them(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page)
            html = (FIXTURES / "word-clipboard.html").read_text()
            picture = list(image_bytes((133, 107), "PNG", "#284"))
            page.evaluate(
                """async ([html, bytes]) => navigator.clipboard.write([new ClipboardItem({
                    "text/html": new Blob([html], { type: "text/html" }),
                    "image/png": new Blob([new Uint8Array(bytes)], { type: "image/png" }) })])""",
                [html, picture],
            )
            # Writing HTML to the clipboard has the browser read it in this page, whose policy tells what it keeps out.
            self.problems.clear()
            sheet.locator(".text").click()
            self.paste(page)
            expect(sheet.locator(".text > h2")).to_have_text("Winter work")
            expect(sheet.locator(".text > ul > li > ul > li")).to_have_text("upper pair")
            expect(sheet.locator(".text > ol").first).to_have_attribute("start", "3")
            # Its alt text came along; were there none, it would be asked for.
            expect(sheet.locator(".text figure img")).to_have_attribute("alt", "Closed lock gates")
            self.assertEqual(Item.objects.filter(files__width=133, files__original=True).count(), 1)

    def test_a_picture_without_alt_text_asks_for_it(self):
        with self.window(permissions=CLIPBOARD) as page:
            self.begin(page, paragraph("Before."))
            self.copy(page, f'<p>a</p><img src="data:image/png;base64,{PICTURE}">')
            self.paste(page)
            page.get_by_role("button", name="A picture has no alt text: write it").click()
            page.get_by_label("Alt text").fill("Reeds at dusk")
            expect(page.get_by_role("button", name="A picture has no alt text")).to_have_count(0)

    def test_what_chromium_copies_from_a_page_of_boxes_and_from_a_spreadsheets_page(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page, paragraph("Before."))
            for name in ("web-page.html", "stoppages.html"):
                other = page.context.new_page()
                other.goto(f"file://{FIXTURES / name}")
                other.keyboard.press("Control+A")
                other.keyboard.press("Control+C")
                other.close()
                page.bring_to_front()
                sheet.locator(".text > p").last.click()
                page.keyboard.press("Control+End")
                self.settled(page)
                self.paste(page)
                expect(page.get_by_role("button", name="Cancel")).to_have_count(0)
                page.get_by_role("button", name="Dismiss").click()
            expect(sheet.locator(".text > h2")).to_have_text("Walks from the museum")
            expect(sheet.locator(".text > h3")).to_have_text("Left column")
            expect(sheet.locator(".text th")).to_have_text(["Lock", "From", "Weeks"])
            expect(sheet.locator(".text [style]")).to_have_count(0)
            expect(sheet.locator(".text")).not_to_contain_text("tracking words")

    def test_one_key_right_after_gives_the_plain_words_with_their_paragraphs(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page, paragraph("Before."))
            self.copy(page, "<ul><li>one</li><li>two</li></ul><p><b>three</b></p>", "- one\n- two\n\nthree")
            self.paste(page)
            expect(sheet.locator(".text li")).to_have_count(2)
            self.do(page, "plain words")
            expect(sheet.locator(".text li")).to_have_count(0)
            self.assertEqual(self.kinds(sheet), ["p:Before.", "p:- one- two", "p:three"])
            expect(self.line(page)).to_contain_text("kept the words and their paragraphs")
            page.keyboard.press("Control+Z")
            self.assertEqual(self.kinds(sheet), ["p:Before."])

    def test_paste_without_formatting_keeps_the_paragraphs(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page, paragraph("Before."))
            self.copy(page, "<h2>one</h2><p>two</p>", "one\n\ntwo")
            page.keyboard.press("Control+Shift+V")
            expect(self.line(page)).to_contain_text("kept the words and their paragraphs")
            self.assertEqual(self.kinds(sheet), ["p:Before.", "p:one", "p:two"])

    def test_it_lands_in_words_lists_cells_and_quotations(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(
                page,
                paragraph("Before after"),
                bulleted(item(paragraph("first")), item(paragraph("last"))),
                table([cell("a", header=True), cell("b", header=True)], [cell("c"), cell("d")]),
                quotation(paragraph("said")),
            )

            def at_end_of(where):
                where.click()
                self.settled(page)
                page.keyboard.press("End")
                self.settled(page)

            at_end_of(sheet.locator(".text > p").first)
            for _ in " after":
                page.keyboard.press("ArrowLeft")
            self.copy(page, "<p> and <b>now</b></p>", " and now")
            self.paste(page)
            expect(sheet.locator(".text > p").first).to_have_text("Before and now after")
            at_end_of(sheet.locator(".text li p").first)
            self.copy(page, "<ol><li>x<ul><li>deep</li></ul></li><li>y</li></ol>")
            self.paste(page)
            expect(sheet.locator(".text > ul > li > p")).to_have_text(["first", "x", "y", "last"])
            expect(sheet.locator(".text > ul ul li")).to_have_text("deep")
            at_end_of(sheet.locator(".text td p").first)
            self.copy(page, "<table><tr><td>1</td><td>2</td></tr><tr><td>3</td><td>4</td></tr></table>")
            self.paste(page)
            expect(sheet.locator(".text td")).to_have_text(["1", "2", "3", "4"])
            expect(sheet.locator(".text th")).to_have_text(["a", "b"])
            at_end_of(sheet.locator(".text blockquote p"))
            self.copy(page, "<h2>Heading</h2><p>words</p>")
            self.paste(page)
            expect(sheet.locator(".text blockquote p")).to_have_text(["said", "Heading", "words"])
            self.saved(page)

    def test_what_is_written_while_it_is_being_read_stays(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page, paragraph("Before"))

            def slowly(route):
                page.wait_for_timeout(900)
                route.continue_()

            page.route("**/api/paste", slowly)
            self.copy(page, "<h2>Heading</h2><p>words</p>")
            page.keyboard.press("Control+V")
            page.keyboard.type(" typed on")
            expect(page.locator("[data-arrival=here]")).to_be_visible()
            self.assertEqual(self.kinds(sheet), ["p:Before", "h2:Heading", "p:words", "p: typed on"])

    def test_while_the_server_is_away_the_browser_reads_and_says_so(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page, paragraph("Before."))
            self.copy(page, "<h2 style='color:red' onclick='x()'>Heading</h2><ul><li>one</li></ul><script>x()</script>")
            page.context.set_offline(True)
            page.keyboard.press("Enter")
            self.paste(page, "read-here")
            expect(self.line(page)).to_contain_text("The server cannot be reached. So the browser read the paste")
            expect(sheet.locator(".text h2")).to_have_text("Heading")
            expect(sheet.locator(".text li")).to_have_text("one")
            expect(sheet.locator(".text [style], .text [onclick], .text script")).to_have_count(0)
            page.keyboard.press("Control+Z")
            expect(sheet.locator(".text h2")).to_have_count(0)
            page.context.set_offline(False)
            # What the browser reads by itself meets the page's policy, which tells of what it keeps out.
            self.problems = [each for each in self.problems if "Content Security Policy" not in each]

    def test_it_takes_the_place_of_what_is_selected(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page, heading(2, "Old"), paragraph("Old words."), bulleted(item(paragraph("old"))))
            self.copy(page, "<h2>New</h2><p>New words.</p>")
            page.keyboard.press("Control+A")
            self.paste(page)
            self.assertEqual(self.kinds(sheet), ["h2:New", "p:New words."])
            page.keyboard.press("Control+Z")
            self.assertEqual(self.kinds(sheet), ["h2:Old", "p:Old words.", "ul:old"])

    def test_text_dragged_from_another_window_is_read_as_a_paste_is(self):
        with self.window() as page:
            sheet = self.begin(page, paragraph("First."), paragraph("Second."))
            data = sheet.locator("body").evaluate_handle(
                """(body) => {
                  const data = new body.ownerDocument.defaultView.DataTransfer()
                  data.setData("text/html", "<p>- a</p><p>- b</p>")
                  return data
                }"""
            )
            first = sheet.locator(".text p").first
            x, y = first.evaluate("p => { const b = p.getBoundingClientRect(); return [b.x + 200, b.y + 10] }")
            first.dispatch_event("drop", {"clientX": x, "clientY": y, "dataTransfer": data})
            expect(sheet.locator(".text li")).to_have_text(["a", "b"])
            self.assertEqual(self.kinds(sheet), ["p:First.", "ul:ab", "p:Second."])

    def test_what_comes_from_a_sheet_stays_as_it_is(self):
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page, heading(2, "A"), paragraph("b"), paragraph("- no list"))
            asked = []
            page.on("request", lambda request: asked.append(request.url) if "/api/paste" in request.url else None)
            page.keyboard.press("Control+A")
            page.keyboard.press("Control+C")
            page.keyboard.press("Control+End")
            self.settled(page)
            page.keyboard.press("Enter")
            page.keyboard.press("Control+V")
            expect(sheet.locator(".text h2")).to_have_count(2)
            expect(sheet.locator(".text li")).to_have_count(0)
            self.assertEqual(asked, [])


class Files(ComingIn):
    def choose(self, page, *files):
        page.keyboard.press("Control+Enter")
        page.get_by_label("Files from this computer").set_input_files(list(files))

    def test_the_text_of_a_word_document_comes_onto_the_page(self):
        with self.window() as page:
            sheet = self.begin(page)
            self.choose(page, FIXTURES / "towpath-guide.docx")
            page.get_by_role("button", name="Put its text onto the page").click()
            expect(sheet.locator(".title")).to_have_text("The Varrow towpath guide")
            expect(sheet.locator("figure.picture figcaption")).to_have_text("The gates of Lock 4 in winter")
            expect(sheet.locator("figure.picture img")).to_have_attribute("alt", "Closed lock gates, water on one side")
            expect(self.line(page)).to_contain_text("towpath-guide.docx: kept 5 paragraphs, 3 headings")
            sheet.locator("figure.picture img").click()
            caption = page.get_by_label("Caption")
            expect(caption).to_have_value("The gates of Lock 4 in winter")
            caption.fill("In winter")
            expect(sheet.locator("figure.picture figcaption")).to_have_text("In winter")
            self.saved(page)

    def test_it_may_be_a_document_to_link_to_instead(self):
        with self.window() as page:
            sheet = self.begin(page, paragraph("See "))
            self.choose(page, FIXTURES / "towpath-guide.odt")
            page.get_by_role("button", name="Add it as a document to link to").click()
            expect(sheet.locator(".text a")).to_contain_text("ODT")

    def test_a_file_that_cannot_be_read_says_why_and_changes_nothing(self):
        with self.window() as page:
            sheet = self.begin(page, paragraph("As it was."))
            broken = {"name": "broken.docx", "mimeType": "application/zip", "buffer": b"PK\x03\x04 cut off"}
            self.choose(page, broken)
            page.get_by_role("button", name="Put its text onto the page").click()
            expect(page.locator("[data-arrival=failed]")).to_contain_text("broken.docx was not brought in")
            self.choose(page, {"name": "picture.md", "mimeType": "text/markdown", "buffer": image_bytes((300, 300))})
            expect(page.locator("[data-arrival=failed]")).to_contain_text("no text, whatever its name says")
            self.assertEqual(self.kinds(sheet), ["p:As it was."])

    def test_a_folder_in_a_zip_becomes_pages_with_progress_and_a_report(self):
        files = BytesIO()
        with zipfile.ZipFile(files, "w") as archive:
            for number in range(1, 13):
                onward = f"Then [the next](walk-{number % 12 + 1}.md)."
                text = f"# Walk {number}\n\n![Gates](gates.png)\n\n{onward}\n\n-  a\n-  b\n"
                archive.writestr(f"walks/walk-{number}.md", text)
            archive.writestr("walks/gates.png", image_bytes((200, 100), "PNG"))
            archive.writestr("walks/broken.docx", b"no document")
        before = SitePage.objects.count()
        with self.window() as page:
            page.goto(self.live_server_url)
            page.get_by_role("button", name="Import files").click()
            given = {"name": "walks.zip", "mimeType": "application/zip", "buffer": files.getvalue()}
            page.get_by_label("Files to import").set_input_files(given)
            region = page.get_by_role("region", name="Import files")
            expect(region).to_contain_text("12 pages were made. 1 file could not be read.")
            expect(region).to_contain_text("broken.docx: This file is named like a Word document, but is none.")
            self.axe(page, "after an import")
            region.get_by_role("link", name="Walk 12").click()
            sheet = page.frame_locator("iframe")
            expect(sheet.locator(".text a")).to_have_text("the next")
            expect(sheet.locator(".text figure img")).to_have_attribute("alt", "Gates")
        self.assertEqual(SitePage.objects.count(), before + 12)
        first, last = SitePage.objects.get(path="/walk-1"), SitePage.objects.get(path="/walk-12")
        self.assertIn(f"page:{first.pk}", json.dumps(last.working_copy.tree.to_json()))

    def test_an_import_that_is_cancelled_makes_no_page(self):
        before = SitePage.objects.count()
        with self.window() as page:
            page.goto(self.live_server_url)
            page.get_by_role("button", name="Import files").click()
            given = [
                {"name": f"{number}.html", "mimeType": "text/html", "buffer": b"<p>some words of a walk</p>" * 6_000}
                for number in range(60)
            ]
            page.get_by_label("Files to import").set_input_files(given)
            region = page.get_by_role("region", name="Import files")
            expect(region).to_contain_text("of 60")
            region.get_by_role("button", name="Cancel").click()
            expect(region).to_contain_text("Broken off. No page was made.")
            page.wait_for_timeout(1500)
        self.assertEqual(SitePage.objects.count(), before)

    def test_a_page_goes_out_in_every_format_with_what_was_written_last(self):
        with self.window() as page:
            sheet = self.begin(page, heading(2, "Before you set out"), paragraph("Words"))
            self.type_at_end(page, sheet, " written last")
            for name, ending in (
                ("DOCX", "docx"),
                ("ODT", "odt"),
                ("Markdown", "md"),
                ("HTML", "html"),
                ("Text", "txt"),
            ):
                with page.expect_download() as coming:
                    page.get_by_role("button", name=name, exact=True).click()
                file = Path(coming.value.path()).read_bytes()
                self.assertEqual(coming.value.suggested_filename, f"towpath-walks.{ending}")
                found = text_of(read_file(f"a.{ending}", file).document)
                self.assertIn("Words written last", found)

    def test_the_whole_site_goes_out(self):
        self.put_live(self.home)
        with self.window() as page:
            page.goto(self.live_server_url)
            with page.expect_download() as coming:
                page.get_by_role("link", name="Export the whole site").click()
            with zipfile.ZipFile(coming.value.path()) as archive:
                self.assertIn("index.html", archive.namelist())


class Source(ComingIn):
    def test_it_is_checked_as_typed_and_applied_in_one_step_with_the_caret_kept(self):
        with self.window() as page:
            sheet = self.begin(page, heading(2, "Walks"), paragraph("Level and dry."), paragraph("The end."))
            sheet.locator(".text p").first.click()
            self.settled(page)
            page.keyboard.press("Home")
            for _ in "Level":
                page.keyboard.press("ArrowRight")
            self.settled(page)
            self.do(page, "source")
            code = page.get_by_role("textbox", name="The source of the page")
            expect(code).to_be_focused()
            expect(page.get_by_role("region", name="What would not come through")).to_contain_text("All of it")
            page.keyboard.type(", <b onclick='x()'>short</b><script>y()</script>")
            notes = page.get_by_role("region", name="What would not come through")
            expect(notes).to_contain_text("will not come through as written")
            expect(notes).to_contain_text("The attribute “onclick” of <b> will be left out.")
            expect(notes).to_contain_text("<script>, a script, will be left out with what is in it.")
            expect(notes).to_contain_text("<b> will be written as <strong>.")
            self.axe(page, "the source view")
            page.keyboard.press("Control+Enter")
            expect(sheet.locator(".text p").first).to_have_text("Level, short and dry.")
            expect(sheet.locator(".text strong")).to_have_text("short")
            page.keyboard.type("X")
            expect(sheet.locator(".text p").first).to_have_text("Level, shortX and dry.")
            page.keyboard.press("Control+Z")
            page.keyboard.press("Control+Z")
            expect(sheet.locator(".text p").first).to_have_text("Level and dry.")

    def test_leaving_it_with_changes_asks_and_changes_nothing(self):
        with self.window() as page:
            sheet = self.begin(page, paragraph("As it was."))
            self.do(page, "source")
            expect(page.get_by_role("textbox", name="The source of the page")).to_be_focused()
            page.keyboard.press("Control+A")
            page.keyboard.press("Delete")
            page.keyboard.type("<p>Otherwise.")
            page.keyboard.press("Escape")
            expect(page.get_by_text("What you changed in the source is not on the page yet.")).to_be_visible()
            page.get_by_role("button", name="Discard my changes").click()
            self.assertEqual(self.kinds(sheet), ["p:As it was."])
            expect(sheet.locator(".regions")).to_be_focused()


class Meanwhile(ComingIn):
    """Files take their time; whoever brings them in writes on."""

    def held(self, page, address):
        """Hold what is asked at an address until what is given is called."""
        waiting = []
        page.route(address, lambda route: route.continue_() if waiting is None else waiting.append(route))

        def let_go():
            nonlocal waiting
            routes, waiting = waiting, None
            for route in routes:
                route.continue_()

        return let_go

    def choose(self, page, *files):
        page.keyboard.press("Control+Enter")
        page.locator('input[type="file"]').first.set_input_files(
            [{"name": name, "mimeType": "image/png", "buffer": data} for name, data in files]
        )

    def test_what_comes_later_stands_where_it_was_meant_in_order_and_takes_the_place_of_no_word(self):
        pictures = [(f"{name}.png", image_bytes((90 + index, 60), "PNG")) for index, name in enumerate("ab")]
        with self.window(permissions=CLIPBOARD) as page:
            sheet = self.begin(page, paragraph("Here"), paragraph("There"))
            let_go = self.held(page, "**/api/uploads/*?start=0")
            self.caret_at_end(page, "Here")
            self.choose(page, *pictures, ("bad.png", b"no picture"))
            self.caret_at_end(page, "There")
            page.keyboard.type(" I go")
            # Whoever leaves now is told that they would not come.
            page.get_by_role("link", name="Contents of").click()
            leaving = page.get_by_role("region", name="Leaving this page")
            expect(leaving.get_by_role("button", name="Stay here")).to_be_focused()
            self.axe(page, "leaving while files are on their way")
            page.keyboard.press("Enter")
            expect(leaving).to_be_hidden()
            self.caret_at_end(page, "There I go")
            let_go()
            expect(sheet.locator(".text figure img")).to_have_count(2)
            page.keyboard.type(" on")
            expect(sheet.locator(".text > p")).to_have_text(["Here", "There I go on"])
            self.assertEqual(self.kinds(sheet), ["p:Here", "figure:", "figure:", "p:There I go on"])
            expect(page.get_by_role("alert").filter(has_text="no picture that can be read")).to_be_visible()
            self.saved(page)
            titles = [Item.objects.get(pk=each["attrs"]["item"]).title for each in self.pictures()]
            self.assertEqual(titles, ["a", "b"])
            # A letter typed on what is selected as a whole takes its place no more than what comes later does.
            sheet.locator(".text figure img").nth(1).click()
            page.keyboard.type("Below")
            expect(sheet.locator(".text > p")).to_have_text(["Here", "Below", "There I go on"])
            expect(sheet.locator(".text figure img")).to_have_count(2)
            # So with a paste that is read late.
            let_go = self.held(page, "**/api/paste")
            self.caret_at_end(page, "Below")
            self.copy(page, "<p>pasted</p>", "pasted")
            page.keyboard.press("Control+V")
            page.keyboard.type(" typed")
            let_go()
            expect(sheet.locator(".text > p").nth(1)).to_have_text("Belowpasted typed")
            page.keyboard.type(" on")
            expect(sheet.locator(".text > p").nth(1)).to_have_text("Belowpasted typed on")
            # What comes while the source is written stands on the page once that does.
            let_go = self.held(page, "**/api/uploads/*?start=0")
            self.choose(page, ("c.png", image_bytes((95, 60), "PNG")))
            self.do(page, "source")
            source = page.get_by_role("textbox", name="The source of the page")
            expect(source).to_contain_text("<p>There I go on</p>")
            let_go()
            expect(page.get_by_role("list", name="Files being added").get_by_text("c.png")).to_have_count(0)
            source.press("Control+End")
            page.keyboard.insert_text("<p>Last.")
            page.keyboard.press("Control+Enter")
            expect(sheet.locator(".text > p").last).to_have_text("Last.")
            expect(sheet.locator(".text figure img")).to_have_count(3)

    def pictures(self):
        tree = self.kept_tree().to_json()
        return [each for each in tree["content"][0]["content"] if each["type"] == "picture"]

    def kept_tree(self):
        return WorkingCopy.objects.get(written=self.walks).tree

    def test_on_a_narrow_screen_the_foot_tells_what_becomes_of_them(self):
        with self.window(390, 800) as page:
            sheet = self.begin(page, paragraph("Here"))
            let_go = self.held(page, "**/api/uploads/*?start=0")
            self.choose(page, ("a.png", image_bytes((90, 60), "PNG")), ("bad.png", b"no picture"))
            page.get_by_role("button", name="Sheet", exact=True).click()
            line = page.get_by_role("region", name="Files being added")
            expect(line).to_contain_text("2 files are on their way.")
            let_go()
            expect(line).to_contain_text("bad.png: ")
            expect(sheet.locator(".text figure img")).to_have_count(1)
            self.axe(page, "files, with the Shelf away")
            line.get_by_role("button", name="See them on the Shelf").click()
            expect(page.get_by_role("alert").filter(has_text="no picture that can be read")).to_be_visible()
            expect(page.get_by_role("button", name="Dismiss")).to_be_focused()
            page.keyboard.press("Enter")
            page.get_by_role("button", name="Sheet", exact=True).click()
            expect(line.get_by_role("button")).to_have_count(0)
