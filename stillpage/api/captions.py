"""Captions of films and sounds: written, checked, drafted, brought in, taken out, given to readers."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404
from django.utils.http import content_disposition_header
from ninja import Router
from ninja.files import UploadedFile
from ninja.params.functions import File, Query

from stillpage.computing import computing
from stillpage.library import captions as keeping
from stillpage.library import folders
from stillpage.library.files import address_of, film_target
from stillpage.library.films import make_still
from stillpage.library.models import Captions, Item
from stillpage.rights import Right, open_items, require
from stillpage_core.languages import own_name
from stillpage_core.media.captions import (
    Cue,
    check_captions,
    draft,
    read_captions,
    transcript,
    write_srt,
    write_webvtt,
)
from stillpage_core.media.captions.checking import mend_all
from stillpage_core.media.captions.reading import LARGEST
from stillpage_core.media.playing import transcribed, transcript_name

from . import shapes
from .limits import Costly
from .problems import problem
from .requests import SignedIn
from .schemas.captions import (
    CaptionNotes,
    CaptionsBegun,
    CaptionsBrief,
    CaptionsOut,
    CaptionsSaved,
    CueRow,
    CuesIn,
    CuesRead,
    ItemTranscript,
    TranscriptOut,
    WordsIn,
)
from .schemas.library import ItemOut, StillIn
from .schemas.problems import Problem

router = Router(tags=["captions"])
_TOO_LARGE = f"Captions of one film have {LARGEST // 1024 // 1024} MB at most."
MOST_TOLD = 500
"""How many findings are told at once."""


def _item(request: SignedIn, item_id: int, right: Right = Right.USE_LIBRARY) -> Item:
    require(request.user, right)
    items = Item.objects.select_related("folder").prefetch_related("files")
    found = get_object_or_404(open_items(items, request.user, folders.Tree()), pk=item_id)
    require(request.user, right, found.folder)
    return found


def _captions(request: SignedIn, captions_id: int, right: Right = Right.USE_LIBRARY, *, gone: bool = False) -> Captions:
    """Captions of an item that the person may see; of those taken away only where ``gone`` says so."""
    require(request.user, right)
    rows = Captions.objects.select_related("saved_by", "given")
    found = get_object_or_404(rows if gone else rows.filter(removed_at=None), pk=captions_id)
    found.item = _item(request, found.item_id, right)
    return found


def _cues(rows: list[CueRow]) -> tuple[Cue, ...]:
    return keeping.unpacked([row.model_dump() for row in rows])


def _brief(captions: Captions, item: Item) -> dict[str, Any]:
    return {
        "id": captions.pk,
        "item": item.pk,
        "sort": captions.sort,
        "language": captions.language,
        "name": own_name(captions.language),
        "number": len(captions.cues),
        "revision": captions.revision,
        "drafted": captions.drafted,
        "earlier_file": captions.version != item.version,
        "saved_at": captions.saved_at,
        "saved_by": captions.saved_by.shown_name,
        "given": address_of(captions.given) if captions.given else "",
        "given_at": captions.given_at,
        "differs": captions.given is not None and captions.cues != captions.given_cues,
    }


def _whole(request: SignedIn, captions: Captions) -> dict[str, Any]:
    found = _captions(request, captions.pk)
    return {**_brief(found, found.item), "cues": found.cues, "loud": _stretches(found.item)}


def _stretches(item: Item) -> list[dict[str, int]]:
    return [{"begin": begin, "end": end} for begin, end in keeping.loud(item)]


@router.get("/items/{item_id}/captions", response=list[CaptionsBrief])
def all_captions(request: SignedIn, item_id: int) -> Any:
    """The captions that a film or sound has."""
    item = _item(request, item_id)
    return [_brief(each, item) for each in keeping.of_item(item)]


@router.get("/items/{item_id}/transcript", response=ItemTranscript)
def item_transcript(request: SignedIn, item_id: int, language: str = Query("", max_length=35)) -> Any:
    """The transcript of a film or sound as readers of a page in this language get it."""
    item = _item(request, item_id)
    track = transcribed(film_target(item, language))
    if track is None:
        return {"name": "", "language": "", "paragraphs": []}
    return {"name": transcript_name(track), "language": track.language, "paragraphs": list(track.paragraphs)}


@router.post("/items/{item_id}/stills", response=ItemOut, throttle=[Costly("upload")])
def keep_still(request: SignedIn, item_id: int, given: StillIn) -> Any:
    """Keep what a film shows at a moment, to be its cover on a page."""
    item = _item(request, item_id)
    make_still(item, given.at)
    return shapes.item_out(_item(request, item_id))


@router.post("/items/{item_id}/captions", response={201: CaptionsOut})
def begin_captions(request: SignedIn, item_id: int, given: CaptionsBegun) -> Any:
    """Begin captions in a language."""
    item = _item(request, item_id, Right.DESCRIBE_ITEMS)
    made = keeping.begin(item, request.user, given.sort, given.language, _cues(given.cues))
    return 201, _whole(request, made)


@router.get("/captions/{captions_id}", response=CaptionsOut)
def captions(request: SignedIn, captions_id: int) -> Any:
    """Captions with their cues."""
    found = _captions(request, captions_id)
    brief = CaptionsBrief.model_validate(_brief(found, found.item)).model_dump(mode="json")
    # Cues were held against their shape on the way in. Doing so again took most of the time where there are thousands.
    return JsonResponse({**brief, "cues": found.cues, "loud": _stretches(found.item)})


@router.put("/captions/{captions_id}", response={200: CaptionsBrief, 409: Problem})
def save_captions(request: SignedIn, captions_id: int, given: CaptionsSaved) -> Any:
    """Save captions; 409 when somebody else has saved them since."""
    found = _captions(request, captions_id, Right.DESCRIBE_ITEMS)
    cues = _cues(given.cues)
    saved = keeping.save(found, request.user, given.revision, cues, language=given.language, drafted=given.drafted)
    return _brief(saved, found.item)


@router.delete("/captions/{captions_id}", response={204: None})
def remove_captions(request: SignedIn, captions_id: int) -> Any:
    """Take captions away, from readers too."""
    keeping.remove(_captions(request, captions_id, Right.DESCRIBE_ITEMS))
    return 204, None


@router.post("/captions/{captions_id}/back", response=CaptionsOut)
def bring_captions_back(request: SignedIn, captions_id: int) -> Any:
    """Bring back captions that were taken away; readers do not get them again by that."""
    found = _captions(request, captions_id, Right.DESCRIBE_ITEMS, gone=True)
    return _whole(request, keeping.bring_back(found))


@router.post("/captions/{captions_id}/readers", response=CaptionsBrief)
def give_captions(request: SignedIn, captions_id: int) -> Any:
    """Give captions to readers as they are now."""
    found = _captions(request, captions_id, Right.DESCRIBE_ITEMS)
    return _brief(keeping.give(found), found.item)


@router.delete("/captions/{captions_id}/readers", response=CaptionsBrief)
def take_captions_back(request: SignedIn, captions_id: int) -> Any:
    """Take captions from readers; what is written stays."""
    found = _captions(request, captions_id, Right.DESCRIBE_ITEMS)
    return _brief(keeping.take_back(found), found.item)


@router.post("/captions/{captions_id}/check", response=CaptionNotes, throttle=[Costly("compute")])
def check(request: SignedIn, captions_id: int, given: CuesIn) -> Any:
    """What is wrong with cues as they are being written."""
    found = _captions(request, captions_id)
    cues = _cues(given.cues)
    with computing():
        # Chapters and descriptions are read at one's own speed, and none belongs to what is heard.
        loud = keeping.loud(found.item) if found.sort == Captions.Sort.CAPTIONS else ()
        notes = check_captions(cues, length=found.item.lasts or None, loud=loud)
    return {"notes": [_note(each) for each in notes[:MOST_TOLD]], "total": len(notes)}


def _note(note: Any) -> dict[str, Any]:
    repair = note.repair
    made = repair and {
        "label": repair.label,
        "first": repair.first,
        "last": repair.last,
        "cues": keeping.packed(repair.cues),
    }
    facts = {name: getattr(note, name) for name in ("rule", "sentence", "cue", "at", "severity")}
    return {**facts, "repair": made}


@router.post("/captions/{captions_id}/mend", response=CuesRead, throttle=[Costly("compute")])
def mend(request: SignedIn, captions_id: int, given: CuesIn) -> Any:
    """Cues after every repair there is."""
    found = _captions(request, captions_id)
    with computing():
        return {"cues": keeping.packed(mend_all(_cues(given.cues), length=found.item.lasts or None))}


@router.post("/captions/{captions_id}/draft", response=CuesRead, throttle=[Costly("compute")])
def draft_captions(request: SignedIn, captions_id: int, given: WordsIn) -> Any:
    """Cues out of the plain words of a film, spread over where it is loud. Nothing is saved by this."""
    found = _captions(request, captions_id)
    with computing():
        cues = draft(given.words, length=max(1, found.item.lasts), loud=keeping.loud(found.item))
    return {"cues": keeping.packed(cues)}


@router.post(
    "/cues/read",
    response={200: CuesRead, 413: Problem},
    throttle=[Costly("compute")],
)
def read_file(request: SignedIn, file: UploadedFile = File(...)) -> Any:  # noqa: B008
    """Cues out of a file in WebVTT or SRT. Nothing is saved by this."""
    require(request.user, Right.DESCRIBE_ITEMS)
    if (file.size or 0) > LARGEST:
        return problem(413, "too-large", "Too large", _TOO_LARGE)
    with computing():
        found = read_captions(file.read())
    return {"cues": keeping.packed(found.cues), "language": found.language, "told": list(found.told)}


@router.post("/cues/transcript", response=TranscriptOut, throttle=[Costly("compute")])
def words(request: SignedIn, given: CuesIn) -> Any:
    """The transcript that cues make, as paragraphs."""
    require(request.user, Right.USE_LIBRARY)
    with computing():
        return {"paragraphs": transcript(_cues(given.cues))}


_WRITTEN = {"vtt": "text/vtt", "srt": "application/x-subrip", "txt": "text/plain"}


@router.get("/captions/{captions_id}/file.{ending}", response={200: Any})
def captions_file(request: SignedIn, captions_id: int, ending: Literal["vtt", "srt", "txt"]) -> HttpResponse:
    """Captions as a file: WebVTT, SRT, or a transcript as plain text."""
    found = _captions(request, captions_id)
    text = _text(keeping.unpacked(found.cues), ending, found.language)
    response = HttpResponse(text, content_type=f"{_WRITTEN[ending]}; charset=utf-8")
    name = f"{found.item.title}.{found.language}.{ending}"
    response["Content-Disposition"] = content_disposition_header(as_attachment=True, filename=name) or "attachment"
    response["Cache-Control"] = "no-store"
    return response


def _text(cues: Sequence[Cue], ending: str, language: str) -> str:
    if ending == "vtt":
        return write_webvtt(cues, language=language)
    return write_srt(cues) if ending == "srt" else "\n\n".join(transcript(cues)) + "\n"
