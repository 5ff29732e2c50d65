"""Files coming in: limited while they arrive, told apart by their bytes, and made into items."""

from __future__ import annotations

import hashlib
import re
import warnings
from io import BytesIO
from pathlib import PurePath
from typing import Any

from django.conf import settings
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import UploadedFile
from django.core.files.uploadhandler import FileUploadHandler, StopUpload
from django.db import transaction
from django.utils import timezone
from PIL import Image, ImageOps

from stillpage.people.models import Person
from stillpage_core.media.documents import sniff_document
from stillpage_core.media.pictures import FileError, Format, PictureError, check_size, derived_sizes, sniff

from .models import File, Item

Image.MAX_IMAGE_PIXELS = None  # The core's own limit is asked before anything is decoded.


class TooLarge(FileError):
    """The file has more bytes than are taken."""

    def __init__(self, limit: int | None = None) -> None:
        megabytes = (limit or settings.UPLOAD_LIMIT) // (1024 * 1024)
        super().__init__(f"This file is larger than {megabytes} MB, the most that is taken. Save it smaller.")


class Limit(FileUploadHandler):
    """Stops keeping a file once it is larger than the limit; the rest is read and thrown away, so that the sender
    gets an answer instead of a broken connection."""

    def handle_raw_input(
        self, input_data: Any, META: Any, content_length: int, boundary: Any, encoding: Any = None
    ) -> None:
        self.received = 0
        imports = META.get("PATH_INFO", "").endswith(("/import", "/api/read"))
        self.limit = settings.IMPORT_LIMIT if imports else settings.UPLOAD_LIMIT

    def receive_data_chunk(self, raw_data: bytes, start: int) -> bytes:
        self.received += len(raw_data)
        if self.received > self.limit:
            self.request.META["stillpage.too_large"] = True  # type: ignore[union-attr]
            raise StopUpload(connection_reset=False)
        return raw_data

    def file_complete(self, file_size: int) -> None:
        return None


def title_from_name(name: str) -> str:
    """A first title for a file from its name: the ending and any path gone, hyphens and underscores as spaces."""
    stem = PurePath(name.replace("\\", "/")).stem
    words = re.sub(r"[\s_-]+", " ", re.sub(r"[\x00-\x1f\x7f-\x9f\u200e\u200f\u202a-\u202e\u2066-\u2069]", "", stem))
    return words.strip()[:200] or "Without a name"


def receive(upload: UploadedFile, person: Person, alt: str = "") -> tuple[Item, bool]:
    """Make an item of an uploaded picture or document; returns it, and whether it is new.

    The same bytes again give the item that has them already. Nothing is kept when anything fails.

    Raises:
        FileError: when the bytes are nothing that is taken, with a sentence.
    """
    if upload.size is not None and upload.size > settings.UPLOAD_LIMIT:
        raise TooLarge
    upload.seek(0)
    data = upload.read()
    document = sniff_document(data)
    form = document or sniff(data[:65536])
    digest = hashlib.sha256(data).hexdigest()
    if known := File.objects.filter(sha256=digest, original=True).select_related("item").first():
        return known.item, False
    files = _document_file(data, document, digest) if document else _files(data, form, digest)
    saved: list[str] = []
    try:
        with transaction.atomic():
            item = Item.objects.create(
                kind=Item.Kind.DOCUMENT if document else Item.Kind.PICTURE,
                title=title_from_name(upload.name or ""),
                alt="" if document else alt[:1000],
                added_at=timezone.now(),
                added_by=person,
            )
            for record, content in files:
                record.item = item
                if not default_storage.exists(record.name):
                    default_storage.save(record.name, ContentFile(content))
                    saved.append(record.name)
                record.save()
    except BaseException:
        for name in saved:
            default_storage.delete(name)
        raise
    return item, True


def _document_file(data: bytes, form: Format, digest: str) -> list[tuple[File, bytes]]:
    name = f"{digest[:2]}/{digest[2:18]}/original.{form.ending}"
    return [(_record(name, form.mime, 0, 0, data, original=True), data)]


def _files(data: bytes, form: Format, digest: str) -> list[tuple[File, bytes]]:
    """The original and the derived files of a picture, with their bytes."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            picture = Image.open(BytesIO(data), formats=[form.name.upper()])
            check_size(*picture.size)
            picture.load()
        upright = ImageOps.exif_transpose(picture)
    except PictureError:
        raise
    except Exception as error:  # Decoders raise errors of many kinds for damaged files.
        raise PictureError(
            f"This says it is a {form.name} picture, but it cannot be read to its end. It may be damaged."
        ) from error
    folder = f"{digest[:2]}/{digest[2:18]}"
    width, height = upright.size
    files = [(_record(f"{folder}/original.{form.ending}", form.mime, width, height, data, original=True), data)]
    for size in derived_sizes(width, height):
        made = _encoded(upright, size, form)
        files.append((_record(f"{folder}/{size[0]}.{form.ending}", form.mime, *size, made, original=False), made))
    return files


def _encoded(picture: Image.Image, size: tuple[int, int], form: Format) -> bytes:
    """The picture at another size in its own format, without metadata save its colour profile."""
    small = picture.convert("RGBA" if "transparency" in picture.info else "RGB") if picture.mode == "P" else picture
    small = small.resize(size, Image.Resampling.LANCZOS, reducing_gap=3) if small.size != size else small
    options: dict[str, Any] = {"icc_profile": picture.info.get("icc_profile")}
    if form.name == "JPEG":
        small = small if small.mode in ("RGB", "L") else small.convert("RGB")
        options |= {"quality": 82, "progressive": True, "optimize": True}
    elif form.name == "WebP":
        options |= {"quality": 82, "method": 4}
    elif form.name == "PNG":
        options |= {"optimize": True}
    out = BytesIO()
    small.save(out, form.name.upper(), **{name: value for name, value in options.items() if value is not None})
    return out.getvalue()


def _record(name: str, mime: str, width: int, height: int, data: bytes, *, original: bool) -> File:
    return File(
        name=name,
        mime=mime,
        width=width,
        height=height,
        size=len(data),
        sha256=hashlib.sha256(data).hexdigest(),
        original=original,
    )
