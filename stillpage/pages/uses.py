"""Which page uses which item of the library, so that nobody changes or removes one without knowing where it shows."""

from __future__ import annotations

from dataclasses import dataclass

from stillpage.library.models import Item
from stillpage_core.document import Node
from stillpage_core.document.naming import Named, named_in

from .models import Page, Use


@dataclass(frozen=True)
class Place:
    """A page that uses an item: as it is being written, as readers see it, or both."""

    page: Page
    working: bool
    live: bool


def note_uses(page: Page, document: Node | None, *, live: bool) -> None:
    """Keep which items a text of a page names; None when there is no such text any more."""
    named = named_in(document) if document else Named()
    known = Item.objects.filter(pk__in=named.items | named.pictures)
    wanted = set(known.values_list("pk", flat=True))
    present = set(Use.objects.filter(page=page, live=live).values_list("item_id", flat=True))
    if gone := present - wanted:
        Use.objects.filter(page=page, live=live, item__in=gone).delete()
    Use.objects.bulk_create(Use(page=page, item_id=number, live=live) for number in sorted(wanted - present))


def places_of(item: Item) -> list[Place]:
    """The pages that use an item, by site and address."""
    found: dict[int, set[bool]] = {}
    for use in Use.objects.filter(item=item):
        found.setdefault(use.page_id, set()).add(use.live)
    pages = Page.objects.filter(pk__in=found).select_related("site", "working_copy", "live_copy")
    return [
        Place(page, working=False in found[page.pk], live=True in found[page.pk])
        for page in pages.order_by("site__name", "path")
    ]
