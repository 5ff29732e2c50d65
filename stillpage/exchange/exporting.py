"""Pages going out: one as a file of its own, a whole site as files that any web server can serve."""

from __future__ import annotations

import posixpath
import re
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from html import escape, unescape
from io import BytesIO

from django.conf import settings
from django.contrib.staticfiles.storage import staticfiles_storage
from django.core.files.storage import default_storage

from stillpage.library.files import files_of, item_target
from stillpage.library.models import File, Item
from stillpage.pages.models import Page
from stillpage.publishing.models import LiveCopy, NotFoundPage
from stillpage.sites.models import Site
from stillpage_core.document.naming import named_in
from stillpage_core.formats import FORMATS, picture_path
from stillpage_core.writing.anchors import slug
from stillpage_core.writing.carrying import Carried, PictureFile


@dataclass(frozen=True)
class Goods:
    """A file to be taken away."""

    name: str
    mime: str
    data: bytes


def export_page(page: Page, ending: str) -> Goods:
    """The working copy in a format of `FORMATS`; as a ZIP where its pictures stand beside it."""
    form = FORMATS[ending]
    copy = page.working_copy
    carried = Carried(copy.title, _pictures(page), _leads(page), page.site.language)
    data = form.write(copy.tree, carried)
    name = slug(copy.title, "page")
    if not (form.beside and carried.pictures):
        return Goods(f"{name}.{ending}", form.mime, data)
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(f"{name}.{ending}", data)
        for number, file in carried.pictures.items():
            archive.writestr(picture_path(carried, number), file.data)
    return Goods(f"{name}.zip", "application/zip", out.getvalue())


def _pictures(page: Page) -> dict[int, PictureFile]:
    numbers = named_in(page.working_copy.tree).pictures
    found: dict[int, PictureFile] = {}
    for item in Item.objects.filter(pk__in=numbers, kind=Item.Kind.PICTURE).prefetch_related("files"):
        file = _carried(item)
        if default_storage.exists(file.name):
            with default_storage.open(file.name) as opened:
                data = opened.read()
            ending = file.name.rsplit(".", 1)[-1]
            name = f"{slug(item.title, 'picture')}.{ending}"
            found[item.pk] = PictureFile(name, file.mime, data, file.width, file.height, item.alt)
    return found


def _carried(item: Item) -> File:
    """The file of a picture that goes along: the original where every program can show it, otherwise the largest that
    every browser can."""
    original, *made = files_of(item)
    shown = [file for file in made if file.mime in _ANYWHERE and not file.cut]
    return original if original.mime in _ANYWHERE or not shown else shown[-1]


_ANYWHERE = ("image/jpeg", "image/png", "image/gif")


def _leads(page: Page) -> Callable[[str], str | None]:
    """Where links lead outside: pages and items by the addresses that readers have for them."""
    named = named_in(page.working_copy.tree)
    linked = Page.objects.filter(pk__in=named.pages).select_related("site")
    pages = {each.pk: each.site.origin + each.path for each in linked}
    linked_items = Item.objects.filter(pk__in=named.items).prefetch_related("files")
    items = {item.pk: page.site.origin + item_target(item).address for item in linked_items}

    def leads(href: str) -> str | None:
        match = re.fullmatch(r"(page|item):(\d+)(#.+)?", href)
        if not match:
            return href
        address = (pages if match[1] == "page" else items).get(int(match[2]))
        return f"{address}{match[3] or ''}" if address else None

    return leads


def export_site(site: Site) -> Iterator[bytes]:
    """A whole site as readers have it, as a ZIP of files, piece by piece.

    Every address is relative, so that the files can be served from any folder, or opened without a server. What a
    page needs (stylesheet, fonts, pictures, documents) goes along.
    """
    out = _Pieces()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:  # type: ignore[arg-type]
        needed: dict[str, None] = {}
        lives = LiveCopy.objects.filter(page__site=site).select_related("page").order_by("page__path")
        for live in lives.iterator(chunk_size=50):
            place = _file_of(live.page.path)
            html, found = _relative(bytes(live.html).decode(), place, site.origin)
            needed |= dict.fromkeys(found)
            archive.writestr(place, html)
            yield out.taken()
        if missing := NotFoundPage.objects.filter(address=site.host).first():
            # A server sends it for any address, so its own addresses begin at the root.
            archive.writestr("404.html", bytes(missing.html))
            needed |= dict.fromkeys(_relative(bytes(missing.html).decode(), "404.html", site.origin)[1])
        waiting = list(needed)
        while waiting:
            address = waiting.pop(0)
            data = _bytes_at(address)
            if data is None:
                continue
            if address.endswith(".css"):
                fonts = re.findall(r"url\(['\"]?([^'\")]+)['\"]?\)", data.decode())
                more = [posixpath.normpath(posixpath.join(posixpath.dirname(address), each)) for each in fonts]
                fresh = [each for each in more if each.startswith(settings.STATIC_URL) and each not in needed]
                needed |= dict.fromkeys(fresh)
                waiting += fresh
            archive.writestr(address.lstrip("/"), data)
            yield out.taken()
    yield out.taken()


class _Pieces:
    """A file that is only ever written to at its end, and whose bytes are taken away as they come."""

    def __init__(self) -> None:
        self.waiting: list[bytes] = []

    def write(self, data: bytes) -> int:
        self.waiting.append(bytes(data))
        return len(data)

    def flush(self) -> None:
        return None

    def taken(self) -> bytes:
        data = b"".join(self.waiting)
        self.waiting.clear()
        return data


def _file_of(path: str) -> str:
    return "index.html" if path == "/" else f"{path.strip('/')}/index.html"


def _relative(html: str, place: str, origin: str) -> tuple[str, list[str]]:
    """The page with addresses relative to its place, and the addresses of the files that it needs."""
    needed: list[str] = []
    here = posixpath.dirname(place)

    def one(address: str) -> str:
        local = address.removeprefix(origin) if address.startswith(f"{origin}/") else address
        if address == origin:
            local = "/"
        if not local.startswith("/") or local.startswith("//"):
            return address
        path, mark, fragment = local.partition("#")
        path = path.split("?", 1)[0]
        if path.startswith((settings.STATIC_URL, settings.MEDIA_URL)):
            needed.append(path)
            target = path.lstrip("/")
        else:
            target = _file_of(path)
        return posixpath.relpath(target, here or ".") + mark + fragment

    def attribute(match: re.Match[str]) -> str:
        return f'{match[1]}="{escape(one(unescape(match[2])))}"'

    def tag(match: re.Match[str]) -> str:
        if 'rel="canonical"' in match[0]:
            return match[0]
        written = re.sub(r'(?<= )(href|src)="([^"]*)"', attribute, match[0])
        return re.sub(r'(?<= )srcset="([^"]*)"', several, written)

    def several(match: re.Match[str]) -> str:
        parts = [part.strip().split(" ", 1) for part in unescape(match[1]).split(",")]
        return f'srcset="{escape(", ".join(" ".join([one(part[0]), *part[1:]]) for part in parts))}"'

    return re.sub(r"<[a-zA-Z][^>]*>", tag, html), needed


def _bytes_at(address: str) -> bytes | None:
    storage, name = default_storage, address.removeprefix(settings.MEDIA_URL)
    if address.startswith(settings.STATIC_URL):
        storage, name = staticfiles_storage, address.removeprefix(settings.STATIC_URL)
    if not storage.exists(name):
        return None
    with storage.open(name) as file:
        data: bytes = file.read()
    return data
