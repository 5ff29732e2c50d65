"""The authoring side beside its API: the sheet (the page in its site's frame, with an empty text that the editor
fills), the library's files, and passes for readers."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404

from stillpage.library.files import Asker
from stillpage.library.files import media as library_file
from stillpage.library.folders import Tree
from stillpage.pages.models import Page
from stillpage.rights import NotAllowed, Right, closed_folders, may, require, sites_of
from stillpage.sites.models import Site

from . import passes
from .rendering import Frame, navigation_html, page_html


def sheet(request: HttpRequest, page_id: int) -> HttpResponse:
    """The frame of a page for the writing view. The title is the working copy's."""
    page = get_object_or_404(Page.objects.select_related("site", "working_copy"), pk=page_id)
    try:
        require(request.user, Right.SEE_CONTENTS, page.site)
    except NotAllowed as error:
        return HttpResponse(str(error), status=403, content_type="text/plain; charset=utf-8")
    html = page_html(
        Frame.of(page.site, [page]), page, title=page.working_copy.title, description="", text="", sheet=True
    )
    return HttpResponse(html, headers={"Cache-Control": "no-store"})


def navigation(request: HttpRequest, site_id: int) -> HttpResponse:
    """The navigation of a site as it will be once every page in it is published, with nothing below it."""
    site = get_object_or_404(Site, pk=site_id)
    try:
        require(request.user, Right.SEE_CONTENTS, site)
    except NotAllowed as error:
        return HttpResponse(str(error), status=403, content_type="text/plain; charset=utf-8")
    return HttpResponse(navigation_html(site), headers={"Cache-Control": "no-store"})


def media(request: HttpRequest, name: str) -> HttpResponseBase:
    """A file of the library, for whoever is signed in here."""
    person = request.user
    reads = sites_of(person, Right.READ_RESTRICTED)
    asker = Asker(
        reads=None if reads is None else frozenset(reads),
        works=may(person, Right.USE_LIBRARY),
        hidden=frozenset(closed_folders(person, Tree())),
    )
    return library_file(request, name, asker)


def reader_pass(request: HttpRequest, site_id: int) -> HttpResponse | None:
    """Lead somebody who is signed in back to a public site, where they are known from then on; None for others."""
    site = get_object_or_404(Site, pk=site_id)
    key = request.session.session_key
    if key is None or not request.user.is_authenticated or not may(request.user, Right.READ_RESTRICTED, site):
        return None
    path = passes.local_path(request.GET.get("to", "/"))
    address = passes.ticket_address(key, site, path)
    return HttpResponseRedirect(address, headers={"Cache-Control": "no-store", "Referrer-Policy": "no-referrer"})
