"""Files going out."""

from __future__ import annotations

from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseNotModified

from stillpage_core.media.documents import FORMATS, PDF
from stillpage_core.resolving import ImageFile, ItemTarget, PictureTarget

from .models import File, Item

FOREVER = "public, max-age=31536000, immutable"


def media(request: HttpRequest, name: str) -> HttpResponse:
    """A file of the library. Its name holds the hash of its bytes, so it may be kept for ever."""
    if request.method not in ("GET", "HEAD"):
        return HttpResponse(status=405, headers={"Allow": "GET, HEAD"})
    file = File.objects.filter(name=name).first()
    if file is None or not default_storage.exists(name):
        return HttpResponse("There is no such file.", status=404, content_type="text/plain; charset=utf-8")
    etag = f'"{file.sha256[:32]}"'
    headers = {
        "Cache-Control": FOREVER,
        "ETag": etag,
        "X-Content-Type-Options": "nosniff",
        "Content-Security-Policy": "default-src 'none'; sandbox",
    }
    if file.mime == PDF.mime:
        # A sandbox would keep the browser's own reader of PDFs from showing it.
        headers["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; img-src 'self'"
    if request.headers.get("If-None-Match") == etag:
        return HttpResponseNotModified(headers=headers)
    content = default_storage.open(name)
    if file.mime not in FORMATS:
        return FileResponse(content, content_type=file.mime, headers=headers)
    filename = f"{file.item.title}.{FORMATS[file.mime].ending}"
    attached = file.mime != PDF.mime
    return FileResponse(content, as_attachment=attached, filename=filename, content_type=file.mime, headers=headers)


def address_of(file: File) -> str:
    """Where a file is served, on every host."""
    return f"/media/{file.name}"


def picture_target(item: Item) -> PictureTarget:
    """What the core needs to know of a picture. ``item.files`` should be prefetched."""
    derived = sorted((file for file in item.files.all() if not file.original), key=lambda file: file.width)
    return PictureTarget(
        item.pk,
        item.title,
        item.alt,
        tuple(ImageFile(address_of(file), file.width, file.height, file.size) for file in derived),
    )


def item_target(item: Item) -> ItemTarget:
    """What the core needs to know of an item that is linked to. ``item.files`` should be prefetched."""
    original = next(file for file in item.files.all() if file.original)
    kind = FORMATS[original.mime].name if original.mime in FORMATS else "Picture"
    return ItemTarget(item.pk, item.title, address_of(original), kind, original.size)
