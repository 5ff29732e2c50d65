"""Doing something to pages of a tree: placing, showing, copying, the bin; what would follow, told before; undoing."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction
from django.db.models import Count, F, Max
from django.shortcuts import get_object_or_404
from ninja import Router

from stillpage.arranging import binning, consequences, copying, placing
from stillpage.arranging.addressing import chosen, roots_of
from stillpage.arranging.undoing import undo as undo_act
from stillpage.pages.models import Page, TreeAct
from stillpage.pages.seeing import sight_of
from stillpage.pages.tree import PageError, Place, free_slug, in_branch
from stillpage.publishing.models import LiveCopy
from stillpage.rights import Right, may, require
from stillpage.sites.models import Site
from stillpage.trail.noting import note
from stillpage_core.sites import page_path, slug_from_title

from . import shapes
from .requests import SignedIn
from .schemas.arranging import (
    AskedIn,
    BinOut,
    ConsequencesOut,
    DuplicateIn,
    DuplicateOut,
    ElsewhereIn,
    LastAct,
    PagesIn,
    PlacedIn,
    PlaceIn,
    ProposalOut,
    RestoreOut,
    ShownIn,
    SlugIn,
    TreeActOut,
)
from .schemas.common import Counted

router = Router(tags=["arranging"])
LISTED = 100


def act_out(act: TreeAct) -> dict[str, Any]:
    return {"id": act.pk, "sentence": act.sentence, "at": act.at, "undone": act.undone}


def _require(request: SignedIn, pages: Sequence[Page], *, branches: bool = True) -> None:
    """Whoever changes live pages needs the right to publish: readers see it at once."""
    for site in {page.site for page in pages}:
        require(request.user, Right.WRITE, site)
        if may(request.user, Right.PUBLISH, site):
            continue
        for page in (page for page in pages if page.site_id == site.pk):
            touched = in_branch(page) if branches else Page.objects.filter(pk=page.pk)
            if LiveCopy.objects.filter(written__in=touched).exists():
                require(request.user, Right.PUBLISH, site)


def _place(request: SignedIn, given: PlaceIn) -> Place:
    site = get_object_or_404(Site, pk=given.site)
    require(request.user, Right.WRITE, site)
    beside = given.after or given.before
    if beside:
        page = get_object_or_404(Page.objects.select_related("site", "parent"), pk=beside, site=site)
        return Place.beside(page, before=given.after is None)
    parent = (
        get_object_or_404(Page.objects.select_related("site"), pk=given.parent, site=site) if given.parent else None
    )
    return Place(site, parent)


def _noted(request: SignedIn, act: TreeAct, pages: Sequence[int]) -> dict[str, Any]:
    note(
        "arranged", f"{request.user.shown_name}: {act.sentence}.", person=request.user, site=act.site, pages=pages[:200]
    )
    return act_out(act)


@router.post("/tree/consequences", response=ConsequencesOut)
def would_follow(request: SignedIn, given: AskedIn) -> Any:
    """What would follow from an act. Nothing is changed."""
    pages = chosen(given.pages)
    for site in {page.site for page in pages}:
        require(request.user, Right.SEE_CONTENTS, site)
    sight = sight_of(request.user)
    if given.act == "place":
        if given.place is None:
            raise PageError("Say where the pages are to stand.")
        told = consequences.of_placing(pages, _place(request, given.place), sight)
    elif given.act == "slug":
        page = pages[0]
        slug = given.slug or free_slug(
            Place(page.site, page.parent), slug_from_title(page.working_copy.title), leave=[page.pk]
        )
        told = consequences.of_naming(page, page_path(page.parent.path if page.parent else None, slug), sight)
    else:
        told = consequences.of_withdrawing(pages, sight, binned=given.act == "bin")
    return {
        "pages": told.pages,
        "live": told.live,
        "links": told.links,
        "addresses": [{"before": before, "after": after} for before, after in told.addresses],
        "linked_from": [shapes.page_ref(page, sight) for page in told.linked_from],
        "sentences": told.sentences,
    }


@router.post("/tree/place", response=TreeActOut)
def place(request: SignedIn, given: PlacedIn) -> Any:
    """Put pages, each with all under it, at a place."""
    pages = chosen(given.pages)
    _require(request, pages)
    where = _place(request, given)
    if any(LiveCopy.objects.filter(written__in=in_branch(page)).exists() for page in roots_of(pages)):
        require(request.user, Right.PUBLISH, where.site)
    with transaction.atomic():
        return _noted(request, placing.place(pages, request.user, where), given.pages)


@router.post("/tree/show", response=TreeActOut)
def show(request: SignedIn, given: ShownIn) -> Any:
    """Say where pages show."""
    pages = chosen(given.pages)
    _require(request, pages, branches=False)
    with transaction.atomic():
        act = placing.show(pages, request.user, in_navigation=given.in_navigation, hidden=given.hidden)
        return _noted(request, act, given.pages)


@router.put("/pages/{page_id}/slug", response=TreeActOut)
def set_slug(request: SignedIn, page_id: int, given: SlugIn) -> Any:
    """Give a page another address part."""
    (page,) = chosen([page_id])
    _require(request, [page])
    with transaction.atomic():
        return _noted(request, placing.set_slug(page, request.user, given.slug), [page_id])


@router.put("/pages/{page_id}/elsewhere", response=TreeActOut)
def lead_elsewhere(request: SignedIn, page_id: int, given: ElsewhereIn) -> Any:
    """Have an entry that is a link lead to another address."""
    (page,) = chosen([page_id])
    _require(request, [page], branches=False)
    with transaction.atomic():
        return _noted(request, placing.lead_elsewhere(page, request.user, given.address), [page_id])


@router.get("/pages/{page_id}/duplicate", response=ProposalOut)
def proposal(request: SignedIn, page_id: int) -> Any:
    """What a copy of a page might be called."""
    (page,) = chosen([page_id])
    require(request.user, Right.WRITE, page.site)
    title = _free_title(page)
    label = page.working_copy.document.get("attrs", {}).get("label") or ""
    slug = free_slug(Place(page.site, page.parent), slug_from_title(title))
    return {"title": title, "label": label, "slug": slug, "below": in_branch(page).count() - 1}


def _free_title(page: Page) -> str:
    """The title with the next number behind it that no page beside it has."""
    base = page.working_copy.title[:180]
    beside = Page.objects.filter(site=page.site_id, parent=page.parent_id)
    titles = set(beside.filter(working_copy__title__startswith=base).values_list("working_copy__title", flat=True))
    number = 2
    while f"{base} {number}" in titles:
        number += 1
    return f"{base} {number}"


@router.post("/pages/{page_id}/duplicate", response={201: DuplicateOut})
def duplicate(request: SignedIn, page_id: int, given: DuplicateIn) -> Any:
    """Copy a page to right after it, and, if ``deep``, all that stand under it."""
    (page,) = chosen([page_id])
    require(request.user, Right.WRITE, page.site)
    with transaction.atomic():
        copy, act = copying.duplicate(
            page, request.user, given.title, label=given.label, slug=given.slug or None, deep=given.deep
        )
        return 201, {"page": copy.pk, "act": _noted(request, act, [copy.pk])}


@router.post("/tree/bin", response=TreeActOut)
def to_bin(request: SignedIn, given: PagesIn) -> Any:
    """Put pages, with all under them, into the bin."""
    pages = chosen(given.pages)
    _require(request, pages)
    with transaction.atomic():
        return _noted(request, binning.to_bin(pages, request.user), given.pages)


def _binned(request: SignedIn, numbers: list[int]) -> list[Page]:
    rows = Page.every.filter(pk__in=set(numbers), binned_at__isnull=False)
    pages = list(rows.select_related("site", "parent", "working_copy"))
    if len(pages) < len(set(numbers)):
        raise PageError("A page that was chosen is no longer in the bin.")
    for site in {page.site for page in pages}:
        require(request.user, Right.WRITE, site)
    return pages


@router.get("/sites/{site_id}/bin", response=BinOut)
def bin_of(request: SignedIn, site_id: int, skip: int = 0) -> Any:
    """What waits in the bin, the latest first."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    roots = Page.every.filter(site=site, binned_at__isnull=False, binned_with=F("pk"))
    rows = list(
        roots.select_related("working_copy", "binned_by")
        .defer("working_copy__document")
        .order_by("-binned_at", "-pk")[max(0, skip) : max(0, skip) + LISTED + 1]
    )
    counts = {
        row["binned_with"]: (row["number"], row["live"])
        for row in Page.every.filter(binned_with__in=[page.pk for page in rows])
        .order_by()
        .values("binned_with")
        .annotate(number=Count("pk"), live=Count("was_live"))
    }
    earlier = dict(
        Page.every.filter(pk__in=[page.pk for page in rows])
        .annotate(last=Max("redirects__path"))
        .values_list("pk", "last")
    )
    return {
        "binned": [
            {
                "id": page.pk,
                "title": page.working_copy.title,
                "path": earlier.get(page.pk) or page.slug,
                "pages": counts[page.pk][0],
                "was_live": counts[page.pk][1],
                "at": page.binned_at,
                "by": page.binned_by.shown_name if page.binned_by else "",
            }
            for page in rows[:LISTED]
        ],
        "more": len(rows) > LISTED,
    }


@router.post("/tree/restore", response=RestoreOut)
def restore(request: SignedIn, given: PagesIn) -> Any:
    """Take pages back from the bin. Readers have them again where the person may publish."""
    pages = _binned(request, given.pages)
    live = all(may(request.user, Right.PUBLISH, page.site) for page in pages)
    with transaction.atomic():
        act = binning.restore(pages, request.user, live=live)
        return {"act": _noted(request, act, given.pages), "live": live}


@router.post("/tree/remove", response=Counted)
def remove(request: SignedIn, given: PagesIn) -> Any:
    """Remove pages from the bin for good. There is no way back."""
    pages = _binned(request, given.pages)
    for site in {page.site for page in pages}:
        require(request.user, Right.PUBLISH, site)
    return {"total": binning.remove(pages, request.user)}


@router.get("/sites/{site_id}/last-act", response=LastAct)
def last_act(request: SignedIn, site_id: int) -> Any:
    """The last thing that the person did to this tree and can undo."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    done = TreeAct.objects.filter(site=site, person=request.user, undone=False).first()
    return {"act": act_out(done) if done else None}


@router.post("/tree/acts/{act_id}/undo", response=TreeActOut)
def undo(request: SignedIn, act_id: int) -> Any:
    """Bring back what was there before an act of one's own."""
    act = get_object_or_404(TreeAct, pk=act_id, person=request.user)
    numbers = [number for number, _ in act.before]
    pages = list(Page.every.filter(pk__in=numbers).select_related("site"))
    _require(request, [page for page in pages if page.binned_at is None])
    for site in {act.site, *(page.site for page in pages)}:
        require(request.user, Right.WRITE, site)
    live = all(may(request.user, Right.PUBLISH, page.site) for page in pages)
    with transaction.atomic():
        undone = undo_act(act, request.user, live=live)
        sentence = f"{request.user.shown_name} undid: {act.sentence}."
        note("arranged", sentence, person=request.user, site=act.site, pages=numbers[:200])
    undone.undone = True
    return act_out(undone)
