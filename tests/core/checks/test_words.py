"""Checks of words. Examples come from the techniques and failures that each test names."""

from stillpage_core.checking import RULES
from stillpage_core.document.node import Mark, Node, make

from ..documents import (
    EMPHASIS,
    FRENCH,
    PLAIN_MARKS,
    STRONG,
    TONE,
    aside,
    bulleted,
    cell,
    equation,
    formula,
    heading,
    item,
    link,
    paragraph,
    preformatted,
    quotation,
    table,
    words,
)
from .base import FULL, CheckTest

UNDERLINE = PLAIN_MARKS[0]
BREAK = make("line_break")
CODE = Mark("code")

# The first article of the Universal Declaration of Human Rights, in its official translations. From memory.
ARTICLE_1 = {
    "en": "All human beings are born free and equal in dignity and rights. They are endowed with reason and conscience "
    "and should act towards one another in a spirit of brotherhood.",
    "fr": "Tous les êtres humains naissent libres et égaux en dignité et en droits. Ils sont doués de raison et de "
    "conscience et doivent agir les uns envers les autres dans un esprit de fraternité.",
    "de": "Alle Menschen sind frei und gleich an Würde und Rechten geboren. Sie sind mit Vernunft und Gewissen begabt "
    "und sollen einander im Geist der Brüderlichkeit begegnen.",
    "es": "Todos los seres humanos nacen libres e iguales en dignidad y derechos y, dotados como están de razón y "
    "conciencia, deben comportarse fraternalmente los unos con los otros.",
    "it": "Tutti gli esseri umani nascono liberi ed eguali in dignità e diritti. Essi sono dotati di ragione e di "
    "coscienza e devono agire gli uni verso gli altri in spirito di fratellanza.",
    "nl": "Alle mensen worden vrij en gelijk in waardigheid en rechten geboren. Zij zijn begiftigd met verstand en "
    "geweten, en behoren zich jegens elkander in een geest van broederschap te gedragen.",
    "cy": "Genir pawb yn rhydd ac yn gydradd â'i gilydd mewn urddas a hawliau. Fe'u cynysgaeddir â rheswm a chydwybod, "
    "a dylai pawb ymddwyn y naill at y llall mewn ysbryd cymodlon.",
    "ru": "Все люди рождаются свободными и равными в своем достоинстве и правах.",
    "el": "Όλοι οι άνθρωποι γεννιούνται ελεύθεροι και ίσοι στην αξιοπρέπεια και τα δικαιώματα.",
    "ja": "すべての人間は、生れながらにして自由であり、かつ、尊厳と権利とについて平等である。",
}


def lines(*texts: str) -> Node:
    content: list[Node] = []
    for index, text in enumerate(texts):
        content += [BREAK] if index else []
        content += [words(text)] if text else []
    return paragraph(*content)


class Languages(CheckTest):
    def test_technique_h58_words_in_another_language_say_so(self):
        self.check = "language-unmarked"
        for code, text in ARTICLE_1.items():
            if code == "en":
                self.assertRight(paragraph(text))
                continue
            marked = paragraph(words(text, Mark("language", {"code": code})))
            self.assertMended(paragraph(text), into=(marked,))
            self.assertFound(quotation(paragraph(text)))

    def test_what_stands_between_empty_lines_is_looked_at_by_itself(self):
        self.check = "language-unmarked"
        between = [make("line_break"), make("line_break")]
        french = ARTICLE_1["fr"]
        finding = self.assertFound(paragraph(ARTICLE_1["en"], *between, french))
        start = len(ARTICLE_1["en"]) + 2
        self.assertEqual(finding.span, (start, start + len(french)))
        marked = words(french, Mark("language", {"code": "fr"}))
        self.assertMended(paragraph("One.", *between, french), into=(paragraph("One.", *between, marked),))
        self.assertRight(paragraph(ARTICLE_1["en"], *between, marked))

    def test_names_and_single_words_are_left_in_peace(self):
        self.check = "language-unmarked"
        for text in (
            "Déjà vu",
            "Rue de la Paix, Hôtel de Ville, Café de la Gare, Paris",
            "The trip boat is called La Belle de Mai and lies at the wharf.",
            "Owen, Gwen, Ifor and Dylan keep the locks at Llanfair and Pontrhyd",
            "α and β are angles",
        ):
            self.assertRight(paragraph(text))

    def test_technique_h57_a_tag_that_is_registered(self):
        self.check = "language-unknown"
        self.assertFound(paragraph(words("écluse", Mark("language", {"code": "zz"}))))
        self.assertMended(
            paragraph(words("écluse", Mark("language", {"code": "qqx-abcde"}))), into=(paragraph("écluse"),)
        )
        self.assertRight(paragraph(words("écluse", FRENCH)), paragraph(words("a", Mark("language", {"code": "de-CH"}))))


class Look(CheckTest):
    def test_1_4_3_tones_on_every_ground(self):
        self.check = "contrast-too-low"
        pale, mid = Mark("tone", {"name": "pale"}), Mark("tone", {"name": "mid"})
        self.assertMended(paragraph(words("pale", pale)), into=(paragraph("pale"),))
        # Right on white, but not on the ground of a warning.
        self.assertRight(paragraph(words("mid", mid)))
        self.assertIn(
            "the ground of a warning", self.assertFound(aside("warning", paragraph(words("mid", mid)))).sentence
        )
        self.assertFound(table([cell(paragraph(words("mid", mid)), header=True)]))
        self.assertFound(paragraph("small", style="faint"))
        self.assertRight(paragraph(words("rust", TONE)), paragraph(words(" ", pale)))

    def test_paint_that_the_theme_has_not(self):
        self.check = "paint-unknown"
        self.assertMended(paragraph(words("a", Mark("tone", {"name": "sky"}))), into=(paragraph("a"),))
        self.assertMended(paragraph("a", style="shout"), into=(paragraph("a"),))
        self.assertRight(paragraph(words("a", TONE), style="lead"))

    def test_words_in_capitals(self):
        self.check = "words-in-capitals"
        self.assertMended(
            paragraph("Mind: ", words("DO NOT OPEN", STRONG), " BOTH GATES. Thanks."),
            into=(paragraph("Mind: ", words("Do not open", STRONG), " both gates. Thanks."),),
        )
        for right in ("The VCT and the BBC", "HS2, A4, M25 and B7", "A I O U", "IMPORTANT: bring boots"):
            self.assertRight(paragraph(right))
        self.assertEqual(self.assertFound(paragraph("MIND THE OPEN GATE There is a drop")).span, (0, 18))
        self.assertRight(heading(2, "DO NOT OPEN BOTH GATES"))  # Found as a heading in capitals.

    def test_underlined_words_look_like_a_link(self):
        self.check = "underlined"
        self.assertMended(paragraph(words("now", UNDERLINE)), into=(paragraph(words("now", EMPHASIS)),))
        self.assertMended(paragraph(words("now", UNDERLINE)), into=(paragraph("now"),), repair=1)
        self.assertRight(paragraph(words("now", UNDERLINE, link("page:1"))))

    def test_a_paragraph_strong_throughout(self):
        self.check = "strong-throughout"
        long = "The towpath is closed between Lock 4 and Lock 6 from Monday on, and nobody can pass there."
        self.assertMended(paragraph(words(long, STRONG)), into=(paragraph(long),))
        self.assertRight(paragraph(words("Closed from Monday on.", STRONG)), paragraph(long))
        label = "A long label without a stop that stands above what it names, as the trade has it: the gates"
        self.assertRight(paragraph(words(label, STRONG)), paragraph(long))
        self.assertRight(table([cell(paragraph(words(long, STRONG)))]))


class Reading(CheckTest):
    def test_long_paragraphs_and_sentences(self):
        self.check = "paragraph-long"
        self.assertFound(paragraph("The towpath is wide here. " * 30))
        self.assertRight(paragraph("The towpath is wide here. " * 20))
        self.check = "sentence-long"
        long = "The towpath is wide here and " * 8 + "it ends."
        finding = self.assertFound(paragraph("A short one. ", long))
        self.assertEqual(finding.span, (13, 13 + len(long)))
        self.assertRight(paragraph("The towpath is wide here. " * 20))
        # The points of short forms, initials and numbers end no sentence; line ends do.
        self.assertFound(
            paragraph("Ask Mrs. E. Osier, e.g. at no. 4, " + "or at the lock, " * 12 + "by 2.30 p.m. at most.")
        )
        self.assertRight(lines(*["The towpath is wide here and goes on"] * 8))

    def test_3_1_5_and_technique_g153_the_grade(self):
        self.check = "hard-to-read"
        hard = (
            "Notwithstanding considerable administrative difficulties, the restoration committee has unanimously "
            "recommended comprehensive rehabilitation of the deteriorating navigational infrastructure immediately. "
        )
        self.assertFound(paragraph(hard * 6))
        self.assertRight(paragraph("The boat goes up. The gates shut. We wait. " * 20))
        self.assertRight(paragraph(hard))  # Too short to be judged.
        self.assertRight(paragraph(hard * 6), around=_in("cy"))

    def test_an_equation_that_cannot_be_read_blocks(self):
        self.check = "equation-unreadable"
        self.assertEqual(self.assertFound(equation(r"\frac{a")).severity, "blocks")
        self.assertEqual(self.assertFound(paragraph("a ", formula("x^"))).path, (0, 0, 1))
        self.assertRight(equation("x^2"))

    def test_a_word_twice(self):
        self.check = "word-doubled"
        self.assertMended(paragraph("Shut the the gate."), into=(paragraph("Shut the gate."),))
        self.assertMended(paragraph("Shut The ", words("the", EMPHASIS), " gate."), into=(paragraph("Shut The gate."),))
        for right in (
            "What he had had was gone.",
            "It is so so good.",
            "Baden Baden",
            "a a",
            "the-the",
            "Lock 4 4",
            "in-between between",
        ):
            self.assertRight(paragraph(right))
        self.assertRight(preformatted("the the"))
        self.assertRight(paragraph("It is ", words("char char", CODE), "."))
        self.assertRight(lines("We go to the", "the lock"))
        self.assertRight(paragraph(words("vous vous", FRENCH), " it says"))
        self.assertRight(paragraph("Vous vous levez et nous nous en allons, mais la porte est à vous."))
        self.assertRight(paragraph("Das sind die, die die Schleuse nicht sehen und auf der Brücke sind."))
        self.assertRight(paragraph("Bolak balik, anak anak"), around=_in("id"))
        self.assertFound(paragraph("La porte est est dans le mur et nous sommes là."), around=_in("fr"))
        self.assertFalse(RULES["word-doubled"].together)


class Space(CheckTest):
    def test_empty_paragraphs(self):
        self.check = "paragraph-empty"
        a, b = paragraph("a"), paragraph("b")
        self.assertMended(a, paragraph(), paragraph("\u00a0"), b, into=(a, b))
        self.assertMended(paragraph(), a, into=(a,))
        self.assertMended(a, paragraph(), paragraph(), into=(a,))
        self.assertRight(a, paragraph())  # Where the author goes on writing.
        self.assertRight(paragraph())
        self.assertMended(aside("note", paragraph(), paragraph()), into=(aside("note", paragraph()),))

    def test_failures_f32_f33_and_f34_rows_of_spaces(self):
        self.check = "spaces-in-rows"
        # F32's example: the letters of a word spread by spaces.
        self.assertMended(paragraph("W e l c o m e to the canal"), into=(paragraph("Welcome to the canal"),))
        self.assertMended(paragraph("Lock 4     2.1 m"), into=(paragraph("Lock 4 2.1 m"),))
        self.assertMended(paragraph("   pushed in"), into=(paragraph("pushed in"),))
        self.assertMended(paragraph("a\u00a0\u00a0b"), into=(paragraph("a b"),))
        for right in ("One.  Two.", "Here:  there", "a\u00a0 b", "10\u00a0km", "A B C", "I a m", "plan b c d"):
            self.assertRight(paragraph(right))
        self.assertRight(paragraph("Type ", words("a    b", CODE), " and wait."))
        self.assertRight(preformatted("a    b"))

    def test_breaks_as_space(self):
        self.check = "breaks-as-space"
        self.assertMended(lines("a", "", "b"), into=(paragraph("a"), paragraph("b")))
        self.assertMended(lines("", "a", "", "", "b", ""), into=(paragraph("a"), paragraph("b")))
        self.assertRight(lines("", "a", "b", ""))
        self.assertRight(paragraph("a", BREAK, BREAK, "b", style="verse"))
        self.assertMended(heading(2, "a", BREAK, BREAK, "b"), into=(heading(2, "a", BREAK, "b"),))
        self.assertMended(bulleted(item(lines("a", "", "b"))), into=(bulleted(item(paragraph("a"), paragraph("b"))),))
        self.assertRight(lines("a", "b"))


def _in(language):
    from dataclasses import replace

    return replace(FULL, language=language)
