"""Saving the working copy, and who else writes on it."""

from __future__ import annotations

from typing import Any

from ninja import Router
from pydantic import UUID4

from stillpage import room
from stillpage.arranging.placing import follow_title
from stillpage.computing import computing
from stillpage.pages.seeing import sight_of
from stillpage.rights import Right
from stillpage.written import saving, together
from stillpage.written.models import Clash, WorkingCopy

from . import shapes
from .asked import page_asked
from .problems import problem
from .requests import SignedIn
from .schemas.problems import Problem
from .schemas.writing import SaveOut, TextIn, TogetherOut, WorkingCopyIn, WritingIn

router = Router(tags=["pages"])


def _draft(given: TextIn) -> saving.Draft:
    return saving.Draft(given.title, given.description, shapes.document_of(given.document))


@router.put(
    "/pages/{page_id}/working-copy",
    response={200: SaveOut, 403: Problem, 409: Problem, 422: Problem},
)
def save(request: SignedIn, page_id: int, given: WorkingCopyIn) -> Any:
    """Save the working copy, merged with what others have saved since ``base``.

    Asked again with the same ``mark``, it is not done twice. Where somebody has saved and ``began`` is missing, 409
    asks for it and nothing is changed.
    """
    found = page_asked(request, page_id, Right.WRITE)
    if given.person is not None and given.person != request.user.get_username():
        return problem(
            403,
            "somebody-else",
            "Somebody else is signed in",
            f"{request.user.shown_name} is signed in here now, and these words are somebody else’s.",
        )
    draft = _draft(given)
    began = _draft(given.began) if given.began else None
    with computing():
        saved = saving.save(found, request.user, draft, given.base, mark=given.mark, began=began)
        if found.slug_follows:
            follow_title(found, saved.copy.title)
        merged = _merged_out(request, draft, saved.copy) if saved.differs else None
    return {
        "revision": saved.copy.revision,
        "saved_at": saved.copy.saved_at,
        "saved_by": saved.copy.saved_by.shown_name,
        "live": shapes.live_out(found, saved.copy),
        "merged": merged,
        "twice": saved.twice,
        "clashes": shapes.clashes_out(found, saved.copy),
    }


def _merged_out(request: SignedIn, draft: saving.Draft, copy: WorkingCopy) -> dict[str, Any]:
    items, pages = shapes.named_out(copy.tree, sight_of(request.user))
    return {
        "title": copy.title,
        "description": copy.description,
        "document": copy.document,
        "changes": list(saving.changes_between(draft, copy)),
        "items": items,
        "pages": pages,
    }


@router.post("/pages/{page_id}/writing", response=TogetherOut)
def writing(request: SignedIn, page_id: int, given: WritingIn) -> Any:
    """Say that one writes here, and where; says who else does, and whether the text is newer than one has it."""
    found = page_asked(request, page_id, Right.WRITE)
    together.here(found, request.user, given.window, given.block)
    copy = WorkingCopy.objects.defer("document").get(written=found)
    return {
        "revision": copy.revision,
        "room": not room.is_little(),
        "clashes": list(Clash.objects.filter(written=found).values_list("pk", flat=True)),
        "others": [
            {
                "window": each.window,
                "name": each.person.shown_name,
                "own": each.person_id == request.user.pk,
                "block": each.block,
            }
            for each in together.others(found, given.window)
        ],
    }


@router.delete("/pages/{page_id}/writing/{window}", response={204: None})
def leaves(request: SignedIn, page_id: int, window: UUID4) -> Any:
    """A window was closed."""
    page_asked(request, page_id, Right.WRITE)
    together.gone(request.user, window)
    return 204, None


@router.delete("/pages/{page_id}/clashes/{clash_id}", response={204: None})
def settled(request: SignedIn, page_id: int, clash_id: int) -> Any:
    """Somebody has chosen, and the text says what. Done already is done."""
    found = page_asked(request, page_id, Right.WRITE)
    Clash.objects.filter(written=found, pk=clash_id).delete()
    return 204, None
