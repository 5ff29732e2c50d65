"""What the core reads of ugly HTML, against what Chromium shows of it: the same words in the same order; and nothing of
a published collection of attack vectors runs in a page that the core wrote."""

import random
import re
from unittest import TestCase

from stillpage_core.document.walking import runs_with, text_of
from stillpage_core.reading import read_html

from ..chromium import new_page
from ..core.test_coming_in import sketch
from ..core.test_hostile_files import published, vectors

BLOCKS = "p div h1 h2 h4 blockquote ul ol li dl dt dd table tbody tr td th section center pre form fieldset".split()
INLINE = "b i em strong span font u sub sup a code small big label abbr cite o:p x-own".split()
LOOKS = ["", "", "", ' style="color:red"', " hidden", ' style="display:none"', ' style="visibility:hidden"', " lang=fr"]
UNSEEN = ["<script>never()</script>", "<style>b{}</style>", "<!-- never -->", "<template>never</template>"]


def soup(chance: random.Random) -> str:
    """HTML as nobody should write it: misnested, unclosed, misplaced."""
    parts, opened, count = [], [], 0
    for _ in range(chance.randint(5, 70)):
        choice = chance.random()
        if choice < 0.42:
            count += 1
            parts.append(f"word{count}" + chance.choice([" ", "&nbsp;", "\n", "<br>", " <br><br> ", " &amp; ", "<hr>"]))
        elif choice < 0.78:
            tag = chance.choice(BLOCKS if choice < 0.6 else INLINE)
            parts.append(f"<{tag}{chance.choice(LOOKS)}>")
            opened.append(tag)
        elif choice < 0.95 and opened:
            # Every third end is that of another element than the last.
            parts.append(f"</{opened.pop(-1 if chance.random() < 0.66 else chance.randrange(len(opened)))}>")
        else:
            parts.append(chance.choice(UNSEEN))
    return "".join(parts)


class Reading(TestCase):
    def test_the_words_are_those_that_chromium_shows(self):
        page = self.enterContext(new_page())
        page.goto("about:blank")
        chance = random.Random(4)
        pieces = [soup(chance) for _ in range(400)]
        shown = page.evaluate(
            "pieces => pieces.map((html) => { document.body.innerHTML = html; return document.body.innerText })", pieces
        )
        wrong = []
        for html, text in zip(pieces, shown, strict=True):
            found = text_of(read_html(html).document).split()
            if found != re.findall(r"word\d+|&", text):
                wrong.append(f"{html}\n{text.split()}\n{found}")
        self.assertEqual(len(wrong), 0, f"{len(wrong)} of {len(pieces)}:\n" + "\n\n".join(wrong[:5]))

    def test_what_chromiums_own_editing_writes_keeps_its_structure(self):
        page = self.enterContext(new_page())
        page.set_content("<div contenteditable style='white-space: pre-wrap'></div>")
        page.locator("div").focus()
        keys = page.keyboard

        def do(command, value=None):
            page.evaluate("([command, value]) => document.execCommand(command, false, value)", [command, value])

        do("formatBlock", "h2")
        keys.type("Walks")
        keys.press("Enter")
        do("formatBlock", "div")
        keys.type("Level and ")
        do("bold")
        keys.type("dry")
        do("bold")
        keys.type(".")
        keys.press("Enter")
        keys.press("Enter")
        do("insertOrderedList")
        keys.type("one")
        keys.press("Enter")
        keys.type("two")
        do("indent")
        keys.press("Enter")
        keys.press("Enter")
        keys.press("Enter")
        keys.type("The end.")
        html = page.locator("div").first.inner_html()
        document = read_html(html).document
        self.assertEqual(
            sketch(document),
            [
                "heading 2: Walks",
                "paragraph: Level and dry.",
                "numbered_list",
                "  list_item",
                "    paragraph: one",
                "    numbered_list",
                "      list_item",
                "        paragraph: two",
                "paragraph: The end.",
            ],
            html,
        )
        self.assertEqual([run.text for run in runs_with(document, "strong")], ["dry"])

    def test_no_vector_runs_in_a_page_that_the_core_wrote(self):
        control = ["<img src=x onerror=alert(1)>", "<svg onload=alert(1)>"]
        self.assertGreater(self.calls_of(control), 0, "what is written as it came must run, or nothing is shown")
        self.assertEqual(self.calls_of([published(read_html(each)) for each in vectors()]), 0)

    def calls_of(self, pieces):
        """How often a page with these pieces of HTML calls what the vectors call."""
        page = self.enterContext(new_page())
        page.goto("about:blank")
        page.evaluate(
            "() => { window.calls = 0; for (const name of ['alert', 'confirm', 'prompt', 'print', 'open'])"
            " window[name] = () => { window.calls += 1 } }"
        )
        page.evaluate(
            "pieces => { for (const piece of pieces) { const box = document.createElement('div');"
            " box.innerHTML = piece; document.body.append(box) } }",
            pieces,
        )
        page.wait_for_timeout(1500)
        return page.evaluate("window.calls")
