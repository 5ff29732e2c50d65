"""Every route of the API. Each asks `require` before it does anything."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.http import JsonResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from stillpage.arranging.placing import note_act
from stillpage.pages import tree
from stillpage.pages.models import Page, TreeAct
from stillpage.pages.seeing import sight_of
from stillpage.publishing import freshness
from stillpage.publishing import publish as publishing
from stillpage.publishing.rendering import frame_weight
from stillpage.rights import Right, may, names_with, require
from stillpage.sites.models import Site
from stillpage.trail.noting import note

from . import shapes
from .asked import page_asked
from .requests import SignedIn
from .schemas.problems import Problem
from .schemas.sites import Contents, NewPage, SiteOut
from .schemas.writing import LiveOut, PageOut, PublishIn

router = Router()


@router.get("/sites", response=list[SiteOut], tags=["pages"])
def sites(request: SignedIn) -> Any:
    """The sites whose pages the person may see."""
    seen = [shapes.site_out(site, request.user) for site in Site.objects.all() if _may_see(request, site)]
    if not seen:
        require(request.user, Right.SEE_CONTENTS)
    return seen


def _may_see(request: SignedIn, site: Site) -> bool:
    return may(request.user, Right.SEE_CONTENTS, site)


@router.get("/sites/{site_id}/contents", response=Contents, tags=["pages"])
def contents(request: SignedIn, site_id: int, below: int | None = None, start: int = 0) -> Any:
    """The tree of a site's pages, or the branch ``below`` one of them: of few pages all, of very many the uppermost.

    What stands under a page of which only the number below is told is asked for by another request, as is what
    follows the last one right under ``below``, from the ``start``-th on.
    """
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    fields = ("path", "in_navigation", "hidden", "elsewhere")
    said = ("working_copy__title", "working_copy__digest", "live_copy", "live_copy__digest")
    found = tree.branch(site, below, max(0, start), *fields, *said)
    entries = [
        {
            "id": row["pk"],
            "parent": row["parent_id"],
            "title": row["working_copy__title"],
            "path": row["path"],
            "state": _state(row),
            "in_navigation": row["in_navigation"],
            "hidden": row["hidden"],
            "elsewhere": row["elsewhere"],
            "below": row["below"],
        }
        for row in found.rows
    ]
    out = {
        "site": shapes.site_out(site, request.user),
        "pages": entries,
        "among": found.among,
        "all": Page.objects.filter(site=site).count(),
        "out_of_date": freshness.waiting(site),
    }
    # What the schema describes is sent as it is: checking thousands of entries takes longer than finding them.
    return JsonResponse(out)


def _state(row: dict[str, Any]) -> str:
    """What `shapes.state_of` says of the page, from the digests of its texts."""
    if row["live_copy"] is None:
        return "unpublished"
    digests = row["working_copy__digest"], row["live_copy__digest"]
    if not all(digests):
        return shapes.state_of(Page.objects.select_related("working_copy", "live_copy").get(pk=row["pk"]))
    return "live" if digests[0] == digests[1] else "changed"


@router.post("/sites/{site_id}/pages", response={201: PageOut}, tags=["pages"])
def add_page(request: SignedIn, site_id: int, new: NewPage) -> Any:
    """Add a page; nobody but authors sees it until it is published."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.WRITE, site)
    place = tree.Place(site, get_object_or_404(Page, pk=new.parent, site=site) if new.parent else None)
    if beside := new.after or new.before:
        page = get_object_or_404(Page.objects.select_related("site", "parent"), pk=beside, site=site)
        place = tree.Place.beside(page, before=new.after is None)
    elsewhere = tree.check_elsewhere(new.elsewhere) if new.elsewhere else ""
    with transaction.atomic():
        page = tree.add_at(place, request.user, new.title, slug=new.slug, elsewhere=elsewhere)
        sentence = f"“{page.working_copy.title}” added"
        note_act(TreeAct.Sort.ADDED, request.user, site, sentence, [[page.pk, {}]])
    return 201, _page_out(request, _page(request, page.pk))


def _page(request: SignedIn, page_id: int, right: Right = Right.SEE_CONTENTS) -> Page:
    rows = Page.objects.select_related("site", "parent", "working_copy__saved_by")
    return page_asked(request, page_id, right, rows)


def _page_out(request: SignedIn, page: Page) -> dict[str, Any]:
    copy = page.working_copy
    items, pages = shapes.named_out(copy.tree, sight_of(request.user))
    return {
        "id": page.pk,
        "site": shapes.site_out(page.site, request.user),
        "path": page.path,
        "address": page.site.origin + page.path,
        "trail": shapes.trail_out(page),
        "working_copy": shapes.copy_out(copy),
        "live": shapes.live_out(page, copy),
        "items": items,
        "pages": pages,
        "palette": shapes.palette_out(page.site),
        "frame_weight": frame_weight(),
        "publishers": [] if may(request.user, Right.PUBLISH, page.site) else names_with(Right.PUBLISH, page.site),
        "clashes": shapes.clashes_out(page, copy),
    }


@router.get("/pages/{page_id}", response=PageOut, tags=["pages"])
def page(request: SignedIn, page_id: int) -> Any:
    """A page with its working copy and everything that it names."""
    return _page_out(request, _page(request, page_id))


@router.post(
    "/pages/{page_id}/publish",
    response={200: LiveOut, 409: Problem, 422: Problem},
    tags=["pages"],
)
def publish(request: SignedIn, page_id: int, given: PublishIn) -> Any:
    """Make the working copy the live copy."""
    found = _page(request, page_id, Right.PUBLISH)
    with transaction.atomic():
        publishing.publish(found, request.user, given.revision)
        sentence = f"{request.user.shown_name} published “{found.working_copy.title}” at {found.path}."
        note("published", sentence, person=request.user, site=found.site, page=found.pk, revision=given.revision)
    found.working_copy.refresh_from_db()
    return shapes.live_out(found, found.working_copy)


@router.delete("/pages/{page_id}/publish", response={204: None}, tags=["pages"])
def withdraw(request: SignedIn, page_id: int) -> Any:
    """Take a page from readers; the working copy stays."""
    found = _page(request, page_id, Right.PUBLISH)
    with transaction.atomic():
        publishing.withdraw(found)
        sentence = f"{request.user.shown_name} took “{found.working_copy.title}” at {found.path} from readers."
        note("withdrawn", sentence, person=request.user, site=found.site, page=found.pk)
    return 204, None
