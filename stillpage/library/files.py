"""Files going out."""

from __future__ import annotations

from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseNotModified

from stillpage_core.resolving import ImageFile, PictureTarget

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
    if request.headers.get("If-None-Match") == etag:
        return HttpResponseNotModified(headers=headers)
    return FileResponse(default_storage.open(name), content_type=file.mime, headers=headers)


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
        tuple(ImageFile(address_of(file), file.width, file.height) for file in derived),
    )
