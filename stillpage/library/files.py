"""Files going out, to those who may have them."""

from __future__ import annotations

from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseNotModified

from stillpage_core.media.documents import FORMATS, PDF
from stillpage_core.media.pictures import SVG
from stillpage_core.resolving import ImageFile, ItemTarget, PictureTarget, Reach

from .models import File, Item

FOREVER = "public, max-age=31536000, immutable"
PRIVATE = "private, no-store"


def media(request: HttpRequest, name: str, *, staff: bool, reader: bool) -> HttpResponse:
    """A file of the library. Its name holds the hash of its bytes, so it may be kept for ever.

    ``staff``: whether who asks works on pages; only they get the originals of pictures, which may tell where somebody
    stood. ``reader``: whether they may have what is for signed-in readers.
    """
    if request.method not in ("GET", "HEAD"):
        return HttpResponse(status=405, headers={"Allow": "GET, HEAD"})
    file = File.objects.filter(name=name).select_related("item").first()
    if file is None or not default_storage.exists(name):
        return _plain("There is no such file.", 404)
    if file.item.restricted and not reader:
        return _plain("This is for signed-in readers only.", 403)
    if file.original and file.item.kind == Item.Kind.PICTURE and not staff:
        return _plain("The original of a picture is not given out.", 403)
    etag = f'"{file.sha256[:32]}"'
    headers = {
        "Cache-Control": PRIVATE if file.item.restricted or file.original else FOREVER,
        "ETag": etag,
        "X-Content-Type-Options": "nosniff",
        "Content-Security-Policy": "default-src 'none'; sandbox",
    }
    if file.mime == PDF.mime:
        # A sandbox would keep the browser's own reader of PDFs from showing it.
        headers["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; img-src 'self'"
    if file.mime == SVG.mime:
        headers["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox"
    if request.headers.get("If-None-Match") == etag:
        return HttpResponseNotModified(headers=headers)
    content = default_storage.open(name)
    if file.mime not in FORMATS:
        return FileResponse(content, content_type=file.mime, headers=headers)
    filename = f"{file.item.title}.{FORMATS[file.mime].ending}"
    attached = file.mime != PDF.mime
    return FileResponse(content, as_attachment=attached, filename=filename, content_type=file.mime, headers=headers)


def _plain(sentence: str, status: int) -> HttpResponse:
    headers = {"Cache-Control": "no-store", "X-Content-Type-Options": "nosniff"}
    return HttpResponse(sentence, status=status, content_type="text/plain; charset=utf-8", headers=headers)


def address_of(file: File) -> str:
    """Where a file is served, on every host."""
    return f"/media/{file.name}"


def files_of(item: Item) -> list[File]:
    """The files of an item's present version, those made of a picture by width. ``item.files`` should be prefetched."""
    present = [file for file in item.files.all() if file.version == item.version]
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


def item_target(item: Item, elsewhere: frozenset[int] = frozenset()) -> ItemTarget:
    """What the core needs to know of an item that is linked to. ``item.files`` should be prefetched.

    A link to a picture leads to the largest file that any browser shows; its original is not given out.
    """
    every = files_of(item)
    file = every[0]
    if item.kind == Item.Kind.PICTURE:
        shown = [each for each in every if not each.original and not each.cut and each.mime not in _NEWER]
        file = shown[-1] if shown else file
    kind = FORMATS[file.mime].name if file.mime in FORMATS else "Picture"
    return ItemTarget(item.pk, item.title, address_of(file), kind, file.size, reach_of(item, elsewhere))


_NEWER = ("image/avif", "image/webp")
