"""The Contents: looking for pages, what stands beside the tree of one, and what it is called."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from django.db import transaction
from django.db.models import F, Q, QuerySet
from django.shortcuts import get_object_or_404
from ninja import Field, Query, Router, Schema

from stillpage.arranging.placing import follow_title
from stillpage.pages.models import LIGHT, Page
from stillpage.pages.seeing import sight_of
from stillpage.pages.tree import PageError
from stillpage.rights import Right, require
from stillpage.sites.models import Site
from stillpage.written.models import Use
from stillpage.written.saving import Draft, save
from stillpage.written.search import WORKING

from . import shapes
from .asked import page_asked
from .limits import Costly
from .requests import SignedIn
from .schemas.arranging import FactsOut, FoundOut, NamesIn

router = Router(tags=["contents"])
PART = 60
LINKS = 6


class Asked(Schema):
    """What is looked for: words of title or text, or the beginning of an address; and of which state, sort, by whom and
    since when the working copy was saved."""

    q: str = Field("", max_length=200)
    state: Literal["", "unpublished", "live", "changed", "hidden"] = ""
    sort: Literal["", "page", "link"] = ""
    by: str = Field("", max_length=150)
    since: datetime | None = None
    skip: int = Field(0, ge=0, le=1_000_000)


@router.get("/sites/{site_id}/find", response=FoundOut, throttle=[Costly("search")])
def find(request: SignedIn, site_id: int, asked: Query[Asked]) -> Any:
    """Pages of a site, in the order of their addresses; ``skip`` as many to get the next part."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    rows = _narrowed(Page.objects.filter(site=site), asked).order_by("path")
    words = asked.q.strip()
    if words.startswith("/"):
        numbers = list(rows.filter(path__startswith=words).values_list("pk", flat=True)[asked.skip :][: PART + 1])
    else:
        numbers = WORKING.first_of(rows, words, asked.skip, PART + 1)
    pages = Page.objects.filter(pk__in=numbers[:PART]).select_related("working_copy__saved_by", "live_copy")
    found = {page.pk: page for page in pages.defer(*LIGHT)}
    above = _above(found.values(), site)
    return {
        "pages": [_found(found[number], above) for number in numbers[:PART] if number in found],
        "more": len(numbers) > PART,
    }


def _narrowed(rows: QuerySet[Page], asked: Asked) -> QuerySet[Page]:
    same = Q(working_copy__digest=F("live_copy__digest"))
    match asked.state:
        case "unpublished":
            rows = rows.filter(live_copy=None)
        case "live":
            rows = rows.filter(same, live_copy__isnull=False)
        case "changed":
            rows = rows.filter(live_copy__isnull=False).exclude(same)
        case "hidden":
            rows = rows.filter(hidden=True)
    if asked.sort:
        rows = rows.filter(elsewhere="") if asked.sort == "page" else rows.exclude(elsewhere="")
    if asked.by:
        rows = rows.filter(
            Q(working_copy__saved_by__username=asked.by)
            | Q(working_copy__saved_by__first_name__icontains=asked.by)
            | Q(working_copy__saved_by__last_name__icontains=asked.by)
        )
    if asked.since:
        rows = rows.filter(working_copy__saved_at__gte=asked.since)
    return rows


def _above(pages: Any, site: Site) -> dict[str, str]:
    """The titles of the pages above some pages, by their paths."""
    paths = {
        "/" + "/".join(parts[:count])
        for page in pages
        for parts in [page.path.split("/")[1:]]
        for count in range(1, len(parts))
    }
    rows = Page.objects.filter(site=site, path__in=paths)
    return dict(rows.values_list("path", "working_copy__title"))


def _found(page: Page, above: dict[str, str]) -> dict[str, Any]:
    parts = page.path.split("/")[1:]
    paths = ["/" + "/".join(parts[:count]) for count in range(1, len(parts))]
    return {
        "id": page.pk,
        "parent": page.parent_id,
        "title": page.working_copy.title,
        "path": page.path,
        "state": shapes.state_of(page),
        "in_navigation": page.in_navigation,
        "hidden": page.hidden,
        "elsewhere": page.elsewhere,
        "below": 0,
        "trail": [{"title": above[path], "path": path} for path in paths if path in above],
        "changed_at": page.working_copy.saved_at,
        "changed_by": page.working_copy.saved_by.shown_name,
    }


def _page(request: SignedIn, page_id: int, right: Right) -> Page:
    rows = Page.objects.select_related("site", "parent", "working_copy__saved_by", "live_copy__published_by")
    light = rows.defer("live_copy__document", "live_copy__html", "live_copy__html_gzip")
    return page_asked(request, page_id, right, light)


@router.get("/pages/{page_id}/facts", response=FactsOut)
def facts(request: SignedIn, page_id: int) -> Any:
    """What stands beside the tree of a page."""
    return _facts(request, _page(request, page_id, Right.SEE_CONTENTS))


def _facts(request: SignedIn, page: Page) -> dict[str, Any]:
    copy, live = page.working_copy, shapes.live_of(page)
    attrs = copy.document.get("attrs", {})
    sight = sight_of(request.user)
    uses = Use.objects.filter(target=page).exclude(written=page)
    linking = sight.pages(Page.objects.filter(pk__in=uses.values("written")))
    first = linking.select_related("site", "working_copy", "live_copy").defer(*LIGHT)[:LINKS]
    return {
        "id": page.pk,
        "site": shapes.site_out(page.site, request.user),
        "title": copy.title,
        "description": copy.description,
        "label": attrs.get("label") or "",
        "search_title": attrs.get("search_title") or "",
        "share": attrs.get("share"),
        "slug": page.slug,
        "slug_follows": page.slug_follows,
        "path": page.path,
        "address": page.site.origin + page.path,
        "state": shapes.state_of(page),
        "revision": copy.revision,
        "in_navigation": page.in_navigation,
        "hidden": page.hidden,
        "elsewhere": page.elsewhere,
        "copied_title": page.copied_title,
        "trail": shapes.trail_out(page),
        "below": Page.objects.filter(parent=page).count(),
        "saved_at": copy.saved_at,
        "saved_by": copy.saved_by.shown_name,
        "published_at": live.published_at if live else None,
        "published_by": live.published_by.shown_name if live else "",
        "linked_from": [shapes.page_ref(each, sight) for each in first],
        "links": linking.count(),
        "redirects": page.redirects.count(),
    }


@router.put("/pages/{page_id}/names", response=FactsOut)
def set_names(request: SignedIn, page_id: int, given: NamesIn) -> Any:
    """Say what a page is called, without opening its text. Readers have it once it is published."""
    page = _page(request, page_id, Right.WRITE)
    copy = page.working_copy
    if copy.revision != given.revision:
        raise PageError("Somebody has saved this page meanwhile. Look at it again, then say what it is called.")
    named = {
        name: value.strip() or None for name in ("label", "search_title") if (value := getattr(given, name)) is not None
    }
    document = {**copy.document, "attrs": {**copy.document.get("attrs", {}), **named}}
    title = copy.title if given.title is None else given.title
    description = copy.description if given.description is None else given.description
    with transaction.atomic():
        save(page, request.user, Draft(title, description, shapes.document_of(document)), given.revision)
        follow_title(page, title)
    return _facts(request, _page(request, page_id, Right.SEE_CONTENTS))
