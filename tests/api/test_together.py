"""Several who write on one page: merging, marks of saves, clashes, and who is here."""

from __future__ import annotations

import os
import random
import re
from collections import Counter
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Any
from uuid import UUID, uuid4

from django.utils import timezone

from stillpage.pages.models import Page
from stillpage.people.models import Person
from stillpage.written import saving, together
from stillpage.written.models import Clash, Save, Version, WorkingCopy, Writing
from stillpage_core.comparing import merge
from stillpage_core.document import Node, document_from_json
from stillpage_core.document.changes import ReplaceInline, ReplaceNodes, SetAttributes, apply
from stillpage_core.document.walking import blocks_of, text_of

from ..core.documents import document, paragraph
from .base import ApiTest, a_document, of_blocks


def text(*paragraphs: str) -> dict[str, Any]:
    return a_document(*paragraphs)


def a_change(told: dict[str, Any]) -> SetAttributes | ReplaceInline | ReplaceNodes:
    """A change as it was told, of the sorts that merging makes."""
    path = tuple(told["path"])
    if told["change"] == "set_attributes":
        return SetAttributes(path, told["attrs"])
    nodes = tuple(_node(each) for each in told["nodes"])
    if told["change"] == "replace_inline":
        return ReplaceInline(path, told["start"], told["end"], nodes)
    return ReplaceNodes(path, told["count"], nodes)


def _node(told: dict[str, Any]) -> Node:
    inline = told["type"] == "text"
    whole = of_blocks([{"type": "paragraph", "content": [told]} if inline else told])
    ((_, block),) = blocks_of(document_from_json(whole))
    return block.content[0] if inline else block


ROUNDS = 1000 if os.environ.get("STILLPAGE_LONG_TESTS") else 60


class Together(ApiTest):
    def put(self, base: int, *paragraphs: str, status: int = 200, title: str = "Towpath walks", **more: Any) -> Any:
        body = {"title": title, "description": "", "document": text(*paragraphs), "base": base, **more}
        return self.call("PUT", f"/pages/{self.walks.pk}/working-copy", body, status)

    def began(self, *paragraphs: str, title: str = "Towpath walks") -> dict[str, Any]:
        return {"title": title, "description": "", "document": text(*paragraphs)}

    def words(self) -> list[str]:
        return [text_of(block) for _, block in blocks_of(WorkingCopy.objects.get(written=self.walks).tree)]


class Merging(Together):
    def setUp(self) -> None:
        super().setUp()
        self.put(1, "One.", "Two.")
        self.as_person(self.other)
        self.put(2, "One by Tobias.", "Two.")
        self.as_person(self.author)

    def test_what_a_text_began_from_is_asked_for_and_nothing_changes_meanwhile(self):
        problem = self.put(2, "One.", "Two by Wren.", status=409)
        self.assertTrue(problem["type"].endswith("/began-from"))
        self.assertEqual(self.words(), ["One by Tobias.", "Two."])
        self.assertEqual((Version.objects.count(), Save.objects.count()), (0, 2))

    def test_changes_to_different_parts_are_merged_without_asking(self):
        saved = self.put(2, "One.", "Two by Wren.", began=self.began("One.", "Two."))
        self.assertEqual(self.words(), ["One by Tobias.", "Two by Wren."])
        self.assertEqual((saved["revision"], saved["clashes"]), (4, []))
        self.assertEqual(saved["merged"]["document"], WorkingCopy.objects.get(written=self.walks).document)
        self.assertFalse(Version.objects.exists())

    def test_the_changes_told_lead_from_what_was_sent_to_what_was_saved(self):
        saved = self.put(2, "One.", "Two by Wren.", "Three.", began=self.began("One.", "Two."))
        sent = document_from_json(text("One.", "Two by Wren.", "Three."))
        changes = [a_change(each) for each in saved["merged"]["changes"]]
        self.assertEqual(apply(sent, changes), WorkingCopy.objects.get(written=self.walks).tree)
        # What is the same in both is left alone.
        self.assertEqual([change["path"] for change in saved["merged"]["changes"]], [[0, 0]])

    def test_who_only_wants_what_is_new_gets_it_and_saves_nothing(self):
        saved = self.put(2, "One.", "Two.", began=self.began("One.", "Two."))
        self.assertEqual((saved["revision"], saved["saved_by"]), (3, "Tobias Osier"))
        self.assertEqual(saved["merged"]["document"]["content"], text("One by Tobias.", "Two.")["content"])

    def test_of_the_same_words_both_wordings_stand_and_somebody_chooses(self):
        saved = self.put(2, "One by Wren.", "Two.", began=self.began("One.", "Two."))
        self.assertEqual(self.words(), ["One by Tobias by Wren.", "Two."])  # Both put words at one place.
        self.assertEqual(saved["clashes"], [])
        saved = self.put(4, "Other words.", "Two.")
        self.as_person(self.other)
        saved = self.put(4, "Words of theirs.", "Two.", began=self.began("One by Tobias by Wren.", "Two."))
        self.assertEqual(self.words(), ["Other words.", "Words of theirs.", "Two."])
        (clash,) = saved["clashes"]
        self.assertEqual((clash["sort"], clash["theirs_by"], clash["mine_by"]), ("words", "Wren Osier", "Tobias Osier"))
        self.assertEqual((clash["theirs_at"], clash["mine_at"]), ([0, 0], [0, 1]))
        self.assertEqual(text_of(Version.objects.get().tree), "Words of theirs.\nTwo.")
        self.assertEqual(self.call("GET", f"/pages/{self.walks.pk}")["clashes"], [clash])
        for status in (204, 204):  # Done already is done.
            self.call("DELETE", f"/pages/{self.walks.pk}/clashes/{clash['id']}", status=status)
        self.assertEqual(self.call("GET", f"/pages/{self.walks.pk}")["clashes"], [])

    def test_a_page_on_which_nobody_has_chosen_cannot_be_published(self):
        self.put(3, "Other words.", "Two.")
        self.as_person(self.other)
        self.put(3, "Words of theirs.", "Two.", began=self.began("One by Tobias.", "Two."))
        self.as_person(self.author)
        problem = self.publish(self.walks, status=409)
        self.assertIn("Choose first, then publish", problem["detail"])
        self.call("DELETE", f"/pages/{self.walks.pk}/clashes/{Clash.objects.get().pk}", status=204)
        self.publish(self.walks)

    def test_a_title_and_a_description_are_merged_too(self):
        self.put(3, "One by Tobias.", "Two.", title="Walks in winter")
        self.as_person(self.other)
        sent = {**self.began("One by Tobias.", "Two."), "description": "Where to walk.", "base": 3}
        sent["began"] = self.began("One by Tobias.", "Two.")
        saved = self.call("PUT", f"/pages/{self.walks.pk}/working-copy", sent)
        merged = saved["merged"]
        self.assertEqual((merged["title"], merged["description"]), ("Walks in winter", "Where to walk."))
        self.assertEqual([change["change"] for change in merged["changes"]], ["set_fact"])
        saved = self.put(3, "One by Tobias.", "Two.", title="Dry walks", began=self.began("One by Tobias.", "Two."))
        (clash,) = saved["clashes"]
        self.assertEqual((clash["sort"], clash["theirs"], clash["mine"]), ("title", "Walks in winter", "Dry walks"))
        self.assertEqual(WorkingCopy.objects.get(written=self.walks).title, "Walks in winter")


class Marks(Together):
    def test_a_save_that_was_done_is_not_done_again(self):
        mark = str(uuid4())
        first = self.put(1, "Once.", mark=mark)
        again = self.put(1, "Once.", mark=mark)
        self.assertEqual((first["revision"], again["revision"], again["merged"]), (2, 2, None))

    def test_one_that_was_answered_too_late_is_done_though_others_went_on(self):
        mark = str(uuid4())
        self.put(1, "Mine.", mark=mark)
        self.as_person(self.other)
        self.put(2, "Mine. Theirs.")
        self.as_person(self.author)
        again = self.put(1, "Mine.", mark=mark)
        self.assertEqual(again["revision"], 3)
        self.assertEqual(again["merged"]["document"]["content"], text("Mine. Theirs.")["content"])
        self.assertEqual(self.words(), ["Mine. Theirs."])

    def test_an_author_never_clashes_with_themselves(self):
        self.put(1, "Begun.")
        self.put(2, "Changed here.")
        saved = self.put(2, "Changed there.", title="Other", began=self.began("Begun."))
        self.assertEqual((saved["clashes"], Clash.objects.count(), saved["twice"]), ([], 0, True))
        self.assertEqual(self.words(), ["Changed here.", "Changed there."])

    def test_of_two_titles_of_one_author_the_later_counts_and_the_earlier_is_a_version(self):
        self.put(1, "Begun.")
        self.put(2, "Begun.", title="One")
        self.put(2, "Begun.", title="Two", began=self.began("Begun."))
        self.assertEqual(WorkingCopy.objects.get(written=self.walks).title, "Two")
        self.assertEqual({kept.title for kept in Version.objects.all()}, {"One", "Two"})

    def test_words_of_one_author_are_not_saved_as_the_next_ones(self):
        problem = self.put(1, "Tobias wrote this.", status=403, person="tobias")
        self.assertTrue(problem["type"].endswith("/somebody-else"))
        self.assertIn("Wren Osier is signed in here now", problem["detail"])
        self.assertEqual(WorkingCopy.objects.get(written=self.walks).revision, 1)
        self.put(1, "Wren wrote this.", person="wren")

    def test_marks_are_forgotten_after_their_time(self):
        self.put(1, "One.")
        Save.objects.update(at=timezone.now() - saving.REMEMBERED - timedelta(hours=1))
        self.put(2, "Two.")
        saving.forget_old()
        self.assertEqual(Save.objects.get().revision, 3)


class Here(Together):
    def here(self, window: str, **more: Any) -> Any:
        return self.call("POST", f"/pages/{self.walks.pk}/writing", {"window": window, **more})

    def test_who_else_writes_and_where_is_told(self):
        mine, second, theirs = (str(uuid4()) for _ in range(3))
        self.assertEqual(self.here(mine, block=0)["others"], [])
        self.here(second, block=2)
        self.as_person(self.other)
        told = self.here(theirs, block=1)
        found = {(each["name"], each["block"], each["own"]) for each in told["others"]}
        self.assertEqual(found, {("Wren Osier", 0, False), ("Wren Osier", 2, False)})
        self.as_person(self.author)
        told = self.here(mine, block=5)
        found = {(each["name"], each["block"], each["own"]) for each in told["others"]}
        self.assertEqual(found, {("Wren Osier", 2, True), ("Tobias Osier", 1, False)})
        self.call("DELETE", f"/pages/{self.walks.pk}/writing/{second}", status=204)
        self.assertEqual(len(self.here(mine)["others"]), 1)

    def test_who_is_not_heard_of_any_more_is_gone(self):
        window = str(uuid4())
        self.here(window)
        self.as_person(self.other)
        self.assertEqual(len(self.here(str(uuid4()))["others"]), 1)
        Writing.objects.filter(window=window).update(at=timezone.now() - together.PRESENT - timedelta(seconds=1))
        self.assertEqual(self.here(str(uuid4()))["others"][0]["name"], "Tobias Osier")
        Writing.objects.update(at=timezone.now() - 4 * together.PRESENT)
        together.clear_away()
        self.assertFalse(Writing.objects.exists())

    def test_nobody_takes_over_or_ends_anothers_window(self):
        window = str(uuid4())
        self.here(window, block=1)
        self.as_person(self.other)
        self.here(window, block=7)
        self.call("DELETE", f"/pages/{self.walks.pk}/writing/{window}", status=204)
        self.assertEqual((Writing.objects.get().person, Writing.objects.get().block), (self.author, 1))

    def test_a_newer_text_is_heard_of(self):
        window = str(uuid4())
        self.assertEqual(self.here(window)["revision"], 1)
        self.put(1, "New.")
        self.assertEqual(self.here(window)["revision"], 2)


@dataclass
class Client:
    """An author's window, as it saves: what is unanswered goes out again under its mark, and what others changed is
    taken in, or merged with what was written meanwhile."""

    person: Person
    page: Page
    random: random.Random
    doc: Node
    saved: Node
    base: int
    behind: bool = False
    pending: tuple[UUID, Node, Node | None] | None = None
    typed: Counter[str] = field(default_factory=Counter)

    def write(self) -> None:
        blocks = [block for _, block in blocks_of(self.doc)]
        at = self.random.randrange(len(blocks))
        word = f"{self.person.username}{self.typed.total()}"
        words = text_of(blocks[at]).split(" ")
        how = self.random.random()
        if how < 0.15:
            blocks.insert(at + 1, paragraph(word))
        elif how < 0.3:
            # Nobody writes over what somebody has typed: each of those words has to be there in the end.
            old = [index for index, each in enumerate(words) if not each[-1:].isdigit()]
            if old:
                words[self.random.choice(old)] = word
            else:
                words.append(word)
            blocks[at] = paragraph(" ".join(words))
        else:
            words.insert(self.random.randrange(len(words) + 1), word)
            blocks[at] = paragraph(" ".join(each for each in words if each))
        self.typed[word] += 1
        self.doc = document(*blocks)

    def send(self, *, answered: bool, twice: bool) -> None:
        if self.pending is None:
            if self.doc == self.saved and not self.behind:
                return
            self.pending = (
                UUID(int=self.random.getrandbits(128), version=4),
                self.doc,
                self.saved if self.behind else None,
            )
        mark, sent, began = self.pending
        for _ in range(2 if twice else 1):
            try:
                answer = self.put(mark, sent, began)
            except saving.NewerText:
                began = self.saved
                self.pending = (mark, sent, began)
                answer = self.put(mark, sent, began)
        if not answered:
            return
        self.pending = None
        now = answer.copy.tree if answer.differs else sent
        # What was written since it was sent, and what others changed: the same merge does it here.
        self.doc = merge(sent, self.doc, now).document
        self.saved, self.base, self.behind = now, answer.copy.revision, False

    def put(self, mark: UUID, sent: Node, began: Node | None) -> saving.Saved:
        def draft(node: Node) -> saving.Draft:
            return saving.Draft("T", "", node)

        return saving.save(
            self.page, self.person, draft(sent), self.base, mark=mark, began=None if began is None else draft(began)
        )


class Interleavings(Together):
    """Two authors who write on one page, in any order, with answers that are lost and requests that come twice."""

    def test_no_word_of_either_is_lost_whatever_the_order(self):
        for seed in range(ROUNDS):
            with self.subTest(seed=seed):
                self.one(random.Random(seed))

    def one(self, dice: random.Random) -> None:
        begun = document(*(paragraph(f"begun {n} of the text") for n in range(dice.randrange(1, 5))))
        copy = WorkingCopy.objects.get(written=self.walks)
        saving.save(self.walks, self.author, saving.Draft("T", "", begun), copy.revision)
        copy.refresh_from_db()
        Clash.objects.all().delete()
        authors = [
            Client(person, self.walks, dice, begun, begun, copy.revision) for person in (self.author, self.other)
        ]
        for _ in range(dice.randrange(4, 12)):
            author = dice.choice(authors)
            if dice.random() < 0.6:
                author.write()
            else:
                author.send(answered=dice.random() < 0.7, twice=dice.random() < 0.2)
        for _ in range(3):
            for author in authors:
                author.behind = True
                author.send(answered=True, twice=False)
        now = WorkingCopy.objects.get(written=self.walks).tree
        for author in authors:
            self.assertEqual(author.doc, now)
        sides = [side for clash in Clash.objects.all() for side in (clash.mine, clash.theirs) if side]
        shown = [now, *(document_from_json(of_blocks(side)) for side in sides)]
        found = set(re.findall(r"\w+", " ".join(map(text_of, shown))))
        for author in authors:
            self.assertLessEqual(set(author.typed), found)
