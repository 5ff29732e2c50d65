"""Looking for pages of a public site: a page with what was found, made of stored rows, without any script."""

from __future__ import annotations

from html import escape

from stillpage.searching import words_in
from stillpage.sites.models import Site
from stillpage.written.search import LIVE
from stillpage_core.writing.html import attribute

from .models import LiveCopy
from .rendering import Frame, answer_html, search_form

PATH = "/search"
SHOWN = 20
LONGEST = 200


def found(site: Site, words: str) -> list[tuple[str, str, str]]:
    """The title, path and description of the first pages of a site that hold all the words; hidden ones are none."""
    rows = LiveCopy.objects.filter(site=site, written__page__hidden=False).order_by("address")
    numbers = LIVE.first_of(rows, words, 0, SHOWN) if words_in(words) else []
    lives = {live.pk: live for live in LiveCopy.objects.filter(pk__in=numbers).only("title", "description", "address")}
    asked = set(words_in(words))
    # Those whose title says it come first.
    ordered = sorted(
        (number for number in numbers if number in lives),
        key=lambda number: not asked & set(words_in(lives[number].title)),
    )
    return [
        (lives[number].title, (lives[number].address or "").removeprefix(site.host), lives[number].description)
        for number in ordered
    ]


def search_html(site: Site, words: str) -> str:
    """The page with what was found."""
    words = " ".join(words.split())[:LONGEST]
    pages = found(site, words)
    entries = "".join(
        f"<li><a{attribute('href', path)}>{escape(title)}</a>"
        f"{f'<p>{escape(description)}</p>' if description else ''}</li>"
        for title, path, description in pages
    )
    told = ""
    if words:
        many = "One page was found." if len(pages) == 1 else f"{len(pages)} pages were found."
        many = f"The first {SHOWN} pages are shown." if len(pages) == SHOWN else many
        told = f"<p>{many if pages else 'Nothing was found. Try fewer words, or others.'}</p>"
    text = f"{search_form(words)}{told}{f'<ul class=found>{entries}</ul>' if entries else ''}"
    return answer_html(Frame.of(site, ()), f"Search: {words}" if words else "Search", text)
