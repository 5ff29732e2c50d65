"""Rendering: the frame of a site, and pages within it, by way of the core."""

from __future__ import annotations

import gzip
import hashlib
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from html import escape
from pathlib import Path

from django.conf import settings
from django.contrib.staticfiles.storage import staticfiles_storage
from django.db.models import F
from django.utils import timezone

import stillpage_core
from stillpage.pages.models import Page
from stillpage.sites.models import Site
from stillpage_core.kinds.animation.ways import PLAYER
from stillpage_core.kinds.animation.ways import SCRIPT as ANIMATION_SCRIPT
from stillpage_core.kinds.film.ways import SCRIPT as FILM_SCRIPT
from stillpage_core.kinds.gallery.ways import SCRIPT as GALLERY_SCRIPT
from stillpage_core.kinds.hosted.ways import SCRIPT as HOSTED_SCRIPT
from stillpage_core.kinds.paper.ways import SCRIPT as PAPER_SCRIPT
from stillpage_core.kinds.slideshow.ways import SCRIPT as SLIDESHOW_SCRIPT
from stillpage_core.writing import Link, PageParts, render_around, render_page
from stillpage_core.writing import Site as SiteParts

from .models import Rendered

MODULES = (FILM_SCRIPT, HOSTED_SCRIPT, GALLERY_SCRIPT, SLIDESHOW_SCRIPT, PAPER_SCRIPT, ANIMATION_SCRIPT, PLAYER)
"""The scripts of the theme that some pages need."""


def stylesheets() -> list[str]:
    """The addresses of the public stylesheets; the sheet loads the same."""
    return [staticfiles_storage.url("theme/page.css")]


def module(name: str) -> str:
    """The address of a script of the theme, by its name."""
    return str(staticfiles_storage.url(f"theme/{name}"))


def _icon() -> str:
    return staticfiles_storage.url("theme/icon.svg")


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
    digest = hashlib.sha256(" ".join([*origins, *stylesheets(), _icon(), *map(module, MODULES)]).encode())
    for file in [Path(__file__), *sorted(Path(stillpage_core.__file__).parent.rglob("*.py"))]:
        digest.update(file.read_bytes())
    return digest.hexdigest()[:40]


@dataclass
class Frame:
    """What the pages of a site have around them: live pages, siblings in order, with their titles."""

    site: Site
    pages: Sequence[Page]
    titles: dict[int, str]

    @classmethod
    def of(cls, site: Site, around: Iterable[Page] | None = None) -> Frame:
        """The frame for the pages ``around``, whatever the size of the site; with None, for all of its pages."""
        live = Page.objects.filter(site=site, live_copy__isnull=False).annotate(live_title=F("live_copy__title"))
        parts = [live]
        if around is not None:
            pages = list(around)
            above = {"/"}.union(*(_above(page.path) for page in pages))
            numbers = [page.pk for page in pages]
            parts = [live.filter(parent=None), live.filter(parent__in=numbers)]
            parts = [part.filter(in_navigation=True) for part in parts] + [live.filter(path__in=above)]
        found = {page.pk: page for part in parts for page in part}
        ordered = sorted(found.values(), key=lambda page: (page.position, page.pk))
        return cls(site, ordered, {page.pk: page.live_title for page in ordered})

    @cached_property
    def _by_number(self) -> dict[int, Page]:
        return {page.pk: page for page in self.pages}

    @cached_property
    def _below(self) -> dict[int | None, list[Page]]:
        """The pages of the navigation, by what they stand under; the first page of all is above them."""
        below: dict[int | None, list[Page]] = {}
        for page in self.pages:
            if page.in_navigation and page.path != "/":
                below.setdefault(page.parent_id, []).append(page)
        return below

    @cached_property
    def _home(self) -> tuple[Link, ...]:
        return tuple(Link(self.titles[page.pk], "/") for page in self.pages if page.path == "/")

    def parts(self, here: str) -> SiteParts:
        """The site's part of a page at the path ``here``."""
        links = (
            Link(self.titles[page.pk], page.path, current=here == page.path or here.startswith(page.path + "/"))
            for page in self._below.get(None, ())
        )
        site = self.site
        return SiteParts(site.name, site.origin, site.language, site.theme, tuple(links), site.footer)

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
        return tuple(Link(self.titles[each.pk], each.path) for each in self._below.get(page.pk, ()))


def _above(path: str) -> list[str]:
    """The paths of the pages above the page at ``path``: of /a/b/c those are /a and /a/b."""
    parts = path.split("/")[1:]
    return ["/" + "/".join(parts[:count]) for count in range(1, len(parts))]


def page_html(frame: Frame, page: Page, *, title: str, description: str, text: str, sheet: bool = False) -> str:
    """A whole page of ``frame``'s site; ``text`` is what `published_html` gave."""
    before, after = around(frame, page, title=title, description=description, sheet=sheet)
    return before + text + after


def around(frame: Frame, page: Page, *, title: str, description: str, sheet: bool = False) -> tuple[str, str]:
    """What stands before the text of a page of ``frame``'s site, and what after it."""
    parts = PageParts(
        title=title,
        description=description,
        address=frame.site.origin + page.path,
        trail=frame.trail(page),
        below=frame.below(page),
    )
    styles = [*stylesheets(), staticfiles_storage.url("theme/sheet.css")] if sheet else stylesheets()
    return render_around(frame.parts(page.path), parts, styles, _icon(), sheet=sheet)


def not_found_html(frame: Frame) -> str:
    """The site's answer where there is no page."""
    text = (
        "<p>There is no page at this address. It may have moved, or the address may hold a slip.</p>"
        f'<p><a href="/">Begin at the first page of the {escape(frame.site.name)}</a></p>'
    )
    return _answer(frame, "There is no such page", text)


def gone_html(frame: Frame) -> str:
    """The site's answer to who asks for a file that was taken away."""
    text = (
        "<p>The file that was here has been taken away. Nothing has taken its place.</p>"
        f'<p><a href="/">Begin at the first page of the {escape(frame.site.name)}</a></p>'
    )
    return _answer(frame, "This file is gone", text)


def signed_in_only_html(frame: Frame, address: str) -> str:
    """The site's answer to somebody not signed in who asks for what only signed-in readers get."""
    text = (
        "<p>This file is for readers who are signed in. If you have an account, sign in and you will be led back.</p>"
        f'<p><a href="{escape(address)}">Sign in</a></p>'
    )
    return _answer(frame, "For signed-in readers", text)


def _answer(frame: Frame, title: str, text: str) -> str:
    parts = PageParts(title, "", frame.site.origin, f'<div class="text">{text}</div>', indexable=False)
    return render_page(frame.parts(""), parts, stylesheets(), _icon())


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
