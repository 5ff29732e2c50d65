"""Publishing and withdrawing pages. What that touches is rendered by and by (`freshness`)."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from time import monotonic
from typing import Any

from django.db import transaction
from django.utils import timezone

from stillpage.library.animations import colour_at_once
from stillpage.library.derived import make_at_once
from stillpage.library.models import Item
from stillpage.pages.models import Page, page_of
from stillpage.pages.seeing import sight_of
from stillpage.people.models import Person
from stillpage.written.models import Clash, Version, WorkingCopy, Written
from stillpage.written.saving import Draft
from stillpage.written.search import forget_said, note_said
from stillpage.written.uses import note_uses
from stillpage_core.checking import Finding, finding_json
from stillpage_core.document import Node
from stillpage_core.document.naming import framings_in
from stillpage_core.errors import CoreError

from . import freshness, page_memory
from .checking import check_draft
from .models import Change, LiveCopy

AT_ONCE = 5.0
"""Seconds that may be spent on pictures while somebody waits for a page to be published."""


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
def publish(written: Written, person: Person, revision: int) -> None:
    """Make the working copy's ``revision`` the live copy, and keep it. When that is done, a page is rendered.

    Raises:
        Moved: when somebody has saved since; nothing is published unseen.
        Clashing: when nobody has chosen yet between two wordings.
        NotReady: when a finding blocks.
    """
    copy = WorkingCopy.objects.select_for_update().get(written=written)
    if copy.revision != revision:
        raise Moved("Somebody has saved this page since you last saw it. Read what changed, then publish.")
    if Clash.objects.filter(written=written).exists():
        raise Clashing
    document = copy.tree
    findings = check_draft(written, Draft(copy.title, copy.description, document), sight=sight_of(person)).findings
    if blocking := [finding for finding in findings if finding.severity == "blocks"]:
        raise NotReady(blocking)
    live = LiveCopy.objects.filter(written=written).defer("document", "html", "html_gzip").first()
    called_before = (live.title, live.label) if live else None
    now = timezone.now()
    text = {"title": copy.title, "description": copy.description, "document": copy.document}
    kept = Version.objects.create(written=written, reason=Version.Reason.PUBLISHED, at=now, by=person, **text)
    label = document.attrs["label"] or copy.title
    said = {**text, "digest": kept.digest, "kept": kept, "label": label, "published_at": now, "published_by": person}
    page = page_of(written)
    has_text = page is not None and not page.elsewhere
    if live is None:
        at = {"site": page.site, "address": page.site.host + page.path} if page and has_text else {}
        first = _first_published(written) or now
        LiveCopy.objects.create(written=written, rendered_at=now, first_at=first, **at, **said)
    else:
        LiveCopy.objects.filter(written=written).update(**said)
    note_uses(written, document, live=True)
    note_said(written, copy.title, copy.description, document, live=True)
    _make_what_is_shown(document)
    if live is None or page is None or copy.title != live.title:
        # Some links are called as the page is.
        freshness.tell(Change.Sort.WRITTEN, [written.pk])
    if page is not None:
        Page.objects.filter(pk=page.pk, slug_follows=True).update(slug_follows=False)
        if (copy.title, label) != called_before:
            freshness.tell(Change.Sort.AROUND, [page.pk])
        if has_text:
            freshness.mark(page)


def _first_published(written: Written) -> datetime | None:
    """When something that is not live was published for the first time."""
    first = written.versions.filter(reason=Version.Reason.PUBLISHED).order_by("at").values_list("at", flat=True)
    return first.first()


@transaction.atomic
def withdraw(written: Written) -> None:
    """Take something from readers. Its working copy and its versions stay."""
    WorkingCopy.objects.select_for_update().only("pk").get(written=written)
    live = LiveCopy.objects.filter(written=written).only("address").first()
    if live is None:
        return
    live.delete()
    note_uses(written, None, live=True)
    forget_said(written)
    freshness.tell(Change.Sort.WRITTEN, [written.pk])
    if page_of(written) is not None:
        page_memory.changed([live.address] if live.address else [])
        freshness.tell(Change.Sort.AROUND, [written.pk])


def _make_what_is_shown(document: Node) -> None:
    """Have the files there without which pictures would not be shown as the page wants them."""
    framings = framings_in(document)
    begun = monotonic()
    for item in Item.objects.filter(pk__in=framings, kind=Item.Kind.ANIMATION):
        colour_at_once(item, framings[item.pk])
    for item in Item.objects.filter(pk__in=framings, kind=Item.Kind.PICTURE):
        if monotonic() - begun > AT_ONCE:
            break  # The worker makes the others; until then they are shown whole.
        make_at_once(item, framings[item.pk])
