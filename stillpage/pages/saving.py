"""Saving the working copy, so that nobody's newer text is overwritten and no text is lost."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.utils import timezone

from stillpage.people.models import Person
from stillpage_core.document import Node, normal_form

from .models import KeptText, Page, WorkingCopy
from .tree import PageError, clean_title
from .uses import note_uses

LONGEST_DESCRIPTION = 500
LONGEST_NOTE = 200


@dataclass(frozen=True)
class Draft:
    """A text on its way in. The document has been checked."""

    title: str
    description: str
    document: Node


@dataclass(frozen=True)
class Saved:
    """The working copy after the call. When ``refused``, it is the newer one, and the draft is in ``kept``."""

    copy: WorkingCopy
    kept: KeptText | None = None

    @property
    def refused(self) -> bool:
        return self.kept is not None


@transaction.atomic
def save(page: Page, person: Person, draft: Draft, base: int) -> Saved:
    """Save ``draft``, which began from revision ``base``.

    When somebody saved a later revision meanwhile, nothing is overwritten: the draft is kept beside it.
    """
    copy = WorkingCopy.objects.select_for_update().select_related("saved_by").get(page=page)
    text = _cleaned(draft)
    if copy.same_text(KeptText(**text)):
        return Saved(copy)
    if copy.revision != base:
        kept = KeptText.objects.create(
            page=page, reason=KeptText.Reason.SET_ASIDE, at=timezone.now(), by=person, **text
        )
        return Saved(copy, kept)
    for name, value in text.items():
        setattr(copy, name, value)
    copy.revision += 1
    copy.saved_at = timezone.now()
    copy.saved_by = person
    copy.save()
    note_uses(page, draft.document, live=False)
    return Saved(copy)


@transaction.atomic
def save_over(page: Page, person: Person, draft: Draft) -> Saved:
    """Save ``draft`` in place of whatever is newest, at the author's wish; what it replaces is kept."""
    copy = WorkingCopy.objects.select_for_update().get(page=page)
    KeptText.objects.create(
        page=page,
        reason=KeptText.Reason.SET_ASIDE,
        at=copy.saved_at,
        by=copy.saved_by,
        title=copy.title,
        description=copy.description,
        document=copy.document,
    )
    return save(page, person, draft, copy.revision)


@transaction.atomic
def keep(page: Page, person: Person, draft: Draft, note: str) -> KeptText:
    """Keep ``draft`` as a version of this name. Raises `PageError` when the name is empty or too long."""
    words = " ".join(note.split())
    if not words or len(words) > LONGEST_NOTE:
        raise PageError(f"Give the version a name of at most {LONGEST_NOTE} characters.")
    return KeptText.objects.create(
        page=page, reason=KeptText.Reason.NAMED, note=words, at=timezone.now(), by=person, **_cleaned(draft)
    )


def _cleaned(draft: Draft) -> dict[str, Any]:
    return {
        "title": clean_title(draft.title),
        "description": _clean_description(draft.description),
        "document": normal_form(draft.document).to_json(),
    }


def _clean_description(description: str) -> str:
    cleaned = " ".join(description.split())
    if len(cleaned) > LONGEST_DESCRIPTION:
        raise PageError(
            f"The description is {len(cleaned)} characters long; at most {LONGEST_DESCRIPTION} are possible."
        )
    return cleaned
