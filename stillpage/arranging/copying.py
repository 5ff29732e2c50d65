"""Copies of a page, or of a page with all that stand under it: texts to begin from, which readers do not see."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from stillpage.pages.models import Page, TreeAct
from stillpage.pages.tree import PageError, Place, add_at, in_branch
from stillpage.people.models import Person
from stillpage.sites.models import Site
from stillpage.written.saving import Draft, save
from stillpage_core.document import document_from_json

from .placing import note_act

MOST = 500
"""The most pages that are copied at once: each has a text that is read and kept anew."""


@transaction.atomic
def duplicate(
    page: Page, person: Person, title: str, *, label: str | None = None, slug: str | None = None, deep: bool = False
) -> tuple[Page, TreeAct]:
    """Copy a page to right after it, under another title and address, and with ``deep`` all that stand under it too.

    Links between the pages that are copied lead between the copies. The page check knows whose copy each is, and finds
    where it still says the other's name. Returns the copy.

    Raises:
        PageError: when there are more pages than are copied at once.
        AddressTaken: when another page has the address.
    """
    if page.path == "/" and deep:
        raise PageError("The first page is copied by itself; a whole site is duplicated as a site.")
    place = Place(page.site, page.parent, after=page) if page.path != "/" else Place(page.site)
    top = _begin(page, place, person, title, slug)
    made = {page.pk: top}
    if deep:
        _below(page, made, person)
    for number, copy in made.items():
        original = page if number == page.pk else Page.objects.get(pk=number)
        _fill(original, copy, person, made, title=title if number == page.pk else None, label=label)
    many = "" if len(made) == 1 else f", with {len(made) - 1} under it"
    sentence = f"“{page.working_copy.title}” duplicated as “{top.working_copy.title}”{many}"
    return top, note_act(TreeAct.Sort.ADDED, person, page.site, sentence, [[top.pk, {}]])


def copy_of(site: Site, into: Site, person: Person) -> None:
    """Copy all pages of a site into another one, which is empty. Raises `PageError` when there are too many."""
    pages = list(Page.objects.filter(site=site).select_related("working_copy"))
    if len(pages) > MOST:
        raise PageError(f"More than {MOST} pages stand on this site; so many are not copied at once.")
    made: dict[int, Page] = {}
    waiting = sorted(pages, key=lambda page: (page.path != "/", page.path.count("/"), page.position, page.pk))
    for page in waiting:
        if page.parent_id is not None and page.parent_id not in made:
            continue
        place = Place(into, made[page.parent_id] if page.parent_id else None)
        copy = _begin(page, place, person, page.working_copy.title, page.slug or "first")
        if page.path == "/":
            Page.objects.filter(pk=copy.pk).update(slug="", path="/")
            copy.refresh_from_db()
        # It is a page to begin from, and no second one beside the first.
        Page.objects.filter(pk=copy.pk).update(copied_title="")
        made[page.pk] = copy
    for page in pages:
        if page.pk in made:
            _fill(page, made[page.pk], person, made, title=None, label=None)


def _begin(page: Page, place: Place, person: Person, title: str, slug: str | None) -> Page:
    copy = add_at(place, person, title, slug=slug, elsewhere=page.elsewhere)
    facts = {"in_navigation": page.in_navigation, "hidden": page.hidden, "copied_title": page.working_copy.title}
    Page.objects.filter(pk=copy.pk).update(**facts)
    return copy


def _below(page: Page, made: dict[int, Page], person: Person, into: Site | None = None) -> None:
    """Begin copies of all that stand under a page, under its copy; those above come first."""
    rows = in_branch(page).exclude(pk=page.pk).select_related("working_copy").order_by("path")
    if rows.count() > MOST:
        raise PageError(f"More than {MOST} pages stand under this one. Duplicate them branch by branch.")
    by_depth = sorted(rows, key=lambda each: (each.path.count("/"), each.position, each.pk))
    for each in by_depth:
        parent = made[each.parent_id or 0]
        place = Place(into or page.site, parent)
        made[each.pk] = _begin(each, place, person, each.working_copy.title, each.slug)


def _fill(
    original: Page, copy: Page, person: Person, made: dict[int, Page], *, title: str | None, label: str | None
) -> None:
    text = original.working_copy
    document = _led(text.document, {f"page:{number}": f"page:{each.pk}" for number, each in made.items()})
    attrs = {**document.get("attrs", {})}
    if title is not None:
        # What the copy is called elsewhere follows its own title, unless something is said.
        attrs |= {"label": label or None, "search_title": None}
    draft = Draft(title or text.title, text.description, document_from_json({**document, "attrs": attrs}))
    save(copy, person, draft, copy.working_copy.revision)
    copy.working_copy.refresh_from_db()


def _led(value: Any, places: dict[str, str]) -> Any:
    """The document with its links to some pages led to others."""
    if isinstance(value, list):
        return [_led(each, places) for each in value]
    if not isinstance(value, dict):
        return value
    made = {name: _led(each, places) for name, each in value.items()}
    href = made.get("href")
    if isinstance(href, str):
        page, mark, fragment = href.partition("#")
        made["href"] = places.get(page, page) + mark + fragment
    return made
