"""Publishing and withdrawing pages, and rendering anew what that touches."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from django.db import transaction
from django.utils import timezone

from stillpage.library.derived import make_at_once
from stillpage.library.models import Item
from stillpage.pages.models import Clash, KeptText, Page, WorkingCopy
from stillpage.pages.seeing import ALL, sight_of
from stillpage.pages.uses import note_uses
from stillpage.people.models import Person
from stillpage.sites.models import Site
from stillpage_core.checking import Finding, finding_json
from stillpage_core.document import Node
from stillpage_core.document.naming import framings_in, named_in
from stillpage_core.errors import CoreError
from stillpage_core.writing import published_html

from . import page_memory
from .checking import Draft, check_draft
from .models import LiveCopy, LiveLink, NotFoundPage
from .rendering import Frame, fill, not_found_html, page_html
from .resolving import resolver_for

SOME = 500
"""The most pages for which just what stands around them is looked up, and not all of the site's."""


class NotReady(CoreError):
    """The page may not be published as it is; ``findings`` say why."""

    name = "not-ready"
    title = "The page cannot be published yet"

    def __init__(self, findings: list[Finding]) -> None:
        self.findings = findings
        number = len(findings)
        things = "one thing has" if number == 1 else f"{number} things have"
        super().__init__(f"Before this page can be published, {things} to be mended: {findings[0].sentence}")

    def particulars(self) -> Mapping[str, Any]:
        return {"findings": [finding_json(finding) for finding in self.findings]}


class Clashing(CoreError):
    """Two people changed the same words, and nobody has chosen yet."""

    status = 409
    name = "clashing"
    title = "Two wordings stand side by side"

    def __init__(self) -> None:
        super().__init__(
            "Two people changed the same words of this page, and both wordings stand. Choose first, then publish."
        )


class Moved(CoreError):
    """The working copy is not the one that was to be published."""

    status = 409
    name = "newer-text"
    title = "The page has changed"


@transaction.atomic
def publish(page: Page, person: Person, revision: int) -> LiveCopy:
    """Make the working copy's ``revision`` the live copy, keep it, and render whatever it changes.

    Raises:
        Moved: when somebody has saved since; nothing is published unseen.
        Clashing: when nobody has chosen yet between two wordings.
        NotReady: when a finding blocks.
    """
    Site.objects.select_for_update().get(pk=page.site_id)
    copy = WorkingCopy.objects.select_for_update().get(page=page)
    if copy.revision != revision:
        raise Moved("Somebody has saved this page since you last saw it. Read what changed, then publish.")
    if Clash.objects.filter(page=page).exists():
        raise Clashing
    document = copy.tree
    findings = check_draft(page, Draft(copy.title, copy.description, document), sight=sight_of(person)).findings
    if blocking := [finding for finding in findings if finding.severity == "blocks"]:
        raise NotReady(blocking)
    live = LiveCopy.objects.filter(page=page).first() or LiveCopy(page=page)
    title_before = live.title
    now = timezone.now()
    text = {"title": copy.title, "description": copy.description, "document": copy.document}
    live.kept = KeptText.objects.create(page=page, reason=KeptText.Reason.PUBLISHED, at=now, by=person, **text)
    for name, value in text.items():
        setattr(live, name, value)
    live.published_at, live.published_by = now, person
    fill(live, page.site.host + page.path, "")
    live.save()
    LiveLink.objects.filter(source=live).delete()
    note_uses(page, document, live=True)
    _make_what_is_shown(document)
    known = Page.objects.filter(pk__in=named_in(document).pages)
    LiveLink.objects.bulk_create(LiveLink(source=live, target=target) for target in known)
    if live.title == title_before:
        _render_site(page.site, [live])
    else:
        _render_around(page)
    return LiveCopy.objects.get(page=page)


@transaction.atomic
def withdraw(page: Page) -> None:
    """Take a page from readers. Its working copy and its kept texts stay."""
    Site.objects.select_for_update().get(pk=page.site_id)
    live = LiveCopy.objects.filter(page=page).first()
    if live is None:
        return
    live.delete()
    note_uses(page, None, live=True)
    page_memory.changed([live.address])
    _render_around(page)


def _make_what_is_shown(document: Node) -> None:
    """Have the files there without which pictures would not be shown as the page wants them."""
    framings = framings_in(document)
    for item in Item.objects.filter(pk__in=framings, kind=Item.Kind.PICTURE):
        make_at_once(item, framings[item.pk])


def show_anew(item: Item) -> None:
    """Render the live pages that show an item or link to it, as after its file has changed."""
    lives = LiveCopy.objects.filter(page__uses__item=item, page__uses__live=True).select_related("page__site")
    by_site: dict[Site, list[LiveCopy]] = {}
    for live in lives.distinct():
        by_site.setdefault(live.page.site, []).append(live)
    for site, copies in by_site.items():
        with transaction.atomic():
            Site.objects.select_for_update().get(pk=site.pk)
            _render_site(site, LiveCopy.objects.filter(pk__in=[live.pk for live in copies]).select_related("page"))


def render_site(site: Site) -> None:
    """Render every live page of a site and its not-found page anew, as after a change of theme."""
    with transaction.atomic():
        _render_site(site, None)


def _render_around(page: Page) -> None:
    """Render what shows ``page``'s title or address: pages of its own site, and those elsewhere that link to it."""
    _render_site(page.site, _that_show(page))
    elsewhere = LiveCopy.objects.filter(links__target=page).exclude(page__site=page.site).select_related("page__site")
    by_site: dict[Site, list[LiveCopy]] = {}
    for live in elsewhere.distinct():
        by_site.setdefault(live.page.site, []).append(live)
    for site, copies in by_site.items():
        _render_site(site, copies)


def _that_show(page: Page) -> Iterable[LiveCopy] | None:
    """The live copies of its own site that show a page: its own, what stands below it (which have it in their trail),
    the one above it (which lists it), and those that link to it. None for all: the navigation names it, or it is the
    site's first page, which every trail begins with."""
    if page.path == "/" or (page.parent_id is None and page.in_navigation):
        return None
    # By the order of the bytes, all addresses that begin with “/a/” stand between “/a/” and “/a0”.
    below = Page.objects.filter(site=page.site_id, path__gt=f"{page.path}/", path__lt=f"{page.path}0")
    linking = LiveLink.objects.filter(target=page, source__page__site=page.site_id)
    found = {page.pk, page.parent_id, *below.values_list("pk", flat=True), *linking.values_list("source", flat=True)}
    return LiveCopy.objects.filter(pk__in=found - {None}).select_related("page")


def _render_site(site: Site, copies: Iterable[LiveCopy] | None) -> None:
    """Render some live copies of a site, or (None) all of them; and the not-found page, which shows the navigation."""
    lives = list(copies if copies is not None else LiveCopy.objects.filter(page__site=site).select_related("page"))
    frame = Frame.of(site, None if copies is None or len(lives) > SOME else [live.page for live in lives])
    if copies is None or not NotFoundPage.objects.filter(site=site).exists():
        missing = NotFoundPage(site=site)
        fill(missing, site.host, not_found_html(frame))
        missing.save()
    documents: dict[int, Node] = {live.page_id: live.tree for live in lives}
    resolver = resolver_for(documents.values(), site.origin, sight=ALL)
    for live in lives:
        text = published_html(documents[live.page_id], resolver)
        html = page_html(frame, live.page, title=live.title, description=live.description, text=text)
        fill(live, site.host + live.page.path, html)
    page_memory.changed(live.address for live in lives)
    LiveCopy.objects.bulk_update(lives, ["address", "html", "html_gzip", "etag", "rendered_at"], batch_size=100)
