"""The sheet: the page in its site's frame, with an empty text that the editor fills."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404

from stillpage.pages.models import Page
from stillpage.people.permissions import Act, NotAllowed, require

from .rendering import Frame, page_html


def sheet(request: HttpRequest, page_id: int) -> HttpResponse:
    """The frame of a page for the writing view. The title is the working copy's."""
    page = get_object_or_404(Page.objects.select_related("site", "working_copy"), pk=page_id)
    try:
        require(request.user, Act.SEE_CONTENTS, page.site)
    except NotAllowed as error:
        return HttpResponse(str(error), status=403, content_type="text/plain; charset=utf-8")
    html = page_html(Frame.of(page.site), page, title=page.working_copy.title, description="", text="", sheet=True)
    return HttpResponse(html, headers={"Cache-Control": "no-store"})
