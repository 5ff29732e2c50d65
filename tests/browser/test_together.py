"""Two authors on one page, in two real browsers; answers that are lost; and one machine for two people."""

from __future__ import annotations

import os
import re
import time

from django.conf import settings
from playwright.sync_api import Page, Route, expect

from stillpage.written.models import Clash, Version, WorkingCopy
from stillpage_core.document.walking import text_of

from ..core.documents import document, heading, paragraph
from ..faults.bad_line import BadLine
from .base import BrowserTest
from .waiting import pause

SECONDS = 60 if os.environ.get("STILLPAGE_LONG_TESTS") else 9


class Together(BrowserTest):
    def words(self) -> str:
        return text_of(WorkingCopy.objects.get(written=self.walks).tree)

    def typed_in_turn(self, one: Page, other: Page, form: str = " {}") -> tuple[list[str], list[str]]:
        """Both type word after word, faster than anything is saved, for the time."""
        mine: list[str] = []
        theirs: list[str] = []
        end = time.monotonic() + SECONDS
        while time.monotonic() < end:
            for page, name, said in ((one, "wren", mine), (other, "tobias", theirs)):
                said.append(f"{name}{len(said)}")
                page.keyboard.type(form.format(said[-1]), delay=15)
        return mine, theirs

    def both_see(self, windows: tuple[Page, Page], expected: set[str]) -> None:
        for page in windows:
            self.saved(page)
            text = page.frame_locator("iframe").locator(".regions")
            end = time.monotonic() + 60  # A bound against hanging.
            while missing := expected - set(re.findall(r"\w+", text.inner_text())):
                self.assertLess(time.monotonic(), end, missing)
                page.wait_for_timeout(100)
        self.assertLessEqual(expected, set(re.findall(r"\w+", self.words())))

    def test_two_who_write_in_different_paragraphs_never_wait_for_each_other(self):
        self.write(
            self.walks, document(heading(2, "Here"), paragraph("First."), heading(2, "There"), paragraph("Last."))
        )
        with self.window() as mine, self.window(user="tobias") as theirs:
            for page, words in ((mine, "First."), (theirs, "Last.")):
                self.open(page, self.walks)
                self.caret_at_end(page, words)
            expect(mine.get_by_label("Who else writes here")).to_contain_text("Tobias Osier is writing here too")
            by_me, by_them = self.typed_in_turn(mine, theirs)
            expect(mine.get_by_label("Who else writes here")).to_contain_text("under “There”")
            writers = mine.frame_locator("iframe").locator("[data-writers]")
            expect(writers).to_have_attribute("data-writers", "Tobias Osier")
            self.axe(mine, "two who write")
            self.both_see((mine, theirs), {*by_me, *by_them})
            # Each wrote on where their caret was, and what came in was no step of theirs.
            first, last = (" ".join([start, *said]) for start, said in (("First.", by_me), ("Last.", by_them)))
            self.assertEqual(self.words(), f"Here\n{first}\nThere\n{last}")
            self.assertEqual((Clash.objects.count(), Version.objects.count()), (0, 0))
            undo = mine.get_by_role("button", name="Undo")
            while undo.is_enabled():
                undo.click()
            expect(mine.frame_locator("iframe").locator(".text > p")).to_have_text(["First.", last])

    def test_two_who_write_in_the_same_paragraph_keep_every_word(self):
        self.write(self.walks, document(paragraph("The beginning and the end.")))
        with self.window() as mine, self.window(user="tobias") as theirs:
            for page, key in ((mine, "Home"), (theirs, "End")):
                sheet = self.open(page, self.walks)
                sheet.locator(".text p").click()
                self.settled(page)
                page.keyboard.press(key)
            by_me, by_them = self.typed_in_turn(mine, theirs, "{} ")
            self.both_see((mine, theirs), {*by_me, *by_them})

    def same_words(self, mine: Page, theirs: Page) -> None:
        """Both put other words in the place of one and the same."""
        for page, word in ((theirs, "green"), (mine, "blue")):
            page.route("**/working-copy", lambda route: route.abort())
            self.caret_at_end(page, "The gate is red")
            for _ in range(3):
                page.keyboard.press("Shift+ArrowLeft")
            page.keyboard.type(word)
        for page in (theirs, mine):
            page.unroute("**/working-copy")
            self.saved(page)

    def test_of_the_same_words_both_are_shown_until_somebody_chooses(self):
        self.write(self.walks, document(paragraph("The gate is red"), paragraph("End.")))
        with self.window() as mine, self.window(user="tobias") as theirs:
            sheet, other = self.open(mine, self.walks), self.open(theirs, self.walks)
            self.same_words(mine, theirs)
            both = ["The gate is green", "The gate is blue", "End."]
            for page, text in ((mine, sheet), (theirs, other)):
                expect(text.locator(".text > p")).to_have_text(both)
                expect(text.locator(".has-two-wordings")).to_have_count(2)
                expect(page.get_by_role("button", name="Two wordings: choose")).to_be_visible()
            # Writing goes on meanwhile, and nothing typed is dropped by a choice that was made without seeing it.
            mine.get_by_role("button", name="Two wordings: choose").click()
            place = mine.get_by_role("region", name="The same words, two wordings")
            expect(place).to_contain_text("Wren Osier")
            self.axe(mine, "two wordings")
            mine.set_viewport_size({"width": 390, "height": 800})
            self.assertEqual(mine.evaluate("document.documentElement.scrollWidth"), 390)
            mine.set_viewport_size({"width": 1280, "height": 800})
            self.caret_at_end(theirs, "The gate is blue")
            more = ", and new, with a latch and a post and a bench beside it"
            theirs.keyboard.type(more)
            self.saved(theirs)
            expect(place).to_contain_text(f"The gate is blue{more}")
            place.get_by_role("button", name="Keep this one").last.click()
            expect(sheet.locator(".text > p")).to_have_text([f"The gate is blue{more}", "End."])
            self.saved(mine)
            expect(theirs.get_by_role("button", name="Two wordings: choose")).to_have_count(0)
            expect(other.locator(".text > p")).to_have_text([f"The gate is blue{more}", "End."])
            expect(other.locator(".has-two-wordings")).to_have_count(0)
            mine.get_by_role("button", name="Undo").click()
            expect(sheet.locator(".text > p")).to_have_text(["The gate is green", f"The gate is blue{more}", "End."])
            self.assertEqual(Clash.objects.count(), 0)

    def test_of_ones_own_words_in_two_windows_both_stand_and_one_is_told_but_not_asked(self):
        self.write(self.walks, document(paragraph("The gate is red"), paragraph("End.")))
        with self.window() as mine, self.window() as mine_too:
            sheet = self.open(mine, self.walks)
            self.open(mine_too, self.walks)
            self.same_words(mine, mine_too)
            expect(mine.locator("[data-save]")).to_contain_text("the same words in two windows: both stand")
            expect(sheet.locator(".text > p")).to_have_text(["The gate is green", "The gate is blue", "End."])
            expect(mine.get_by_role("button", name="Two wordings: choose")).to_have_count(0)
            self.assertEqual(Clash.objects.count(), 0)

    def test_what_comes_in_moves_neither_caret_nor_selection(self):
        self.write(self.walks, document(paragraph("One two three."), paragraph("Four.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            self.caret_at_end(page, "One two three.")
            for _ in range(6):
                page.keyboard.press("Shift+ArrowLeft")
            selected = sheet.locator("body").evaluate_handle("body => body.ownerDocument.getSelection()")
            self.assertEqual(selected.evaluate("selection => String(selection)"), "three.")
            self.write(self.walks, document(paragraph("New above."), paragraph("One 1 two three."), paragraph("Four.")))
            expect(sheet.locator(".text > p")).to_have_text(["New above.", "One 1 two three.", "Four."])
            self.assertEqual(selected.evaluate("selection => String(selection)"), "three.")
            page.keyboard.type("3")
            expect(sheet.locator(".text > p")).to_have_text(["New above.", "One 1 two 3", "Four."])

    def test_what_others_save_while_the_source_is_open_is_not_undone_by_it(self):
        self.write(self.walks, document(paragraph("One."), paragraph("Two.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            sheet.locator(".text").click()
            self.do(page, "source")
            source = page.get_by_role("textbox", name="The source of the page")
            expect(source).to_contain_text("<p>Two.</p>")
            self.author, author = self.other, self.author
            self.write(self.walks, document(paragraph("One, by Tobias."), paragraph("Two.")))
            self.author = author
            page.wait_for_timeout(4000)  # Longer than the window waits before it asks who has saved.
            page.keyboard.press("Control+End")
            page.keyboard.insert_text("<p>Three.</p>")
            for _ in "</p>":
                page.keyboard.press("ArrowLeft")
            page.keyboard.press("Control+Enter")
            expect(sheet.locator(".text > p")).to_have_text(["One, by Tobias.", "Two.", "Three."])
            self.saved(page)
            words = text_of(WorkingCopy.objects.get(written=self.walks).tree)
            self.assertEqual(words, "One, by Tobias.\nTwo.\nThree.")


class LostAnswers(BrowserTest):
    """The server does what it is asked, and its answer does not arrive."""

    def words(self) -> str:
        return text_of(WorkingCopy.objects.get(written=self.walks).tree)

    def lose(self, route: Route) -> None:
        route.fetch()
        route.abort()

    def losing(self, page):
        """Lose the answer to every save that begins before what is given is called."""
        on = [True]
        page.route("**/working-copy", lambda route: self.lose(route) if on else route.continue_())
        return on.clear

    def test_typing_on_over_a_lost_answer_is_no_conflict(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            no_longer = self.losing(page)
            self.type_at_end(page, sheet, " One.")
            expect(page.locator("[data-save]")).to_have_attribute("data-save", "away")
            page.keyboard.type(" Two.")
            no_longer()
            self.saved(page)
            self.assertEqual(self.words(), "Begun. One. Two.")
            expect(sheet.locator(".text")).to_have_text("Begun. One. Two.")
            self.assertEqual((Clash.objects.count(), Version.objects.count()), (0, 0))

    def test_a_window_that_dies_after_a_lost_answer_comes_back_with_just_what_was_written(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            page.on("dialog", lambda dialog: dialog.accept())
            sheet = self.open(page, self.walks)
            no_longer = self.losing(page)
            self.type_at_end(page, sheet, " One.")
            expect(page.locator("[data-save]")).to_have_attribute("data-save", "away")
            self.assertEqual(self.words(), "Begun. One.")
            # All of it is saved: nothing is left to come back, not even after somebody else went on.
            no_longer()
            self.come_back(page)
            expect(sheet.locator(".text")).to_have_text("Begun. One.")
            self.saved(page)
            page.close()
        self.write(self.walks, document(paragraph("Begun. One. And on.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            expect(sheet.locator(".text")).to_have_text("Begun. One. And on.")
            self.assertEqual(self.words(), "Begun. One. And on.")

    def test_what_was_typed_after_it_comes_back_too_and_others_words_stay(self):
        self.write(self.walks, document(paragraph("Begun."), paragraph("End.")))
        with self.window() as page:
            page.on("dialog", lambda dialog: dialog.accept())
            sheet = self.open(page, self.walks)
            page.route("**/working-copy", lambda route: route.abort())
            page.route("**/working-copy", self.lose, times=1)
            self.type_at_end(page, sheet, " One.")
            expect(page.locator("[data-save]")).to_have_attribute("data-save", "away")
            page.keyboard.type(" Two.")
            self.walks.working_copy.refresh_from_db()
            self.author, author = self.other, self.author
            self.write(self.walks, document(paragraph("Begun. By Tobias."), paragraph("End. One.")))
            self.author = author
            self.come_back(page)
            page.unroute("**/working-copy")
            expect(sheet.locator(".text > p")).to_have_text(["Begun. By Tobias.", "End. One. Two."])
            self.saved(page)
            self.assertEqual(self.words(), "Begun. By Tobias.\nEnd. One. Two.")
            self.assertEqual((Clash.objects.count(), Version.objects.count()), (0, 0))

    def test_over_a_bad_line_two_windows_lose_and_double_no_word(self):
        self.write(self.walks, document(paragraph("First."), paragraph("Last.")))
        expected: set[str] = set()
        with (
            BadLine(int(self.live_server_url.rsplit(":", 1)[1]), seed=14) as line,
            self.window() as mine,
            self.window(user="tobias") as theirs,
        ):
            for page, words in ((mine, "First."), (theirs, "Last.")):
                page.goto(f"http://localhost:{line.port}/pages/{self.walks.pk}")
                page.frame_locator("iframe").get_by_text(words, exact=True).click()
                self.settled(page)
                page.keyboard.press("End")
            end = time.monotonic() + SECONDS
            while time.monotonic() < end:
                for page, name in ((mine, "wren"), (theirs, "tobias")):
                    expected.add(f"{name}{len(expected)}")
                    page.keyboard.type(f" {name}{len(expected) - 1}", delay=15)
                page.wait_for_timeout(400)  # More saves than when nobody ever pauses.
            line.good = True
            for page in (mine, theirs):
                self.saved(page)
                text = page.frame_locator("iframe").locator(".regions")
                expect(text).to_contain_text(f"tobias{len(expected) - 1}")
            self.assertGreater(sum(line.told.values()) - line.told["through"], 3, line.told)
        said = re.findall(r"\w+", self.words())
        self.assertEqual(sorted(said), sorted([*expected, "First", "Last"]))
        self.assertEqual((Clash.objects.count(), Version.objects.count()), (0, 0))

    def test_a_server_that_does_not_answer_is_told_like_one_that_is_away(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.route("**/working-copy", lambda route: None)
            self.type_at_end(page, sheet, " More.")
            expect(page.locator("[data-save]")).to_contain_text("cannot be reached")
            page.unroute("**/working-copy")
            self.saved(page)
            self.assertEqual(self.words(), "Begun. More.")


class OneMachine(BrowserTest):
    """Two people at one browser, one after the other."""

    def test_what_one_left_behind_waits_for_them_and_nobody_else_sees_it(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            page.on("dialog", lambda dialog: dialog.accept())
            sheet = self.open(page, self.walks)
            page.route("**/working-copy", lambda route: route.abort())
            self.type_at_end(page, sheet, " By Wren.")
            pause(page, 400)
            page.context.clear_cookies(name=settings.SESSION_COOKIE_NAME)
            page.context.add_cookies([self.session_of("tobias")])
            page.unroute("**/working-copy")
            page.reload()
            expect(sheet.locator(".text")).to_have_text("Begun.")
            self.type_at_end(page, sheet, " By Tobias.")
            self.saved(page)
            copy = WorkingCopy.objects.get(written=self.walks)
            self.assertEqual((text_of(copy.tree), copy.saved_by), ("Begun. By Tobias.", self.other))
            page.context.clear_cookies(name=settings.SESSION_COOKIE_NAME)
            page.context.add_cookies([self.session_of("wren")])
            page.reload()
            expect(sheet.locator(".text")).to_have_text("Begun. By Tobias. By Wren.")
            self.saved(page)
            copy = WorkingCopy.objects.get(written=self.walks)
            self.assertEqual((text_of(copy.tree), copy.saved_by), ("Begun. By Tobias. By Wren.", self.author))

    def test_who_signs_in_meanwhile_does_not_save_what_another_is_writing(self):
        self.write(self.walks, document(paragraph("Begun.")))
        with self.window() as page:
            sheet = self.open(page, self.walks)
            page.context.clear_cookies(name=settings.SESSION_COOKIE_NAME)
            page.context.add_cookies([self.session_of("tobias")])
            self.type_at_end(page, sheet, " By Wren.")
            expect(page.locator("[data-save]")).to_contain_text("Tobias Osier is signed in here now")
            self.assertEqual(WorkingCopy.objects.get(written=self.walks).revision, 2)
            page.context.clear_cookies(name=settings.SESSION_COOKIE_NAME)
            page.context.add_cookies([self.session_of("wren")])
            self.saved(page)
            copy = WorkingCopy.objects.get(written=self.walks)
            self.assertEqual((text_of(copy.tree), copy.saved_by), ("Begun. By Wren.", self.author))
