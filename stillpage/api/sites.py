"""Sites, for administrators: made, changed, duplicated, closed and opened."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.shortcuts import get_object_or_404
from ninja import Router

from stillpage.arranging import sites as keeping
from stillpage.pages.models import Page
from stillpage.publishing.models import LiveCopy
from stillpage.rights import Right, require_everywhere
from stillpage.sites.models import Site
from stillpage.sites.themes import names
from stillpage.trail.noting import note

from . import shapes
from .requests import SignedIn
from .schemas.arranging import SiteChange, SiteCopyIn, SiteFull, SiteIn, SitesOut

router = Router(tags=["sites"])


def _full(request: SignedIn, site: Site) -> dict[str, Any]:
    pages = Page.objects.filter(site=site)
    return {
        **shapes.site_out(site, request.user),
        "footer": site.footer,
        "pages": pages.count(),
        "live": LiveCopy.objects.filter(site=site).count(),
        "first_page": pages.filter(path="/").values_list("pk", flat=True).first(),
    }


def _site(request: SignedIn, site_id: int) -> Site:
    require_everywhere(request.user, Right.KEEP_SITES)
    return get_object_or_404(Site, pk=site_id)


def _noted(request: SignedIn, site: Site, what: str, **facts: Any) -> None:
    sentence = f"{request.user.shown_name} {what} the site “{site.name}”."
    note("site changed", sentence, person=request.user, site=site, **facts)


@router.get("/all-sites", response=SitesOut)
def all_sites(request: SignedIn) -> Any:
    """Every site, closed ones too, and the themes that there are."""
    require_everywhere(request.user, Right.KEEP_SITES)
    every = [_full(request, site) for site in Site.objects.select_related("picture")]
    return {"sites": every, "themes": list(names())}


@router.post("/all-sites", response={201: SiteFull})
def make(request: SignedIn, given: SiteIn) -> Any:
    """Make a site, with an empty first page."""
    require_everywhere(request.user, Right.KEEP_SITES)
    with transaction.atomic():
        site = keeping.make(request.user, given.model_dump())
        _noted(request, site, "made")
    return 201, _full(request, site)


@router.patch("/all-sites/{site_id}", response=SiteFull)
def change(request: SignedIn, site_id: int, given: SiteChange) -> Any:
    """Change facts of a site; what is not given stays."""
    site = _site(request, site_id)
    values = given.model_dump(exclude_unset=True)
    kept = {name: value for name, value in values.items() if value is not None or name == "picture"}
    with transaction.atomic():
        site = keeping.change(site, request.user, kept)
        _noted(request, site, "changed", facts=sorted(kept))
    return _full(request, site)


@router.post("/all-sites/{site_id}/duplicate", response={201: SiteFull})
def duplicate(request: SignedIn, site_id: int, given: SiteCopyIn) -> Any:
    """Make a site to begin from of another: a working copy of each of its pages, none of them live."""
    site = _site(request, site_id)
    with transaction.atomic():
        made = keeping.duplicate(site, request.user, given.name, given.host)
        _noted(request, made, f"duplicated “{site.name}” as")
    return 201, _full(request, made)


@router.post("/all-sites/{site_id}/close", response=SiteFull)
def close(request: SignedIn, site_id: int) -> Any:
    """Have readers get nothing of a site; all of it is kept."""
    site = _site(request, site_id)
    with transaction.atomic():
        keeping.close(site)
        _noted(request, site, "closed")
    return _full(request, site)


@router.post("/all-sites/{site_id}/open", response=SiteFull)
def reopen(request: SignedIn, site_id: int) -> Any:
    """Have readers get a site again."""
    site = _site(request, site_id)
    with transaction.atomic():
        keeping.reopen(site)
        _noted(request, site, "opened")
    return _full(request, site)
