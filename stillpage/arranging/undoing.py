"""Undoing what was last done to a tree."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from stillpage.pages.models import Page, TreeAct
from stillpage.pages.tree import PageError
from stillpage.people.models import Person

from .addressing import lock
from .binning import put_away, take_back
from .placing import set_elsewhere, set_shown, stand_again

KEPT = timedelta(days=60)
"""For how long an act can be undone. What is in the bin comes back from there at any time."""


def forget_old() -> None:
    """Forget the acts that nobody will undo any more."""
    TreeAct.objects.filter(at__lt=timezone.now() - KEPT).delete()


@transaction.atomic
def undo(act: TreeAct, person: Person, *, live: bool) -> TreeAct:
    """Bring back what was there before an act, as far as the pages are still there.

    What was added goes into the bin: somebody may have written there since. What comes back from there readers have
    again, if ``live``.

    Raises:
        PageError: when it was undone already, or nothing of it can be any more.
    """
    act = TreeAct.objects.select_for_update().get(pk=act.pk)
    if act.undone:
        raise PageError("This has been undone already.")
    numbers = [number for number, _ in act.before]
    found = {page.pk: page for page in Page.every.filter(pk__in=numbers).select_related("site", "parent")}
    pages = [found[number] for number in numbers if number in found]
    lock(*(page.site for page in pages))
    if act.sort in (TreeAct.Sort.ADDED, TreeAct.Sort.RESTORED):
        there = [page for page in pages if page.binned_at is None]
        for page in there:
            page.refresh_from_db()
            if page.binned_at is None:
                put_away(page, person)
    elif act.sort == TreeAct.Sort.BINNED:
        there = [page for page in pages if page.binned_with_id == page.pk]
        for page in sorted(there, key=lambda page: (page.position, page.pk)):
            take_back(page, live=live)
    else:
        facts = dict(act.before)
        there = [page for page in pages if page.binned_at is None and _back(page, person, facts[page.pk])]
    if not there:
        raise PageError("Nothing of this can be undone any more: the pages are no longer there.")
    TreeAct.objects.filter(pk=act.pk).update(undone=True)
    return act


def _back(page: Page, person: Person, facts: dict[str, object]) -> bool:
    page.refresh_from_db()
    if "elsewhere" in facts:
        set_elsewhere(page, str(facts["elsewhere"]))
        return True
    if "hidden" in facts:
        set_shown(page, in_navigation=bool(facts["in_navigation"]), hidden=bool(facts["hidden"]))
        return True
    return stand_again(page, person, facts)
