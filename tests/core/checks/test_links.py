"""Checks of links. Examples come from the techniques and failures that each test names."""

from stillpage_core.document.changes import apply

from ..documents import EMPHASIS, call_to_action, document, heading, link, paragraph, words
from .base import CheckTest, found

AWAY = link("https://a.example/")


class Vague(CheckTest):
    check = "link-vague"

    def test_failures_f63_and_f84_words_that_say_nothing(self):
        # F84: "click here", "more"; common practice: the rest.
        for said in ("click here", "Click here.", "more", "More…", "HERE", "read  more", "link to", "→ here"):
            self.assertFound(paragraph(words(said, AWAY)))
        self.assertFound(call_to_action("Read more", "https://a.example/"))

    def test_technique_g91_words_that_name_the_destination(self):
        for said in ("Boat licence", "here is the boat licence", "More walks", "Locks 4 to 6"):
            self.assertRight(paragraph(words(said, link("page:1"))))

    def test_the_place_is_the_words_of_the_link_also_across_other_marks(self):
        block = paragraph("To apply, ", words("click ", link("page:1")), words("here", link("page:1"), EMPHASIS), ".")
        finding = self.assertFound(block)
        self.assertEqual((finding.path, finding.span), ((0, 0), (10, 20)))

    def test_it_offers_the_title_of_the_destination_unless_that_is_vague_too(self):
        finding = self.assertFound(paragraph(words("here", link("page:1"))))
        self.assertEqual(finding.repairs[0].label, "Let it say “Boat licence”")
        self.assertEqual(self.assertFound(paragraph(words("more", link("page:2")))).repairs, ())
        self.assertMended(call_to_action("Go", "page:1"), into=(call_to_action("Boat licence", "page:1"),))

    def test_words_that_are_the_title_of_the_destination_name_it(self):
        self.assertRight(paragraph(words("Here!", link("page:2"))))


class Words(CheckTest):
    def test_technique_h30_a_bare_address_is_told_and_the_title_is_offered(self):
        self.check = "link-bare-address"
        for said in ("https://a.example/walks", "www.a.example", "a.example/x?y=1"):
            finding = self.assertFound(paragraph(words(said, link("page:1"))))
            self.assertEqual(finding.repairs[0].label, "Let it say “Boat licence”")
        for said in ("canal.org", "canal.org.uk/boats", "b.co.uk"):
            self.assertFound(paragraph(words(said, link("page:1"))))
        for said in ("25.3.1", "12.5.2024", "report.pdf", "explorer.search()", "README.md", "node.js", "e.g.", "v2.0"):
            self.assertRight(paragraph(words(said, link("https://a.example/"))))
        for text, href in (("a@b.example", "mailto:a@b.example"), ("0100 555", "tel:0100-555"), ("a. b", "page:1")):
            self.assertRight(paragraph(words(text, link(href))))

    def test_failure_f89_a_link_without_words(self):
        self.check = "link-empty"
        self.assertMended(paragraph("a", words(" ", AWAY), "b"), into=(paragraph("a b"),))
        self.assertFound(paragraph(words("→", AWAY)))
        self.assertRight(paragraph(words("4", AWAY)))
        self.assertRight(heading(2, "Gates", words("¶", link("#gates"))))

    def test_technique_g91_the_same_words_to_two_places_are_told_at_the_second(self):
        self.check = "link-same-words"
        finding = self.assertFound(
            paragraph(words("The form", link("page:1")), " ", words("the form!", link("item:7")))
        )
        self.assertIn("“Boat licence form” here, and to “Boat licence” further up", finding.sentence)
        self.assertRight(paragraph(words("lock", link("page:1")), " ", words("lock", link("page:1"))))

    def test_technique_h2_neighbours_to_the_same_place_become_one(self):
        self.check = "link-neighbours"
        one = link("page:1")
        self.assertMended(
            paragraph(words("Boat", one), " ", words("licence", link("page:1", title="x")), "."),
            into=(paragraph(words("Boat licence", one), "."),),
        )
        self.assertRight(paragraph(words("Boat", one), " and ", words("licence", one)))
        self.assertRight(paragraph(words("Boat", one)), paragraph(words("licence", one)))

    def test_techniques_g200_and_g201_a_new_window(self):
        self.check = "link-new-window"
        self.assertMended(
            paragraph(words("Boat licence", link("page:1", new_window=True))),
            into=(paragraph(words("Boat licence", link("page:1"))),),
        )
        self.assertMended(
            paragraph(words("The Trust (opens in a new window)", AWAY)), into=(paragraph(words("The Trust", AWAY)),)
        )
        self.assertRight(paragraph(words("The Trust", link("https://a.example/", new_window=True))))

    def test_a_document_says_its_kind_and_size(self):
        self.check = "link-document-untold"
        told = paragraph(words("Boat licence form (PDF, 212 kB)", link("item:7")))
        self.assertMended(paragraph(words("Boat licence form", link("item:7"))), into=(told,))
        self.assertMended(paragraph(words("Boat licence form (PDF)", link("item:7"))), into=(told,))
        finding = self.assertFound(paragraph(words("Minutes", link("item:8"))))
        self.assertEqual(finding.repairs[0].label, "Add “(PDF, 2.5 MB)”")


class Destinations(CheckTest):
    def test_what_is_gone_is_told_and_the_words_stay(self):
        self.check = "link-dead"
        for href, said in (
            ("page:9", "a page that is gone"),
            ("page:1#by-bus", "a heading of “Boat licence” that is no longer there"),
            ("item:99", "an item that is gone"),
            ("#nowhere", "no heading of this page"),
        ):
            finding = self.assertFound(paragraph(words("the lock", link(href))))
            self.assertIn(said, finding.sentence)
            after = apply(document(paragraph(words("the lock", link(href)))), finding.repairs[0].changes)
            self.assertEqual(after, document(paragraph("the lock")))
        good = ("page:1", "page:1#prices", "item:7", "#kept", "https://a.example/", "mailto:a@b.example", "tel:100")
        for href in good:
            self.assertRight(heading(2, "Renamed", anchor="kept"), paragraph(words("the lock", link(href))))

    def test_a_page_that_readers_do_not_see(self):
        self.check = "link-out-of-reach"
        self.assertIn("“Hidden”, which is not published", self.assertFound(call_to_action("Come", "page:3")).sentence)
        self.assertFound(paragraph(words("the lock", link("page:3"))))
        self.assertRight(paragraph(words("the lock", link("page:1"))))

    def test_an_outside_address_that_failed_its_test(self):
        self.check = "link-failed-outside"
        self.assertIn("answers 404", self.assertFound(paragraph(words("x", link("https://gone.example/")))).sentence)
        self.assertRight(paragraph(words("x", AWAY)))

    def test_a_call_to_action_without_words_or_destination_blocks(self):
        self.check = "call-without-destination"
        self.assertEqual(self.assertFound(call_to_action("Come")).severity, "blocks")
        self.assertFound(call_to_action("", "page:1"))
        self.assertRight(call_to_action("Come", "page:1"))

    def test_whom_an_item_reaches(self):
        for href, check in (("item:8", "item-signed-in"), ("item:9", "item-elsewhere")):
            self.assertIn(check, found(paragraph(words("Paper (PDF, DOCX, 1 kB)", link(href)))))
            self.assertIn(check, found(call_to_action("Paper (PDF, DOCX, 1 kB)", href)))
