"""What a screen reader says of a page as readers would have it."""

from __future__ import annotations

from stillpage.computing import computing
from stillpage.pages.models import Page
from stillpage.pages.seeing import Sight
from stillpage.sites.themes import theme_of
from stillpage.written.saving import Draft
from stillpage_core.writing.listening import Line, heard, marked_html, spoken

from .rendering import Frame, page_html
from .resolving import resolver_for


def lines_of(page: Page, draft: Draft, *, sight: Sight) -> list[Line]:
    """The lines that are said of the whole page, its site's header and footer among them, with this text."""
    resolver = resolver_for([draft.document], page.site.origin, page.site, sight=sight)
    frame = Frame.of(page.site, [page])
    with computing():
        text = marked_html(draft.document, resolver, theme_of(page.site.theme).rooms)
        html = page_html(frame, page, title=draft.title, description=draft.description, text=text)
        return list(spoken(heard(html)))
