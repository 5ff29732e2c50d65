"""The way back: versions of a page, its live text, and the live text."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from stillpage.pages.seeing import sight_of
from stillpage.publishing.models import LiveCopy
from stillpage.publishing.rendering import Frame, module, page_html
from stillpage.publishing.resolving import resolver_for
from stillpage.rights import NotAllowed, Right
from stillpage.sites.themes import theme_of
from stillpage.written import saving
from stillpage.written.models import Version
from stillpage_core.writing import published_html

from .asked import page_asked
from .requests import SignedIn
from .schemas.problems import Problem
from .schemas.writing import TextOut, VersionIn, VersionOut
from .shapes import document_of

router = Router(tags=["versions"])
LISTED = 200
"""How many versions are listed, the newest first."""


def _version_out(kept: Version) -> dict[str, Any]:
    return {
        "id": kept.pk,
        "reason": kept.reason,
        "note": kept.note,
        "at": kept.at,
        "by": kept.by.shown_name,
        "title": kept.title,
    }


@router.get("/pages/{page_id}/versions", response=list[VersionOut])
def versions(request: SignedIn, page_id: int) -> Any:
    """The versions of a page, the newest first."""
    page = page_asked(request, page_id)
    kept = Version.objects.filter(written=page).select_related("by").defer("document")
    return [_version_out(each) for each in kept[:LISTED]]


@router.post("/pages/{page_id}/versions", response={201: VersionOut, 422: Problem})
def keep(request: SignedIn, page_id: int, given: VersionIn) -> Any:
    """Keep a text of the page under a name."""
    page = page_asked(request, page_id, Right.WRITE)
    draft = saving.Draft(given.title, given.description, document_of(given.document))
    return 201, _version_out(saving.keep(page, request.user, draft, given.note))


@router.get("/pages/{page_id}/versions/{version_id}", response=TextOut)
def version(request: SignedIn, page_id: int, version_id: int) -> Any:
    """The text of a version."""
    page = page_asked(request, page_id)
    return get_object_or_404(Version, pk=version_id, written=page)


@router.get("/pages/{page_id}/live", response=TextOut)
def live(request: SignedIn, page_id: int) -> Any:
    """The text of the live copy."""
    page = page_asked(request, page_id)
    return get_object_or_404(LiveCopy.objects.defer("html", "html_gzip"), written=page)


def version_page(request: SignedIn, page_id: int, version_id: int) -> HttpResponse:
    """A version as its readers would have had it, within today's frame of its site; for reading only."""
    try:
        page = page_asked(request, page_id)
    except NotAllowed as error:
        return HttpResponse(str(error), status=403, content_type="text/plain; charset=utf-8")
    kept = get_object_or_404(Version, pk=version_id, written=page)
    resolver = resolver_for([kept.tree], sight=sight_of(request.user), language=page.site.language)
    text = published_html(kept.tree, resolver, theme_of(page.site.theme).rooms, module, page.site.language)
    html = page_html(Frame.of(page.site, [page]), page, title=kept.title, description="", text=text, sheet=True)
    return HttpResponse(html, headers={"Cache-Control": "no-store"})
