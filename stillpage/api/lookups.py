"""Aids to writing: equations, signs by name, the headings of a page."""

from __future__ import annotations

from typing import Any

from ninja import Router

from stillpage.pages.models import Page
from stillpage.rights import Right, require
from stillpage_core.document.outline import outline
from stillpage_core.equations import EquationError, mathml
from stillpage_core.signs import find_signs
from stillpage_core.writing.anchors import anchors_of

from .asked import page_asked
from .limits import Costly
from .problems import problem
from .requests import SignedIn
from .schemas.checking import HeadingOut
from .schemas.problems import Problem
from .schemas.writing import EquationIn, EquationOut, SignOut

router = Router(tags=["writing"])


@router.post("/equation", response={200: EquationOut, 422: Problem})
def equation(request: SignedIn, given: EquationIn) -> Any:
    """An equation as MathML; where it cannot be read, the place of the fault."""
    require(request.user, Right.SEE_CONTENTS)
    try:
        return {"mathml": mathml(given.latex, display=given.display)}
    except EquationError as error:
        return problem(422, "unreadable-equation", "The equation cannot be read", str(error), place=error.place)


@router.get("/signs", response=list[SignOut], throttle=[Costly("search")])
def signs(request: SignedIn, q: str) -> Any:
    """Symbols and emoji whose names hold the words."""
    require(request.user, Right.SEE_CONTENTS)
    return [{"text": sign.text, "name": sign.name} for sign in find_signs(q[:100])]


@router.get("/pages/{page_id}/headings", response=list[HeadingOut])
def headings(request: SignedIn, page_id: int) -> Any:
    """The headings of a page as readers have them, or, where it is not published, of its working copy."""
    page = page_asked(request, page_id, rows=Page.objects.select_related("site", "working_copy"))
    live = getattr(page, "live_copy", None)
    document = (live or page.working_copy).tree
    anchors = anchors_of(document)
    return [
        {"level": entry.level, "text": entry.text, "anchor": anchors[entry.path]}
        for entry in outline(document)
        if entry.text
    ]
