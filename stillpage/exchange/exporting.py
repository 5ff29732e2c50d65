"""Pages going out: one as a file of its own, a whole site as files that any web server can serve."""

from __future__ import annotations

import posixpath
import re
import time
import zipfile
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from html import escape, unescape
from io import BytesIO
from itertools import count
from typing import Any

from django.conf import settings
from django.contrib.staticfiles.storage import staticfiles_storage
from django.core.files.storage import default_storage

from stillpage.computing import computing
from stillpage.library.derived import PICTURES, preview
from stillpage.library.files import (
    Asker,
    animation_target,
    files_of,
    film_target,
    hosted_target,
    item_target,
    picture_target,
    post_target,
    refused,
    words_of_pages,
)
from stillpage.library.models import File, Item
from stillpage.pages.models import LIGHT, Page
from stillpage.pages.seeing import Sight
from stillpage.publishing.freshness import BATCH, bring_up, bring_up_not_found
from stillpage.publishing.machines import machines_answer, told_to_machines
from stillpage.publishing.models import LiveCopy, NotFoundPage
from stillpage.sites.models import Site
from stillpage_core.document.changes import Change, SetAttributes, apply
from stillpage_core.document.naming import named_in
from stillpage_core.document.node import Node
from stillpage_core.document.walking import walk
from stillpage_core.formats import FORMATS, picture_path
from stillpage_core.media.animations import cut_for
from stillpage_core.media.editing import EDITS, Cut
from stillpage_core.media.pictures import PNG, SVG, size_of, sniff
from stillpage_core.media.playing import cover_item, stills
from stillpage_core.media.shown import picture_cut
from stillpage_core.references import parse_reference
from stillpage_core.resolving import AnimationTarget, AnyFilm, FilmTarget, ItemTarget, PostTarget
from stillpage_core.writing.anchors import slug
from stillpage_core.writing.carrying import Carried, PictureFile, looks_of


@dataclass(frozen=True)
class Goods:
    """A file to be taken away."""

    name: str
    mime: str
    data: bytes


def export_page(page: Page, ending: str, sight: Sight) -> Goods:
    """The working copy in a format of `FORMATS`; as a ZIP where its pictures stand beside it.

    What ``sight`` leaves out, and what is for signed-in readers only, does not go along: a file goes to anybody.
    """
    form = FORMATS[ending]
    copy = page.working_copy
    document, pictures = _with_pictures(_with_titles(copy.tree, sight), sight)
    films = _films(document, sight, page.site)
    animations = _animations(document, sight)
    covers, stills = _covers(document, pictures, films, animations, page.site.origin)
    pictures |= stills
    carried = Carried(
        copy.title,
        pictures,
        _leads(page, sight),
        page.site.language,
        copy.description,
        films=films,
        covers=covers,
        items=_documents(document, sight, page.site),
        animations=animations,
        posts=_posts(document, sight),
    )
    with computing():
        data = form.write(document, carried)
    name = slug(copy.title, "page")
    if not (form.beside and carried.pictures):
        return Goods(f"{name}.{ending}", form.mime, data)
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(f"{name}.{ending}", data)
        for number, file in carried.pictures.items():
            archive.writestr(picture_path(carried, number), file.data)
    return Goods(f"{name}.zip", "application/zip", out.getvalue())


def _with_titles(document: Node, sight: Sight) -> Node:
    """The document with the titles of pages where it leaves what a link is called to them."""
    numbers = {
        reference.number or 0
        for _, node in walk(document)
        if node.kind == "further"
        and not node.attrs["words"]
        and (reference := parse_reference(node.attrs["href"] or ""))
    }
    if not numbers:
        return document
    pages = sight.pages(Page.objects.filter(pk__in=numbers)).select_related("working_copy", "live_copy").defer(*LIGHT)
    titles = {f"page:{page.pk}": (page.working_copy if sight.knows(page) else page.live_copy).title for page in pages}

    def titled(node: Node) -> Node:
        if node.kind == "further" and not node.attrs["words"]:
            return node.with_attrs(words=titles.get((node.attrs["href"] or "").partition("#")[0]))
        return node.with_content([titled(each) for each in node.content]) if node.content else node

    return titled(document)


def _with_pictures(document: Node, sight: Sight) -> tuple[Node, dict[int, PictureFile]]:
    """The pictures that go along, each as it is cut where it is used, and the document that names them so."""
    named = named_in(document).pictures
    rows = Item.objects.filter(pk__in=named, kind=Item.Kind.PICTURE, restricted=False)
    items = sight.items(rows).prefetch_related("files")
    known = {item.pk: item for item in items}
    numbers: dict[tuple[int, str], int] = {}
    # Not the number of one that does not go along: this would stand in its place.
    others = count(max(named, default=0) + 1)
    found: dict[int, PictureFile] = {}
    changes: list[Change] = []
    for path, node in walk(document):
        is_picture = node.kind == "picture"
        wanted = node.attrs["item"] if is_picture else cover_item(node.attrs)
        item = known.get(wanted or 0)
        if item is None:
            continue
        uncut: dict[str, Any] = dict.fromkeys(EDITS)
        cut = picture_cut(picture_target(item), node.attrs if is_picture else uncut)
        number = numbers.get((item.pk, cut.key))
        if number is None:
            file = _carried(item, cut)
            if file is None:
                continue
            # A second cut of one picture is another picture elsewhere.
            number = item.pk if item.pk not in found else next(others)
            numbers[item.pk, cut.key] = number
            found[number] = file
        changes.append(SetAttributes(path, {"item": number, **uncut} if is_picture else {"cover": f"item-{number}"}))
    return apply(document, changes), found


def _films(document: Node, sight: Sight, site: Site) -> dict[int, AnyFilm]:
    """The films and sounds of a text, those elsewhere too, with the addresses at which readers of the site get them."""
    kinds = (Item.Kind.FILM, Item.Kind.SOUND, Item.Kind.HOSTED)
    rows = Item.objects.filter(pk__in=named_in(document).items, kind__in=kinds, restricted=False)
    found: dict[int, AnyFilm] = {}
    for item in sight.items(rows).select_related("hosting__host").prefetch_related("files", "captions__given"):
        if item.kind == Item.Kind.HOSTED:
            found[item.pk] = hosted_target(item)
            continue
        target = film_target(item, site.language)
        files = tuple(replace(file, address=site.origin + file.address) for file in target.files)
        tracks = tuple(replace(track, address=site.origin + track.address) for track in target.tracks)
        found[item.pk] = replace(target, files=files, tracks=tracks)
    return found


def _documents(document: Node, sight: Sight, site: Site) -> dict[int, ItemTarget]:
    """The documents of a text's lists of downloads, with the addresses at which readers of the site get them."""
    rows = Item.objects.filter(pk__in=named_in(document).items, kind=Item.Kind.DOCUMENT, restricted=False)
    items = list(sight.items(rows).prefetch_related("files"))
    words = words_of_pages(items)
    targets = (item_target(item, words=words[item.pk]) for item in items)
    return {target.number: replace(target, address=site.origin + target.address) for target in targets}


def _posts(document: Node, sight: Sight) -> dict[int, PostTarget]:
    """The posts of a text."""
    rows = Item.objects.filter(pk__in=named_in(document).items, kind=Item.Kind.POST, restricted=False)
    return {item.pk: post_target(item) for item in sight.items(rows).select_related("hosting__host")}


def _animations(document: Node, sight: Sight) -> dict[int, AnimationTarget]:
    """The animations of a text."""
    rows = Item.objects.filter(pk__in=named_in(document).items, kind=Item.Kind.ANIMATION, restricted=False)
    return {item.pk: animation_target(item) for item in sight.items(rows).prefetch_related("files")}


def _covers(
    document: Node,
    pictures: Mapping[int, PictureFile],
    films: Mapping[int, AnyFilm],
    animations: Mapping[int, AnimationTarget],
    origin: str,
) -> tuple[dict[int, dict[str, int]], dict[int, PictureFile]]:
    """What each film and animation looks like at each use, as `Carried.covers`, and the pictures that come to
    ``pictures`` by that, under numbers that nothing else has in this text."""
    named = named_in(document)
    numbers = count(max([*named.pictures, *named.items, *pictures, 0]) + 1)
    covers: dict[int, dict[str, int]] = {}
    found: dict[int, PictureFile] = {}
    for _, node in walk(document):
        if node.kind not in ("film", "hosted", "animation"):
            continue
        number, looks = node.attrs["item"], looks_of(node)
        known = covers.setdefault(number, {})
        if looks in known:
            continue
        chosen = cover_item(node.attrs)
        if chosen is not None and chosen in pictures:
            known[looks] = chosen
            continue
        film, animation = films.get(number), animations.get(number)
        made = _cover(film, looks, origin) if film else _still(animation, looks) if animation else None
        if made is not None:
            known[looks] = next(numbers)
            found[known[looks]] = made
    return covers, found


def _still(animation: AnimationTarget, looks: str) -> PictureFile | None:
    """A frame of an animation in the colours of a use, or in its own; None where there is none."""
    named = {each.cut: each for each in animation.files}
    file = named.get(f"still-{looks}") or named.get(f"still-{cut_for(None)}")
    data = _bytes_at(file.address) if file else None
    if file is None or data is None:
        return None
    name = f"{slug(animation.title, 'animation')}.{PNG.ending}"
    return PictureFile(name, PNG.mime, data, file.width, file.height, animation.alt)


def _cover(film: AnyFilm, looks: str, origin: str) -> PictureFile | None:
    """The still of a film that a use names, or its first, or the cover of one elsewhere; None where there is none."""
    if isinstance(film, FilmTarget):
        found = stills(film, looks)
    else:
        found = [file for file in film.cover.files if file.mime in _ANYWHERE] if film.cover else []
    file = next((each for each in found if each.width >= _COVER), found[-1] if found else None)
    data = _bytes_at(file.address.removeprefix(origin)) if file else None
    if file is None or data is None:
        return None
    form = PICTURES[file.mime or "image/jpeg"]
    return PictureFile(
        f"{slug(film.title, 'film')}.{form.ending}", form.mime, data, file.width, file.height, film.title
    )


_COVER = 640
"""How wide the cover of a film is at least that goes along, in pixels."""


def _carried(item: Item, cut: Cut) -> PictureFile | None:
    """A picture as it goes along: the original where nothing is cut and every program can show it, otherwise the
    largest file that every program can, or one made for the purpose. None where its file is gone."""
    original, *made = files_of(item)
    whole = cut == Cut()
    usual = [file for file in made if file.cut == cut.key and (file.mime in _ANYWHERE or file.mime == SVG.mime)]
    file = original if whole and (original.mime in _ANYWHERE or not usual) else usual[-1] if usual else None
    if not default_storage.exists((file or original).name):
        return None
    if file is None:
        data = preview(item, cut, _WIDEST)
        form = sniff(data[:64])
        size = size_of(data, form)
    else:
        with default_storage.open(file.name) as opened:
            data = opened.read()
        form, size = PICTURES[file.mime], (file.width, file.height)
    name = f"{slug(item.title, 'picture')}.{form.ending}"
    return PictureFile(name, form.mime, data, *size, "" if item.decorative else item.alt, item.decorative)


_WIDEST = 2400
"""How wide a cut is at most that is made for taking away, in pixels."""
_ANYWHERE = ("image/jpeg", "image/png", "image/gif")


def _leads(page: Page, sight: Sight) -> Callable[[str], str | None]:
    """Where links lead outside: pages and items by the addresses that readers have for them."""
    named = named_in(page.working_copy.tree)
    linked = sight.pages(Page.objects.filter(pk__in=named.pages)).select_related("site")
    pages = {each.pk: each.site.origin + each.path for each in linked}
    linked_items = sight.items(Item.objects.filter(pk__in=named.items)).prefetch_related("files")
    items = {item.pk: page.site.origin + item_target(item).address for item in linked_items}

    def leads(href: str) -> str | None:
        match = re.fullmatch(r"(page|item):(\d+)(#.+)?", href)
        if not match:
            return href
        address = (pages if match[1] == "page" else items).get(int(match[2]))
        return f"{address}{match[3] or ''}" if address else None

    return leads


def _live_copies(site: Site) -> Iterator[LiveCopy]:
    """The live copies of a site as they are right now, by their addresses."""
    numbers = list(LiveCopy.objects.filter(site=site).order_by("written__page__path").values_list("pk", flat=True))
    for start in range(0, len(numbers), BATCH):
        batch = numbers[start : start + BATCH]
        bring_up(batch, wait=True)
        lives = LiveCopy.objects.filter(pk__in=batch).select_related("written__page")
        yield from lives.only("html", "written__page__path").order_by("written__page__path")


def export_site(site: Site) -> Iterator[bytes]:
    """A whole site as readers have it, as a ZIP of files, piece by piece.

    Every address is relative, so that the files can be served from any folder, or opened without a server. What a
    page needs (stylesheet, fonts, pictures, documents) goes along; but not what is for signed-in readers only, since
    any web server would give it to anybody. Links to that lead to the site itself, and `LEFT_OUT` lists it.
    """
    out = _Pieces()
    kept = _KeptBack(site)
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:  # type: ignore[call-overload]
        needed: dict[str, None] = {}
        for live in _live_copies(site):
            place = _file_of(live.written.page.path)
            html, found = _relative(bytes(live.html).decode(), place, site.origin, kept)
            needed |= dict.fromkeys(found)
            archive.writestr(place, html)
            yield out.taken()
        bring_up_not_found(site.pk)
        if missing := NotFoundPage.objects.filter(site=site).first():
            # A server sends it for any address, so its own addresses begin at the root.
            # Files cannot be searched: its field stays behind.
            html = re.sub(r'<form class="search".*?</form>', "", bytes(missing.html).decode())
            archive.writestr("404.html", html)
            needed |= dict.fromkeys(_relative(html, "404.html", site.origin, kept)[1])
        for path in told_to_machines(site):
            if answer := machines_answer(site, path):
                archive.writestr(path.lstrip("/"), "".join(answer[0]))
            yield out.taken()
        waiting = list(needed)
        while waiting:
            address = waiting.pop(0)
            if not address.endswith(".css"):
                yield from _copied(archive, address, out)
                continue
            data = _bytes_at(address)
            if data is not None:
                fonts = re.findall(r"url\(['\"]?([^'\")]+)['\"]?\)", data.decode())
                more = [posixpath.normpath(posixpath.join(posixpath.dirname(address), each)) for each in fonts]
                fresh = [each for each in more if each.startswith(settings.STATIC_URL) and each not in needed]
                needed |= dict.fromkeys(fresh)
                waiting += fresh
                archive.writestr(address.lstrip("/"), data)
            yield out.taken()
        if kept.found:
            archive.writestr(LEFT_OUT, kept.told())
    yield out.taken()


LEFT_OUT = "left-out.txt"


class _KeptBack:
    """Files that somebody who is not signed in would not get from the site, and where pages name them."""

    def __init__(self, site: Site) -> None:
        self.asker = Asker(site=site.pk)
        self.known: dict[str, bool] = {}
        self.found: dict[str, str] = {}

    def __call__(self, path: str) -> bool:
        """Whether the file at a path of ours stays behind."""
        if path not in self.known:
            file = File.objects.filter(name=path.removeprefix(settings.MEDIA_URL)).select_related("item").first()
            self.known[path] = file is not None and refused(file, self.asker) is not None
            if file is not None and self.known[path]:
                self.found[path] = file.item.title
        return self.known[path]

    def told(self) -> str:
        lines = [f"{title}: {path}" for path, title in self.found.items()]
        return "Left out, since they are for signed-in readers, or not given out:\n\n" + "\n".join(lines) + "\n"


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


def _relative(html: str, place: str, origin: str, kept: _KeptBack) -> tuple[str, list[str]]:
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
        if path.startswith(settings.MEDIA_URL) and kept(path):
            return origin + path
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
        written = re.sub(r'(?<= )(href|src|poster|data-src|data-player)="([^"]*)"', attribute, match[0])
        return re.sub(r'(?<= )srcset="([^"]*)"', several, written)

    def several(match: re.Match[str]) -> str:
        parts = [part.strip().split(" ", 1) for part in unescape(match[1]).split(",")]
        return f'srcset="{escape(", ".join(" ".join([one(part[0]), *part[1:]]) for part in parts))}"'

    return re.sub(r"<[a-zA-Z][^>]*>", tag, html), needed


def _copied(archive: zipfile.ZipFile, address: str, out: _Pieces) -> Iterator[bytes]:
    """Put a file into the archive piece by piece: a film may be larger than there is memory."""
    file = _opened(address)
    if file is None:
        return
    entry = zipfile.ZipInfo(address.lstrip("/"), date_time=time.localtime()[:6])
    # Pictures and films are packed as they are.
    packed = address.startswith(settings.MEDIA_URL) and not address.endswith((".svg", ".vtt"))
    entry.compress_type = zipfile.ZIP_STORED if packed else zipfile.ZIP_DEFLATED
    with file, archive.open(entry, "w", force_zip64=True) as target:
        while piece := file.read(_PIECE):
            target.write(piece)
            yield out.taken()


_PIECE = 1024 * 1024


def _opened(address: str) -> Any:
    """The file at an address of ours; None where there is none."""
    storage, name = default_storage, address.removeprefix(settings.MEDIA_URL)
    if address.startswith(settings.STATIC_URL):
        storage, name = staticfiles_storage, address.removeprefix(settings.STATIC_URL)
    return storage.open(name) if storage.exists(name) else None


def _bytes_at(address: str) -> bytes | None:
    file = _opened(address)
    if file is None:
        return None
    with file:
        data: bytes = file.read()
    return data
