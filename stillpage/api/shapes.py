"""From rows of the database to the shapes that go out."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.contrib.auth.models import AnonymousUser

from stillpage.library.files import address_of, item_target, picture_target
from stillpage.library.models import Item
from stillpage.pages.models import Page, WorkingCopy
from stillpage.people.models import Person
from stillpage.people.permissions import Act, may
from stillpage.publishing.models import LiveCopy
from stillpage.sites.models import Site
from stillpage.sites.themes import palette
from stillpage_core.comparing import places_that_differ
from stillpage_core.writing.html import image_attributes


def site_out(site: Site, person: Person | AnonymousUser) -> dict[str, Any]:
    return {
        "id": site.pk,
        "name": site.name,
        "origin": site.origin,
        "may_write": may(person, Act.WRITE, site),
        "may_publish": may(person, Act.PUBLISH, site),
    }


def copy_out(copy: WorkingCopy) -> dict[str, Any]:
    return {
        "title": copy.title,
        "description": copy.description,
        "document": copy.document,
        "revision": copy.revision,
        "saved_at": copy.saved_at,
        "saved_by": copy.saved_by.shown_name,
    }


def live_of(page: Page) -> LiveCopy | None:
    live: LiveCopy | None = getattr(page, "live_copy", None)
    return live


def live_out(page: Page, copy: WorkingCopy) -> dict[str, Any] | None:
    live = LiveCopy.objects.filter(page=page).select_related("published_by").defer("html", "html_gzip").first()
    if live is None:
        return None
    settings_differ = (live.title, live.description) != (copy.title, copy.description)
    return {
        "address": page.site.origin + page.path,
        "published_at": live.published_at,
        "published_by": live.published_by.shown_name,
        "differs": places_that_differ(live.tree, copy.tree) + int(settings_differ),
    }


def state_of(page: Page) -> str:
    """Expects ``working_copy`` and ``live_copy`` to be loaded with the page."""
    live = live_of(page)
    if live is None:
        return "unpublished"
    return "live" if live.same_text(page.working_copy) else "changed"


def page_ref(page: Page) -> dict[str, Any]:
    return {
        "id": page.pk,
        "title": page.working_copy.title,
        "path": page.path,
        "site": page.site.name,
        "address": page.site.origin + page.path,
        "state": state_of(page),
    }


def item_out(item: Item, *, is_new: bool = True) -> dict[str, Any]:
    """``item.files`` should be prefetched."""
    original = next(file for file in item.files.all() if file.original)
    target = picture_target(item)
    is_picture = item.kind == Item.Kind.PICTURE
    return {
        "id": item.pk,
        "kind": item.kind,
        "title": item.title,
        "alt": item.alt,
        "description": item.description,
        "credit": item.credit,
        "licence": item.licence,
        "width": original.width,
        "height": original.height,
        "size": original.size,
        "format": item_target(item).kind,
        "address": address_of(original),
        "thumbnail": target.files[0].address if target.files else "",
        "image": image_attributes(target) if is_picture else None,
        "is_new": is_new,
    }


def palette_out(site: Site) -> dict[str, Any]:
    offered = palette(site.theme)
    return {"tones": [asdict(tone) for tone in offered.tones], "styles": list(offered.styles)}
