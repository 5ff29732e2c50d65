"""What readers should have: every live page rendered from nothing, of the texts and what they name as they are now."""

from __future__ import annotations

from stillpage.pages.seeing import ALL
from stillpage.publishing.models import LiveCopy, NotFoundPage
from stillpage.publishing.rendering import Frame, around, head_of, module, not_found_html
from stillpage.publishing.resolving import resolver_for
from stillpage.sites.models import Site
from stillpage.sites.themes import theme_of
from stillpage_core.writing import published_html


def should_be(only: str = "") -> dict[str, str]:
    """Each live page by its address, as it should be; the answers where there is nothing, by their hosts. With ``only``
    those alone that begin so."""
    found: dict[str, str] = {}
    for site in Site.objects.all():
        if only and not only.startswith(site.host):
            continue
        frame = Frame.of(site)
        found[site.host] = not_found_html(frame)
        for live in LiveCopy.objects.filter(site=site).select_related("written__page"):
            if not (site.host + live.written.page.path).startswith(only):
                continue
            resolver = resolver_for([live.tree], site.origin, sight=ALL)
            text = published_html(live.tree, resolver, theme_of(site.theme).rooms, module, site.language)
            said = {"title": live.title, "description": live.description}
            head = head_of(live.tree, resolver, site.origin)
            before, after = around(frame, live.written.page, head=head, **said)
            found[site.host + live.written.page.path] = before + text + after
    return found


def is_kept() -> dict[str, str]:
    """Each page as it is kept for readers."""
    every = (each for model in (LiveCopy, NotFoundPage) for each in model.objects.exclude(address=None))
    return {each.address: bytes(each.html).decode() for each in every}
