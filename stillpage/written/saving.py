"""Saving the working copy: what several people write is merged, and no word of anybody's is lost."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta
from typing import Any
from uuid import UUID, uuid4

from django.db import transaction
from django.utils import timezone

from stillpage.people.models import Person
from stillpage_core import comparing
from stillpage_core.document import Node, document_from_json, normal_form
from stillpage_core.document.node import empty_document
from stillpage_core.errors import CoreError

from .models import Clash, Save, Version, WorkingCopy, Written
from .search import note_said
from .uses import note_uses

LONGEST_TITLE = 200
LONGEST_DESCRIPTION = 500
LONGEST_NOTE = 200
REMEMBERED = timedelta(days=90)
"""For how long a save is known by its mark: a window that lost the answer may come back only then."""


@dataclass(frozen=True)
class Draft:
    """A text on its way in. The document has been checked."""

    title: str
    description: str
    document: Node


class TextError(CoreError):
    """A text cannot be kept so; the sentence says why."""


class NewerText(TextError):
    """Somebody saved meanwhile, and the text that the draft began from is needed to merge the two."""

    status = 409
    name = "began-from"
    title = "Somebody else has saved this page"


@dataclass(frozen=True)
class Saved:
    """The working copy after a save; whether it says something else than the draft did; and whether two wordings of
    the same author stand in it now."""

    copy: WorkingCopy
    differs: bool
    twice: bool = False


def begin(written: Written, person: Person, title: str) -> None:
    """Give something its working copy, which is empty but for its title. Raises `TextError`."""
    empty = empty_document()
    title = clean_title(title)
    WorkingCopy.objects.create(
        written=written, title=title, document=empty.to_json(), saved_at=timezone.now(), saved_by=person
    )
    note_said(written, title, "", empty, live=False)


@transaction.atomic
def save(
    written: Written, person: Person, draft: Draft, base: int, *, mark: UUID | None = None, began: Draft | None = None
) -> Saved:
    """Save ``draft``, which was made of the text ``began``, which was made of revision ``base``.

    A save of the same ``mark`` that was done already is not done again. When somebody else has saved since ``base``,
    their changes and these are merged; where both changed the same words, both wordings stand and a `Clash` tells of
    it, and the draft is kept as a version besides. Nobody clashes with themselves.

    Raises:
        NewerText: when there is something to merge and ``began`` is not given. Nothing is changed.
    """
    copy = WorkingCopy.objects.select_for_update().select_related("saved_by").get(written=written)
    text = Version(**_cleaned(draft))
    mark = mark or uuid4()
    if Save.objects.filter(written=written, mark=mark).exists():
        return Saved(copy, not copy.same_text(text))
    twice = False
    if not copy.same_text(text):
        if copy.revision == base and began is None:
            _put(copy, person, text)
        elif began is None:
            raise NewerText("Somebody has saved this page since. Send the text that yours began from with it.")
        else:
            twice = _merge(copy, person, text, Version(**_cleaned(began)), base)
    Save.objects.create(written=written, mark=mark, revision=copy.revision, at=timezone.now(), by=person)
    return Saved(copy, not copy.same_text(text), twice)


def _put(copy: WorkingCopy, person: Person, text: Version) -> None:
    """Make a text the working copy's."""
    copy.title, copy.description, copy.document = text.title, text.description, text.document
    copy.revision += 1
    copy.saved_at = timezone.now()
    copy.saved_by = person
    copy.save()
    tree = copy.tree
    note_uses(copy.written, tree, live=False)
    note_said(copy.written, copy.title, copy.description, tree, live=False)


def _merge(copy: WorkingCopy, person: Person, mine: Version, began: Version, base: int) -> bool:
    """Put what ``mine`` changed of ``began`` into the working copy. Says whether the author had changed the same words
    themselves, in another window, so that both wordings stand and nobody is asked."""
    merged = comparing.merge(began.tree, mine.tree, copy.tree)
    # A schema that grows may find a gap in the merging; then nothing is saved, and everybody keeps what they have.
    document_from_json(merged.document.to_json())
    text = Version(document=merged.document.to_json())
    now = timezone.now()
    clashes = [Clash(sort=each.sort, theirs=_blocks(each.theirs), mine=_blocks(each.mine)) for each in merged.clashes]
    since = Save.objects.filter(written=copy.written, revision__gt=base).exclude(by=person).select_related("by")
    others = since.order_by("-revision").first()
    for name in ("title", "description"):
        value, asked = _settled(*(getattr(each, name) for each in (began, mine, copy)))
        if asked:
            clashes.append(Clash(sort=name, theirs=value, mine=getattr(mine, name)))
            value = value if others else getattr(mine, name)
        setattr(text, name, value)
    if clashes or merged.facts:
        if others:
            for clash in clashes:
                clash.written, clash.at = copy.written, now
                clash.theirs_by, clash.mine_by = others.by, person
            Clash.objects.bulk_create(clashes)
        # Who goes over their own words is not asked; what they said before is a version all the same.
        for kept, by in ((mine, person), *(() if others else ((copy, copy.saved_by),))):
            said = {name: getattr(kept, name) for name in ("title", "description", "document")}
            Version.objects.create(written=copy.written, reason=Version.Reason.SET_ASIDE, at=now, by=by, **said)
    if not copy.same_text(text):
        _put(copy, person, text)
    return others is None and any(clash.sort == "words" for clash in merged.clashes)


def _settled(began: str, mine: str, theirs: str) -> tuple[str, bool]:
    """What words become that either side may have changed, and whether both did, and differ; theirs stand then."""
    if theirs in (mine, began):
        return mine, False
    return theirs, mine != began


def _blocks(blocks: tuple[Node, ...]) -> list[dict[str, Any]]:
    return [block.to_json() for block in blocks]


@transaction.atomic
def keep(written: Written, person: Person, draft: Draft, note: str) -> Version:
    """Keep ``draft`` as a version of this name. Raises `TextError` when the name is empty or too long."""
    words = " ".join(note.split())
    if not words or len(words) > LONGEST_NOTE:
        raise TextError(f"Give the version a name of at most {LONGEST_NOTE} characters.")
    return Version.objects.create(
        written=written, reason=Version.Reason.NAMED, note=words, at=timezone.now(), by=person, **_cleaned(draft)
    )


def forget_old() -> None:
    """Forget the marks of saves that nobody will ask for again. Their texts stay where they are."""
    Save.objects.filter(at__lt=timezone.now() - REMEMBERED).delete()


def changes_between(draft: Draft, copy: WorkingCopy) -> Iterator[dict[str, Any]]:
    """What leads from a draft to the working copy, as the editor makes it (`stillpage_core.document.changes`)."""
    for name in ("title", "description"):
        if (value := getattr(copy, name)) != getattr(draft, name):
            yield {"change": "set_fact", "path": [], "name": name, "value": value}
    for change in comparing.changes_between(normal_form(draft.document), copy.tree):
        yield change.to_json()


def _cleaned(draft: Draft) -> dict[str, Any]:
    return {
        "title": clean_title(draft.title),
        "description": _clean_description(draft.description),
        "document": normal_form(draft.document).to_json(),
    }


def clean_title(title: str) -> str:
    """A title as it is kept: on one line, without white space at its ends.

    Raises:
        TextError: when nothing is left, or too much.
    """
    cleaned = " ".join(title.split())
    if not cleaned:
        raise TextError("A page needs a title.")
    if len(cleaned) > LONGEST_TITLE:
        raise TextError(f"The title is {len(cleaned)} characters long; at most {LONGEST_TITLE} are possible.")
    return cleaned


def _clean_description(description: str) -> str:
    cleaned = " ".join(description.split())
    if len(cleaned) > LONGEST_DESCRIPTION:
        raise TextError(
            f"The description is {len(cleaned)} characters long; at most {LONGEST_DESCRIPTION} are possible."
        )
    return cleaned
