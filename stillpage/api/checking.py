"""The page check and its help, what a site asks of it, the listening view, and the report of outside links."""

from __future__ import annotations

from contextlib import suppress
from datetime import timedelta
from typing import Any

from django.db import DatabaseError, transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router
from ninja.params.functions import Query

from stillpage.outside.models import Address
from stillpage.outside.testing import test_due
from stillpage.pages.models import Page
from stillpage.pages.seeing import sight_of
from stillpage.publishing import checking, results
from stillpage.publishing.blocks import blocks_of
from stillpage.publishing.listening import lines_of
from stillpage.publishing.models import LastCheck
from stillpage.rights import Right, may, require
from stillpage.sites.models import Site
from stillpage.trail.noting import note
from stillpage.written.models import Allowance
from stillpage.written.saving import Draft
from stillpage_core.checking import CHECKS, finding_json
from stillpage_core.checking.showing import shown
from stillpage_core.document import Node
from stillpage_core.sites.search_result import shown_title

from . import shapes
from .asked import page_asked
from .limits import Costly
from .requests import SignedIn
from .schemas.checking import (
    AllowanceOut,
    AllowIn,
    CheckIn,
    CheckOut,
    HeardLine,
    OutsideLink,
    RenewedOut,
    RenewIn,
    ResultsOut,
    RuleOut,
    SiteChecks,
)
from .schemas.problems import Problem
from .schemas.writing import BlockOut, BlocksIn, DraftIn

RESULTS = 200
"""How many results are given at once."""

router = Router(tags=["page check"])


@router.post("/check", response={200: CheckOut, 422: Problem})
def check(request: SignedIn, given: CheckIn) -> Any:
    """Check a document by itself, as it might stand on a page."""
    require(request.user, Right.SEE_CONTENTS)
    document = shapes.document_of(given.document)
    site = get_object_or_404(Site, pk=given.site) if given.site else None
    if site:
        require(request.user, Right.SEE_CONTENTS, site)
    return {
        **_checked(checking.check_text(document, site, sight=sight_of(request.user)), document, {}),
        "shown_title": "",
    }


@router.post("/pages/{page_id}/check", response={200: CheckOut, 422: Problem})
def check_page(request: SignedIn, page_id: int, given: DraftIn) -> Any:
    """Check a page as it is being written."""
    page = _page(request, page_id)
    draft = _draft(given)
    checked = checking.check_draft(page, draft, sight=sight_of(request.user))
    title = draft.document.attrs["search_title"] or draft.title
    shown = shown_title(title, page.site.name, home=page.path == "/")
    allowed = checking.allowances_of(page)
    if may(request.user, Right.WRITE, page.site):
        # Whoever writes gets their notes, though there be no room for keeping how many.
        with suppress(DatabaseError), transaction.atomic():
            results.keep(page, draft, checked, allowed)
    return {**_checked(checked, draft.document, allowed), "shown_title": shown}


def _checked(checked: checking.Checked, document: Node, allowed: dict[str, Allowance]) -> dict[str, Any]:
    findings = []
    for finding in checked.findings:
        said = finding_json(finding, [shown(document, repair) for repair in finding.repairs])
        allowance = allowed.get(finding.key) if finding.severity != "blocks" else None
        findings.append({**said, "allowed": _allowance_out(allowance) if allowance else None})
    return {"findings": findings, "measure": checked.measure}


def _page(request: SignedIn, page_id: int, right: Right = Right.SEE_CONTENTS) -> Page:
    return page_asked(request, page_id, right, Page.objects.select_related("site", "working_copy"))


def _draft(given: DraftIn) -> Draft:
    return Draft(given.title, given.description, shapes.document_of(given.document))


def _allowance_out(allowance: Allowance) -> dict[str, Any]:
    return {
        "id": allowance.pk,
        "check": allowance.check_id,
        "key": allowance.key,
        "sentence": allowance.sentence,
        "reason": allowance.reason,
        "at": allowance.at,
        "by": allowance.by.shown_name,
    }


@router.post("/pages/{page_id}/allowances", response={201: AllowanceOut, 422: Problem})
def allow(request: SignedIn, page_id: int, given: AllowIn) -> Any:
    """Say that a finding is right as it is, and why. Approvers see the reason. What blocks publishing cannot be."""
    page = _page(request, page_id, Right.WRITE)
    return 201, _allowance_out(checking.allow(page, request.user, _draft(given), given.key, given.reason))


@router.delete("/pages/{page_id}/allowances/{allowance_id}", response={204: None})
def disallow(request: SignedIn, page_id: int, allowance_id: int) -> Any:
    """Take that back: the finding stands among the others again."""
    page = _page(request, page_id, Right.WRITE)
    get_object_or_404(Allowance, pk=allowance_id, written=page).delete()
    return 204, None


@router.get("/checks", response=list[RuleOut])
def checks(request: SignedIn) -> Any:
    """Every check, with its page of help."""
    require(request.user, Right.SEE_CONTENTS)
    fields = set(RuleOut.model_fields) - {"group"}
    return [{"group": check.group, **{name: getattr(check.rule, name) for name in fields}} for check in CHECKS]


@router.get("/sites/{site_id}/checks", response=SiteChecks)
def site_checks(request: SignedIn, site_id: int) -> Any:
    """What a site has chosen in place of the checks' own severities."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    return _site_checks(site)


@router.put("/sites/{site_id}/checks", response={200: SiteChecks, 422: Problem})
def set_site_checks(request: SignedIn, site_id: int, given: SiteChecks) -> Any:
    """Choose what blocks publishing on a site, what is to be mended, looked at, or not checked at all."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SET_CHECKS, site)
    with transaction.atomic():
        checking.set_checks(site, dict(given.severities), given.page_budget, given.hardest_grade)
        sentence = f"{request.user.shown_name} changed what the page check of the {site.name} asks for."
        note("checks changed", sentence, person=request.user, site=site, **given.model_dump(mode="json"))
    return _site_checks(site)


def _site_checks(site: Site) -> dict[str, Any]:
    return {
        "severities": dict(checking.chosen(site)),
        "page_budget": site.page_budget,
        "hardest_grade": site.hardest_grade,
    }


@router.get("/sites/{site_id}/results", response=ResultsOut)
def site_results(request: SignedIn, site_id: int, start: int = Query(0, ge=0, le=10_000_000)) -> Any:
    """What the page check found last on each page of a site, those with the most to do first; a part of them."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    sight = sight_of(request.user)
    rows = LastCheck.objects.filter(site=site).order_by("-rank", "pk")
    whole = rows.select_related("page__site", "page__working_copy", "page__live_copy").defer(
        "page__working_copy__document", *(f"page__live_copy__{name}" for name in ("document", "html", "html_gzip"))
    )
    found = whole[start : start + RESULTS]
    return {
        "pages": Page.objects.filter(site=site).count(),
        "checked": rows.count(),
        "results": [
            {
                "page": shapes.page_ref(row.page, sight),
                **{name: getattr(row, name) for name in ("blocks", "mend", "look", "first", "checked_at")},
                "changed": row.digest != row.page.working_copy.digest,
            }
            for row in found
        ],
    }


@router.post("/sites/{site_id}/results", response=RenewedOut, throttle=[Costly("results")])
def renew_results(request: SignedIn, site_id: int, given: RenewIn) -> Any:
    """Check some pages of a site, and say how many are left. Whoever wants all of them asks on until none is."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    after, left = results.renew(site, given.after, sight=sight_of(request.user))
    return {"after": after, "left": left}


@router.post("/pages/{page_id}/listen", response={200: list[HeardLine], 422: Problem})
def listen(request: SignedIn, page_id: int, given: DraftIn) -> Any:
    """What a screen reader says of the page as it would be with this text, line by line."""
    return [line.to_json() for line in lines_of(_page(request, page_id), _draft(given), sight=sight_of(request.user))]


@router.post(
    "/pages/{page_id}/blocks",
    response={200: list[BlockOut], 422: Problem},
    throttle=[Costly("blocks")],
)
def blocks(request: SignedIn, page_id: int, given: BlocksIn) -> Any:
    """Blocks of the page as its readers would have them, one after another."""
    page = _page(request, page_id)
    makes = may(request.user, Right.WRITE, page.site)
    made = blocks_of(shapes.document_of(given.document), page.site, sight=sight_of(request.user), makes=makes)
    return [each._asdict() for each in made]


@router.get("/sites/{site_id}/outside-links", response=list[OutsideLink])
def outside_links(request: SignedIn, site_id: int) -> Any:
    """The outside addresses that pages of a site lead to, those that failed first."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    sight = sight_of(request.user)
    rows = Address.objects.filter(uses__written__page__site=site).distinct()
    pages = Page.objects.filter(site=site).select_related("site", "working_copy", "live_copy")
    by_address: dict[int, list[Page]] = {}
    for page in pages.filter(uses__address__in=rows).prefetch_related("uses").distinct():
        for number in {use.address_id for use in page.uses.all() if use.address_id}:
            by_address.setdefault(number, []).append(page)
    found = [
        {
            "id": row.pk,
            "address": row.address,
            "state": row.state,
            "fault": row.fault,
            "failed": row.failed,
            "moved_to": row.moved_to,
            "tested_at": row.tested_at,
            "pages": [shapes.page_ref(page, sight) for page in by_address.get(row.pk, [])],
        }
        for row in rows
    ]
    return sorted(found, key=lambda each: (not each["failed"], not each["fault"], each["address"]))


@router.post("/sites/{site_id}/outside-links/test", response={202: None})
def test_outside_links(request: SignedIn, site_id: int) -> Any:
    """Have the addresses of a site tested anew, in the background: those that failed, or were tested an hour ago."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.WRITE, site)
    hour = timezone.now() - timedelta(hours=1)
    rows = Address.objects.filter(uses__written__page__site=site).exclude(fault="", tested_at__gte=hour)
    Address.objects.filter(pk__in=list(rows.values_list("pk", flat=True))).update(next_test_at=timezone.now())
    test_due.enqueue()
    return 202, None
