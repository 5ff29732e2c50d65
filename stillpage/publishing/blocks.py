"""Blocks by themselves, as readers get them: what the sheet shows of kinds that it does not draw itself."""

from __future__ import annotations

from stillpage.computing import computing
from stillpage.library.animations import colour_at_once
from stillpage.library.models import Item
from stillpage.pages.seeing import Sight
from stillpage.sites.models import Site
from stillpage.sites.themes import theme_of
from stillpage_core.document import Node
from stillpage_core.document.naming import framings_in
from stillpage_core.writing.html import published_blocks

from .rendering import module
from .resolving import resolver_for


def blocks_of(document: Node, site: Site, *, sight: Sight, makes: bool) -> list[tuple[str, list[str]]]:
    """The blocks of a document, each with the addresses of its scripts; in a few queries, whatever their number. Who
    ``makes`` what is on the page has files made that it needs at once: animations in other colours."""
    framings = framings_in(document) if makes else {}
    for item in sight.items(Item.objects.filter(pk__in=framings, kind=Item.Kind.ANIMATION)):
        colour_at_once(item, framings[item.pk])
    resolver = resolver_for([document], site.origin, site, sight=sight, checks=False)
    with computing():
        made = published_blocks(document, resolver, theme_of(site.theme).rooms, module, site.language)
    return [(html, [module(name) for name in scripts]) for html, scripts in made]
