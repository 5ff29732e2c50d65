"""The addresses of headings in the editor against the core: linking to a heading never changes the address it has."""

import json
import random
from unittest import TestCase

from stillpage_core.document.walking import node_at, text_of
from stillpage_core.writing.anchors import anchors_of, slug

from ..core.documents import document, formula, heading, words
from .bundles import answers_of

CASES, SEED = 2000, 11
PIECES = (
    *("Lock 4", "Große Straße", "ÉCLUSE", "ß", "ẞ", "İstanbul", "ΟΔΟΣ", "ς", "ﬁsh", "½ way", "x² + y²", "Ǆ", "ŉ"),
    *(
        "हिन्दी पाठ",
        "ไทย คำ",
        "עִבְרִית",
        "العربية",
        "日本語、漢字",
        "한국어",
        "Ꭰ Ꮳ",
        "naïve",
        "a_b-c",
        "  ",
        "—",
        "🦢",
        "N\u0303",
        "Å",
    ),
    *("search()", "C++ & C#", "100 %", "¿qué?", "main", "top", "section", "very long words that go on and on " * 4),
)


class EditorAgainstCore(TestCase):
    def test_two_thousand_documents_have_the_same_addresses(self):
        chance = random.Random(SEED)
        pages = [self.page(chance) for _ in range(CASES)]
        answers = answers_of("anchors", [json.dumps(page.to_json()) for page in pages])
        self.assertEqual(len(answers), CASES)
        for page, line in zip(pages, answers, strict=True):
            ours = [name for path, name in anchors_of(page).items() if self.is_named(node_at(page, path))]
            self.assertEqual(json.loads(line), ours, [text_of(block) for block in page.content])

    def is_named(self, node):
        return any(child.text.strip() for child in node.content if child.kind == "text")

    def page(self, chance):
        return document(*(self.heading(chance) for _ in range(chance.randint(1, 6))))

    def heading(self, chance):
        parts = [chance.choice(PIECES) for _ in range(chance.randint(0, 3))]
        inside = [words(part) for part in parts]
        if chance.random() < 0.2:
            inside.append(formula("h^{2}"))
        anchor = chance.choice(("lock-4", "a", "Ä", "main")) if chance.random() < 0.3 else None
        return heading(chance.randint(2, 6), *inside, anchor=anchor)

    def test_every_letter_is_folded_the_same(self):
        letters = [chr(code) for code in range(0x20, 0x3000) if chr(code).isalpha()]
        rows = ["".join(letters[index : index + 20]) for index in range(0, len(letters), 20)]
        pages = [document(heading(2, words(row))) for row in rows]
        answers = [
            json.loads(line)[0] for line in answers_of("anchors", [json.dumps(each.to_json()) for each in pages])
        ]
        self.assertEqual(answers, [slug(row) for row in rows])
