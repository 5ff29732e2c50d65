"""On which pages items of the library are used."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from stillpage.library.models import Item
from stillpage.written.models import Use

from .models import LIGHT, Page
from .seeing import Sight


@dataclass(frozen=True)
class UsedOn:
    """A page that uses an item: as it is being written, as readers see it, or both."""

    page: Page
    working: bool
    live: bool
    framings: tuple[dict[str, Any], ...] = ()


def places_of(item: Item, sight: Sight) -> list[UsedOn]:
    """The pages that use an item and that may be seen, by site and address; others' pages as their readers know
    them."""
    found: dict[int, set[bool]] = {}
    framings: dict[int, list[dict[str, Any]]] = {}
    for use in Use.objects.filter(item=item):
        found.setdefault(use.written_id, set()).add(use.live)
        known = framings.setdefault(use.written_id, [])
        known += [framing for framing in use.framings if framing not in known]
    pages = (
        sight.pages(Page.objects.filter(pk__in=found)).select_related("site", "working_copy", "live_copy").defer(*LIGHT)
    )
    return [
        UsedOn(page, sight.knows(page) and False in found[page.pk], True in found[page.pk], tuple(framings[page.pk]))
        for page in pages.order_by("site__name", "path")
        if sight.knows(page) or True in found[page.pk]
    ]
