"""A page's working copy for whoever has its preview address: rendered for each, kept nowhere, told to no machine."""

from __future__ import annotations

from django.db.models import F
from django.utils import timezone

from stillpage.pages.models import Preview
from stillpage.pages.seeing import sight_of
from stillpage.sites.themes import theme_of
from stillpage_core.writing import policy_of, published_html

from .rendering import Frame, module, page_html
from .resolving import resolver_for

PATH = "/preview/"


def preview(host: str, token: str) -> tuple[str, str] | None:
    """The page and its policy; None where the address never was, or is ended. The visit is counted. What it names is
    shown as far as who made the address may see it."""
    rows = Preview.objects.select_related("page__site", "page__working_copy", "made_by")
    found = rows.filter(token=token, page__site__host=host, ended_at=None, until__gte=timezone.now().date()).first()
    if found is None or found.page.binned_at is not None or found.page.site.closed_at is not None:
        return None
    Preview.objects.filter(pk=found.pk).update(visits=F("visits") + 1, seen_at=timezone.now())
    page, copy = found.page, found.page.working_copy
    document = copy.tree
    site = page.site
    resolver = resolver_for(
        [document], site.origin, sight=sight_of(found.made_by), checks=False, language=site.language
    )
    text = published_html(document, resolver, theme_of(site.theme).rooms, module, site.language)
    html = page_html(
        Frame.of(site, [page]), page, title=copy.title, description=copy.description, text=text, told=False
    )
    return html, policy_of(document, resolver)
