"""The page that a request asks for, where whoever asks may do with it what they want to."""

from __future__ import annotations

from django.db.models import QuerySet
from django.http import Http404

from stillpage.pages.models import Page
from stillpage.rights import Right, may, require

from .requests import SignedIn


class InBin(Http404):
    """The page asked for is in the bin. Says so, and what would do."""


def page_asked(
    request: SignedIn, page_id: int, right: Right = Right.SEE_CONTENTS, rows: QuerySet[Page] | None = None
) -> Page:
    """The page of this number. ``rows`` are what it is looked for in, with what is read along with it.

    Raises:
        InBin: to those who may see the Contents that it was in.
        Http404: where there is none.
        NotAllowed: where the person has not got the ``right`` on its site.
    """
    among = Page.objects.select_related("site") if rows is None else rows
    page = among.filter(pk=page_id).first()
    if page is None:
        binned = Page.every.select_related("site", "working_copy").filter(pk=page_id).first()
        if binned and may(request.user, Right.SEE_CONTENTS, binned.site):
            raise InBin(f"“{binned.working_copy.title}” is in the bin. It can be put back from there, in the Contents.")
        raise Http404
    require(request.user, right, page.site)
    return page
