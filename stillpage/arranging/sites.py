"""Sites: made, changed, duplicated as something to begin from, closed with everything kept, and opened again."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from django.conf import settings
from django.db import IntegrityError, connection, transaction
from django.utils import timezone

from stillpage.library.models import Item
from stillpage.pages.models import Page, Redirect
from stillpage.pages.tree import Place, add_at, free_slug
from stillpage.people.models import Person
from stillpage.publishing import freshness, page_memory
from stillpage.publishing.models import Change, LiveCopy
from stillpage.sites.models import Site
from stillpage.sites.themes import names
from stillpage.written.models import Use
from stillpage_core.errors import CoreError
from stillpage_core.languages import is_tag
from stillpage_core.sites import slug_from_title

from .addressing import lead_on, lock
from .copying import copy_of

LONGEST_NAME = 120
_HOST = re.compile(r"(?=.{1,200}$)[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?(\.[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)*")


class SiteError(CoreError):
    """A site cannot be made or changed so; the sentence says why."""


class Taken(SiteError):
    """Another site has this name or host."""

    status = 409
    name = "taken"
    title = "Another site has this already"


def _cleaned(values: Mapping[str, Any]) -> dict[str, Any]:
    """The facts of a site as they are kept. Raises `SiteError`."""
    kept = dict(values)
    for field, most in (("name", LONGEST_NAME), ("description", 500), ("footer", 500)):
        if field in kept:
            kept[field] = " ".join(kept[field].split())
            if len(kept[field]) > most:
                raise SiteError(f"The {field} is {len(kept[field])} characters long; at most {most} are possible.")
    if kept.get("name") == "":
        raise SiteError("A site needs a name.")
    if "host" in kept:
        kept["host"] = kept["host"].strip().lower()
        if not _HOST.fullmatch(kept["host"]):
            raise SiteError(
                "The host is the name that readers ask for, such as www.example.org: letters, digits, hyphens and "
                "points, without https:// and without a path."
            )
        if kept["host"] in settings.AUTHORING_HOSTS:
            raise SiteError("Authors work at this host. Choose another for the site.")
    if "theme" in kept and kept["theme"] not in names():
        raise SiteError(f"There is no theme “{kept['theme']}”. There are: {', '.join(names())}.")
    if "language" in kept and not is_tag(kept["language"]):
        raise SiteError("The language is a BCP 47 tag, such as en, en-GB or cy.")
    if kept.get("picture") is not None:
        item = Item.objects.filter(pk=kept["picture"], kind=Item.Kind.PICTURE, binned_at=None).first()
        if item is None:
            raise SiteError("The picture is not in the media library any more. Choose another.")
        kept["picture"] = item
    return kept


@transaction.atomic
def make(person: Person, values: Mapping[str, Any]) -> Site:
    """Make a site with an empty first page, which is called as the site is.

    Raises:
        SiteError: when a fact is none.
        Taken: when another site has the name or the host.
    """
    site = _made(_cleaned(values))
    page = add_at(Place(site), person, site.name, slug="first")
    Page.objects.filter(pk=page.pk).update(slug="", path="/")
    return site


def _made(values: dict[str, Any]) -> Site:
    try:
        with transaction.atomic():
            return Site.objects.create(**values)
    except IntegrityError as error:
        raise _taken(values) from error


def _taken(values: Mapping[str, Any]) -> Taken:
    same = Site.objects.filter(name=values.get("name", "")).exists()
    what = f"called “{values['name']}”" if same else f"at the host “{values.get('host', '')}”"
    return Taken(f"There is a site {what} already. Choose another.")


@transaction.atomic
def change(site: Site, person: Person, values: Mapping[str, Any]) -> Site:
    """Change facts of a site; ``first_page`` is the number of the page that is to be its first. Of its pages none is
    rendered within this."""
    lock(site)
    site.refresh_from_db()
    kept = _cleaned({name: value for name, value in values.items() if name != "first_page"})
    host_before, language, theme = site.host, site.language, site.theme
    for name, value in kept.items():
        setattr(site, name, value)
    try:
        with transaction.atomic():
            site.save(update_fields=list(kept)) if kept else None
    except IntegrityError as error:
        raise _taken(kept) from error
    if site.host != host_before:
        _rehost(site)
    freshness.tell(Change.Sort.SITE, [site.pk])
    if (site.language, site.theme) != (language, theme) or site.host != host_before:
        # The text itself is written otherwise, and whatever links here from other sites.
        freshness.mark_all(LiveCopy.objects.filter(site=site), text=True)
        linking = Use.objects.filter(live=True, target__page__site=site).exclude(written__page__site=site)
        freshness.mark_all(
            LiveCopy.objects.filter(written__in=linking.values("written"), site__isnull=False), text=True
        )
    page_memory.changed(hosts={host_before, site.host})
    if values.get("first_page") is not None:
        make_first(site, person, values["first_page"])
    return site


def _rehost(site: Site) -> None:
    """Have the live pages of a site answer at its new host."""
    with connection.cursor() as cursor:
        cursor.execute(
            f"UPDATE {LiveCopy._meta.db_table} l JOIN {Page._meta.db_table} p ON p.id = l.written_id "  # noqa: S608
            "SET l.address = CONCAT(%s, p.path) WHERE p.site_id = %s AND l.address IS NOT NULL",
            [site.host, site.pk],
        )


def make_first(site: Site, person: Person, number: int) -> None:
    """Make another page the first one of a site; the one before gets an address of its own.

    Raises:
        SiteError: when it is no page at the top of the site without pages under it.
    """
    page = Page.objects.filter(pk=number, site=site).first()
    if page is None or page.elsewhere or page.parent_id is not None or page.children.exists():
        raise SiteError("The first page is one that stands at the top of the Contents, with no page under it.")
    first = Page.objects.filter(site=site, path="/").first()
    if first is not None and first.pk == page.pk:
        return
    if first is not None:
        slug = free_slug(Place(site), slug_from_title(first.working_copy.title), leave=[first.pk])
        Page.objects.filter(pk=first.pk).update(slug=slug, path=f"/{slug}")
    lead_on(page, person, Redirect.Why.RENAMED)
    Page.objects.filter(pk=page.pk).update(slug="", path="/", hidden=False, slug_follows=False, position=0)
    with connection.cursor() as cursor:
        # Two addresses change places: neither may be there twice for a moment.
        cursor.execute(
            f"UPDATE {LiveCopy._meta.db_table} SET address = CONCAT('first:', written_id) WHERE written_id = %s",  # noqa: S608
            [page.pk],
        )
    for each in filter(None, (first, page)):
        each.refresh_from_db()
        LiveCopy.objects.filter(written=each.pk, address__isnull=False).update(address=site.host + each.path)
    Redirect.objects.filter(site=site, path="/").delete()
    freshness.tell(Change.Sort.SITE, [site.pk])
    freshness.tell(Change.Sort.WRITTEN, [each.pk for each in (first, page) if each])
    page_memory.changed(hosts=[site.host])


@transaction.atomic
def duplicate(site: Site, person: Person, name: str, host: str) -> Site:
    """A site like another to begin from: its facts, and a working copy of each of its pages. Readers see none of it.

    Raises:
        PageError: when it has more pages than are copied at once.
    """
    facts = ("theme", "language", "footer", "description", "severities", "page_budget", "hardest_grade")
    values = {fact: getattr(site, fact) for fact in facts}
    made = _made({**_cleaned({"name": name, "host": host}), **values, "authors_may_publish": site.authors_may_publish})
    copy_of(site, made, person)
    return made


@transaction.atomic
def close(site: Site) -> None:
    """Have readers get nothing of a site any more. All of it is kept."""
    Site.objects.filter(pk=site.pk, closed_at=None).update(closed_at=timezone.now())
    _opened_or_closed(site)


@transaction.atomic
def reopen(site: Site) -> None:
    """Have readers get a site again as it was."""
    Site.objects.filter(pk=site.pk).update(closed_at=None)
    _opened_or_closed(site)


def _opened_or_closed(site: Site) -> None:
    site.refresh_from_db()
    page_memory.changed(hosts=[site.host])
    # Links from other sites lead to it, or do not.
    freshness.tell(Change.Sort.SITE, [site.pk])
