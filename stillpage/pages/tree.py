"""The tree of a site's pages: reading it, and adding to it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import Count, F

from stillpage.people.models import Person
from stillpage.sites.models import Site
from stillpage.written.saving import begin, clean_title
from stillpage_core.errors import CoreError
from stillpage_core.sites import check_slug, page_path, slug_from_title

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
    title = clean_title(title)
    Site.objects.select_for_update().get(pk=site.pk)
    if after is not None:
        parent = after.parent
    if any(each is not None and each.site_id != site.pk for each in (parent, after)):
        raise PageError("The place for the new page is on another site.")
    siblings = Page.objects.filter(site=site, parent=parent)
    if slug is None:
        slug = slug_from_title(title, set(siblings.values_list("slug", flat=True)))
    path = page_path(parent.path if parent else None, check_slug(slug))
    if after is not None:
        position = after.position + 1
        siblings.filter(position__gte=position).update(position=F("position") + 1)
    else:
        last = siblings.order_by("-position").first()
        position = last.position + 1 if last else 0
    try:
        with transaction.atomic():
            page = Page.objects.create(site=site, parent=parent, position=position, slug=slug, path=path)
    except IntegrityError as error:
        raise AddressTaken(f"There is a page at {path} already. Choose another address.") from error
    begin(page, person, title)
    return page
