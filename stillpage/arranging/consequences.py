"""What would follow from an act on a tree, told before it is done: addresses that change, redirects, links that break,
and how many live pages are made anew."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from django.db.models import Q

from stillpage.pages.models import Page
from stillpage.pages.seeing import Sight
from stillpage.pages.tree import Place, free_slug, in_branch
from stillpage.publishing import freshness
from stillpage.publishing.models import LiveCopy
from stillpage.written.models import Use
from stillpage_core.sites import page_path

from .addressing import roots_of

SHOWN = 8
"""How many addresses and links are told by name."""


@dataclass
class Consequences:
    """``addresses`` are those that change, before and after, the first few; ``linked_from`` the pages that link to what
    is touched, the first few of ``links``."""

    pages: int = 0
    live: int = 0
    addresses: list[tuple[str, str]] = field(default_factory=list)
    linked_from: list[Page] = field(default_factory=list)
    links: int = 0
    sentences: list[str] = field(default_factory=list)


def _many(number: int, one: str, other: str) -> str:
    return one if number == 1 else other.replace("#", f"{number:,}")


def _touched(roots: Sequence[Page], sight: Sight) -> Consequences:
    """How many pages there are in these branches, and who links to them from without."""
    told = Consequences()
    for page in roots:
        branch = in_branch(page)
        told.pages += branch.count()
        told.live += LiveCopy.objects.filter(written__in=branch).count()
        uses = Use.objects.filter(target__in=branch).exclude(written__in=branch.values("pk"))
        linking = sight.pages(Page.objects.filter(pk__in=uses.values("written")))
        told.links += linking.count()
        left = SHOWN - len(told.linked_from)
        told.linked_from += linking.select_related("site", "working_copy")[: max(0, left)]
    return told


def of_placing(pages: Sequence[Page], where: Place, sight: Sight) -> Consequences:
    """What would follow if pages were put at a place."""
    roots = roots_of(pages)
    told = _touched(roots, sight)
    above = where.parent.path if where.parent else None
    for page in roots:
        path = page_path(above, free_slug(where, page.slug, leave=[page.pk]))
        if (path, where.site.pk) != (page.path, page.site_id):
            told.addresses.append((page.site.origin + page.path, where.site.origin + path))
    return _of_addresses(told, roots, where)


def of_naming(page: Page, path: str, sight: Sight) -> Consequences:
    """What would follow if a page had another address."""
    told = _touched([page], sight)
    if path != page.path:
        told.addresses.append((page.site.origin + page.path, page.site.origin + path))
    return _of_addresses(told, [page], Place(page.site, page.parent))


def _of_addresses(told: Consequences, roots: Sequence[Page], where: Place) -> Consequences:
    if not told.addresses:
        told.links, told.linked_from = 0, []
        told.sentences.append("No address changes.")
    else:
        changed = told.pages
        told.sentences.append(_many(changed, "One address changes.", "# addresses change."))
        if told.live:
            told.sentences.append(
                _many(
                    told.live,
                    "Its readers are led on: the earlier address goes on to lead to it.",
                    "Readers are led on: # earlier addresses go on to lead to their pages.",
                )
            )
        if told.links:
            told.sentences.append(
                _many(told.links, "The page that links here follows.", "All # pages that link here follow.")
            )
    told.sentences += _reach(told, roots, where)
    del told.addresses[SHOWN:]
    return told


def _reach(told: Consequences, roots: Sequence[Page], where: Place) -> list[str]:
    """How many live pages are made anew by and by."""
    if not told.live:
        return []
    to_the_bar = where.parent is None and any(page.in_navigation and not page.hidden for page in roots)
    if to_the_bar or any(freshness.in_navigation_bar(page) for page in roots):
        sites = {where.site.pk, *(page.site_id for page in roots)}
        every = LiveCopy.objects.filter(site__in=sites).count()
        return [
            f"The navigation changes: {_many(every, 'one live page is', f'all {every:,} live pages are')} made anew."
        ]
    return []


def of_withdrawing(pages: Sequence[Page], sight: Sight, *, binned: bool) -> Consequences:
    """What would follow if pages were taken from readers, or put into the bin with all under them."""
    if binned:
        roots = roots_of(pages)
        told = _touched(roots, sight)
        if told.pages > len(roots):
            told.sentences.append(f"{told.pages:,} pages go into the bin: all that stand under the chosen go along.")
    else:
        told = Consequences(len(pages), LiveCopy.objects.filter(written__in=pages).count())
        linking = sight.pages(Page.objects.filter(uses__target__in=pages)).exclude(pk__in=[page.pk for page in pages])
        told.links = linking.distinct().count()
        told.linked_from = list(linking.select_related("site", "working_copy").distinct()[:SHOWN])
        below = Page.objects.filter(Q(parent__in=pages), live_copy__isnull=False).count()
        if below:
            told.sentences.append(_many(below, "A live page under it stays live.", "# live pages under it stay live."))
    if told.live:
        told.sentences.append(
            _many(told.live, "Readers can no longer read it.", "Readers can no longer read # live pages.")
        )
    if told.links:
        told.sentences.append(
            _many(
                told.links,
                "One page links here; the words of its link stay, and lead nowhere.",
                "# pages link here; the words of their links stay, and lead nowhere.",
            )
        )
    if not told.sentences:
        told.sentences.append("Nobody else sees anything of it.")
    return told
