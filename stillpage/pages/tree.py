"""The tree of a site's pages: reading it, and adding to it."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import Count, F, Q, QuerySet

from stillpage.people.models import Person
from stillpage.sites.models import Site
from stillpage.written.saving import begin, clean_title
from stillpage_core.errors import CoreError
from stillpage_core.references import LONGEST, parse_reference, web_parts
from stillpage_core.sites import RESERVED, check_slug, page_path, slug_from_title
from stillpage_core.sites.addresses import LONGEST_PART, free_number

from .models import Page


class PageError(CoreError):
    """A page cannot be made or changed so; the sentence says why."""


class AddressTaken(PageError):
    """Another page has this address already."""

    status = 409
    name = "address-taken"
    title = "The address is taken"


@dataclass(frozen=True)
class Branch:
    """Some of the pages below a page, or at the top: ``rows`` are those that are given, each before those below it;
    ``among`` is how many there are right under it."""

    rows: list[dict[str, Any]]
    among: int


AT_ONCE = 400
"""How many pages of a branch are given at once; whoever wants more asks for the branches within, or goes on."""


def branch(site: Site, below: int | None, start: int, *fields: str) -> Branch:
    """The pages right under a page (None: at the top) from the ``start``-th on, and those under these, level by level,
    as far as all that stand under one go into `AT_ONCE`; so a small site is given whole, and of a very large one
    nothing is read that is not given.

    Of each there are ``pk``, ``parent_id``, the ``fields`` asked for, and ``below``: how many stand right under it.
    """
    pages = Page.objects.filter(site=site)
    right_under = pages.filter(parent=below)
    by_place = right_under.order_by("position", "pk").values("pk", "parent_id", *fields)
    level = list(by_place[start : start + AT_ONCE])
    children: dict[int, list[dict[str, Any]]] = {}
    left, whole = AT_ONCE - len(level), level
    while level:
        numbers = [row["pk"] for row in level]
        counted = pages.filter(parent__in=numbers).order_by().values("parent").annotate(number=Count("pk"))
        under = {row["parent"]: row["number"] for row in counted}
        for row in level:
            row["below"] = under.get(row["pk"], 0)
        unfolded = []
        for row in level:
            if 0 < row["below"] <= left:
                left -= row["below"]
                unfolded.append(row["pk"])
        level = list(pages.filter(parent__in=unfolded).order_by("position", "pk").values("pk", "parent_id", *fields))
        for row in level:
            children.setdefault(row["parent_id"], []).append(row)
    ordered: list[dict[str, Any]] = []
    waiting = whole[::-1]
    while waiting:
        row = waiting.pop()
        ordered.append(row)
        waiting += children.get(row["pk"], [])[::-1]
    return Branch(ordered, right_under.count())


def in_branch(page: Page) -> QuerySet[Page]:
    """A page of a tree and all that stand under it."""
    if page.path == "/":
        return Page.objects.filter(Q(pk=page.pk) | Q(parent=page))
    # By the order of the bytes, all addresses that begin with “/a/” stand between “/a/” and “/a0”.
    below = Q(path__gt=f"{page.path}/", path__lt=f"{page.path}0")
    return Page.objects.filter(Q(pk=page.pk) | below, site=page.site_id)


@dataclass(frozen=True)
class Place:
    """A place in a tree: under ``parent`` (None: at the top), as the last there, or right ``after`` one of those that
    stand there, or as the ``first``."""

    site: Site
    parent: Page | None = None
    after: Page | None = None
    first: bool = False

    @classmethod
    def beside(cls, page: Page, *, before: bool = False) -> Place:
        """Right after a page, or right before it."""
        if not before:
            return cls(page.site, page.parent, after=page)
        siblings = Page.objects.filter(site=page.site, parent=page.parent)
        earlier = Q(position__lt=page.position) | Q(position=page.position, pk__lt=page.pk)
        above = siblings.filter(earlier).order_by("position", "pk").last()
        return cls(page.site, page.parent, after=above, first=above is None)


def check_place(place: Place) -> None:
    """Raise `PageError` where no page can stand there."""
    if any(each is not None and each.site_id != place.site.pk for each in (place.parent, place.after)):
        raise PageError("The place for the page is on another site.")
    if place.parent is not None and place.parent.elsewhere:
        raise PageError(f"“{place.parent}” is a link elsewhere; no page can stand under it.")


def check_elsewhere(address: str) -> str:
    """An address that an entry of the tree may lead to, as it is kept. Raises `PageError` for any other."""
    address = address.strip()
    reference = parse_reference(address)
    if reference is None or web_parts(address) is None or len(address) > LONGEST:
        raise PageError("A link elsewhere needs a whole address that begins with https:// or http://.")
    return address


def make_room(place: Place, count: int, leave: Collection[int] = ()) -> int:
    """Have room for so many pages at a place: those behind it move on. Pages to ``leave`` are none of them: they are
    about to be placed there. Returns the first free position."""
    siblings = Page.objects.filter(site=place.site, parent=place.parent).exclude(pk__in=leave)
    if place.after is None and not place.first:
        last = siblings.order_by("-position").values_list("position", flat=True).first()
        return 0 if last is None else last + 1
    position = 0 if place.after is None else place.after.position + 1
    siblings.filter(position__gte=position).update(position=F("position") + count)
    return position


def free_slug(place: Place, slug: str, leave: Collection[int] = ()) -> str:
    """An address part for a place, with a number behind it where it is taken."""
    above = place.parent.path if place.parent else None

    def taken(name: str) -> bool:
        path = _path(above, name)
        there = Page.every.filter(site=place.site, path=path).exclude(pk__in=leave)
        return (path.count("/") == 1 and name in RESERVED) or there.exists()

    cut = slug[: LONGEST_PART - 8].rstrip("-")
    return slug if not taken(slug) else f"{cut}-{free_number(lambda number: taken(f'{cut}-{number}'))}"


def _path(above: str | None, part: str) -> str:
    return f"{(above or '/').rstrip('/')}/{part}"


@transaction.atomic
def add_page(
    site: Site,
    person: Person,
    title: str,
    *,
    parent: Page | None = None,
    after: Page | None = None,
    slug: str | None = None,
) -> Page:
    """Add a page with an empty working copy, as the last below ``parent`` or right after the sibling ``after``.

    Without ``slug`` the address is made from the title. Raises `AddressTaken`, `PageError` or the core's AddressError.
    """
    place = Place(site, after.parent if after is not None else parent, after=after)
    return add_at(place, person, title, slug=slug)


@transaction.atomic
def add_at(place: Place, person: Person, title: str, *, slug: str | None = None, elsewhere: str = "") -> Page:
    """Add a page at a place, or an entry that leads ``elsewhere``; otherwise as `add_page`."""
    title = clean_title(title)
    Site.objects.select_for_update().get(pk=place.site.pk)
    check_place(place)
    follows = slug is None
    if slug is None:
        slug = free_slug(place, slug_from_title(title))
    path = page_path(place.parent.path if place.parent else None, check_slug(slug))
    position = make_room(place, 1)
    try:
        with transaction.atomic():
            page = Page.objects.create(
                site=place.site,
                parent=place.parent,
                position=position,
                slug=slug,
                path=path,
                slug_follows=follows,
                elsewhere=elsewhere,
            )
    except IntegrityError as error:
        raise AddressTaken(f"There is a page at {path} already. Choose another address.") from error
    begin(page, person, title)
    return page
