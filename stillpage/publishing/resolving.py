"""The core's questions, answered from the database."""

from __future__ import annotations

from collections.abc import Iterable

from stillpage.library.files import picture_target
from stillpage.library.models import Item
from stillpage.pages.models import Page
from stillpage_core.document import Node
from stillpage_core.document.naming import named_in
from stillpage_core.resolving import Known, PageTarget


def resolver_for(documents: Iterable[Node], viewed_from: str = "") -> Known:
    """Know everything that the documents name, in three queries.

    ``viewed_from`` is the origin of the site that shows them: links within it are written without the origin.
    """
    named = [named_in(document) for document in documents]
    pages = {number for each in named for number in each.pages}
    pictures = {number for each in named for number in each.pictures}
    return Known(
        pages={page.pk: _target(page, viewed_from) for page in _pages(pages)},
        pictures={
            item.pk: picture_target(item)
            for item in Item.objects.filter(pk__in=pictures, kind=Item.Kind.PICTURE).prefetch_related("files")
        },
    )


def _pages(numbers: set[int]) -> Iterable[Page]:
    return (
        Page.objects.filter(pk__in=numbers)
        .select_related("site", "working_copy", "live_copy")
        .defer("working_copy__document", "live_copy__document", "live_copy__html", "live_copy__html_gzip")
    )


def _target(page: Page, viewed_from: str) -> PageTarget:
    live = getattr(page, "live_copy", None)
    origin = "" if page.site.origin == viewed_from else page.site.origin
    return PageTarget(page.pk, live.title if live else page.working_copy.title, origin + page.path if live else None)
