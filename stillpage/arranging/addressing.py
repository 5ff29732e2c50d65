"""Giving a branch of pages another address: in the tree, for its readers, and for those who have the earlier one.

However large the branch is, that takes a handful of statements, in one transaction.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.db import connection
from django.db.models import Max, QuerySet
from django.db.models.functions import Length
from django.utils import timezone

from stillpage.pages.models import Page, Redirect
from stillpage.pages.tree import AddressTaken, PageError, Place, in_branch
from stillpage.people.models import Person
from stillpage.publishing import freshness, page_memory
from stillpage.publishing.models import Change, LastCheck, LiveCopy
from stillpage.sites.models import Site
from stillpage.written.models import Version
from stillpage_core.sites import check_slug, page_path
from stillpage_core.sites.addresses import LONGEST_PATH

_PAGE, _LIVE, _REDIRECT, _SITE, _VERSION = (each._meta.db_table for each in (Page, LiveCopy, Redirect, Site, Version))
_BRANCH = "(p.id = %s OR (p.path > %s AND p.path < %s))"
"""A page and all under it, by the order of the bytes of their addresses; on one site."""


def _branch(page: Page) -> list[Any]:
    return [page.pk, f"{page.path}/", f"{page.path}0"]


def lock(*sites: Site) -> None:
    """Let nobody else change the trees of these sites until the present transaction is done."""
    list(Site.objects.select_for_update().filter(pk__in={site.pk for site in sites}).order_by("pk").values_list("pk"))


def lead_on(page: Page, person: Person | None, why: Redirect.Why) -> None:
    """Have the present addresses of a page and of all under it lead to them from now on, as far as they are live or
    ever were: who was withdrawn may come back elsewhere."""
    with connection.cursor() as cursor:
        cursor.execute(
            f"INSERT INTO {_REDIRECT} (site_id, path, page_id, address, why, made_at, made_by_id) "  # noqa: S608
            f"SELECT p.site_id, p.path, p.id, '', %s, %s, %s FROM {_PAGE} p "
            f"LEFT JOIN {_LIVE} l ON l.written_id = p.id WHERE p.site_id = %s AND {_BRANCH} AND p.elsewhere = '' AND "
            "(l.address IS NOT NULL OR EXISTS "
            f"(SELECT 1 FROM {_VERSION} v WHERE v.written_id = p.id AND v.reason = %s)) "
            "ON DUPLICATE KEY UPDATE page_id = VALUES(page_id), address = '', why = VALUES(why), "
            "made_at = VALUES(made_at), made_by_id = VALUES(made_by_id)",
            [
                why,
                timezone.now(),
                person.pk if person else None,
                page.site_id,
                *_branch(page),
                Version.Reason.PUBLISHED,
            ],
        )


def lead_no_more(page: Page) -> None:
    """Take away what leads from an address to the page that stands there, of a page and all under it."""
    with connection.cursor() as cursor:
        cursor.execute(
            f"DELETE r FROM {_REDIRECT} r JOIN {_PAGE} p ON p.id = r.page_id "
            f"WHERE p.site_id = %s AND {_BRANCH} AND r.site_id = p.site_id AND r.path = p.path",
            [page.site_id, *_branch(page)],
        )


def readdress(page: Page, person: Person | None, where: Place, slug: str, why: Redirect.Why) -> None:
    """Put a page, with all under it, under the parent of a place and at another address; ``page`` tells it afterwards.
    Which position it has among its siblings is not changed.

    Live pages keep their readers: their earlier addresses lead to them.

    Raises:
        AddressTaken: when another page has the address.
        PageError: when an address under it would be too long.
        AddressError: of the core, when the address part is none.
    """
    site, parent = where.site, where.parent
    path = page_path(parent.path if parent else None, check_slug(slug))
    if (page.site_id, page.path) == (site.pk, path):
        Page.objects.filter(pk=page.pk).update(parent=parent, slug=slug)
        page.parent, page.slug = parent, slug
        return
    if Page.every.filter(site=site, path=path).exclude(pk=page.pk).exists():
        raise AddressTaken(f"There is a page at {path} already. Choose another address.")
    branch = in_branch(page)
    longest = branch.aggregate(most=Max(Length("path")))["most"] or 0
    if longest - len(page.path) + len(path) > LONGEST_PATH:
        raise PageError(f"An address under {path} would be longer than {LONGEST_PATH} characters.")
    forget_answers(branch)
    lead_on(page, person, why)
    before = page.site
    with connection.cursor() as cursor:
        cursor.execute(
            f"UPDATE {_PAGE} p SET p.path = CONCAT(%s, SUBSTRING(p.path, %s)), p.site_id = %s "  # noqa: S608
            f"WHERE p.site_id = %s AND {_BRANCH}",
            [path, len(page.path) + 1, site.pk, before.pk, *_branch(page)],
        )
    Page.objects.filter(pk=page.pk).update(parent=parent, slug=slug)
    page.site, page.parent, page.slug, page.path = site, parent, slug, path
    with connection.cursor() as cursor:
        cursor.execute(
            f"UPDATE {_LIVE} l JOIN {_PAGE} p ON p.id = l.written_id JOIN {_SITE} s ON s.id = p.site_id "  # noqa: S608
            "SET l.address = CONCAT(s.host, p.path), l.site_id = p.site_id "
            f"WHERE p.site_id = %s AND {_BRANCH} AND l.address IS NOT NULL",
            [site.pk, *_branch(page)],
        )
    # What leads to where its page is leads nowhere else.
    lead_no_more(page)
    branch = in_branch(page)
    forget_answers(branch)
    freshness.tell(Change.Sort.BRANCH, [page.pk])
    freshness.tell(Change.Sort.AROUND, [page.pk])
    if before.pk != site.pk:
        # The theme and the language are others.
        LastCheck.objects.filter(page__in=branch).update(site=site)
        freshness.mark_all(LiveCopy.objects.filter(written__in=branch, site__isnull=False), text=True)


def forget_answers(branch: QuerySet[Page]) -> None:
    """Have what is kept of the answers at these pages' addresses asked for anew."""
    rows = list(branch.values_list("site__host", "path")[: freshness.MOST_BELOW + 1])
    if len(rows) > freshness.MOST_BELOW:
        page_memory.changed(hosts={host for host, _ in rows})
    else:
        page_memory.changed(host + path for host, path in rows)


def shown_where_it_was(site: Site, parent: Page | None, *, in_bar: bool) -> None:
    """Something no longer stands under ``parent``, or at the top: what lists it is made anew."""
    if in_bar:
        freshness.tell(Change.Sort.SITE, [site.pk])
    elif parent is not None:
        freshness.mark_all(LiveCopy.objects.filter(written=parent.pk, site__isnull=False), text=False)
        freshness.ask_worker()


def roots_of(pages: Iterable[Page]) -> list[Page]:
    """Those of some pages of trees that stand under none of the others, in the order of their places."""
    given = {page.pk: page for page in pages}
    places: dict[int, list[tuple[int, int]]] = {}
    for page in given.values():
        way, above = [(page.position, page.pk)], page.parent
        while above is not None and above.pk not in given:
            way.insert(0, (above.position, above.pk))
            above = above.parent
        if above is None:
            places[page.pk] = way
    return sorted((given[number] for number in places), key=lambda page: (page.site_id, places[page.pk]))


def chosen(numbers: Iterable[int]) -> list[Page]:
    """The pages of trees that have these numbers, with their sites. Raises `PageError` when one is missing."""
    wanted = set(numbers)
    found = list(Page.objects.filter(pk__in=wanted).select_related("site", "parent", "working_copy"))
    if len(found) < len(wanted):
        raise PageError("A page that was chosen is no longer there. Look at the Contents again.")
    return found
