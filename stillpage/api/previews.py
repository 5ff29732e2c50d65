"""Preview addresses: a page's working copy for whoever has the address, until a day."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router

from stillpage.pages.models import Preview
from stillpage.pages.tree import PageError
from stillpage.rights import Right, require
from stillpage.trail.noting import note

from .asked import page_asked
from .requests import SignedIn
from .schemas.arranging import PreviewIn, PreviewOut

router = Router(tags=["previews"])
LONGEST = timedelta(days=365)
MOST = 20
"""The most preview addresses of one page that hold at once."""


def _out(preview: Preview) -> dict[str, Any]:
    ended = preview.ended_at is not None or preview.until < timezone.now().date()
    return {
        "id": preview.pk,
        "address": f"{preview.page.site.origin}/preview/{preview.token}",
        "until": preview.until,
        "made_at": preview.made_at,
        "made_by": preview.made_by.shown_name,
        "visits": preview.visits,
        "seen_at": preview.seen_at,
        "ended": ended,
    }


@router.get("/pages/{page_id}/previews", response=list[PreviewOut])
def previews(request: SignedIn, page_id: int) -> Any:
    """The preview addresses of a page, the latest first, those that have ended among them. Whoever may not write on
    the page is told of none: an address is all that is needed to read it."""
    page = page_asked(request, page_id, Right.WRITE)
    return [_out(each) for each in page.previews.select_related("made_by", "page__site")[:50]]


@router.post("/pages/{page_id}/previews", response={201: PreviewOut})
def make(request: SignedIn, page_id: int, given: PreviewIn) -> Any:
    """Make a preview address that holds until the end of a day."""
    page = page_asked(request, page_id, Right.WRITE)
    today = timezone.now().date()
    if page.elsewhere:
        raise PageError("An entry that is a link has no text to show.")
    if not today <= given.until <= today + LONGEST:
        raise PageError("Choose a day from today to a year from now.")
    if page.previews.filter(ended_at=None, until__gte=today).count() >= MOST:
        raise PageError(f"This page has {MOST} preview addresses that hold. End one first.")
    with transaction.atomic():
        made = Preview.objects.create(page=page, until=given.until, made_by=request.user)
        sentence = f"{request.user.shown_name} made a preview address of {page.path}, until {given.until}."
        note("preview given", sentence, person=request.user, site=page.site, page=page.pk, preview=made.pk)
    return 201, _out(made)


@router.delete("/previews/{preview_id}", response={204: None})
def end(request: SignedIn, preview_id: int) -> Any:
    """End a preview address now."""
    found = get_object_or_404(Preview.objects.select_related("page__site"), pk=preview_id)
    require(request.user, Right.WRITE, found.page.site)
    with transaction.atomic():
        Preview.objects.filter(pk=found.pk, ended_at=None).update(ended_at=timezone.now())
        sentence = f"{request.user.shown_name} ended a preview address of {found.page.path}."
        note("preview given", sentence, person=request.user, site=found.page.site, page=found.page_id, preview=found.pk)
    return 204, None
