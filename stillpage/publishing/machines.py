"""What a site tells machines, from stored rows: its sitemap, its feed, robots.txt. Nothing is rendered for it, and
hidden pages are in none."""

from __future__ import annotations

import re
from collections.abc import Iterator
from datetime import UTC, datetime

from django.db.models import QuerySet
from django.utils import timezone

from stillpage.sites.models import Site
from stillpage_core.sites.machines import (
    MOST,
    Address,
    Entry,
    Source,
    feed,
    robots_txt,
    sitemap,
    sitemap_index,
)

from .models import LiveCopy
from .rendering import FEED

NEWEST = 50
"""How many pages a feed tells of."""
_PART = re.compile(r"/sitemap-([1-9][0-9]{0,5})\.xml")


def _told(site: Site) -> QuerySet[LiveCopy]:
    return LiveCopy.objects.filter(site=site, written__page__hidden=False)


def machines_answer(site: Site, path: str) -> tuple[Iterator[str], str] | None:
    """What is answered at a path that is for machines, in pieces, and its media type; None for any other path."""
    if path == "/robots.txt":
        return iter([robots_txt(site.origin)]), "text/plain"
    if path == FEED:
        return iter([_feed(site)]), "application/atom+xml"
    if path == "/sitemap.xml":
        count = _told(site).count()
        if count <= MOST:
            return sitemap(_addresses(site, 1)), "application/xml"
        parts = [f"{site.origin}/sitemap-{number}.xml" for number in range(1, -(-count // MOST) + 1)]
        return iter([sitemap_index(parts)]), "application/xml"
    if part := _PART.fullmatch(path):
        number = int(part[1])
        if number == 1 or _told(site).count() > (number - 1) * MOST:
            return sitemap(_addresses(site, number)), "application/xml"
    return None


def told_to_machines(site: Site) -> list[str]:
    """The paths of everything that a site tells machines."""
    count = _told(site).count()
    parts = range(1, -(-count // MOST) + 1) if count > MOST else ()
    return ["/robots.txt", FEED, "/sitemap.xml", *(f"/sitemap-{number}.xml" for number in parts)]


def _addresses(site: Site, part: int) -> Iterator[Address]:
    """The pages of one of the site's sitemaps, in the order in which they were first made."""
    rows = _told(site).order_by("pk").values_list("address", "published_at", "head")
    origin, host = site.origin, site.host
    for address, published, head in rows[(part - 1) * MOST : part * MOST].iterator(chunk_size=2000):
        path = (address or "").removeprefix(host)
        yield Address(origin + path, _aware(published), tuple(head.get("images", ())))


def _feed(site: Site) -> str:
    rows = _told(site).exclude(written__page__path="/").order_by("-first_at", "-pk").select_related("published_by")
    fields = ("title", "description", "address", "published_at", "first_at", "published_by", "head")
    entries = [
        Entry(
            identity=f"tag:{site.host},2000:page-{live.pk}",
            title=live.title,
            address=site.origin + (live.address or "").removeprefix(site.host),
            summary=live.description,
            first=_aware(live.first_at or live.published_at),
            changed=_aware(live.published_at),
            author=site.name,
        )
        for live in rows.only(*fields)[:NEWEST]
    ]
    return feed(Source(site.name, site.origin, FEED, site.language), entries, timezone.now())


def _aware(at: datetime) -> datetime:
    return at if at.tzinfo else at.replace(tzinfo=UTC)
