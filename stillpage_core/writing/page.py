"""A whole public page: the document within its site's frame.

The sheet is this same page with an empty text, which the editor fills; so the two cannot differ.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass, field
from html import escape

from ..sites.search_result import shown_title
from .html import attribute


@dataclass(frozen=True)
class Link:
    """An entry of the navigation. ``current`` marks the page itself, or one that it stands under; ``below`` are the
    entries under it, where the theme shows two levels."""

    title: str
    address: str
    current: bool = False
    below: tuple[Link, ...] = ()


@dataclass(frozen=True)
class CardImage:
    """The picture of a shared card: its whole address, its size in pixels, and its alt text."""

    address: str
    width: int
    height: int
    alt: str = ""


@dataclass(frozen=True)
class Site:
    """What all pages of a site share. ``navigation`` is the bar at the top; ``address`` is the site's origin; ``feed``
    is the path of its Atom feed, "" where there is none."""

    name: str
    address: str
    language: str
    theme: str
    navigation: tuple[Link, ...] = ()
    footer: str = ""
    feed: str = ""


@dataclass(frozen=True)
class PageParts:
    """What one page adds. ``text`` is HTML as `published_html` gives it; the rest is plain text.

    ``trail`` leads from the site's first page to the one above this one; ``below`` are the pages under it.
    ``search_title`` is what the page is called in search results and shared cards, "" as its title is; ``image`` stands
    for it in such cards. Of a page that is not ``indexable`` machines are told nothing.
    """

    title: str
    description: str
    address: str
    text: str = ""
    trail: tuple[Link, ...] = ()
    below: tuple[Link, ...] = ()
    indexable: bool = field(default=True)
    search_title: str = ""
    image: CardImage | None = None


@dataclass(frozen=True)
class ThemeFiles:
    """The addresses of what a page loads of its theme: stylesheets, an icon (SVG), and the fonts (WOFF2) that all pages
    need, which are asked for before the stylesheet has been read."""

    stylesheets: tuple[str, ...] = ()
    icon: str = "/icon.svg"
    fonts: tuple[str, ...] = ()


def render_page(site: Site, page: PageParts, theme: ThemeFiles, *, sheet: bool = False) -> str:
    """The page as a complete HTML document; for the arguments see `render_around`."""
    before, after = render_around(site, page, theme, sheet=sheet)
    return before + page.text + after


def render_around(site: Site, page: PageParts, theme: ThemeFiles, *, sheet: bool = False) -> tuple[str, str]:
    """What stands in the page's HTML before its text, and what after it; ``page.text`` is not looked at.

    With ``sheet`` the title and the text can be written in and the page is kept out of search engines; nothing else
    changes.
    """
    home = page.address == site.address + "/"
    title = shown_title(page.search_title or page.title, site.name, home=home)
    told = page.indexable and not sheet
    leads_here = f'<link rel="canonical"{attribute("href", page.address)}>'
    head = [
        '<meta charset="utf-8">',
        '<meta name="viewport" content="width=device-width, initial-scale=1">',
        f"<title>{escape(title)}</title>",
        f'<meta name="description"{attribute("content", page.description)}>' if page.description else "",
        leads_here if told else '<meta name="robots" content="noindex">',
        *(_for_machines(site, page, home=home) if told else ()),
        f'<link rel="icon" type="image/svg+xml"{attribute("href", theme.icon)}>',
        *(
            f'<link rel="preload" as="font" type="font/woff2" crossorigin{attribute("href", address)}>'
            for address in theme.fonts
        ),
        *(f'<link rel="stylesheet"{attribute("href", address)}>' for address in theme.stylesheets),
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


def _for_machines(site: Site, page: PageParts, *, home: bool) -> list[str]:
    """What search engines, feed readers and networks read of a page: its card (Open Graph), the way to it (schema.org's
    BreadcrumbList as JSON-LD) and the site's feed."""
    card = {
        "og:type": "website" if home else "article",
        "og:site_name": site.name,
        "og:title": page.search_title or page.title,
        "og:description": page.description,
        "og:url": page.address,
        "og:locale": site.language.replace("-", "_"),
    }
    if image := page.image:
        card |= {
            "og:image": image.address,
            "og:image:width": str(image.width),
            "og:image:height": str(image.height),
            "og:image:alt": image.alt,
        }
    lines = [
        f"<meta{attribute('property', name)}{attribute('content', value)}>" for name, value in card.items() if value
    ]
    if page.trail:
        lines.append(f'<script type="application/ld+json">{_breadcrumb(site, page)}</script>')
    if site.feed:
        lines.append(f'<link rel="alternate" type="application/atom+xml"{attribute("href", site.feed)}>')
    return lines


def _breadcrumb(site: Site, page: PageParts) -> str:
    """The way to a page as schema.org has it; nothing in it can end the element that it stands in."""
    way = [*((each.title, site.address + each.address) for each in page.trail), (page.title, page.address)]
    steps = [
        {"@type": "ListItem", "position": place, "name": name, "item": address}
        for place, (name, address) in enumerate(way, 1)
    ]
    said = json.dumps(
        {"@context": "https://schema.org", "@type": "BreadcrumbList", "itemListElement": steps}, ensure_ascii=False
    )
    return said.replace("<", "\\u003c").replace(">", "\\u003e").replace("&", "\\u0026")


def _link(link: Link, current: str) -> str:
    mark = attribute("aria-current", current) if link.current else ""
    below = _folded(link) if link.below else ""
    return f"<li><a{attribute('href', link.address)}{mark}>{escape(link.title)}</a>{below}</li>"


def _folded(link: Link) -> str:
    """The second level of the navigation: folded, and unfolded by a press or by keys, without a script."""
    inside = "".join(_link(each, "page") for each in link.below)
    name = f"More in {link.title}"
    return (
        f'<details class="nav-below"><summary{attribute("aria-label", name)}></summary>'
        f"<ul{attribute('aria-label', name)}>{inside}</ul></details>"
    )


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
