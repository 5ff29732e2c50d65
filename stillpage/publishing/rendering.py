"""Rendering: the frame of a site, and pages within it, by way of the core."""

from __future__ import annotations

import gzip
import hashlib
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from html import escape
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.staticfiles.storage import staticfiles_storage
from django.db.models import F
from django.db.models.expressions import RawSQL
from django.utils import timezone

import stillpage_core
from stillpage.pages.models import Page
from stillpage.sites.models import Site
from stillpage.sites.themes import levels_of
from stillpage_core.document import Node
from stillpage_core.document.naming import framings_in
from stillpage_core.document.sharing import share_framing
from stillpage_core.kinds.animation.ways import PLAYER
from stillpage_core.kinds.animation.ways import SCRIPT as ANIMATION_SCRIPT
from stillpage_core.kinds.film.ways import SCRIPT as FILM_SCRIPT
from stillpage_core.kinds.gallery.ways import SCRIPT as GALLERY_SCRIPT
from stillpage_core.kinds.hosted.ways import SCRIPT as HOSTED_SCRIPT
from stillpage_core.kinds.paper.ways import SCRIPT as PAPER_SCRIPT
from stillpage_core.kinds.slideshow.ways import SCRIPT as SLIDESHOW_SCRIPT
from stillpage_core.media.shown import large_file
from stillpage_core.resolving import Resolver
from stillpage_core.writing import Link, PageParts, render_around, render_page
from stillpage_core.writing import Site as SiteParts
from stillpage_core.writing.html import attribute
from stillpage_core.writing.page import CardImage, ThemeFiles

from .models import Rendered

MODULES = (FILM_SCRIPT, HOSTED_SCRIPT, GALLERY_SCRIPT, SLIDESHOW_SCRIPT, PAPER_SCRIPT, ANIMATION_SCRIPT, PLAYER)
"""The scripts of the theme that some pages need."""
MOST_TO_BE = 400
FEED = "/feed.atom"
"""The path of a site's feed."""


_FONTS = ("source-sans-3-latin-wght-normal", "bitter-latin-wght-normal")
"""The fonts of the theme that every page is set in."""


def theme_files(*, sheet: bool = False) -> ThemeFiles:
    """The addresses of what public pages load of the theme; the ``sheet`` loads the same, and its own beside it."""
    url = staticfiles_storage.url
    styles = ("theme/page.css", "theme/sheet.css") if sheet else ("theme/page.css",)
    fonts = (url(f"theme/fonts/{name}.woff2") for name in _FONTS)
    return ThemeFiles(tuple(map(url, styles)), url("theme/icon.svg"), tuple(fonts))


def module(name: str) -> str:
    """The address of a script of the theme, by its name."""
    return str(staticfiles_storage.url(f"theme/{name}"))


@cache
def frame_weight() -> int:
    """What every page brings besides its text and pictures, in bytes on the way to a reader: the stylesheet packed,
    and the fonts that it loads for upright text."""
    folder: Path = settings.ROOT / "theme"
    css = (folder / "page.css").read_bytes()
    fonts = [name for name in re.findall(r'url\("(.+?)"\)', css.decode()) if "italic" not in name]
    sizes: list[int] = [(folder / name).stat().st_size for name in fonts]
    return len(gzip.compress(css, 9)) + sum(sizes)


@cache
def maker() -> str:
    """What tells one program that renders pages from another: a digest of the core, of this module, of the theme's
    addresses and of how its sites' addresses begin and end."""
    origins = [settings.PUBLIC_SCHEME, settings.PUBLIC_PORT]
    theme = theme_files()
    files = (*theme.stylesheets, theme.icon, *theme.fonts)
    digest = hashlib.sha256(" ".join([*origins, *files, *map(module, MODULES)]).encode())
    for file in [Path(__file__), *sorted(Path(stillpage_core.__file__).parent.rglob("*.py"))]:
        digest.update(file.read_bytes())
    return digest.hexdigest()[:40]


@dataclass
class Frame:
    """What the pages of a site have around them: live pages, siblings in order, with their titles."""

    site: Site
    pages: Sequence[Page]
    titles: dict[int, str]
    """What links call them."""

    @classmethod
    def of(cls, site: Site, around: Iterable[Page] | None = None) -> Frame:
        """The frame for the pages ``around``, whatever the size of the site; with None, for all of its pages."""
        live = Page.objects.filter(site=site, live_copy__isnull=False).annotate(called=F("live_copy__label"))
        parts = [live]
        if around is not None:
            pages = list(around)
            above = {"/"}.union(*(_above(page.path) for page in pages))
            numbers = [page.pk for page in pages]
            parts = [live.filter(parent=None), live.filter(parent__in=numbers)]
            if levels_of(site.theme) > 1:
                parts.append(live.filter(parent__parent=None, parent__in_navigation=True, parent__isnull=False))
            parts = [part.filter(in_navigation=True, hidden=False) for part in parts] + [live.filter(path__in=above)]
        found = {page.pk: page for part in parts for page in part}
        ordered = sorted(found.values(), key=lambda page: (page.position, page.pk))
        return cls(site, ordered, {page.pk: page.called or page.slug for page in ordered})

    @classmethod
    def to_be(cls, site: Site) -> Frame:
        """The frame as it will be once every page of the navigation is published: with the names of working copies."""
        rows = Page.objects.filter(site=site, in_navigation=True, hidden=False)
        parts = [rows.filter(parent=None)]
        if levels_of(site.theme) > 1:
            parts.append(rows.filter(parent__parent=None, parent__in_navigation=True, parent__isnull=False))
        label = RawSQL("JSON_VALUE(written_workingcopy.document, '$.attrs.label')", ())
        found = [
            page
            for part in parts
            for page in part.select_related("working_copy")
            .defer("working_copy__document")
            .annotate(label=label)[:MOST_TO_BE]
        ]
        ordered = sorted(found, key=lambda page: (page.position, page.pk))
        return cls(site, ordered, {page.pk: page.label or page.working_copy.title for page in ordered})

    @cached_property
    def _by_number(self) -> dict[int, Page]:
        return {page.pk: page for page in self.pages}

    @cached_property
    def _below(self) -> dict[int | None, list[Page]]:
        """The pages of the navigation, by what they stand under; the first page of all is above them."""
        below: dict[int | None, list[Page]] = {}
        for page in self.pages:
            if page.in_navigation and not page.hidden and page.path != "/":
                below.setdefault(page.parent_id, []).append(page)
        return below

    @cached_property
    def _home(self) -> tuple[Link, ...]:
        return tuple(Link(self.titles[page.pk], "/") for page in self.pages if page.path == "/")

    def parts(self, here: str) -> SiteParts:
        """The site's part of a page at the path ``here``."""
        site = self.site
        links = tuple(self._entry(page, here, levels_of(site.theme) - 1) for page in self._below.get(None, ()))
        return SiteParts(site.name, site.origin, site.language, site.theme, links, site.footer, FEED)

    def _entry(self, page: Page, here: str, levels: int) -> Link:
        """An entry of the navigation with those ``levels`` that are shown under it."""
        below = self._below.get(page.pk, ()) if levels else ()
        return Link(
            self.titles[page.pk],
            page.elsewhere or page.path,
            current=here == page.path or here.startswith(page.path + "/"),
            below=tuple(self._entry(each, here, levels - 1) for each in below),
        )

    def trail(self, page: Page) -> tuple[Link, ...]:
        """The live pages above ``page``, from the top."""
        if page.path == "/":
            return ()
        above: list[Link] = []
        parent = page.parent_id
        while parent in self._by_number:
            above.append(Link(self.titles[parent], self._by_number[parent].path))
            parent = self._by_number[parent].parent_id
        return (*self._home, *above[::-1])

    def below(self, page: Page) -> tuple[Link, ...]:
        """The live pages right under ``page``."""
        return tuple(Link(self.titles[each.pk], each.elsewhere or each.path) for each in self._below.get(page.pk, ()))


def _above(path: str) -> list[str]:
    """The paths of the pages above the page at ``path``: of /a/b/c those are /a and /a/b."""
    parts = path.split("/")[1:]
    return ["/" + "/".join(parts[:count]) for count in range(1, len(parts))]


def head_of(document: Node, resolver: Resolver, origin: str) -> dict[str, Any]:
    """What a page's head tells machines beside its title and description, for `LiveCopy.head`: its title in search
    results, the picture of its card, and the whole addresses of its pictures."""
    framings = framings_in(document)
    shared = document.attrs["share"]
    found = {
        number: large_file(target, framing)
        for number, each in framings.items()
        if (target := resolver.picture(number)) and target.files
        for framing in (share_framing(document) if number == shared else None, each[0])
        if framing
    }
    head: dict[str, Any] = {"search_title": document.attrs["search_title"] or ""}
    if (target := resolver.picture(shared) if shared else None) and target.files:
        file = large_file(target, share_framing(document) or {})
        address = origin + file.address
        head["image"] = {"address": address, "width": file.width, "height": file.height, "alt": target.alt}
    head["images"] = [origin + file.address for file in found.values()]
    return head


def page_html(
    frame: Frame, page: Page, *, title: str, description: str, text: str, sheet: bool = False, told: bool = True
) -> str:
    """A whole page of ``frame``'s site; ``text`` is what `published_html` gave."""
    before, after = around(frame, page, title=title, description=description, sheet=sheet, told=told)
    return before + text + after


def around(
    frame: Frame,
    page: Page,
    *,
    title: str,
    description: str,
    head: Mapping[str, Any] | None = None,
    sheet: bool = False,
    told: bool = True,
) -> tuple[str, str]:
    """What stands before the text of a page of ``frame``'s site, and what after it. ``head`` is what `head_of` gave;
    where the page is not ``told`` to machines, they are asked to leave it."""
    said = head or {}
    parts = PageParts(
        title=title,
        description=description,
        address=frame.site.origin + page.path,
        trail=frame.trail(page),
        below=frame.below(page),
        indexable=told and not page.hidden,
        search_title=said.get("search_title", ""),
        image=CardImage(**said["image"]) if said.get("image") else None,
    )
    return render_around(frame.parts(page.path), parts, theme_files(sheet=sheet), sheet=sheet)


def not_found_html(frame: Frame) -> str:
    """The site's answer where there is no page."""
    text = (
        "<p>There is no page at this address. It may have moved, or the address may hold a slip.</p>"
        f"{search_form()}"
        f'<p><a href="/">Begin at the first page of the {escape(frame.site.name)}</a></p>'
    )
    return answer_html(frame, "There is no such page", text)


def navigation_html(site: Site) -> str:
    """A page with the navigation of a site as it will be, and no text."""
    parts = PageParts(site.name, "", site.origin, indexable=False)
    return render_page(Frame.to_be(site).parts("/"), parts, theme_files(), sheet=True)


def search_form(words: str = "") -> str:
    """A field to look for pages of the site by words."""
    return (
        '<form class="search" role="search" action="/search">'
        '<label for="search-words">Look for</label>'
        f'<input id="search-words" type="search" name="q" maxlength="200"{attribute("value", words)}>'
        "<button>Search</button></form>"
    )


def gone_html(frame: Frame, what: str = "file") -> str:
    """The site's answer to who asks for a file or a page that was taken away for good."""
    text = (
        f"<p>The {what} that was here has been taken away. Nothing has taken its place.</p>"
        f"{search_form() if what == 'page' else ''}"
        f'<p><a href="/">Begin at the first page of the {escape(frame.site.name)}</a></p>'
    )
    return answer_html(frame, f"This {what} is gone", text)


def signed_in_only_html(frame: Frame, address: str) -> str:
    """The site's answer to somebody not signed in who asks for what only signed-in readers get."""
    text = (
        "<p>This file is for readers who are signed in. If you have an account, sign in and you will be led back.</p>"
        f'<p><a href="{escape(address)}">Sign in</a></p>'
    )
    return answer_html(frame, "For signed-in readers", text)


def answer_html(frame: Frame, title: str, text: str) -> str:
    """A page of the site that is none of its tree: its own answer to something. ``text`` is HTML."""
    parts = PageParts(title, "", frame.site.origin, f'<div class="text">{text}</div>', indexable=False)
    return render_page(frame.parts(""), parts, theme_files())


FILLED = ("html", "html_gzip", "etag", "rendered_at", "frame")
"""The fields that `fill` sets."""


def fill(rendered: Rendered, data: bytes, frame: int) -> bool:
    """Put a page's bytes, their compressed form and their ETag into a row, and the number of the frame they were
    rendered in; the row is not saved. Bytes that are there already stay as old as they are; says whether they are
    others."""
    rendered.frame = frame
    if bytes(rendered.html) == data:
        return False
    rendered.html = data
    rendered.html_gzip = gzip.compress(data, 9, mtime=0)
    rendered.etag = hashlib.sha256(data).hexdigest()[:32]
    rendered.rendered_at = timezone.now()
    return True
