"""What texts name: items of the library, so that nobody changes or removes one without knowing where it shows; pages
and whatever else is written that they link to; and outside addresses."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from django.db import transaction
from django.db.models import Count

from stillpage.library.models import Item
from stillpage.library.signals import want_files
from stillpage.outside.testing import known, test_due
from stillpage_core.document import Node
from stillpage_core.document.naming import Named, framings_in, named_in

from .models import Use, Written


def note_uses(written: Written, document: Node | None, *, live: bool) -> None:
    """Keep what a text names, and what it makes of pictures; None when there is no such text any more.

    Files that a use is the first to need are asked for; addresses that are new are tested soon.
    """
    named = named_in(document) if document else Named()
    framings = framings_in(document) if document else {}
    present = {_what(use): use for use in Use.objects.filter(written=written, live=live).select_related("address")}
    wanted = _there(named, {use.address.address: use.address.pk for use in present.values() if use.address})
    gone, fresh = present.keys() - wanted, wanted - present.keys()
    # Who counts an item's pages locks it; so that nobody waits for each other, all do so in one order, before all else.
    items = sorted(number for name, number in gone | fresh if name == "item_id")
    if items:
        list(Item.objects.select_for_update().filter(pk__in=items).order_by("pk").values_list("pk"))
    if gone:
        Use.objects.filter(pk__in=[present[what].pk for what in gone]).delete()
    added = [Use(written=written, live=live, **{name: number}) for name, number in sorted(fresh)]
    for use in added:
        use.framings = framings.get(use.item_id or 0, [])
    Use.objects.bulk_create(added)
    kept = [use for what, use in present.items() if what not in gone and use.item_id]
    changed = [use for use in kept if use.framings != framings.get(use.item_id or 0, [])]
    for use in changed:
        use.framings = framings.get(use.item_id or 0, [])
    Use.objects.bulk_update(changed, ["framings"])
    if items:
        count_pages(items)
    framed = [use.item_id or 0 for use in (*added, *changed) if any(_says_something(each) for each in use.framings)]
    if framed:
        want_files(Item.objects.filter(pk__in=framed))
    if any(name == "address_id" for name, _ in fresh):
        transaction.on_commit(lambda: test_due.enqueue() and None)


_What = tuple[str, int]
"""What a use is of: a column of `Use`, and a number."""


def _what(use: Use) -> _What:
    return next((name, number) for name in ("item_id", "target_id", "address_id") if (number := getattr(use, name)))


def _there(named: Named, addresses: dict[str, int]) -> set[_What]:
    """What a document names and there is; ``addresses`` are those known already."""
    items = Item.objects.filter(pk__in=named.items | named.pictures).values_list("pk", flat=True)
    targets = Written.objects.filter(pk__in=named.pages).values_list("pk", flat=True)
    outside = [number for address, number in addresses.items() if address in named.outside]
    if new := named.outside - addresses.keys():
        outside += [row.pk for row in known(new)]
    found = {"item_id": items, "target_id": targets, "address_id": outside}
    return {(name, number) for name, numbers in found.items() for number in numbers}


def _says_something(framing: dict[str, Any]) -> bool:
    return any(value is not None for value in framing.values())


def count_pages(items: Collection[int]) -> None:
    """Bring up to date on how many pages items are used."""
    counted = Use.objects.filter(item__in=items).values("item").annotate(pages=Count("written", distinct=True))
    pages = {row["item"]: row["pages"] for row in counted}
    for number in items:
        Item.objects.filter(pk=number).update(used_on=pages.get(number, 0))
