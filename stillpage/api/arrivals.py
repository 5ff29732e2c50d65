"""Files on their way into the library: in one go, in pieces, by address, from the commons."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterator
from typing import Any

from django.conf import settings
from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router
from ninja.files import UploadedFile
from ninja.params.functions import File, Form, Query

from stillpage.hosts import keeping
from stillpage.library import folders, uploads
from stillpage.library.models import Folder, Item, Upload
from stillpage.library.receiving import TooLarge, receive
from stillpage.outside import commons as the_commons
from stillpage.outside.fetching import Fetched, Progress, fetch
from stillpage.rights import Right, open_folders, open_items, require
from stillpage_core.errors import CoreError
from stillpage_core.media.pictures import FileError

from . import shapes
from .limits import Costly
from .problems import problem
from .requests import SignedIn
from .schemas.library import CommonsOut, CommonsTake, FetchIn, ItemOut, UploadIn, UploadOut
from .schemas.problems import Problem

router = Router(tags=["library"])
_PAGE = re.compile(rb"<!doctype html|<html", re.IGNORECASE)


def _fresh(item: Item) -> Item:
    return shapes.with_all(Item.objects.filter(pk=item.pk)).get()


def _folder(request: SignedIn, number: int | None) -> Folder | None:
    """The folder into which something is to go; None for the top."""
    if not number:
        return None
    folder = get_object_or_404(open_folders(request.user), pk=number)
    require(request.user, Right.ADD_TO_LIBRARY, folder)
    return folder


@router.post(
    "/items",
    response={200: ItemOut, 201: ItemOut, 413: Problem, 415: Problem},
    throttle=[Costly("upload")],
)
def add_item(
    request: SignedIn,
    file: UploadedFile | None = File(None),  # noqa: B008
    alt: str = Form(""),
    folder: int | None = Form(None),
) -> Any:
    """Add a picture or a document. The same bytes again answer 200 with the item that has them already."""
    require(request.user, Right.ADD_TO_LIBRARY)
    if request.META.get("stillpage.too_large"):
        raise TooLarge
    if file is None:
        return problem(422, "no-file", "There is no file", "Choose a file to add.")
    item, is_new = receive(file, request.user, alt, folder=_folder(request, folder))
    return (201 if is_new else 200), shapes.item_out(_fresh(item), is_new=is_new)


@router.post(
    "/uploads",
    response={201: UploadOut, 413: Problem, 415: Problem},
    throttle=[Costly("upload")],
)
def begin_upload(request: SignedIn, given: UploadIn) -> Any:
    """Begin to send a file in pieces; one that was broken off goes on from the bytes ``received``."""
    require(request.user, Right.ARRANGE_LIBRARY if given.replaces else Right.ADD_TO_LIBRARY)
    seen = open_items(Item.objects.all(), request.user, folders.Tree())
    replaces = get_object_or_404(seen, pk=given.replaces) if given.replaces else None
    if replaces:
        require(request.user, Right.ARRANGE_LIBRARY, replaces.folder)
    upload = uploads.begin(
        request.user,
        given.name[-255:],
        given.size,
        given.stamp,
        folder=_folder(request, given.folder),
        replaces=replaces,
    )
    return 201, _upload_out(upload)


def _upload_out(upload: Upload) -> dict[str, Any]:
    return {"id": str(upload.pk), "received": upload.received, "piece": settings.UPLOAD_PIECE}


def _upload(request: SignedIn, upload_id: str) -> Upload:
    try:
        return get_object_or_404(
            Upload.objects.select_related("replaces", "folder", "item"), pk=upload_id, person=request.user
        )
    except ValidationError as error:
        raise Http404 from error


@router.get("/uploads/{upload_id}", response=UploadOut)
def upload_state(request: SignedIn, upload_id: str) -> Any:
    """How much of a file has come."""
    require(request.user, Right.ADD_TO_LIBRARY)
    return _upload_out(_upload(request, upload_id))


@router.put(
    "/uploads/{upload_id}",
    response={200: UploadOut, 409: Problem, 413: Problem},
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
def add_piece(request: SignedIn, upload_id: str, start: int = Query(..., ge=0)) -> Any:
    """Send the bytes of a file from ``start`` on. What arrives of a piece that breaks off is kept."""
    require(request.user, Right.ADD_TO_LIBRARY)
    upload = _upload(request, upload_id)
    length = int(request.META.get("CONTENT_LENGTH") or 0)
    if length > settings.UPLOAD_PIECE:
        megabytes = settings.UPLOAD_PIECE // 1024 // 1024
        return problem(413, "too-large", "The piece is too large", f"A piece may have {megabytes} MB at most.")
    try:
        return _upload_out(uploads.add_piece(upload, start, request))
    except uploads.UploadError as error:
        return problem(409, "other-piece", "Another piece is expected", str(error), received=error.received)


@router.post(
    "/uploads/{upload_id}",
    response={200: ItemOut, 201: ItemOut, 409: Problem, 415: Problem},
)
def finish_upload(request: SignedIn, upload_id: str) -> Any:
    """Make the item that a whole file is. The same bytes again answer 200 with the item that has them already."""
    require(request.user, Right.ADD_TO_LIBRARY)
    upload = _upload(request, upload_id)
    try:
        item, is_new = uploads.finish(upload, request.user)
    except uploads.UploadError as error:
        return problem(409, "other-piece", "The file is not whole yet", str(error), received=error.received)
    return (201 if is_new else 200), shapes.item_out(_fresh(item), is_new=is_new)


@router.delete("/uploads/{upload_id}", response={204: None})
def cancel_upload(request: SignedIn, upload_id: str) -> Any:
    """Let go of a file and what arrived of it."""
    require(request.user, Right.ADD_TO_LIBRARY)
    uploads.forget(_upload(request, upload_id))
    return 204, None


@router.post("/library/fetch", response={200: Any}, throttle=[Costly("fetch")])
def fetch_item(request: SignedIn, given: FetchIn) -> Any:
    """Add what is at an address; a film at a host that is allowed stays there. The answer is a line of JSON for each
    step: ``{"received": …, "of": …}``; the last has
    the ``item``, or a ``problem``. Who breaks off before has added nothing."""
    require(request.user, Right.ADD_TO_LIBRARY)
    folder = _folder(request, given.folder)
    if keeping.is_hosted(given.address):
        return _streamed(keeping.bring(given.address, request.user, folder))

    def take(fetched: Fetched) -> tuple[Item, bool]:
        try:
            return receive(fetched.file, request.user, name=fetched.name, folder=folder)
        except FileError as error:
            fetched.file.seek(0)
            if not _PAGE.search(fetched.file.read(1024)):
                raise
            names = ", ".join(host.name for host in keeping.allowed()) or "nowhere so far"
            sentence = f"At this address is a page, and no file. Link to it. Films are shown here from: {names}."
            raise FileError(sentence) from error

    return _streamed(fetch(given.address, settings.UPLOAD_LIMIT), take)


@router.get(
    "/commons",
    response={200: CommonsOut, 404: Problem, 422: Problem},
    throttle=[Costly("search")],
)
def commons(request: SignedIn, q: str = Query("", max_length=200), page: int = Query(1, ge=1, le=1000)) -> Any:
    """Freely licensed pictures for some words."""
    require(request.user, Right.ADD_TO_LIBRARY)
    if not the_commons.offered():
        raise Http404
    offers, more = the_commons.search(q, page)
    pictures = [
        {
            **{name: getattr(offer, name) for name in ("id", "title", "author", "licence", "alt", "width", "height")},
            "preview": f"/api/commons/{offer.id}/preview",
        }
        for offer in offers
    ]
    return {"pictures": pictures, "more": more}


@router.get("/commons/{number}/preview", response={200: Any, 422: Problem})
def commons_preview(request: SignedIn, number: str) -> HttpResponse:
    """A small picture of an offer of the commons. It comes by way of us, so that nobody else learns who looks."""
    require(request.user, Right.ADD_TO_LIBRARY)
    data = the_commons.preview(number)
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": "private, max-age=3600"})


@router.post("/commons/take", response={200: Any}, throttle=[Costly("fetch")])
def take_from_commons(request: SignedIn, given: CommonsTake) -> Any:
    """Add a picture of the commons, with its licence and credit. Answers as adding by address does."""
    require(request.user, Right.ADD_TO_LIBRARY)
    folder = _folder(request, given.folder)
    offer = the_commons.picture(given.id)

    def take(fetched: Fetched) -> tuple[Item, bool]:
        facts = the_commons.facts_of(offer)
        return receive(fetched.file, request.user, facts.pop("alt"), name=fetched.name, folder=folder, **facts)

    return _streamed(fetch(offer.file, settings.UPLOAD_LIMIT), take)


def _streamed(
    steps: Iterator[Progress | Fetched | keeping.Brought], take: Callable[[Fetched], tuple[Item, bool]] | None = None
) -> StreamingHttpResponse:
    response = StreamingHttpResponse(_lines(steps, take), content_type="application/x-ndjson")
    response["Cache-Control"] = "no-store"
    response["X-Accel-Buffering"] = "no"
    return response


def _lines(
    steps: Iterator[Progress | Fetched | keeping.Brought], take: Callable[[Fetched], tuple[Item, bool]] | None
) -> Iterator[str]:
    try:
        for step in steps:
            if isinstance(step, Progress):
                yield json.dumps({"received": step.received, "of": step.of}) + "\n"
                continue
            if isinstance(step, keeping.Brought):
                item, is_new, told = step.item, step.is_new, step.told
            elif take is not None:
                with step.file:
                    item, is_new = take(step)
                told = ""
            out = ItemOut(**shapes.item_out(_fresh(item), is_new=is_new)).model_dump(mode="json")
            yield json.dumps({"item": out, "told": told}) + "\n"
    except CoreError as error:
        yield json.dumps({"problem": str(error)}) + "\n"
    except OSError:
        sentence = "The server has no room left, or cannot write. Nothing was kept; tell an administrator."
        yield json.dumps({"problem": sentence}) + "\n"
