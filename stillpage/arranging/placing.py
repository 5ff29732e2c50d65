"""Putting pages elsewhere in a tree or into another one, giving one another address, and saying where they show."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from stillpage.pages.models import Page, Redirect, TreeAct
from stillpage.pages.tree import PageError, Place, check_elsewhere, check_place, free_slug, in_branch, make_room
from stillpage.people.models import Person
from stillpage.publishing import freshness
from stillpage.publishing.models import Change, LiveCopy
from stillpage.sites.models import Site
from stillpage_core.sites import slug_from_title

from .addressing import lock, readdress, roots_of, shown_where_it_was

MOST = 500
"""The most pages that are chosen for one act; what stands under them goes along, however many that are."""


def counted(pages: Sequence[Page]) -> str:
    """“Towpath walks”, or how many pages."""
    return f"“{pages[0].working_copy.title}”" if len(pages) == 1 else f"{len(pages)} pages"


def note_act(sort: TreeAct.Sort, person: Person, site: Site, sentence: str, before: list[Any]) -> TreeAct:
    """Keep what is needed to undo an act."""
    return TreeAct.objects.create(site=site, person=person, sort=sort, sentence=sentence[:300], before=before)


def standing_of(page: Page) -> dict[str, Any]:
    """Where a page stands, for `stand_again`: right after which sibling."""
    siblings = Page.objects.filter(site=page.site_id, parent=page.parent_id, position__lte=page.position)
    above = siblings.exclude(pk=page.pk).exclude(position=page.position, pk__gt=page.pk)
    after = above.order_by("position", "pk").values_list("pk", flat=True).last()
    return {
        "site": page.site_id,
        "parent": page.parent_id,
        "after": after,
        "slug": page.slug,
        "slug_follows": page.slug_follows,
    }


@transaction.atomic
def place(pages: Sequence[Page], person: Person, where: Place) -> TreeAct:
    """Put pages, each with all that stand under it, at a place, in the order they have now.

    Raises:
        PageError: when one cannot stand there; nothing is changed then.
    """
    lock(where.site, *(page.site for page in pages))
    for page in pages:
        page.refresh_from_db()
    roots = roots_of(pages)
    _check(roots, where)
    chosen = {page.pk for page in roots}
    where = _beside_those_that_stay(where, chosen)
    before = [[page.pk, standing_of(page)] for page in roots]
    position = make_room(where, len(roots), leave=chosen)
    for page in roots:
        _put(page, person, where, position, Redirect.Why.MOVED)
        position += 1
    to = "the top" if where.parent is None else f"“{where.parent.working_copy.title}”"
    elsewhere = f" of {where.site.name}" if any(page.site_id != where.site.pk for page in pages) else ""
    sentence = f"{counted(roots)} moved to {to}{elsewhere}"
    return note_act(TreeAct.Sort.PLACED, person, where.site, sentence, before)


def _check(roots: Sequence[Page], where: Place) -> None:
    if not roots:
        raise PageError("No page is chosen.")
    if len(roots) > MOST:
        raise PageError(f"At most {MOST} pages are moved at once.")
    check_place(where)
    above = where.parent
    chosen = {page.pk for page in roots}
    while above is not None:
        if above.pk in chosen:
            raise PageError(f"“{above.working_copy.title}” cannot stand under itself.")
        above = above.parent
    if any(page.path == "/" for page in roots):
        raise PageError("The first page of a site stays where it is.")


def _beside_those_that_stay(where: Place, chosen: set[int]) -> Place:
    """The same place, named by a sibling that is not about to be moved itself."""
    after = where.after
    while after is not None and after.pk in chosen:
        siblings = Page.objects.filter(site=where.site, parent=where.parent, position__lt=after.position)
        after = siblings.order_by("position", "pk").last()
    return Place(where.site, where.parent, after, first=where.first or (where.after is not None and after is None))


def _put(page: Page, person: Person, where: Place, position: int, why: Redirect.Why) -> None:
    """Put one page at a place that has room for it at ``position``."""
    site, parent = page.site, page.parent
    was_in_bar = freshness.in_navigation_bar(page)
    slug = free_slug(where, page.slug, leave=[page.pk])
    readdress(page, person, where, slug, why)
    Page.objects.filter(pk=page.pk).update(position=position)
    page.position = position
    shown_where_it_was(site, parent, in_bar=was_in_bar)
    freshness.tell(Change.Sort.AROUND, [page.pk])


def stand_again(page: Page, person: Person, facts: dict[str, Any]) -> bool:
    """Put a page back to where it stood; whether that could be done."""
    site = Site.objects.filter(pk=facts["site"]).first()
    parent = Page.objects.filter(pk=facts["parent"], site=site).first() if facts["parent"] else None
    if site is None or (facts["parent"] and parent is None):
        return False
    after = Page.objects.filter(pk=facts["after"], site=site, parent=parent).first() if facts["after"] else None
    where = Place(site, parent, after, first=after is None)
    _check([page], where)
    position = make_room(where, 1, leave=[page.pk])
    page.slug = facts["slug"]
    _put(page, person, where, position, Redirect.Why.MOVED)
    Page.objects.filter(pk=page.pk).update(slug_follows=facts["slug_follows"])
    return True


@transaction.atomic
def set_slug(page: Page, person: Person, slug: str | None) -> TreeAct:
    """Give a page an address part of its own; with None it follows the title from now on.

    Raises `AddressTaken`, `PageError` or the core's AddressError.
    """
    lock(page.site)
    page.refresh_from_db()
    if page.path == "/":
        raise PageError("The first page of a site has the site’s own address.")
    before = [[page.pk, standing_of(page)]]
    follows = slug is None
    if slug is None:
        slug = free_slug(Place(page.site, page.parent), slug_from_title(page.working_copy.title), leave=[page.pk])
    readdress(page, person, Place(page.site, page.parent), slug, Redirect.Why.RENAMED)
    Page.objects.filter(pk=page.pk).update(slug_follows=follows)
    page.slug_follows = follows
    sentence = f"The address of “{page.working_copy.title}” is {page.path} now"
    return note_act(TreeAct.Sort.PLACED, person, page.site, sentence, before)


@transaction.atomic
def follow_title(page: Page, title: str) -> None:
    """Make the address part anew from the title of a page that nobody has published or given another one yet."""
    if not page.slug_follows or page.path == "/":
        return
    lock(page.site)
    page.refresh_from_db()
    slug = free_slug(Place(page.site, page.parent), slug_from_title(title), leave=[page.pk])
    if page.slug_follows and slug != page.slug:
        readdress(page, None, Place(page.site, page.parent), slug, Redirect.Why.RENAMED)


@transaction.atomic
def show(pages: Sequence[Page], person: Person, *, in_navigation: bool, hidden: bool) -> TreeAct:
    """Say where pages show: in the navigation and in lists; found, but in neither; or hidden from all who do not have
    the address."""
    if not pages:
        raise PageError("No page is chosen.")
    site = pages[0].site
    lock(*(page.site for page in pages))
    before = []
    for page in pages:
        page.refresh_from_db()
        if hidden and page.path == "/":
            raise PageError("The first page of a site cannot be hidden.")
        before.append([page.pk, {"in_navigation": page.in_navigation, "hidden": page.hidden}])
        set_shown(page, in_navigation=in_navigation and not hidden, hidden=hidden)
    where = "hidden" if hidden else "in the navigation" if in_navigation else "not in the navigation"
    be = "is" if len(pages) == 1 else "are"
    return note_act(TreeAct.Sort.SHOWN, person, site, f"{counted(pages)} {be} {where} now", before)


def set_shown(page: Page, *, in_navigation: bool, hidden: bool) -> None:
    """Say where a page shows."""
    was_in_bar = freshness.in_navigation_bar(page)
    page.in_navigation, page.hidden = in_navigation, hidden
    Page.objects.filter(pk=page.pk).update(in_navigation=in_navigation, hidden=hidden)
    shown_where_it_was(page.site, page.parent, in_bar=was_in_bar)
    freshness.tell(Change.Sort.AROUND, [page.pk])
    # What links to it is told by the page check alone; its own head tells machines to leave it.
    freshness.mark_all(LiveCopy.objects.filter(written=page.pk, site__isnull=False), text=False)


@transaction.atomic
def lead_elsewhere(page: Page, person: Person, address: str) -> TreeAct:
    """Have an entry of the tree lead to another address elsewhere."""
    if not page.elsewhere:
        raise PageError("This is a page and no link elsewhere.")
    address = check_elsewhere(address)
    lock(page.site)
    before = [[page.pk, {"elsewhere": page.elsewhere}]]
    set_elsewhere(page, address)
    return note_act(
        TreeAct.Sort.SHOWN, person, page.site, f"“{page.working_copy.title}” leads to {address} now", before
    )


def set_elsewhere(page: Page, address: str) -> None:
    """Have an entry lead to an address."""
    page.elsewhere = address
    Page.objects.filter(pk=page.pk).update(elsewhere=address)
    freshness.tell(Change.Sort.AROUND, [page.pk])
    shown_where_it_was(page.site, page.parent, in_bar=freshness.in_navigation_bar(page))


def branch_size(pages: Sequence[Page]) -> int:
    """How many pages some pages and all under them are."""
    return sum(in_branch(page).count() for page in roots_of(pages))
