"""What the page check found last on each page of a site: one table of what is to be done."""

from __future__ import annotations

from collections.abc import Mapping
from time import monotonic

from django.utils import timezone

from stillpage.pages.models import Page
from stillpage.pages.seeing import Sight
from stillpage.sites.models import Site
from stillpage.written.models import Allowance
from stillpage.written.saving import Draft
from stillpage_core.checking import SEVERITIES
from stillpage_core.document.digest import digest_of

from .checking import Checked, allowances_of, check_draft
from .models import LastCheck

AT_ONCE = 50
SECONDS = 1.5
"""How many pages are checked for one request, and how long that may take."""
MOST = 999


def keep(page: Page, draft: Draft, checked: Checked, allowed: Mapping[str, Allowance]) -> None:
    """Keep what was found in a text of a page. What is held to be right is not counted."""
    found = [each for each in checked.findings if each.severity == "blocks" or each.key not in allowed]
    numbers: dict[str, int] = {
        str(name): min(MOST, sum(each.severity == name for each in found)) for name in SEVERITIES
    }
    first = min(found, key=lambda each: SEVERITIES.index(each.severity), default=None)
    LastCheck.objects.update_or_create(
        page=page,
        defaults={
            "site_id": page.site_id,
            "digest": digest_of(draft.title, draft.description, draft.document.to_json()),
            **numbers,
            "rank": (numbers["blocks"] * 1000 + numbers["mend"]) * 1000 + numbers["look"],
            "first": first.sentence[:300] if first else "",
            "checked_at": timezone.now(),
        },
    )


def renew(site: Site, after: int, *, sight: Sight) -> tuple[int, int]:
    """Check some pages of a site as their working copies are: those whose numbers follow ``after``, for a moment.

    Returns the number of the last one, and how many follow it.
    """
    began = monotonic()
    pages = Page.objects.filter(site=site, pk__gt=after).order_by("pk").select_related("site", "working_copy")
    for page in pages[:AT_ONCE]:
        copy = page.working_copy
        draft = Draft(copy.title, copy.description, copy.tree)
        keep(page, draft, check_draft(page, draft, sight=sight), allowances_of(page))
        after = page.pk
        if monotonic() - began > SECONDS:
            break
    return after, Page.objects.filter(site=site, pk__gt=after).count()
