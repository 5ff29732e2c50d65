"""Texts coming in and pages going out: paste, files, many files at once, export."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import asdict
from typing import Any, Literal

from django.conf import settings
from django.db import InterfaceError, OperationalError
from django.http import HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from django.utils.http import content_disposition_header
from ninja import Router
from ninja.files import UploadedFile
from ninja.params.functions import File, Form

from stillpage.computing import computing
from stillpage.exchange.arriving import Arrived, arrived, surroundings
from stillpage.exchange.exporting import export_page, export_site
from stillpage.exchange.importing import Outcome, Step, import_files
from stillpage.library.receiving import TooLarge
from stillpage.outages import is_outage
from stillpage.pages.models import Page
from stillpage.pages.seeing import Sight, sight_of
from stillpage.people.models import Person
from stillpage.rights import Right, require
from stillpage.sites.models import Site
from stillpage.trail.noting import note
from stillpage_core.document import Node
from stillpage_core.document.fitting import fitted, words_of
from stillpage_core.document.node import document_of, make
from stillpage_core.document.walking import blocks_of, units
from stillpage_core.errors import CoreError
from stillpage_core.formats import format_of, read_file
from stillpage_core.reading import (
    Message,
    Reading,
    looks_like_markdown,
    read_html,
    read_markdown,
    read_plain,
    read_text,
    with_fresh_anchors,
)
from stillpage_core.reading.rtf import with_rtf_pictures
from stillpage_core.reading.source import read_source
from stillpage_core.writing import plain_text
from stillpage_core.writing.anchors import slug
from stillpage_core.writing.source import source_html

from . import shapes
from .asked import page_asked
from .limits import Costly
from .problems import problem
from .requests import SignedIn
from .schemas.exchange import ArrivedOut, Landing, PasteIn, SourceIn, SourceOut, SourceReadIn, SourceReadOut
from .schemas.problems import Problem

router = Router(tags=["exchange"])
Ending = Literal["docx", "odt", "md", "html", "txt"]


@router.post("/paste", response={200: ArrivedOut, 413: Problem, 422: Problem}, throttle=[Costly("paste")])
def paste(request: SignedIn, given: PasteIn) -> Any:
    """Read what is on the clipboard; its pictures go into the media library."""
    require(request.user, Right.WRITE)
    sight = sight_of(request.user)
    with computing():
        reading, read_as = _read(given, sight)
    into = arrived(reading, _person(request), given.pictures)
    return _arrived_out(reading, into, read_as, given, sight)


def _person(request: SignedIn) -> Person:
    person = request.user
    assert isinstance(person, Person)
    return person


def _read(given: PasteIn, sight: Sight) -> tuple[Reading, str]:
    if given.plain:
        text = given.text or _words_of(given.html)
        return read_plain(text), "txt"
    arriving = surroundings(sight)
    if given.html.strip():
        reading = read_html(given.html, arriving, under=given.under)
        if not (_is_bare(reading.document) and looks_like_markdown(given.text)):
            return with_rtf_pictures(reading, given.rtf), "html"
        # Editors of plain text put coloured HTML beside the Markdown that it shows.
        arriving = surroundings(sight)
    if looks_like_markdown(given.text):
        return read_markdown(given.text, arriving), "md"
    return read_text(given.text, arriving, under=given.under), "txt"


def _words_of(html: str) -> str:
    return plain_text(read_html(html).document)


def _is_bare(document: Node) -> bool:
    """Whether nothing but words, lines and preformatted text was read."""
    plain = {"paragraph", "preformatted", "text", "line_break"}
    return all(
        block.kind in plain and all(node.kind in plain and not node.marks for node in block.content)
        for _, block in blocks_of(document)
    )


def _arrived_out(
    reading: Reading, into: Arrived, read_as: str, place: Landing, sight: Sight, *, whole: bool = False
) -> dict[str, Any]:
    """A document with the blocks as they fit where they are to stand. The ``whole`` of a page has its regions, too."""
    document = into.document if whole else document_of(_fitting(into.document, place))
    document = with_fresh_anchors(document, place.taken)
    items, pages = shapes.named_out(document, sight)
    return {
        "document": document.to_json(),
        "read_as": read_as,
        "title": reading.title,
        "told": told_out(Reading(document).kept, into.messages),
        "items": items,
        "pages": pages,
    }


def _fitting(document: Node, place: Landing) -> list[Node]:
    blocks = [block for _, block in blocks_of(document)]
    if place.container == "line":
        blocks = [make("paragraph", words_of(blocks))]
    elif place.container != "region" and not (place.container in _CELLS and _is_grid(blocks)):
        blocks = fitted(place.container, blocks)
    return blocks


_CELLS = ("table_cell", "table_header")


def _is_grid(blocks: list[Node]) -> bool:
    """Whether these are just cells, which go into the cells of the table that they are put into."""
    return len(blocks) == 1 and blocks[0].kind == "table" and len(blocks[0].content) == 1


def told_out(kept: tuple[str, ...], messages: tuple[Message, ...]) -> dict[str, Any]:
    """What was done on the way in."""
    return {
        "kept": list(kept),
        "mended": [message.sentence for message in messages if message.sort == "mended"],
        "dropped": [message.sentence for message in messages if message.sort == "dropped"],
    }


@router.post("/read", response={200: ArrivedOut, 413: Problem, 422: Problem}, throttle=[Costly("paste")])
def read(
    request: SignedIn,
    place: Landing = Form(...),  # noqa: B008
    whole: bool = Form(False),
    file: UploadedFile | None = File(None),  # noqa: B008
) -> Any:
    """Read a file (DOCX, ODT, Markdown, HTML, text) to be put onto a page; its pictures go into the media library.

    ``whole`` tells that the page is empty and takes the text's title too.
    """
    require(request.user, Right.WRITE)
    if request.META.get("stillpage.too_large"):
        raise TooLarge(settings.IMPORT_LIMIT)
    if file is None:
        return problem(422, "no-file", "There is no file", "Choose a file to bring in.")
    data = file.read()
    name = file.name or ""
    sight = sight_of(request.user)
    with computing():
        reading = read_file(name, data, surroundings(sight, whole=whole), under=place.under)
    into = arrived(reading, _person(request))
    return _arrived_out(reading, into, format_of(name, data).ending, place, sight, whole=whole)


@router.post(
    "/sites/{site_id}/import",
    response={200: Any, 413: Problem, 422: Problem},
    throttle=[Costly("import")],
)
def import_pages(
    request: SignedIn,
    site_id: int,
    files: list[UploadedFile] = File(...),  # noqa: B008
    paths: list[str] = Form([]),  # noqa: B008
    parent: int | None = Form(None),
) -> Any:
    """Make pages of files, or of a ZIP of them, below ``parent`` or at the top of the site.

    The answer is a line of JSON for each step, as it is taken: ``{"done": 3, "of": 12, "name": …}``; the last one has
    the ``pages`` that were made and the files ``refused``, or a ``problem``. Who breaks off before has made no page.
    ``paths`` are the places of the files in the folder that they come from.
    """
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.WRITE, site)
    require(request.user, Right.ADD_TO_LIBRARY)
    if request.META.get("stillpage.too_large"):
        raise TooLarge(settings.IMPORT_LIMIT)
    above = get_object_or_404(Page, pk=parent, site=site) if parent else None
    names = [*paths, *[""] * len(files)]
    given = [(path or file.name or "", file.read()) for file, path in zip(files, names, strict=False)]
    steps = import_files(site, _person(request), given, above)
    # What cannot be begun at all is an error as any other.
    first = next(steps)
    response = StreamingHttpResponse(_lines(first, steps), content_type="application/x-ndjson")
    response["Cache-Control"] = "no-store"
    response["X-Accel-Buffering"] = "no"
    return response


def _lines(first: Step | Outcome, steps: Iterator[Step | Outcome]) -> Iterator[str]:
    try:
        yield _line(first)
        for step in steps:
            yield _line(step)
    except CoreError as error:
        yield json.dumps({"problem": str(error)}) + "\n"
    except (OperationalError, InterfaceError) as error:
        if not is_outage(error):
            raise
        sentence = "The database could not be reached, or was busy. No page was made; try again in a few seconds."
        yield json.dumps({"problem": sentence}) + "\n"


def _line(step: Step | Outcome) -> str:
    if isinstance(step, Step):
        return json.dumps({"done": step.done, "of": step.of, "name": step.name}) + "\n"
    pages = [
        {
            "id": page.pk,
            "title": page.working_copy.title,
            "path": page.path,
            "told": told_out(Reading(page.working_copy.tree).kept, messages),
        }
        for page, messages in step.pages
    ]
    refused = [{"name": name, "why": why} for name, why in step.refused]
    return json.dumps({"pages": pages, "refused": refused}) + "\n"


@router.get("/pages/{page_id}/export/{ending}", response={200: Any, 404: Problem}, throttle=[Costly("export")])
def export(request: SignedIn, page_id: int, ending: Ending) -> HttpResponse:
    """The working copy as a file; as a ZIP with its pictures where the format cannot hold them."""
    page = page_asked(request, page_id, rows=Page.objects.select_related("site", "working_copy"))
    goods = export_page(page, ending, sight_of(request.user))
    sentence = f"{request.user.shown_name} exported “{page.working_copy.title}” as {ending}."
    note("exported", sentence, person=request.user, site=page.site, page=page.pk, ending=ending)
    return HttpResponse(goods.data, content_type=goods.mime, headers=_attached(goods.name))


@router.get("/sites/{site_id}/export", response={200: Any, 404: Problem}, throttle=[Costly("export")])
def export_all(request: SignedIn, site_id: int) -> Any:
    """The whole site as readers have it, as a ZIP of files that any web server can serve."""
    site = get_object_or_404(Site, pk=site_id)
    require(request.user, Right.SEE_CONTENTS, site)
    name = f"{slug(site.name, 'site')}.zip"
    note("exported", f"{request.user.shown_name} exported the {site.name}.", person=request.user, site=site)
    return StreamingHttpResponse(export_site(site), content_type="application/zip", headers=_attached(name))


@router.post("/source", response={200: SourceOut, 422: Problem})
def source(request: SignedIn, given: SourceIn) -> Any:
    """The HTML of a document as it is being written."""
    require(request.user, Right.SEE_CONTENTS)
    caret = (tuple(given.caret.path), given.caret.position) if given.caret else None
    document = shapes.document_of(given.document)
    with computing():
        html, place = source_html(document, caret)
    return {"html": html, "caret": None if place is None else units(html[:place])}


@router.post("/source/read", response={200: SourceReadOut, 413: Problem}, throttle=[Costly("paste")])
def read_back(request: SignedIn, given: SourceReadIn) -> Any:
    """The document that HTML written by hand means, and what of it would be removed or changed."""
    require(request.user, Right.WRITE)
    sight = sight_of(request.user)
    with computing():
        found = read_source(given.html, given.caret, surroundings(sight))
    document = found.reading.document
    items, pages = shapes.named_out(document, sight)
    caret = {"path": list(found.caret[0]), "position": found.caret[1]} if found.caret else None
    notes = [asdict(note) for note in found.notes]
    return {"document": document.to_json(), "notes": notes, "caret": caret, "items": items, "pages": pages}


def _attached(name: str) -> dict[str, str]:
    disposition = content_disposition_header(as_attachment=True, filename=name) or "attachment"
    return {"Content-Disposition": disposition, "Cache-Control": "no-store", "X-Content-Type-Options": "nosniff"}
