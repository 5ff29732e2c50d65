"""From rows of the database to the shapes that go out."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.conf import settings
from django.contrib.auth.models import AnonymousUser
from django.db.models import QuerySet

from stillpage.computing import computing
from stillpage.library.derived import PICTURES
from stillpage.library.documents import NO_OFFICE, NOT_DRAWN, office
from stillpage.library.files import (
    address_of,
    files_of,
    film_target,
    hosted_target,
    item_target,
    linked_file,
    post_target,
)
from stillpage.library.films import FORMATS as FILMS
from stillpage.library.models import Act, Item
from stillpage.pages.models import LIGHT, Page
from stillpage.pages.seeing import Sight
from stillpage.people.models import Person
from stillpage.publishing.models import LiveCopy
from stillpage.rights import Right, may
from stillpage.sites.models import Site
from stillpage.sites.themes import levels_of, palette
from stillpage.written import clashes
from stillpage.written.models import WorkingCopy
from stillpage_core.comparing import places_that_differ
from stillpage_core.document import Node, document_from_json
from stillpage_core.document.naming import named_in
from stillpage_core.kinds.hosted import OPTIONS
from stillpage_core.languages import own_name
from stillpage_core.media.animations import LOTTIE
from stillpage_core.media.documents import FORMATS, PDF
from stillpage_core.media.labels import facts_of
from stillpage_core.media.pdf import WANTED, PdfFacts, wanting_of
from stillpage_core.media.playing import hosted_natural, sources, told_of_host


def document_of(value: dict[str, Any]) -> Node:
    """A document that somebody has sent, read and checked. Raises the core's errors."""
    with computing():
        return document_from_json(value)


def site_out(site: Site, person: Person | AnonymousUser) -> dict[str, Any]:
    return {
        "id": site.pk,
        "name": site.name,
        "origin": site.origin,
        "language": site.language,
        "may_write": may(person, Right.WRITE, site),
        "may_publish": may(person, Right.PUBLISH, site),
        "may_set_checks": may(person, Right.SET_CHECKS, site),
        "theme": site.theme,
        "host": site.host,
        "description": site.description,
        "picture": site.picture_id,
        "thumbnail": f"{settings.MEDIA_URL}{site.picture.thumbnail}" if site.picture and site.picture.thumbnail else "",
        "closed": site.closed_at is not None,
        "levels": levels_of(site.theme),
    }


def trail_out(page: Page) -> list[dict[str, str]]:
    """The pages above a page, from the top."""
    trail: list[dict[str, str]] = []
    above = page.parent
    while above is not None:
        trail.insert(0, {"title": above.working_copy.title, "path": above.path})
        above = above.parent
    return trail


def copy_out(copy: WorkingCopy) -> dict[str, Any]:
    return {
        "title": copy.title,
        "description": copy.description,
        "document": copy.document,
        "revision": copy.revision,
        "saved_at": copy.saved_at,
        "saved_by": copy.saved_by.shown_name,
    }


def clashes_out(page: Page, copy: WorkingCopy) -> list[dict[str, Any]]:
    """Where nobody has chosen yet between two wordings, and where they stand in the working copy."""
    return [
        {
            "id": clash.pk,
            "sort": clash.sort,
            "theirs": clash.theirs,
            "mine": clash.mine,
            "theirs_at": theirs_at,
            "mine_at": mine_at,
            "theirs_by": clash.theirs_by.shown_name,
            "mine_by": clash.mine_by.shown_name,
            "at": clash.at,
        }
        for clash, theirs_at, mine_at in clashes.standing(copy)
    ]


def live_of(page: Page) -> LiveCopy | None:
    live: LiveCopy | None = getattr(page, "live_copy", None)
    return live


def live_out(page: Page, copy: WorkingCopy) -> dict[str, Any] | None:
    live = LiveCopy.objects.filter(written=page).select_related("published_by").defer("html", "html_gzip").first()
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
    """Expects ``working_copy`` and ``live_copy`` to be loaded with the page; all but `pages.models.LIGHT` is enough."""
    live = live_of(page)
    if live is None:
        return "unpublished"
    return "live" if live.same_text(page.working_copy) else "changed"


def page_ref(page: Page, sight: Sight) -> dict[str, Any]:
    """A page as somebody may know of it: others' pages as their readers do."""
    live = live_of(page)
    known = sight.knows(page) or live is None
    return {
        "id": page.pk,
        "title": page.working_copy.title if known or live is None else live.title,
        "path": page.path,
        "site": page.site.name,
        "address": page.site.origin + page.path,
        "state": state_of(page) if known else "live",
    }


def named_out(document: Node, sight: Sight) -> tuple[list[dict[str, Any]], list[dict[str, Any]]]:
    """The items and pages that a document names, those left out that may not be seen."""
    named = named_in(document)
    items = with_all(sight.items(Item.objects.filter(pk__in=named.pictures | named.items)))
    pages = sight.pages(Page.objects.filter(pk__in=named.pages))
    pages = pages.select_related("site", "working_copy", "live_copy").defer(*LIGHT)
    return [item_out(item) for item in items], [page_ref(page, sight) for page in pages]


def with_all(items: QuerySet[Item]) -> QuerySet[Item]:
    """The items with everything that `item_out` tells of them, in a few queries."""
    return items.select_related("hosting__host").prefetch_related("files", "tags", "captions__given")


def document_out(item: Item) -> dict[str, Any]:
    """What was found in a document's file, and what readers miss in it."""
    is_pdf = item.mime == PDF.mime
    looked = item.made >= item.wanted and not item.problem
    without = "" if is_pdf or item.thumbnail or not looked else NOT_DRAWN if office() else NO_OFFICE
    return {
        "pdf": vars(PdfFacts.of(item.facts)) if is_pdf and item.facts else None,
        "wanting": [dict(zip(("says", "remedy"), WANTED[each], strict=True)) for each in wanting_of(item.facts)],
        "without_picture": without,
    }


_TOLD = ("captioned", "holds_words", "description", "credit", "licence", "language", "edits", "version", "leads_on")


def item_out(item: Item, *, is_new: bool = True) -> dict[str, Any]:
    """The item should come from `with_all`."""
    every = files_of(item)
    linked = linked_file(item)
    return {
        **brief_out(vars(item)),
        **{name: getattr(item, name) for name in _TOLD},
        "tags": [tag.name for tag in item.tags.all()],
        "folder": item.folder_id,
        # An item whose file is being replaced just now, or that is being removed, has none for a moment.
        "address": address_of(every[0]) if every else "",
        "link_format": format_of(linked.mime) if linked else "",
        "link_size": linked.size if linked else 0,
        "link_facts": facts_of(item_target(item)) if linked else [],
        "language_name": own_name(item.language.partition("-")[0]) if item.language else "",
        "document": document_out(item) if item.kind == Item.Kind.DOCUMENT else None,
        "files": [
            {
                "address": address_of(file),
                "width": file.width,
                "height": file.height,
                "size": file.size,
                "mime": file.mime,
                "cut": file.cut,
            }
            for file in every
            if not file.original
        ],
        "film": film_out(item) if item.kind in (Item.Kind.FILM, Item.Kind.SOUND) else None,
        "colours": list(item.facts.get("colours", ())) if item.kind == Item.Kind.ANIMATION else [],
        "post": post_out(item) if item.kind == Item.Kind.POST else None,
        "hosted": hosted_out(item) if item.kind == Item.Kind.HOSTED else None,
        "is_new": is_new,
    }


def post_out(item: Item) -> dict[str, Any]:
    """What is kept of a post."""
    target = post_target(item)
    return {
        "told": ", ".join(filter(None, (target.author, target.moment, target.provider))),
        "address": target.address,
        "words": list(target.words),
        "pictures": item.hosting.pictures,
        "gone": target.gone,
    }


def hosted_out(item: Item) -> dict[str, Any]:
    """What is known of a film elsewhere."""
    target = hosted_target(item)
    width, height = hosted_natural(target.width, target.height)
    return {
        "host": target.host.name if target.host else target.provider,
        "told": told_of_host(target),
        "address": target.address,
        "author": target.author,
        "author_address": target.author_address,
        "plays": target.host is not None and bool(target.frame),
        "options": [name for name in OPTIONS if target.host and name in target.host.options],
        "width": width,
        "height": height,
        "gone": target.gone or ("" if target.host else f"Nothing is shown from {target.provider} any more."),
        "asked_at": item.hosting.asked_at,
    }


def film_out(item: Item) -> dict[str, Any]:
    """What readers are given of a film or sound."""
    target = film_target(item, words=False)
    told = ("sort", "language", "name", "address")
    return {
        "sources": [asdict(each) for each in sources(target)],
        "tracks": [{name: getattr(track, name) for name in told} for track in target.tracks],
        "heard": target.heard,
        "unfinished": list(target.unfinished),
    }


def format_of(mime: str) -> str:
    """What the format of a file is called."""
    known = PICTURES.get(mime) or FORMATS.get(mime) or FILMS.get(mime) or {LOTTIE.mime: LOTTIE}.get(mime)
    return known.name if known else "File"


_AWAY: dict[str, str] = {kind: str(kind.label) for kind in (Item.Kind.HOSTED, Item.Kind.POST)}
BRIEF = (
    "kind",
    "nature",
    "title",
    "alt",
    "decorative",
    "restricted",
    "problem",
    "size",
    "width",
    "height",
    "length",
    "lasts",
    "progress",
)


def brief_out(row: dict[str, Any]) -> dict[str, Any]:
    """An item as lists show it, from a row of its values: making objects of sixty items takes longer than finding
    them."""
    return {
        **{name: row[name] for name in BRIEF},
        "id": row["id"],
        "binned": row["binned_at"] is not None,
        "format": _AWAY.get(row["kind"]) or format_of(row["mime"]),
        "thumbnail": f"/media/{row['thumbnail']}" if row["thumbnail"] else "",
        "ready": row["made"] >= row["wanted"],
    }


def act_out(act: Act) -> dict[str, Any]:
    return {"id": act.pk, "sentence": act.sentence, "changed": len(act.after)}


def palette_out(site: Site) -> dict[str, Any]:
    offered = palette(site.theme)
    return {
        "tones": [asdict(tone) for tone in offered.tones],
        "styles": list(offered.styles),
        "regions": [asdict(each) for each in offered.regions],
    }
