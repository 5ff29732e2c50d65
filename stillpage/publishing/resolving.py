"""The core's questions, answered from the database."""

from __future__ import annotations

from collections.abc import Iterable

from django.db.models import prefetch_related_objects

from stillpage.library.files import (
    animation_target,
    film_target,
    hosted_target,
    item_target,
    picture_target,
    post_target,
    words_of_pages,
)
from stillpage.library.folders import Tree
from stillpage.library.models import Item
from stillpage.outside.testing import faults
from stillpage.pages.models import LIGHT, Page
from stillpage.pages.seeing import Sight
from stillpage.sites.models import Site
from stillpage_core.document import Node
from stillpage_core.document.naming import named_in
from stillpage_core.resolving import FixedResolver, PageTarget, Reach
from stillpage_core.writing.anchors import anchors_of

from .models import LiveCopy


def resolver_for(
    documents: Iterable[Node],
    viewed_from: str = "",
    site: Site | None = None,
    *,
    sight: Sight,
    checks: bool = True,
    language: str = "",
) -> FixedResolver:
    """Know everything that the documents name and ``sight`` lets be seen, in a few queries.

    ``viewed_from`` is the origin of the site that shows them: links within it are written without the origin.
    ``site`` is theirs: items that are kept to others are told apart. Without ``checks`` what only the page check asks
    for is not looked up: the headings of other pages, and what is wrong with outside addresses. ``language`` is that of
    the page; captions in it come first.
    """
    language = language or (site.language if site else "")
    named = [named_in(document) for document in documents]
    pages = {number for each in named for number in each.pages}
    by_heading = {number for each in named for number in each.by_heading} if checks else set()
    numbers = {number for each in named for number in each.pictures | each.items}
    outside = {address for each in named for address in each.outside} if checks else set()
    items = list(sight.items(Item.objects.filter(pk__in=numbers)).prefetch_related("files"))
    away = (Item.Kind.HOSTED, Item.Kind.POST)
    prefetch_related_objects([item for item in items if item.kind in away], "hosting__host")
    prefetch_related_objects([item for item in items if item.kind in _PLAYED], "captions__given")
    papers = {number for each in named for number in each.papers}
    words = words_of_pages([item for item in items if item.pk in papers])
    elsewhere = frozenset(Tree().kept_from([site.pk])) if site and items else frozenset()
    anchors = {
        live.written_id: frozenset(anchors_of(live.tree).values())
        for live in LiveCopy.objects.filter(written__in=by_heading).only("written_id", "document")
    }
    return FixedResolver(
        pages={page.pk: _target(page, viewed_from, anchors.get(page.pk)) for page in _pages(pages, sight)},
        pictures={item.pk: picture_target(item, elsewhere) for item in items if item.kind == Item.Kind.PICTURE},
        items={item.pk: item_target(item, elsewhere, words.get(item.pk)) for item in items},
        faults=faults(outside) if outside else {},
        films={item.pk: film_target(item, language, elsewhere) for item in items if item.kind in _PLAYED},
        animations={item.pk: animation_target(item, elsewhere) for item in items if item.kind == Item.Kind.ANIMATION},
        posts={item.pk: post_target(item, elsewhere) for item in items if item.kind == Item.Kind.POST},
        elsewhere={item.pk: hosted_target(item, elsewhere) for item in items if item.kind == Item.Kind.HOSTED},
    )


_PLAYED = (Item.Kind.FILM, Item.Kind.SOUND)


def _pages(numbers: set[int], sight: Sight) -> Iterable[Page]:
    return (
        sight.pages(Page.objects.filter(pk__in=numbers))
        .select_related("site", "working_copy", "live_copy")
        .defer(*LIGHT)
    )


def _target(page: Page, viewed_from: str, anchors: frozenset[str] | None) -> PageTarget:
    live = getattr(page, "live_copy", None)
    origin = "" if page.site.origin == viewed_from else page.site.origin
    if live is None or page.site.closed_at is not None:
        return PageTarget(page.pk, page.working_copy.title, None)
    reach: Reach = "hidden" if page.hidden else "open"
    return PageTarget(page.pk, live.title, page.elsewhere or origin + page.path, anchors, reach)
