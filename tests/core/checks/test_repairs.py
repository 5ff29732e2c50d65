"""Every check and every repair, over examples and over documents of any shape."""

import re
from collections import Counter
from dataclasses import replace
from pathlib import Path
from unittest import TestCase

from hypothesis import example, given, settings
from hypothesis import strategies as st

import stillpage_core.checking as package
from stillpage_core.checking import CHECKS, RULES, SEVERITIES, Subject, check_page, finding_json
from stillpage_core.checking.showing import shown
from stillpage_core.document import document_from_json, normal_form
from stillpage_core.document.changes import SetFact, apply
from stillpage_core.document.node import Mark, make
from stillpage_core.document.walking import text_of, walk

from .. import many
from ..documents import (
    BLOCKS,
    EMPHASIS,
    PLAIN_MARKS,
    STRONG,
    TONE,
    aside,
    bulleted,
    call_to_action,
    cell,
    document,
    film,
    heading,
    item,
    link,
    numbered,
    paragraph,
    picture,
    sound,
    table,
    words,
)
from .base import FULL, KNOWN

FAULTY = (
    film(20),
    film(21, autoplay=True),
    film(22),
    film(23),
    film(24),
    film(25, caption="Drafted"),
    film(26),
    film(27),
    film(99, caption="The film that was here"),
    sound(30),
    sound(31),
    heading(2, "LOCK 4 AND LOCK 5"),
    heading(2),
    heading(3, "Deep"),
    heading(5, "Deeper"),
    heading(2, words("Strong", STRONG)),
    paragraph(words("What to bring", STRONG)),
    paragraph(words("BOLD AND LOUD", STRONG)),
    paragraph(words("Strong throughout, and so long that nobody would take it for a heading: mind the ice.", STRONG)),
    paragraph("- gloves"),
    paragraph("- boots"),
    paragraph("1. one"),
    paragraph("2. two"),
    paragraph("• one", make("line_break"), "• two"),
    paragraph("Bring:", make("line_break"), "one", make("line_break"), "two", make("line_break"), "three"),
    paragraph("a", make("line_break"), make("line_break"), "b"),
    paragraph(),
    paragraph("\u00a0"),
    paragraph("   pushed   about the the place  "),
    paragraph("W e l c o m e, DO NOT OPEN BOTH GATES"),
    paragraph("Le chat est sur la table et il dort dans la cuisine avec nous."),
    paragraph(words("here", link("page:1")), words(" ", link("page:1")), words("more", link("page:1", title="t"))),
    paragraph(words("https://a.example/", link("page:1")), " ", words("form", link("item:7"))),
    paragraph(words("the form (in a new window)", link("item:7")), words("x", link("page:99"))),
    paragraph(
        words("low", Mark("tone", {"name": "pale"})), words("rust", TONE), words("unknown", Mark("tone", {"name": "z"}))
    ),
    paragraph(words("underlined", PLAIN_MARKS[0]), words(" and stressed", PLAIN_MARKS[0], EMPHASIS), style="odd"),
    bulleted(item(paragraph("one"))),
    bulleted(item(paragraph("a")), item(paragraph())),
    numbered(item(paragraph("a")), item(paragraph("b"))),
    numbered(item(paragraph("c")), start=3),
    table([cell("a"), cell("b")], [cell("c"), cell("d")]),
    table([cell("a"), cell(picture(2))]),
    table([cell(header=True), cell("b", header=True)], [cell("c"), cell("d")]),
    aside(
        "warning",
        paragraph("- a"),
        paragraph("- b"),
        paragraph(),
        paragraph(words("mid", Mark("tone", {"name": "mid"}))),
    ),
    picture(1),
    picture(2, "Picture of IMG_12.jpg"),
    picture(2, "Photo of arches", caption="Photo of arches", width=2000),
    picture(1, "gates", decorative=True),
    picture(99, caption="gone"),
    call_to_action("Click here", "page:1"),
    call_to_action("Come"),
)
HEADED_BY_PICTURE = table(
    [cell(header=True), cell(), cell()], [cell(picture(1), header=True), cell(), cell()], [cell(), cell(), cell()]
)
_MARKED = {"list-typed", "spaces-in-rows", "link-new-window", "word-doubled", "breaks-as-space"}
"""Repairs that leave out signs, spaces or doubled words."""
_REWORDED = {"link-vague", "link-bare-address", "link-document-untold", "link-empty"}
"""Repairs that give a link other words."""

UGLY = st.lists(st.sampled_from(FAULTY) | BLOCKS, min_size=1, max_size=7).map(
    lambda blocks: normal_form(document(*blocks))
)
BARE = replace(FULL, title="Untitled", description="")


def counted(findings, least):
    rank = SEVERITIES.index(least)
    return Counter(each.check for each in findings if SEVERITIES.index(each.severity) <= rank)


def letters(node):
    """The words of a document, of captions and alt texts too, without spaces and signs."""
    parts = [text_of(node)]
    parts += [each.attrs["alt"] or "" for _, each in walk(node) if each.kind == "picture"]
    return Counter(re.findall(r"[^\W_]", " ".join(parts).casefold()))


class Repairs(TestCase):
    def hold(self, node, around=FULL):
        subject = Subject(node, KNOWN, around)
        findings = check_page(subject)
        for finding in findings:
            for repair in finding.repairs:
                said = f"{finding.check}: {repair.label}"
                after = apply(node, repair.changes)
                document_from_json(after.to_json())
                facts = {each.name: each.value for each in repair.changes if isinstance(each, SetFact)}
                left = check_page(Subject(after, KNOWN, replace(around, **facts)))
                here = Counter(each.check for each in findings)
                self.assertLess(Counter(each.check for each in left)[finding.check], here[finding.check], said)
                new = counted(left, finding.severity) - counted(findings, finding.severity)
                self.assertEqual(dict(new), {}, said)
                self.keeps_words(node, after, finding, said)
                shown(node, repair)
        return findings

    def keeps_words(self, before, after, finding, said):
        lost = letters(before) - letters(after)
        if finding.check in _MARKED:
            self.assertLessEqual(sum(lost.values()), 40, said)
            self.assertFalse(letters(after) - letters(before), said)
        elif finding.check not in _REWORDED and not finding.check.startswith("picture-"):
            self.assertEqual(dict(lost), {}, said)

    def test_each_faulty_block_alone_and_the_lot_of_them(self):
        seen = set()
        for block in FAULTY:
            seen |= {each.check for each in self.hold(document(block), BARE)}
            seen |= {each.check for each in self.hold(document(paragraph("Before."), block, paragraph("After.")))}
        seen |= {each.check for each in self.hold(document(*FAULTY))}
        self.assertGreater(len(seen), 35)

    @settings(max_examples=many(200))
    @given(UGLY)
    @example(document(HEADED_BY_PICTURE))
    def test_a_repair_removes_its_finding_adds_none_as_bad_and_keeps_all_words(self, node):
        self.hold(node)

    @settings(max_examples=many(200))
    @given(UGLY)
    @example(document(heading(2), heading(2)))
    def test_what_may_be_mended_at_once_can_be_and_leaves_nothing_worse(self, node):
        findings = check_page(Subject(node, KNOWN, FULL))
        for check in {each.check for each in findings if each.rule.together and each.repairs}:
            changes = [
                change
                for each in findings
                if each.check == check and each.repairs
                for change in each.repairs[0].changes
            ]
            after = apply(node, changes)
            document_from_json(after.to_json())
            left = check_page(Subject(after, KNOWN, FULL))
            with_repair = sum(each.check == check and bool(each.repairs) for each in findings)
            before = sum(each.check == check for each in findings)
            self.assertLessEqual(sum(each.check == check for each in left), before - with_repair, check)


class EveryCheck(TestCase):
    def test_findings_stand_in_reading_order_and_say_all_there_is_to_say(self):
        findings = check_page(Subject(document(*FAULTY), KNOWN, BARE))
        self.assertEqual([each.path for each in findings], sorted(each.path for each in findings))
        for finding in findings:
            said = finding_json(finding)
            self.assertTrue(said["sentence"].endswith((".", "!", "?")), said["sentence"])
            self.assertEqual(len(said["key"]), 20)

    def test_every_rule_has_its_page_of_help_and_a_source(self):
        for rule in RULES.values():
            self.assertRegex(rule.source, r"WCAG 2\.2|Common practice|technique")
            for text in (rule.whom, rule.means, rule.right):
                self.assertRegex(text, r"[.!?”]$", rule.id)
            self.assertFalse(rule.title.endswith("."))
        self.assertEqual(len(RULES), len(CHECKS))

    def test_there_is_one_file_a_check_named_as_its_rule(self):
        folder = Path(package.__file__).parent
        files = {path.stem for path in folder.glob("*/*.py") if "RULE = CheckRule(" in path.read_text(encoding="utf-8")}
        self.assertEqual({each.replace("-", "_") for each in RULES}, files)

    def test_a_site_sets_severities_and_switches_checks_off(self):
        subject = Subject(document(heading(4, "a"), picture(1)), KNOWN, FULL)
        chosen = check_page(subject, {"heading-skipped": "look", "picture-without-alt": None})
        self.assertEqual([(each.check, each.severity) for each in chosen], [("heading-skipped", "look")])

    def test_a_finding_is_known_again_while_the_page_is_changed_elsewhere(self):
        one = check_page(Subject(document(heading(4, "a")), KNOWN, FULL))
        two = check_page(Subject(document(paragraph("More."), heading(4, "a")), KNOWN, FULL))
        other = check_page(Subject(document(heading(4, "b")), KNOWN, FULL))
        self.assertEqual(one[0].key, two[0].key)
        self.assertNotEqual(one[0].key, other[0].key)

    @settings(max_examples=many(200))
    @given(UGLY)
    def test_any_document_can_be_checked(self, node):
        for finding in check_page(Subject(node, KNOWN)):
            finding_json(finding)
