"""Files going out, to those who may have them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import cast
from urllib.parse import quote

from django.conf import settings
from django.core.files.storage import FileSystemStorage, default_storage
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseNotModified, StreamingHttpResponse
from django.http.response import HttpResponseBase
from django.utils.http import content_disposition_header

from stillpage_core.languages import own_name
from stillpage_core.media.captions import Cue, transcript
from stillpage_core.media.documents import FORMATS, PDF
from stillpage_core.media.films import DEMUXERS
from stillpage_core.media.papers import CUT
from stillpage_core.media.pdf import wanting_of
from stillpage_core.media.pictures import SVG
from stillpage_core.resolving import (
    AnimationTarget,
    FilmTarget,
    HostedTarget,
    ImageFile,
    ItemTarget,
    PageShown,
    PictureTarget,
    PostTarget,
    Reach,
    Track,
    TrackSort,
)

from .folders import limit_of
from .models import Captions, DocumentPage, File, Item
from .ranges import Unsatisfiable, asked_for, pieces

FOREVER = "public, max-age=31536000, immutable"
PRIVATE = "private, no-store"


@dataclass(frozen=True)
class Asker:
    """Who asks for a file. ``site`` is that on whose host it is asked for, None on the authoring side; ``reads`` are
    the sites whose signed-in readers they belong to (None: of all); ``works`` tells whether they work on pages, and
    ``hidden`` which folders they may not see then."""

    site: int | None = None
    reads: frozenset[int] | None = frozenset()
    works: bool = False
    hidden: frozenset[int] = frozenset()


@dataclass(frozen=True)
class Refused:
    """Why somebody gets no file: a status of HTTP and a sentence. ``instead`` is the file that took its place, if the
    old address leads there."""

    status: int
    sentence: str
    instead: File | None = None


MISSING = Refused(404, "There is no such file.")
_GONE = Refused(410, "This file has been taken away. Nothing has taken its place.")
_SIGNED_IN = Refused(403, "This is for signed-in readers only.")


def refused(file: File, asker: Asker) -> Refused | None:
    """Why ``asker`` may not have a file; None when they may. ``file.item`` should be loaded."""
    item = file.item
    kept_to = limit_of(item.folder_id)
    if item.folder_id in asker.hidden or (asker.site is not None and kept_to is not None and asker.site not in kept_to):
        return MISSING
    if item.restricted and not _reads(asker, kept_to):
        return _SIGNED_IN
    if asker.works:
        return None
    if file.original and item.kind != Item.Kind.DOCUMENT:
        what = "film" if item.kind == Item.Kind.HOSTED else item.kind
        return Refused(403, f"The original of a {what} is not given out.")
    if item.binned_at is not None and not _still_shown(item):
        return _GONE
    if file.version != item.version and file.original:
        present = item.files.filter(version=item.version, original=True).first()
        return Refused(410, "This file was replaced.", present) if item.leads_on else _GONE
    # What was made of a picture's earlier files is removed a day after; until then, open pages show it. No page shows a
    # document's.
    if file.version != item.version and item.kind == Item.Kind.DOCUMENT:
        return _GONE
    return None


def _reads(asker: Asker, kept_to: frozenset[int] | None) -> bool:
    """Whether who asks is a signed-in reader of a site that may use what a folder kept to these holds."""
    if asker.site is not None:
        return asker.reads is None or asker.site in asker.reads
    if asker.reads is None:
        return True
    return bool(asker.reads if kept_to is None else asker.reads & kept_to)


def _still_shown(item: Item) -> bool:
    """Whether a picture in the bin is still on a live page: readers see it there until that is published without it.
    A document in the bin is gone for readers at once."""
    return item.kind != Item.Kind.DOCUMENT and item.uses.filter(live=True).exists()


def media(request: HttpRequest, name: str, asker: Asker) -> HttpResponseBase:
    """A file of the library. Its name holds the hash of its bytes, so it may be kept for ever.

    Only who works on pages gets the originals of pictures, which may tell where somebody stood.
    """
    if request.method not in ("GET", "HEAD"):
        return HttpResponse(status=405, headers={"Allow": "GET, HEAD"})
    file = File.objects.filter(name=name).select_related("item").first()
    why = refused(file, asker) if file else MISSING
    if file is None or why is MISSING or not default_storage.exists(name):
        return _plain(MISSING.sentence, 404)
    if why is not None:
        if why.instead is not None:
            return _plain(why.sentence, 302, {"Location": address_of(why.instead)})
        return _plain(why.sentence, why.status)
    etag = f'"{file.sha256[:32]}"'
    headers = {
        "Cache-Control": PRIVATE if file.item.restricted or file.original else FOREVER,
        "ETag": etag,
        "X-Content-Type-Options": "nosniff",
        "Content-Security-Policy": "default-src 'none'; sandbox",
    }
    if settings.SECURE_HSTS_SECONDS:
        headers["Strict-Transport-Security"] = f"max-age={settings.SECURE_HSTS_SECONDS}"
    if file.mime == PDF.mime:
        # A sandbox would keep the browser's own reader of PDFs from showing it.
        headers["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; img-src 'self'"
    if file.mime == SVG.mime:
        headers["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox"
    if request.headers.get("If-None-Match") == etag:
        return HttpResponseNotModified(headers=headers)
    if file.mime in FORMATS:
        filename = f"{file.item.title}.{FORMATS[file.mime].ending}"
        attached = content_disposition_header(file.mime != PDF.mime, filename)
        headers |= {"Content-Disposition": attached} if attached else {}
    if settings.FRONT and isinstance(default_storage, FileSystemStorage):
        # The front server sends it from the disk: whoever takes it slowly holds nothing here.
        return HttpResponse(content_type=file.mime, headers={**headers, "X-Accel-Redirect": f"/-/media/{quote(name)}"})
    headers["Accept-Ranges"] = "bytes"
    try:
        span = asked_for(request.headers.get("Range"), request.headers.get("If-Range"), etag, file.size)
    except Unsatisfiable:
        return _plain("There are no such bytes in this file.", 416, {"Content-Range": f"bytes */{file.size}"})
    stored = default_storage.open(name)
    if span is not None and request.method == "GET":
        headers |= {"Content-Range": span.of(file.size), "Content-Length": str(len(span))}
        return StreamingHttpResponse(pieces(stored, span), status=206, content_type=file.mime, headers=headers)
    response = FileResponse(stored, content_type=file.mime, headers=headers)
    for header, value in headers.items():
        response.headers[header] = value
    return response


def _plain(sentence: str, status: int, more: dict[str, str] | None = None) -> HttpResponse:
    headers = {"Cache-Control": "no-store", "X-Content-Type-Options": "nosniff", **(more or {})}
    return HttpResponse(sentence, status=status, content_type="text/plain; charset=utf-8", headers=headers)


def address_of(file: File) -> str:
    """Where a file is served, on every host."""
    return f"/media/{file.name}"


def files_of(item: Item) -> list[File]:
    """The files of an item's present version, those made of a picture by width. ``item.files`` should be prefetched.

    Captions are no version's: `models.Captions` tells of them.
    """
    present = [file for file in item.files.all() if file.version == item.version and file.mime != "text/vtt"]
    return sorted(present, key=lambda file: (not file.original, file.width, file.pk))


def reach_of(item: Item, elsewhere: frozenset[int] = frozenset()) -> Reach:
    """Who can have an item; ``elsewhere`` are the folders that are kept to other sites."""
    if item.binned_at is not None:
        return "binned"
    if item.folder_id in elsewhere:
        return "elsewhere"
    return "signed in" if item.restricted else "open"


def picture_target(item: Item, elsewhere: frozenset[int] = frozenset()) -> PictureTarget:
    """What the core needs to know of a picture. ``item.files`` should be prefetched."""
    made = [file for file in files_of(item) if not file.original]
    known = {"edits": item.edits} if item.edits else {}
    return PictureTarget(
        item.pk,
        item.title,
        item.alt,
        tuple(ImageFile(address_of(file), file.width, file.height, file.size, file.mime, file.cut) for file in made),
        width=item.width,
        height=item.height,
        decorative=item.decorative,
        reach=reach_of(item, elsewhere),
        words=item.holds_words,
        moves=float("inf") if item.moves_for is None else item.moves_for / 1000,
        **known,
    )


def linked_file(item: Item) -> File | None:
    """The file that a link to an item gives readers; None where it is still to be made. ``item.files`` should be
    prefetched."""
    every = files_of(item)
    if item.kind == Item.Kind.DOCUMENT:
        return every[0] if every else None
    if item.kind == Item.Kind.ANIMATION:
        return next((each for each in every if each.cut.startswith("still-")), None)
    if item.kind == Item.Kind.PICTURE:
        shown = [each for each in every if not each.original and not each.cut and each.mime not in _NEWER]
        return shown[-1] if shown else None
    return next((each for each in every[::-1] if each.mime in _PLAYED and each.cut == item.kind), None)


def words_of_pages(items: Sequence[Item]) -> dict[int, dict[int, str]]:
    """The words of the pages of documents, by the numbers of both."""
    found: dict[int, dict[int, str]] = {item.pk: {} for item in items}
    versions = {item.pk: item.version for item in items}
    for row in DocumentPage.objects.filter(item__in=items) if items else ():
        if row.version == versions[row.item_id]:
            found[row.item_id][row.number] = row.words
    return found


def _pages_shown(item: Item, words: dict[int, str]) -> tuple[PageShown, ...]:
    pages: dict[int, list[ImageFile]] = {}
    for file in files_of(item):
        if file.cut.startswith(CUT):
            known = ImageFile(address_of(file), file.width, file.height, file.size, file.mime, file.cut)
            pages.setdefault(int(file.cut.removeprefix(CUT)), []).append(known)
    return tuple(
        PageShown(number, tuple(files), tuple(filter(None, words.get(number, "").split("\n"))))
        for number, files in sorted(pages.items())
    )


def item_target(item: Item, elsewhere: frozenset[int] = frozenset(), words: dict[int, str] | None = None) -> ItemTarget:
    """What the core needs to know of an item that is linked to, or shown: then ``words`` are those of its pages, by
    their numbers. ``item.files`` should be prefetched.

    A link to a picture leads to the largest file that any browser shows; its original is not given out.
    """
    if item.kind in (Item.Kind.HOSTED, Item.Kind.POST):
        kind = "film" if item.kind == Item.Kind.HOSTED else "post"
        return ItemTarget(item.pk, item.title, item.hosting.address, kind, 0, reach_of(item, elsewhere))
    file = linked_file(item) or files_of(item)[0]
    known = FORMATS.get(file.mime) or DEMUXED.get(file.mime)
    kind = known.name if known else item.get_kind_display()
    reach = reach_of(item, elsewhere)
    return ItemTarget(
        item.pk,
        item.title,
        address_of(file),
        kind,
        file.size,
        reach,
        item.length,
        item.language,
        wanting_of(item.facts),
        shown=_pages_shown(item, words) if words is not None else (),
        undrawn=item.problem if words is not None else "",
    )


def film_target(
    item: Item, language: str = "", elsewhere: frozenset[int] = frozenset(), *, words: bool = True
) -> FilmTarget:
    """What the core needs to know of a film or sound; of its captions those in ``language`` come first. Without
    ``words`` the transcripts are left out. ``item.files`` and ``item.captions`` should be prefetched."""
    first = language.partition("-")[0].lower()
    rows = [row for row in item.captions.all() if row.removed_at is None]
    rows.sort(key=lambda row: (row.language.partition("-")[0].lower() != first, row.language, row.pk))
    made = [file for file in files_of(item) if not file.original]
    return FilmTarget(
        item.pk,
        item.title,
        "sound" if item.kind == Item.Kind.SOUND else "film",
        tuple(ImageFile(address_of(file), file.width, file.height, file.size, file.mime, file.cut) for file in made),
        tuple(_track(row, item, words=words) for row in rows if row.given is not None),
        width=item.width or 1,
        height=item.height or 1,
        lasts=item.lasts,
        heard=any(file.cut == "levels" for file in made),
        progress=item.progress,
        problem=item.problem,
        language=item.language,
        unfinished=tuple(row.language for row in rows if row.given is None and row.sort == row.Sort.CAPTIONS),
        reach=reach_of(item, elsewhere),
    )


def animation_target(item: Item, elsewhere: frozenset[int] = frozenset()) -> AnimationTarget:
    """What the core needs to know of an animation. ``item.files`` should be prefetched."""
    made = [file for file in files_of(item) if not file.original]
    return AnimationTarget(
        item.pk,
        item.title,
        item.alt,
        tuple(ImageFile(address_of(file), file.width, file.height, file.size, file.mime, file.cut) for file in made),
        width=item.width or 1,
        height=item.height or 1,
        lasts=item.lasts,
        colours=tuple(item.facts.get("colours", ())),
        problem=item.problem,
        reach=reach_of(item, elsewhere),
    )


def post_target(item: Item, elsewhere: frozenset[int] = frozenset()) -> PostTarget:
    """What the core needs to know of a post. ``item.hosting.host`` should be loaded."""
    hosting = item.hosting
    return PostTarget(
        item.pk,
        item.title,
        hosting.address,
        provider=hosting.host.name,
        host=hosting.host.known if hosting.host.removed_at is None else None,
        author=hosting.author,
        author_address=hosting.author_address,
        words=tuple(filter(None, hosting.words.split("\n"))),
        at=hosting.posted_at.isoformat() if hosting.posted_at else "",
        frame=hosting.frame,
        width=hosting.width,
        height=hosting.height,
        gone=hosting.gone,
        reach=reach_of(item, elsewhere),
    )


def hosted_target(item: Item, elsewhere: frozenset[int] = frozenset()) -> HostedTarget:
    """What the core needs to know of a film elsewhere. ``item.files`` should be prefetched, ``item.hosting.host``
    loaded."""
    hosting = item.hosting
    host = hosting.host.known if hosting.host.removed_at is None else None
    cover = picture_target(item, elsewhere)
    return HostedTarget(
        item.pk,
        item.title,
        hosting.address,
        host,
        provider=hosting.host.name,
        frame=hosting.frame,
        author=hosting.author,
        author_address=hosting.author_address,
        width=hosting.width,
        height=hosting.height,
        lasts=item.lasts // 1000,
        cover=cover if cover.files else None,
        gone=hosting.gone,
        captioned=item.captioned,
        reach=reach_of(item, elsewhere),
    )


def _track(row: Captions, item: Item, *, words: bool) -> Track:
    spoken = words and row.sort == row.Sort.CAPTIONS
    return Track(
        cast(TrackSort, row.sort),
        row.language,
        own_name(row.language),
        address_of(cast(File, row.given)),
        tuple(transcript([Cue(**cue) for cue in row.given_cues])) if spoken else (),
        cues=len(row.given_cues),
        drafted=row.drafted,
        earlier=row.version != item.version,
        faults=row.faults,
    )


DEMUXED = {form.mime: form for form in DEMUXERS}
_PLAYED = ("video/mp4", "audio/mp4")
_NEWER = ("image/avif", "image/webp")
