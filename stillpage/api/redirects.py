"""Where addresses lead that pages had."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import Q
from django.http import HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Router
from ninja.files import UploadedFile

from stillpage.pages import redirects as leading
from stillpage.pages.models import LIGHT, Page, Redirect
from stillpage.pages.redirects import RedirectError
from stillpage.pages.seeing import Sight, sight_of
from stillpage.publishing import page_memory
from stillpage.rights import Right, require
from stillpage.sites.models import Site
from stillpage.trail.noting import note

from . import shapes
from .limits import Costly
from .requests import SignedIn
from .schemas.arranging import RedirectIn, RedirectOut, RedirectsOut, RedirectsRead

router = Router(tags=["redirects"])
PART = 100
LARGEST = 4 * 1024 * 1024


def _site(request: SignedIn, site_id: int, right: Right) -> Site:
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, right, site)
    return site


def _pages(rows: list[Redirect], sight: Sight) -> dict[int, Page]:
    """The pages that redirects lead to, as far as they may be seen: one may stand on another site."""
    numbers = {row.page_id for row in rows if row.page_id}
    pages = (
        sight.pages(Page.objects.filter(pk__in=numbers))
        .select_related("site", "working_copy", "live_copy")
        .defer(*LIGHT)
    )
    return {page.pk: page for page in pages}


def _out(row: Redirect, page: Page | None, sight: Sight) -> dict[str, Any]:
    return {
        "id": row.pk,
        "path": row.path,
        "page": shapes.page_ref(page, sight) if page else None,
        "address": row.address,
        "gone": not row.address and row.page_id is None,
        "why": row.get_why_display(),
        "made_at": row.made_at,
        "made_by": row.made_by.shown_name if row.made_by else "",
        "used_on": row.used_on,
    }


@router.get("/sites/{site_id}/redirects", response=RedirectsOut, throttle=[Costly("search")])
def redirects(request: SignedIn, site_id: int, q: str = "", page: int | None = None, skip: int = 0) -> Any:
    """The redirects of a site by their addresses; those that hold ``q``, or lead to one ``page``."""
    site = _site(request, site_id, Right.SEE_CONTENTS)
    rows = Redirect.objects.filter(site=site).select_related("made_by")
    if q := q.strip()[:200]:
        rows = rows.filter(Q(path__contains=q.lower()) | Q(address__contains=q))
    if page is not None:
        rows = rows.filter(page=page)
    start = max(0, skip)
    listed = list(rows[start : start + PART])
    sight = sight_of(request.user)
    pages = _pages(listed, sight)
    return {
        "redirects": [_out(row, pages.get(row.page_id or 0), sight) for row in listed],
        "total": rows.count(),
    }


@router.post("/sites/{site_id}/redirects", response={201: RedirectOut})
def make(request: SignedIn, site_id: int, given: RedirectIn) -> Any:
    """Have an address lead on, or tell that it is gone for good."""
    site = _site(request, site_id, Right.PUBLISH)
    sight = sight_of(request.user)
    seen = sight.pages(Page.objects.select_related("site"))
    page = get_object_or_404(seen, pk=given.page) if given.page else None
    with transaction.atomic():
        made = leading.make(site, request.user, given.path, page=page, address=given.address)
        sentence = f"{request.user.shown_name} had {made.path} lead on."
        note("redirects changed", sentence, person=request.user, site=site, path=made.path)
        page_memory.changed([site.host + made.path])
    return 201, _out(made, _pages([made], sight).get(made.page_id or 0), sight)


@router.delete("/redirects/{redirect_id}", response={204: None})
def forget(request: SignedIn, redirect_id: int) -> Any:
    """Have an address lead nowhere any more."""
    found = get_object_or_404(Redirect.objects.select_related("site"), pk=redirect_id)
    require(request.user, Right.PUBLISH, found.site)
    with transaction.atomic():
        sentence = f"{request.user.shown_name} had {found.path} lead nowhere."
        note("redirects changed", sentence, person=request.user, site=found.site, path=found.path)
        page_memory.changed([found.site.host + found.path])
        found.delete()
    return 204, None


@router.get("/sites/{site_id}/redirects.csv", throttle=[Costly("export")])
def as_csv(request: SignedIn, site_id: int) -> HttpResponse:
    """All of them as CSV."""
    site = _site(request, site_id, Right.SEE_CONTENTS)
    rows = Redirect.objects.filter(site=site).select_related("page__site").iterator(chunk_size=500)
    headers = {"Content-Disposition": 'attachment; filename="redirects.csv"', "Cache-Control": "no-store"}
    return StreamingHttpResponse(leading.as_csv(rows), content_type="text/csv; charset=utf-8", headers=headers)  # type: ignore[return-value]


@router.post("/sites/{site_id}/redirects.csv", response=RedirectsRead, throttle=[Costly("import")])
def read_csv(request: SignedIn, site_id: int, file: File[UploadedFile]) -> Any:
    """Make redirects of CSV. What cannot be made of it is told, line by line."""
    site = _site(request, site_id, Right.PUBLISH)
    if (file.size or 0) > LARGEST:
        raise RedirectError("The file is larger than 4 MB. Split it, and bring in the parts.")
    try:
        text = file.read().decode("utf-8")
    except UnicodeDecodeError as error:
        raise RedirectError("The file is no text in UTF-8. Save it as CSV in UTF-8, and bring it in again.") from error
    if "\0" in text:
        raise RedirectError("The file is no CSV.")
    with transaction.atomic():
        made, refused = leading.read_csv(site, request.user, text)
        sentence = f"{request.user.shown_name} brought in {made} redirects."
        note("redirects changed", sentence, person=request.user, site=site, made=made)
        page_memory.changed(hosts=[site.host])
    return {"made": made, "refused": refused[:200]}
