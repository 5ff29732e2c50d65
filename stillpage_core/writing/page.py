"""A whole public page: the document within its site's frame.

The sheet is this same page with an empty text, which the editor fills; so the two cannot differ.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from html import escape

from ..sites.search_result import shown_title
from .html import attribute


@dataclass(frozen=True)
class Link:
    """An entry of the navigation. ``current`` marks the page itself, or one that it stands under."""

    title: str
    address: str
    current: bool = False


@dataclass(frozen=True)
class Site:
    """What all pages of a site share. ``navigation`` is the bar at the top; ``address`` is the site's origin."""

    name: str
    address: str
    language: str
    theme: str
    navigation: tuple[Link, ...] = ()
    footer: str = ""


@dataclass(frozen=True)
class PageParts:
    """What one page adds. ``text`` is HTML as `published_html` gives it; the rest is plain text.

    ``trail`` leads from the site's first page to the one above this one; ``below`` are the pages under it.
    """

    title: str
    description: str
    address: str
    text: str = ""
    trail: tuple[Link, ...] = ()
    below: tuple[Link, ...] = ()
    indexable: bool = field(default=True)


def render_page(site: Site, page: PageParts, stylesheets: Sequence[str], icon: str, *, sheet: bool = False) -> str:
    """The page as a complete HTML document; for the arguments see `render_around`."""
    before, after = render_around(site, page, stylesheets, icon, sheet=sheet)
    return before + page.text + after


def render_around(
    site: Site, page: PageParts, stylesheets: Sequence[str], icon: str, *, sheet: bool = False
) -> tuple[str, str]:
    """What stands in the page's HTML before its text, and what after it; ``page.text`` is not looked at.

    ``stylesheets`` and ``icon`` (an SVG) are addresses.
    With ``sheet`` the title and the text can be written in and the page is kept out of search engines; nothing else
    changes.
    """
    home = page.address == site.address + "/"
    title = shown_title(page.title, site.name, home=home)
    head = [
        '<meta charset="utf-8">',
        '<meta name="viewport" content="width=device-width, initial-scale=1">',
        f"<title>{escape(title)}</title>",
        f'<meta name="description"{attribute("content", page.description)}>' if page.description else "",
        f'<link rel="canonical"{attribute("href", page.address)}>' if page.indexable and not sheet else "",
        "" if page.indexable and not sheet else '<meta name="robots" content="noindex">',
        f'<link rel="icon" type="image/svg+xml"{attribute("href", icon)}>',
        *(f'<link rel="stylesheet"{attribute("href", address)}>' for address in stylesheets),
    ]
    before = [
        "<!doctype html>",
        f"<html{attribute('lang', site.language)}{attribute('data-theme', site.theme)}>",
        "<head>",
        *head,
        "</head>",
        "<body>",
        '<a class="skip" href="#main">Skip to the text</a>',
        _header(site),
        f'<main id="main" class="page"{attribute("tabindex", -1)}>',
        _trail(page.trail),
        f'<h1 class="title">{escape(page.title)}</h1>',
        '<div class="regions">',
    ]
    after = [
        "</div>",
        "</main>",
        _below(page),
        f'<footer class="site-foot"><p>{escape(site.footer)}</p></footer>' if site.footer else "",
        "</body>",
        "</html>\n",
    ]
    return _lines(before), _lines(after)


def _lines(parts: Sequence[str]) -> str:
    return "\n".join(part for part in parts if part)


def _link(link: Link, current: str) -> str:
    mark = attribute("aria-current", current) if link.current else ""
    return f"<li><a{attribute('href', link.address)}{mark}>{escape(link.title)}</a></li>"


def _header(site: Site) -> str:
    links = "".join(_link(link, "true") for link in site.navigation)
    navigation = f'<nav class="site-nav" aria-label="Main"><ul>{links}</ul></nav>' if links else ""
    return (
        '<header class="site-head"><div class="site-head-inside">'
        f'<a class="site-name" href="/">{escape(site.name)}</a>{navigation}</div></header>'
    )


def _trail(trail: Sequence[Link]) -> str:
    if not trail:
        return ""
    links = "".join(_link(link, "true") for link in trail)
    return f'<nav class="trail" aria-label="You are here"><ol>{links}</ol></nav>'


def _below(page: PageParts) -> str:
    if not page.below:
        return ""
    links = "".join(_link(link, "page") for link in page.below)
    heading = f"More in {page.title}"
    return f'<nav class="below"{attribute("aria-label", heading)}><p>{escape(heading)}</p><ul>{links}</ul></nav>'
