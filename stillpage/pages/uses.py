"""Which page uses which item of the library, so that nobody changes or removes one without knowing where it shows; and
which leads to which outside address."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import Count

from stillpage.library.models import Item
from stillpage.library.signals import want_files
from stillpage.outside.testing import known, test_due
from stillpage_core.document import Node
from stillpage_core.document.naming import Named, framings_in, named_in

from .models import LIGHT, Leads, Page, Use
from .seeing import Sight


@dataclass(frozen=True)
class Place:
    """A page that uses an item: as it is being written, as readers see it, or both."""

    page: Page
    working: bool
    live: bool
    framings: tuple[dict[str, Any], ...] = ()


def note_uses(page: Page, document: Node | None, *, live: bool) -> None:
    """Keep which items a text of a page names, and what it makes of pictures; None when there is no such text any more.

    Files that a use is the first to need are asked for.
    """
    named = named_in(document) if document else Named()
    framings = framings_in(document) if document else {}
    there = Item.objects.filter(pk__in=named.items | named.pictures)
    wanted = set(there.values_list("pk", flat=True))
    present = {use.item_id: use for use in Use.objects.filter(page=page, live=live)}
    if gone := present.keys() - wanted:
        Use.objects.filter(page=page, live=live, item__in=gone).delete()
    fresh = [
        Use(page=page, item_id=number, live=live, framings=framings.get(number, []))
        for number in sorted(wanted - present.keys())
    ]
    Use.objects.bulk_create(fresh)
    changed = [use for number, use in present.items() if number in wanted and use.framings != framings.get(number, [])]
    for use in changed:
        use.framings = framings.get(use.item_id, [])
    Use.objects.bulk_update(changed, ["framings"])
    if gone or fresh:
        count_pages(gone | {use.item_id for use in fresh})
    framed = [use.item_id for use in (*fresh, *changed) if any(_says_something(each) for each in use.framings)]
    if framed:
        want_files(Item.objects.filter(pk__in=framed))
    _note_leads(page, named.outside, live=live)


def _note_leads(page: Page, addresses: frozenset[str], *, live: bool) -> None:
    """Keep which outside addresses a text of a page leads to; those that are new are tested soon."""
    present = {lead.address.address: lead for lead in page.leads.filter(live=live).select_related("address")}
    if gone := present.keys() - addresses:
        page.leads.filter(pk__in=[present[each].pk for each in gone]).delete()
    if fresh := addresses - present.keys():
        Leads.objects.bulk_create(Leads(page=page, address=row, live=live) for row in known(fresh))
        transaction.on_commit(lambda: test_due.enqueue() and None)


def _says_something(framing: dict[str, Any]) -> bool:
    return any(value is not None for value in framing.values())


def count_pages(items: set[int]) -> None:
    """Bring up to date on how many pages items are used."""
    counted = Use.objects.filter(item__in=items).values("item").annotate(pages=Count("page", distinct=True))
    pages = {row["item"]: row["pages"] for row in counted}
    for number in items:
        Item.objects.filter(pk=number).update(used_on=pages.get(number, 0))


def places_of(item: Item, sight: Sight) -> list[Place]:
    """The pages that use an item and that may be seen, by site and address; others' pages as their readers know
    them."""
    found: dict[int, set[bool]] = {}
    framings: dict[int, list[dict[str, Any]]] = {}
    for use in Use.objects.filter(item=item):
        found.setdefault(use.page_id, set()).add(use.live)
        known = framings.setdefault(use.page_id, [])
        known += [framing for framing in use.framings if framing not in known]
    pages = (
        sight.pages(Page.objects.filter(pk__in=found)).select_related("site", "working_copy", "live_copy").defer(*LIGHT)
    )
    return [
        Place(page, sight.knows(page) and False in found[page.pk], True in found[page.pk], tuple(framings[page.pk]))
        for page in pages.order_by("site__name", "path")
        if sight.knows(page) or True in found[page.pk]
    ]
