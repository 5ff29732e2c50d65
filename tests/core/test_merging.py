"""Merging two texts that began as one: what every merge keeps to, whatever the texts, and what people would expect."""

from __future__ import annotations

import os
import random
import re
from collections import Counter
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from stillpage_core.budget import Budget, limited
from stillpage_core.comparing import changes_between, merge, places_that_differ, where_they_stand
from stillpage_core.comparing.aligning import changed_runs, matches, rising
from stillpage_core.document import document_from_json
from stillpage_core.document.changes import apply
from stillpage_core.document.node import Node, make
from stillpage_core.document.normal import normal_form
from stillpage_core.document.walking import blocks_of, node_at, walk

from .documents import (
    BLOCKS,
    DOCUMENTS,
    STRONG,
    body,
    bulleted,
    cell,
    document,
    every_kind,
    heading,
    item,
    paragraph,
    picture,
    table,
    words,
)

WORD = re.compile(r"\w+")
MORE = 10 if os.environ.get("STILLPAGE_LONG_TESTS") else 1


def said(*nodes: Node) -> Counter[str]:
    """Every word of these, those that stand in attributes among them."""
    found: Counter[str] = Counter()
    for node in nodes:
        for _, each in walk(node):
            found.update(WORD.findall(each.text))
            for name in ("alt", "caption", "latex"):
                found.update(WORD.findall(str(each.attrs.get(name) or "")))
    return found


def text(*paragraphs: str) -> Node:
    return document(*(paragraph(each) if each else paragraph() for each in paragraphs))


def lines(node: Node) -> list[str]:
    return ["".join(child.text for child in block.content) for block in body(node)]


class Writer:
    """Somebody who changes a text here and there, with words that nobody else has."""

    def __init__(self, name: str, seed: int) -> None:
        self.name = name
        self.random = random.Random(seed)
        self.count = 0

    def word(self) -> str:
        self.count += 1
        return f"{self.name}{self.count}"

    def changed(self, node: Node, times: int) -> Node:
        for _ in range(times):
            node = self.once(node)
        return normal_form(node)

    def once(self, node: Node) -> Node:
        blocks = list(node.content)
        at = self.random.randrange(len(blocks))
        if node.kind == "doc":
            return node.with_content([*blocks[:at], self.once(blocks[at]), *blocks[at + 1 :]])
        act = self.random.choice(["write", "write", "write", "add", "take", "move", "deep", "mark"])
        if act == "add":
            blocks.insert(at, paragraph(f"{self.word()} {self.word()}"))
        elif act == "take" and len(blocks) > 1:
            del blocks[at]
        elif act == "move":
            blocks.insert(self.random.randrange(len(blocks)), blocks.pop(at))
        elif act == "deep" and blocks[at].content and blocks[at].kind in ("bulleted_list", "aside"):
            blocks[at] = self.once(blocks[at]) if blocks[at].kind != "bulleted_list" else self.in_list(blocks[at])
        elif blocks[at].kind in ("paragraph", "heading"):
            blocks[at] = self.written(blocks[at], mark=act == "mark")
        return node.with_content(blocks)

    def in_list(self, node: Node) -> Node:
        items = list(node.content)
        at = self.random.randrange(len(items))
        if self.random.random() < 0.3:
            items.insert(at, item(paragraph(self.word())))
        else:
            items[at] = self.once(items[at]) if items[at].content[0].kind == "paragraph" else items[at]
            if items[at].content[0].kind != "paragraph":
                items[at] = node.content[at]
        return node.with_content(items)

    def written(self, block: Node, *, mark: bool) -> Node:
        plain = "".join(child.text for child in block.content).split(" ")
        at = self.random.randrange(len(plain))
        how = self.random.choice(["insert", "insert", "replace", "remove"])
        if mark:
            before, here, after = " ".join(plain[:at]), plain[at], " ".join(plain[at + 1 :])
            parts = [each for each in (f"{before} " if before else "", here, f" {after}" if after else "") if each]
            return block.with_content(words(each, STRONG) if each == here else words(each) for each in parts)
        if how == "insert":
            plain.insert(at, self.word())
        elif how == "replace":
            plain[at] = self.word()
        else:
            del plain[at]
        joined = " ".join(plain)
        return block.with_content([words(joined)] if joined else [])


STORIES = st.lists(
    st.sampled_from(
        [
            paragraph("The gates of the lock are shut at dusk and opened again at seven."),
            paragraph("Boats wait below the weir until the keeper waves them in."),
            heading(2, "Stoppages"),
            heading(3, "In winter"),
            paragraph("Dogs are welcome on the towpath on a lead."),
            bulleted(item(paragraph("a windlass")), item(paragraph("a rope of ten metres"))),
            paragraph(),
            picture(3, "Gates"),
            make("aside", [paragraph("Mind the step."), paragraph("It is wet.")], sort="tip"),
        ]
    ),
    min_size=1,
    max_size=8,
).map(lambda blocks: document(*blocks))
SEEDS = st.integers(0, 2**32)


class Kept(TestCase):
    """What every merge keeps to."""

    @settings(deadline=None, max_examples=40 * MORE)
    @given(DOCUMENTS, DOCUMENTS)
    def test_merging_with_an_unchanged_side_gives_the_other(self, base, other):
        for merged in (merge(base, other, base), merge(base, base, other), merge(base, other, other)):
            self.assertEqual(merged.document, other)
            self.assertEqual(merged.clashes, ())

    @settings(deadline=None, max_examples=25 * MORE)
    @given(DOCUMENTS, DOCUMENTS, DOCUMENTS)
    def test_of_any_three_texts_the_merged_one_is_valid_and_every_added_word_is_kept(self, base, mine, theirs):
        self.hold(base, mine, theirs)

    @settings(deadline=None, max_examples=120 * MORE)
    @given(STORIES, SEEDS, st.integers(1, 9), st.integers(1, 9))
    def test_of_two_who_write_here_and_there_every_added_word_is_kept(self, base, seed, often, often_too):
        mine = Writer("mine", seed).changed(base, often)
        theirs = Writer("theirs", seed + 1).changed(base, often_too)
        self.hold(base, mine, theirs)

    def hold(self, base: Node, mine: Node, theirs: Node) -> None:
        merged = merge(base, mine, theirs)
        document_from_json(merged.document.to_json())
        self.assertEqual(normal_form(merged.document), merged.document)
        kept = said(merged.document)
        for clash in merged.clashes:
            kept |= said(*clash.mine, *clash.theirs)
        for side in (mine, theirs):
            # A word that the other side has too may be there for both.
            self.assertEqual(set(said(side) - said(base)) - set(kept), set())
        other = merge(base, theirs, mine)
        kept_too = said(other.document)
        for clash in other.clashes:
            kept_too |= said(*clash.mine, *clash.theirs)
        self.assertEqual(set(kept_too), set(kept))
        self.assertEqual(len(other.clashes), len(merged.clashes))

    @settings(deadline=None, max_examples=40 * MORE)
    @given(DOCUMENTS, DOCUMENTS)
    def test_the_changes_between_two_texts_lead_from_the_one_to_the_other(self, old, new):
        self.assertEqual(apply(old, changes_between(old, new)), new)

    @settings(deadline=None, max_examples=80 * MORE)
    @given(STORIES, SEEDS, st.integers(1, 6))
    def test_the_changes_between_a_text_and_what_somebody_made_of_it_lead_there(self, old, seed, often):
        new = Writer("new", seed).changed(old, often)
        self.assertEqual(apply(old, changes_between(old, new)), new)

    @settings(deadline=None, max_examples=40 * MORE)
    @given(st.lists(BLOCKS, min_size=1, max_size=3), st.integers(0, 2))
    def test_a_block_that_is_added_is_one_change(self, blocks, at):
        old = normal_form(document(*blocks))
        new = document(*old.content[:at], paragraph("quite new"), *old.content[at:])
        self.assertEqual(len(changes_between(old, new)), 1)


class AsExpected(TestCase):
    def merged(self, base: Node, mine: Node, theirs: Node, clashes: int = 0) -> Node:
        found = merge(base, mine, theirs)
        self.assertEqual(len(found.clashes), clashes, found.clashes)
        return found.document

    def test_different_paragraphs(self):
        found = self.merged(text("a", "b"), text("a one", "b"), text("a", "b two", "c"))
        self.assertEqual(lines(found), ["a one", "b two", "c"])

    def test_different_words_of_one_paragraph(self):
        base = text("The gates are shut at dusk.")
        found = self.merged(base, text("The old gates are shut at dusk."), text("The gates are shut at dawn."))
        self.assertEqual(lines(found), ["The old gates are shut at dawn."])

    def test_both_write_on_at_the_same_place_and_words_stay_apart(self):
        found = self.merged(text("Begun."), text("Begun. Mine"), text("Begun. Theirs"))
        self.assertEqual(lines(found), ["Begun. Theirs Mine"])
        self.assertEqual(lines(self.merged(text(""), text("mine"), text("theirs"))), ["theirs mine"])

    def test_who_goes_on_in_a_word_does_not_hinder_who_writes_behind_it(self):
        found = self.merged(text("x hel"), text("x hello"), text("x hel and more"))
        self.assertEqual(lines(found), ["x hello and more"])

    def test_the_same_words_are_both_kept_and_asked_about(self):
        base = text("The gate is red.", "End.")
        found = merge(base, text("The gate is blue.", "End."), text("The gate is green.", "End."))
        self.assertEqual(lines(found.document), ["The gate is green.", "The gate is blue.", "End."])
        (clash,) = found.clashes
        self.assertEqual(
            (clash.sort, clash.theirs, clash.mine), ("words", *((block,) for block in body(found.document)[:2]))
        )

    def test_two_wordings_of_one_place_hold_what_else_was_changed_in_it(self):
        base = text("One two three four five six.")
        found = merge(base, text("ONE two three mine five six."), text("One two three theirs five SIX."))
        self.assertEqual(lines(found.document), ["ONE two three theirs five SIX.", "ONE two three mine five SIX."])

    def test_what_one_takes_away_and_the_other_changes_stays_and_is_asked_about(self):
        base = text("Stays.", "The gate is red.")
        for mine, theirs in ((text("Stays."), text("Stays.", "The gate is blue.")),) * 1:
            found = merge(base, mine, theirs)
            self.assertEqual(lines(found.document), ["Stays.", "The gate is blue."])
            self.assertEqual(
                [(clash.sort, len(clash.mine), len(clash.theirs)) for clash in found.clashes], [("gone", 0, 1)]
            )
            turned = merge(base, theirs, mine)
            self.assertEqual(
                [(clash.sort, len(clash.mine), len(clash.theirs)) for clash in turned.clashes], [("gone", 1, 0)]
            )

    def test_what_both_take_away_is_gone(self):
        self.assertEqual(lines(self.merged(text("a", "b", "c"), text("a", "c"), text("a"))), ["a"])
        self.assertEqual(lines(self.merged(text("a b c d"), text("a d"), text("a b"))), ["a "])
        self.assertEqual(self.merged(text("a", "b"), text("a"), text("b")), document(paragraph()))

    def test_a_section_moves_with_what_the_other_writes_in_it(self):
        first = [heading(2, "Lock four"), paragraph("It is deep and old.")]
        second = [heading(2, "Lock five"), paragraph("It has one gate only."), paragraph("Mind the sill.")]
        base = document(*first, *second)
        mine = document(*second, *first)
        theirs = document(first[0], paragraph("It is deep and very old."), paragraph("New below."), *second)
        found = self.merged(base, mine, theirs)
        expected = [*second, first[0], paragraph("It is deep and very old."), paragraph("New below.")]
        self.assertEqual(list(body(found)), expected)

    def test_attributes_one_by_one(self):
        base = document(picture(1, "Gates"), heading(2, "Locks"))
        mine = document(picture(1, "Gates", width=300), heading(3, "Locks"))
        theirs = document(picture(1, "Old gates", place="start"), heading(2, "The locks"))
        found = self.merged(base, mine, theirs)
        self.assertEqual(found, document(picture(1, "Old gates", place="start", width=300), heading(3, "The locks")))

    def test_of_two_alt_texts_one_stands_and_the_other_is_asked_about(self):
        base = document(picture(1, "Gates", width=200))
        found = merge(base, document(picture(1, "My gates", width=200)), document(picture(1, "Their gates", width=90)))
        self.assertEqual(found.document, document(picture(1, "Their gates", width=90)))
        (clash,) = found.clashes
        self.assertEqual((clash.sort, clash.mine), ("attributes", (picture(1, "My gates", width=90),)))

    def test_a_paragraph_that_one_makes_a_heading_takes_the_words_of_the_other(self):
        found = self.merged(text("Lock four"), document(heading(2, "Lock four")), text("Lock number four"))
        self.assertEqual(found, document(heading(2, "Lock number four")))

    def test_marks_and_words_that_do_not_touch(self):
        base = text("The old gate stays.")
        mine = document(paragraph("The ", words("old", STRONG), " gate stays."))
        found = self.merged(base, mine, text("The old gate stays shut."))
        self.assertEqual(found, document(paragraph("The ", words("old", STRONG), " gate stays shut.")))

    def test_items_of_a_list_and_cells_of_a_table(self):
        base = document(bulleted(item(paragraph("rope")), item(paragraph("windlass"))))
        mine = document(bulleted(item(paragraph("long rope")), item(paragraph("windlass"))))
        theirs = document(bulleted(item(paragraph("rope")), item(paragraph("windlass")), item(paragraph("gloves"))))
        found = self.merged(base, mine, theirs)
        self.assertEqual(
            found,
            document(bulleted(item(paragraph("long rope")), item(paragraph("windlass")), item(paragraph("gloves")))),
        )
        base, mine, theirs = (
            document(table([cell("Lock"), cell("Rise")], [cell("4"), cell(rise)], *more))
            for rise, more in (("2", []), ("3", []), ("2", [[cell("5"), cell("1")]]))
        )
        expected = document(table([cell("Lock"), cell("Rise")], [cell("4"), cell("3")], [cell("5"), cell("1")]))
        self.assertEqual(self.merged(base, mine, theirs), expected)

    def test_a_row_here_and_a_column_there_leave_both_tables(self):
        base = document(table([cell("a"), cell("b")]))
        mine = document(table([cell("a"), cell("b")], [cell("c"), cell("d")]))
        theirs = document(table([cell("a"), cell("x"), cell("b")]))
        found = merge(base, mine, theirs)
        self.assertEqual(found.document, document(body(theirs)[0], body(mine)[0]))
        self.assertEqual(len(found.clashes), 1)

    def test_what_both_added_alike_is_there_once(self):
        self.assertEqual(lines(self.merged(text("a"), text("a", "b"), text("a", "b", "c"))), ["a", "b", "c"])
        self.assertEqual(lines(self.merged(text("a"), text("a b"), text("a b"))), ["a b"])


class InProportion(TestCase):
    """Work is counted in steps: twice the text, twice the steps."""

    def steps(self, work) -> int:
        budget = Budget(10**9)
        with limited(budget):
            work()
        return 10**9 - budget.left

    def test_merging_grows_with_the_text(self):
        def of(size: int) -> int:
            base = [f"Paragraph {n} of a long text about lock {n * 7}." for n in range(size)]
            mine = [f"{each} Mine {n}." if n % 2 else each for n, each in enumerate(base)]
            theirs = [f"Theirs {n}. {each}" if n % 3 else each for n, each in enumerate(base)]
            return self.steps(lambda: merge(text(*base), text(*mine), text(*theirs)))

        self.assertLess(of(800), 2.6 * of(400))

    def test_nothing_in_common_and_nothing_told_apart_grow_with_the_text_too(self):
        for make_one in (lambda n: "same", lambda n: f"word{n}"):

            def of(size: int, make_one=make_one) -> int:
                base = [make_one(n) for n in range(size)]
                mine = [f"{make_one(n)}x" for n in range(size)]
                return self.steps(lambda: merge(text(*base), text(*mine), text(*reversed(base))))

            self.assertLess(of(1600), 2.6 * of(800))

    def test_one_paragraph_of_many_words(self):
        def of(size: int) -> int:
            base = ["the"] * size + [f"w{n}" for n in range(size)] + ["a", "b"] * size
            mine, theirs = (
                [*base[:at], name, *base[at:]] for at, name in ((size // 2, "mine"), (-size // 2, "theirs"))
            )
            return self.steps(lambda: merge(*(text(" ".join(each)) for each in (base, mine, theirs))))

        self.assertLess(of(2000), 2.6 * of(1000))

    def test_finding_what_was_kept(self):
        def of(size: int) -> int:
            kept = [paragraph(f"Paragraph {n} about lock {n * 7}.") for n in range(size)]
            now = [f"{n} Paragraph about the lock {n * 7}." for n in range(size)]
            return self.steps(lambda: where_they_stand(text(*now), kept))

        self.assertLess(of(1600), 2.6 * of(800))


class WhereTheyStand(TestCase):
    """Wordings that were kept are found again after the text was written on."""

    def test_both_wordings_where_they_are_even_in_a_table_and_of_a_picture(self):
        gate = document(
            paragraph("Above."),
            table([cell("The gate is red")], [cell("The gate is blue")]),
            picture(item=1),
            picture(item=2),
        )
        kept = [paragraph("The gate is blue"), paragraph("The gate is red"), picture(item=2)]
        self.assertEqual(where_they_stand(gate, kept), [(0, 1, 0, 1, 0, 0), (0, 1, 0, 0, 0, 0), (0, 3)])

    def test_the_one_that_was_written_on_and_no_other(self):
        kept = [paragraph("The upper gate is red now"), paragraph("The upper gate is blue now")]
        now = text("Other words.", "On Monday the upper gate is blue", "The upper gate is red now", "x")
        self.assertEqual(where_they_stand(now, kept), [(0, 2), (0, 1)])
        self.assertEqual(where_they_stand(text("The upper gate is blue now"), kept), [None, (0, 0)])
        self.assertEqual(where_they_stand(text("Something else"), kept), [None, None])

    def test_the_same_words_twice_are_two_places(self):
        self.assertEqual(where_they_stand(text("a b", "a b"), [paragraph("a b")] * 3), [(0, 0), (0, 1), None])

    @given(DOCUMENTS)
    def test_every_block_of_a_document_stands_where_it_stands(self, tree):
        blocks = [block for _, block in blocks_of(normal_form(tree))]
        found = where_they_stand(normal_form(tree), blocks)
        for block, path in zip(blocks, found, strict=True):
            self.assertEqual(node_at(normal_form(tree), path), block)
        self.assertEqual(len(set(found)), len(blocks))


class Sequences(TestCase):
    @given(st.lists(st.integers(0, 5), max_size=40), st.lists(st.integers(0, 5), max_size=40))
    def test_what_is_said_to_be_common_is(self, one, other):
        at = there = 0
        for first, second, size in matches(one, other):
            self.assertTrue(first >= at and second >= there and size > 0)
            self.assertEqual(one[first : first + size], other[second : second + size])
            at, there = first + size, second + size
        rebuilt: list[int] = []
        at = 0
        for first, last, begin, end in changed_runs(one, other):
            rebuilt += one[at:first] + other[begin:end]
            at = last
        self.assertEqual(rebuilt + one[at:], other)

    @given(st.lists(st.integers(0, 30), unique=True, max_size=20))
    def test_rising_numbers_rise_and_are_as_many_as_can_be(self, numbers):
        found = [numbers[index] for index in rising(numbers)]
        self.assertEqual(found, sorted(found))
        longest = [1] * len(numbers)
        for index in range(len(numbers)):
            for before in range(index):
                if numbers[before] < numbers[index]:
                    longest[index] = max(longest[index], longest[before] + 1)
        self.assertEqual(len(found), max(longest, default=0))

    def test_places_that_differ(self):
        self.assertEqual(places_that_differ(text("a", "b", "c"), text("A", "b", "C", "d")), 2)
        self.assertEqual(places_that_differ(every_kind(), every_kind()), 0)
