"""What a site tells machines: its sitemap (sitemaps.org 0.9, with images), its feed of what is new (Atom, RFC 4287),
and what may be looked through (robots.txt, RFC 9309)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from html import escape
from urllib.parse import quote

MOST = 50_000
"""The most addresses of one sitemap, as sitemaps.org has it."""
MOST_IMAGES = 1000
"""The most images that a sitemap names of one page."""
SITEMAP = "http://www.sitemaps.org/schemas/sitemap/0.9"
IMAGES = "http://www.google.com/schemas/sitemap-image/1.1"
"""The namespace of images in sitemaps, which all search engines that read them share."""
ATOM = "http://www.w3.org/2005/Atom"
_DECLARED = '<?xml version="1.0" encoding="UTF-8"?>\n'


@dataclass(frozen=True)
class Address:
    """A page in a sitemap: its whole address, when it was published, and the whole addresses of its images."""

    address: str
    changed: datetime
    images: tuple[str, ...] = ()


@dataclass(frozen=True)
class Entry:
    """A page in a feed. ``identity`` stays the same wherever the page goes (RFC 4287, 4.2.6)."""

    identity: str
    title: str
    address: str
    summary: str
    first: datetime
    changed: datetime
    author: str


def robots_txt(origin: str, hidden: Iterable[str] = ("/preview/", "/search")) -> str:
    """What may be looked through: all but these paths. Where the sitemap is."""
    lines = ["User-agent: *", *(f"Disallow: {path}" for path in hidden), "", f"Sitemap: {origin}/sitemap.xml", ""]
    return "\n".join(lines)


def written_address(address: str) -> str:
    """An address as it goes over the wire: what is not ASCII is percent-encoded (RFC 3986, 2.1)."""
    return quote(address, safe="/:?#[]@!$&'()*+,;=-._~%")


def sitemap(addresses: Iterable[Address]) -> Iterator[str]:
    """A sitemap in pieces; give it at most `MOST` addresses."""
    yield f'{_DECLARED}<urlset xmlns="{SITEMAP}" xmlns:image="{IMAGES}">\n'
    for each in addresses:
        images = "".join(
            f"<image:image><image:loc>{_said(written_address(image))}</image:loc></image:image>"
            for image in each.images[:MOST_IMAGES]
        )
        where = _said(written_address(each.address))
        yield f"<url><loc>{where}</loc><lastmod>{_moment(each.changed)}</lastmod>{images}</url>\n"
    yield "</urlset>\n"


def sitemap_index(parts: Iterable[str]) -> str:
    """The list of a site's sitemaps, by their whole addresses."""
    inside = "".join(f"<sitemap><loc>{_said(part)}</loc></sitemap>\n" for part in parts)
    return f'{_DECLARED}<sitemapindex xmlns="{SITEMAP}">\n{inside}</sitemapindex>\n'


@dataclass(frozen=True)
class Source:
    """Whose feed it is: a site with its name, its origin and its language, and the feed's own path."""

    name: str
    origin: str
    path: str
    language: str


def feed(of: Source, entries: Iterable[Entry], now: datetime) -> str:
    """The feed of a site. ``now`` stands for when it changed while it has no entry."""
    listed = list(entries)
    changed = max((each.changed for each in listed), default=now)
    head = [
        f"<title>{_said(of.name)}</title>",
        f"<id>{_said(of.origin)}/</id>",
        f'<link rel="self" type="application/atom+xml" href="{_said(of.origin + of.path)}"/>',
        f'<link rel="alternate" type="text/html" href="{_said(of.origin)}/"/>',
        f"<updated>{_moment(changed)}</updated>",
    ]
    inside = "\n".join([*head, *map(_entry, listed)])
    return f'{_DECLARED}<feed xmlns="{ATOM}" xml:lang="{_said(of.language)}">\n{inside}\n</feed>\n'


def _entry(each: Entry) -> str:
    summary = f"<summary>{_said(each.summary)}</summary>" if each.summary else ""
    return (
        f"<entry><title>{_said(each.title)}</title><id>{_said(each.identity)}</id>"
        f'<link rel="alternate" type="text/html" href="{_said(written_address(each.address))}"/>'
        f"<published>{_moment(each.first)}</published><updated>{_moment(each.changed)}</updated>"
        f"<author><name>{_said(each.author)}</name></author>{summary}</entry>"
    )


def _moment(at: datetime) -> str:
    """A moment by RFC 3339, to the second."""
    return at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


def _said(text: str) -> str:
    return escape("".join(sign for sign in text if sign >= " " or sign in "\t\n"))
